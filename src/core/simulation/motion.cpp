#include "core/simulation/motion.h"

#include "core/base/at.h"
#include "core/library/table.h"

#include <algorithm>
#include <cmath>

namespace ts {
namespace {

/// The motor whose speed this flow is, or null.
const PlantMotor* motorOfFlow(const Plant& plant, int flow)
{
    for (const PlantMotor& m : plant.motors)
        if (m.flow == flow)
            return &m;
    return nullptr;
}

const PlantProtection* protectionOfFlow(const Plant& plant, int flow)
{
    for (const PlantProtection& p : plant.protections)
        if (p.flow == flow)
            return &p;
    return nullptr;
}

} // namespace

ShaftTorque shaftTorque(const Plant& plant, const PlantMotor& m, const State& state, const Overlay& overlay)
{
    constexpr double kWornShare = 0.7; // failure_modes.csv: torque -30 %
    ShaftTorque t{m.data.frictionNm, m.data.fanNms2, m.data.hangingNm};
    for (int brake : m.brakes)
        if (state.travel[at(brake)] != 2)
            t.frictionNm += plant.movers[at(brake)].spec.brakesNm * (overlay.torqueLow[at(brake)] ? kWornShare : 1.0);
    return t;
}

double accelerationRadPerS2(double inertia, const ShaftTorque& shaft, double speed, double airGapNm)
{
    const double driving = airGapNm - shaft.hangingNm;
    if (speed == 0.0) {
        if (std::abs(driving) <= shaft.frictionNm)
            return 0.0;
        return (driving - std::copysign(shaft.frictionNm, driving)) / inertia;
    }
    return (driving - std::copysign(shaft.frictionNm + shaft.fanNms2 * speed * speed, speed)) / inertia;
}

double coastingTimeS(const MotorElement& m, double a, double from, double to)
{
    const double w0 = std::abs(from), w1 = std::abs(to), c = m.fanNms2, j = m.inertiaKgm2;
    if (w0 <= w1)
        return 0.0;
    if (c <= 0.0)
        return j * (w0 - w1) / a;
    const double root = std::sqrt(c / a);
    return j / std::sqrt(a * c) * (std::atan(w0 * root) - std::atan(w1 * root));
}

double coastingSpeed(const MotorElement& m, double a, double from, double afterS)
{
    const double w0 = std::abs(from), c = m.fanNms2, j = m.inertiaKgm2;
    double w = 0.0;
    if (afterS >= coastingTimeS(m, a, from, 0.0))
        w = 0.0;
    else if (c <= 0.0)
        w = w0 - a * afterS / j;
    else
        w = std::sqrt(a / c) * std::tan(std::atan(w0 * std::sqrt(c / a)) - afterS * std::sqrt(a * c) / j);
    return std::copysign(std::max(w, 0.0), from);
}

double stillBelowRadPerS(const MotorElement& m, double volts)
{
    return volts / (m.voltageV * m.remanentShare) * m.synchronousRadPerS;
}

double heatingDrive(const Protection& p, std::span<const double> polesA)
{
    if (polesA.empty())
        return 0.0;
    const auto [coolest, hottest] = std::minmax_element(polesA.begin(), polesA.end());
    const auto square = [&p](double a) { return (a / p.ratedA) * (a / p.ratedA); };
    return square(*hottest) + p.unbalanceWeight * (square(*hottest) - square(*coolest));
}

namespace {

double coldTripS(const Protection& p, double drive)
{
    return p.timeConstantS * std::log(drive / (drive - p.limit)) + p.latchS;
}

/// Above its limit heat grows by the same share in the same time, so that what it carried before shortens the trip by
/// its share: t = tau ln(d / (d - limit)) (1 - before / limit). Else it goes towards the drive as by one time constant.
/// Source: IEC 60947-4-1 table 3 for the times from cold; that one body answers for all of it is assumed.
double heatAfter(const Protection& p, const Flow& f, double dt)
{
    if (f.drive > p.limit && f.value < f.drive)
        return std::min(f.drive, f.value + dt * p.limit / coldTripS(p, f.drive));
    return f.drive + (f.value - f.drive) * std::exp(-dt / p.timeConstantS);
}

} // namespace

double flowValue(const Plant& plant, const State& state, int index, TimeNs time)
{
    const Flow& f = state.flows[at(index)];
    const double dt = secondsOf(time - f.since).si();
    switch (f.law) {
    case Flow::Law::Constant:
    case Flow::Law::Driven:
        return f.value;
    case Flow::Law::Coasting:
        return coastingSpeed(motorOfFlow(plant, index)->data, f.drive, f.value, dt);
    case Flow::Law::Ramped: {
        const double value = f.value + f.drive * dt;
        return (f.drive >= 0.0) == (value > f.target) ? f.target : value;
    }
    case Flow::Law::Heating:
        return heatAfter(protectionOfFlow(plant, index)->data, f, dt);
    case Flow::Law::Melting:
        if (f.drive > 0.0)
            return f.value + f.drive * dt;
        return f.value * std::exp(-dt / protectionOfFlow(plant, index)->data.timeConstantS);
    }
    return f.value;
}

std::optional<TimeNs> nextCrossing(const Plant& plant, const State& state)
{
    std::optional<TimeNs> first;
    const auto offer = [&](const Flow& f, double afterS) {
        if (!(afterS < 1e9))
            return;
        TimeNs when = f.since + static_cast<TimeNs>(std::ceil(afterS * 1e9 / kGridNs)) * kGridNs;
        when = std::max(when, state.now + kGridNs);
        if (!first || when < *first)
            first = when;
    };
    for (const PlantProtection& p : plant.protections) {
        const Flow& f = state.flows[at(p.flow)];
        if (state.wish[at(p.data.mover)] == p.data.trippedTravel) {
            if (f.law == Flow::Law::Heating && f.drive < p.data.resetBelow && f.value > p.data.resetBelow)
                offer(f, p.data.timeConstantS * std::log((f.value - f.drive) / (p.data.resetBelow - f.drive)));
            continue;
        }
        if (f.law == Flow::Law::Heating && f.drive > p.data.limit && f.value < p.data.limit)
            offer(f, coldTripS(p.data, f.drive) * (1.0 - f.value / p.data.limit));
        if (f.law == Flow::Law::Melting && f.drive > 0.0 && f.value < 1.0)
            offer(f, (1.0 - f.value) / f.drive);
    }
    for (const PlantMotor& m : plant.motors) {
        const Flow& f = state.flows[at(m.flow)];
        const double value = flowValue(plant, state, m.flow, state.now);
        if (f.law == Flow::Law::Ramped) {
            for (double stop : {-m.data.standstillRadPerS, m.data.standstillRadPerS, f.target})
                if ((stop - value) / f.drive > 0.0)
                    offer(f, (stop - f.value) / f.drive);
            continue;
        }
        if (f.law != Flow::Law::Coasting || f.value == 0.0)
            continue;
        const double now = std::abs(value);
        double next = now > m.data.standstillRadPerS ? m.data.standstillRadPerS : 0.0;
        for (const PlantLogic& l : plant.logics)
            if (const auto* monitor = std::get_if<StandstillLogic>(&l.data))
                if (const double still = stillBelowRadPerS(m.data, monitor->thresholdV); still < now)
                    next = std::max(next, still);
        if (now > 0.0)
            offer(f, coastingTimeS(m.data, f.drive, f.value, next));
    }
    return first;
}

std::vector<double> slipsAt(const Plant& plant, const State& state, TimeNs time)
{
    std::vector<double> slips;
    for (const PlantMotor& m : plant.motors)
        slips.push_back(1.0 - flowValue(plant, state, m.flow, time) / m.data.synchronousRadPerS);
    return slips;
}

} // namespace ts
