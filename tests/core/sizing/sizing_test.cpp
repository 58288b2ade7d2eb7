// Sizes: both sides of each limit, against hand calculation. The starter is a motor of 5.5 kW, 11 A, by itself; each
// test changes one thing.

#include "tests/core/sizing/chosen.h"

namespace ts::sizing {
namespace {

/// The worst of one rule among the wires at a device.
std::optional<Headroom> atWires(const DossierFile& file, const std::string& rule, const char* tag)
{
    const Circuit& c = file.dossier.circuit;
    const DeviceId id = c.device(tag)->id;
    std::optional<Headroom> found;
    for (const Headroom& h : sized(file).all)
        if (const Wire* w = c.wire(h.wire); w && h.rule == rule && (w->from.device == id || w->to.device == id))
            if (!found || found->used() < h.used())
                found = h;
    return found;
}

class Careful : public ::testing::TestWithParam<Texts> { };

TEST_P(Careful, IsLargeEnough)
{
    for (const Headroom& h : sized(chosen(GetParam())).all) {
        EXPECT_TRUE(h.isMet) << h.rule << " " << h.device.value << " " << h.wire.value << " " << h.used();
        EXPECT_TRUE(h.note.id.empty() || h.note.id == "sizing.selective.overlap")
            << h.rule << ": a small transformer's two fuses are not told apart by their bands";
    }
}

INSTANTIATE_TEST_SUITE_P(Sizes, Careful,
    ::testing::Values(Texts{}, Texts{"base=reversing"}, Texts{"base=star_delta", "motor=30kW", "load=none"},
        Texts{"base=soft_starter"}, Texts{"base=drive"}, Texts{"control=transformer_bonded"},
        Texts{"control=phase_neutral", "stop=contactor_relay"}, Texts{"motor=0.75kW"},
        Texts{"control=transformer_bonded", "stop=contactor_relay", "brake=yes"}, Texts{"motor=30kW", "load=none"},
        Texts{"base=reversing", "2.base=star_delta", "2.motor=30kW", "2.load=none", "3.motor=0.75kW"}));

/// P / (sqrt 3 U I cos): 5500 / (1.732 x 400 x 11 x cos) of the plate.
TEST(Motor, ThePlatesOwnEfficiency)
{
    const DossierFile file = chosen({"motor=5.5kW,11A,0.83,1455"});
    const auto h = worst(file, "motor.current", "M1");
    ASSERT_TRUE(h);
    EXPECT_NEAR(h->needed, 5500 / (std::sqrt(3.0) * 400 * 11 * 0.83), 1e-9);
    EXPECT_TRUE(h->isMet);
}

TEST(Overload, ItsSettingAgainstTheCurrentThatItsPolesCarry)
{
    EXPECT_TRUE(isMet(chosen(), "overload.setting", "F2"));
    EXPECT_TRUE(isMet(with(chosen(), "F2", "setting_a", "11.4"), "overload.setting", "F2")) << "1.05 x 11 = 11.55";
    EXPECT_FALSE(isMet(with(chosen(), "F2", "setting_a", "11.8"), "overload.setting", "F2"));
    EXPECT_EQ(worst(with(chosen(), "F2", "setting_a", "9"), "overload.setting", "F2")->note.id, "sizing.overload.low");
}

/// Inside a delta the poles carry the line's current over the root of three.
TEST(Overload, InsideADelta)
{
    const DossierFile file = chosen({"base=star_delta", "motor=30kW", "load=none"});
    const double plate = std::get<double>(file.dossier.circuit.parts.front().parameters.at("current_a"));
    const auto h = worst(file, "overload.setting", "F2");
    ASSERT_TRUE(h);
    EXPECT_NEAR(h->allowed, 1.05 * plate / std::sqrt(3.0), 0.01 * h->allowed);
    const auto main = worst(file, "contactor.current", "Q1");
    EXPECT_NEAR(main->needed, plate / std::sqrt(3.0), 0.01 * main->needed);
}

TEST(Contactor, ItsCurrent)
{
    const auto h = worst(with(chosen(), "Q1", "rated_current_ac3_a", "22"), "contactor.current", "Q1");
    EXPECT_NEAR(h->needed, kPlateA, 0.02 * kPlateA);
    EXPECT_NEAR(h->used(), 0.5, 0.01);
    EXPECT_FALSE(isMet(with(chosen(), "Q1", "rated_current_ac3_a", "9"), "contactor.current", "Q1"));
    EXPECT_TRUE(isMet(with(chosen(), "Q1", "rated_current_ac3_a", "12"), "contactor.current", "Q1"));
}

TEST(Overload, ItsScale)
{
    const auto scale = [](const char* low, const char* high) {
        return with(with(chosen(), "F2", "range_low_a", low), "F2", "range_high_a", high);
    };
    EXPECT_TRUE(isMet(scale("9", "13"), "overload.range", "F2"));
    EXPECT_FALSE(isMet(scale("12", "18"), "overload.range", "F2")) << "11 A is below it";
    EXPECT_FALSE(isMet(scale("7", "10"), "overload.range", "F2")) << "11 A is above it";
    EXPECT_TRUE(isNotJudged(chosen(), "overload.range", "sizing.enter.sheet"));
}

/// Class 10A, fastest: 2 s at 7.2 times, t = 2 L(x) / L(7.2), L = ln(x2 / (x2 - 1.44)).
TEST(Overload, ItsClassAgainstTheRunUp)
{
    const auto h = worst(chosen(), "overload.class", "F2");
    ASSERT_TRUE(h);
    EXPECT_TRUE(h->isMet);
    EXPECT_GT(h->allowed, 2.0) << "the start is below 7.2 times";
    EXPECT_LT(h->allowed, 6.0);
    const DossierFile heavy = with(chosen(), "M1", "load_inertia_x", "250");
    EXPECT_FALSE(isMet(heavy, "overload.class", "F2"));
    EXPECT_TRUE(isMet(with(heavy, "F2", "trip_class", "30"), "overload.class", "F2"));
    const double ten = worst(heavy, "overload.class", "F2")->allowed;
    EXPECT_NEAR(worst(with(heavy, "F2", "trip_class", "20"), "overload.class", "F2")->allowed / ten, 3.0, 0.01)
        << "6 s against 2 s";
}

/// In star a third of what the line draws in delta.
TEST(Contactor, TheStarContactor)
{
    const DossierFile file = chosen({"base=star_delta", "motor=30kW", "load=none"});
    const double plate = std::get<double>(file.dossier.circuit.parts.front().parameters.at("current_a"));
    std::optional<Headroom> least;
    for (const Headroom& h : sized(file).all)
        if (h.rule == "contactor.current" && (!least || h.needed < least->needed))
            least = h;
    ASSERT_TRUE(least);
    EXPECT_NEAR(least->needed, plate / 3, 0.06 * plate);
}

/// Of the plate, or 6.5 times: against 8 times the AC-3 current.
TEST(Contactor, WithTheRotorHeld)
{
    const auto h = worst(with(with(chosen(), "M1", "locked_rotor_ratio", "7"), "Q1", "rated_current_ac3_a", "12"),
        "contactor.locked_rotor", "Q1");
    ASSERT_TRUE(h);
    EXPECT_NEAR(h->needed, 77, 1.5);
    EXPECT_NEAR(h->allowed, 96, 1e-9);
    EXPECT_FALSE(isMet(with(with(chosen(), "M1", "locked_rotor_ratio", "9"), "Q1", "rated_current_ac3_a", "12"),
        "contactor.locked_rotor", "Q1"));
}

/// Behind a supply of 10 kA, bolted: 1.1 x 10 kA and a little less for the wires.
TEST(Short, WhatTheFuseMustBreak)
{
    const DossierFile strong = wires(chosen({"short_circuit_ka=10"}), "Q0", 50, 0.1);
    const auto h = worst(strong, "short.capacity", "F1");
    ASSERT_TRUE(h);
    EXPECT_NEAR(h->needed, 11000, 500);
    EXPECT_NEAR(h->allowed, 50000, 1e-6);
    EXPECT_FALSE(isMet(with(strong, "F1", "breaking_ka", "10"), "short.capacity", "F1"));
    EXPECT_TRUE(isMet(with(strong, "F1", "breaking_ka", "15"), "short.capacity", "F1"));
    EXPECT_EQ(worst(with(strong, "F1", "breaking_ka", "10"), "short.capacity", "F1")->severity, Severity::Stop);
}

/// 2.5 times the largest I2t of the fuse's own table.
TEST(Short, WhatTheFuseLetsThrough)
{
    EXPECT_TRUE(isNotJudged(chosen(), "short.letthrough", "sizing.enter.sheet"));
    const DossierFile file = with(with(chosen(), "F1", "rated_current_a", "25"), "Q1", "weld_i2t_a2s", "8000");
    EXPECT_NEAR(worst(file, "short.letthrough", "Q1")->needed, 2.5 * 3000, 1e-6);
    EXPECT_TRUE(isMet(file, "short.letthrough", "Q1"));
    EXPECT_FALSE(isMet(with(file, "Q1", "weld_i2t_a2s", "7000"), "short.letthrough", "Q1"));
}

/// What a fuse of 25 A needs to open within 5 s is 110 A.
TEST(Loop, IsDeadInTimeOrNot)
{
    EXPECT_TRUE(isNotJudged(chosen(), "loop.disconnection", "sizing.enter.earth_return"));
    const DossierFile file = with(chosen(), "F1", "rated_current_a", "25");
    const auto h = worst(with(file, "G0", "earth_return_ohm", "0.05"), "loop.disconnection", "M1");
    ASSERT_TRUE(h);
    EXPECT_NEAR(h->needed, 110, 1);
    EXPECT_TRUE(h->isMet);
    const auto far = worst(with(file, "G0", "earth_return_ohm", "3"), "loop.disconnection", "M1");
    EXPECT_LT(far->allowed, 0.95 * 230 / 3);
    EXPECT_FALSE(far->isMet);
    EXPECT_EQ(far->severity, Severity::Stop);
    EXPECT_TRUE(isNotJudged(with(chosen(), "G0", "earthing", "tt"), "loop.tt", "sizing.enter.electrode"));
    EXPECT_FALSE(isNotJudged(chosen(), "loop.tt", "sizing.enter.electrode"));
}

/// What has a frame and is no motor on three lines: a heater of 2.3 kW behind 16 A, and a motor for one line.
TEST(Loop, IsDeadInTimeAtWhateverHasAFrame)
{
    const auto heater = [](const char* earthOhm) {
        DossierFile file = with(chosen(), "G0", "earth_return_ohm", earthOhm);
        file = device(file, "Q8", "contactor", {{"coil_voltage_v", 24.0}, {"coil_current", std::string("dc")}});
        file = device(file, "F8", "fuse", {{"poles", 3.0}, {"rated_current_a", 16.0}});
        file = device(file, "E1", "heater_three_phase",
            {{"rated_voltage_v", 400.0}, {"rated_power_w", 6000.0}, {"heats_in_s", 5.0}, {"cools_in_s", 5.0}});
        for (const auto& [a, b] : {std::pair{"Q1:A1", "Q8:A1"}, {"Q8:A2", "G1:-"}, {"Q0:2", "F8:1"}, {"Q0:4", "F8:3"},
                 {"Q0:6", "F8:5"}, {"F8:2", "Q8:1"}, {"F8:4", "Q8:3"}, {"F8:6", "Q8:5"}, {"Q8:2", "E1:U"},
                 {"Q8:4", "E1:V"}, {"Q8:6", "E1:W"}, {"E1:PE", "G0:PE"}}) {
            const auto joined = edit::withWire(file, a, b, {});
            EXPECT_TRUE(joined) << a << " " << b << " " << (joined ? "" : joined.error().message.id);
            file = *joined;
        }
        return file;
    };
    const auto near = worst(heater("0.05"), "loop.disconnection", "E1"),
               far = worst(heater("5"), "loop.disconnection", "E1");
    ASSERT_TRUE(near && far);
    EXPECT_NEAR(near->needed, 65, 10) << "what opens 16 A within 5 s: IEC 60269-1 has it within 65 A";
    EXPECT_TRUE(near->isMet);
    EXPECT_LT(far->allowed, 0.95 * (230.0 / 5 + 8.66)) << "its own current flows in the same fuse";
    EXPECT_FALSE(far->isMet);
    EXPECT_EQ(far->severity, Severity::Stop);
}

TEST(Loop, OfOneLineIsAskedForAndJudged)
{
    const DossierFile file = chosen({"base=single_phase", "motor=0.37kW"});
    ASSERT_EQ(file.dossier.circuit.device("M1")->kind, "motor_single_phase");
    EXPECT_TRUE(isNotJudged(file, "loop.disconnection", "sizing.enter.earth_return"));
    const auto near = worst(with(file, "G0", "earth_return_ohm", "0.1"), "loop.disconnection", "M1"),
               far = worst(with(file, "G0", "earth_return_ohm", "50"), "loop.disconnection", "M1");
    ASSERT_TRUE(near && far);
    EXPECT_TRUE(near->isMet);
    EXPECT_FALSE(far->isMet);
}

/// A stalled motor of 11 A at 7 times; a switch breaks 8 times its current.
TEST(Switch, OpensUnderAStall)
{
    EXPECT_TRUE(isNotJudged(chosen(), "switch.breaking", "sizing.enter.sheet"));
    const DossierFile file = with(chosen(), "M1", "locked_rotor_ratio", "7");
    const auto h = worst(with(file, "Q0", "rated_current_a", "16"), "switch.breaking", "Q0");
    ASSERT_TRUE(h);
    EXPECT_NEAR(h->needed, 77, 1.5);
    EXPECT_NEAR(h->allowed, 128, 1e-9);
    EXPECT_FALSE(isMet(with(file, "Q0", "rated_current_a", "8"), "switch.breaking", "Q0"));
    EXPECT_TRUE(isMet(with(file, "Q0", "breaking_current_a", "80"), "switch.breaking", "Q0"));
}

/// Every scenario so many times an hour.
DossierFile often(DossierFile file, double timesPerHour)
{
    file.dossier.machine.duty.isEntered = true;
    file.dossier.machine.duty.daysPerYear = 200;
    file.dossier.machine.duty.hoursPerDay = 10;
    for (const Scenario& s : file.dossier.scenarios)
        file.dossier.machine.duty.timesPerHour[s.id] = timesPerHour;
    return file;
}

/// 1e6 (Ie / I)2 operations: twice the current is a quarter of the life.
TEST(Contactor, ItsLife)
{
    EXPECT_TRUE(isNotJudged(chosen(), "contactor.life", "sizing.enter.rates"));
    const auto years = [](const char* rated, double times) {
        return worst(often(with(chosen(), "Q1", "rated_current_ac3_a", rated), times), "contactor.life", "Q1")->allowed;
    };
    const double once = years("22", 1);
    EXPECT_NEAR(years("11", 1) / once, 0.25, 0.001);
    EXPECT_NEAR(years("22", 10) / once, 0.1, 0.001);
    const auto h = worst(often(with(chosen(), "Q1", "rated_current_ac3_a", "22"), 1), "contactor.life", "Q1");
    EXPECT_NEAR(h->needed, 20, 1e-9) << "the mission time";
    EXPECT_FALSE(h->assumed.empty());
    const auto busy = worst(often(chosen(), 2000), "contactor.life", "Q1");
    EXPECT_FALSE(busy->isMet);
    EXPECT_EQ(busy->severity, Severity::Fix) << "below a year";
}

/// Let go before it has run up: 0.4 x AC-3.
TEST(Contactor, Inching)
{
    const DossierFile file = often(chosen({"operation=inching"}), 100);
    const auto h = worst(file, "contactor.duty", "Q1");
    if (h) {
        EXPECT_NEAR(h->allowed,
            0.4 * parametersOf(file.dossier.circuit, *file.dossier.circuit.device("Q1"))->number("rated_current_ac3_a"),
            1e-6);
        EXPECT_NEAR(h->needed, kPlateA, 0.3);
    }
    EXPECT_FALSE(worst(often(chosen(), 1), "contactor.duty", "Q1")) << "it is never broken before it has run up";
}

/// As many as heat it like 1.05 times its setting: n (heat of one - In2 t) = (1.05 set)2 - In2, times an hour.
TEST(Overload, StartsOfAnHour)
{
    const auto seldom = worst(often(chosen(), 1), "overload.duty", "F2"),
               busy = worst(often(chosen(), 400), "overload.duty", "F2");
    ASSERT_TRUE(seldom && busy);
    EXPECT_TRUE(seldom->isMet);
    EXPECT_FALSE(busy->isMet);
    EXPECT_NEAR(busy->needed / seldom->needed, 400, 0.01);
    EXPECT_DOUBLE_EQ(busy->allowed, seldom->allowed) << "it is the motor's and the relay's";
    const auto higher = worst(often(with(chosen(), "F2", "setting_a", "11.5"), 1), "overload.duty", "F2");
    const double rated = kPlateA * kPlateA,
                 factor = (std::pow(1.05 * 11.5, 2) - rated) / (std::pow(1.05 * 11, 2) - rated);
    EXPECT_NEAR(higher->allowed / seldom->allowed, factor, 0.05 * factor);
}

TEST(Contactor, TheFuseAheadOfIt)
{
    const auto fuse = [](const char* a) {
        return with(with(chosen(), "Q1", "rated_current_ac3_a", "12"), "F1", "rated_current_a", a);
    };
    EXPECT_TRUE(isMet(fuse("20"), "short.coordination", "Q1")) << "2 x 12";
    EXPECT_EQ(worst(fuse("25"), "short.coordination", "Q1")->severity, Severity::Note) << "type 1 only";
    EXPECT_EQ(worst(fuse("50"), "short.coordination", "Q1")->severity, Severity::Stop) << "above 4 x 12";
    EXPECT_FALSE(isMet(fuse("50"), "short.coordination", "Q1"));
}

TEST(Fuse, OutlastsTheStart)
{
    EXPECT_TRUE(isMet(chosen(), "fuse.start", "F1"));
    EXPECT_FALSE(isMet(with(chosen(), "F1", "rated_current_a", "10"), "fuse.start", "F1")) << "11 A through 10 A";
    // A heavy flywheel: it starts so long that the same fuse is near melting on its fastest curve.
    const DossierFile heavy = with(with(chosen(), "M1", "load_inertia_x", "40"), "F1", "rated_current_a", "16");
    const auto h = worst(heavy, "fuse.start", "F1");
    ASSERT_TRUE(h);
    EXPECT_EQ(h->unit, "s");
    EXPECT_FALSE(h->isMet);
}

TEST(Wire, LeastSections)
{
    EXPECT_TRUE(isMet(chosen(), "wire.minimum"));
    EXPECT_FALSE(isMet(wires(chosen(), "S2", 0.15), "wire.minimum")) << "0.2 inside, control";
    EXPECT_TRUE(isMet(wires(chosen(), "S2", 0.2), "wire.minimum"));
    EXPECT_FALSE(isMet(wires(chosen(), "F1", 0.5), "wire.minimum")) << "0.75 inside, power";
}

/// Table B1: 1.5 mm2 bears 13.5 A, 1 mm2 10.3 A; the motor needs 11.
TEST(Wire, Ampacity)
{
    const auto enough = worst(wires(chosen(), "F1", 1.5), "wire.ampacity");
    EXPECT_TRUE(enough->isMet);
    EXPECT_NEAR(enough->used(), kPlateA / 13.5, 0.03);
    const auto little = worst(wires(chosen(), "F1", 1.0), "wire.ampacity");
    EXPECT_FALSE(little->isMet);
    EXPECT_EQ(little->severity, Severity::Fix);
    EXPECT_EQ(worst(wires(chosen({"motor=30kW", "load=none"}), "F1", 1.0), "wire.ampacity")->severity, Severity::Stop);
    EXPECT_FALSE(little->assumed.empty()) << "how many lie together is not known";
}

/// Without an overload relay the fuse is what the lines must bear: 25 A through 1.5 mm2.
TEST(Wire, BearsWhatItsProtectionLetsFlow)
{
    const auto bare = worst(wires(chosen({"overload=none"}), "F1", 1.5), "wire.ampacity");
    ASSERT_TRUE(bare);
    EXPECT_NEAR(bare->needed, 25, 0.5);
    EXPECT_FALSE(bare->isMet);
    const auto set = worst(wires(with(chosen(), "F2", "setting_a", "14"), "F1", 1.5), "wire.ampacity");
    EXPECT_NEAR(set->needed, 14, 0.3) << "a relay that is set too high lets that much flow";
    EXPECT_FALSE(set->isMet);
}

/// A wire below the table is not passed over.
TEST(Wire, WhatNoTableHasIsNotSilent)
{
    EXPECT_TRUE(isNotJudged(wires(chosen(), "F1", 0.3), "wire.ampacity", "sizing.below_table"));
}

/// 4 A through 0.75 mm2, which bears 8.6; 10 A would be too much for it.
TEST(Wire, OfTheControlCircuitBearsTheFuseAheadOfIt)
{
    const auto wireTo = [](const DossierFile& file, double area) {
        return atWires(wires(file, "S2", area), "wire.ampacity", "S2");
    };
    const auto fine = wireTo(chosen(), 0.75), little = wireTo(with(chosen(), "F5", "rated_current_a", "10"), 0.75);
    ASSERT_TRUE(fine && little);
    EXPECT_NEAR(fine->used(), 4 / 8.6, 1e-6);
    EXPECT_NEAR(little->used(), 10 / 8.6, 1e-6);
    EXPECT_FALSE(little->isMet);
}

/// 1.5 mm2 by itself 13.5 A; three circuits together x 0.65, at 50 degC x 0.82.
TEST(Wire, LiesWithOthersAndInTheWarm)
{
    const auto laid = [](int circuits, double ambient) {
        const DossierFile file = wires(chosen(), "F1", 1.5);
        const auto route = edit::routeNamed(file.dossier.circuit, "cabinet");
        const auto loaded = edit::withRouteField(file, route, "loaded_circuits", std::to_string(circuits));
        return atWires(
            *edit::withRouteField(*loaded, route, "ambient_c", shortestText(ambient)), "wire.ampacity", "F1");
    };
    EXPECT_NEAR(laid(1, 40)->allowed, 13.5, 1e-9);
    EXPECT_EQ(laid(1, 40)->assumed, Texts{"insulation PVC 70"}) << "of the rest somebody has said so";
    EXPECT_NEAR(laid(2, 40)->allowed, 13.5 * 0.80, 1e-9);
    EXPECT_NEAR(laid(3, 40)->allowed, 13.5 * 0.65, 1e-9) << "the next larger number";
    EXPECT_NEAR(laid(1, 50)->allowed, 13.5 * 0.82, 1e-9);
    EXPECT_NEAR(laid(1, 47)->allowed, 13.5 * 0.82, 1e-9) << "the next warmer row";
    EXPECT_NEAR(laid(1, 30)->allowed, 13.5 * 1.15, 1e-9);
    EXPECT_FALSE(laid(1, 65)->isMet) << "nothing is known there";
    EXPECT_EQ(edit::withRouteField(chosen(), {9999}, "cores", "3").error().message.id, "edit.no_route");
    EXPECT_EQ(laid(1, 40)->isMet, true);
}

/// (115 x A)2 against what a fuse of 25 A lets through; presumed where the fuse protects the wire against overload.
TEST(Wire, AtAShort)
{
    EXPECT_TRUE(isMet(wires(chosen(), "F1", 2.5), "wire.short"));
    const auto thin = worst(wires(chosen(), "F1", 0.2), "wire.short");
    ASSERT_TRUE(thin);
    EXPECT_NEAR(thin->allowed, std::pow(115 * 0.2, 2), 1e-6);
    EXPECT_FALSE(thin->isMet);
    EXPECT_EQ(thin->severity, Severity::Stop);
    EXPECT_TRUE(isNotJudged(chosen(), "wire.short", "sizing.enter.incoming_fuse"));
    EXPECT_FALSE(
        isNotJudged(with(chosen(), "G0", "incoming_fuse_a", "63"), "wire.short", "sizing.enter.incoming_fuse"));
}

/// sqrt3 x 11 A x (13.3 mohm/m x 1.1965 x 100 m x cos + 0.08 mohm/m x 100 m x sin), the cable alone; 5 % are 20 V.
TEST(Wire, DropByHand)
{
    DossierFile file = chosen({"motor=5.5kW,11A,0.83,1455"});
    for (Wire& w : file.dossier.circuit.wires)
        if (file.dossier.circuit.nameOf(w.to).starts_with("M1:") && w.to.marking != "PE") {
            w.areaMm2 = 1.5;
            w.lengthM = 100;
        }
    const double sin = std::sqrt(1 - 0.83 * 0.83);
    const double cable = std::sqrt(3.0) * 11 * (0.0133 * 1.1965 * 100 * 0.83 + 0.00008 * 100 * sin);
    const auto h = worst(file, "wire.drop", "M1");
    ASSERT_TRUE(h);
    EXPECT_NEAR(h->needed, cable, 0.05 * cable) << "and a little in the cabinet";
    EXPECT_FALSE(h->isMet);
    EXPECT_DOUBLE_EQ(h->allowed, 20);
}

TEST(Wire, ProtectiveConductor)
{
    DossierFile file = chosen();
    EXPECT_TRUE(isMet(file, "wire.earth", "M1"));
    for (Wire& w : file.dossier.circuit.wires)
        if (w.to.marking == "PE")
            w.areaMm2 = 0.5;
    EXPECT_FALSE(isMet(file, "wire.earth", "M1"));
    EXPECT_EQ(worst(file, "wire.earth", "M1")->severity, Severity::Stop);
}

TEST(Coil, ItsVoltageAndKindOfCurrent)
{
    EXPECT_TRUE(isMet(chosen(), "coil.kind", "Q1"));
    EXPECT_FALSE(isMet(with(chosen(), "Q1", "coil_voltage_v", "21"), "coil.kind", "Q1")) << "24 / 21 = 1.14";
    EXPECT_EQ(worst(with(chosen(), "Q1", "coil_current", "ac"), "coil.kind", "Q1")->severity, Severity::Stop);
    EXPECT_TRUE(isMet(chosen(), "control.voltage", "Q1"));
}

/// R300 at 24 V DC: 28 VA / 24 V, at most the thermal 1 A; Q300: 69 / 24, at most 2.5.
TEST(Contact, ItsLoad)
{
    const auto h = worst(chosen(), "contact.load", "S1");
    ASSERT_TRUE(h);
    EXPECT_NEAR(h->allowed, 2.5, 1e-9);
    EXPECT_TRUE(h->isMet);
    const Texts many{
        "stop=ordinary_relay", "control=transformer_bonded", "motor=30kW", "load=none", "2.motor=30kW", "2.load=none"};
    EXPECT_LT(worst(chosen(many), "contact.load", "K0")->allowed, worst(chosen(many), "contact.load", "S1")->allowed)
        << "a relay bears less than a button";
}

TEST(Contact, TheFuseAheadOfIt)
{
    EXPECT_TRUE(isMet(chosen(), "short.contact_fuse", "K0"));
    const DossierFile large = with(chosen(), "F5", "rated_current_a", "10");
    EXPECT_FALSE(isMet(large, "short.contact_fuse", "K0")) << "6 A for a safety output";
    EXPECT_TRUE(isMet(large, "short.contact_fuse", "S1")) << "10 A for a button";
    EXPECT_EQ(worst(large, "short.contact_fuse", "K0")->severity, Severity::Stop);
}

TEST(Supply, ItsLoad)
{
    const auto h = worst(chosen(), "dc.load", "G1");
    ASSERT_TRUE(h);
    EXPECT_NEAR(h->allowed, 20, 1e-9);
    EXPECT_GT(h->needed, 0.3);
    EXPECT_FALSE(isMet(with(chosen(), "G1", "rated_current_a", "0.4"), "dc.load", "G1"));
}

/// All that leaves it counts, by however many wires.
TEST(Supply, ItsLoadByTwoWires)
{
    DossierFile file = chosen();
    const double one = worst(file, "dc.load", "G1")->needed;
    Device lamp;
    lamp.tag = "P9";
    lamp.kind = "lamp";
    lamp.parameters = {{"rated_voltage_v", 24.0}, {"rated_current_a", 2.0}};
    file = *edit::withDevice(file, lamp);
    file = *edit::withWire(file, "G1:+", "P9:X1", {});
    file = *edit::withWire(file, "G1:-", "P9:X2", {});
    EXPECT_NEAR(worst(file, "dc.load", "G1")->needed, one + 2.0, 0.05);
}

TEST(Transformer, ItsLoad)
{
    const Texts said{"control=transformer_bonded", "stop=contactor_relay"};
    const auto h = worst(chosen(said), "transformer.inrush", "T1");
    ASSERT_TRUE(h);
    EXPECT_TRUE(h->isMet);
    const auto half = worst(with(chosen(said), "T1", "rated_va", "125"), "transformer.inrush", "T1");
    EXPECT_GT(half->used(), 1.8 * h->used()) << "half the size";
    bool wasTooSmall = false; // before the contactor does not come in at all
    for (const char* va : {"60", "40", "30", "25", "20", "16", "13"})
        if (const auto less = worst(with(chosen(said), "T1", "rated_va", va), "transformer.inrush", "T1"))
            wasTooSmall |= !less->isMet;
    EXPECT_TRUE(wasTooSmall);
}

/// 250 VA at 400 V: 0.625 A, a rush of 12.5 A for half a period, 0.78 A2s; a fuse of 2 A holds 1 A2s.
TEST(Transformer, TheFuseAheadOfIt)
{
    const DossierFile file = chosen({"control=transformer_bonded", "stop=contactor_relay"});
    const auto primary = [&file](const char* ratedA) {
        return worst(with(file, "F3", "rated_current_a", ratedA), "transformer.primary", "T1");
    };
    EXPECT_TRUE(primary("2")->isMet);
    EXPECT_FALSE(primary("1")->isMet) << "melts when the machine is switched on";
    EXPECT_FALSE(primary("4")->isMet) << "does not see a short of the secondary in time";
    EXPECT_EQ(primary("4")->unit, "A");
}

/// 250 VA at 230 V: 1.09 A.
TEST(Transformer, TheFuseBehindIt)
{
    const DossierFile file = chosen({"control=transformer_bonded", "stop=contactor_relay"});
    const auto h = worst(file, "transformer.secondary", "T1");
    ASSERT_TRUE(h);
    EXPECT_NEAR(h->allowed, 250.0 / 230, 1e-9);
    EXPECT_TRUE(h->isMet);
    EXPECT_FALSE(isMet(with(file, "F4", "rated_current_a", "2"), "transformer.secondary", "T1"));
    EXPECT_TRUE(isMet(file, "transformer.selective", "T1"));
    EXPECT_FALSE(isMet(
        with(with(file, "F4", "rated_current_a", "10"), "F3", "rated_current_a", "1"), "transformer.selective", "T1"));
}

/// The coil's current over the warm wires there and back, of which it may lack 0.99 - 0.85.
TEST(Coil, IsReachedByEnoughOfIt)
{
    const auto near = worst(chosen(), "dc.coil", "Q1"), far = worst(wires(chosen(), "Q1", 0.5, 400), "dc.coil", "Q1");
    ASSERT_TRUE(near && far);
    EXPECT_TRUE(near->isMet);
    EXPECT_FALSE(far->isMet);
    EXPECT_NEAR(far->allowed, 0.14, 1e-9);
    const DossierFile alternating = chosen({"control=transformer_bonded", "stop=contactor_relay"});
    EXPECT_TRUE(isMet(alternating, "transformer.coil", "Q1"));
    EXPECT_FALSE(isMet(wires(alternating, "Q1", 0.5, 600), "transformer.coil", "Q1"));
}

/// 4 A need 18.5 A to open in 5 s: a supply of 20 A gives 22, one of 10 A only 11.
TEST(Supply, OpensAFuseFarAway)
{
    const auto h = worst(chosen(), "dc.far_short", "F5");
    ASSERT_TRUE(h);
    EXPECT_NEAR(h->needed, 18.5, 0.1);
    EXPECT_NEAR(h->allowed, 22, 0.1);
    EXPECT_TRUE(h->isMet);
    EXPECT_FALSE(isMet(with(chosen(), "G1", "rated_current_a", "10"), "dc.far_short", "F5"));
}

TEST(Supply, PullsInWhatItHolds)
{
    const auto h = worst(chosen(), "dc.inrush", "G1");
    ASSERT_TRUE(h);
    EXPECT_TRUE(h->isMet);
    EXPECT_NEAR(h->allowed, 22, 1e-9);
    EXPECT_FALSE(isMet(with(chosen(), "G1", "rated_current_a", "0.3"), "dc.inrush", "G1"));
}

/// From 0.99 of 24 V it may fall to 0.85 at the relay.
TEST(SafetyRelay, ItsSupply)
{
    EXPECT_TRUE(isMet(chosen(), "relay.supply", "K0"));
    EXPECT_FALSE(isMet(with(chosen(), "K0", "supply_low_x", "0.995"), "relay.supply", "K0")) << "0.99 is all there is";
}

/// 50 ohm, assumed: 0.2 mm2 has about 0.11 ohm/m when warm, there and back.
TEST(SafetyRelay, ItsLoop)
{
    const auto h = worst(wires(chosen(), "S0", 0.2, 100), "relay.loop", "K0");
    ASSERT_TRUE(h);
    EXPECT_NEAR(h->allowed, 50, 1e-9);
    EXPECT_GT(h->needed, 15);
    EXPECT_LT(h->needed, 35);
    EXPECT_TRUE(h->isMet);
    EXPECT_FALSE(isMet(wires(chosen(), "S0", 0.2, 300), "relay.loop", "K0"));
    EXPECT_TRUE(
        isMet(with(wires(chosen(), "S0", 0.2, 300), "K0", "input_loop_resistance_ohm", "100"), "relay.loop", "K0"));
}

/// A label with the waiting time is allowed: a note.
TEST(Drive, DischargesInTime)
{
    const DossierFile file = chosen({"base=drive"});
    std::string tag;
    for (const Device& d : file.dossier.circuit.devices)
        if (d.kind == "drive")
            tag = d.tag;
    EXPECT_TRUE(isNotJudged(file, "residual.voltage", "sizing.enter.sheet"));
    EXPECT_TRUE(isMet(with(file, tag.c_str(), "discharge_time_s", "4"), "residual.voltage", tag.c_str()));
    const auto slow = worst(with(file, tag.c_str(), "discharge_time_s", "300"), "residual.voltage", tag.c_str());
    EXPECT_FALSE(slow->isMet);
    EXPECT_EQ(slow->severity, Severity::Note);
}

TEST(Monitor, ItsWindow)
{
    const DossierFile file = chosen({"monitor=voltage"});
    std::string tag;
    for (const Device& d : file.dossier.circuit.devices)
        if (d.kind == "phase_monitor")
            tag = d.tag;
    const auto h = worst(with(file, tag.c_str(), "unbalance_pct", "5"), "monitor.window", tag.c_str());
    ASSERT_TRUE(h);
    EXPECT_TRUE(h->isMet);
    EXPECT_FALSE(isMet(with(file, tag.c_str(), "unbalance_pct", "50"), "monitor.window", tag.c_str()));
    EXPECT_EQ(worst(with(file, tag.c_str(), "unbalance_pct", "2"), "monitor.window", tag.c_str())->note.id,
        "sizing.monitor.narrow");
}

/// From the supply to the motor, in the order of the current; nothing that it does not pass.
TEST(Walk, PassesWhatTheCurrentPasses)
{
    const DossierFile file = chosen();
    const Sized s = sized(file);
    ASSERT_EQ(s.walks.size(), 2u);
    Texts power, control;
    for (const Walk& w : s.walks)
        for (const Station& station : w.stations)
            if (const Device* d = file.dossier.circuit.device(station.device))
                (w.isControl ? control : power).push_back(d->tag);
    EXPECT_EQ(power.front(), "Q0");
    EXPECT_EQ(power.back(), "F2");
    EXPECT_LT(std::find(power.begin(), power.end(), "F1") - power.begin(),
        std::find(power.begin(), power.end(), "Q1") - power.begin());
    EXPECT_EQ(std::find(power.begin(), power.end(), "S2"), power.end());
    EXPECT_EQ(control.front(), "F5");
    EXPECT_EQ(std::find(control.begin(), control.end(), "F1"), control.end());
    for (const Walk& w : s.walks)
        for (const Station& station : w.stations)
            if (!w.isControl && station.device) {
                EXPECT_NEAR(station.runA, kPlateA, 0.3);
                EXPECT_GT(station.startA, 4 * kPlateA);
                EXPECT_GT(station.shortA, station.startA);
            }
}

/// Volts fall along the way to the coil, never rise.
TEST(Walk, LosesVoltsOnTheWayToTheCoil)
{
    const Sized s = sized(wires(chosen(), "Q1", 0.5, 50));
    for (const Walk& w : s.walks) {
        if (!w.isControl)
            continue;
        double before = HUGE_VAL;
        for (const Station& station : w.stations) {
            EXPECT_LE(station.volts, before + 1e-6);
            before = station.volts;
        }
        EXPECT_LT(w.volts, w.ratedV);
        EXPECT_GT(w.volts, 0.8 * w.ratedV);
    }
}

/// Nobody is told that all is well where nothing was looked at.
TEST(Sized, SaysWhatItDidNotJudge)
{
    const DossierFile file = chosen({"base=star_delta", "motor=30kW", "load=none"});
    const Sized s = sized(file);
    EXPECT_TRUE(isNotJudged(file, "wire.ampacity", "sizing.enter.loaded_circuits"));
    EXPECT_TRUE(isNotJudged(file, "cabinet.heat", "sizing.enter.enclosure"));
    EXPECT_TRUE(s.notHere.empty()) << "every rule of the table is judged";
    EXPECT_TRUE(std::is_sorted(s.all.begin(), s.all.end(), [](const Headroom& a, const Headroom& b) {
        return std::pair(!a.isShare, a.isShare ? -a.used() : 0.0) < std::pair(!b.isShare, b.isShare ? -b.used() : 0.0);
    })) << "the worst first";
}

TEST(Sized, TheDemosNameWhatIsTight)
{
    const auto whole = io::loadDossier(test::sourcePath("data/demo/larkspur_db2.sentry"));
    ASSERT_TRUE(whole);
    Texts unmet;
    for (const Headroom& h : sized(*whole).all)
        if (!h.isMet)
            unmet.push_back(h.rule + " " + whole->dossier.circuit.device(h.device)->tag);
    EXPECT_EQ(unmet, Texts{"contact.load B1"}) << "the monitor's contact carries the coils of three starters";
    for (const Headroom& h : sized(test::demoFile()).all)
        EXPECT_TRUE(h.isMet) << h.rule;
    for (const NotJudged& n : sized(*whole).notJudged)
        ADD_FAILURE() << n.rule << " " << n.enter.id << ": its sheets say everything";
}

TEST(Sized, CanBeCancelled)
{
    std::stop_source stop;
    stop.request_stop();
    EXPECT_EQ(sizesOf(test::demoFile().dossier, {}, stop.get_token()).error().code, ErrorCode::Cancelled);
}

/// Silence about what is no three-phase motor would look like approval.
TEST(OtherLoads, AreSaidToBeNotJudged)
{
    const auto isLeftToPeople = [](const std::vector<std::string>& with) {
        return isNotJudged(
            *patterns::machine(*patterns::advised(with)), "contactor.current", "sizing.enter.other_load");
    };
    EXPECT_TRUE(isLeftToPeople({"base=single_phase", "motor=0.37kW"}));
    EXPECT_TRUE(isLeftToPeople({"base=dc_motor", "motor=0.1kW"}));
    EXPECT_FALSE(isLeftToPeople({"base=direct"}));
}

} // namespace
} // namespace ts::sizing
