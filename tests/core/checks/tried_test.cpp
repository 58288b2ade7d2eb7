// What the checks make of what was tried, and of sizes: how grave it is, whom it concerns, and what is left alone.

#include "core/checks/trials.h"
#include "core/edit/circuit_edits.h"
#include "core/edit/device_edits.h"
#include "core/patterns/advice.h"
#include "core/patterns/machine.h"
#include "core/sizing/sizing.h"
#include "core/studies/working_out.h"
#include "tests/support/circuits.h"
#include "wording/wording.h"

#include <algorithm>

namespace ts {
namespace {

using Texts = std::vector<std::string>;

DossierFile chosenWith(const Texts& said = {})
{
    return *patterns::machine(*patterns::advised(said));
}

DossierFile changedAt(DossierFile file, const char* tag, const char* name, const char* value)
{
    auto changed = edit::withValue(file, file.dossier.circuit.device(tag)->id, name, value);
    EXPECT_TRUE(changed) << tag << " " << name << " " << value;
    return *changed;
}

std::vector<Finding> triedIn(const Dossier& dossier)
{
    Results results;
    EXPECT_TRUE(workOut(dossier, {.only = {kTrials.id, kSizing.id, kChecks.id}}, results));
    std::vector<Finding> all = results.find(kChecks)->findings;
    std::erase_if(all, [](const Finding& f) {
        const Check* check = checkNamed(f.id);
        return !check || (check->needs != kTrials.id && check->needs != kSizing.id);
    });
    return all;
}

std::optional<Finding> triedFinding(const Dossier& dossier, const std::string& message)
{
    for (const Finding& f : triedIn(dossier))
        if (f.what.id == message)
            return f;
    return std::nullopt;
}

/// A device takes a colour of its own, whatever its label says.
TEST(Colours, AreJudgedByWhatAButtonDoes)
{
    EXPECT_FALSE(triedFinding(chosenWith().dossier, "finding.colour"));
    const auto green = triedFinding(changedAt(chosenWith(), "S1", "colour", "green").dossier, "finding.colour");
    ASSERT_TRUE(green) << "never green, for a stop";
    EXPECT_EQ(green->severity, Severity::Note) << "a departure, not an error";
    EXPECT_EQ(green->devices, Texts{"S1"});
    EXPECT_TRUE(triedFinding(changedAt(chosenWith(), "S2", "colour", "red").dossier, "finding.colour"))
        << "never red, for a start";
    EXPECT_FALSE(triedFinding(changedAt(chosenWith(), "S1", "colour", "red").dossier, "finding.colour")) << "permitted";
    EXPECT_FALSE(triedFinding(changedAt(chosenWith(), "S2", "colour", "green").dossier, "finding.colour"))
        << "permitted";
    DossierFile renamed = changedAt(chosenWith(), "S1", "colour", "green");
    renamed = *edit::withLabel(renamed, renamed.dossier.circuit.device("S1")->id, "start");
    EXPECT_TRUE(triedFinding(renamed.dossier, "finding.colour")) << "a label is only a label";
}

TEST(Colours, OfASchoolThatWasChosenAreThatSchools)
{
    const DossierFile field = chosenWith({"lamps=field_b"});
    EXPECT_FALSE(triedFinding(field.dossier, "finding.colour")) << "stopped is red there, by choice";
    DossierFile unchosen = field;
    unchosen.dossier.machine.plan = {};
    EXPECT_TRUE(triedFinding(unchosen.dossier, "finding.colour")) << "nobody has said so";
}

/// EN 60204-1 asks for protection above half a kilowatt.
TEST(Overloads, OfSmallMotorsAreNotAskedFor)
{
    const auto small = [](const char* motor) {
        return triedFinding(
            chosenWith({"overload=none", std::string("motor=") + motor}).dossier, "finding.trial.no_overload");
    };
    EXPECT_TRUE(small("0.75kW"));
    EXPECT_FALSE(small("0.37kW,1.1A,0.72,1390"));
}

TEST(Tried, SaysHowGraveItIsAndWhom)
{
    const auto missing = triedFinding(chosenWith({"overload=none"}).dossier, "finding.trial.no_overload");
    ASSERT_TRUE(missing);
    EXPECT_EQ(missing->severity, Severity::Fix);
    EXPECT_EQ(missing->devices, Texts{"M1"});
    EXPECT_EQ(missing->id, "overloads");
    const auto earth = triedFinding(chosenWith({"overload=return_side"}).dossier, "finding.trial.earth_kept");
    ASSERT_TRUE(earth);
    EXPECT_EQ(earth->severity, Severity::Stop);
    EXPECT_EQ(earth->devices, (Texts{"Q1", "F2", "M1"}));
    EXPECT_NE(wording::sentence(earth->what).find("Q1:A2"), std::string::npos) << wording::sentence(earth->what);
    EXPECT_NE(wording::sentence(earth->evidence).find("S2 press"), std::string::npos) << "how to come there";
    for (const Message* m : {&earth->what, &earth->consequence, &earth->mend, &earth->evidence})
        EXPECT_TRUE(wording::knows(m->id)) << m->id;
}

/// The same stop lost at many coils is one finding.
TEST(Tried, IsToldOnce)
{
    const auto all = triedIn(chosenWith({"base=reversing", "overload=return_side"}).dossier);
    EXPECT_EQ(
        std::count_if(all.begin(), all.end(), [](const Finding& f) { return f.what.id == "finding.trial.earth_kept"; }),
        1);
}

/// A machine that nothing brings to run is not one without findings.
TEST(Tried, SaysWhatItCouldNotTry)
{
    DossierFile dead = chosenWith();
    std::erase_if(dead.dossier.circuit.wires, [&](const Wire& w) {
        return dead.dossier.circuit.nameOf(w.to) == "Q1:A1" || dead.dossier.circuit.nameOf(w.from) == "Q1:A1";
    });
    const auto never = triedFinding(dead.dossier, "finding.trial.never_ran");
    ASSERT_TRUE(never);
    EXPECT_EQ(never->devices, Texts{"M1"});
    EXPECT_TRUE(triedFinding(dead.dossier, "finding.sizing.not_judged")) << "nor are its sizes judged";
}

TEST(Sizes, BecomeFindingsWithWhatTheyRestOn)
{
    const auto small = triedFinding(
        changedAt(chosenWith(), "Q1", "rated_current_ac3_a", "9").dossier, "sizing.contactor.current");
    ASSERT_TRUE(small);
    EXPECT_EQ(small->id, "sizes");
    EXPECT_EQ(small->severity, Severity::Fix);
    EXPECT_EQ(small->devices, Texts{"Q1"});
    EXPECT_EQ(small->clause, "IEC 60947-4-1");
    EXPECT_NE(wording::sentence(small->consequence).find("welds"), std::string::npos);
    DossierFile thin = chosenWith();
    for (Wire& w : thin.dossier.circuit.wires)
        if (thin.dossier.circuit.nameOf(w.from) == "F1:2")
            w.areaMm2 = 0.75;
    const auto wire = triedFinding(thin.dossier, "sizing.wire.ampacity");
    ASSERT_TRUE(wire);
    EXPECT_EQ(wire->evidence.id, "evidence.sizing.assumed");
    EXPECT_NE(wording::sentence(wire->evidence).find("loaded circuits"), std::string::npos)
        << "the assumption stands beside the verdict";
    EXPECT_TRUE(wire->target.wire) << "it leads to the wire";
}

TEST(Sizes, OfACarefulMachineLeaveOnlyWhatIsNotJudged)
{
    for (const Finding& f : triedIn(chosenWith({"base=reversing", "2.motor=0.75kW"}).dossier)) {
        EXPECT_EQ(f.what.id, "finding.sizing.not_judged") << wording::sentence(f.what);
        EXPECT_EQ(f.severity, Severity::Note);
    }
}

/// A machine of which a motor never ran, and sizes of which some are not judged, were looked at in part only.
TEST(Tried, InPartIsSaidAsInPart)
{
    const auto madeOf = [](const Dossier& d, std::string_view id) {
        Results results;
        EXPECT_TRUE(workOut(d, {.only = {kTrials.id, kSizing.id, kChecks.id}}, results));
        const auto checked = results.find(kChecks);
        return *std::find_if(
            checked->checks.begin(), checked->checks.end(), [id](const CheckMade& c) { return c.id == id; });
    };
    DossierFile dead = chosenWith();
    EXPECT_TRUE(madeOf(dead.dossier, "overloads").isWhole());
    std::erase_if(dead.dossier.circuit.wires, [&](const Wire& w) {
        return dead.dossier.circuit.nameOf(w.to) == "Q1:A1" || dead.dossier.circuit.nameOf(w.from) == "Q1:A1";
    });
    const CheckMade overloads = madeOf(dead.dossier, "overloads");
    EXPECT_FALSE(overloads.isWhole());
    EXPECT_FALSE(overloads.isNotMade());
    ASSERT_EQ(overloads.missing.size(), 1u);
    EXPECT_EQ(overloads.missing.front().why.id, "finding.trial.never_ran");
    const CheckMade sizes = madeOf(chosenWith().dossier, "sizes");
    EXPECT_FALSE(sizes.isWhole()) << "nobody has said how large the enclosure is";
    EXPECT_TRUE(std::any_of(sizes.missing.begin(), sizes.missing.end(),
        [](const NotLookedAt& n) { return n.why.id == "sizing.figures_missing"; }));
}

/// Every judgement that reads a trial or a size is in one group and one line of the list.
TEST(Registry, HasNoCheckTwiceAndNoneWithoutAGroup)
{
    std::set<std::string_view> ids;
    for (const Check& c : allChecks()) {
        EXPECT_TRUE(ids.insert(c.id).second) << c.id;
        EXPECT_FALSE(c.group.empty()) << c.id;
        EXPECT_EQ(checkNamed(c.id), &c);
    }
    EXPECT_EQ(checkNamed("tea"), nullptr);
}

} // namespace
} // namespace ts
