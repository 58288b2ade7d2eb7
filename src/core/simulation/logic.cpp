#include "core/simulation/logic.h"

#include "core/network/network.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace ts {
namespace {

constexpr std::uint16_t kPowered = 1, kControl = 2, kReverse = 4, kTorque = 8, kObstacle = 16, kReset = 32,
                        kLoaded = 64;
constexpr int kReasonShift = 8;
constexpr int kRampSteps = 20; ///< voltage steps of a soft starter's ramp
constexpr double kTooLong = 10.0; ///< times the setting: a broken timer is either much too long or does not end

TimeNs delayNs(double s, TimingFault fault)
{
    if (fault == TimingFault::TooShort)
        return 0;
    return timeNs(seconds(fault == TimingFault::TooLong ? s * kTooLong : s));
}

/// One look at a logic: changes of mode with their time, and delays that lead to a mode.
struct Look {
    LogicAnswer& answer;
    TimeNs now = 0;
    TimingFault fault = TimingFault::None;

    void enter(std::uint8_t mode)
    {
        if (answer.word.mode != mode)
            answer.word.since = now;
        answer.word.mode = mode;
    }
    /// The mode after the delay, or a wake-up when it is over.
    void elapsesInto(std::uint8_t next, double delayS)
    {
        if (fault == TimingFault::Never)
            return;
        const TimeNs end = answer.word.since + delayNs(delayS, fault);
        if (now >= end)
            enter(next);
        else if (!answer.wakeAt || end < *answer.wakeAt)
            answer.wakeAt = end;
    }
};

bool isOn(double v, bool wasOn, double onV, double offV)
{
    return v >= (wasOn ? offV : onV);
}

std::uint16_t bits(bool powered, std::uint16_t rest = 0)
{
    return static_cast<std::uint16_t>((powered ? kPowered : 0) | rest);
}

// --- timer: 0 off, 1 timing, 2 elapsed, 3 pause (star-delta), 4 called (off delay)

std::uint16_t sightOf(const TimerLogic& t, const LogicWord& w, const LogicInputs& in)
{
    return bits(isOn(in.supplyV, w.mode != 0 || (w.flags & 1), t.onV, t.offV),
        in.controlV >= t.onV ? kControl : std::uint16_t{0});
}

LogicAnswer step(const TimerLogic& t, const LogicWord& before, std::uint16_t sight, TimeNs now, TimingFault fault)
{
    LogicAnswer a{before, {}, {}, {}};
    LogicWord& w = a.word;
    const bool powered = sight & kPowered;
    w.flags = powered;
    Look look{a, now, fault};
    if (t.function == TimerLogic::Function::OffDelay) {
        const bool called = sight & kControl;
        if (!powered)
            look.enter(0);
        else if (called)
            look.enter(4);
        else if (w.mode == 4)
            look.enter(1);
        if (w.mode == 1)
            look.elapsesInto(0, t.delayS);
        a.wishes = {{t.first, w.mode == 4 || w.mode == 1 ? 2 : 0}};
        return a;
    }
    if (!powered)
        look.enter(0);
    else if (w.mode == 0)
        look.enter(1);
    if (t.function == TimerLogic::Function::StarDelta) {
        if (w.mode == 1)
            look.elapsesInto(3, t.delayS);
        if (w.mode == 3)
            look.elapsesInto(2, t.pauseS);
        a.wishes = {{t.first, w.mode == 1 ? 2 : 0}, {t.second, w.mode == 2 ? 2 : 0}};
        return a;
    }
    if (w.mode == 1)
        look.elapsesInto(2, t.delayS);
    a.wishes = {{t.first, w.mode == 2 ? 2 : 0}};
    return a;
}

// --- phase monitor: 0 without supply, 1 starting, 2 healthy, 3 fault seen, 4 tripped, 5 loss seen

double unbalanceOf(const PhaseMonitorLogic& m, const LogicInputs& in)
{
    std::array<double, 3> size{};
    for (int k = 0; k < in.phaseCount; ++k)
        size[static_cast<std::size_t>(k)] = network::magnitude(in.phases[static_cast<std::size_t>(k)]);
    if (m.readsCurrent()) {
        const auto end = size.begin() + in.phaseCount;
        const double largest = *std::max_element(size.begin(), end);
        return largest > 0.0 ? 1.0 - *std::min_element(size.begin(), end) / largest : 0.0;
    }
    static const std::complex<double> turn = std::polar(1.0, 2.0 * std::numbers::pi / 3.0);
    const double positive = network::magnitude(in.phases[0] + turn * in.phases[1] + turn * turn * in.phases[2]);
    const double negative = network::magnitude(in.phases[0] + turn * turn * in.phases[1] + turn * in.phases[2]);
    return positive > 0.0 ? negative / positive : negative > 0.0 ? 1e9 : 0.0;
}

std::uint8_t reasonsOf(const PhaseMonitorLogic& m, const LogicWord& w, const LogicInputs& in)
{
    std::uint8_t reasons = 0;
    const double unbalance = unbalanceOf(m, in);
    // A threshold that was passed is taken back only by the hysteresis.
    const auto below = [&](double value, double limit, std::uint8_t bit) {
        if (value < limit * (w.flags & bit ? 1.0 + m.hysteresis : 1.0))
            reasons |= bit;
    };
    const auto above = [&](double value, double limit, std::uint8_t bit) {
        if (value > limit * (w.flags & bit ? 1.0 - m.hysteresis : 1.0))
            reasons |= bit;
    };
    if (m.readsCurrent()) {
        double largest = 0.0;
        for (int k = 0; k < in.phaseCount; ++k)
            largest = std::max(largest, network::magnitude(in.phases[static_cast<std::size_t>(k)]));
        if (largest < m.smallestA)
            return 0; // switched off or idle: such a device cannot tell
        if (m.unbalance > 0.0)
            above(unbalance, m.unbalance, monitor::kUnbalance);
        if (m.loss > 0.0)
            above(unbalance, 1.0 - m.loss, monitor::kLoss);
        return reasons;
    }
    for (int k = 0; k < in.phaseCount; ++k) {
        const double share = network::magnitude(in.phases[static_cast<std::size_t>(k)]) / m.nominalV;
        below(share, m.under, monitor::kUnder);
        below(share, m.loss, monitor::kLoss);
        if (m.over > 0.0)
            above(share, m.over, monitor::kOver);
    }
    if (unbalance > 1.0) {
        if (m.watchesSequence)
            reasons |= monitor::kSequence;
    } else if (m.unbalance > 0.0) {
        above(unbalance, m.unbalance, monitor::kUnbalance);
    }
    return reasons;
}

std::uint16_t sightOf(const PhaseMonitorLogic& m, const LogicWord& w, const LogicInputs& in)
{
    double supplyV = in.supplyV;
    if (m.supply < 0)
        for (const auto& v : in.phases)
            supplyV = std::max(supplyV, network::magnitude(v));
    double largest = 0.0;
    for (const auto& v : in.phases)
        largest = std::max(largest, network::magnitude(v));
    const bool loaded = m.readsCurrent() && largest >= m.smallestA;
    return static_cast<std::uint16_t>(
        bits(isOn(supplyV, w.mode != 0, m.supplyOnV, m.supplyOffV), in.resetPressed ? kReset : std::uint16_t{0})
        | (loaded ? kLoaded : 0) | (reasonsOf(m, w, in) << kReasonShift));
}

LogicAnswer step(
    const PhaseMonitorLogic& m, const LogicWord& before, std::uint16_t sight, TimeNs now, TimingFault fault)
{
    LogicAnswer a{before, {}, {}, {}};
    LogicWord& w = a.word;
    const auto reasons = static_cast<std::uint8_t>(sight >> kReasonShift);
    Look look{a, now, fault};
    const bool atOnce = reasons & (monitor::kLoss | monitor::kSequence);
    if (!(sight & kPowered))
        look.enter(0);
    else if (w.mode == 0)
        look.enter(1);
    if (w.mode == 4 && reasons == 0 && (m.resetButton < 0 || (sight & kReset)))
        look.enter(2);
    if (w.mode == 1 && reasons == 0)
        look.elapsesInto(2, m.startUpS);
    else if (w.mode == 1)
        w.since = now; // the start-up time begins when all is well
    if (w.mode == 2 && reasons != 0)
        look.enter(atOnce ? 5 : 3);
    if ((w.mode == 3 || w.mode == 5) && reasons == 0)
        look.enter(2);
    if (w.mode == 3 && atOnce)
        look.enter(5);
    if (w.mode == 3)
        look.elapsesInto(4, m.delayS);
    if (w.mode == 5)
        look.elapsesInto(4, m.lossS);
    w.flags = reasons;
    const bool healthy = w.mode == 2 || w.mode == 3 || w.mode == 5;
    const bool energised = m.energisedWhenHealthy ? healthy : w.mode == 4;
    a.wishes = {{m.mover, energised ? 2 : 0}};
    return a;
}

// --- gate: 0 off, 1 on

std::uint16_t sightOf(const GateLogic& g, const LogicWord& w, const LogicInputs& in)
{
    return bits(isOn(in.supplyV, w.flags & 1, g.onV, g.offV), in.obstacle ? kObstacle : std::uint16_t{0});
}

LogicAnswer step(const GateLogic& g, const LogicWord& before, std::uint16_t sight, TimeNs now, TimingFault)
{
    LogicAnswer a{before, {}, {}, {}};
    const bool powered = sight & kPowered;
    const bool on = powered && !(sight & kObstacle);
    a.word.flags = powered;
    if (a.word.mode != on)
        a.word.since = now;
    a.word.mode = on;
    for (int mover : g.outputs)
        a.wishes.push_back({mover, on ? 2 : 0});
    return a;
}

// --- soft starter: 0 off, 1 ramp up, 2 bridged, 3 ramp down

std::uint16_t sightOf(const SoftStarterLogic& s, const LogicWord& w, const LogicInputs& in)
{
    return bits(isOn(in.supplyV, w.flags & 1, s.onV, s.offV),
        isOn(in.controlV, w.mode == 1 || w.mode == 2, s.onV, s.offV) ? kControl : std::uint16_t{0});
}

LogicAnswer step(const SoftStarterLogic& s, const LogicWord& before, std::uint16_t sight, TimeNs now, TimingFault fault)
{
    LogicAnswer a{before, {}, {}, {}};
    LogicWord& w = a.word;
    w.flags = sight & kPowered;
    Look look{a, now, fault};
    const bool wanted = sight & kControl;
    if (!(sight & kPowered))
        look.enter(0);
    else if (wanted && (w.mode == 0 || w.mode == 3))
        look.enter(1);
    else if (!wanted && (w.mode == 1 || w.mode == 2))
        look.enter(s.rampDownS > 0.0 && fault != TimingFault::TooShort ? 3 : 0);
    const bool ramps = w.mode == 1 || w.mode == 3;
    double done = 1.0;
    if (ramps) {
        const double length = w.mode == 1 ? s.rampUpS : s.rampDownS * (fault == TimingFault::TooLong ? kTooLong : 1.0);
        const auto stepNs = std::max<TimeNs>(timeNs(seconds(length)) / kRampSteps, 1'000'000);
        const TimeNs steps = (now - w.since) / stepNs;
        done = std::min(1.0, static_cast<double>(steps) / kRampSteps);
        if (done >= 1.0)
            look.enter(w.mode == 1 ? 2 : 0);
        else
            a.wakeAt = w.since + (steps + 1) * stepNs;
    }
    ConverterOutput level;
    level.isActive = w.mode != 0;
    const double rise = s.initialShare + (1.0 - s.initialShare) * done;
    const double fall = 1.0 - (1.0 - s.initialShare) * done;
    level.share = w.mode == 1 ? rise : w.mode == 3 ? fall : w.mode == 2 ? 1.0 : 0.0;
    a.level = {s.level, level};
    a.wishes = {{s.bypass, w.mode == 2 ? 2 : 0}};
    return a;
}

// --- drive: 0 without supply, 1 ready, 2 runs right, 3 runs left, 4 ramps down, 5 torque off

std::uint16_t sightOf(const DriveLogic& d, const LogicWord& w, const LogicInputs& in)
{
    std::uint16_t s = bits(isOn(in.supplyV, w.mode != 0, d.supplyOnV, d.supplyOffV));
    if (in.controlV >= d.inputV)
        s |= kControl;
    if (in.reverseV >= d.inputV)
        s |= kReverse;
    if (in.torqueOff1V >= d.inputV && in.torqueOff2V >= d.inputV)
        s |= kTorque;
    return s;
}

LogicAnswer step(const DriveLogic& d, const LogicWord& before, std::uint16_t sight, TimeNs now, TimingFault fault)
{
    LogicAnswer a{before, {}, {}, {}};
    LogicWord& w = a.word;
    Look look{a, now, fault};
    const bool right = sight & kControl, left = !right && (sight & kReverse);
    const bool runs = w.mode == 2 || w.mode == 3;
    if (!(sight & kPowered)) {
        look.enter(0);
    } else if (!(sight & kTorque)) {
        look.enter(5);
    } else if (w.mode == 0 || w.mode == 5) {
        if (!right && !left)
            look.enter(1); // a run command that was there all the time starts nothing
        else
            look.enter(5);
    } else if (right) {
        look.enter(2);
    } else if (left) {
        look.enter(3);
    } else if (runs) {
        look.enter(fault == TimingFault::Never ? 1 : 4);
    }
    if (w.mode == 4) {
        look.fault = fault == TimingFault::TooLong ? fault : TimingFault::None;
        look.elapsesInto(1, d.rampDownS);
    }
    ConverterOutput level;
    level.isActive = w.mode == 2 || w.mode == 3 || w.mode == 4;
    level.share = w.mode == 2 ? 1.0 : w.mode == 3 ? -1.0 : 0.0;
    a.level = {d.level, level};
    a.wishes = {{d.running, level.isActive ? 2 : 0}, {d.ready, w.mode == 0 || w.mode == 5 ? 0 : 2}};
    return a;
}

// --- standstill monitor: 0 without supply, 1 turns, 2 still for less than its delay, 3 stands, 4 a lead is open

constexpr std::uint16_t kTurns = kControl, kLeadOpen = kObstacle;

std::uint16_t sightOf(const StandstillLogic& s, const LogicWord& w, const LogicInputs& in)
{
    const bool wasStill = w.mode == 2 || w.mode == 3;
    const bool turns = in.inducedV > s.thresholdV * (wasStill ? 1.0 + s.hysteresis : 1.0);
    return bits(isOn(in.supplyV, w.mode != 0, s.supplyOnV, s.supplyOffV),
        static_cast<std::uint16_t>((turns ? kTurns : 0) | (in.isLeadOpen ? kLeadOpen : 0)));
}

LogicAnswer step(const StandstillLogic& s, const LogicWord& before, std::uint16_t sight, TimeNs now, TimingFault fault)
{
    LogicAnswer a{before, {}, {}, {}};
    LogicWord& w = a.word;
    Look look{a, now, fault};
    if (!(sight & kPowered))
        look.enter(0);
    else if (sight & kTurns)
        look.enter(1);
    else if (sight & kLeadOpen)
        look.enter(4);
    else if (w.mode != 2 && w.mode != 3)
        look.enter(2);
    if (w.mode == 2)
        look.elapsesInto(3, s.delayS);
    a.wishes = {{s.mover, w.mode == 3 ? 2 : 0}};
    return a;
}

using Names = std::span<const char* const>;

Names namesOf(const TimerLogic&)
{
    static constexpr const char* kNames[] = {"unpowered", "timing", "elapsed", "pause", "called"};
    return kNames;
}
Names namesOf(const PhaseMonitorLogic&)
{
    static constexpr const char* kNames[] = {"unpowered", "starting", "healthy", "fault_seen", "tripped", "fault_seen"};
    return kNames;
}
Names namesOf(const GateLogic&)
{
    static constexpr const char* kNames[] = {"blocking", "conducting"};
    return kNames;
}
Names namesOf(const SoftStarterLogic&)
{
    static constexpr const char* kNames[] = {"blocking", "ramp_up", "bridged", "ramp_down"};
    return kNames;
}
Names namesOf(const DriveLogic&)
{
    static constexpr const char* kNames[] = {
        "unpowered", "ready", "runs_right", "runs_left", "ramp_down", "torque_off"};
    return kNames;
}
Names namesOf(const StandstillLogic&)
{
    static constexpr const char* kNames[] = {"unpowered", "sees_turning", "still", "sees_standstill", "lead_open"};
    return kNames;
}

} // namespace

std::uint16_t sightOf(const DeviceLogic& logic, const LogicWord& word, const LogicInputs& in)
{
    return std::visit([&](const auto& l) { return sightOf(l, word, in); }, logic);
}

LogicAnswer logicStep(
    const DeviceLogic& logic, const LogicWord& before, std::uint16_t sight, TimeNs now, TimingFault fault)
{
    return std::visit([&](const auto& l) { return step(l, before, sight, now, fault); }, logic);
}

const char* modeName(const DeviceLogic& logic, std::uint8_t mode)
{
    return std::visit([mode](const auto& l) { return namesOf(l)[mode]; }, logic);
}

std::uint8_t modeCount(const DeviceLogic& logic)
{
    return std::visit([](const auto& l) { return static_cast<std::uint8_t>(namesOf(l).size()); }, logic);
}

const char* monitorReason(const PhaseMonitorLogic& m, std::uint8_t reasons)
{
    if (reasons & monitor::kSequence)
        return "sequence";
    if (reasons & monitor::kLoss)
        return "phase_lost";
    if (reasons & monitor::kUnder)
        return "under_voltage";
    if (reasons & monitor::kOver)
        return "over_voltage";
    if (reasons & monitor::kUnbalance)
        return m.readsCurrent() ? "current_unbalance" : "unbalance";
    return "";
}

} // namespace ts
