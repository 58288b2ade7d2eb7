#pragma once
// The stop of each actuator in its worst case: in every operating state of the dossier in which the function is
// demanded, with times and voltages at their limits, with the supply lost, and with each single fault. Every case is
// kept. Source: EN 60204-1 clause 9.2.2 (categories), 4.3 (supply from 0.9 to 1.1 of its rated voltage).

#include "core/base/expected.h"
#include "core/model/dossier.h"
#include "core/safety/stop_reading.h"

#include <functional>
#include <stop_token>

namespace ts {

struct StopCase {
    enum class Kind : std::uint8_t { Nominal, FastTimes, SlowTimes, LowVoltage, HighVoltage, SupplyLost, Fault };
    ScenarioId state; ///< the operating state: the scenario whose demand it is
    Kind kind = Kind::Nominal;
    std::string fault; ///< "Q1/main:welded"; present from just before the demand
    safety::ActuatorStop stop;
};
std::string_view nameOf(StopCase::Kind); ///< "nominal", "fast_times" ...

/// One motor. Places are those in `cases`, -1: none.
struct ActuatorStudy {
    DeviceId motor;
    std::string tag;
    std::vector<StopCase> cases; ///< in which it ran at the demand
    std::optional<int> category; ///< the same in every case without a fault and with the supply; else none
    int latestRemoval = -1, latestRest = -1, earliestRest = -1; ///< of the cases that are a stop
    int fastestRemoval = -1; ///< of the cases that are no stop of category 0: power went at the highest speed
    std::vector<int> noStop; ///< cases in which it is not stopped
    std::vector<int> noCategory; ///< cases in which it stops, by no category
    std::vector<int> otherCategory; ///< cases with a fault or without supply that stop it by another category
};

struct StopStudy {
    FunctionId function;
    std::vector<ScenarioId> states;
    std::vector<ActuatorStudy> actuators; ///< in the order of SafetyFunction::mustRest
    std::size_t runCount = 0, faultCount = 0;
};

struct StopStudyOptions {
    int threads = 0; ///< 0: as many as the machine has
    bool withFaults = true; ///< all that are not excluded
};

/// Runs done, and all of them; from any thread but never two at once.
using StopListener = std::function<void(std::size_t done, std::size_t total)>;

/// Operating states are the scenarios of the dossier that operate the trigger. What they do after the demand is left
/// out: the trigger stays operated and is watched for twice the healthy run-down and 10 s more. Fails with Refused if
/// no scenario operates the trigger, nothing must rest, or something does not come to rest within ten minutes without a
/// fault and without chatter; as compile() does; and with Cancelled.
Expected<StopStudy> stopStudy(const Dossier& dossier, const SafetyFunction& function, const StopStudyOptions& options,
    const StopListener& listener = {}, std::stop_token stop = {});

} // namespace ts
