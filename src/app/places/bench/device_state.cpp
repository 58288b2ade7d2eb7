#include "app/places/bench/device_state.h"

#include "app/words/words.h"
#include "core/base/at.h"
#include "core/simulation/logic.h"
#include "core/simulation/missing_contacts.h"
#include "core/simulation/safety_relay.h"

#include <QCoreApplication>

#include <cmath>

namespace ts::app {
namespace {

constexpr double kWarmShare = 0.5; ///< of the heat at which a coil's winding fails; sealed it stays at a third

QString tr(const char* text)
{
    return QCoreApplication::translate("DeviceState", text);
}

/// "Q1 21-22, S3 13-14"
QString contactNames(const Plant& plant, const std::vector<int>& links)
{
    QStringList names;
    for (int l : links) {
        const PlantLink& link = plant.links[at(l)];
        const QString role = QString::fromStdString(link.role);
        const QString name = link.device < 0 ? tr("wire %1").arg(role)
                                             : QString::fromStdString(plant.devices[at(link.device)].tag) + " " + role;
        if (!names.contains(name))
            names << name;
    }
    return names.join(QStringLiteral(", "));
}

void sayFaults(const Plant& plant, const Frame& f, const PlantDevice& d, DeviceState& s)
{
    for (const Fault& fault : f.faults) {
        const std::string id = faultId(plant, fault);
        if (!id.starts_with(d.tag + "/") && !id.starts_with(d.tag + ":"))
            continue;
        const auto site = faultFrom(plant, id);
        s.lines << tr("fault: %1")
                       .arg(site && id.starts_with(d.tag + "/") ? words::modeWord(*site)
                                                                : words::faultText(plant, fault));
        s.isAlarm = true;
    }
}

void sayCoils(const Plant& plant, const Frame& f, const PlantDevice& d, DeviceState& s)
{
    for (std::size_t c = 0; c < plant.coils.size(); ++c)
        for (int m : d.movers)
            if (plant.coils[c].mover == m) {
                s.isOn = f.travel[at(m)] == 2;
                const QString volts = words::number(f.coilShare[c] * plant.coils[c].data.ratedV, "V");
                if (plant.movers[at(m)].spec.isOutput) {
                    const MotorMode mode = f.actuators[at(d.actuator)];
                    s.lines << (mode == MotorMode::AtRest ? tr("at rest")
                            : mode == MotorMode::Driven   ? tr("acts")
                                                          : tr("goes to rest"));
                    s.lines << tr("fed with %1").arg(volts);
                } else {
                    s.lines << (s.isOn ? tr("in") : f.travel[at(m)] == 1 ? tr("held half way") : tr("out"));
                    s.lines << tr("coil %1").arg(volts);
                }
            }
}

void sayLogics(const Plant& plant, const Frame& f, const PlantDevice& d, DeviceState& s)
{
    for (int l : d.logics) {
        const LogicWord& w = f.logics[at(l)];
        s.lines << words::logicWord(plant, l, w.mode, w.flags);
        const std::string_view mode = modeName(plant.logics[at(l)].data, w.mode);
        s.isAlarm |= mode == "tripped";
        s.isOn |= mode == "elapsed" || mode == "called" || mode == "healthy" || mode == "conducting"
            || mode == "sees_standstill" || mode == "bridged" || mode.starts_with("r");
    }
}

void sayHandOperated(const Plant& plant, const Frame& f, const PlantDevice& d, DeviceState& s)
{
    for (int m : d.movers) {
        const MoverSpec& spec = plant.movers[at(m)].spec;
        if (spec.driver != MoverSpec::Driver::Operator)
            continue;
        QString text = f.travel[at(m)] == 2 ? tr("pressed") : tr("not pressed");
        if (spec.role == "guard")
            text = f.travel[at(m)] == 0 ? tr("guard closed") : tr("guard open");
        else if (spec.role == "beam")
            text = f.travel[at(m)] == 0 ? tr("beam clear") : tr("beam interrupted");
        else if (spec.role == "call")
            text = f.travel[at(m)] == 0 ? tr("not called") : tr("called");
        else if (spec.role == "switch")
            text = f.travel[at(m)] == 2 ? tr("on") : tr("off");
        else if (spec.role == "key")
            text = f.travel[at(m)] == 2 ? tr("key in") : tr("key out");
        else if (spec.role == "selector")
            for (const auto& [word, what] : d.actions)
                if (what.first == m && what.second == f.travel[at(m)] && word.starts_with("turn_to_"))
                    text = tr("at %1").arg(QString::fromStdString(word.substr(8)));
        s.lines << text;
    }
}

void sayProtections(const Plant& plant, const Frame& f, const PlantDevice& d, DeviceState& s)
{
    double heat = -1.0;
    QStringList melted;
    bool tripped = false, melts = false, hasPoles = false;
    for (int p : d.protections) {
        const Protection& data = plant.protections[at(p)].data;
        const bool isTripped = f.travel[at(data.mover)] == data.trippedTravel;
        if (data.winding >= 0) {
            if (isTripped || f.heat[at(p)] > kWarmShare)
                s.lines << (isTripped ? tr("coil burnt out")
                                      : tr("coil too hot, %1 %").arg(std::lround(f.heat[at(p)] * 100.0)));
            s.isAlarm |= isTripped || f.heat[at(p)] > kWarmShare;
            continue;
        }
        hasPoles = true;
        if (data.law == Protection::Law::Melting) {
            melts = true;
            if (isTripped)
                melted << QString::fromStdString(plant.movers[at(data.mover)].spec.role).section(' ', 1);
        } else {
            tripped |= isTripped;
            if (data.law == Protection::Law::Thermal)
                heat = std::max(heat, f.heat[at(p)]);
        }
    }
    if (melts)
        s.lines << (melted.isEmpty() ? tr("whole") : tr("melted: %1").arg(melted.join(QStringLiteral(", "))));
    else if (hasPoles)
        s.lines << (tripped ? tr("tripped or off") : tr("closed"));
    if (heat >= 0.0)
        s.lines << tr("heat %1 %").arg(std::lround(heat * 100.0));
    s.isAlarm |= tripped || !melted.isEmpty();
}

void sayRelays(const Plant& plant, const Frame& f, const PlantDevice& d, DeviceState& s)
{
    for (std::size_t k = 0; k + 1 < d.relays.size(); ++k) // input modules of a controller
        s.lines << tr("input %1: %2")
                       .arg(k + 1)
                       .arg(f.relays[at(d.relays[k])].outputs        ? tr("closed")
                               : f.relays[at(d.relays[k])].lockedOut ? tr("locked out")
                                                                     : tr("open"));
    if (!d.relays.empty()) {
        const int r = d.relays.back();
        const RelayWord& w = f.relays[at(r)];
        const RelayLights lights = lightsOf(plant.relays[at(r)].data, w);
        const auto light = [](const QString& name, Light l, bool isAlarm = false) {
            return DeviceState::Indicator{name, l != Light::Off, isAlarm && l != Light::Off, l == Light::Blinking};
        };
        s.indicators = {light(tr("supply"), lights.supply), light(tr("channel 1"), lights.channel1),
            light(tr("channel 2"), lights.channel2), light(tr("outputs"), lights.outputs),
            light(tr("reset wanted"), lights.reset),
            light(w.lockedOut ? tr("locked out") : tr("fault"), lights.fault, true)};
        s.isOn = w.outputs;
        s.isAlarm |= w.lockedOut;
        s.isWide = true;
        if (w.ready)
            if (const auto open = missingForReset(plant, f, r); !open.empty())
                s.lines << tr("reset open at %1").arg(contactNames(plant, open));
    }
}

void sayMotors(const Frame& f, const PlantDevice& d, DeviceState& s)
{
    for (int m : d.motors) {
        const MotorReading& r = f.motors[at(m)];
        const double perMin = std::round(r.speedRadPerS * 30.0 / M_PI);
        switch (r.mode) {
        case MotorMode::AtRest:
            s.lines << tr("at rest");
            break;
        case MotorMode::Driven:
            s.lines << (perMin < 0 ? tr("turns left, %1 /min").arg(-perMin) : tr("turns right, %1 /min").arg(perMin));
            break;
        case MotorMode::Coasting:
            s.lines << tr("runs down, %1 /min").arg(std::abs(perMin));
            break;
        }
        if (r.isFedByDrive)
            s.lines << tr("fed by a drive");
        else
            s.lines << QStringLiteral("%1  %2  %3 A")
                           .arg(r.currentA[0], 0, 'f', 2)
                           .arg(r.currentA[1], 0, 'f', 2)
                           .arg(r.currentA[2], 0, 'f', 2);
        if (r.fedTerminals > 0 && r.fedTerminals < 3) // of a motor with six ends, three are fed in star
            s.lines << tr("only %1 lines are fed").arg(r.fedTerminals);
        s.isOn = r.mode == MotorMode::Driven;
        s.isWide = true;
    }
}

void saySupplies(const Plant& plant, const Frame& f, const PlantDevice& d, DeviceState& s)
{
    static constexpr const char* kModes[] = {
        "converter.off", "converter.voltage", "converter.limit", "converter.hold_up", "converter.hold_up"};
    for (int c : d.converters) {
        const PlantConverter& converter = plant.converters[at(c)];
        if (converter.data.isInner)
            continue;
        const double v = f.nodes[at(converter.plus)].directV - f.nodes[at(converter.minus)].directV;
        s.lines << words::number(v, "V") << words::word(kModes[static_cast<int>(f.converters[at(c)])]);
        s.isOn = f.converters[at(c)] == ConverterMode::Voltage;
    }
}

} // namespace

DeviceState deviceState(const Plant& plant, const Frame& frame, int device)
{
    const PlantDevice& d = plant.devices[at(device)];
    DeviceState s;
    sayFaults(plant, frame, d, s);
    sayCoils(plant, frame, d, s);
    sayProtections(plant, frame, d, s);
    sayRelays(plant, frame, d, s);
    sayMotors(frame, d, s);
    saySupplies(plant, frame, d, s);
    sayLogics(plant, frame, d, s);
    sayHandOperated(plant, frame, d, s);
    for (int l : d.lamps)
        if (plant.lamps[at(l)].data.shows != LampElement::Shows::Light)
            s.lines << (frame.lampLit[at(l)] ? tr("on") : tr("off"));
        else
            s.lines << (frame.lampLit[at(l)]
                    ? tr("lit, %1 of rated current").arg(words::number(frame.lampShare[at(l)], "%"))
                    : tr("dark"));
    return s;
}

} // namespace ts::app
