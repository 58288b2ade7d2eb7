#pragma once
// What devices really do in the dossier's scenarios: how often each pulls in or is operated, and whether a contactor
// breaks the current of a motor that has not run up yet (inching) or still turns the other way (plugging). Source: IEC
// 60947-4-1 table 1 (utilization categories AC-3 and AC-4).

#include "core/model/dossier.h"
#include "core/simulation/scenario_run.h"

#include <optional>
#include <span>

namespace ts {

/// What a device does in the scenarios.
struct SwitchingDuty {
    DeviceId device;
    int operations = 0; ///< times it pulls in or is operated, all scenarios together
    double operationsPerHour = 0; ///< by the duty's times per hour of each scenario; 0 where none is given
    bool breaksRunUp = false; ///< it takes the power from a motor that has not run up: AC-4
    std::string motor; ///< that one
    bool operator==(const SwitchingDuty&) const = default;
};

/// A year's operations of a device by the machine's duty, the busiest of its movers; nothing where no scenario that
/// operates it has its times per hour. Source: ISO 13849-1 annex C.4.2.
std::optional<double> countedPerYear(const Duty& duty, std::span<const SwitchingDuty> counted, DeviceId device);

/// Below this share of the synchronous speed a motor draws about its locked-rotor current: breaking it is AC-4. Source:
/// IEC 60947-4-1 table 1, note on AC-4; half is well on the steep part of every cage motor's curve (textbook).
constexpr double kRunUpShare = 0.5;

/// A scenario that was run.
struct CountedRun {
    Trace trace;
    double timesPerHour = 0;
};

/// One entry for each device that pulls in or is operated at all, in order of movers; over all runs given.
std::vector<SwitchingDuty> switchingDuty(const Plant& plant, std::span<const CountedRun> runs);

/// The dossier's scenarios run one by one. Fails with Cancelled; a scenario that cannot run is left out.
Expected<std::vector<SwitchingDuty>> switchingDutyOf(
    const Dossier& dossier, const Plant& plant, std::stop_token stop = {});

} // namespace ts
