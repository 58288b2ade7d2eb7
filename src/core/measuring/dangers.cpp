#include "core/measuring/dangers.h"

#include "core/base/at.h"
#include "core/simulation/frame.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace ts::measuring {
namespace {

constexpr double kLineGone = 0.05; ///< of the largest line's current
constexpr double kTooMuch = 1.3; ///< of rated voltage: coils burn, lamps go

bool isDriven(const State& s, std::size_t actuator)
{
    return s.actuatorMode[actuator] == MotorMode::Driven;
}

const std::string& tagOf(const Plant& plant, int device)
{
    return plant.devices[at(device)].tag;
}

bool runsOnTwo(const MotorReading& m)
{
    if (m.mode != MotorMode::Driven || m.isFedByDrive)
        return false;
    const auto [least, most] = std::minmax_element(m.currentA.begin(), m.currentA.end());
    return *most > 0 && *least < kLineGone * *most;
}

/// Only what differs from the right one: a fuse that blows there, too, is what is tried.
std::optional<Danger> unlike(const Plant& plant, const State& b, const Plant& rightPlant, const State& r)
{
    for (std::size_t a = 0; a < plant.actuators.size(); ++a)
        if (isDriven(b, a) && !isDriven(r, a))
            return Danger{DangerKind::Moves, plant.deviceOfActuator(static_cast<int>(a)).tag};
    for (const PlantProtection& p : plant.protections)
        if (b.travel[at(p.data.mover)] != r.travel[at(p.data.mover)]
            && b.travel[at(p.data.mover)] != plant.movers[at(p.data.mover)].spec.initial)
            return Danger{p.data.law == Protection::Law::Thermal ? DangerKind::TwoPhases : DangerKind::LivePolesJoined,
                tagOf(plant, p.device)};
    const Frame built = observe(plant, b), right = observe(rightPlant, r);
    for (std::size_t m = 0; m < built.motors.size(); ++m)
        if (runsOnTwo(built.motors[m]) && !runsOnTwo(right.motors[m]))
            return Danger{DangerKind::TwoPhases, tagOf(plant, plant.motors[m].device)};
    static const double touch = bandOf("touch").high;
    for (const PlantTerminal& t : plant.terminals) {
        if (t.marking != "PE" || t.node == 0)
            continue;
        const NodeReading& n = built.nodes[at(t.node)];
        if (!n.floating && std::max(std::abs(n.alternatingV), std::abs(n.directV)) > touch)
            return Danger{DangerKind::FrameLive, tagOf(plant, t.device)};
    }
    for (std::size_t c = 0; c < plant.coils.size(); ++c)
        if (built.coilShare[c] > kTooMuch && right.coilShare[c] <= kTooMuch)
            return Danger{DangerKind::OverVoltage, tagOf(plant, plant.impedances[at(plant.coils[c].impedance)].device)};
    for (std::size_t l = 0; l < plant.lamps.size(); ++l)
        if (built.lampShare[l] > kTooMuch && right.lampShare[l] <= kTooMuch)
            return Danger{DangerKind::OverVoltage, tagOf(plant, plant.lamps[l].device)};
    return std::nullopt;
}

std::optional<Danger> unstoppable(StandIn& built, const State& b, const std::vector<std::string>& stops)
{
    for (std::size_t a = 0; a < built.plant().actuators.size(); ++a) {
        if (!isDriven(b, a) || stops.empty())
            continue;
        const bool stopsBySomething = std::any_of(stops.begin(), stops.end(), [&](const std::string& stop) {
            const auto then = built.after(b, stop);
            return then && !isDriven(*then, a);
        });
        if (!stopsBySomething)
            return Danger{DangerKind::Unstoppable, built.plant().deviceOfActuator(static_cast<int>(a)).tag};
    }
    return std::nullopt;
}

} // namespace

std::string_view wordOf(DangerKind kind)
{
    constexpr std::array<std::string_view, 6> words{
        "moves", "two_phases", "unstoppable", "frame_live", "live_poles_joined", "over_voltage"};
    return words[static_cast<std::size_t>(kind)];
}

std::optional<Danger> dangerIn(
    StandIn& built, const Plant& right, const Trail& trail, const std::vector<std::string>& stops)
{
    const Trail& b = built.trail();
    const std::size_t together = std::min(b.size(), trail.size());
    for (std::size_t k = 0; k < together; ++k)
        if (auto danger = unlike(built.plant(), b[k], right, trail[k]))
            return danger;
    return together == 0 ? std::nullopt : unstoppable(built, b[together - 1], stops);
}

} // namespace ts::measuring
