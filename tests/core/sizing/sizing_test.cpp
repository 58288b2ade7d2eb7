// Sizes: both sides of each limit, against hand calculation. The starter is a motor of 5.5 kW, 11 A, by itself; each
// test changes one thing.

#include "core/edit/circuit_edits.h"
#include "core/edit/device_edits.h"
#include "core/library/table.h"
#include "core/patterns/advice.h"
#include "core/patterns/machine.h"
#include "core/sizing/sizing.h"
#include "tests/support/circuits.h"

#include <algorithm>
#include <cmath>

namespace ts::sizing {
namespace {

using Texts = std::vector<std::string>;
constexpr double kPlateA = 11.0;

DossierFile chosen(const Texts& said = {})
{
    return *patterns::machine(*patterns::advised(said));
}

DossierFile with(DossierFile file, const char* tag, const char* name, const char* value)
{
    auto changed = edit::withValue(file, file.dossier.circuit.device(tag)->id, name, value);
    EXPECT_TRUE(changed) << tag << " " << name << " " << value;
    return *changed;
}

/// All wires at this device's terminals.
DossierFile wires(DossierFile file, const char* tag, double areaMm2, double lengthM = 0.6)
{
    const DeviceId id = file.dossier.circuit.device(tag)->id;
    for (Wire& w : file.dossier.circuit.wires)
        if (w.from.device == id || w.to.device == id) {
            w.areaMm2 = areaMm2;
            w.lengthM = lengthM;
        }
    return file;
}

Sized sized(const DossierFile& file)
{
    auto s = sizesOf(file.dossier.circuit);
    EXPECT_TRUE(s) << s.error().message.id;
    return *s;
}

/// The worst of one rule, at one device if a tag is given.
std::optional<Headroom> worst(const DossierFile& file, const std::string& rule, const char* tag = nullptr)
{
    std::optional<Headroom> found;
    const auto worth = [](const Headroom& h) { return std::pair(!h.isMet, h.used()); };
    for (const Headroom& h : sized(file).all)
        if (h.rule == rule && (!tag || h.device == file.dossier.circuit.device(tag)->id))
            if (!found || worth(*found) < worth(h))
                found = h;
    return found;
}

bool isMet(const DossierFile& file, const std::string& rule, const char* tag = nullptr)
{
    const auto h = worst(file, rule, tag);
    EXPECT_TRUE(h) << rule;
    return h && h->isMet;
}

class Careful : public ::testing::TestWithParam<Texts> { };

TEST_P(Careful, IsLargeEnough)
{
    for (const Headroom& h : sized(chosen(GetParam())).all) {
        EXPECT_TRUE(h.isMet) << h.rule << " " << h.device.value << " " << h.wire.value << " " << h.used();
        EXPECT_TRUE(h.note.id.empty()) << h.rule;
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

/// A wire below the table is not passed over, nor are those of the control circuit.
TEST(Wire, WhatNoTableHasIsNotSilent)
{
    const Sized s = sized(wires(chosen(), "F1", 0.3));
    const auto has = [&s](const char* what) {
        return std::any_of(
            s.notJudged.begin(), s.notJudged.end(), [&](const NotJudged& n) { return n.enter.id == what; });
    };
    EXPECT_TRUE(has("sizing.below_table"));
    EXPECT_TRUE(has("sizing.enter.control_wires"));
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
    EXPECT_NEAR(h->allowed, 5, 1e-9);
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

/// Nobody is told that all is well where nothing was looked at.
TEST(Sized, SaysWhatItDidNotJudge)
{
    const Sized s = sized(chosen({"base=star_delta", "motor=30kW", "load=none"}));
    const auto has = [&s](const char* rule, const char* what) {
        return std::any_of(s.notJudged.begin(), s.notJudged.end(),
            [&](const NotJudged& n) { return n.rule == rule && n.enter.id == what; });
    };
    EXPECT_TRUE(has("contactor.current", "sizing.enter.carries_nothing")) << "the star contactor";
    EXPECT_TRUE(has("wire.ampacity", "sizing.enter.loaded_circuits"));
    EXPECT_NE(std::find(s.notHere.begin(), s.notHere.end(), "cabinet.heat"), s.notHere.end());
    EXPECT_EQ(std::find(s.notHere.begin(), s.notHere.end(), "wire.drop"), s.notHere.end());
    std::set<std::string> rules(s.notHere.begin(), s.notHere.end());
    for (const Headroom& h : s.all)
        EXPECT_FALSE(rules.contains(h.rule)) << h.rule;
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
}

TEST(Sized, CanBeCancelled)
{
    std::stop_source stop;
    stop.request_stop();
    EXPECT_EQ(sizesOf(test::demoFile().dossier.circuit, {}, stop.get_token()).error().code, ErrorCode::Cancelled);
}

} // namespace
} // namespace ts::sizing
