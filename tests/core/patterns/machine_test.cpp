// A machine of several starters: one supply, one stop circuit, each motor by itself and all together; and other choices
// for it after people have edited it.

#include "core/analysis/scenario_outcomes.h"
#include "core/edit/circuit_edits.h"
#include "core/edit/device_edits.h"
#include "core/edit/wiring.h"
#include "core/edit/wiring_edits.h"
#include "core/io/dossier_text.h"
#include "core/patterns/advice.h"
#include "core/patterns/machine.h"
#include "core/patterns/replan.h"
#include "tests/support/circuits.h"

#include <algorithm>
#include <random>
#include <set>

namespace ts::patterns {
namespace {

using Texts = std::vector<std::string>;

MachinePlan planOf(const Texts& said)
{
    const auto plan = MachinePlan::from(said);
    EXPECT_TRUE(plan) << plan.error().message.id;
    return *plan;
}

DossierFile builtOf(const Texts& said)
{
    auto file = machine(planOf(said));
    EXPECT_TRUE(file) << file.error().message.id;
    return *file;
}

/// Names of the scenarios in which something did not come about as expected.
std::string unexpectedIn(const Dossier& dossier)
{
    std::string names;
    const auto outcomes = scenarioOutcomes(dossier);
    for (const ScenarioOutcome& o : outcomes->scenarios) {
        EXPECT_FALSE(o.trouble) << o.name;
        if (!o.isInOrder())
            names += (names.empty() ? "" : ", ") + o.name;
    }
    return names;
}

std::set<std::string> wiresIn(const Circuit& c)
{
    std::set<std::string> all;
    for (const Wire& w : c.wires) {
        const std::string a = c.nameOf(w.from), b = c.nameOf(w.to);
        all.insert(a < b ? a + " " + b : b + " " + a);
    }
    return all;
}

std::set<std::string> tagsIn(const Circuit& c)
{
    std::set<std::string> all;
    for (const Device& d : c.devices)
        all.insert(d.tag);
    return all;
}

std::vector<std::string> idsOf(const std::vector<Message>& said)
{
    std::vector<std::string> ids;
    for (const Message& m : said)
        ids.push_back(m.id);
    return ids;
}

const Texts kThree{"base=reversing", "moves=roller deck", "stop=two_channel_relay", "stops=2", "guard=yes",
    "2.base=star_delta", "2.motor=30kW", "2.load=none", "2.moves=rotor", "3.motor=0.75kW",
    "3.monitor=three_transformers"};

class SeveralStarters : public ::testing::TestWithParam<Texts> { };

TEST_P(SeveralStarters, RunTogetherAndStopTogether)
{
    const DossierFile file = builtOf(GetParam());
    EXPECT_EQ(unexpectedIn(file.dossier), "");
    const auto again = io::parseDossier(io::printDossier(file));
    ASSERT_TRUE(again) << again.error().message.id;
    EXPECT_EQ(io::printDossier(*again), io::printDossier(file));
    EXPECT_EQ(again->dossier.machine, file.dossier.machine) << "with its plan";
}

INSTANTIATE_TEST_SUITE_P(Machines, SeveralStarters,
    ::testing::Values(kThree, Texts{"base=direct", "2.base=direct"}, Texts{"2.base=direct"},
        Texts{"stop=contactor_relay", "control=phase_neutral", "2.base=reversing"},
        Texts{"stop=ordinary_relay", "control=transformer_bonded", "2.overload=return_side", "3.base=reversing"},
        Texts{"stop=controller", "stops=3", "guard=yes", "2.base=soft_starter"},
        Texts{"base=drive", "stop=delayed_relay", "2.base=direct", "3.base=drive"},
        Texts{"base=drive", "stop=straight", "2.base=direct"},
        Texts{"monitor=current_in_line", "2.monitor=three_transformers", "2.tap=motor_side"},
        Texts{"2.operation=run_inch_relay", "2.base=reversing", "3.operation=inching", "earthing=tt"},
        Texts{"stop=one_channel_relay", "5.brake=yes", "5.load=hanging", "17.base=star_delta", "17.load=none"}));

TEST(Machine, StartersShareWhatIsOneAndHaveTheRestForThemselves)
{
    const DossierFile file = builtOf(kThree);
    const Circuit& c = file.dossier.circuit;
    const std::set<std::string> tags = tagsIn(c);
    for (const char* shared : {"G0", "Q0", "F3", "G1", "F5", "K0", "S0", "S10", "B2", "S4"})
        EXPECT_TRUE(tags.contains(shared)) << shared;
    for (const char* own : {"M1", "Q1", "Q2", "Q9", "M2", "Q21", "Q22", "Q23", "Q29", "K21", "M3", "Q31", "F31", "B31"})
        EXPECT_TRUE(tags.contains(own)) << own;
    EXPECT_EQ(
        std::count_if(c.devices.begin(), c.devices.end(), [](const Device& d) { return d.kind == "safety_relay"; }), 1);
    EXPECT_EQ(c.device("M1")->label, "roller deck");
    EXPECT_EQ(c.device("M2")->label, "rotor");
    std::map<std::string, int> ends;
    for (const char* tag : {"Q0", "K0", "F1", "F21", "F31", "Q9", "Q29"})
        for (const Wire& w : c.wires)
            for (const TerminalRef& end : {w.from, w.to})
                if (c.device(end.device)->tag == tag)
                    EXPECT_LE(++ends[c.nameOf(end)], 3) << c.nameOf(end);
}

TEST(Machine, ANumberStaysTheStartersOwn)
{
    const MachinePlan plan = planOf({"motor=5.5kW", "2.motor=7.5kW", "3.motor=11kW"});
    const auto without = plan.with({}, std::vector<int>{2});
    ASSERT_TRUE(without);
    const Circuit c = machine(*without)->dossier.circuit;
    EXPECT_TRUE(c.device("M3"));
    EXPECT_FALSE(c.device("M2"));
    EXPECT_TRUE(c.device("Q31"));
    const auto back = MachinePlan::of(without->kept());
    ASSERT_TRUE(back);
    EXPECT_EQ(back->kept(), without->kept());
}

TEST(Machine, SaysWhatIsNoStarterAndNoNumber)
{
    const auto error = [](const Texts& said) {
        const auto plan = MachinePlan::from(said);
        if (!plan)
            return plan.error().message.id;
        const auto file = machine(*plan);
        return file ? std::string("built") : file.error().message.id;
    };
    EXPECT_EQ(error({"2.stop=straight"}), "pattern.not_a_starters");
    EXPECT_EQ(error({"0.base=direct"}), "pattern.starter_number");
    EXPECT_EQ(error({"21.base=direct"}), "pattern.starter_number");
    EXPECT_EQ(error({"1.5.base=direct"}), "pattern.unknown_choice");
    EXPECT_EQ(error({"2.base=teapot"}), "pattern.unknown_word");
    EXPECT_EQ(error({"2.motor=5.5kW,1A,0.83,1455"}), "motor.plate_impossible");
    EXPECT_EQ(error({"starts_per_hour=many"}), "pattern.number");
    EXPECT_EQ(error({"short_circuit_ka=0"}), "pattern.number");
    EXPECT_EQ(error({"short_circuit_ka=1e9"}), "pattern.number");
    EXPECT_EQ(planOf({}).with({}, std::vector<int>{1}).error().message.id, "pattern.no_starter_left");
    EXPECT_EQ(planOf({}).with({}, std::vector<int>{4}).error().message.id, "pattern.no_starter");
}

/// |Z| = U / (sqrt 3 Ik): 400 V and 10 kA are 23.1 mohm.
TEST(Machine, TheShortCircuitLevelIsThatOfTheSupply)
{
    const Device supply = *builtOf({"short_circuit_ka=10"}).dossier.circuit.device("G0");
    const double r = std::get<double>(supply.parameters.at("source_resistance_ohm")),
                 x = std::get<double>(supply.parameters.at("source_reactance_ohm"));
    EXPECT_NEAR(std::hypot(r, x), 400.0 / std::sqrt(3.0) / 10e3, 1e-9);
}

TEST(Machine, RatesAreThoseOfTheScenariosTheyAreAbout)
{
    const DossierFile file = builtOf({"base=reversing", "starts_per_hour=12", "reversals_per_hour=6",
        "2.operation=run_inch_selector", "2.inches_per_hour=30", "days_per_year=220", "hours_per_day=8"});
    const Duty& duty = file.dossier.machine.duty;
    EXPECT_TRUE(duty.isEntered);
    const auto rate = [&](const char* name) { return duty.timesPerHour.at(file.dossier.scenario(name)->id); };
    EXPECT_EQ(rate("Start and stop"), 12);
    EXPECT_EQ(rate("Other direction while running"), 6);
    EXPECT_EQ(rate("M2: Inching"), 30);
    EXPECT_EQ(duty.timesPerHour.size(), 3u) << "what nobody said is not there";
}

TEST(Advice, FollowsTheRequiredLevelAndGivesWayToWhatWasSaid)
{
    const auto word = [](const Texts& said, const char* choice, int starter = 1) {
        return advised(said)->starter(starter)->text(choice);
    };
    EXPECT_EQ(word({}, "stop"), "two_channel_relay");
    EXPECT_EQ(word({}, "second_contactor"), "yes") << "nobody has said how great the risk is";
    EXPECT_EQ(word({"injury=slight", "exposure=rare", "avoidance=possible"}, "second_contactor"), "no")
        << "an emergency stop: c";
    EXPECT_EQ(word({"injury=slight", "exposure=rare"}, "second_contactor"), "yes") << "one answer is missing";
    EXPECT_EQ(word({"guard=yes"}, "stop"), "controller") << "e, and two devices that would mask one another";
    EXPECT_EQ(word({"guard=yes", "injury=serious", "exposure=rare", "avoidance=scarcely"}, "stop"), "two_channel_relay")
        << "S2 F1 P2: d";
    EXPECT_EQ(word({"base=direct", "2.base=drive"}, "stop"), "delayed_relay");
    EXPECT_EQ(word({"stop=straight"}, "stop"), "straight");
    EXPECT_EQ(word({"2.load=hanging"}, "brake", 2), "yes");
    EXPECT_EQ(word({"base=direct", "2.load=hanging"}, "brake", 1), "no");
}

/// Whatever advice gives runs as expected.
TEST(Advice, IsInOrder)
{
    for (const Texts& said :
        {Texts{"base=reversing"}, Texts{"base=drive"}, Texts{"injury=slight"}, Texts{"guard=yes", "stops=3"},
            Texts{"base=reversing", "2.base=star_delta", "2.motor=30kW", "2.load=none", "3.load=hanging"}})
        EXPECT_EQ(unexpectedIn(machine(*advised(said))->dossier), "") << said.front();
}

class Replanning : public ::testing::Test {
protected:
    /// The machine with other choices.
    Replanned changed(const DossierFile& file, const Texts& said, const std::vector<int>& without = {})
    {
        const auto plan = MachinePlan::of(file.dossier.machine.plan)->with(said, without);
        EXPECT_TRUE(plan) << plan.error().message.id;
        const auto result = replanned(file, *plan);
        EXPECT_TRUE(result) << result.error().message.id;
        return *result;
    }
    static void expectSameMachine(const DossierFile& a, const DossierFile& b)
    {
        EXPECT_EQ(wiresIn(a.dossier.circuit), wiresIn(b.dossier.circuit));
        EXPECT_EQ(tagsIn(a.dossier.circuit), tagsIn(b.dossier.circuit));
        for (const Device& d : a.dossier.circuit.devices) {
            const Device& other = *b.dossier.circuit.device(d.tag);
            EXPECT_EQ(d.parameters, other.parameters) << d.tag;
            EXPECT_EQ(d.kind, other.kind) << d.tag;
        }
        EXPECT_EQ(a.dossier.scenarios.size(), b.dossier.scenarios.size());
        EXPECT_EQ(a.dossier.machine.plan, b.dossier.machine.plan);
    }
};

/// Of a machine that nobody has edited, other choices make what they would have made at once, whatever they are; and
/// nothing is said to be lost.
TEST_F(Replanning, OfAnUntouchedMachineIsTheSameAsBuildingItSo)
{
    std::mt19937 random(20261130);
    const auto chance = [&random](int starter) {
        Texts said;
        for (const PlanChoice& c : choices())
            if (const auto words = wordsOf(c); !words.empty() && (c.own || starter == 1))
                said.push_back(
                    keptName(c.own ? starter : 0, c.name) + "=" + std::string(words[random() % words.size()]));
        return said;
    };
    int tried = 0;
    for (int k = 0; k < 4000 && tried < 16; ++k) { // many words do not go together
        Texts before = chance(1), after = chance(1);
        for (int starter = 2; starter <= 3; ++starter) {
            for (Texts* texts : {&before, &after})
                if (random() % 2)
                    for (std::string& text : chance(starter))
                        texts->push_back(std::move(text));
        }
        const auto first = machine(planOf(before));
        const auto second = machine(planOf(after));
        if (!first || !second)
            continue;
        ++tried;
        const auto there = replanned(*first, planOf(after));
        ASSERT_TRUE(there) << there.error().message.id;
        for (const Message& m : there->said)
            EXPECT_EQ(m.id, "nothing") << k;
        expectSameMachine(there->file, *second);
        if (::testing::Test::HasFailure())
            return;
    }
    EXPECT_EQ(tried, 16);
}

TEST_F(Replanning, AStarterIsAddedToAMachineThatWasEditedSince)
{
    DossierFile file = builtOf({"base=reversing", "stop=two_channel_relay"});
    file = *edit::withValue(file, file.dossier.circuit.device("F2")->id, "setting_a", "9.5");
    file = *edit::withLabel(file, file.dossier.circuit.device("S2")->id, "forwards");
    const DeviceId q1 = file.dossier.circuit.device("Q1")->id;
    const Replanned more = changed(file, {"2.motor=0.75kW"});
    const Circuit& c = more.file.dossier.circuit;
    EXPECT_EQ(c.device("Q1")->id, q1) << "what is there keeps its id, and with it what refers to it";
    EXPECT_EQ(std::get<double>(c.device("F2")->parameters.at("setting_a")), 9.5);
    EXPECT_EQ(c.device("S2")->label, "forwards");
    EXPECT_TRUE(more.said.empty());
    EXPECT_EQ(unexpectedIn(more.file.dossier), "");
    const Replanned back = changed(more.file, {}, {2});
    EXPECT_EQ(wiresIn(back.file.dossier.circuit), wiresIn(file.dossier.circuit));
    EXPECT_TRUE(back.said.empty());
}

/// Somebody has put a key switch into the reset circuit. A feedback contact more would lie past it: it is left to him.
TEST_F(Replanning, LaysNothingPastWhatSomebodyHasPutIn)
{
    DossierFile file = builtOf({"stop=two_channel_relay"});
    Device key;
    key.tag = "S8";
    key.kind = "push_button";
    key.parameters = {{"contacts", Texts{"13-14"}}};
    file = *edit::withDevice(file, key);
    const Circuit& c = file.dossier.circuit;
    const auto last = std::find_if(c.wires.begin(), c.wires.end(),
        [&c](const Wire& w) { return c.nameOf(w.to) == "K0:S34" || c.nameOf(w.from) == "K0:S34"; });
    const std::string from = c.nameOf(last->from) == "K0:S34" ? c.nameOf(last->to) : c.nameOf(last->from);
    file = *edit::withoutWire(file, last->id);
    file = *edit::withWire(file, from, "S8:13", {});
    file = *edit::withWire(file, "S8:14", "K0:S34", {});
    const Replanned more = changed(file, {"2.motor=0.75kW"});
    const std::set<std::string> wires = wiresIn(more.file.dossier.circuit);
    EXPECT_TRUE(wires.contains(from + " S8:13") || wires.contains("S8:13 " + from));
    EXPECT_TRUE(wires.contains("K0:S34 S8:14"));
    for (const std::string& w : wires)
        if (w.starts_with("K0:S34 ") || w.ends_with(" K0:S34"))
            EXPECT_EQ(w, "K0:S34 S8:14") << "the only way to the reset input stays the one through the key";
    const auto ids = idsOf(more.said);
    EXPECT_GE(std::count(ids.begin(), ids.end(), "replan.not_wired"), 1);
}

TEST_F(Replanning, SaysWhatIsLostWithAStarter)
{
    DossierFile file = builtOf({"base=direct", "stop=two_channel_relay", "2.base=reversing"});
    Device lamp;
    lamp.tag = "P9";
    lamp.kind = "lamp";
    lamp.parameters = {{"rated_voltage_v", 24.0}};
    file = *edit::withDevice(file, lamp);
    file = *edit::withWire(file, "Q21:A1", "P9:X1", {});
    Scenario own;
    own.name = "Mine";
    own.steps = {{1.0, "press", "S22", 0.0}};
    file = edit::withScenario(file, own);
    SafetyFunction f;
    f.id = {file.nextId++};
    f.name = "Rotor stop";
    f.trigger = {file.dossier.circuit.device("S21")->id, "press"};
    f.mustRest = {file.dossier.circuit.device("M2")->id};
    file.dossier.functions.push_back(f);
    file.dossier.exclusions.push_back({"Q21/main:welded", "tried"});
    const Replanned less = changed(file, {}, {2});
    EXPECT_TRUE(less.file.dossier.circuit.device("P9")) << "what was added by hand stays, though its wire goes";
    auto ids = idsOf(less.said);
    std::sort(ids.begin(), ids.end());
    EXPECT_EQ(
        ids, (Texts{"replan.exclusion_lost", "replan.function_lost", "replan.scenario_lost", "replan.wire_lost"}));
    ASSERT_TRUE(io::parseDossier(io::printDossier(less.file)));
}

TEST_F(Replanning, AnotherKindUnderTheSameNameIsTaken)
{
    const DossierFile file = builtOf({"stop=two_channel_relay"});
    const Replanned other = changed(file, {"stop=controller"});
    EXPECT_EQ(other.file.dossier.circuit.device("K0")->kind, "safety_controller");
    EXPECT_EQ(unexpectedIn(other.file.dossier), "");
    EXPECT_TRUE(other.said.empty());
}

TEST_F(Replanning, AnEmergencyStopThatStopsAllStopsTheNewMotorToo)
{
    DossierFile file = builtOf({"stop=two_channel_relay"});
    SafetyFunction f;
    f.id = {file.nextId++};
    f.name = "Emergency stop";
    f.trigger = {file.dossier.circuit.device("S0")->id, "press"};
    f.mustRest = {file.dossier.circuit.device("M1")->id};
    file.dossier.functions.push_back(f);
    const Replanned more = changed(file, {"2.motor=0.75kW"});
    EXPECT_EQ(more.file.dossier.functions.front().mustRest.size(), 2u);
    EXPECT_EQ(idsOf(more.said), Texts{"replan.function_grows"});
}

TEST_F(Replanning, RefusesWhereItCannot)
{
    const auto error = [](const DossierFile& file, const Texts& said) {
        const auto result = replanned(file, planOf(said));
        return result ? std::string("done") : result.error().message.id;
    };
    EXPECT_EQ(error(test::demoFile(), {}), "replan.not_planned") << "drawn by hand";
    DossierFile file = builtOf({});
    file = *edit::withTag(file, file.dossier.circuit.device("S1")->id, "M2");
    EXPECT_EQ(error(file, {"2.base=direct"}), "replan.tag_taken");
    file = builtOf({});
    file.dossier.machine.plan.words["stop"] = "by magic";
    EXPECT_EQ(error(file, {}), "pattern.unknown_word");
}

} // namespace
} // namespace ts::patterns
