// The control supply: phase and neutral, transformer, or 24 V; with its fuses and its bond to earth.

#include "core/library/table.h"
#include "core/patterns/sheet.h"

#include <cmath>

namespace ts::patterns {
namespace {

constexpr double kPhaseV = 230.0, kLineV = 400.0;

void addFuse(MachineSheet& s, const char* tag, const char* label, double ratedA)
{
    s.panel.device(tag, "fuse", label, "plate", {{"rated_current_a", ratedA}});
}

/// The supply as it was said to be. The short-circuit level is the symmetrical one at its terminals: the assumed
/// source impedance is scaled to it (|Z| = U / (sqrt 3 Ik)), resistance and reactance in their proportion.
ParameterMap mainsParameters(const Plan& plan)
{
    ParameterMap p{{"voltage_v", kLineV}, {"earthing", plan.text("earthing")}};
    if (const auto level = plan.number("short_circuit_ka", 0.1, 150); level && *level) {
        const double r = deviceDefault("supply three-phase", "source_resistance").nominal,
                     x = deviceDefault("supply three-phase", "source_reactance").nominal;
        const double scale = kLineV / std::sqrt(3.0) / (**level * 1000.0) / std::hypot(r, x);
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
void add24V(MachineSheet& s, const Supply24& size, const std::string& live, const std::string& neutral, bool bonded)
{
    s.panel.device("G1", "supply_24v_dc", "24 V supply", "plate",
        {{"input_voltage_v", kPhaseV}, {"rated_current_a", size.ratedA}});
    addFuse(s, "F5", "24 V", size.fuseA);
    s.panel.wire(live, "G1:L");
    s.panel.wire(neutral, "G1:N");
    s.panel.wire("G1:+", "F5:1");
    if (bonded)
        s.panel.wire("G1:-", "G0:PE");
    s.plus = Rail("F5:2");
    s.minus = Rail("G1:-");
}

} // namespace

void wireControlSupply(MachineSheet& s)
{
    const std::string& control = s.plan.text("control");
    s.panel.device("G0", "supply_three_phase", "mains, 400 V", "field", mainsParameters(s.plan));
    s.panel.device("Q0", "switch_disconnector", "main switch", "plate");
    for (int k = 1; k <= 3; ++k)
        s.panel.wire("G0:L" + std::to_string(k), "Q0:" + std::to_string(2 * k - 1), WireRun::Mains);
    s.isDirect = control.starts_with("dc24");
    s.controlV = s.isDirect ? 24.0 : kPhaseV;
    const bool hasTransformer = control.starts_with("transformer");
    addFuse(s, "F3", "control supply", hasTransformer ? 2.0 : 4.0);
    s.panel.wire("Q0:2", "F3:1");
    if (s.isDirect) {
        add24V(s, kForAll, "F3:2", "G0:N", control == "dc24");
        s.live = s.plus;
        s.ret = s.minus;
        return;
    }
    if (control == "phase_neutral") {
        s.live = Rail("F3:2");
        s.ret = Rail("G0:N");
    } else {
        s.panel.device("T1", "control_transformer", "control supply", "plate",
            {{"rated_va", 250.0}, {"primary_v", 400.0}, {"secondary_v", kPhaseV}});
        addFuse(s, "F4", "control", 1.0); // 250 VA give 1.09 A
        s.panel.wire("F3:2", "T1:1");
        s.panel.wire("Q0:4", "T1:2");
        s.panel.wire("T1:3", "F4:1");
        if (control == "transformer_bonded")
            s.panel.wire("T1:4", "G0:PE");
        s.live = Rail("F4:2");
        s.ret = Rail("T1:4");
    }
    if (s.usesRelay() || s.hasDrive())
        add24V(s, kForRelay, s.live.end(), s.ret.end(), true);
}

} // namespace ts::patterns
