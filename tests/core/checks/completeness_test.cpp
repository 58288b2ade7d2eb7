// What is not there: a motor without a stop, an emergency stop that is nobody's, a start that nobody gave. Once all of
// it came out as "0 findings".

#include "core/checks/check.h"
#include "core/io/dossier_file.h"
#include "core/patterns/machine.h"
#include "core/studies/working_out.h"
#include "tests/support/circuits.h"

#include <algorithm>

namespace ts {
namespace {

std::vector<Finding> findingsOf(const Dossier& d)
{
    Results results;
    EXPECT_TRUE(workOut(d, {.only = {kLevels.id, kDirected.id, kChecks.id}}, results));
    const auto checked = results.find(kChecks);
    return checked ? checked->findings : std::vector<Finding>{};
}

const Finding* found(const std::vector<Finding>& findings, std::string_view what, std::string_view tag)
{
    const auto it = std::find_if(findings.begin(), findings.end(), [&](const Finding& f) {
        return f.what.id == what && std::find(f.devices.begin(), f.devices.end(), tag) != f.devices.end();
    });
    return it == findings.end() ? nullptr : &*it;
}

Dossier debarker()
{
    return io::loadDossier(test::sourcePath("data/demo/larkspur_db2.sentry"))->dossier;
}

Dossier pattern(std::vector<std::string> choices)
{
    return patterns::machine(*patterns::MachinePlan::from(choices))->dossier;
}

TEST(Completeness, TheDemoHasNotesOnly)
{
    for (const Finding& f : findingsOf(debarker()))
        EXPECT_EQ(f.severity, Severity::Note) << f.what.id;
}

/// With, without and nearly: said to be unknown, known, and known to be other than its number says.
TEST(Completeness, AContactThatNobodyKnowsForbidsOperation)
{
    const auto with = [](const char* contact) {
        Dossier d = debarker();
        for (Device& device : d.circuit.devices)
            if (device.tag == "S1")
                device.parameters["contacts"] = std::vector<std::string>{contact};
        return findingsOf(d);
    };
    const auto findings = with("11-12/unknown");
    const Finding* unknown = found(findings, "finding.contact.unknown", "S1");
    ASSERT_NE(unknown, nullptr);
    EXPECT_EQ(unknown->severity, Severity::Stop);
    EXPECT_EQ(found(with("11-12"), "finding.contact.unknown", "S1"), nullptr);
    EXPECT_EQ(found(with("11-12/opens"), "finding.contact.unknown", "S1"), nullptr);
}

/// What is chosen well runs as its scenarios say, and no motor stays on two lines.
/// A relay of a part with two change-over contacts, drawn with a third; an add-on block could give a contactor more.
TEST(Completeness, AContactThatThePartHasNot)
{
    const auto with = [](const char* kind, const char* list, std::vector<std::string> contacts) {
        Dossier d = debarker();
        d.circuit.parts.push_back({"X-1", "X", kind,
            {{"coil_voltage_v", 24.0}, {"coil_current", std::string("dc")},
                {list, std::vector<std::string>{"11-12-14", "21-22-24"}}},
            {}});
        Device relay;
        relay.id = {9001};
        relay.tag = "K90";
        relay.kind = kind;
        relay.part = "X-1";
        relay.parameters = {{list, std::move(contacts)}};
        d.circuit.devices.push_back(relay);
        return findingsOf(d);
    };
    const char* kind = "plug_in_relay";
    const auto findings = with(kind, "contacts", {"11-12-14", "21-22-24", "31-32-34"});
    const Finding* more = found(findings, "finding.contact.not_on_part", "K90");
    ASSERT_NE(more, nullptr);
    EXPECT_EQ(more->severity, Severity::Fix);
    EXPECT_EQ(more->what.arguments[1], Argument(std::string("31-32-34")));
    EXPECT_EQ(found(with(kind, "contacts", {"11-12-14"}), "finding.contact.not_on_part", "K90"), nullptr)
        << "fewer are drawn than there are";
    EXPECT_EQ(
        found(with("contactor_relay", "auxiliary_contacts", {"11-12", "51-52"}), "finding.contact.not_on_part", "K90"),
        nullptr)
        << "a block may bring it";
}

TEST(Completeness, AnExclusionWithoutAReason)
{
    Dossier d = debarker();
    ASSERT_FALSE(d.exclusions.empty());
    const auto isSaid = [](const Dossier& of) {
        const auto findings = findingsOf(of);
        return std::any_of(findings.begin(), findings.end(),
            [](const Finding& f) { return f.what.id == "finding.exclusion.no_reason"; });
    };
    EXPECT_FALSE(isSaid(d));
    d.exclusions.front().reason = "  ";
    EXPECT_TRUE(isSaid(d));
}

/// A line lost and two exchanged are to be decided about in a panel that was typed in; what is made from choices says
/// what watches.
TEST(Completeness, WhatLostLinesDoIsDecided)
{
    const auto open = [](Dossier d) {
        Results results;
        EXPECT_TRUE(workOut(d, {.only = {kTrials.id, kChecks.id}}, results));
        const auto& all = results.find(kChecks)->findings;
        return std::any_of(all.begin(), all.end(), [](const Finding& f) { return f.id == "unwatched"; });
    };
    Dossier made = pattern({"monitor=none"});
    EXPECT_FALSE(open(made));
    made.machine.plan = {};
    EXPECT_TRUE(open(made));
    Dossier watched = pattern({"monitor=voltage"});
    watched.machine.plan = {};
    EXPECT_FALSE(open(watched));
}

TEST(Completeness, WellChosenStartersHaveNothingAgainstTheirScenariosAndLines)
{
    using Texts = std::vector<std::string>;
    for (const Texts& choices : {Texts{}, Texts{"base=reversing"}, Texts{"stop=two_channel_relay", "guard=yes"},
             Texts{"monitor=current_in_line"}, Texts{"monitor=three_transformers"}}) {
        Results results;
        ASSERT_TRUE(workOut(pattern(choices), {.only = {kScenarios.id, kDirected.id, kChecks.id}}, results));
        for (const Finding& f : results.find(kChecks)->findings)
            EXPECT_TRUE(f.id != "scenarios" && f.id != "lines")
                << (choices.empty() ? "as offered" : choices.front()) << ": " << f.what.id;
    }
}

/// And what is chosen badly says so in the check, without anybody exploring it.
TEST(Completeness, BadlyChosenStartersSayItInTheCheck)
{
    using Texts = std::vector<std::string>;
    const auto ids = [](const Texts& choices) {
        Results results;
        EXPECT_TRUE(workOut(pattern(choices), {.only = {kScenarios.id, kDirected.id, kChecks.id}}, results));
        std::string all;
        for (const Finding& f : results.find(kChecks)->findings)
            all += f.id + " ";
        return all;
    };
    EXPECT_NE(ids({"monitor=two_transformers"}).find("scenarios"), std::string::npos);
    EXPECT_NE(ids({"monitor=two_transformers"}).find("lines"), std::string::npos);
    EXPECT_NE(ids({"monitor=voltage", "monitor_contact=signal_only"}).find("lines"), std::string::npos);
    EXPECT_NE(ids({"monitor=voltage", "tap=motor_side", "monitor_contact=hold"}).find("lines"), std::string::npos);
    EXPECT_NE(ids({"monitor=three_relays"}).find("scenarios"), std::string::npos) << "the motor itself keeps them in";
    EXPECT_NE(ids({"operation=hand_off_auto"}).find("starts"), std::string::npos) << "the selector stands at hand";
    EXPECT_NE(ids({"hold=ahead_of_stop"}).find("protective_devices"), std::string::npos);
}

TEST(Completeness, ADossierWithoutFunctionsIsNotInOrder)
{
    Dossier d = debarker();
    d.functions.clear();
    const auto findings = findingsOf(d);
    for (const char* motor : {"M1", "M2", "M3"}) {
        const Finding* f = found(findings, "finding.motor.no_function", motor);
        ASSERT_TRUE(f) << motor;
        EXPECT_EQ(f->severity, Severity::Stop);
    }
    for (const char* device : {"S0", "S10", "S20", "B2"})
        EXPECT_TRUE(found(findings, "finding.device.no_function", device)) << device;
}

/// A button that springs back is no emergency stop, and a machine without any has to be thought about.
TEST(Completeness, EmergencyStopsAreThereAndLatch)
{
    Dossier d = debarker();
    EXPECT_EQ(found(findingsOf(d), "finding.estop.unlatched", "S0"), nullptr);
    for (Device& device : d.circuit.devices)
        if (device.tag == "S0") {
            const auto contacts = device.parameters.at("contacts");
            device.kind = "push_button";
            device.part.clear();
            device.parameters = {{"contacts", contacts}};
        }
    const auto findings = findingsOf(d);
    const Finding* f = found(findings, "finding.estop.unlatched", "S0");
    ASSERT_TRUE(f);
    EXPECT_EQ(f->severity, Severity::Stop);

    Dossier bare = pattern({});
    std::erase_if(bare.circuit.devices, [](const Device& x) { return x.kind == "emergency_stop"; });
    bare.functions.clear();
    std::erase_if(bare.circuit.wires,
        [&](const Wire& w) { return !bare.circuit.device(w.from.device) || !bare.circuit.device(w.to.device); });
    EXPECT_TRUE(found(findingsOf(bare), "finding.estop.none", "M1"));
    EXPECT_FALSE(found(findingsOf(pattern({})), "finding.estop.none", "M1"));
}

/// A bolt that holds it while anything runs: it cannot demand a stop. That the bolt holds is judged by nobody.
TEST(Completeness, AGuardThatStaysLockedIsANoteOfItsOwn)
{
    const auto findings = findingsOf(pattern({"guard=locked", "stop=two_channel_relay"}));
    const Finding* f = found(findings, "finding.device.locked", "B2");
    ASSERT_TRUE(f);
    EXPECT_EQ(f->severity, Severity::Note);
    for (const char* other : {"finding.device.no_function", "finding.device.untried", "finding.device.does_not_stop"})
        EXPECT_FALSE(found(findings, other, "B2")) << other;
    EXPECT_FALSE(found(findingsOf(pattern({"guard=yes", "stop=two_channel_relay"})), "finding.device.locked", "B2"));
}

TEST(Completeness, AnEmergencyStopThatIsNobodysTrigger)
{
    Dossier d = debarker();
    d.functions.front().alsoBy.pop_back();
    const auto findings = findingsOf(d);
    EXPECT_TRUE(found(findings, "finding.device.no_function", "S20"));
    EXPECT_FALSE(found(findings, "finding.device.no_function", "S10"));
}

TEST(Completeness, ADeadEmergencyStopForbidsOperation)
{
    const auto findings = findingsOf(pattern({"base=reversing", "hold=ahead_of_stop"}));
    EXPECT_TRUE(found(findings, "finding.motor.no_function", "M1"));
    EXPECT_TRUE(found(findings, "finding.device.outside_span", "S0")) << "no function names the motor";
    Dossier claimed = pattern({"base=reversing", "hold=ahead_of_stop"});
    SafetyFunction f;
    f.id = {900};
    f.name = "Emergency stop";
    f.trigger = {claimed.circuit.device("S0")->id, "press"};
    f.mustRest = {claimed.circuit.device("M1")->id};
    claimed.functions = {f};
    const auto dead = findingsOf(claimed);
    const Finding* goesOn = found(dead, "finding.device.does_not_stop", "S0");
    ASSERT_TRUE(goesOn);
    EXPECT_EQ(goesOn->severity, Severity::Stop);
    EXPECT_EQ(goesOn->evidence.id, "evidence.start");
}

TEST(Completeness, WiresThatAreLaidNowhereAreSaid)
{
    Dossier d = debarker();
    EXPECT_TRUE(std::none_of(d.circuit.wires.begin(), d.circuit.wires.end(), [](const Wire& w) { return !w.route; }));
    d.circuit.wires[3].route = {};
    const auto findings = findingsOf(d);
    EXPECT_TRUE(std::any_of(findings.begin(), findings.end(),
        [](const Finding& f) { return f.what.id == "finding.wire.nowhere" && f.severity == Severity::Fix; }));
}

TEST(Starts, ASelectorStartsWhenTheEmergencyStopIsUnlatched)
{
    const auto findings = findingsOf(pattern({"operation=hand_off_auto"}));
    const Finding* f = found(findings, "finding.start.return", "S0");
    ASSERT_TRUE(f);
    EXPECT_EQ(f->severity, Severity::Stop);
    EXPECT_FALSE(found(findingsOf(pattern({"base=direct"})), "finding.start.return", "S0"));
}

TEST(Starts, AHeldButtonIsANoteOfItsOwn)
{
    const auto findings = findingsOf(pattern({"base=direct"}));
    EXPECT_EQ(std::count_if(
                  findings.begin(), findings.end(), [](const Finding& f) { return f.what.id == "finding.start.held"; }),
        1)
        << "one for a motor, whatever had stopped it";
}

} // namespace
} // namespace ts
