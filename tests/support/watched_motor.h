#pragma once
// A motor behind its contactor and a standstill monitor that looks at its leads.

#include "tests/support/circuits.h"

#include <array>
#include <numbers>

namespace ts::test {

constexpr double kThresholdV = 0.5, kDelayS = 1.0, kSynchronousRadPerS = 2 * std::numbers::pi * 25;

/// A motor behind its contactor, S1 switches it; B4 looks at its leads.
inline CircuitBuilder watchedMotor(ParameterMap motor = {})
{
    motor.merge(ParameterMap{{"rated_power_w", 5500.0}, {"voltage_v", 400.0}, {"current_a", 11.0}, {"cos_phi", 0.83},
        {"speed_per_min", 1455.0}, {"load", word("fan")}});
    CircuitBuilder b;
    b.device("G0", "supply_three_phase", {{"voltage_v", 400.0}})
        .device("G1", "supply_external_24v")
        .device("M1", "motor", motor)
        .device("Q1", "contactor", {{"coil_voltage_v", 24.0}, {"coil_current", word("dc")}})
        .device("S1", "selector", {{"contacts", std::vector<std::string>{"13-14/on"}}})
        .device("B4", "standstill_monitor",
            {{"auxiliary_supply_v", 24.0}, {"threshold_v", kThresholdV}, {"delay_s", kDelayS}});
    for (const auto& [line, in, out, end] : {std::array{"G0:L1", "Q1:1", "Q1:2", "M1:U1"},
             std::array{"G0:L2", "Q1:3", "Q1:4", "M1:V1"}, std::array{"G0:L3", "Q1:5", "Q1:6", "M1:W1"}})
        b.wire(line, in).wire(out, end);
    b.wire("G1:+", "S1:13").wire("S1:14", "Q1:A1").wire("Q1:A2", "G1:-").wire("G1:+", "B4:A1").wire("B4:A2", "G1:-");
    return b;
}
inline CircuitBuilder atItsLeads(CircuitBuilder b)
{
    return b.wire("M1:U1", "B4:L1").wire("M1:V1", "B4:L2").wire("M1:W1", "B4:L3");
}

} // namespace ts::test
