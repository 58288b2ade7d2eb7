#pragma once
// A safety function and what is claimed for it. Source: ISO 13849-1 clauses 4 to 6, EN 60204-1 clause 9.2.
// What the circuit really does is read from a run (safety/stop_reading.h), never stored here.

#include "core/base/ids.h"

#include <optional>
#include <string>
#include <vector>

namespace ts {

/// A part of a channel: a device in a role, with how often it works and which diagnostic measure is claimed for it.
struct ClaimedPart {
    DeviceId device;
    std::string role; ///< in words: "contact block 11-12", "main poles"
    std::optional<double> secondsPerCycle; ///< tcycle; one operation of this part every so many operating seconds
    std::optional<double> operationsPerYear; ///< entered directly instead of secondsPerCycle
    std::string measure; ///< row of dc_measures.csv, "stage|measure"; empty: untested
    double dc = 0.0; ///< claimed diagnostic coverage, 0..0.99
    bool operator==(const ClaimedPart&) const = default;
};

struct ClaimedChannel {
    std::string name;
    std::vector<ClaimedPart> parts;
    bool operator==(const ClaimedChannel&) const = default;
};

/// One subsystem of the chain: either designed here (category, channels) or encapsulated (a maker's PFHd).
struct ClaimedSubsystem {
    std::string name;
    DeviceId encapsulated; ///< set: PFHd, PL and category come from this device's reliability
    std::string category; ///< "B", "1" .. "4"
    std::vector<ClaimedChannel> channels;
    std::vector<std::string> ccfAnswers; ///< ids of ccf_measures.csv that are answered "yes"
    bool wellTried = false; ///< well-tried parts and principles, confirmed (category 1)
    bool operator==(const ClaimedSubsystem&) const = default;
};

/// Conditions that no arithmetic can show; until all are answered a PL is not "reached".
struct Conditions {
    bool basicPrinciples = false; ///< ISO 13849-2 table D.1
    bool wellTriedPrinciples = false; ///< ISO 13849-2 table D.2
    bool systematicFailures = false; ///< ISO 13849-1 annex G
    bool environment = false;
    bool operator==(const Conditions&) const = default;
};

/// How the function is demanded: an actuator that is operated.
struct Trigger {
    DeviceId device;
    std::string action; ///< word of the device's kind: "press"
    bool operator==(const Trigger&) const = default;
};

struct SafetyFunction {
    FunctionId id;
    std::string name;
    bool reliedOnByPerson = true; ///< false: equipment protection, no level
    Trigger trigger;
    std::vector<DeviceId> mustRest; ///< motors that must come to rest
    double allowedTimeS = 0.0;
    int stopCategory = 0; ///< chosen: 0, 1 or 2
    bool emergencyStop = false;
    std::string requiredLevel; ///< PLr "a".."e"
    std::string requiredLevelReason;
    std::string resetRule; ///< in words
    ScenarioId demandScenario; ///< the run from which the stop is read
    std::vector<ClaimedSubsystem> claim;
    Conditions conditions;
    bool operator==(const SafetyFunction&) const = default;
};

} // namespace ts
