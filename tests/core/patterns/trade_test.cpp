// The rest of the trade's habits: how a machine is fed, how it is operated, what it drives. Carefully chosen each runs
// as its scenarios say; what a word costs shows in them.

#include "core/analysis/scenario_outcomes.h"
#include "core/diagram/control_layout.h"
#include "core/diagram/power_layout.h"
#include "core/patterns/advice.h"
#include "core/patterns/machine.h"
#include "tests/support/circuits.h"

#include <algorithm>

namespace ts::patterns {
namespace {

using Texts = std::vector<std::string>;
using test::Bench;

DossierFile carefully(const Texts& with)
{
    const auto plan = advised(with);
    EXPECT_TRUE(plan);
    auto file = machine(*plan);
    EXPECT_TRUE(file) << with.front() << ": " << file.error().message.id;
    return file ? *file : DossierFile{};
}

std::string refusalOf(const Texts& with)
{
    const auto file = machine(*advised(with));
    return file ? std::string() : file.error().message.id;
}

/// Names of the scenarios that go otherwise than they say.
Texts goesOtherwise(const DossierFile& file)
{
    Texts names;
    const auto outcomes = scenarioOutcomes(file.dossier);
    EXPECT_TRUE(outcomes);
    for (const ScenarioOutcome& o : outcomes->scenarios)
        if (!o.isInOrder())
            names.push_back(o.name);
    return names;
}

double number(const DossierFile& file, const char* tag, const char* parameter)
{
    return std::get<double>(file.dossier.circuit.device(tag)->parameters.at(parameter));
}

class Trade : public ::testing::TestWithParam<Texts> { };

TEST_P(Trade, RunsAsItsScenariosSay)
{
    EXPECT_EQ(goesOtherwise(carefully(GetParam())), Texts{});
}

INSTANTIATE_TEST_SUITE_P(Operated, Trade,
    ::testing::Values(Texts{"operation=called_relay"}, Texts{"operation=two_hand"}, Texts{"operation=enabling"},
        Texts{"operation=separate_inch"}, Texts{"operation=switched"}, Texts{"operation=two_hand", "stop=straight"},
        Texts{"operation=called_relay", "control=two_transformers", "relay_supply=control"},
        Texts{"operation=called_relay", "base=reversing"}, Texts{"operation=two_hand", "control=phase_neutral"}));
INSTANTIATE_TEST_SUITE_P(Fed, Trade,
    ::testing::Values(Texts{"control=phase_phase", "relay_supply=dc24"},
        Texts{"control=phase_neutral", "neutral=own_breaker", "control_line=L3", "relay_supply=control"},
        Texts{"control=two_transformers", "base=star_delta"}, Texts{"control=transformer_bonded", "control_v=48"},
        Texts{"control=transformer_bonded", "control_v=110", "relay_supply=control", "reset_from=channel"},
        Texts{"control=transformer_unbonded", "control_v=24"},
        Texts{"mains_v=690", "motor=5.5kW,6.4A,0.83,1455", "control=transformer_bonded", "control_v=230"},
        Texts{"mains_v=480", "frequency=60", "motor=5.5kW,9.2A,0.83,1750", "marks=north_american", "base=reversing"},
        Texts{"stop=one_channel_relay", "control=phase_neutral", "relay_supply=control"}));
INSTANTIATE_TEST_SUITE_P(Driven, Trade,
    ::testing::Values(Texts{"base=solid_state"}, Texts{"base=single_phase", "motor=0.37kW"},
        Texts{"base=dc_motor", "motor=0.1kW"}, Texts{"base=dc_motor", "motor=0.25kW", "operation=inching"},
        Texts{"base=single_phase", "motor=0.75kW", "operation=called_relay", "control=phase_neutral"},
        Texts{"base=reversing", "crossing=ahead"}, Texts{"base=star_delta", "marks=north_american"}));
INSTANTIATE_TEST_SUITE_P(Locked, Trade,
    ::testing::Values(Texts{"guard=locked"}, Texts{"guard=locked", "base=star_delta", "motor=30kW"},
        Texts{"guard=locked", "stop=straight", "control=phase_neutral"}, Texts{"guard=locked", "base=drive"},
        Texts{"guard=locked", "stop=controller", "base=reversing"},
        Texts{"guard=locked", "1.motor=5.5kW", "2.motor=1.5kW", "bonds=yes"},
        Texts{"operation=switched", "selector=key"}, Texts{"operation=run_inch_selector", "selector=key"}));
INSTANTIATE_TEST_SUITE_P(Watched, Trade,
    ::testing::Values(Texts{"monitor=current_in_line", "tap=motor_side", "lamp_set=shared_trip"},
        Texts{"monitor=three_transformers", "tap=motor_side", "monitor_contact=return_side", "overload=return_side"},
        Texts{"lamp_set=five", "base=reversing"}, Texts{"overload_reset=automatic"}));

/// What a word costs is said by the runs that go otherwise.
TEST(Costs, ASwitchLeftOnStartsWhenTheSupplyReturns)
{
    const Texts found = goesOtherwise(carefully({"operation=switched", "stop=straight"}));
    EXPECT_NE(std::find(found.begin(), found.end(), "Supply lost and back"), found.end());
}

TEST(Costs, AMonitorInTheHoldIsPassedByAStartThatIsHeldAndNotByOneThatIsTapped)
{
    const Texts found = goesOtherwise(carefully({"monitor=voltage", "monitor_contact=hold"}));
    EXPECT_NE(std::find(found.begin(), found.end(), "Start held while a line is missing"), found.end());
    EXPECT_EQ(std::find(found.begin(), found.end(), "Start tapped while a line is missing"), found.end());
}

/// A pole that fails behind the place where the monitor looks is not seen there, wherever its contact goes.
TEST(Costs, AMonitorAheadOfTheContactorDoesNotSeeItsPoles)
{
    const Texts blind{"One pole fails behind the fuses"};
    EXPECT_EQ(goesOtherwise(carefully({"monitor=voltage", "monitor_contact=return_side"})), blind);
    EXPECT_EQ(goesOtherwise(carefully({"monitor=voltage", "base=star_delta"})), blind);
}

/// Each of two coils in series between the lines that are left has half the voltage, on which it goes on holding.
TEST(Costs, ThreePlainRelaysHoldOneAnother)
{
    for (const char* where : {"monitor_contact=return_side", "monitor_contact=stop_line"}) {
        const Texts found = goesOtherwise(carefully({"monitor=three_relays", where}));
        EXPECT_NE(std::find(found.begin(), found.end(), "Start held while a line is missing"), found.end()) << where;
        EXPECT_EQ(std::find(found.begin(), found.end(), "Line L1 lost while running"), found.end())
            << where << ": the control supply goes with that line";
    }
}

TEST(Costs, AHoldPastTheStopReadsOtherwiseThanOneBehindIt)
{
    EXPECT_EQ(goesOtherwise(carefully({"hold=before_interlock", "base=reversing"})), Texts{});
    EXPECT_NE(goesOtherwise(carefully({"hold=ahead_of_stop", "base=reversing"})), Texts{});
}

TEST(LockedGuard, WantsAMotorThatInducesAndAKeyThatBeginsOff)
{
    EXPECT_EQ(refusalOf({"guard=locked", "base=single_phase", "motor=0.37kW"}), "pattern.small_motor_induces_nothing");
    EXPECT_EQ(refusalOf({"operation=hand_off_auto", "selector=key"}), "pattern.key_begins_off");
    const DossierFile two = carefully({"guard=locked", "1.motor=5.5kW", "2.motor=1.5kW", "bonds=yes"});
    for (const char* tag : {"B4", "B24", "S9", "U1", "U2"})
        EXPECT_NE(two.dossier.circuit.device(tag), nullptr) << tag;
}

/// The monitor alone keeps the door shut while a fan runs down: with its contact bridged it opens at once.
TEST(LockedGuard, OpensWhileItTurnsIfTheMonitorsContactIsBridged)
{
    const auto opensAt = [](bool isBridged) {
        Bench b(*compile(carefully({"guard=locked", "stop=straight"}).dossier.circuit));
        if (isBridged)
            b.fault("B4/relay:stays_in");
        b.to(2.0)
            .tap("S2", 0.6)
            .to(14.0)
            .tap("S1", 0.3)
            .to(14.5)
            .act("S9", "press")
            .to(14.7)
            .act("B2", "open")
            .to(15.0);
        EXPECT_GT(b.frame().motors[0].speedRadPerS, 1.0) << "it runs down";
        return b.is("B2", "open");
    };
    EXPECT_FALSE(opensAt(false));
    EXPECT_TRUE(opensAt(true));
}

TEST(ControlSupply, HasTheVoltageThatWasChosen)
{
    EXPECT_EQ(number(carefully({"control=transformer_bonded", "control_v=110"}), "Q1", "coil_voltage_v"), 110.0);
    EXPECT_EQ(number(carefully({"control=transformer_bonded"}), "Q1", "coil_voltage_v"), 230.0);
    EXPECT_EQ(number(carefully({"control=two_transformers"}), "Q1", "coil_voltage_v"), 24.0);
    EXPECT_EQ(number(carefully({"control=phase_phase"}), "Q1", "coil_voltage_v"), 400.0);
    EXPECT_EQ(refusalOf({"control=transformer_bonded", "control_v=12"}), "pattern.number");
    EXPECT_EQ(
        refusalOf({"control=transformer_bonded", "control_v=400", "relay_supply=control"}), "pattern.control_voltage");
}

TEST(ControlSupply, OfTwoTransformersInLineIsThatOfBothRatios)
{
    Bench bench(*compile(carefully({"control=two_transformers", "stop=straight", "lamps=none"}).dossier.circuit));
    bench.to(0.5);
    // Nothing is fed but what leaks: 400 V over 400/230 and 230/24.
    EXPECT_NEAR(std::abs(bench.voltage("T1:3", "T1:4")), 230.0, 3.0);
    EXPECT_NEAR(std::abs(bench.voltage("T3:3", "T3:4")), 24.0, 0.5);
    EXPECT_NEAR(std::abs(bench.voltage("T3:4", "G0:PE")), 0.0, 0.1) << "bonded";
}

TEST(ControlSupply, IsTakenFromTheLineThatWasChosen)
{
    const auto fedFrom = [](const char* line) {
        const DossierFile file = carefully({std::string("control_line=") + line});
        for (const Wire& w : file.dossier.circuit.wires)
            for (const auto& [a, b] : {std::pair{w.from, w.to}, {w.to, w.from}})
                if (file.dossier.circuit.nameOf(a) == "F3:1")
                    return file.dossier.circuit.nameOf(b);
        return std::string();
    };
    EXPECT_EQ(fedFrom("L1"), "Q0:2");
    EXPECT_EQ(fedFrom("L2"), "Q0:4");
    EXPECT_EQ(fedFrom("L3"), "Q0:6");
}

TEST(Marks, OfNorthAmericaStandOnTransformerMotorAndPoles)
{
    const DossierFile file = carefully({"marks=north_american", "control=transformer_bonded", "monitor=voltage"});
    const Plant plant = *compile(file.dossier.circuit);
    for (const auto& [tag, marking] : {std::pair{"T1", "X1"}, {"T1", "H2"}, {"M1", "T3"}, {"Q1", "L1"}, {"F2", "T2"}})
        EXPECT_GE(plant.terminalIndex(tag, marking), 0) << tag << marking;
    for (const Scenario& s : file.dossier.scenarios)
        EXPECT_TRUE(stimuliOf(plant, s)) << s.name;
}

/// Exchanged ahead of the contactor or behind it, the motor turns the same two ways.
TEST(Crossing, GivesTheSameDirectionsOnEitherSide)
{
    for (const char* where : {"crossing=behind", "crossing=ahead"}) {
        Bench bench(*compile(carefully({"base=reversing", "stop=straight", where}).dossier.circuit));
        bench.to(0.1).tap("S2").to(8.0);
        EXPECT_GT(bench.frame().motors[0].speedRadPerS, 100.0) << where;
        bench.tap("S1").to(60.0).tap("S3").to(70.0);
        EXPECT_LT(bench.frame().motors[0].speedRadPerS, -100.0) << where;
    }
}

TEST(SolidState, ThatConductsForEverIsStoppedByTheLineContactorAlone)
{
    Bench bench(*compile(carefully({"base=solid_state"}).dossier.circuit));
    bench.to(0.5).tap("S4").to(2.0).tap("S2", 0.6).to(10.0);
    ASSERT_TRUE(bench.is("M1", "driven"));
    for (const char* pole : {"T4/1-2:conducts", "T4/3-4:conducts", "T4/5-6:conducts"})
        bench.fault(pole);
    bench.tap("S1").to(12.0);
    EXPECT_TRUE(bench.is("M1", "driven")) << "the stop button does nothing any more";
    bench.act("S0", "press").to(13.0);
    EXPECT_FALSE(bench.is("M1", "driven"));
}

TEST(Lamps, OneThatIsSharedShowsEitherTrip)
{
    const DossierFile file = carefully({"monitor=voltage", "lamp_set=shared_trip", "stop=straight"});
    Bench monitor(*compile(file.dossier.circuit));
    monitor.to(2.0);
    EXPECT_TRUE(monitor.is("P3", "dark"));
    monitor.set("G0.L2", 0.0).to(5.0);
    EXPECT_TRUE(monitor.is("P3", "lit"));
    Bench overload(*compile(file.dossier.circuit));
    overload.to(2.0).act("F2", "test").to(3.0);
    EXPECT_TRUE(overload.is("P3", "lit"));
}

TEST(Overload, ThatResetsItselfStartsWhatWasLeftOn)
{
    const auto afterATrip = [](const char* operation) {
        Bench bench(*compile(
            carefully({"overload_reset=automatic", "stop=straight", operation, "lamps=none"}).dossier.circuit));
        bench.to(1.0);
        std::string(operation).ends_with("switched") ? bench.act("S7", "turn_to_on") : bench.tap("S2", 0.6);
        bench.to(10.0).set("G0.L2", 0.0);
        for (int k = 0; k < 60 && !bench.is("F2", "tripped"); ++k)
            bench.to(bench.now() + 5.0);
        EXPECT_TRUE(bench.is("F2", "tripped"));
        EXPECT_TRUE(bench.is("Q1", "out"));
        bench.set("G0.L2", 1.0).to(bench.now() + 1500.0);
        EXPECT_FALSE(bench.is("F2", "tripped")) << "it has cooled";
        return bench.is("Q1", "in");
    };
    EXPECT_TRUE(afterATrip("operation=switched"));
    EXPECT_FALSE(afterATrip("operation=maintained")) << "its hold was lost";
}

TEST(SmallMotors, StandInThePowerCircuit)
{
    for (const Texts& with : {Texts{"base=single_phase", "motor=0.37kW"}, Texts{"base=dc_motor", "motor=0.1kW"}}) {
        const DossierFile file = carefully(with);
        const DeviceId motor = file.dossier.circuit.device("M1")->id;
        const auto graph = diagram::wiredGraph(file.dossier.circuit);
        ASSERT_TRUE(graph);
        const auto draws = [motor](const std::vector<diagram::Symbol>& symbols) {
            return std::any_of(
                symbols.begin(), symbols.end(), [motor](const diagram::Symbol& s) { return s.device == motor; });
        };
        EXPECT_TRUE(draws(diagram::powerDrawing(*graph).symbols)) << with.front();
        EXPECT_FALSE(draws(diagram::controlDrawing(*graph).scene.symbols)) << "it is no coil: " << with.front();
    }
}

TEST(TradeChoices, AreRefusedWhereTheyCannotBe)
{
    EXPECT_EQ(refusalOf({"operation=two_hand", "base=reversing"}), "pattern.one_direction_only");
    EXPECT_EQ(refusalOf({"operation=enabling", "base=drive"}), "pattern.one_direction_only");
    EXPECT_EQ(refusalOf({"operation=separate_inch", "base=star_delta"}), "pattern.separate_inch_direct");
    EXPECT_EQ(refusalOf({"base=single_phase", "motor=0.37kW", "monitor=voltage"}), "pattern.small_motor_alone");
    EXPECT_EQ(refusalOf({"base=single_phase"}), "pattern.no_motor") << "no such motor has 5.5 kW";
    EXPECT_EQ(refusalOf({"base=dc_motor", "motor=0.1kW,5A,0.9,1500"}), "pattern.no_motor");
    EXPECT_EQ(refusalOf({"mains_v="}), "pattern.mains");
    EXPECT_EQ(refusalOf({"mains_v=50"}), "pattern.number");
    EXPECT_EQ(refusalOf({"mains_v=480"}), "pattern.motor_of_another_mains");
    EXPECT_EQ(refusalOf({"operation=called_relay", "monitor=voltage", "monitor_contact=hold"}), "pattern.no_hold");
}

} // namespace
} // namespace ts::patterns
