// Figures of sheets, wires and routes: each moves its rule as the formula says, and none of them is needed.

#include "core/library/fields.h"
#include "tests/core/sizing/chosen.h"

#include <complex>

namespace ts::sizing {
namespace {

using Change = std::function<DossierFile(const DossierFile&)>;

DossierFile allWires(DossierFile file, const char* field, const char* text)
{
    for (const Wire& w : DossierFile(file).dossier.circuit.wires) {
        auto changed = edit::withWireField(file, w.id, field, text);
        EXPECT_TRUE(changed) << field << " " << text << (changed ? "" : changed.error().message.id);
        file = *changed;
    }
    return file;
}

DossierFile allRoutes(DossierFile file, const char* field, const char* text)
{
    for (const Route& r : DossierFile(file).dossier.circuit.routes)
        file = *edit::withRouteField(file, r.id, field, text);
    return file;
}

const Device& ofKind(const DossierFile& file, std::string_view kind)
{
    const auto& devices = file.dossier.circuit.devices;
    return *std::find_if(devices.begin(), devices.end(), [kind](const Device& d) { return d.kind == kind; });
}

const char* tagOf(const DossierFile& file, std::string_view kind)
{
    return ofKind(file, kind).tag.c_str();
}

/// IEC 60228 at 2.5 mm2: class 2 7.41, class 5 7.98 ohm/km, at 70 degC x 1.1965; reactance 0.08 ohm/km.
TEST(WireField, TheClassOfTheConductor)
{
    const DossierFile file = allWires(chosen({"motor=5.5kW,11A,0.83,1455"}), "area_mm2", "2.5");
    const double cos = 0.83, sin = std::sqrt(1 - cos * cos);
    const auto drop = [&](const char* word) {
        return worst(allWires(file, "conductor_class", word), "wire.drop", "M1")->needed;
    };
    const double five = 7.98 * 1.1965 * cos + 0.08 * sin, two = 7.41 * 1.1965 * cos + 0.08 * sin;
    EXPECT_NEAR(drop("2") / drop("5"), two / five, 1e-4);
    EXPECT_NEAR(drop("6") / drop("5"), 1.0, 1e-6) << "may have as much";
    EXPECT_NEAR(worst(file, "wire.drop", "M1")->needed, drop("5"), 1e-6) << "where nobody has said";
    EXPECT_EQ(worst(file, "wire.drop", "M1")->assumed, Texts{"conductors of class 5"}) << "and says so";
    EXPECT_TRUE(worst(allWires(file, "conductor_class", "5"), "wire.drop", "M1")->assumed.empty());
}

/// k of EN 60204-1 annex D: PVC 115, XLPE 143.
TEST(WireField, TheInsulationAtAShort)
{
    const DossierFile file = with(allWires(chosen(), "area_mm2", "2.5"), "G0", "incoming_fuse_a", "63");
    const auto pvc = worst(file, "wire.short"), said = worst(allWires(file, "insulation", "pvc_70"), "wire.short"),
               xlpe = worst(allWires(file, "insulation", "xlpe_90"), "wire.short");
    ASSERT_TRUE(pvc && said && xlpe);
    EXPECT_NEAR(said->allowed, std::pow(115 * 2.5, 2), 1e-6);
    EXPECT_NEAR(xlpe->allowed, std::pow(143 * 2.5, 2), 1e-6);
    EXPECT_NEAR(pvc->allowed, said->allowed, 1e-9);
    const auto isAssumed = [](const Headroom& h) {
        return std::find(h.assumed.begin(), h.assumed.end(), "insulation PVC 70") != h.assumed.end();
    };
    EXPECT_TRUE(isAssumed(*pvc));
    EXPECT_FALSE(isAssumed(*said));
}

/// Rubber for 60 degC may be 20 K above 40, PVC 30 K: its current goes with the root. More than 70 degC brings nothing.
TEST(WireField, TheInsulationAtALoad)
{
    const DossierFile file = wires(chosen(), "F1", 1.5);
    const auto bears = [&](const char* word) {
        return worst(allWires(file, "insulation", word), "wire.ampacity")->used();
    };
    EXPECT_NEAR(bears("rubber_60") / bears("pvc_70"), std::sqrt(30.0 / 20.0), 1e-9);
    EXPECT_NEAR(bears("xlpe_90"), bears("pvc_70"), 1e-9);
}

/// Table 6 at 1.5 mm2: B1 13.5, B2 13.1, C 15.2, E 16.1 A.
TEST(RouteField, TheMethodOfInstallation)
{
    const DossierFile file = wires(chosen(), "F1", 1.5);
    const auto used = [&](const char* word) { return worst(allRoutes(file, "method", word), "wire.ampacity")->used(); };
    EXPECT_NEAR(used("b2") / used("b1"), 13.5 / 13.1, 1e-9);
    EXPECT_NEAR(used("e") / used("b1"), 13.5 / 16.1, 1e-9);
    EXPECT_NEAR(worst(file, "wire.ampacity")->used(), used("b1"), 1e-9) << "in an enclosure, where nobody has said";
}

/// Outside, control: two cores 0.5, three and more 0.2 mm2; inside, power: stiff 0.75.
TEST(RouteField, HowItIsBuilt)
{
    DossierFile file = wires(chosen(), "S2", 0.3);
    for (const Route& r : DossierFile(file).dossier.circuit.routes)
        file = *edit::withRouteLaid(file, r.id, RouteKind::Cable);
    const auto least = [](const DossierFile& f) { return worst(f, "wire.minimum")->isMet; };
    EXPECT_TRUE(least(allRoutes(file, "construction", "multicore")));
    EXPECT_FALSE(least(allRoutes(file, "construction", "two_core")));
    EXPECT_TRUE(least(allRoutes(file, "cores", "5")));
    EXPECT_FALSE(least(allRoutes(file, "cores", "2")));
}

TEST(WireField, AGaugeIsASection)
{
    const DossierFile file = allWires(chosen(), "area_mm2", "16 AWG");
    EXPECT_NEAR(file.dossier.circuit.wires.front().areaMm2, 1.309, 0.0005);
    EXPECT_NEAR(gaugeAreaMm2(0), 53.475, 0.001) << "1/0";
    EXPECT_NEAR(allWires(chosen(), "area_mm2", "2/0 awg").dossier.circuit.wires.front().areaMm2, 67.43, 0.01);
    const WireId first = file.dossier.circuit.wires.front().id;
    for (const char* wrong : {"16 XYZ", "37 AWG", "5/0 AWG", "-1", "0", "2000", "nan", "1,5,"})
        EXPECT_EQ(edit::withWireField(file, first, "area_mm2", wrong).error().message.id, "field.range") << wrong;
    EXPECT_EQ(edit::withWireField(file, first, "insulation", "paper").error().message.id, "file.unknown_word");
    EXPECT_EQ(edit::withWireField(file, first, "length_m", "0").error().message.id, "edit.wire_size");
    EXPECT_FALSE(edit::withWireField(file, {9999}, "length_m", "1"));
    EXPECT_FALSE(edit::withWireField(file, first, "taste", "1"));
}

/// Written, the motor's current against it counts instead of that with the rotor held.
TEST(Figure, AContactorForMotorsOfHighEfficiency)
{
    const DossierFile file = with(with(chosen(), "M1", "locked_rotor_ratio", "9"), "Q1", "rated_current_ac3_a", "12");
    EXPECT_FALSE(isMet(file, "contactor.locked_rotor", "Q1")) << "99 A of 96";
    const auto made = worst(with(file, "Q1", "rated_current_ac3e_a", "12"), "contactor.locked_rotor", "Q1");
    EXPECT_TRUE(made->isMet);
    EXPECT_NEAR(made->used(), kPlateA / 12, 0.01);
    EXPECT_FALSE(isMet(with(file, "Q1", "rated_current_ac3e_a", "9"), "contactor.locked_rotor", "Q1"));
}

/// A motor for direct current on 24 V, by two poles in series.
TEST(Figure, VoltsThatPolesBreakOfDirectCurrent)
{
    const DossierFile file = chosen({"base=dc_motor", "motor=0.1kW"});
    const auto assumed = worst(file, "contact.dc_poles", "Q1");
    ASSERT_TRUE(assumed);
    EXPECT_TRUE(assumed->isMet);
    EXPECT_FALSE(assumed->assumed.empty());
    EXPECT_NEAR(assumed->needed, 24, 1);
    const auto less = worst(with(file, "Q1", "dc_volts_by_poles", "10 12 20"), "contact.dc_poles", "Q1"),
               more = worst(with(file, "Q1", "dc_volts_by_poles", "300 600 900"), "contact.dc_poles", "Q1");
    EXPECT_FALSE(less->isMet);
    EXPECT_EQ(less->severity, Severity::Stop);
    EXPECT_TRUE(more->isMet);
    EXPECT_TRUE(more->assumed.empty());
    const DeviceId id = file.dossier.circuit.device("Q1")->id;
    for (const char* wrong : {"24 12", "x", "1 2 3 4 5", "0"})
        EXPECT_FALSE(edit::withValue(file, id, "dc_volts_by_poles", wrong)) << wrong;
}

/// 0.5 A at 24 V by DC-13: makes 1.1 of it. Above its highest voltage the designation counts.
TEST(Figure, ContactsByTheirSheet)
{
    const auto own = worst(with(chosen(), "S1", "contact_rating_dc13_a", "0.5@24 0.1@110"), "contact.load", "S1");
    EXPECT_TRUE(std::abs(own->allowed - 0.5) < 1e-9 || std::abs(own->allowed - 0.55) < 1e-9) << own->allowed;
    EXPECT_TRUE(own->assumed.empty());
    const auto below = worst(with(chosen(), "S1", "contact_rating_dc13_a", "0.5@12"), "contact.load", "S1");
    EXPECT_FALSE(below->assumed.empty());
    const DossierFile alternating = chosen({"control=transformer_bonded", "stop=contactor_relay"});
    const auto ac = worst(with(alternating, "S1", "contact_rating_ac15_a", "6@240 3@400"), "contact.load", "S1");
    EXPECT_TRUE(std::abs(ac->allowed - 6) < 1e-9 || std::abs(ac->allowed - 60) < 1e-9) << ac->allowed;
    const DeviceId s1 = chosen().dossier.circuit.device("S1")->id;
    for (const char* wrong : {"3", "3@", "@24", "x@24", "3@24@5", "0@24", "3@0", "3@5000"})
        EXPECT_EQ(
            edit::withValue(chosen(), s1, "contact_rating_dc13_a", wrong).error().message.id, "kind.contact_rating")
            << wrong;
}

TEST(Figure, AClaimOfPelvNeedsABond)
{
    const DossierFile bonded = chosen(), unbonded = chosen({"control=dc24_unbonded"});
    EXPECT_TRUE(isMet(with(bonded, "G1", "pelv", "true"), "control.voltage", "G1"));
    EXPECT_FALSE(worst(unbonded, "control.voltage", "G1")) << "nobody claims it";
    const auto claimed = worst(with(unbonded, "G1", "pelv", "true"), "control.voltage", "G1");
    EXPECT_FALSE(claimed->isMet);
    EXPECT_EQ(claimed->severity, Severity::Fix);
    EXPECT_EQ(claimed->wrong.id, "sizing.pelv.unbonded");
}

/// All that hung on the 24 V supply comes from elsewhere.
DossierFile fedFromElsewhere()
{
    DossierFile file = chosen({"stop=contactor_relay"});
    Device other;
    other.tag = "G9";
    other.kind = "supply_external_24v";
    file = *edit::withDevice(file, other);
    Circuit& c = file.dossier.circuit;
    const DeviceId was = c.device("G1")->id, is = c.device("G9")->id;
    for (Wire& w : c.wires)
        for (TerminalRef* end : {&w.from, &w.to})
            if (end->device == was && (end->marking == "+" || end->marking == "-"))
                end->device = is;
    return file;
}

/// 2 A gG need some 9 A to open in 5 s.
TEST(Figure, TheFuseOfASupplyFromElsewhere)
{
    DossierFile file = fedFromElsewhere();
    ASSERT_TRUE(worst(file, "dc.far_short", "F5")) << "its own fuse is there";
    for (Wire& w : file.dossier.circuit.wires) // without it
        for (TerminalRef* end : {&w.from, &w.to})
            if (end->device == file.dossier.circuit.device("F5")->id)
                *end = {file.dossier.circuit.device("G9")->id, "+"};
    std::erase_if(file.dossier.circuit.wires, [](const Wire& w) { return w.from == w.to; });
    EXPECT_TRUE(isNotJudged(file, "dc.far_short", "sizing.enter.sheet"));
    const auto h = worst(with(file, "G9", "fuse_a", "2"), "dc.far_short", "G9");
    ASSERT_TRUE(h);
    EXPECT_TRUE(h->isMet);
    EXPECT_GT(h->needed, 4);
    EXPECT_LT(h->needed, 12);
    EXPECT_FALSE(isNotJudged(with(file, "G9", "fuse_a", "2"), "dc.far_short", "sizing.enter.sheet"));
}

TEST(Figure, TheLowestVoltageOfASupplyFromElsewhere)
{
    const DossierFile file = fedFromElsewhere();
    const auto allowed = [&](const char* share) {
        return worst(with(file, "G9", "output_low_x", share), "dc.coil", "Q1")->allowed;
    };
    EXPECT_NEAR(allowed("0.95"), 0.10, 1e-9) << "0.95 - 0.85";
    EXPECT_NEAR(allowed("0.9"), 0.05, 1e-9);
    EXPECT_NEAR(worst(file, "dc.coil", "Q1")->allowed, 0.05, 1e-9) << "EN 60204-1 clause 4.3.3";
}

/// 5500 / (1.732 x 400 x 11 x 0.83) = 0.869; within 0.15 x (1 - n) of what is written.
TEST(Figure, TheEfficiencyOfThePlate)
{
    const DossierFile file = chosen({"motor=5.5kW,11A,0.83,1455"});
    EXPECT_TRUE(isMet(with(file, "M1", "efficiency", "0.87"), "motor.current", "M1"));
    EXPECT_TRUE(isMet(with(file, "M1", "efficiency", "0.88"), "motor.current", "M1")) << "0.011 of 0.018";
    EXPECT_FALSE(isMet(with(file, "M1", "efficiency", "0.92"), "motor.current", "M1"));
    EXPECT_FALSE(isMet(with(file, "M1", "efficiency", "0.80"), "motor.current", "M1"));
}

/// Without a load V2/V1 falls to I0 / ILR.
TEST(Figure, TheCurrentWithoutLoad)
{
    const DossierFile file = with(chosen({"monitor=voltage"}), "M1", "locked_rotor_ratio", "8");
    const char* tag = tagOf(file, "phase_monitor");
    const DossierFile set = with(file, tag, "unbalance_pct", "5");
    const auto h = worst(with(set, "M1", "no_load_current_x", "0.4"), "monitor.window", tag);
    EXPECT_NEAR(h->allowed, 0.4 / 8 - 0.01, 1e-9);
    EXPECT_FALSE(h->isMet) << "5 % of the 4 % that are left";
    EXPECT_GT(worst(set, "monitor.window", tag)->allowed, h->allowed);
}

TEST(Figure, TheLeakageOfADrive)
{
    const DossierFile file = chosen({"base=drive"});
    const char* tag = tagOf(file, "drive");
    EXPECT_FALSE(worst(with(file, tag, "leakage_ma", "9"), "wire.earth", tag));
    const auto h = worst(with(file, tag, "leakage_ma", "11"), "wire.earth", tag);
    if (h) { // it has lines of its own
        EXPECT_NEAR(h->needed, 10, 1e-9);
        EXPECT_FALSE(h->isMet);
    }
    EXPECT_TRUE(h);
}

/// 0.09 uF x 1.414 x 1.1 x 400 V = 56 uC are exempt, 0.11 uF hold 68.
TEST(Figure, TheChargeOfADrive)
{
    const DossierFile file = chosen({"base=drive"});
    const char* tag = tagOf(file, "drive");
    EXPECT_FALSE(isNotJudged(with(file, tag, "dc_link_uf", "0.09"), "residual.voltage", "sizing.enter.sheet"));
    EXPECT_TRUE(isNotJudged(with(file, tag, "dc_link_uf", "0.11"), "residual.voltage", "sizing.enter.sheet"));
}

/// What it takes and gives is of its sheet; the contactor ahead of it counts by AC-1.
TEST(Figure, WhatADriveTakesAndGives)
{
    const DossierFile file = chosen({"base=drive"});
    const std::string tag = tagOf(file, "drive");
    EXPECT_TRUE(isNotJudged(file, "contactor.current", "sizing.enter.sheet"));
    EXPECT_TRUE(isNotJudged(file, "wire.ampacity", "sizing.enter.sheet"));
    const DossierFile read = with(with(file, tag.c_str(), "rated_input_a", "14"), tag.c_str(), "rated_output_a", "13");
    EXPECT_FALSE(isNotJudged(read, "contactor.current", "sizing.enter.sheet"));
    EXPECT_FALSE(isNotJudged(read, "wire.ampacity", "sizing.enter.sheet"));
    const auto own = worst(read, "contactor.current", tag.c_str());
    EXPECT_NEAR(own->used(), kPlateA / 13, 0.01);
    EXPECT_FALSE(isMet(with(read, tag.c_str(), "rated_output_a", "9"), "contactor.current", tag.c_str()));
    const auto lines = worst(with(read, tag.c_str(), "rated_input_a", "400"), "wire.ampacity");
    EXPECT_FALSE(lines->isMet);
    EXPECT_NEAR(lines->needed, 400, 1) << "all the way from the lines";
    EXPECT_EQ(lines->severity, Severity::Stop);
}

/// 100 m of 2.5 mm2, class 5: 7.98 mohm/m x 1.1965 are 0.955 ohm. 13 A and the plate's power factor behind it, 12 A and
/// the whole impedance (0.08 mohm/m) ahead of it.
TEST(Figure, TheDropOfADrivesCables)
{
    const DossierFile file = chosen({"base=drive"});
    const std::string tag = tagOf(file, "drive");
    EXPECT_TRUE(isNotJudged(file, "wire.drop", "sizing.enter.sheet"));
    DossierFile read = with(with(file, tag.c_str(), "rated_input_a", "12"), tag.c_str(), "rated_output_a", "13");
    for (Wire& w : read.dossier.circuit.wires)
        w.lengthM = 0.01;
    const Parameters plate = *parametersOf(file.dossier.circuit, *file.dossier.circuit.device("M1"));
    const double cos = plate.number("cos_phi"), sin = std::sqrt(1 - cos * cos);
    const auto behind = worst(wires(read, "M1", 2.5, 100), "wire.drop", "M1");
    ASSERT_TRUE(behind);
    EXPECT_NEAR(behind->needed, std::sqrt(3.0) * 13 * (0.955 * cos + 0.008 * sin), 0.1);
    EXPECT_NEAR(behind->allowed, 0.05 * 400, 1e-9);
    const auto drive = wires(wires(read, tag.c_str(), 2.5, 100), "M1", 2.5, 0.01);
    const auto ahead = worst(drive, "wire.drop", tag.c_str());
    ASSERT_TRUE(ahead);
    EXPECT_NEAR(ahead->needed, std::sqrt(3.0) * 12 * std::hypot(0.955, 0.008), 0.1);
    EXPECT_FALSE(isNotJudged(read, "wire.drop", "sizing.enter.sheet"));
}

/// IEC 60947-2: within 20 %. What a motor protection switch trips at is of its sheet; the start must stay below.
TEST(Figure, TheInstantaneousReleaseOfAMotorSwitch)
{
    DossierFile file = with(chosen(), "G0", "earth_return_ohm", "0.3");
    for (Device& d : file.dossier.circuit.devices)
        if (d.tag == "F1") { // in the place of the fuses
            d.kind = "motor_protection_switch";
            d.part.clear();
            d.parameters = {{"setting_a", kPlateA}};
        }
    const auto needed = [&](const char* times) {
        return worst(with(file, "F1", "instantaneous_x", times), "loop.disconnection", "M1");
    };
    const auto low = needed("8"), high = needed("16");
    ASSERT_TRUE(low && high);
    EXPECT_NEAR(high->needed / low->needed, 2.0, 1e-6) << "1.2 times so many times its setting";
    EXPECT_NEAR(low->needed, 1.2 * 8 * kPlateA, 1.2 * 8 * kPlateA * 0.1);
}

/// 60 m there and back of two channels make 0.3 nF/m x 120 m = 36 nF.
TEST(Figure, TheCapacitanceOfALoop)
{
    const DossierFile file = wires(chosen(), "S0", 0.75, 60);
    const auto used = [&](const char* nf) {
        return worst(with(file, "K0", "loop_capacitance_nf", nf), "relay.loop", "K0")->used();
    };
    EXPECT_NEAR(used("5") / used("10"), 2.0, 1e-9);
    EXPECT_GT(used("5"), 1.0);
}

/// A controller has its supply and its loops judged as a relay has, each module's channels.
TEST(Figure, OfASafetyController)
{
    const DossierFile file = chosen({"stop=controller"});
    const std::string tag = tagOf(file, "safety_controller");
    const auto used = [&](const DossierFile& f, const char* rule) { return worst(f, rule, tag.c_str())->used(); };
    EXPECT_TRUE(isMet(file, "relay.supply", tag.c_str()));
    EXPECT_FALSE(isMet(with(file, tag.c_str(), "supply_low_x", "0.995"), "relay.supply", tag.c_str()));
    const DossierFile far = wires(file, "S0", 0.2, 300);
    EXPECT_FALSE(isMet(far, "relay.loop", tag.c_str()));
    EXPECT_TRUE(isMet(with(far, tag.c_str(), "input_loop_resistance_ohm", "150"), "relay.loop", tag.c_str()));
    EXPECT_GT(used(with(file, tag.c_str(), "loop_capacitance_nf", "1"), "relay.loop"), used(file, "relay.loop"));
    EXPECT_NEAR(
        worst(with(with(file, tag.c_str(), "output_rating_dc13_a", "0.1"), tag.c_str(), "output_rating_ac15_a", "0.1"),
            "contact.load", tag.c_str())
            ->allowed,
        0.1, 0.0101)
        << "0.1 held, 0.11 made";
}

/// Beside the run: the two wires of a channel, 0.2 mm2 and 100 m each, at 70 degC.
TEST(Hand, TheLoopOfARelay)
{
    const double class5 = 39.0e-3 * 0.5 / 0.2; // ohm/m: the row of 0.5 mm2, by section
    const auto h = worst(wires(chosen(), "S0", 0.2, 100), "relay.loop", "K0");
    ASSERT_TRUE(h);
    EXPECT_NEAR(h->needed, 2 * 100 * class5 * 1.1965, 0.02 * h->needed);
}

/// Beside the run: a 24 V coil of so many watts behind 2 x 100 m of 0.5 mm2, 39 ohm/km at 20 degC.
TEST(Hand, ACoilFarAway)
{
    const DossierFile file = with(wires(chosen({"stop=straight"}), "Q1", 0.5, 100), "Q1", "coil_power_w", "3");
    const double coil = 24.0 * 24.0 / 3.0, line = 2 * 100 * 39.0e-3 * 1.1965;
    const auto h = worst(file, "dc.coil", "Q1");
    ASSERT_TRUE(h);
    EXPECT_NEAR(h->needed, 0.99 * line / (line + coil), 0.02 * h->needed + 0.002);
}

/// Beside the run: 1 - |1 / (1 + Zt Y)| with uk 6 % of 100 VA, 0.9 of it resistive, and one coil of 70 VA at cos 0.75.
TEST(Hand, ATransformersDrop)
{
    const DossierFile file = with(
        with(chosen({"control=transformer_bonded", "stop=straight", "lamps=none"}), "T1", "rated_va", "100"), "T1",
        "short_circuit_voltage_pct", "6");
    const auto h = worst(
        with(with(file, "Q1", "coil_inrush_va", "70"), "Q1", "coil_inrush_pf", "0.75"), "transformer.inrush", "T1");
    ASSERT_TRUE(h);
    ASSERT_EQ(h->unit, "V");
    const std::complex<double> y = 70 / (230.0 * 230.0) * std::complex<double>(0.75, -std::sqrt(1 - 0.75 * 0.75)),
                               zt = 0.06 * 230 * 230 / 100 * std::complex<double>(0.9, std::sqrt(1 - 0.81));
    const double drop = 1 - std::abs(1.0 / (1.0 + zt * y));
    EXPECT_NEAR(h->needed / (h->allowed / 0.05), drop, 0.02 * drop);
}

/// 26 V are 1.083 of 24.
TEST(Figure, TheHighestVoltageOfARelay)
{
    const DossierFile file = with(chosen(), "G1", "output_voltage_v", "26");
    EXPECT_TRUE(isMet(with(file, "K0", "supply_high_x", "1.1"), "relay.supply", "K0"));
    EXPECT_FALSE(isMet(with(file, "K0", "supply_high_x", "1.05"), "relay.supply", "K0"));
}

/// 27 V are 1.125 of 24.
TEST(Figure, TheHighestVoltageOfACoil)
{
    const DossierFile file = with(chosen(), "G1", "output_voltage_v", "27");
    EXPECT_FALSE(isMet(with(file, "Q1", "coil_high_x", "1.1"), "coil.kind", "Q1"));
    EXPECT_TRUE(isMet(with(file, "Q1", "coil_high_x", "1.2"), "coil.kind", "Q1"));
}

TEST(Figure, ATransformersRiseWithoutLoad)
{
    const DossierFile file = chosen({"control=transformer_bonded", "stop=contactor_relay"});
    const char* tag = tagOf(file, "control_transformer");
    EXPECT_TRUE(worst(file, "coil.kind", "Q1")->note.id.empty());
    EXPECT_EQ(worst(with(file, tag, "no_load_voltage_x", "1.1"), "coil.kind", "Q1")->note.id, "sizing.coil.high");
}

/// A supply of 10 A never opens a fuse of 4 A at 1.1 x; what goes on flowing decides how bad that is.
TEST(Figure, WhatASupplyGivesAtTheMost)
{
    const DossierFile file = with(chosen(), "G1", "rated_current_a", "10");
    const auto severity = [&](const char* times) {
        return worst(with(file, "G1", "current_limit_high_x", times), "dc.far_short", "F5")->severity;
    };
    EXPECT_EQ(severity("1"), Severity::Note) << "10 A through 1 mm2, which bears 10.3";
    EXPECT_EQ(severity("1.5"), Severity::Fix);
}

/// P / (5.5 A): 100 W more at a wall of 0.4 x 0.6 x 0.25 m.
TEST(Figure, TheLossOfATransformer)
{
    DossierFile file = chosen({"control=transformer_bonded", "stop=contactor_relay"});
    Device box;
    box.tag = "U1";
    box.kind = "exposed_part";
    box.parameters = {{"width_m", 0.4}, {"height_m", 0.6}, {"depth_m", 0.25}};
    file = *edit::withDevice(file, box);
    const char* tag = tagOf(file, "control_transformer");
    const auto needed = [&](const char* watts) {
        return worst(with(file, tag, "loss_w", watts), "cabinet.heat", "U1")->needed;
    };
    const double area = 1.4 * 0.4 * 0.85 + 1.8 * 0.25 * 0.6;
    EXPECT_NEAR(needed("150") - needed("50"), 1.1 * 100 / (5.5 * area), 0.2);
}

} // namespace
} // namespace ts::sizing
