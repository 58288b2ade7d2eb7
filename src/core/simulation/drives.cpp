// Motors and heat: what goes on between events, and which law each quantity follows.

#include "core/base/at.h"
#include "core/simulation/run.h"

#include "core/network/motor_circuit.h"

#include <algorithm>
#include <bit>
#include <cmath>
#include <numbers>

namespace ts {
namespace {

constexpr double kSettledPerS = 0.001; ///< share of synchronous speed per second that counts as steady
constexpr double kSpeedError = 2e-5; ///< of synchronous speed, in one step
constexpr double kSpeedDifference = 1e-6; ///< of synchronous speed, to see how torque changes with it

} // namespace

/// When the driven motors' speeds were last brought up to date.
TimeNs Run::drivenSince() const
{
    TimeNs since = m_state.now;
    for (const PlantMotor& m : m_plant.motors)
        if (m_state.flows[at(m.flow)].law == Flow::Law::Driven)
            since = std::min(since, m_state.flows[at(m.flow)].since);
    return since;
}

bool Run::isAnyDriven() const
{
    return std::any_of(m_plant.motors.begin(), m_plant.motors.end(),
        [this](const PlantMotor& m) { return m_state.flows[at(m.flow)].law == Flow::Law::Driven; });
}

double Run::airGapNm(const PlantMotor& m, const network::Solution& solution, double slip) const
{
    const auto& prepared = m_instant.electrics.alternating->prepared;
    const auto v = [&](int k) { return solution.voltage[at(prepared.superNode(m.nodes[at(k)]))]; };
    // The circuit is that of a star: a delta winding at line voltage stands for a star at line voltage over root 3.
    const double scale = m.data.sixTerminal && !m.data.starWindings ? 1.0 / std::numbers::sqrt3 : 1.0;
    const auto winding = [&](int k) { return m.data.sixTerminal ? (v(k) - v(k + 3)) * scale : v(k); };
    const auto sequences = network::sequencesOf(winding(0), winding(1), winding(2));
    return network::airGapTorque(m.data.circuit, slip, sequences, m.data.synchronousRadPerS);
}

void Run::rebaseFlows()
{
    for (std::size_t k = 0; k < m_plant.motors.size(); ++k) {
        const PlantMotor& m = m_plant.motors[k];
        const double speed = flowValue(m_plant, m_state, m.flow, m_state.now);
        m_state.flows[at(m.flow)] = lawOf(k, speed);
    }
    rebaseProtections();
}

/// The drive that turns this motor now, or null.
const PlantDrive* Run::activeDrive(std::size_t motor) const
{
    const int drive = m_instant.electrics.alternating->driveFeeds[motor].drive;
    return drive >= 0 && m_state.levels[at(m_plant.drives[at(drive)].data.level)].isActive ? &m_plant.drives[at(drive)]
                                                                                           : nullptr;
}

Flow Run::lawOf(std::size_t k, double speed) const
{
    const PlantMotor& m = m_plant.motors[k];
    Flow f{speed, 0.0, 0.0, m_state.now, Flow::Law::Constant};
    if (const PlantDrive* drive = activeDrive(k)) {
        f.target = m_instant.electrics.alternating->driveFeeds[k].direction
            * m_state.levels[at(drive->data.level)].share * m.data.synchronousRadPerS;
        if (speed == f.target)
            return f;
        const bool slower = std::abs(f.target) < std::abs(speed);
        f.drive = std::copysign(
            m.data.synchronousRadPerS / (slower ? drive->data.rampDownS : drive->data.rampUpS), f.target - speed);
        f.law = Flow::Law::Ramped;
        return f;
    }
    const ShaftTorque shaft = shaftTorque(m_plant, m, m_state, m_overlay);
    const double torque = airGapNm(m, m_instant.alternating->solution, m_slips[k]);
    const double acceleration = accelerationRadPerS2(m.data.inertiaKgm2, shaft, speed, torque);
    const bool unpowered = std::abs(torque) < 1e-6 * m.data.frictionNm && shaft.hangingNm == 0.0;
    f.law = Flow::Law::Driven;
    if (unpowered) {
        f.law = speed == 0.0 ? Flow::Law::Constant : Flow::Law::Coasting;
        f.drive = f.law == Flow::Law::Coasting ? shaft.frictionNm : 0.0;
    } else if (std::abs(acceleration) < kSettledPerS * m.data.synchronousRadPerS) {
        f.law = Flow::Law::Constant;
    }
    return f;
}

bool Run::exceedsMagnetic(std::size_t k) const
{
    const Protection& p = m_plant.protections[k].data;
    const auto poles = polesOf(k);
    return std::any_of(poles.begin(), poles.end(), [&p](double a) { return a >= p.limit * p.ratedA; });
}

void Run::rebaseProtections()
{
    for (std::size_t k = 0; k < m_plant.protections.size(); ++k) {
        const PlantProtection& p = m_plant.protections[k];
        Flow& flow = m_state.flows[at(p.flow)];
        Flow next{0.0, 0.0, 0.0, m_state.now, Flow::Law::Constant};
        if (p.data.law == Protection::Law::Magnetic) {
            // The latch must be pulled for its own time; a fuse that clears sooner leaves it closed.
            if (exceedsMagnetic(k)) {
                next.law = Flow::Law::Melting;
                next.drive = 1.0 / p.data.latchS;
            }
        } else if (p.data.law == Protection::Law::Thermal) {
            next.law = Flow::Law::Heating;
            next.drive = heatingDrive(p.data, polesOf(k));
        } else {
            const auto clears = clearingTimeS(p.data.melting, polesOf(k).front());
            next.law = Flow::Law::Melting;
            next.drive = clears ? 1.0 / *clears : 0.0;
        }
        const bool stays = next.law == Flow::Law::Heating ? flow.value == flow.drive : flow.drive == 0.0;
        if (stays && next.law == flow.law && next.drive == flow.drive)
            continue; // nothing goes on here
        if (next.law != Flow::Law::Constant)
            next.value = flowValue(m_plant, m_state, p.flow, m_state.now);
        flow = next;
    }
}

void Run::gatherStart()
{
    const std::size_t count = m_plant.motors.size();
    m_start.speed.resize(count);
    m_start.slip.resize(count);
    m_start.moves.resize(count);
    m_start.shaft.resize(count);
    m_start.moving.clear();
    for (std::size_t k = 0; k < count; ++k) {
        const PlantMotor& m = m_plant.motors[k];
        m_start.speed[k] = flowValue(m_plant, m_state, m.flow, m_state.now);
        m_start.slip[k] = 1.0 - m_start.speed[k] / m.data.synchronousRadPerS;
        m_start.moves[k] = m_state.flows[at(m.flow)].law == Flow::Law::Driven;
        if (m_start.moves[k])
            m_start.moving.push_back(k);
        m_start.shaft[k] = shaftTorque(m_plant, m, m_state, m_overlay);
    }
}

void Run::seeFromMotors()
{
    if (m_viewOf == m_instant.electrics.alternating && m_view.isOf(m_start.slip, m_start.moves))
        return;
    m_view = m_instant.electrics.alternating->prepared.seenFrom(m_start.slip, m_start.moves);
    m_viewOf = m_instant.electrics.alternating;
    m_viewNumber = m_workspace.numberOf(m_view);
}

double Run::accelerationOf(std::size_t motor, double speed, double slip, const network::Solution& solution) const
{
    const PlantMotor& m = m_plant.motors[motor];
    return accelerationRadPerS2(m.data.inertiaKgm2, m_start.shaft[motor], speed, airGapNm(m, solution, slip));
}

StiffStep Run::stepFromStart()
{
    const std::vector<std::size_t>& moving = m_start.moving;
    const std::size_t count = moving.size();
    const auto synchronous = [this](std::size_t motor) { return m_plant.motors[motor].data.synchronousRadPerS; };
    const auto slope = [this, &moving, count, synchronous](const Eigen::VectorXd& speed) {
        std::vector<double> slips = m_start.slip;
        for (std::size_t i = 0; i < count; ++i)
            slips[moving[i]] = 1.0 - speed(i) / synchronous(moving[i]);
        m_view.solve(slips, m_seen);
        Eigen::VectorXd a(count);
        for (std::size_t i = 0; i < count; ++i)
            a(i) = accelerationOf(moving[i], speed(i), slips[moving[i]], m_seen);
        return a;
    };
    Eigen::VectorXd start(count);
    for (std::size_t i = 0; i < count; ++i)
        start(i) = m_start.speed[moving[i]];
    const auto differences = [&](const Eigen::VectorXd& slopeAtStart) { // never across zero, where friction changes its
                                                                        // sign
        Eigen::VectorXd d(count);
        for (std::size_t i = 0; i < count; ++i)
            d(i) = std::copysign(
                kSpeedDifference * synchronous(moving[i]), start(i) != 0.0 ? start(i) : slopeAtStart(i));
        return d;
    };
    m_seen.voltage.clear();
    return StiffStep(slope, start, differences);
}

Integrated Run::integrate(const StiffStep& from, double h)
{
    const std::vector<std::size_t>& moving = m_start.moving;
    const auto [end, error] = from.over(h);
    Integrated result{m_start.speed, true};
    std::vector<std::size_t> arriving;
    std::vector<double> slips = m_start.slip;
    for (std::size_t i = 0; i < moving.size(); ++i) {
        const std::size_t k = moving[i];
        const double start = m_start.speed[k], synchronous = m_plant.motors[k].data.synchronousRadPerS;
        const double speed = end(i);
        result.speed[k] = speed;
        const bool isSmooth = std::abs(error(i)) <= kSpeedError * synchronous;
        result.isAccurate = result.isAccurate && isSmooth && start * speed >= 0.0;
        const bool arrives = start != 0.0 && start * (start + from.slopeAtStart()(i) * h) <= 0.0;
        if (arrives)
            arriving.push_back(k);
        slips[k] = arrives ? 1.0 : 1.0 - speed / synchronous;
    }
    if (arriving.empty())
        return result;
    // What comes to zero within the step and would be held there stays there: friction changes its sign at zero.
    result.isAccurate = false;
    m_view.solve(slips, m_seen);
    for (std::size_t k : arriving)
        if (accelerationOf(k, 0.0, 1.0, m_seen) == 0.0)
            result.speed[k] = 0.0;
    return result;
}

void Run::gatherStepKey(Decides what, TimeNs phase, TimeNs length)
{
    const AlternatingCircuit& circuit = *m_instant.electrics.alternating;
    m_stepKey.assign({static_cast<std::uint64_t>(what), what == Decides::Circuit ? circuit.number : m_viewNumber,
        static_cast<std::uint64_t>(phase), static_cast<std::uint64_t>(length)});
    for (std::size_t k = 0; k < m_start.speed.size(); ++k) {
        if (m_start.moves[k]) {
            const ShaftTorque& shaft = m_start.shaft[k];
            m_stepKey.push_back(2 * k);
            for (double decides : {m_start.speed[k], shaft.frictionNm, shaft.fanNms2, shaft.hangingNm})
                m_stepKey.push_back(std::bit_cast<std::uint64_t>(decides));
        } else if (what == Decides::Circuit && circuit.prepared.isDriven(k)) {
            m_stepKey.push_back(2 * k + 1);
            m_stepKey.push_back(std::bit_cast<std::uint64_t>(m_start.slip[k]));
            m_stepKey.push_back(m_state.flows[at(m_plant.motors[k].flow)].law == Flow::Law::Constant);
        }
    }
}

template <class Work> void Run::recallStep(TimeNs phase, TimeNs length, Work workOut)
{
    gatherStepKey(Decides::Circuit, phase, length);
    if (const SpeedStep* known = m_workspace.step(m_stepKey)) {
        m_step = *known;
        return;
    }
    const MemoryKey ofCircuit = m_stepKey;
    seeFromMotors();
    gatherStepKey(Decides::View, phase, length);
    if (const SpeedStep* known = m_workspace.step(m_stepKey)) {
        m_step = *known;
    } else {
        workOut();
        m_step.after = nullptr;
        m_workspace.keepStep(m_stepKey, m_step);
    }
    std::vector<double> slips = m_start.slip;
    bool isAllKnown = true;
    for (std::size_t k = 0; k < slips.size(); ++k)
        if (m_start.moves[k])
            slips[k] = 1.0 - m_step.speed[k] / m_plant.motors[k].data.synchronousRadPerS;
        else if (m_instant.electrics.alternating->prepared.isDriven(k))
            isAllKnown = isAllKnown && m_state.flows[at(m_plant.motors[k].flow)].law == Flow::Law::Constant;
    if (isAllKnown)
        m_step.after = m_workspace.solved(m_instant.electrics.alternating, slips);
    m_workspace.keepStep(ofCircuit, m_step);
}

void Run::stepTowards(TimeNs event)
{
    gatherStart();
    const TimeNs phase = m_state.now % kLongestSpeedStepNs;
    recallStep(phase, std::min(kLongestSpeedStepNs - phase, event - m_state.now), [&] {
        const StiffStep from = stepFromStart();
        for (TimeNs grid = kLongestSpeedStepNs;; grid /= 2) {
            m_step.length = std::min(grid - phase % grid, event - m_state.now);
            Integrated result = integrate(from, secondsOf(m_step.length).si());
            m_step.speed = std::move(result.speed);
            if (result.isAccurate || grid == kShortestSpeedStepNs)
                break;
        }
    });
}

void Run::shortenStep(TimeNs length)
{
    recallStep(kLongestSpeedStepNs, length, [&] { // no phase: however accurate
        m_step.length = length;
        m_step.speed = integrate(stepFromStart(), secondsOf(length).si()).speed;
    });
}

void Run::readZones(std::vector<std::uint8_t>& z) const
{
    z.clear();
    const AlternatingCircuit& circuit = *m_instant.electrics.alternating; // no speed changes direct current
    for (int c : circuit.coils) {
        const CoilElement& data = m_plant.coils[at(c)].data;
        const double v = coilVoltage(m_plant.coils[at(c)]);
        z.push_back(static_cast<std::uint8_t>((v >= data.dropOutV) + (v >= data.pickUpV)));
    }
    for (const PlantConverter& c : m_plant.converters)
        z.push_back(hasInput(c));
    for (int l : circuit.lamps)
        z.push_back(lampCurrentA(m_plant.lamps[at(l)])
            >= m_plant.lamps[at(l)].data.visibleFrom * m_plant.lamps[at(l)].data.ratedA);
    for (std::size_t k = 0; k < m_plant.protections.size(); ++k)
        if (m_plant.protections[k].data.law == Protection::Law::Magnetic)
            z.push_back(exceedsMagnetic(k));
    for (const PlantMotor& m : m_plant.motors) {
        const double speed = m_state.flows[at(m.flow)].value;
        z.push_back(std::abs(speed) > m.data.standstillRadPerS);
    }
    for (int k : circuit.deviceLogics) {
        const std::uint16_t sight = sightOfLogic(at(k));
        z.push_back(static_cast<std::uint8_t>(sight));
        z.push_back(static_cast<std::uint8_t>(sight >> 8));
    }
}

bool Run::moveBy(TimeNs event, TimeNs until)
{
    stepTowards(event);
    if (m_state.now + m_step.length > until) {
        m_state.now = until; // the speeds stay where they were at the step's beginning
        return true;
    }
    readZones(m_zonesBefore);
    const TimeNs from = m_state.now;
    m_flowsBefore = m_state.flows;
    bool isSteady = false;
    const auto go = [&] { // true if anything must react there
        m_state.now = from;
        m_state.flows = m_flowsBefore;
        isSteady = takeSpeeds(from + m_step.length, m_step.speed);
        solveSpeeds();
        readZones(m_zones);
        return m_zones != m_zonesBefore;
    };
    const bool reacts = go();
    TimeNs early = 0, late = m_step.length; // nothing reacts yet, something does
    while (reacts && late - early > kGridNs) {
        shortenStep(early + std::max(kGridNs, (late - early) / 2 / kGridNs * kGridNs));
        (go() ? late : early) = m_step.length;
    }
    if (m_step.length != late) {
        shortenStep(late);
        go();
    }
    rebaseProtections();
    return !reacts && !isSteady;
}

bool Run::takeSpeeds(TimeNs now, const std::vector<double>& speed)
{
    const double stepS = secondsOf(now - m_state.now).si();
    m_state.now = now;
    bool steady = true;
    for (std::size_t k = 0; k < speed.size(); ++k) {
        const PlantMotor& m = m_plant.motors[k];
        Flow& f = m_state.flows[at(m.flow)];
        if (f.law != Flow::Law::Driven)
            continue; // what is remembered of a step is of those that moved in it
        steady &= std::abs(speed[k] - f.value) < kSettledPerS * m.data.synchronousRadPerS * stepS;
        f.value = speed[k];
        f.since = m_state.now;
    }
    return steady;
}

void Run::markMotors()
{
    for (int k = 0; k < static_cast<int>(m_plant.motors.size()); ++k) {
        const PlantMotor& m = m_plant.motors[at(k)];
        const Flow& f = m_state.flows[at(m.flow)];
        const int cause = m_state.lastEvent;
        const std::uint8_t fed = m_instant.electrics.alternating->motorFed[at(k)];
        int& reason = m_state.actuatorEvent[at(k)]; // a motor runs down or up because of what happened to its own path
        if (fed != m_state.actuatorFed[at(k)]) {
            const int opener = causeOf(
                [&](const Instant& i) { return i.electrics.alternating->motorFed[at(k)] == fed; });
            reason = record(Why::PathChanged, m.device, k, m_state.actuatorFed[at(k)], fed, opener, -1,
                std::abs(flowValue(m_plant, m_state, m.flow, m_state.now)));
            m_state.actuatorFed[at(k)] = fed;
        }
        const bool turns = std::abs(f.value) > m.data.standstillRadPerS;
        MotorMode mode = MotorMode::AtRest;
        if (turns || f.law == Flow::Law::Driven)
            mode = f.law == Flow::Law::Coasting ? MotorMode::Coasting
                : turns                         ? MotorMode::Driven
                                                : m_state.actuatorMode[at(k)];
        if (mode != m_state.actuatorMode[at(k)]) {
            const Why why = mode == MotorMode::AtRest ? Why::AtRest
                : mode == MotorMode::Driven           ? Why::Turning
                                                      : Why::PowerOff;
            reason = record(why, m.device, k, static_cast<int>(m_state.actuatorMode[at(k)]), static_cast<int>(mode),
                reason >= 0 ? reason : cause, -1, f.value);
            m_state.actuatorMode[at(k)] = mode;
        } else if (mode == MotorMode::Driven && f.law == Flow::Law::Constant && m_state.wasDriven[at(k)]) {
            record(Why::RanUp, m.device, k, 0, 0, reason >= 0 ? reason : cause, -1, f.value);
        }
        m_state.lastEvent = cause; // what a motor does changes no contact
        m_state.wasDriven[at(k)] = f.law == Flow::Law::Driven || f.law == Flow::Law::Ramped;
    }
}

} // namespace ts
