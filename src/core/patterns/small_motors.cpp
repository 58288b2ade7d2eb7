// Motors that are known by their times: single-phase on a line and the neutral, and for 24 V direct current from a
// supply of its own. A contactor, its poles where such a load needs them.

#include "core/patterns/sheet.h"

#include <cmath>

namespace ts::patterns {
namespace {

void addSmallMotor(StarterSheet& s, const std::string& first, const std::string& second)
{
    s.panel.part(s.motor.part);
    const std::string kind = s.motor.part.kind;
    s.panel.device("M1", kind, s.moves(), "field", {}, s.motor.part.id);
    const bool direct = kind == "motor_dc";
    s.panel.wire(first, direct ? "M1:A1" : "M1:U1", WireRun::MotorCable);
    s.panel.wire(second, direct ? "M1:A2" : "M1:U2", WireRun::MotorCable);
    s.panel.wire("G0:PE", "M1:PE", WireRun::MotorCable);
}

/// The overload relay feels a lost phase, so its third pole is led through, too: the current comes back by it.
void wireSinglePhase(StarterSheet& s)
{
    s.panel.device("F1", "fuse", s.moves(), "plate", {{"rated_current_a", fuseFor(s.motor.currentA)}});
    s.shared.mains[0].join(s.panel, s.tag("F1:1"), WireRun::Mains);
    s.lines = {s.tag("F1:2"), "=G0:N", ""};
    if (s.hasLineContactor())
        throughPoles(s, addContactor(s, "Q9", "line, second channel"));
    s.runners = {addContactor(s, "Q1", s.moves())};
    throughPoles(s, "Q1");
    addOverload(s, s.motor.currentA);
    if (!s.overload.empty())
        s.lines[1] = s.panel.through(s.lines[1], {s.overload + ":5", s.overload + ":6"}, WireRun::Power);
    addSmallMotor(s, s.lines[0], s.lines[1]);
}

/// Two poles in series break a direct current that one would draw out as an arc.
void wireDirect(StarterSheet& s)
{
    const double ratedA = std::ceil(s.motor.currentA * 4.0); // it limits its current where the motor stands
    s.panel.device(
        "G2", "supply_24v_dc", s.moves(), "plate", {{"input_voltage_v", s.shared.phaseV}, {"rated_current_a", ratedA}});
    s.panel.device("F1", "fuse", s.moves(), "plate", {{"rated_current_a", fuseFor(s.motor.currentA)}});
    s.shared.mains[0].join(s.panel, s.tag("F1:1"), WireRun::Mains);
    s.panel.wire("F1:2", "G2:L", WireRun::Power);
    s.panel.wire("G0:N", "G2:N", WireRun::Power);
    s.panel.wire("G2:-", "G0:PE", WireRun::Power);
    s.panel.device("F8", "fuse", s.before() + "motor, 24 V", "plate", {{"rated_current_a", fuseFor(s.motor.currentA)}});
    std::string at = s.panel.through("G2:+", {"F8:1", "F8:2"}, WireRun::Power);
    if (s.hasLineContactor()) {
        addContactor(s, "Q9", "line, second channel");
        at = s.panel.through(s.panel.through(at, {"Q9:1", "Q9:2"}, WireRun::Power), {"Q9:3", "Q9:4"}, WireRun::Power);
    }
    s.runners = {addContactor(s, "Q1", s.moves())};
    at = s.panel.through(s.panel.through(at, {"Q1:1", "Q1:2"}, WireRun::Power), {"Q1:3", "Q1:4"}, WireRun::Power);
    s.lines = {at, "", ""};
    addOverload(s, s.motor.currentA);
    at = s.lines[0];
    if (!s.overload.empty())
        for (const auto& [in, out] : {std::pair{":3", ":4"}, {":5", ":6"}})
            at = s.panel.through(at, {s.overload + in, s.overload + out}, WireRun::Power);
    addSmallMotor(s, at, "G2:-");
}

} // namespace

void wireSmallMotor(StarterSheet& s)
{
    s.plan.is("base", "dc_motor") ? wireDirect(s) : wireSinglePhase(s);
}

} // namespace ts::patterns
