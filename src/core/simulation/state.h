#pragma once
// Everything that changes while a circuit runs, as one copyable value: a copy is a fork.
// The trace is kept beside it, so that forks share what came before.

#include "core/base/quantity.h"
#include "core/simulation/fault.h"

#include <cstdint>
#include <vector>

namespace ts {

struct Plant;

/// What happens next, and because of which event.
struct Pending {
    enum Phase : std::uint8_t { Move, HoldUp, Wake };
    TimeNs at = 0;
    Phase phase = Move;
    int slot = 0;
    int to = 0;
    int cause = -1;
    int net = -1;
    double si = 0;
    bool operator==(const Pending&) const = default;
};

/// A quantity that changes by itself: value at `since`, then by its law.
struct Flow {
    enum class Law : std::uint8_t { Constant, Coasting, Driven, Ramped, Heating, Melting };
    double value = 0;
    double drive = 0; ///< heating: final value; melting and magnetic: share per second; coasting: friction, N m;
                      ///< ramped: rad/s^2
    double target = 0; ///< ramped: where it ends
    TimeNs since = 0;
    Law law = Law::Constant;
    bool operator==(const Flow&) const = default;
};

/// Memory of a safety relay.
struct RelayWord {
    bool powered = false, channel1 = false, channel2 = false;
    bool wasOff1 = true, wasOff2 = true; ///< since the outputs were last on
    bool lockedOut = false, outputs = false, ready = false;
    bool delayed = false; ///< the delayed outputs
    TimeNs delayEnds = -1;
    TimeNs differSince = -1; ///< the channels disagree since
    TimeNs resetSince = -1; ///< the reset input is on since, while ready
    bool operator==(const RelayWord&) const = default;
};

/// Memory of any other logic. What mode and flags mean is the logic's own.
struct LogicWord {
    std::uint8_t mode = 0;
    std::uint8_t flags = 0;
    TimeNs since = 0; ///< in this mode
    bool operator==(const LogicWord&) const = default;
};

/// What a soft starter or drive does with its output.
struct ConverterOutput {
    bool isActive = false; ///< its semiconductors conduct
    double share = 0; ///< soft starter: of the voltage; drive: of synchronous speed, with sign
    bool operator==(const ConverterOutput&) const = default;
};

enum class ConverterMode : std::uint8_t { Off, Voltage, Limit, HoldUp, HoldUpLimit };
enum class MotorMode : std::uint8_t { AtRest, Driven, Coasting };

struct State {
    TimeNs now = 0;
    std::vector<std::uint8_t> travel; ///< by mover
    std::vector<std::uint8_t> wish; ///< where each mover is being driven
    std::vector<std::uint8_t> pushed; ///< armature held in by hand
    std::vector<std::uint8_t> moves; ///< arrivals within the chatter window
    std::vector<TimeNs> movesSince;
    std::vector<RelayWord> relays;
    std::vector<LogicWord> logics;
    std::vector<ConverterOutput> levels;
    std::vector<ConverterMode> converters;
    std::vector<double> converterPowerW; ///< output, as the input side last saw it
    std::vector<Flow> flows;
    std::vector<double> knobs;
    std::vector<Pending> agenda; ///< sorted by (at, phase, slot, to)
    std::vector<Fault> faults;
    std::vector<std::uint8_t> lampLit;
    std::vector<MotorMode> actuatorMode; ///< of a motor or of what a coil moves
    std::vector<std::uint8_t> actuatorFed; ///< terminals with a path to a source
    std::vector<int> actuatorEvent; ///< the last event of each actuator: what it does next is because of that; -1: none
                                    ///< yet
    int lastEvent = -1; ///< what the next reaction is because of
    bool isSettled = false; ///< every device has reacted to the instant `now`
    std::vector<std::uint8_t> wasDriven; ///< motors that were changing speed under power at the last settled instant
    bool operator==(const State&) const = default;
};

/// The fields of State, once, in their order. Whoever carries, compares or sums up states field by field begins with
/// `static_assert(kStateFields == ...)`, so that a new field does not compile before somebody has said there what
/// becomes of it.
constexpr int kStateFields = 22;
template <class S, class Visit> constexpr void forEachField(S& state, Visit visit)
{
    auto& [now, travel, wish, pushed, moves, movesSince, relays, logics, levels, converters, converterPowerW, flows,
        knobs, agenda, faults, lampLit, actuatorMode, actuatorFed, actuatorEvent, lastEvent, isSettled,
        wasDriven] = state; // as many as there are fields, or it does not compile
    const auto all = [&visit](auto&... fields) { (visit(fields), ...); };
    all(now, travel, wish, pushed, moves, movesSince, relays, logics, levels, converters, converterPowerW, flows, knobs,
        agenda, faults, lampLit, actuatorMode, actuatorFed, actuatorEvent, lastEvent, isSettled, wasDriven);
}

/// Everything at rest, nothing yet energised; advance() switches the supply on at once.
State initialState(const Plant& plant);

enum class Why : std::uint8_t {
    Operated, ///< a person or the plant acted: slot is the mover
    KnobSet,
    FaultOn,
    FaultOff,
    Moved,
    Lit,
    Dark,
    PathChanged, ///< number of motor terminals with a path to a source
    Turning,
    RanUp,
    PowerOff, ///< the motor coasts
    AtRest,
    SupplyMode,
    RelaySupply,
    ChannelChanged, ///< from: 1 or 2, to: 0 or 1
    LockedOut,
    LockOutCleared,
    ResetWanted,
    OutputsOn,
    OutputsOff,
    LogicMode, ///< of a timer, monitor, gate, starter or drive; from: its flags
    Race ///< in one instant with another that it keeps from moving: the order decides. From: the other's mover
};

struct Event {
    TimeNs at = 0;
    Why why = Why::Operated;
    int device = -1;
    int slot = -1; ///< mover, lamp, motor, converter, relay or fault, by why
    int from = 0, to = 0;
    int cause = -1; ///< earlier event; -1: an action or a fault
    int net = -1;
    double si = 0; ///< the value behind it: volts at the coil, amperes in the pole, rad/s
    bool operator==(const Event&) const = default;
};

struct Trace {
    std::vector<Event> events;
    bool operator==(const Trace&) const = default;
};

} // namespace ts
