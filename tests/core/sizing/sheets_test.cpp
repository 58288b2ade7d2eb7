// What a sheet says wins over what is assumed; and the heat of an enclosure, by hand.

#include "core/simulation/plant.h"
#include "tests/core/sizing/chosen.h"

#include <numbers>

namespace ts::sizing {
namespace {

bool isAssumed(const Headroom& h, const std::string& figure)
{
    return std::find(h.assumed.begin(), h.assumed.end(), figure) != h.assumed.end();
}

/// A fuse of 25 A ahead of a contactor that bears 35 A at type 1.
TEST(Sheets, CoordinationOfTheContactor)
{
    const DossierFile file = with(with(chosen(), "F1", "rated_current_a", "25"), "Q1", "largest_fuse_type1_a", "35");
    EXPECT_TRUE(isMet(with(file, "Q1", "largest_fuse_type2_a", "25"), "short.coordination", "Q1"));
    const auto light = worst(with(file, "Q1", "largest_fuse_type2_a", "20"), "short.coordination", "Q1");
    EXPECT_FALSE(light->isMet);
    EXPECT_EQ(light->severity, Severity::Note) << "only type 1";
    EXPECT_FALSE(isAssumed(*light, "Q1 largest_fuse_type2_a"));
    const auto bad = worst(with(with(file, "Q1", "largest_fuse_type2_a", "10"), "Q1", "largest_fuse_type1_a", "20"),
        "short.coordination", "Q1");
    EXPECT_EQ(bad->severity, Severity::Stop);
}

TEST(Sheets, CoordinationOfTheOverloadRelay)
{
    const DossierFile file = with(chosen(), "F1", "rated_current_a", "25");
    EXPECT_FALSE(worst(file, "short.coordination", "F2")) << "nobody knows";
    EXPECT_FALSE(isMet(with(file, "F2", "largest_fuse_type2_a", "20"), "short.coordination", "F2"));
    EXPECT_TRUE(isMet(with(file, "F2", "largest_fuse_type2_a", "25"), "short.coordination", "F2"));
}

/// R300 at 24 V: 28 VA make 1.17 A, and its thermal current is 1 A.
TEST(Sheets, ContactsByTheirDesignation)
{
    const auto small = worst(with(chosen(), "S1", "contact_rating_dc", "R300"), "contact.load", "S1");
    EXPECT_TRUE(std::abs(small->allowed - 1.0) < 1e-9 || std::abs(small->allowed - 1.1) < 1e-9) << small->allowed;
    EXPECT_FALSE(isAssumed(*small, "S1 contact_rating_dc"));
    EXPECT_TRUE(isAssumed(*worst(chosen(), "contact.load", "S1"), "S1 contact_rating_dc"));
    EXPECT_FALSE(isMet(with(chosen(), "S1", "contact_largest_fuse_a", "2"), "short.contact_fuse", "S1"))
        << "a fuse of 4 A lies ahead";
    EXPECT_TRUE(isMet(with(chosen(), "S1", "contact_largest_fuse_a", "4"), "short.contact_fuse", "S1"));
}

TEST(Sheets, OutputsOfASafetyRelay)
{
    const DossierFile file = chosen({"stop=two_channel_relay"});
    const auto assumed = worst(file, "contact.load", "K0");
    ASSERT_TRUE(assumed);
    EXPECT_TRUE(assumed->isMet);
    EXPECT_FALSE(isMet(with(file, "K0", "output_rating_dc13_a", "0.1"), "contact.load", "K0"));
    EXPECT_FALSE(isMet(with(file, "K0", "output_fuse_gg_a", "2"), "short.contact_fuse", "K0"));
}

/// Z = U^2 / S with its power factor, in both positions.
TEST(Sheets, ACoilsPower)
{
    DossierFile file = chosen({"control=transformer_bonded", "stop=contactor_relay"});
    for (const auto& [name, value] : {std::pair{"coil_inrush_va", "120"}, {"coil_inrush_pf", "0.6"},
             {"coil_hold_va", "11"}, {"coil_hold_pf", "0.3"}})
        file = with(file, "Q1", name, value);
    const Plant plant = *compile(file.dossier.circuit);
    const auto coil = std::find_if(plant.coils.begin(), plant.coils.end(), [&](const PlantCoil& c) {
        return plant.devices[static_cast<std::size_t>(plant.movers[static_cast<std::size_t>(c.mover)].device)].tag
            == "Q1";
    });
    ASSERT_NE(coil, plant.coils.end());
    const double u = coil->data.ratedV;
    EXPECT_NEAR(std::abs(coil->data.openOhm), u * u / 120, 1e-6);
    EXPECT_NEAR(std::cos(std::arg(coil->data.openOhm)), 0.6, 1e-9);
    EXPECT_NEAR(std::abs(coil->data.sealedOhm), u * u / 11, 1e-6);
    EXPECT_NEAR(std::cos(std::arg(coil->data.sealedOhm)), 0.3, 1e-9);
}

/// s - 0.85 is what a coil may lose on the way; s is 0.99 behind a 24 V supply and 0.9 behind the lines.
TEST(Sheets, WhatACoilMayLose)
{
    const auto allowed = [](const DossierFile& file, const char* rule) { return worst(file, rule, "Q1")->allowed; };
    EXPECT_NEAR(allowed(chosen(), "dc.coil"), 0.99 - 0.85, 1e-9);
    EXPECT_NEAR(allowed(with(chosen(), "Q1", "coil_low_x", "0.95"), "dc.coil"), 0.99 - 0.95, 1e-9);
    EXPECT_NEAR(allowed(with(chosen(), "G1", "output_low_x", "0.95"), "dc.coil"), 0.95 - 0.85, 1e-9);
    const DossierFile lines = chosen({"control=transformer_bonded", "stop=contactor_relay"});
    EXPECT_NEAR(allowed(lines, "transformer.coil"), 0.9 - 0.85, 1e-9);
    EXPECT_NEAR(allowed(with(lines, "G0", "low_x", "0.95"), "transformer.coil"), 0.95 - 0.85, 1e-9);
}

/// The slowest relay of class 10A at 7.2 times: 10 s.
TEST(Sheets, AStalledMotorIsGoneInTime)
{
    const DossierFile file = with(chosen(), "F2", "trip_class", "10A");
    EXPECT_FALSE(isMet(with(file, "M1", "stall_time_s", "5"), "overload.class", "F2"));
    const auto slow = worst(with(file, "M1", "stall_time_s", "5"), "overload.class", "F2");
    EXPECT_NEAR(slow->allowed, 5, 1e-9);
    EXPECT_GT(slow->needed, 8);
    EXPECT_LT(slow->needed, 16);
    EXPECT_TRUE(isMet(with(file, "M1", "stall_time_s", "30"), "overload.class", "F2"));
    EXPECT_FALSE(isNotJudged(file, "overload.class", "sizing.enter.sheet"));
    EXPECT_TRUE(isNotJudged(with(file, "F2", "trip_class", "20"), "overload.class", "sizing.enter.sheet"))
        << "above class 10 it is asked for";
}

TEST(Sheets, StartsAnHour)
{
    const DossierFile file = with(chosen({"starts_per_hour=60"}), "M1", "starts_per_hour_max", "30");
    const auto h = worst(file, "overload.duty", "M1");
    ASSERT_TRUE(h);
    EXPECT_NEAR(h->needed, 60, 1e-9);
    EXPECT_FALSE(h->isMet);
    EXPECT_TRUE(isMet(with(file, "M1", "starts_per_hour_max", "90"), "overload.duty", "M1"));
}

/// 1.05 x 1.15 x 11 A = 13.3 A.
TEST(Sheets, AServiceFactorThatIsMadeUseOf)
{
    const DossierFile file = with(chosen(), "F2", "setting_a", "13");
    EXPECT_FALSE(isMet(file, "overload.setting", "F2"));
    const auto h = worst(with(file, "M1", "service_factor", "1.15"), "overload.setting", "F2");
    EXPECT_TRUE(h->isMet);
    EXPECT_EQ(h->note.id, "sizing.overload.factor") << "a note all the same";
}

/// Cut off before the first peak: (3 sqrt2 w Ik I2t)^(1/3).
TEST(Sheets, ThePeakThatAFuseLetsThrough)
{
    const DossierFile strong = wires(chosen({"short_circuit_ka=10"}), "Q0", 50, 0.1);
    const double ik = worst(strong, "short.capacity", "F1")->needed;
    const double i2t = worst(with(strong, "Q1", "weld_i2t_a2s", "8000"), "short.letthrough", "Q1")->needed;
    const double peak = std::cbrt(3 * std::numbers::sqrt2 * 2 * std::numbers::pi * 50 * ik * i2t);
    DossierFile file = with(with(strong, "Q1", "weld_i2t_a2s", "1e7"), "Q1", "weld_peak_a", "1000");
    const auto h = worst(file, "short.letthrough", "Q1");
    EXPECT_EQ(h->unit, "A");
    EXPECT_NEAR(h->needed, peak, 0.01 * peak);
    EXPECT_FALSE(h->isMet);
    EXPECT_TRUE(isMet(with(file, "Q1", "weld_peak_a", "10000"), "short.letthrough", "Q1"));
}

/// 250 VA at 400 V take 0.625 A; 40 times that, a half sine of 10 ms: (25 A)^2 x 5 ms.
TEST(Sheets, ATransformersRush)
{
    const DossierFile file = with(
        chosen({"control=transformer_bonded", "stop=contactor_relay"}), "T1", "switch_on_x", "40");
    const Sized all = sized(file);
    const auto h = worst(with(file, "F3", "rated_current_a", "1"), "transformer.primary", "T1");
    ASSERT_TRUE(h);
    EXPECT_EQ(h->unit, "A2s");
    EXPECT_NEAR(h->needed, 25.0 * 25.0 * 0.005, 1e-9);
    EXPECT_FALSE(isAssumed(*h, "T1 switch_on_x"));
}

/// EN 60898-1 annex ZA: at up to 10 kA a C16 of class 3 lets 84 000 A2s through, a B16 70 000; without a class it is a
/// half wave of all.
TEST(Sheets, WhatABreakerLetsThrough)
{
    DossierFile file = with(test::demoFile(), "G0", "incoming_fuse_a", "1000");
    for (Wire& w : file.dossier.circuit.wires) { // so that the full current of the supply flows at the far end, too
        w.areaMm2 = 50;
        w.lengthM = 0.1;
    }
    const Circuit& c = file.dossier.circuit;
    const auto behindIt = [&c](const Headroom& h) {
        const Wire* w = c.wire(h.wire);
        return w && h.rule == "wire.short" && w->from.device == c.device("Q0")->id
            && w->to.device == c.device("F1")->id;
    };
    const auto needed = [&](const DossierFile& f) {
        double most = 0;
        for (const Headroom& h : sized(f).all)
            if (behindIt(h))
                most = std::max(most, h.needed);
        return most;
    };
    EXPECT_NEAR(needed(file), 84000, 1e-6);
    EXPECT_GT(needed(with(file, "Q0", "energy_class", "1")), 100000);
    EXPECT_NEAR(needed(with(file, "Q0", "characteristic", "B")), 70000, 1e-6);
}

TEST(Sheets, FilamentsTakeTenTimesWhenCold)
{
    const double without = worst(chosen(), "dc.inrush", "G1")->needed;
    DossierFile file = chosen();
    for (const char* lamp : {"P1", "P2", "P3"})
        file = with(file, lamp, "filament", "true");
    EXPECT_GT(worst(file, "dc.inrush", "G1")->needed, without + 0.05);
}

TEST(Sheets, ARatedCurrentIsForItsVoltage)
{
    EXPECT_FALSE(
        isNotJudged(with(chosen(), "Q1", "rated_voltage_v", "400"), "contactor.current", "sizing.enter.at_voltage"));
    EXPECT_TRUE(
        isNotJudged(with(chosen(), "Q1", "rated_voltage_v", "230"), "contactor.current", "sizing.enter.at_voltage"));
}

/// 2.3 kW at 230 V: 10 A, beside the motor.
TEST(Sheets, AHeaterByTheAc1Current)
{
    DossierFile file = device(
        chosen(), "Q8", "contactor", {{"coil_voltage_v", 24.0}, {"coil_current", std::string("dc")}});
    file = device(file, "E1", "heater",
        {{"rated_voltage_v", 230.0}, {"rated_power_w", 2300.0}, {"heats_in_s", 5.0}, {"cools_in_s", 5.0}});
    for (const auto& [a, b] :
        {std::pair{"Q1:A1", "Q8:A1"}, {"Q8:A2", "G1:-"}, {"F1:2", "Q8:1"}, {"Q8:2", "E1:1"}, {"E1:2", "G0:N"}}) {
        const auto joined = edit::withWire(file, a, b, {});
        ASSERT_TRUE(joined) << a;
        file = *joined;
    }
    const auto h = worst(file, "contactor.current", "Q8");
    ASSERT_TRUE(h);
    EXPECT_NEAR(h->needed, 10, 0.3) << "nothing of the motor's";
    EXPECT_NEAR(h->allowed, 1.5 * 9, 1e-9);
    EXPECT_FALSE(isMet(with(file, "Q8", "rated_current_ac1_a", "9"), "contactor.current", "Q8"));
    EXPECT_TRUE(isMet(with(file, "Q8", "rated_current_ac1_a", "25"), "contactor.current", "Q8"));
}

DossierFile enclosed(const DossierFile& file, double w, double h, double d, const char* mounting = "wall")
{
    return device(file, "U1", "exposed_part",
        {{"width_m", w}, {"height_m", h}, {"depth_m", d}, {"mounting", std::string(mounting)}});
}

/// IEC 60890: at a wall 1.4 W (H + D) + 1.8 D H, free 1.8 H (W + D) + 1.4 W D; 5.5 W/(m2 K); 55 - 40 K.
TEST(Heat, GoesThroughTheWalls)
{
    const auto wall = worst(enclosed(chosen(), 0.4, 0.6, 0.25), "cabinet.heat", "U1"),
               free = worst(enclosed(chosen(), 0.4, 0.6, 0.25, "free"), "cabinet.heat", "U1");
    ASSERT_TRUE(wall && free);
    const double atWall = 1.4 * 0.4 * 0.85 + 1.8 * 0.25 * 0.6, all = 1.8 * 0.6 * 0.65 + 1.4 * 0.4 * 0.25;
    EXPECT_NEAR(wall->needed / free->needed, all / atWall, 1e-9);
    EXPECT_NEAR(wall->allowed, 15, 1e-9);
    EXPECT_NEAR(worst(with(enclosed(chosen(), 0.4, 0.6, 0.25), "U1", "ambient_c", "50"), "cabinet.heat", "U1")->allowed,
        5, 1e-9);
    // By hand: three poles each of a 25 A fuse (3 W), of the contactor and of the relay at its setting (2 W), a coil of
    // 24 V, and 0.12 of what the 24 V supply gives.
    const DossierFile file = with(
        with(chosen({"stop=straight"}), "F1", "rated_current_a", "25"), "F2", "setting_a", "11");
    const auto q1 = parametersOf(file.dossier.circuit, *file.dossier.circuit.device("Q1"));
    const double ac3 = q1->number("rated_current_ac3_a");
    const double coil = deviceDefault("contactor to 7.5 kW", "power_dc").nominal;
    const double given = worst(file, "dc.load", "G1")->needed;
    const double watts = 3 * 3.0 * std::pow(kPlateA / 25, 2) + 3 * 2.0
        + 3
            * (ac3 <= 9         ? 0.3
                    : ac3 <= 12 ? 0.5
                                : 1.0)
            * std::pow(kPlateA / ac3, 2)
        + coil + 0.12 * 24 * given;
    const auto h = worst(enclosed(file, 0.4, 0.6, 0.25), "cabinet.heat", "U1");
    EXPECT_NEAR(h->needed * 5.5 * atWall / 1.1, watts, 0.03 * watts);
}

TEST(Heat, IsNotJudgedWithoutASize)
{
    EXPECT_TRUE(isNotJudged(chosen(), "cabinet.heat", "sizing.enter.enclosure"));
    EXPECT_FALSE(isNotJudged(enclosed(chosen(), 0.4, 0.6, 0.25), "cabinet.heat", "sizing.enter.enclosure"));
    EXPECT_FALSE(isMet(enclosed(chosen({"base=drive"}), 0.3, 0.3, 0.15), "cabinet.heat", "U1"))
        << "3 % of the motor's power in a small box";
    const auto typed = edit::withEnclosure(chosen(), " 0.4 0.6  0.25");
    ASSERT_TRUE(typed) << typed.error().message.id;
    EXPECT_NEAR(worst(*typed, "cabinet.heat", "U1")->needed,
        worst(enclosed(chosen(), 0.4, 0.6, 0.25), "cabinet.heat", "U1")->needed, 1e-9);
    EXPECT_EQ(typed->dossier.circuit.wires, chosen().dossier.circuit.wires) << "no protective conductor is made up";
    for (const char* wrong : {"", "1", "1 1", "1 1 1 1", "1 1 x", "1 1 20", "1 1 -1"})
        EXPECT_FALSE(edit::withEnclosure(chosen(), wrong)) << wrong;
}

} // namespace
} // namespace ts::sizing
