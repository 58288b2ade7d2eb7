#pragma once
// A safety function and what is claimed for it. Source: ISO 13849-1 clauses 4 to 6, EN 60204-1 clause 9.2.
// What the circuit really does is read from a run (safety/stop_reading.h), never stored here.

#include "core/base/ids.h"
#include "core/model/level.h"

#include <map>
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace ts {

/// A part of a channel: an element of a device, with how often it works and which diagnostic measure is claimed for it.
struct ClaimedPart {
    DeviceId device;
    std::string element; ///< as the kind names it: "11-12", "armature"; "main": the main poles; empty: the whole device
    std::optional<double> secondsPerCycle; ///< tcycle; one operation of this part every so many operating seconds
    std::optional<double> operationsPerYear; ///< entered directly instead of secondsPerCycle
    std::string measure; ///< id of a row of dc_measures.csv; empty: untested
    double dc = 0.0; ///< claimed diagnostic coverage, 0..0.99
    std::string excludedBecause; ///< not empty: its dangerous failure is excluded, for this reason; it takes no part in
                                 ///< the sums
    bool operator==(const ClaimedPart&) const = default;
};

/// The element as it is said in all outputs: "contact 11-12", "main poles".
std::string elementWords(std::string_view element);
/// With the device it is of: "S1 contact 11-12", "D13".
std::string partWords(std::string_view tag, std::string_view element);

struct ClaimedChannel {
    std::string name;
    std::vector<ClaimedPart> parts;
    bool operator==(const ClaimedChannel&) const = default;
};

/// What tests a channel of category 2. Source: ISO 13849-1 clause 6.2.5.
struct ClaimedTest {
    ClaimedChannel equipment; ///< the parts that test and, on a failure, stop the machine or warn
    std::optional<double> testsPerDemand; ///< none: the test is made at the demand, faster than the hazard is reached
    bool onlyWarns = false; ///< it has no output that stops the machine: at most PL c
    bool operator==(const ClaimedTest&) const = default;
};

/// One subsystem of the chain: either designed here (category, channels) or encapsulated (a maker's PFHd).
struct ClaimedSubsystem {
    std::string name;
    DeviceId encapsulated; ///< set: PFHd, PL and category come from this device's reliability
    std::optional<safety::Category> category; ///< none: not decided
    std::vector<ClaimedChannel> channels;
    std::optional<ClaimedTest> test; ///< category 2
    std::vector<std::string> ccfAnswers; ///< ids of ccf_measures.csv that are answered "yes"
    std::map<std::string, std::string> ccfEvidence; ///< by such an id: where it can be seen, in words
    bool wellTried = false; ///< well-tried parts and principles, confirmed (category 1)
    bool estimatedOutput = false; ///< mechanical, hydraulic or pneumatic, without reliability data: PFHd and PL come
                                  ///< with the category (ISO 13849-1:2015 clause 4.5.5)
    bool operator==(const ClaimedSubsystem&) const = default;
};

/// Conditions that no arithmetic can show; until all are answered a PL is not "reached".
struct Conditions {
    bool basicPrinciples = false; ///< ISO 13849-2 table D.1
    bool wellTriedPrinciples = false; ///< ISO 13849-2 table D.2
    bool systematicFailures = false; ///< ISO 13849-1 annex G
    bool environment = false;
    bool software = false; ///< application software reviewed; asked for only where a part of the chain is programmable
    std::string softwareVersion, softwareChecksum;
    std::map<std::string, std::string> evidence; ///< by word of the condition ("environment"): where it can be seen
    bool operator==(const Conditions&) const = default;
};

/// How the function is demanded: something that is operated, or happens to a supply.
struct Trigger {
    DeviceId device;
    std::string action; ///< word of the device's kind: "press"
    bool operator==(const Trigger&) const = default;
};

/// The three risk questions. Source: ISO 13849-1 annex A.
struct RiskAnswers {
    bool seriousInjury = true; ///< S2
    bool frequentExposure = true; ///< F2
    bool scarcelyAvoidable = true; ///< P2
    bool lowProbability = false; ///< of the hazardous event: one step lower, with a reason
    std::string lowProbabilityReason;
    bool operator==(const RiskAnswers&) const = default;
};

/// What may make the machine start again after the function has acted. Source: EN 60204-1 clause 9.2.3.4.2, ISO 12100
/// clause 6.2.11.3.
enum class RestartRule {
    StartAction, ///< "start_action": only a start button, after the reset
    Reset, ///< "reset": the reset itself; never for an emergency stop
    Release ///< "release": the trigger's return, by a guard that controls the start; never for an emergency stop
};
std::string_view restartWord(RestartRule rule);
RestartRule restartNamed(std::string_view word); ///< an unknown word is a start action

/// What keeps a person from the hazard until it rests; how near it may stand follows from it.
enum class Safeguard {
    Unsaid, ///< "unsaid"
    Guard, ///< "guard": opens and stops, unlocked
    FineCurtain, ///< "fine_curtain": notices a finger or a hand, 40 mm at most
    BodyCurtain, ///< "body_curtain": a curtain or beams that notice a body
    TwoHand, ///< "two_hand": both hands are on buttons
    Mat ///< "mat": a floor that is stepped on
};
std::string_view safeguardWord(Safeguard safeguard);
std::span<const std::string_view> safeguardWords(); ///< in the order of the enum
Safeguard safeguardNamed(std::string_view word); ///< an unknown word is unsaid

/// The parts of the response that no circuit shows, and the distance that rests on it. Source: ISO 13855.
struct Approach {
    double sensorS = 0.0; ///< response time of the sensing device, of its sheet
    std::optional<double> distanceM; ///< from the hazard to the place of detection, as built; none: not asked for
    double intrusionM = 0.0; ///< how far a body part can reach in before it is detected, where the geometry says so
    Safeguard safeguard = Safeguard::Unsaid; ///< unsaid: by the kind of what triggers
    double resolutionM = 0.0; ///< d of a curtain: the thinnest thing that it surely notices; 0: not entered
    std::vector<double> measuredStopsS; ///< of the real machine, from the demand to rest
    std::string measuredOn, measureAgainOn; ///< ISO 8601 dates
    bool operator==(const Approach&) const = default;
};

/// A test by hand, where demands are too rare to show faults in time. Source: ISO 13849-1 clause 6.2, ISO 14119 clause
/// 8.2.
struct ManualTest {
    std::optional<double> everyDays; ///< none: no such test
    std::string lastOn; ///< ISO 8601 date; empty: never yet
    bool operator==(const ManualTest&) const = default;
};

struct SafetyFunction {
    FunctionId id;
    std::string name;
    bool reliedOnByPerson = true; ///< false: equipment protection, no level
    Trigger trigger; ///< all faults are tried with this one
    std::vector<Trigger> alsoBy; ///< others that demand the same; each is tried by itself, as if it were the first
    std::vector<DeviceId> mustRest; ///< motors, valves, heaters that must come to rest
    double allowedTimeS = 0.0;
    int stopCategory = 0; ///< chosen: 0, 1 or 2
    bool emergencyStop = false;
    std::optional<safety::Level> requiredLevel; ///< PLr; none: not decided
    std::string requiredLevelReason;
    std::optional<RiskAnswers> risk; ///< none: the required level was taken from somewhere else
    std::string resetRule; ///< in words
    DeviceId resetBy; ///< the device that is operated to reset; none: not said
    RestartRule restart = RestartRule::StartAction;
    Approach approach;
    ManualTest manualTest;
    ScenarioId demandScenario; ///< the run from which the stop is read
    std::vector<ClaimedSubsystem> claim;
    Conditions conditions;
    bool isTriggeredBy(DeviceId device) const;
    bool operator==(const SafetyFunction&) const = default;
};

} // namespace ts
