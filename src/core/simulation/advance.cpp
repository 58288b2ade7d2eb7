#include "core/simulation/advance.h"

#include "core/base/check.h"
#include "core/network/motor_circuit.h"
#include "core/simulation/motion.h"
#include "core/simulation/safety_relay.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <tuple>

namespace ts {
namespace {

constexpr int kMostRounds = 200; ///< within one instant; more is a loop without time
constexpr double kSettledPerS = 0.001; ///< share of synchronous speed per second that counts as steady
constexpr double kPowerStep = 0.01; ///< of a supply's rated power, before its input is solved again

std::size_t at(int i)
{
    return static_cast<std::size_t>(i);
}

bool sooner(const Pending& a, const Pending& b)
{
    return std::tie(a.at, a.phase, a.slot, a.to) < std::tie(b.at, b.phase, b.slot, b.to);
}

class Run {
public:
    Run(const Plant& plant, State& state, Trace& trace, Workspace& workspace)
        : m_plant(plant)
        , m_state(state)
        , m_trace(trace)
        , m_workspace(workspace)
        , m_overlay(overlayOf(plant, state.faults))
    {
    }

    Pause run(std::span<const Stimulus> stimuli, const Limits& limits)
    {
        auto next = stimuli.begin();
        const bool due = next != stimuli.end() && next->at <= m_state.now;
        if (m_state.isSettled && !due)
            solve(); // so that pausing and going on is the same as not pausing
        else if (!settleWith(next, stimuli.end()))
            return Pause::Chatter;
        while (m_state.now < limits.until) {
            if (limits.stop.stop_requested())
                return Pause::Cancelled;
            if (limits.outOfBudget && limits.outOfBudget())
                return Pause::OutOfBudget;
            TimeNs event = std::numeric_limits<TimeNs>::max();
            if (!m_state.agenda.empty())
                event = std::min(event, m_state.agenda.front().at);
            if (next != stimuli.end())
                event = std::min(event, next->at);
            if (const auto crossing = nextCrossing(m_plant, m_state))
                event = std::min(event, *crossing);
            if (isAnyDriven()) {
                if (moveBy(std::min(event, limits.until)) && m_state.now < event)
                    continue; // a step of speed alone, nothing crossed
            } else {
                m_state.now = std::min(event, limits.until);
                if (m_state.now < event)
                    break;
            }
            if (!settleWith(next, stimuli.end()))
                return Pause::Chatter;
        }
        return Pause::Reached;
    }

private:
    using StimulusIt = std::span<const Stimulus>::iterator;

    // --- one instant -------------------------------------------------------------------------------

    bool settleWith(StimulusIt& next, StimulusIt end)
    {
        for (; next != end && next->at <= m_state.now; ++next)
            apply(*next);
        return settle();
    }

    bool settle()
    {
        m_state.isSettled = true;
        for (int round = 0; round < kMostRounds; ++round) {
            if (applyDue())
                if (m_chatter)
                    return false;
            solve();
            if (reactSupplies())
                continue;
            rebaseFlows();
            reactCoils();
            reactProtections();
            reactRelays();
            reconcileMovers();
            markLamps();
            markMotors();
            if (m_state.agenda.empty() || m_state.agenda.front().at > m_state.now)
                return true;
        }
        return false;
    }

    void solve()
    {
        m_slips = slipsAt(m_plant, m_state, m_state.now);
        m_instant = solveInstant(m_plant, m_state, m_overlay, m_slips, m_workspace);
        m_polesA = allPoleCurrentsA(m_plant, m_instant, m_slips);
    }

    int record(Why why, int device, int slot, int from, int to, int cause, int net = -1, double si = 0.0)
    {
        m_trace.events.push_back({m_state.now, why, device, slot, from, to, cause, net, si});
        return m_state.lastEvent = static_cast<int>(m_trace.events.size()) - 1;
    }

    void apply(const Stimulus& s)
    {
        std::fill(m_state.moves.begin(), m_state.moves.end(), std::uint8_t{0});
        switch (s.kind) {
        case Stimulus::Kind::Drive: {
            const PlantMover& mover = m_plant.movers[at(s.slot)];
            if (s.letGo && mover.spec.latches && !m_overlay.losesLatch[at(s.slot)])
                return;
            if (mover.spec.driver == MoverSpec::Driver::Coil)
                m_state.pushed[at(s.slot)] = s.target == 2;
            else
                m_state.wish[at(s.slot)] = s.target;
            resetFlowsOf(s.slot, s.target);
            record(Why::Operated, mover.device, s.slot, m_state.travel[at(s.slot)], s.target, -1);
            break;
        }
        case Stimulus::Kind::SetKnob:
            m_state.knobs[at(s.slot)] = s.value;
            record(Why::KnobSet, -1, s.slot, 0, 0, -1, -1, s.value);
            break;
        case Stimulus::Kind::PutFault:
            if (std::find(m_state.faults.begin(), m_state.faults.end(), s.fault) == m_state.faults.end())
                m_state.faults.push_back(s.fault);
            m_overlay = overlayOf(m_plant, m_state.faults);
            record(Why::FaultOn, -1, static_cast<int>(s.fault.mode), s.fault.at, s.fault.with, -1);
            break;
        case Stimulus::Kind::ClearFault:
            std::erase(m_state.faults, s.fault);
            m_overlay = overlayOf(m_plant, m_state.faults);
            record(Why::FaultOff, -1, static_cast<int>(s.fault.mode), s.fault.at, s.fault.with, -1);
            break;
        }
    }

    /// A replaced fuse is new; a reset overload relay stays warm.
    void resetFlowsOf(int mover, int target)
    {
        for (const PlantProtection& p : m_plant.protections)
            if (p.data.mover == mover && p.data.law == Protection::Law::Melting && target != p.data.trippedTravel)
                m_state.flows[at(p.flow)] = {0.0, 0.0, m_state.now, Flow::Law::Melting};
    }

    // --- movers --------------------------------------------------------------------------------------

    std::pair<int, int> boundsOf(int mover) const
    {
        int low = m_overlay.lowest[at(mover)], high = m_overlay.highest[at(mover)];
        for (int partner : m_plant.movers[at(mover)].partners)
            high = std::min(high, std::max(low, 2 - m_state.travel[at(partner)]));
        return {low, std::max(low, high)};
    }

    void reconcileMovers()
    {
        for (int m = 0; m < static_cast<int>(m_plant.movers.size()); ++m) {
            const auto [low, high] = boundsOf(m);
            const int wish = m_state.pushed[at(m)] ? 2 : m_state.wish[at(m)];
            const int desired = std::clamp(wish, low, high);
            int headed = m_state.travel[at(m)];
            for (const Pending& p : m_state.agenda)
                if (p.phase == Pending::Move && p.slot == m)
                    headed = p.to; // sorted by time: the last one wins
            if (headed == desired)
                continue;
            std::erase_if(m_state.agenda, [m](const Pending& p) { return p.phase == Pending::Move && p.slot == m; });
            if (m_state.travel[at(m)] != desired)
                scheduleMove(m, desired);
        }
    }

    void scheduleMove(int m, int target)
    {
        const MoverSpec& spec = m_plant.movers[at(m)].spec;
        const int from = m_state.travel[at(m)];
        const TimeNs gap = timeNs(seconds(spec.gapS));
        Pending p;
        p.slot = m;
        p.cause = m_state.lastEvent;
        describeCause(m, p);
        if (target > from) {
            const TimeNs whole = from == 0 ? std::max(timeNs(seconds(spec.toActuatedS)), gap) : gap;
            if (from == 0 && target == 2 && gap > 0)
                schedule(p, m_state.now + whole - gap, 1);
            schedule(p, m_state.now + whole, target);
        } else {
            const TimeNs leave = from == 2 ? timeNs(seconds(spec.toRestS)) : 0;
            if (from == 2 && target == 0 && gap > 0)
                schedule(p, m_state.now + leave, 1);
            schedule(p, m_state.now + leave + (from == 2 && target == 1 ? 0 : gap), target);
        }
    }

    void schedule(Pending p, TimeNs when, int to)
    {
        p.at = when;
        p.to = to;
        m_state.agenda.insert(std::upper_bound(m_state.agenda.begin(), m_state.agenda.end(), p, sooner), p);
    }

    /// Which net and value made the mover move: its coil's voltage, or the current that tripped it.
    void describeCause(int m, Pending& p) const
    {
        for (const PlantCoil& c : m_plant.coils)
            if (c.mover == m) {
                const PlantImpedance& z = m_plant.impedances[at(c.impedance)];
                p.net = m_plant.netOfNode[at(z.p)];
                p.si = coilVoltage(c);
            }
        for (std::size_t k = 0; k < m_plant.protections.size(); ++k)
            if (m_plant.protections[k].data.mover == m)
                for (double i : m_polesA[k])
                    p.si = std::max(p.si, i);
    }

    /// Puts all that is due into effect. True if anything moved.
    bool applyDue()
    {
        bool moved = false;
        while (!m_state.agenda.empty() && m_state.agenda.front().at <= m_state.now) {
            const Pending p = m_state.agenda.front();
            m_state.agenda.erase(m_state.agenda.begin());
            if (p.phase == Pending::Move)
                moved |= applyMove(p);
            else if (p.phase == Pending::HoldUp)
                endHoldUp(p);
        }
        return moved;
    }

    bool applyMove(const Pending& p)
    {
        const auto [low, high] = boundsOf(p.slot);
        const int to = std::clamp(p.to, low, high), from = m_state.travel[at(p.slot)];
        if (to == from)
            return false;
        m_state.travel[at(p.slot)] = static_cast<std::uint8_t>(to);
        record(Why::Moved, m_plant.movers[at(p.slot)].device, p.slot, from, to, p.cause, p.net, p.si);
        if (to != 1)
            countArrival(p.slot);
        return true;
    }

    void countArrival(int mover)
    {
        if (m_state.moves[at(mover)] == 0 || m_state.now - m_state.movesSince[at(mover)] > kChatterWindowNs) {
            m_state.moves[at(mover)] = 0;
            m_state.movesSince[at(mover)] = m_state.now;
        }
        if (++m_state.moves[at(mover)] >= kChatterMoves)
            m_chatter = true;
    }

    // --- devices look at their voltages --------------------------------------------------------------

    double coilVoltage(const PlantCoil& c) const
    {
        const PlantImpedance& z = m_plant.impedances[at(c.impedance)];
        if (m_overlay.impedance[at(c.impedance)] != 0)
            return 0.0; // a broken or shorted winding pulls nothing
        return c.data.direct ? std::abs(m_instant.directV(z.p, z.q)) : std::abs(m_instant.alternatingV(z.p, z.q));
    }

    void reactCoils()
    {
        for (const PlantCoil& c : m_plant.coils) {
            const bool sealed = m_state.travel[at(c.mover)] == 2;
            m_state.wish[at(c.mover)] = coilVoltage(c) >= (sealed ? c.data.dropOutV : c.data.pickUpV) ? 2 : 0;
        }
    }

    /// Input there or not, voltage or current limit. True if a mode or the power taken changed: solve again.
    bool reactSupplies()
    {
        bool changed = false;
        for (std::size_t k = 0; k < m_plant.converters.size(); ++k) {
            const PlantConverter& c = m_plant.converters[k];
            const bool input = std::abs(m_instant.alternatingV(c.inputP, c.inputQ)) >= c.data.lowestInputV;
            const double outputV = m_instant.directV(c.plus, c.minus);
            const ConverterMode before = m_state.converters[k];
            const bool limiting = before == ConverterMode::Limit || before == ConverterMode::HoldUpLimit;
            const double outputA = limiting ? c.data.limitA : (c.data.outputV - outputV) / c.data.outputOhm;
            const bool limit = limiting ? outputV < c.data.outputV - c.data.limitA * c.data.outputOhm : outputA > c.data.limitA;
            ConverterMode after = before;
            if (input)
                after = limit && before != ConverterMode::Off ? ConverterMode::Limit : ConverterMode::Voltage;
            else if (before != ConverterMode::Off)
                after = limit ? ConverterMode::HoldUpLimit : ConverterMode::HoldUp;
            if (after != before) {
                enterMode(static_cast<int>(k), before, after, outputA);
                changed = true;
                continue;
            }
            const double powerW = before == ConverterMode::Off ? 0.0 : std::max(0.0, outputV * outputA);
            if (std::abs(powerW - m_state.converterPowerW[k]) > kPowerStep * c.data.outputV * c.data.limitA) {
                m_state.converterPowerW[k] = powerW;
                changed = true;
            }
        }
        return changed;
    }

    void enterMode(int k, ConverterMode before, ConverterMode after, double outputA)
    {
        m_state.converters[at(k)] = after;
        const auto holds = [](ConverterMode m) { return m == ConverterMode::HoldUp || m == ConverterMode::HoldUpLimit; };
        if (holds(after) && !holds(before)) {
            Pending p;
            p.phase = Pending::HoldUp;
            p.slot = k;
            p.cause = m_state.lastEvent;
            schedule(p, m_state.now + timeNs(seconds(m_plant.converters[at(k)].data.holdUpS)), 0);
        }
        if (holds(before) && !holds(after))
            std::erase_if(m_state.agenda, [k](const Pending& p) { return p.phase == Pending::HoldUp && p.slot == k; });
        record(Why::SupplyMode, m_plant.converters[at(k)].device, k, static_cast<int>(before), static_cast<int>(after), m_state.lastEvent,
            m_plant.netOfNode[at(m_plant.converters[at(k)].plus)], outputA);
    }

    void endHoldUp(const Pending& p)
    {
        const int before = static_cast<int>(m_state.converters[at(p.slot)]);
        m_state.converters[at(p.slot)] = ConverterMode::Off;
        m_state.converterPowerW[at(p.slot)] = 0.0;
        record(Why::SupplyMode, m_plant.converters[at(p.slot)].device, p.slot, before, static_cast<int>(ConverterMode::Off), p.cause,
            m_plant.netOfNode[at(m_plant.converters[at(p.slot)].plus)]);
    }

    void reactProtections()
    {
        for (std::size_t k = 0; k < m_plant.protections.size(); ++k) {
            const PlantProtection& p = m_plant.protections[k];
            bool trips = false;
            if (p.data.law == Protection::Law::Magnetic)
                for (double i : m_polesA[k])
                    trips |= i >= p.data.limit * p.data.ratedA;
            else
                trips = m_state.flows[at(p.flow)].value >= (p.data.law == Protection::Law::Melting ? 1.0 : p.data.limit) * (1.0 - 1e-9);
            if (trips)
                m_state.wish[at(p.data.mover)] = p.data.trippedTravel;
        }
    }

    double senseV(int impedance) const
    {
        if (impedance < 0)
            return 0.0;
        const PlantImpedance& z = m_plant.impedances[at(impedance)];
        return m_instant.directV(z.p, z.q);
    }

    void reactRelays()
    {
        for (int k = 0; k < static_cast<int>(m_plant.relays.size()); ++k) {
            const PlantRelay& relay = m_plant.relays[at(k)];
            const SafetyRelayLogic& sheet = relay.data;
            const RelayInputs inputs{senseV(sheet.supply), senseV(sheet.channel1), senseV(sheet.channel2), senseV(sheet.reset),
                m_state.travel[at(sheet.firstRelay)] == 0 && m_state.travel[at(sheet.secondRelay)] == 0};
            const RelayWord before = m_state.relays[at(k)];
            const RelayAnswer answer = relayStep(sheet, before, inputs, m_state.now);
            m_state.relays[at(k)] = answer.word;
            m_state.wish[at(sheet.firstRelay)] = m_state.wish[at(sheet.secondRelay)] = answer.word.outputs ? 2 : 0;
            std::erase_if(m_state.agenda, [k](const Pending& p) { return p.phase == Pending::Wake && p.slot == k; });
            if (answer.wakeAt) {
                Pending p;
                p.phase = Pending::Wake;
                p.slot = k;
                schedule(p, *answer.wakeAt, 0);
            }
            recordRelay(k, relay.device, before, answer.word);
        }
    }

    void recordRelay(int k, int device, const RelayWord& before, const RelayWord& after)
    {
        const int cause = m_state.lastEvent;
        if (before.powered != after.powered)
            record(Why::RelaySupply, device, k, before.powered, after.powered, cause);
        if (before.channel1 != after.channel1)
            record(Why::ChannelChanged, device, k, 1, after.channel1, cause);
        if (before.channel2 != after.channel2)
            record(Why::ChannelChanged, device, k, 2, after.channel2, cause);
        if (!before.lockedOut && after.lockedOut)
            record(Why::LockedOut, device, k, 0, 1, cause);
        if (before.lockedOut && !after.lockedOut)
            record(Why::LockOutCleared, device, k, 1, 0, cause);
        if (!before.ready && after.ready)
            record(Why::ResetWanted, device, k, 0, 1, cause);
        if (before.outputs != after.outputs)
            record(after.outputs ? Why::OutputsOn : Why::OutputsOff, device, k, before.outputs, after.outputs, cause);
    }

    void markLamps()
    {
        for (std::size_t k = 0; k < m_plant.lamps.size(); ++k) {
            const PlantLamp& lamp = m_plant.lamps[k];
            const bool lit = lampCurrentA(lamp) >= lamp.data.visibleFrom * lamp.data.ratedA;
            if (lit == (m_state.lampLit[k] != 0))
                continue;
            m_state.lampLit[k] = lit;
            const int before = m_state.lastEvent;
            record(lit ? Why::Lit : Why::Dark, lamp.device, static_cast<int>(k), !lit, lit, before,
                m_plant.netOfNode[at(m_plant.impedances[at(lamp.impedance)].p)], lampCurrentA(lamp));
            m_state.lastEvent = before; // a lamp causes nothing
        }
    }

    double lampCurrentA(const PlantLamp& lamp) const
    {
        if (m_overlay.impedance[at(lamp.impedance)] != 0)
            return 0.0;
        const PlantImpedance& z = m_plant.impedances[at(lamp.impedance)];
        const double direct = m_instant.directV(z.p, z.q), alternating = std::abs(m_instant.alternatingV(z.p, z.q));
        return std::hypot(direct, alternating) / lamp.data.ohm;
    }

    // --- motors --------------------------------------------------------------------------------------

    bool isAnyDriven() const
    {
        return std::any_of(m_plant.motors.begin(), m_plant.motors.end(),
            [this](const PlantMotor& m) { return m_state.flows[at(m.flow)].law == Flow::Law::Driven; });
    }

    double airGapNm(const PlantMotor& m, const network::Solution& solution, double slip) const
    {
        const auto& prepared = m_instant.electrics->alternatingPrepared;
        const auto v = [&](int k) { return solution.voltage[at(prepared.superNode(m.nodes[at(k)]))]; };
        const auto sequences = network::sequencesOf(v(0), v(1), v(2));
        return network::airGapTorque(m.data.circuit, slip, sequences, m.data.synchronousRadPerS);
    }

    /// Decides each motor's law and writes heat and damage forward to now with the new currents.
    void rebaseFlows()
    {
        for (std::size_t k = 0; k < m_plant.motors.size(); ++k) {
            const PlantMotor& m = m_plant.motors[k];
            Flow& f = m_state.flows[at(m.flow)];
            const double speed = flowValue(m_plant, m_state, m.flow, m_state.now);
            const double torque = airGapNm(m, m_instant.alternating, m_slips[k]);
            const double acceleration = accelerationRadPerS2(m.data, speed, torque);
            const bool unpowered = std::abs(torque) < 1e-6 * m.data.frictionNm;
            Flow::Law law = Flow::Law::Driven;
            if (unpowered)
                law = speed == 0.0 ? Flow::Law::Constant : Flow::Law::Coasting;
            else if (std::abs(acceleration) < kSettledPerS * m.data.synchronousRadPerS)
                law = Flow::Law::Constant;
            f = {speed, 0.0, m_state.now, law};
        }
        rebaseProtections();
    }

    void rebaseProtections()
    {
        for (std::size_t k = 0; k < m_plant.protections.size(); ++k) {
            const PlantProtection& p = m_plant.protections[k];
            if (p.flow < 0)
                continue;
            const double value = flowValue(m_plant, m_state, p.flow, m_state.now);
            if (p.data.law == Protection::Law::Thermal) {
                m_state.flows[at(p.flow)] = {value, heatingDrive(p.data, m_polesA[k]), m_state.now, Flow::Law::Heating};
            } else {
                const auto melting = meltingTimeS(m_polesA[k].front() / p.data.ratedA, p.data.limit);
                m_state.flows[at(p.flow)] = {value, melting ? 1.0 / *melting : 0.0, m_state.now, Flow::Law::Melting};
            }
        }
    }

    /// Speeds after h by RK4; only motors under the law Driven are integrated.
    std::vector<double> integrated(double h) const
    {
        const std::size_t count = m_plant.motors.size();
        std::vector<double> start(count), speed(count);
        for (std::size_t k = 0; k < count; ++k)
            start[k] = flowValue(m_plant, m_state, m_plant.motors[k].flow, m_state.now);
        network::Solution solution;
        std::vector<double> slips(count);
        const auto accelerations = [&](const std::vector<double>& w) {
            for (std::size_t k = 0; k < count; ++k)
                slips[k] = 1.0 - w[k] / m_plant.motors[k].data.synchronousRadPerS;
            m_instant.electrics->alternatingPrepared.solve(slips, solution);
            std::vector<double> a(count, 0.0);
            for (std::size_t k = 0; k < count; ++k) {
                const PlantMotor& m = m_plant.motors[k];
                if (m_state.flows[at(m.flow)].law == Flow::Law::Driven)
                    a[k] = accelerationRadPerS2(m.data, w[k], airGapNm(m, solution, slips[k]));
            }
            return a;
        };
        const auto moved = [&](const std::vector<double>& a, double dt) {
            std::vector<double> w = start;
            for (std::size_t k = 0; k < count; ++k)
                w[k] += a[k] * dt;
            return w;
        };
        const auto k1 = accelerations(start), k2 = accelerations(moved(k1, h / 2)), k3 = accelerations(moved(k2, h / 2)),
                   k4 = accelerations(moved(k3, h));
        for (std::size_t k = 0; k < count; ++k)
            speed[k] = start[k] + h / 6.0 * (k1[k] + 2.0 * k2[k] + 2.0 * k3[k] + k4[k]);
        return speed;
    }

    /// What would make a device react, as one comparable value; it must not change within a step of speed.
    std::vector<std::uint8_t> zones() const
    {
        std::vector<std::uint8_t> z;
        for (const PlantCoil& c : m_plant.coils) {
            const double v = coilVoltage(c);
            z.push_back(static_cast<std::uint8_t>((v >= c.data.dropOutV) + (v >= c.data.pickUpV)));
        }
        for (const PlantConverter& c : m_plant.converters)
            z.push_back(std::abs(m_instant.alternatingV(c.inputP, c.inputQ)) >= c.data.lowestInputV);
        for (const PlantLamp& l : m_plant.lamps)
            z.push_back(lampCurrentA(l) >= l.data.visibleFrom * l.data.ratedA);
        for (std::size_t k = 0; k < m_plant.protections.size(); ++k)
            if (m_plant.protections[k].data.law == Protection::Law::Magnetic)
                for (double i : m_polesA[k])
                    z.push_back(i >= m_plant.protections[k].data.limit * m_plant.protections[k].data.ratedA);
        for (const PlantMotor& m : m_plant.motors) {
            const double speed = m_state.flows[at(m.flow)].value;
            z.push_back(std::abs(speed) > m.data.standstillRadPerS);
        }
        return z;
    }

    /// Integrates driven motors towards the target, one step at most; steps end on a fixed grid of time, so that
    /// pausing in between changes nothing. True if only speeds and heat moved on; false if a device must react.
    bool moveBy(TimeNs target)
    {
        const std::vector<std::uint8_t> before = zones();
        const State saved = m_state;
        const TimeNs gridEnd = (m_state.now / kSpeedStepNs + 1) * kSpeedStepNs;
        TimeNs step = std::min(gridEnd, target) - m_state.now;
        while (true) {
            const bool steady = stepSpeeds(step);
            solve();
            rebaseProtections();
            if (zones() == before)
                return !steady;
            if (step <= kGridNs)
                return false;
            m_state = saved;
            solve();
            step = std::max(kGridNs, step / 2 / kGridNs * kGridNs);
        }
    }

    /// True if no driven motor changed its speed any more.
    bool stepSpeeds(TimeNs step)
    {
        const double stepS = secondsOf(step).si();
        const std::vector<double> speed = integrated(stepS);
        m_state.now += step;
        bool steady = true;
        for (std::size_t k = 0; k < speed.size(); ++k) {
            const PlantMotor& m = m_plant.motors[k];
            Flow& f = m_state.flows[at(m.flow)];
            if (f.law != Flow::Law::Driven)
                continue;
            steady &= std::abs(speed[k] - f.value) < kSettledPerS * m.data.synchronousRadPerS * stepS;
            f.value = speed[k];
            f.since = m_state.now;
        }
        return steady;
    }

    void markMotors()
    {
        for (int k = 0; k < static_cast<int>(m_plant.motors.size()); ++k) {
            const PlantMotor& m = m_plant.motors[at(k)];
            const Flow& f = m_state.flows[at(m.flow)];
            const int cause = m_state.lastEvent;
            const std::uint8_t fed = m_instant.electrics->motorFed[at(k)];
            int pathEvent = cause;
            if (fed != m_state.motorFed[at(k)]) {
                pathEvent = record(Why::PathChanged, m.device, k, m_state.motorFed[at(k)], fed, cause);
                m_state.motorFed[at(k)] = fed;
            }
            const bool turns = std::abs(f.value) > m.data.standstillRadPerS;
            MotorMode mode = MotorMode::AtRest;
            if (turns || f.law == Flow::Law::Driven)
                mode = f.law == Flow::Law::Coasting ? MotorMode::Coasting : turns ? MotorMode::Driven : m_state.motorMode[at(k)];
            if (mode != m_state.motorMode[at(k)]) {
                const Why why = mode == MotorMode::AtRest ? Why::AtRest : mode == MotorMode::Driven ? Why::Turning : Why::PowerOff;
                record(why, m.device, k, static_cast<int>(m_state.motorMode[at(k)]), static_cast<int>(mode), pathEvent, -1, f.value);
                m_state.motorMode[at(k)] = mode;
            } else if (mode == MotorMode::Driven && f.law == Flow::Law::Constant && m_state.wasDriven) {
                record(Why::RanUp, m.device, k, 0, 0, cause, -1, f.value);
            }
            m_state.lastEvent = cause; // what a motor does changes no contact
        }
        m_state.wasDriven = isAnyDriven();
    }

    const Plant& m_plant;
    State& m_state;
    Trace& m_trace;
    Workspace& m_workspace;
    Overlay m_overlay;
    Instant m_instant;
    std::vector<double> m_slips;
    std::vector<std::vector<double>> m_polesA;
    bool m_chatter = false;
};

} // namespace

State initialState(const Plant& plant)
{
    State s;
    for (const PlantMover& m : plant.movers)
        s.travel.push_back(m.spec.initial);
    s.wish = s.travel;
    s.pushed.assign(plant.movers.size(), 0);
    s.moves.assign(plant.movers.size(), 0);
    s.movesSince.assign(plant.movers.size(), 0);
    s.relays.resize(plant.relays.size());
    s.converters.assign(plant.converters.size(), ConverterMode::Off);
    s.converterPowerW.assign(plant.converters.size(), 0.0);
    s.flows.resize(at(plant.flowCount));
    for (const PlantProtection& p : plant.protections)
        if (p.flow >= 0)
            s.flows[at(p.flow)].law = p.data.law == Protection::Law::Thermal ? Flow::Law::Heating : Flow::Law::Melting;
    for (const PlantKnob& k : plant.knobs)
        s.knobs.push_back(k.initial);
    s.lampLit.assign(plant.lamps.size(), 0);
    s.motorMode.assign(plant.motors.size(), MotorMode::AtRest);
    s.motorFed.assign(plant.motors.size(), 0);
    return s;
}

Expected<Stimulus> stimulusFor(const Plant& plant, std::string_view tag, std::string_view word, TimeNs time)
{
    const int device = plant.deviceIndex(tag);
    if (device < 0)
        return failure(ErrorCode::NotFound, message("scenario.no_device", {std::string(tag)}));
    std::string known;
    for (const auto& [name, what] : plant.devices[at(device)].actions) {
        if (name == word) {
            Stimulus s;
            s.at = time;
            s.slot = what.first;
            s.target = what.second;
            s.letGo = word == "release";
            return s;
        }
        known += (known.empty() ? "" : ", ") + name;
    }
    return failure(ErrorCode::NotFound, message("scenario.no_action", {std::string(tag), std::string(word), known}));
}

Pause advance(const Plant& plant, State& state, std::span<const Stimulus> stimuli, const Limits& limits, Trace& trace, Workspace& workspace)
{
    TS_CHECK(state.travel.size() == plant.movers.size());
    return Run(plant, state, trace, workspace).run(stimuli, limits);
}

} // namespace ts
