// The control supply: phase and neutral, transformer, or 24 V; with its fuses and its bond to earth.

#include "core/library/table.h"
#include "core/patterns/sheet.h"

#include <cmath>

namespace ts::patterns {
namespace {

void addFuse(MachineSheet& s, const char* tag, const char* label, double ratedA, int poles = 1)
{
    ParameterMap p{{"rated_current_a", ratedA}};
    if (poles > 1)
        p["poles"] = static_cast<double>(poles);
    s.panel.device(tag, "fuse", label, "plate", p);
}

/// The supply as it was said to be. The short-circuit level is the symmetrical one at its terminals: the assumed
/// source impedance is scaled to it (|Z| = U / (sqrt 3 Ik)), resistance and reactance in their proportion.
ParameterMap mainsParameters(const MachineSheet& s)
{
    const Plan& plan = s.plan;
    ParameterMap p{{"voltage_v", s.mainsV}, {"earthing", plan.text("earthing")}};
    if (plan.is("frequency", "60"))
        p["frequency_hz"] = 60.0;
    if (const auto level = plan.number("short_circuit_ka", 0.1, 150); level && *level) {
        const double r = deviceDefault("supply three-phase", "source_resistance").nominal,
                     x = deviceDefault("supply three-phase", "source_reactance").nominal;
        const double scale = s.mainsV / std::sqrt(3.0) / (**level * 1000.0) / std::hypot(r, x);
        p["source_resistance_ohm"] = r * scale;
        p["source_reactance_ohm"] = x * scale;
    }
    return p;
}

/// A supply that limits its current opens a fuse in time only if it is about five times as large.
struct Supply24 {
    double ratedA, fuseA;
};
constexpr Supply24 kForAll{20.0, 4.0}, kForRelay{10.0, 2.0};

/// 24 V from the control supply's alternating voltage.
void add24V(MachineSheet& s, const Supply24& size, double inputV, const std::string& live, const std::string& neutral,
    bool bonded)
{
    s.panel.device(
        "G1", "supply_24v_dc", "24 V supply", "plate", {{"input_voltage_v", inputV}, {"rated_current_a", size.ratedA}});
    addFuse(s, "F5", "24 V", size.fuseA);
    s.panel.wire(live, "G1:L");
    s.panel.wire(neutral, "G1:N");
    s.panel.wire("G1:+", "F5:1");
    if (bonded)
        s.panel.wire("G1:-", "G0:PE");
    s.plus = Rail("F5:2");
    s.minus = Rail("G1:-");
}

/// The largest usual fuse that the transformer's rated current fills.
double secondaryFuse(double ratedVa, double secondaryV)
{
    double fuse = 1.0;
    for (double a : {2.0, 4.0, 6.0, 10.0, 16.0})
        if (a <= ratedVa / secondaryV)
            fuse = a;
    return fuse;
}

/// A transformer between two terminals, with its fuse behind it; returns the secondary's other terminal.
void addTransformer(MachineSheet& s, const char* tag, const char* fuse, double ratedVa, double primaryV,
    double secondaryV, const std::string& from, const std::string& to)
{
    s.panel.device(tag, "control_transformer", "control supply", "plate",
        {{"rated_va", ratedVa}, {"primary_v", primaryV}, {"secondary_v", secondaryV}});
    addFuse(s, fuse, "control", secondaryFuse(ratedVa, secondaryV));
    const std::string t(tag);
    s.panel.wire(from, t + ":1");
    s.panel.wire(to, t + ":2");
    s.panel.wire(t + ":3", std::string(fuse) + ":1");
    s.live = Rail(std::string(fuse) + ":2");
    s.ret = Rail(t + ":4");
}

/// The control voltage as chosen, or what is usual for its kind of supply.
double controlVoltage(const MachineSheet& s, double usual)
{
    return matters(s.plan, "control_v") ? s.plan.number("control_v", 24, 690).value().value_or(usual) : usual;
}

void wireTransformers(MachineSheet& s, const std::string& otherLine)
{
    constexpr double kFirstVa = 250.0, kSecondVa = 100.0;
    if (!s.plan.is("control", "two_transformers")) {
        s.controlV = controlVoltage(s, s.phaseV);
        addTransformer(s, "T1", "F4", kFirstVa, s.mainsV, s.controlV, "F3:2", otherLine);
        if (s.plan.is("control", "transformer_bonded"))
            s.panel.wire("T1:4", "G0:PE");
        return;
    }
    // In line: mains to line-to-neutral voltage, and that to the control voltage. Each secondary is earthed.
    addTransformer(s, "T1", "F4", kFirstVa, s.mainsV, s.phaseV, "F3:2", otherLine);
    s.panel.wire("T1:4", "G0:PE");
    s.controlV = controlVoltage(s, 24.0);
    const std::string live = s.live.end(), ret = s.ret.end();
    addTransformer(s, "T3", "F6", kSecondVa, s.phaseV, s.controlV, live, ret);
    s.panel.wire("T3:4", "G0:PE");
}

/// Straight from the mains: between a line and the neutral, or between two lines.
void wireFromMains(MachineSheet& s, const std::string& otherLine)
{
    s.live = Rail("F3:2");
    if (s.plan.is("control", "phase_phase")) {
        addFuse(s, "F4", "control, other line", 4.0);
        s.panel.wire(otherLine, "F4:1");
        s.ret = Rail("F4:2");
        s.controlV = s.mainsV;
        return;
    }
    s.controlV = s.phaseV;
    s.ret = Rail("G0:N");
    if (!s.plan.is("neutral", "own_breaker"))
        return;
    s.panel.device("F7", "breaker", "control, neutral", "plate",
        {{"poles", 1.0}, {"rated_current_a", 6.0}, {"characteristic", std::string("C")}});
    s.panel.wire("G0:N", "F7:1");
    s.ret = Rail("F7:2");
}

} // namespace

void wireControlSupply(MachineSheet& s)
{
    const std::string& control = s.plan.text("control");
    s.panel.device("G0", "supply_three_phase", "mains, " + std::to_string(static_cast<int>(s.mainsV)) + " V", "field",
        mainsParameters(s));
    s.panel.device("Q0", "switch_disconnector", "main switch", "plate");
    for (int k = 1; k <= 3; ++k)
        s.panel.wire("G0:L" + std::to_string(k), "Q0:" + std::to_string(2 * k - 1), WireRun::Mains);
    s.isDirect = control.starts_with("dc24");
    const bool hasTransformer = control.starts_with("transformer") || control == "two_transformers";
    const int line = s.plan.text("control_line")[1] - '0';
    const std::string from = "Q0:" + std::to_string(2 * line), otherLine = "Q0:" + std::to_string(2 * (line % 3 + 1));
    // Between two lines, both: an earth fault in the other one would be switched off by nothing.
    addFuse(s, "F3", "control supply", hasTransformer ? 2.0 : 4.0, hasTransformer ? 2 : 1);
    s.panel.wire(from, "F3:1");
    if (hasTransformer)
        s.panel.wire(otherLine, "F3:3");
    if (s.isDirect) {
        s.controlV = 24.0;
        add24V(s, kForAll, s.phaseV, "F3:2", "G0:N", control == "dc24");
        s.live = s.plus;
        s.ret = s.minus;
        return;
    }
    if (hasTransformer)
        wireTransformers(s, "F3:4");
    else
        wireFromMains(s, otherLine);
    if (s.needs24V())
        add24V(s, kForRelay, s.controlV, s.live.end(), s.ret.end(), true);
}

void wireBonds(MachineSheet& s)
{
    if (!s.plan.is("bonds", "yes"))
        return;
    s.panel.device("U1", "exposed_part", "mounting plate", "plate");
    s.panel.device("U2", "exposed_part", "door", "door");
    s.panel.wire("U1:PE", "G0:PE", WireRun::Mains);
    s.panel.wire("U2:PE", "G0:PE", WireRun::Mains);
}

} // namespace ts::patterns
