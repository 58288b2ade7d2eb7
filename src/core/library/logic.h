#pragma once
// The programs inside devices: what a logic looks at and which of its own movers it drives. A logic never sees other
// devices. Numbers are indices into the body (elements, movers); compile() turns them into plant slots. What each one
// does is in simulation/logic.h, the safety relay's in simulation/safety_relay.h.

#include <array>
#include <cstdint>
#include <variant>
#include <vector>

namespace ts {

/// The safety relay's sheet.
struct SafetyRelayLogic {
    enum class Reset { Automatic, Manual, Monitored };
    int supply = 0, channel1 = 0, channel2 = -1, reset = 0; ///< element indices of senses; channel2 -1: one channel
    int firstRelay = 0, secondRelay = 1; ///< movers
    int firstDelayed = -1, secondDelayed = -1; ///< movers of the outputs that stay on for a while; -1: none
    double delayS = 0;
    double supplyOnV = 0, supplyOffV = 0, senseV = 0;
    Reset resetKind = Reset::Monitored;
    double resetShortestS = 0, resetLongestS = 0;
    double discrepancyS = 0; ///< 0: unlimited by the sheet
    bool lockOutSurvivesSupplyLoss = false;
    bool isConfigured = true; ///< false: a controller that nobody has told what to do yet
};

struct TimerLogic {
    enum class Function { OnDelay, OffDelay, StarDelta };
    Function function = Function::OnDelay;
    int supply = 0; ///< sense
    int control = -1; ///< sense of the off-delay's own control input
    int first = 0; ///< mover: the delayed contacts; star-delta: the star contacts
    int second = -1; ///< mover of the delta contacts
    double onV = 0, offV = 0;
    double delayS = 0, pauseS = 0; ///< pause: between star and delta
};

/// Watches three phases by voltage or by current.
struct PhaseMonitorLogic {
    int supply = -1; ///< sense; -1: fed by the taps themselves
    std::vector<int> taps; ///< senses: line to line, or line to neutral; or the burdens of current transformers
    std::vector<int> poles; ///< contacts in line with the load, whose current counts
    int mover = 0;
    int resetButton = -1; ///< mover; latching devices only
    bool energisedWhenHealthy = true;
    double supplyOnV = 0, supplyOffV = 0;
    double nominalV = 0; ///< between what each tap lies
    double under = 0, over = 0, loss = 0; ///< x nominal; over 0: not watched
    double unbalance = 0; ///< V2/V1, or 1 - smallest/largest current; 0: not watched
    double hysteresis = 0; ///< share of the threshold
    bool watchesSequence = false;
    double burdenOhm = 0; ///< of a current transformer's input, else 0
    double ratio = 1; ///< of the current transformers
    double smallestA = 0; ///< below it the load counts as switched off
    double delayS = 0, lossS = 0, startUpS = 0;
    bool readsCurrent() const { return burdenOhm > 0.0 || !poles.empty(); }
};

/// Switches semiconductor outputs on while it has supply and nothing is in the way.
struct GateLogic {
    int supply = 0; ///< sense
    int obstacle = -1; ///< mover that must be at rest
    std::vector<int> outputs; ///< movers
    double onV = 0, offV = 0;
};

/// Raises a motor's voltage step by step, then bridges itself.
struct SoftStarterLogic {
    int supply = 0, start = 0; ///< senses
    int level = 0; ///< index of the body's level
    int bypass = 0; ///< mover
    double onV = 0, offV = 0;
    double initialShare = 0.4, rampUpS = 5, rampDownS = 0;
};

/// Feeds a motor with a frequency of its own: ramps, and torque off by two channels.
struct DriveLogic {
    int supply = 0; ///< sense between two lines
    int run = 0, reverse = -1; ///< senses
    int torqueOff1 = 0, torqueOff2 = 0; ///< senses; both must have voltage for torque
    int level = 0;
    int running = 0, ready = 1; ///< movers of the signalling contacts
    double supplyOnV = 0, supplyOffV = 0, inputV = 0;
    double rampUpS = 5, rampDownS = 5;
};

/// Tells that a motor stands from what it induces in its own leads while it turns. A lead that leads nowhere is
/// noticed: through a winding flows a current for testing.
struct StandstillLogic {
    int supply = 0; ///< sense
    std::vector<int> taps; ///< senses between leads of the motor
    int mover = 0; ///< actuated at a standstill
    double supplyOnV = 0, supplyOffV = 0;
    double thresholdV = 0; ///< below it a tap counts as still
    double hysteresis = 0; ///< share of the threshold
    double delayS = 0; ///< still for as long
};

using DeviceLogic = std::variant<TimerLogic, PhaseMonitorLogic, GateLogic, SoftStarterLogic, DriveLogic,
    StandstillLogic>;

} // namespace ts
