// What feeds the circuit: three-phase, single-phase and external supplies, control transformer, 24 V supply.

#include "core/library/kinds/build.h"
#include "core/library/kinds/kinds.h"

#include <array>
#include <cmath>
#include <numbers>

namespace ts::kinds {
namespace {

using Type = ParameterSpec::Type;

constexpr std::array kThreePhaseParameters{
    ParameterSpec{"voltage_v", Type::Number, 1, 1000, {}, {}, {}, {}, true},
    ParameterSpec{"frequency_hz", Type::Number, 10, 400, 50, {}, {}, "assumed"},
    ParameterSpec{"earthing", Type::Word, 0, 0, {}, "tn_s", "tn_s tt it", "assumed"},
    ParameterSpec{"source_resistance_ohm", Type::Number, 1e-5, 100, {}, {}, {}, "assumed"},
    ParameterSpec{"source_reactance_ohm", Type::Number, 0, 100, {}, {}, {}, "assumed"},
    ParameterSpec{"earth_return_ohm", Type::Number, 0, 100, {}, {}, {}, "sheet"},
    ParameterSpec{"incoming_fuse_a", Type::Number, 1, 2000, {}, {}, {}, "sheet"},
    ParameterSpec{"low_x", Type::Number, 0.7, 1, 0.9, {}, {}, "clause EN 60204-1 4.3.2"},
    ParameterSpec{"high_x", Type::Number, 1, 1.3, 1.1, {}, {}, "clause EN 60204-1 4.3.2"},
};

/// What a current to a frame comes back through, beside the wires that are entered.
void addBond(Body& b, const char* role, int from, int earth, const Parameters& p)
{
    const double ohm = p.isWritten("earth_return_ohm") ? p.number("earth_return_ohm") : 0.0;
    if (ohm > 0)
        addTwoPole(b, role, from, earth, LoadElement{{ohm, 0.0}, ohm});
    else
        addTwoPole(b, role, from, earth, ContactElement{ContactKind::Pole});
}

Expected<Body> threePhaseBody(const Parameters& p, Timing)
{
    Body b;
    const double phaseV = p.number("voltage_v") / std::numbers::sqrt3;
    const double r = timedParameter(
        p, "source_resistance_ohm", deviceDefault("supply three-phase", "source_resistance"), Timing::Nominal);
    const double x = timedParameter(
        p, "source_reactance_ohm", deviceDefault("supply three-phase", "source_reactance"), Timing::Nominal);
    const std::array<std::string, 3> phases{"L1", "L2", "L3"};
    for (const auto& name : phases)
        addTerminal(b, name);
    const int neutral = addTerminal(b, "N");
    const int earth = addTerminal(b, "PE");
    b.terminals[static_cast<std::size_t>(earth)].protectiveEarth = true;
    const int star = addTerminal(b, "star point", true);
    for (int k = 0; k < 3; ++k) {
        Element e;
        e.role = phases[static_cast<std::size_t>(k)];
        e.terminals = {k, star, -1, -1, -1, -1};
        e.what = SourceElement{phaseV, -120.0 * k, {r, x}, e.role, phaseV};
        b.elements.push_back(e);
    }
    Element n;
    n.role = "N";
    n.terminals = {neutral, star, -1, -1, -1, -1};
    n.what = LoadElement{{r, x}, r};
    b.elements.push_back(n);
    b.frequencyHz = p.number("frequency_hz");
    const std::string& earthing = p.word("earthing");
    if (earthing == "tn_s") {
        addBond(b, "star point to PE", star, earth, p);
    } else if (earthing == "tt") {
        const double ra = deviceDefault("supply three-phase", "installation_earth_resistance").nominal;
        Element earthPath;
        earthPath.role = "earth electrode";
        earthPath.terminals = {star, earth, -1, -1, -1, -1};
        earthPath.what = LoadElement{{ra, 0.0}, ra};
        b.elements.push_back(earthPath);
    }
    return b;
}

constexpr std::array kSupplyFaults{FailureModeSpec{"phase", "lost"}};
constexpr std::array kThreePhaseFaults{FailureModeSpec{"phase", "lost"}, FailureModeSpec{"phase", "exchanged"}};

constexpr std::array kTransformerParameters{
    ParameterSpec{"rated_va", Type::Number, 10, 100000, {}, {}, {}, {}, true},
    ParameterSpec{"primary_v", Type::Number, 1, 1000, {}, {}, {}, {}, true},
    ParameterSpec{"secondary_v", Type::Number, 1, 1000, {}, {}, {}, {}, true},
    ParameterSpec{"primary_taps_v", Type::WordList, 0, 0, {}, "", {}, "assumed"},
    ParameterSpec{"short_circuit_voltage_pct", Type::Number, 1, 30, {}, {}, {}, "assumed"},
    ParameterSpec{"no_load_voltage_x", Type::Number, 1, 1.3, 1.0, {}, {}, "assumed"},
    ParameterSpec{"switch_on_x", Type::Number, 1, 60, {}, {}, {}, "sheet"},
    ParameterSpec{"loss_w", Type::Number, 0, 1000, {}, {}, {}, "sheet"},
};

/// Row of the nearest listed size at or above, else the largest.
double shortCircuitVoltage(double ratedVa)
{
    for (const auto& [va, row] : {std::pair{63.0, "control transformer 63 VA"}, {100.0, "control transformer 100 VA"},
             {160.0, "control transformer 160 VA"}, {250.0, "control transformer 250 VA"}})
        if (ratedVa <= va)
            return deviceDefault(row, "short_circuit_voltage").nominal;
    return deviceDefault("control transformer 400 VA", "short_circuit_voltage").nominal;
}

/// Voltages of the primary's sections from 0 upwards: one, or as many as there are taps.
Expected<std::vector<double>> sectionsOf(const Parameters& p)
{
    std::vector<double> sections;
    double below = 0.0;
    for (const std::string& text : p.words("primary_taps_v")) {
        const auto tap = numberFrom(text);
        if (!tap || *tap <= below || *tap > 1000.0)
            return failure(ErrorCode::OutOfRange, message("kind.taps", {p.tag(), text}));
        sections.push_back(*tap - below);
        below = *tap;
    }
    if (sections.empty())
        sections.push_back(p.number("primary_v"));
    else if (below != p.number("primary_v"))
        return failure(ErrorCode::OutOfRange, message("kind.taps", {p.tag(), p.words("primary_taps_v").back()}));
    return sections;
}

/// Terminals 1 2 and 3 4; with taps the primary is led out as 0 and the voltage of each tap.
Expected<Body> transformerBody(const Parameters& p, Timing)
{
    const auto sections = sectionsOf(p);
    if (!sections)
        return Unexpected{sections.error()};
    Body b;
    const auto& taps = p.words("primary_taps_v");
    std::vector<int> primary{addTerminal(b, taps.empty() ? "1" : "0")};
    for (std::size_t k = 0; k < sections->size(); ++k)
        primary.push_back(addTerminal(b, taps.empty() ? "2" : taps[k]));
    const int s1 = addTerminal(b, "3"), s2 = addTerminal(b, "4");
    const double va = p.number("rated_va"), u1 = p.number("primary_v"), u2 = p.number("secondary_v");
    const double uk = p.isWritten("short_circuit_voltage_pct") ? p.number("short_circuit_voltage_pct") / 100.0
                                                               : shortCircuitVoltage(va);
    const double cosine = deviceDefault("control transformer", "rated_power_factor_of_drop").nominal;
    const Complex zk = uk * u2 * u2 / va * Complex(cosine, std::sqrt(1.0 - cosine * cosine));
    const double zm = u1 * u1 / va / deviceDefault("control transformer", "magnetising_current").nominal;
    for (std::size_t k = 0; k < sections->size(); ++k) {
        // Each section is a transformer of its own on the common secondary. A section of fewer turns has the more
        // short-circuit impedance, so that all of them in series have that of the sheet. Resistive drop split equally
        // between the windings.
        const double n = (*sections)[k] / u2, share = (*sections)[k] / u1;
        Element e;
        e.role = "windings";
        e.terminals = {primary[k], primary[k + 1], s1, s2, -1, -1};
        e.what = TransformerElement{
            n, zk / share, {0.0, zm * share}, zk.real() / 2.0 * (u1 / u2) * (u1 / u2) * share, zk.real() / 2.0, u2};
        b.elements.push_back(e);
    }
    return b;
}

constexpr std::array kDcSupplyParameters{
    ParameterSpec{"input_voltage_v", Type::Number, 1, 1000, {}, {}, {}, {}, true},
    ParameterSpec{"rated_current_a", Type::Number, 0.1, 1000, {}, {}, {}, {}, true},
    ParameterSpec{"output_voltage_v", Type::Number, 1, 60, 24, {}, {}, "clause IEC 60204-1"},
    ParameterSpec{"hold_up_time_s", Type::Number, 0, 10, {}, {}, {}, "assumed"},
    ParameterSpec{"current_limit_low_x", Type::Number, 1, 5, 1.1, {}, {}, "assumed"},
    ParameterSpec{"current_limit_high_x", Type::Number, 1, 10, {}, {}, {}, "sheet"},
    ParameterSpec{"output_low_x", Type::Number, 0.7, 1, {}, {}, {}, "sheet"},
    ParameterSpec{"pelv", Type::Flag, 0, 0, {}, "no", {}, "assumed"},
};

Expected<Body> dcSupplyBody(const Parameters& p, Timing timing)
{
    Body b;
    for (const char* marking : {"L", "N", "+", "-"})
        addTerminal(b, marking);
    Element e;
    e.role = "output";
    e.terminals = {0, 1, 2, 3, -1, -1};
    const char* row = "supply 24 V DC";
    const double in = p.number("input_voltage_v");
    e.what = ConverterElement{in, in * deviceDefault(row, "lowest_input").nominal, p.number("output_voltage_v"),
        p.number("rated_current_a") * deviceDefault(row, "current_limit").nominal,
        deviceDefault(row, "output_resistance").nominal,
        timedParameter(p, "hold_up_time_s", deviceDefault(row, "hold_up_time"), timing),
        deviceDefault(row, "efficiency").nominal, deviceDefault(row, "standby_power").nominal};
    b.elements.push_back(e);
    return b;
}

constexpr std::array kSinglePhaseParameters{
    ParameterSpec{"voltage_v", Type::Number, 1, 1000, {}, {}, {}, {}, true},
    ParameterSpec{"frequency_hz", Type::Number, 10, 400, 50, {}, {}, "assumed"},
    ParameterSpec{"earthing", Type::Word, 0, 0, {}, "tn_s", "tn_s it", "assumed"},
    ParameterSpec{"source_resistance_ohm", Type::Number, 1e-5, 100, {}, {}, {}, "assumed"},
    ParameterSpec{"source_reactance_ohm", Type::Number, 0, 100, {}, {}, {}, "assumed"},
    ParameterSpec{"earth_return_ohm", Type::Number, 0, 100, {}, {}, {}, "sheet"},
    ParameterSpec{"incoming_fuse_a", Type::Number, 1, 2000, {}, {}, {}, "sheet"},
};

Expected<Body> singlePhaseBody(const Parameters& p, Timing)
{
    Body b;
    const double r = timedParameter(
        p, "source_resistance_ohm", deviceDefault("supply three-phase", "source_resistance"), Timing::Nominal);
    const double x = timedParameter(
        p, "source_reactance_ohm", deviceDefault("supply three-phase", "source_reactance"), Timing::Nominal);
    const int line = addTerminal(b, "L"), neutral = addTerminal(b, "N"), earth = addTerminal(b, "PE");
    b.terminals[static_cast<std::size_t>(earth)].protectiveEarth = true;
    addTwoPole(b, "L", line, neutral, SourceElement{p.number("voltage_v"), 0.0, {r, x}, "L", p.number("voltage_v")});
    if (p.word("earthing") == "tn_s")
        addBond(b, "neutral to PE", neutral, earth, p);
    b.frequencyHz = p.number("frequency_hz");
    return b;
}

constexpr std::array kExternalParameters{
    ParameterSpec{"output_voltage_v", Type::Number, 1, 60, 24, {}, {}, "clause IEC 60204-1"},
    ParameterSpec{"source_resistance_ohm", Type::Number, 1e-4, 10, {}, {}, {}, "assumed"},
    ParameterSpec{"output_low_x", Type::Number, 0.7, 1, {}, {}, {}, "sheet"},
    ParameterSpec{"fuse_a", Type::Number, 0.1, 100, {}, {}, {}, "sheet"},
};

Expected<Body> externalBody(const Parameters& p, Timing)
{
    Body b;
    const int plus = addTerminal(b, "+"), minus = addTerminal(b, "-");
    const double r = timedParameter(
        p, "source_resistance_ohm", deviceDefault("supply external 24 V", "source_resistance"), Timing::Nominal);
    const double u = p.number("output_voltage_v");
    addTwoPole(b, "output", plus, minus, SourceElement{0.0, 0.0, {r, 0.0}, "+", u, u});
    return b;
}

constexpr std::array kTransformerFaults{
    FailureModeSpec{"winding", "open"}, FailureModeSpec{"winding", "through"}, FailureModeSpec{"secondary", "shorted"}};
constexpr std::array kDcSupplyFaults{
    FailureModeSpec{"output", "missing"}, FailureModeSpec{"output", "low"}, FailureModeSpec{"output", "high"}};

} // namespace

const DeviceKind supplySinglePhase{
    "supply_single_phase", "G", kSinglePhaseParameters, singlePhaseBody, kSupplyFaults, "supply", "supply"};
const DeviceKind supplyExternal{
    "supply_external_24v", "G", kExternalParameters, externalBody, kSupplyFaults, "supply", "dc_supply"};
const DeviceKind supplyThreePhase{
    "supply_three_phase", "G", kThreePhaseParameters, threePhaseBody, kThreePhaseFaults, "supply", "supply"};
const DeviceKind controlTransformer{"control_transformer", "T", kTransformerParameters, transformerBody,
    kTransformerFaults, "transformer", "transformer"};
const DeviceKind supply24VDc{
    "supply_24v_dc", "G", kDcSupplyParameters, dcSupplyBody, kDcSupplyFaults, "converter", "dc_supply"};

} // namespace ts::kinds
