#pragma once
// Small machines for the fault sweep: one motor, an emergency stop, and the ways of stopping that people build.

#include "core/faults/structure.h"
#include "tests/support/circuits.h"

namespace ts::test {

using Words = std::vector<std::string>;

inline ParameterMap contactor24(bool mirror = true)
{
    return {{"coil_voltage_v", 24.0}, {"coil_current", word("dc")}, {"auxiliary_contacts", Words{"13-14", "21-22"}},
        {"mirror_contacts", mirror}, {"linked_contacts", mirror}};
}

/// Supply, 24 V, one motor behind the main poles of the contactors named, in series.
inline CircuitBuilder motorBehind(const Words& contactors, bool mirror = true)
{
    CircuitBuilder b;
    b.device("G0", "supply_three_phase", {{"voltage_v", 400.0}, {"frequency_hz", 50.0}, {"earthing", word("tn_s")}})
        .device("F1", "fuse", {{"poles", 3.0}, {"rated_current_a", 6.0}});
    b.device("G1", "supply_24v_dc", {{"input_voltage_v", 230.0}, {"rated_current_a", 2.5}});
    b.wire("G0:L1", "G1:L").wire("G0:N", "G1:N").wire("G1:-", "G0:PE");
    b.device("M1", "motor",
        {{"rated_power_w", 750.0}, {"voltage_v", 400.0}, {"current_a", 1.75}, {"speed_per_min", 1440.0},
            {"cos_phi", 0.75}, {"locked_rotor_ratio", 5.4}, {"load", word("fan")}, {"load_share", 0.75},
            {"load_inertia_x", 1.0}});
    Words from{"F1:2", "F1:4", "F1:6"};
    b.wire("G0:L1", "F1:1").wire("G0:L2", "F1:3").wire("G0:L3", "F1:5");
    for (const std::string& q : contactors) {
        b.device(q, "contactor", contactor24(mirror));
        for (int k = 0; k < 3; ++k) {
            b.wire(from[static_cast<std::size_t>(k)], q + ":" + std::to_string(2 * k + 1));
            from[static_cast<std::size_t>(k)] = q + ":" + std::to_string(2 * k + 2);
        }
    }
    b.wire(from[0], "M1:U1").wire(from[1], "M1:V1").wire(from[2], "M1:W1");
    return b;
}

/// An emergency stop with two channels on a relay whose outputs feed Q1 and Q2; their opening contacts in the reset
/// loop.
inline CircuitBuilder twoChannels(bool secondInFeedback = true, bool feedback = true, bool mirror = true)
{
    CircuitBuilder b = motorBehind({"Q1", "Q2"}, mirror);
    b.device("S0", "emergency_stop", {{"contacts", Words{"11-12", "21-22"}}}, "door")
        .device("S3", "push_button", {{"contacts", Words{"13-14"}}}, "door");
    b.device("K1", "safety_relay", {{"reset", word("monitored")}});
    b.wire("G1:+", "K1:A1").wire("K1:A2", "G1:-");
    b.wire("K1:S11", "S0:11").wire("S0:12", "K1:S12").wire("K1:S21", "S0:21").wire("S0:22", "K1:S22");
    b.wire("K1:S33", "S3:13");
    if (!feedback)
        b.wire("S3:14", "K1:S34");
    else if (!secondInFeedback)
        b.wire("S3:14", "Q1:21").wire("Q1:22", "K1:S34");
    else
        b.wire("S3:14", "Q1:21").wire("Q1:22", "Q2:21").wire("Q2:22", "K1:S34");
    b.wire("G1:+", "K1:13").wire("K1:14", "Q1:A1").wire("Q1:A2", "G1:-");
    b.wire("G1:+", "K1:23").wire("K1:24", "Q2:A1").wire("Q2:A2", "G1:-");
    return b;
}

/// A dossier in which S3 starts at 1 s and `trigger` stops at 5 s.
inline Dossier stopping(
    Circuit circuit, const char* trigger = "S0", const char* action = "press", const char* start = "S3")
{
    Dossier d;
    d.circuit = std::move(circuit);
    Scenario s;
    s.id = {9000};
    s.name = "start and stop";
    s.lengthS = 30;
    s.steps = {{1.0, "operate", start, 0.3}, {5.0, action, trigger, 0.0}};
    d.scenarios = {s};
    SafetyFunction f;
    f.id = {9001};
    f.name = "Emergency stop";
    f.trigger = {d.circuit.device(trigger)->id, action};
    f.mustRest = {d.circuit.device("M1")->id};
    f.demandScenario = s.id;
    d.functions = {f};
    return d;
}

inline ClaimedSubsystem claimedPair(
    const Circuit& c, const char* first, const char* second, const char* category, double dc)
{
    ClaimedSubsystem s;
    s.name = "Contactors";
    s.category = safety::categoryNamed(category);
    for (const char* tag : {first, second}) {
        ClaimedPart part{c.device(tag)->id, "main"};
        part.operationsPerYear = 10'000;
        part.dc = dc;
        part.measure = "output.direct";
        s.channels.push_back({tag, {part}});
    }
    return s;
}

inline faults::Sweep swept(const Dossier& d, bool pairs = true)
{
    faults::SweepOptions options;
    options.withPairs = pairs;
    auto s = faults::sweep(d, d.functions.front(), options);
    EXPECT_TRUE(s) << s.error().message.id
                   << (s.error().message.arguments.empty()
                              ? ""
                              : " " + std::get<std::string>(s.error().message.arguments.back()));
    return s ? *s : faults::Sweep{};
}

inline const faults::FaultOutcome& outcomeOf(const faults::Sweep& s, std::string_view id)
{
    const faults::SweptFault* f = faults::faultNamed(s.faults, id);
    EXPECT_NE(f, nullptr) << id;
    static const faults::FaultOutcome none;
    return f ? s.outcomes[static_cast<std::size_t>(f - s.faults.data())] : none;
}

} // namespace ts::test
