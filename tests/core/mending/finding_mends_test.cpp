// What is offered against a finding was carried out and run: the finding is gone, the machine still runs, and what else
// it brings is said.

#include "core/checks/check.h"
#include "core/edit/circuit_edits.h"
#include "core/edit/device_edits.h"
#include "core/edit/wiring_edits.h"
#include "core/exploration/trials.h"
#include "core/library/registry.h"
#include "core/library/table.h"
#include "core/mending/finding_mends.h"
#include "core/patterns/advice.h"
#include "core/patterns/machine.h"
#include "core/record/record.h"
#include "core/results/study_ids.h"
#include "core/sizing/sizing.h"
#include "core/studies/working_out.h"
#include "tests/support/circuits.h"

#include <algorithm>

namespace ts::mending {
namespace {

DossierFile starter(const std::vector<std::string>& choices = {})
{
    return *patterns::machine(*patterns::advised(choices));
}

DossierFile changed(const DossierFile& file, const char* tag, const char* name, const char* value)
{
    auto after = edit::withValue(file, file.dossier.circuit.device(tag)->id, name, value);
    EXPECT_TRUE(after) << tag << " " << name;
    return *after;
}

std::vector<Finding> findingsIn(const Dossier& d, std::string_view study)
{
    Results results;
    WorkOptions options;
    options.only = {study, kScenarios.id};
    EXPECT_TRUE(workOut(d, options, results));
    return checked(d, results).findings;
}

std::optional<Finding> findingOf(const DossierFile& file, std::string_view study, const std::string& what)
{
    for (const Finding& f : findingsIn(file.dossier, study))
        if (f.what.id == what)
            return f;
    ADD_FAILURE() << what;
    return std::nullopt;
}

/// Whether one of the mends is this value.
bool offers(const FindingMends& mends, const std::string& tag, const std::string& value)
{
    return std::any_of(mends.list.begin(), mends.list.end(), [&](const FindingMend& m) {
        return m.what.id == "mending.value" && std::get<std::string>(m.what.arguments[0]) == tag
            && std::get<std::string>(m.what.arguments[2]) == value;
    });
}

/// Each of them, done again: the finding is gone, no scenario is worse, and what it brings is what is there then.
void hold(const DossierFile& file, const Finding& finding, std::string_view study, const FindingMends& mends)
{
    const auto before = findingsIn(file.dossier, study);
    for (const FindingMend& m : mends.list) {
        const auto after = m.carriedOut(file);
        ASSERT_TRUE(after);
        std::size_t brought = 0;
        for (const Finding& f : findingsIn(after->dossier, study)) {
            const Check* check = checkNamed(f.id);
            if (!check || (check->needs != study && check->needs != kScenarios.id))
                continue;
            EXPECT_NE(record::keyOf(f), record::keyOf(finding));
            const bool isNew = std::none_of(
                before.begin(), before.end(), [&f](const Finding& b) { return record::keyOf(b) == record::keyOf(f); });
            brought += isNew;
            EXPECT_FALSE(isNew && f.severity == Severity::Stop) << f.what.id;
            EXPECT_FALSE(isNew && check->needs == kScenarios.id) << f.what.id;
        }
        EXPECT_EQ(brought, m.brings.size());
        EXPECT_GE(m.takes, 1u);
    }
}

TEST(SizeMends, AnotherFuseOrSupply)
{
    const DossierFile file = changed(starter(), "F5", "rated_current_a", "6");
    const auto finding = findingOf(file, kSizing.id, "sizing.dc.far_short");
    ASSERT_TRUE(finding);
    const auto mends = mendsOf(file, *finding);
    ASSERT_TRUE(mends);
    EXPECT_TRUE(offers(*mends, "F5", "4")) << "18.5 A are there";
    EXPECT_FALSE(offers(*mends, "F5", "10"));
    EXPECT_GT(mends->tried, mends->list.size());
    hold(file, *finding, kSizing.id, *mends);
    EXPECT_TRUE(std::is_sorted(mends->list.begin(), mends->list.end(),
        [](const FindingMend& a, const FindingMend& b) { return a.brings.size() < b.brings.size(); }));
}

struct OneValue {
    const char *tag, *parameter, *wrong, *finding, *right;
};
class AnotherValue : public ::testing::TestWithParam<OneValue> { };

TEST_P(AnotherValue, IsEnough)
{
    const OneValue& v = GetParam();
    const DossierFile file = changed(starter(), v.tag, v.parameter, v.wrong);
    const auto finding = findingOf(file, kSizing.id, v.finding);
    ASSERT_TRUE(finding);
    const auto mends = mendsOf(file, *finding);
    ASSERT_TRUE(mends);
    EXPECT_TRUE(offers(*mends, v.tag, v.right));
    hold(file, *finding, kSizing.id, *mends);
}

INSTANTIATE_TEST_SUITE_P(SizeMends, AnotherValue,
    ::testing::Values(OneValue{"Q1", "rated_current_ac3_a", "9", "sizing.contactor.current", "18"},
        OneValue{"F2", "setting_a", "14", "sizing.overload.setting", "11"}));

/// The program's own parts, one size up, with the same coil: what its sheet says takes the place of what was written.
TEST(SizeMends, APartOfTheProgram)
{
    const DossierFile file = changed(starter(), "Q1", "rated_current_ac3_a", "9");
    const auto finding = findingOf(file, kSizing.id, "sizing.contactor.current");
    ASSERT_TRUE(finding);
    const auto mends = mendsOf(file, *finding);
    ASSERT_TRUE(mends);
    const auto part = std::find_if(mends->list.begin(), mends->list.end(), [](const FindingMend& m) {
        return m.what.id == "mending.sample_part" && std::get<std::string>(m.what.arguments[1]) == "LKZ-C12-24";
    });
    ASSERT_NE(part, mends->list.end());
    const auto after = part->carriedOut(file);
    ASSERT_TRUE(after);
    const Circuit& c = after->dossier.circuit;
    EXPECT_EQ(c.device("Q1")->part, "LKZ-C12-24");
    EXPECT_TRUE(c.part("LKZ-C12-24"));
    EXPECT_DOUBLE_EQ(parametersOf(c, *c.device("Q1"))->number("rated_current_ac3_a"), 12);
    for (const FindingMend& m : mends->list)
        if (m.what.id == "mending.sample_part")
            EXPECT_FALSE(std::get<std::string>(m.what.arguments[1]).ends_with("-230")) << "that is another coil";
}

/// Every part of the program's list can be taken: its parameters are those of its kind, within their ranges.
TEST(SizeMends, TheProgramsPartsCanBeTaken)
{
    const Table& t = switchgearTable();
    EXPECT_GT(t.rowCount(), 100u);
    for (std::size_t row = 0; row < t.rowCount(); ++row) {
        const DeviceKind* kind = deviceKind(t.cell(row, "kind"));
        ASSERT_TRUE(kind) << t.cell(row, "id");
        const auto p = parametersFromText(kind->parameters, t.cell(row, "parameters"));
        ASSERT_TRUE(p) << t.cell(row, "id") << " " << p.error().message.id;
        const auto whole = Parameters::resolve(kind->parameters, nullptr, *p, t.cell(row, "id"));
        EXPECT_TRUE(whole) << t.cell(row, "id") << " " << whole.error().message.id;
    }
}

/// A magnet that must hold hangs behind the emergency stop: to write that nothing is dangerous about it mends nothing.
TEST(WiringMends, DoNotDeclareAHazardAway)
{
    DossierFile file = starter();
    Device magnet;
    magnet.tag = "Y2";
    magnet.kind = "solenoid";
    magnet.parameters = {{"coil_voltage_v", 24.0}, {"coil_current", std::string("dc")}, {"coil_power_w", 12.0},
        {"acts_in_s", 0.05}, {"rests_in_s", 0.05}, {"hazard_when", std::string("let_go")}};
    file = *edit::withDevice(file, magnet);
    for (const auto& [a, b] : {std::pair{"Q1:A1", "Y2:A1"}, {"Y2:A2", "G1:-"}})
        file = *edit::withWire(file, a, b, {});
    const auto finding = findingOf(file, kDirected.id, "finding.held.released");
    ASSERT_TRUE(finding);
    const auto mends = mendsOf(file, *finding);
    ASSERT_TRUE(mends);
    for (const FindingMend& m : mends->list) {
        const auto after = m.carriedOut(file);
        ASSERT_TRUE(after);
        const Circuit& c = after->dossier.circuit;
        EXPECT_EQ(parametersOf(c, *c.device("Y2"))->word("hazard_when"), "let_go");
    }
}

/// Three lines between the same two parts are one choice.
TEST(SizeMends, LargerWires)
{
    DossierFile file = starter();
    const DeviceId fuse = file.dossier.circuit.device("F1")->id;
    for (Wire& w : file.dossier.circuit.wires)
        if (w.from.device == fuse)
            w.areaMm2 = 1.0;
    const auto finding = findingOf(file, kSizing.id, "sizing.wire.ampacity");
    ASSERT_TRUE(finding);
    const auto mends = mendsOf(file, *finding);
    ASSERT_TRUE(mends);
    const auto larger = std::find_if(
        mends->list.begin(), mends->list.end(), [](const FindingMend& m) { return m.what.id == "mending.section"; });
    ASSERT_NE(larger, mends->list.end());
    EXPECT_EQ(std::get<long long>(larger->what.arguments[0]), 3);
    EXPECT_EQ(std::get<Measured>(larger->what.arguments[1]).si, 1.5) << "the next one is enough";
    EXPECT_EQ(larger->takes, 3u) << "one finding a line";
    hold(file, *finding, kSizing.id, *mends);
}

/// Whatever is meant with the devices of a finding, run; nothing that only stops the machine from running is offered.
TEST(WiringMends, HoldWhatTheySay)
{
    for (const auto& [choices, what] :
        {std::pair{std::vector<std::string>{"hold=ahead_of_stop"}, "finding.trial.overload_kept"},
            {std::vector<std::string>{"lamps=iec", "overload=return_side"}, "finding.trial.earth_kept"}}) {
        const DossierFile file = *patterns::machine(*patterns::MachinePlan::from(choices));
        const auto finding = findingOf(file, kTrials.id, what);
        ASSERT_TRUE(finding);
        const auto mends = mendsOf(file, *finding);
        ASSERT_TRUE(mends) << mends.error().message.id;
        EXPECT_GT(mends->tried, 0u);
        hold(file, *finding, kTrials.id, *mends);
    }
}

/// Without scenarios, too, what only keeps the machine from running, or a size from being judged, is not offered.
TEST(Mends, AreNoneThatOnlyKeepItFromBeingSeen)
{
    DossierFile file = *patterns::machine(*patterns::MachinePlan::from(std::vector<std::string>{"hold=ahead_of_stop"}));
    file.dossier.scenarios.clear();
    const auto runs = [](const Dossier& d) {
        Results results;
        WorkOptions options;
        options.only = {kTrials.id};
        EXPECT_TRUE(workOut(d, options, results));
        return results.find(kTrials)->states;
    };
    const auto finding = findingOf(file, kTrials.id, "finding.trial.overload_kept");
    ASSERT_TRUE(finding);
    const auto mends = mendsOf(file, *finding);
    ASSERT_TRUE(mends);
    for (const FindingMend& m : mends->list)
        EXPECT_GE(runs(m.carriedOut(file)->dossier), runs(file.dossier));
    DossierFile small = changed(starter(), "Q1", "rated_current_ac3_a", "9");
    small.dossier.scenarios.clear();
    const auto size = findingOf(small, kSizing.id, "sizing.contactor.current");
    ASSERT_TRUE(size);
    const auto sizes = mendsOf(small, *size);
    ASSERT_TRUE(sizes);
    EXPECT_TRUE(offers(*sizes, "Q1", "18"));
    for (const FindingMend& m : sizes->list)
        EXPECT_LE(sizing::sizesOf(m.carriedOut(small)->dossier)->notJudged.size(),
            sizing::sizesOf(small.dossier)->notJudged.size());
}

/// A lamp of a colour that says something else.
TEST(WiringMends, AnotherColour)
{
    const DossierFile file = changed(starter({"lamps=iec"}), "P1", "colour", "red");
    const auto finding = findingOf(file, kTrials.id, "finding.colour");
    ASSERT_TRUE(finding);
    const auto mends = mendsOf(file, *finding);
    ASSERT_TRUE(mends);
    EXPECT_FALSE(mends->list.empty());
    EXPECT_FALSE(offers(*mends, "P1", "red"));
    hold(file, *finding, kTrials.id, *mends);
}

TEST(Mends, AreRefusedWhereNothingCanBeRun)
{
    Finding level;
    level.id = "level";
    EXPECT_EQ(mendsOf(starter(), level).error().message.id, "mending.no_run");
    Finding made;
    made.id = "made_up";
    EXPECT_EQ(mendsOf(starter(), made).error().message.id, "mending.no_run");
}

TEST(Mends, CanBeCancelledAndTellHowFarTheyAre)
{
    const DossierFile file = changed(starter(), "Q1", "rated_current_ac3_a", "9");
    const auto finding = findingOf(file, kSizing.id, "sizing.contactor.current");
    std::stop_source stop;
    std::size_t last = 0;
    const auto cancelled = mendsOf(
        file, *finding,
        [&](std::size_t done, std::size_t total) {
            last = total;
            if (done >= 1)
                stop.request_stop();
        },
        stop.get_token());
    ASSERT_FALSE(cancelled);
    EXPECT_EQ(cancelled.error().code, ErrorCode::Cancelled);
    EXPECT_GT(last, 1u);
}

} // namespace
} // namespace ts::mending
