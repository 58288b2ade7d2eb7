#pragma once
// What devices really do in the dossier's scenarios: how often each pulls in or is operated, and whether a contactor
// breaks the current of a motor that has not run up yet (inching) or still turns the other way (plugging). Source: IEC
// 60947-4-1 table 1 (utilization categories AC-3 and AC-4).

#include "core/checks/check.h"
#include "core/simulation/scenario_run.h"

namespace ts {

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
