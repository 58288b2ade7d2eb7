#pragma once
// The course of operation in which faults are tried: start, demand, reset, restart, next demand, reset and restart
// again. Made from the function's own demand scenario; what comes of running it is a ForkedRun (passage.h).

#include "core/model/dossier.h"
#include "core/simulation/advance.h"

#include <array>
#include <optional>
#include <string_view>
#include <vector>

namespace ts::faults {

/// When a fault occurs.
enum class Moment : std::uint8_t { AtRest, Running, JustBefore, WithDemand, AtReset };
inline constexpr std::array kMoments{
    Moment::AtRest, Moment::Running, Moment::JustBefore, Moment::WithDemand, Moment::AtReset};
/// "at_rest", "running" ...: the word in results and files.
std::string_view nameOf(Moment);

/// One go: from the start actions over the demand to the end of the watch.
struct Go {
    TimeNs begins = 0; ///< the first start-up action is later
    TimeNs demand = 0; ///< the trigger is operated
    TimeNs released = 0; ///< the watch after the demand ends; the trigger is brought back
};

struct Cycle {
    std::vector<Stimulus> stimuli; ///< in order of time
    std::vector<int> motors; ///< actuators that must come to rest
    std::vector<int> held; ///< actuators that must not let go by the demand
    std::array<Go, 2> goes;
    TimeNs restarts = 0, end = 0; ///< the third start-up, only to see whether it starts
    TimeNs atRest = 0, running = 0,
           justBefore = 0; ///< moments; with the demand: goes[0].demand, at reset: goes[1].begins
    TimeNs runDown = 0; ///< of the healthy circuit, to the last motor's rest
    std::vector<TimeNs> startUp; ///< times of the first go's actions
    TimeNs firstStart = 0; ///< the first one of them that turns a motor; what is before it resets and prepares
    TimeNs again() const
    {
        return goes[1].demand - goes[0].demand;
    } ///< from an action of the first go to the same one of the next

    TimeNs at(Moment) const;
};

/// What takes an operation of a person back: unlatches, closes the guard again. None if nothing does.
std::optional<Stimulus> wayBack(const Plant& plant, const Stimulus& operate);

/// Steps of the demand scenario before the demand are the start-up; the trigger is brought back by the action that
/// returns it to its initial position; the watch lasts twice the healthy run-down and 10 s more.
/// Fails with Refused if the function names no scenario, trigger, motor, if the scenario never operates the trigger,
/// if the circuit chatters, or if something still moves ten minutes after the demand; with Cancelled. Pure.
Expected<Cycle> cycleOf(const Plant& plant, const Dossier& dossier, const SafetyFunction& function, ScenarioId scenario,
    Workspace& workspace, std::stop_token stop = {});

} // namespace ts::faults
