#include "app/places/bench/meter_reading.h"

#include "core/base/at.h"
#include "core/simulation/meters.h"
#include "wording/test_words.h"

#include <QCoreApplication>
#include <QStringList>

#include <cmath>

namespace ts::app {
namespace {

QString tr(const char* text)
{
    return QCoreApplication::translate("MeterPanel", text);
}

const QString kNothing = QStringLiteral("- - -");

QString figure(double value)
{
    const double size = std::abs(value);
    const QString text = QString::number(value, 'f', size < 10 ? 2 : size < 1000 ? 1 : 0);
    return text.toDouble() == 0.0 ? QStringLiteral("0.00") : text;
}

MeterReading volts(const Plant& plant, const Frame& f, int red, int black)
{
    if (red < 0 || black < 0)
        return {kNothing, QStringLiteral("V"), tr("put both probes on")};
    const int a = plant.terminals[at(red)].node, b = plant.terminals[at(black)].node;
    const NodeReading &na = f.nodes[at(a)], &nb = f.nodes[at(b)];
    if (a != b && (na.floating || nb.floating) && !(na.floating && nb.floating && na.isJoinedWith(nb)))
        return {tr("floating"), QString(), tr("a probe hangs on nothing")};
    const double dc = na.directV - nb.directV, ac = std::abs(na.alternatingV - nb.alternatingV);
    const bool showsAc = ac > std::abs(dc);
    const QString other = showsAc ? (std::abs(dc) > 0.05 ? QStringLiteral("%1 V DC").arg(dc, 0, 'f', 1) : QString())
                                  : (ac > 0.05 ? QStringLiteral("%1 V AC").arg(ac, 0, 'f', 1) : QString());
    return {figure(showsAc ? ac : dc), showsAc ? QStringLiteral("V AC") : QStringLiteral("V DC"), other};
}

/// Around one wire after the other at the red probe's terminal; the largest is shown, all are named.
MeterReading amperes(const Plant& plant, const Frame& f, int red)
{
    if (red < 0)
        return {kNothing, QStringLiteral("A"), tr("clamp: put the red probe on")};
    const auto wires = clampAt(plant, f, red);
    if (wires.empty())
        return {kNothing, QStringLiteral("A"), tr("no wire at this terminal")};
    double largest = 0.0;
    QStringList each;
    for (const ClampReading& r : wires) {
        largest = std::max(largest, r.rmsA);
        each << tr("wire %1: %2 A").arg(QString::fromStdString(plant.wires[at(r.wire)].number), figure(r.rmsA));
    }
    return {figure(largest), QStringLiteral("A"), each.join(QStringLiteral(", "))};
}

/// With nothing fed and everything in its present position, by all ways that lie between the probes.
MeterReading ohms(const Plant& plant, const State& state, const Frame& f, int red, int black, OhmMeter& ohmMeter)
{
    if (red < 0 || black < 0)
        return {kNothing, QStringLiteral("ohm"), tr("put both probes on")};
    const int a = plant.terminals[at(red)].node, b = plant.terminals[at(black)].node;
    for (int terminal : {red, black})
        if (f.nets[at(plant.terminals[at(terminal)].net)] == NetLook::Live)
            return {tr("live"), QString(), tr("switch off before ohms are measured")};
    const measuring::Reading r = ohmMeter.between(plant, state, a, b);
    const QString text = QString::fromStdString(wording::readingText(r, measuring::Instrument::Ohms));
    for (std::size_t z = 0; z < plant.impedances.size(); ++z) {
        const PlantImpedance& i = plant.impedances[z];
        const bool isBetween = (i.p == a && i.q == b) || (i.p == b && i.q == a);
        if (isBetween && i.directOhm > 0 && r.high < i.directOhm * 0.9)
            return {text, QString(), tr("alone it has %1 ohm: another way lies beside it").arg(figure(i.directOhm))};
    }
    const bool isFed = std::any_of(f.nets.begin(), f.nets.end(), [](NetLook n) { return n == NetLook::Live; });
    const QString rest = isFed ? tr("as if all the rest were switched off") : QString();
    if (r.high > 1.0)
        return {text, QString(), rest};
    return {text, QString(), isFed ? tr("beeps, %1").arg(rest) : tr("beeps")};
}

MeterReading sequence(const Plant& plant, const Frame& f, const Probes& probes)
{
    if (probes.red < 0 || probes.black < 0 || probes.third < 0)
        return {kNothing, QString(), tr("red on the first line, black on the second, blue on the third")};
    const auto node = [&plant](int terminal) { return plant.terminals[at(terminal)].node; };
    switch (sequenceOf(f, {node(probes.red), node(probes.black), node(probes.third)})) {
    case PhaseSequence::Right:
        return {tr("right"), QString(), tr("a motor wired in this order turns to the right")};
    case PhaseSequence::Left:
        return {tr("left"), QString(), tr("a motor wired in this order turns to the left")};
    case PhaseSequence::None:
        break;
    }
    return {tr("none"), QString(), tr("a line is dead, or two are the same")};
}

} // namespace

measuring::Reading OhmMeter::between(const Plant& plant, const State& state, int nodeA, int nodeB)
{
    if (!m_ohms || m_travel != state.travel || m_faults != state.faults) {
        m_travel = state.travel;
        m_faults = state.faults;
        m_ohms.emplace(plant, m_travel, overlayOf(plant, m_faults));
    }
    return m_ohms->between(nodeA, nodeB);
}

MeterReading meterReading(
    const Plant& plant, const State& state, const Frame& f, MeterMode mode, Probes probes, OhmMeter& ohmMeter)
{
    switch (mode) {
    case MeterMode::Volts:
        return volts(plant, f, probes.red, probes.black);
    case MeterMode::Amperes:
        return amperes(plant, f, probes.red);
    case MeterMode::Ohms:
        return ohms(plant, state, f, probes.red, probes.black, ohmMeter);
    case MeterMode::Sequence:
        return sequence(plant, f, probes);
    }
    return {};
}

} // namespace ts::app
