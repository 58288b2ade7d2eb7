// Devices look at their voltages: coils, supplies, protective devices, safety relays, lamps.

#include "core/base/at.h"
#include "core/simulation/run.h"

#include "core/simulation/induced.h"
#include "core/simulation/safety_relay.h"

#include <algorithm>
#include <cmath>

namespace ts {
namespace {

constexpr double kPowerStep = 0.01; ///< of a supply's rated power, before its input is solved again

} // namespace

double Run::voltageAt(const Instant& i, const PlantCoil& c) const
{
    const PlantImpedance& z = m_plant.impedances[at(c.impedance)];
    return c.data.direct ? std::abs(i.directV(z.p, z.q)) : network::magnitude(i.alternatingV(z.p, z.q));
}

double Run::coilVoltage(const PlantCoil& c) const
{
    if (m_overlay.impedance[at(c.impedance)] != 0 || (c.data.burnt >= 0 && m_state.travel[at(c.data.burnt)] == 2))
        return 0.0; // a broken or shorted winding pulls nothing
    return voltageAt(m_instant, c);
}

bool Run::attracts(const PlantCoil& c, double volts) const
{
    return volts >= (m_state.travel[at(c.mover)] == 2 ? c.data.dropOutV : c.data.pickUpV);
}

void Run::reactCoils()
{
    for (const PlantCoil& c : m_plant.coils)
        m_state.wish[at(c.mover)] = 0;
    for (const PlantCoil& c : m_plant.coils)
        if (attracts(c, coilVoltage(c)))
            m_state.wish[at(c.mover)] = 2;
}

bool Run::hasInput(const PlantConverter& c) const
{
    const double alternatingV = network::magnitude(m_instant.alternatingV(c.inputP, c.inputQ));
    return alternatingV >= c.data.lowestInputV
        || (c.data.isInner && std::abs(m_instant.directV(c.inputP, c.inputQ)) >= c.data.lowestInputV);
}

bool Run::reactSupplies()
{
    bool changed = false;
    for (std::size_t k = 0; k < m_plant.converters.size(); ++k) {
        const PlantConverter& c = m_plant.converters[k];
        const bool input = hasInput(c);
        const double outputV = m_instant.directV(c.plus, c.minus);
        const ConverterMode before = m_state.converters[k];
        const bool limiting = before == ConverterMode::Limit || before == ConverterMode::HoldUpLimit;
        const double innerV = c.data.outputV * m_overlay.converterPercent[k] / 100.0;
        const double outputA = limiting ? c.data.limitA : (innerV - outputV) / c.data.outputOhm;
        const bool limit = limiting ? outputV < innerV - c.data.limitA * c.data.outputOhm : outputA > c.data.limitA;
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
        const double stepW = kPowerStep * c.data.outputV * c.data.limitA;
        if (std::abs(powerW - m_state.converterPowerW[k]) > stepW) {
            m_state.converterPowerW[k] = std::round(powerW / stepW) * stepW; // so that its input sees few different
                                                                             // loads
            changed = true;
        }
    }
    return changed;
}

void Run::enterMode(int k, ConverterMode before, ConverterMode after, double outputA)
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
    record(Why::SupplyMode, m_plant.converters[at(k)].device, k, static_cast<int>(before), static_cast<int>(after),
        m_state.lastEvent, m_plant.netOfNode[at(m_plant.converters[at(k)].plus)], outputA);
}

void Run::endHoldUp(const Pending& p)
{
    const int before = static_cast<int>(m_state.converters[at(p.slot)]);
    m_state.converters[at(p.slot)] = ConverterMode::Off;
    m_state.converterPowerW[at(p.slot)] = 0.0;
    record(Why::SupplyMode, m_plant.converters[at(p.slot)].device, p.slot, before, static_cast<int>(ConverterMode::Off),
        p.cause, m_plant.netOfNode[at(m_plant.converters[at(p.slot)].plus)]);
}

void Run::reactProtections()
{
    for (std::size_t k = 0; k < m_plant.protections.size(); ++k) {
        const PlantProtection& p = m_plant.protections[k];
        const double limit = p.data.law == Protection::Law::Thermal ? p.data.limit : 1.0;
        const double value = m_state.flows[at(p.flow)].value;
        if (value >= limit * (1.0 - 1e-9))
            m_state.wish[at(p.data.mover)] = p.data.trippedTravel;
        else if (p.data.resetBelow > 0.0 && value <= p.data.resetBelow * (1.0 + 1e-9)
            && m_state.wish[at(p.data.mover)] == p.data.trippedTravel)
            m_state.wish[at(p.data.mover)] = 0;
    }
}

double Run::senseV(int impedance) const
{
    if (impedance < 0)
        return 0.0;
    const PlantImpedance& z = m_plant.impedances[at(impedance)];
    return m_instant.directV(z.p, z.q);
}

void Run::reactRelays()
{
    for (int k = 0; k < static_cast<int>(m_plant.relays.size()); ++k) {
        const PlantRelay& relay = m_plant.relays[at(k)];
        const SafetyRelayLogic& sheet = relay.data;
        const RelayInputs inputs{senseV(sheet.supply), senseV(sheet.channel1), senseV(sheet.channel2),
            senseV(sheet.reset),
            m_state.travel[at(sheet.firstRelay)] == 0 && m_state.travel[at(sheet.secondRelay)] == 0
                && (sheet.firstDelayed < 0
                    || (m_state.travel[at(sheet.firstDelayed)] == 0 && m_state.travel[at(sheet.secondDelayed)] == 0))};
        const RelayWord before = m_state.relays[at(k)];
        const RelayAnswer answer = relayStep(sheet, before, inputs, m_state.now);
        m_state.relays[at(k)] = answer.word;
        m_state.wish[at(sheet.firstRelay)] = m_state.wish[at(sheet.secondRelay)] = answer.word.outputs ? 2 : 0;
        if (sheet.firstDelayed >= 0)
            m_state.wish[at(sheet.firstDelayed)] = m_state.wish[at(sheet.secondDelayed)] = answer.word.delayed ? 2 : 0;
        std::erase_if(m_state.agenda, [k](const Pending& p) { return p.phase == Pending::Wake && p.slot == k; });
        if (answer.wakeAt) {
            Pending p;
            p.phase = Pending::Wake;
            p.slot = k;
            schedule(p, *answer.wakeAt, 0);
        }
        const int cause = m_state.lastEvent;
        recordRelay(k, relay.device, before, answer.word);
        if (m_state.lastEvent != cause)
            for (int mover : {sheet.firstRelay, sheet.secondRelay, sheet.firstDelayed, sheet.secondDelayed})
                if (mover >= 0)
                    m_reasonOf[at(mover)] = m_state.lastEvent;
        m_state.lastEvent = cause; // what other devices do now has not this relay for a reason
    }
}

double Run::anyV(int impedance) const
{
    if (impedance < 0)
        return 0.0;
    const PlantImpedance& z = m_plant.impedances[at(impedance)];
    const double direct = m_instant.directV(z.p, z.q);
    return std::sqrt(direct * direct + std::norm(m_instant.alternatingV(z.p, z.q)));
}

LogicInputs Run::inputsOf(std::size_t k) const
{
    LogicInputs in;
    const auto read = [&](const auto& l) {
        using L = std::decay_t<decltype(l)>;
        in.supplyV = anyV(l.supply);
        if constexpr (std::is_same_v<L, TimerLogic>) {
            in.controlV = anyV(l.control);
        } else if constexpr (std::is_same_v<L, GateLogic>) {
            in.obstacle = l.obstacle >= 0 && m_state.travel[at(l.obstacle)] != 0;
        } else if constexpr (std::is_same_v<L, SoftStarterLogic>) {
            in.controlV = anyV(l.start);
        } else if constexpr (std::is_same_v<L, DriveLogic>) {
            in.controlV = anyV(l.run);
            in.reverseV = anyV(l.reverse);
            in.torqueOff1V = anyV(l.torqueOff1);
            in.torqueOff2V = anyV(l.torqueOff2);
        } else if constexpr (std::is_same_v<L, StandstillLogic>) {
            seeStandstill(l, in);
        } else {
            in.resetPressed = l.resetButton >= 0 && m_state.travel[at(l.resetButton)] == 2;
            for (int tap : l.taps) {
                const PlantImpedance& z = m_plant.impedances[at(tap)];
                const Complex v = m_instant.alternatingV(z.p, z.q);
                in.phases[at(in.phaseCount++)] = l.burdenOhm > 0.0 ? v / l.burdenOhm * l.ratio : v;
            }
            const std::vector<int>& first = m_instant.electrics.alternating->firstOfLogic;
            for (int pole = first[k]; pole < first[k + 1]; ++pole)
                in.phases[at(in.phaseCount++)] = m_instant.alternating->logicsA[at(pole)];
        }
    };
    std::visit(read, m_plant.logics[k].data);
    return in;
}

/// A fed lead shows its line's voltage; what else is at a tap its motor induces.
void Run::seeStandstill(const StandstillLogic& l, LogicInputs& in) const
{
    for (int tap : l.taps) {
        const PlantImpedance& z = m_plant.impedances[at(tap)];
        in.inducedV = std::max(in.inducedV, network::magnitude(m_instant.alternatingV(z.p, z.q)));
    }
    if (in.inducedV > l.thresholdV * (1.0 + l.hysteresis))
        return;
    for (int tap : l.taps) {
        const PlantImpedance& z = m_plant.impedances[at(tap)];
        const auto induced = inducedV(m_plant, m_state, m_instant.electrics, m_overlay, z.p, z.q);
        in.isLeadOpen |= !induced;
        in.inducedV = std::max(in.inducedV, induced.value_or(0.0));
    }
}

std::uint16_t Run::sightOfLogic(std::size_t k) const
{
    return sightOf(m_plant.logics[k].data, m_state.logics[k], inputsOf(k));
}

bool Run::reactLogics()
{
    bool changed = false;
    for (std::size_t k = 0; k < m_plant.logics.size(); ++k) {
        const PlantLogic& logic = m_plant.logics[k];
        const LogicWord before = m_state.logics[k];
        const LogicAnswer answer = logicStep(
            logic.data, before, sightOfLogic(k), m_state.now, static_cast<TimingFault>(m_overlay.timing[k]));
        m_state.logics[k] = answer.word;
        for (const auto& [mover, target] : answer.wishes)
            m_state.wish[at(mover)] = target;
        if (answer.level && m_state.levels[at(answer.level->first)] != answer.level->second) {
            m_state.levels[at(answer.level->first)] = answer.level->second;
            changed = true;
        }
        const int slot = static_cast<int>(m_plant.relays.size() + k);
        std::erase_if(m_state.agenda, [slot](const Pending& p) { return p.phase == Pending::Wake && p.slot == slot; });
        if (answer.wakeAt) {
            Pending p;
            p.phase = Pending::Wake;
            p.slot = slot;
            schedule(p, *answer.wakeAt, 0);
        }
        if (answer.word.mode == before.mode)
            continue;
        const int cause = m_state.lastEvent,
                  event = record(
                      Why::LogicMode, logic.device, static_cast<int>(k), answer.word.flags, answer.word.mode, cause);
        for (const auto& [mover, target] : answer.wishes)
            m_reasonOf[at(mover)] = event;
        m_state.lastEvent = changed ? event : cause; // a changed output is what everything else sees next
    }
    return changed;
}

void Run::recordRelay(int k, int device, const RelayWord& before, const RelayWord& after)
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

/// What a coil moves or heats: fed or not, driven, going off, at rest; in the words of motors.
void Run::markOutputs()
{
    constexpr double kNoPower = 0.05; // share of the rated voltage below which nobody calls it fed
    for (std::size_t k = m_plant.motors.size(); k < m_plant.actuators.size(); ++k) {
        const int slot = static_cast<int>(k), cause = m_state.lastEvent;
        const std::vector<int>& coils = m_plant.actuators[k].coils;
        const PlantCoil& c = m_plant.coils[at(coils.front())];
        const int device = m_plant.actuators[k].device;
        int& reason = m_state.actuatorEvent[k];
        const auto isFed = [&](const auto& voltsOf) {
            return std::any_of(coils.begin(), coils.end(), [&](int coil) {
                const PlantCoil& one = m_plant.coils[at(coil)];
                return voltsOf(one) > kNoPower * one.data.ratedV;
            });
        };
        const std::uint8_t fed = isFed([this](const PlantCoil& one) { return coilVoltage(one); }) ? 2 : 0;
        if (fed != m_state.actuatorFed[k]) {
            const int opener = causeOf([&](const Instant& i) {
                return isFed([&](const PlantCoil& one) { return voltageAt(i, one); }) == (fed == 2);
            });
            reason = record(Why::PathChanged, device, slot, m_state.actuatorFed[k], fed, opener);
            m_state.actuatorFed[k] = fed;
        }
        const bool isOn = m_state.wish[at(c.mover)] == 2 || m_state.pushed[at(c.mover)];
        const MotorMode mode = m_state.travel[at(c.mover)] == 0 ? MotorMode::AtRest
            : isOn                                              ? MotorMode::Driven
                                                                : MotorMode::Coasting;
        if (mode != m_state.actuatorMode[k]) {
            const Why why = mode == MotorMode::AtRest ? Why::AtRest
                : mode == MotorMode::Driven           ? Why::Turning
                                                      : Why::PowerOff;
            reason = record(why, device, slot, static_cast<int>(m_state.actuatorMode[k]), static_cast<int>(mode),
                reason >= 0 ? reason : cause);
            m_state.actuatorMode[k] = mode;
        }
        m_state.lastEvent = cause; // what it does changes no contact
    }
}

void Run::markLamps()
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

double Run::lampCurrentA(const PlantLamp& lamp) const
{
    if (m_overlay.impedance[at(lamp.impedance)] != 0)
        return 0.0;
    const PlantImpedance& z = m_plant.impedances[at(lamp.impedance)];
    const double direct = m_instant.directV(z.p, z.q);
    return std::sqrt(direct * direct + std::norm(m_instant.alternatingV(z.p, z.q))) / lamp.data.ohm;
}

} // namespace ts
