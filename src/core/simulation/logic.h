#pragma once
// What the logics of library/logic.h do: timers, phase monitors, semiconductor gates, soft starters, drives. Each sees
// its inputs, remembers a word, and answers what its movers and its level should be. The safety relay has its own file.

#include "core/library/logic.h"
#include "core/simulation/state.h"

#include <array>
#include <complex>
#include <optional>
#include <span>

namespace ts {

/// What a logic sees now. Voltages in the order of the logic's own senses.
struct LogicInputs {
    double supplyV = 0; ///< direct and alternating part together
    double controlV = 0; ///< timer: control; soft starter: start; drive: run
    double reverseV = 0, torqueOff1V = 0, torqueOff2V = 0;
    std::array<std::complex<double>, 3> phases{}; ///< monitor: volts or amperes
    int phaseCount = 0;
    bool obstacle = false, resetPressed = false;
    double inducedV = 0; ///< standstill monitor: the largest at its taps
    bool isLeadOpen = false; ///< standstill monitor: no winding behind a tap
};

/// How a broken timing behaves.
enum class TimingFault : std::uint8_t { None, TooLong, TooShort, Never };

/// The inputs as the logic tells them apart, given what it remembers (hysteresis). Equal sights are answered alike.
std::uint16_t sightOf(const DeviceLogic&, const LogicWord&, const LogicInputs&);

struct LogicAnswer {
    LogicWord word;
    std::vector<std::pair<int, std::uint8_t>> wishes; ///< mover, travel
    std::optional<std::pair<int, ConverterOutput>> level; ///< what its semiconductors do
    std::optional<TimeNs> wakeAt; ///< look again then
};

/// One look. Pure.
LogicAnswer logicStep(const DeviceLogic&, const LogicWord& before, std::uint16_t sight, TimeNs now, TimingFault fault);

/// How many modes there are, and their names for words and tests: "timing", "tripped" ...
std::uint8_t modeCount(const DeviceLogic&);
const char* modeName(const DeviceLogic&, std::uint8_t mode);

/// Why a phase monitor tripped, as bits of LogicWord::flags and of the sight.
namespace monitor {
constexpr std::uint8_t kUnder = 1, kOver = 2, kUnbalance = 4, kLoss = 8, kSequence = 16;
}
/// "under_voltage", "phase_lost" ...: the gravest reason in a set; empty if there is none.
const char* monitorReason(const PhaseMonitorLogic&, std::uint8_t reasons);

} // namespace ts
