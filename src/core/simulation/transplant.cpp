#include "core/simulation/transplant.h"

#include "core/base/at.h"

#include <algorithm>
#include <tuple>

namespace ts {
namespace {

/// Slots of two plants that are the same thing, old and new.
using Pairs = std::vector<std::pair<int, int>>;

struct Matched {
    Pairs movers, lamps, motors, actuators, converters, relays, logics, protections;
};

void pair(Pairs& pairs, const std::vector<int>& from, const std::vector<int>& to)
{
    for (std::size_t k = 0; k < std::min(from.size(), to.size()); ++k)
        pairs.emplace_back(from[k], to[k]);
}

Matched matched(const Plant& from, const Plant& to)
{
    Matched m;
    for (const PlantDevice& now : to.devices) {
        const auto before = std::find_if(from.devices.begin(), from.devices.end(),
            [&](const PlantDevice& d) { return d.id == now.id && d.kind == now.kind; });
        if (before == from.devices.end())
            continue;
        pair(m.movers, before->movers, now.movers);
        pair(m.lamps, before->lamps, now.lamps);
        pair(m.motors, before->motors, now.motors);
        if (before->actuator >= 0 && now.actuator >= 0)
            m.actuators.emplace_back(before->actuator, now.actuator);
        pair(m.converters, before->converters, now.converters);
        pair(m.relays, before->relays, now.relays);
        pair(m.logics, before->logics, now.logics);
        pair(m.protections, before->protections, now.protections);
    }
    std::erase_if(m.movers,
        [&](const auto& p) { return from.movers[at(p.first)].spec.role != to.movers[at(p.second)].spec.role; });
    return m;
}

/// What a soft starter or drive sets; -1: another logic.
int levelOf(const PlantLogic& logic)
{
    if (const auto* starter = std::get_if<SoftStarterLogic>(&logic.data))
        return starter->level;
    const auto* drive = std::get_if<DriveLogic>(&logic.data);
    return drive ? drive->level : -1;
}

int newSlot(const Pairs& pairs, int old)
{
    const auto it = std::find_if(pairs.begin(), pairs.end(), [old](const auto& p) { return p.first == old; });
    return it == pairs.end() ? -1 : it->second;
}

void carryMovers(const Plant& to, const State& state, const Pairs& movers, State& s)
{
    for (const auto& [old, now] : movers) {
        const std::uint8_t last = to.movers[at(now)].spec.last;
        if (state.travel[at(old)] > last || state.wish[at(old)] > last)
            continue; // a selector with fewer positions begins anew
        s.travel[at(now)] = state.travel[at(old)];
        s.wish[at(now)] = state.wish[at(old)];
        s.pushed[at(now)] = state.pushed[at(old)];
    }
}

/// Moves on the way and supplies that hold up. Whoever wanted to be woken says so again at the first look.
void carryAgenda(const State& state, const Matched& m, State& s)
{
    for (Pending p : state.agenda) {
        if (p.phase == Pending::Wake)
            continue;
        p.slot = newSlot(p.phase == Pending::Move ? m.movers : m.converters, p.slot);
        p.cause = p.net = -1;
        if (p.slot >= 0)
            s.agenda.push_back(p);
    }
    std::stable_sort(s.agenda.begin(), s.agenda.end(), [](const Pending& a, const Pending& b) {
        return std::tuple(a.at, a.phase, a.slot, a.to) < std::tuple(b.at, b.phase, b.slot, b.to);
    });
}

void carryFaults(const Plant& from, const State& state, const Plant& to, State& s)
{
    for (const Fault& fault : state.faults)
        if (const auto there = faultFrom(to, faultId(from, fault)))
            s.faults.push_back(there->fault);
}

} // namespace

State transplant(const Plant& from, const State& state, const Plant& to)
{
    // Carried: now, travel, wish, pushed, relays, logics, levels, converters and their power, flows, knobs, agenda,
    // faults, lamps, actuators' modes and feeding, motors' driving. Begun anew: counts of moves (chatter), events as
    // causes, whether it has settled.
    static_assert(kStateFields == 22, "say how the new field of State is carried over");
    const Matched m = matched(from, to);
    State s = initialState(to);
    s.now = state.now;
    for (Flow& flow : s.flows)
        flow.since = state.now;
    carryMovers(to, state, m.movers, s);
    for (const auto& [old, now] : m.lamps)
        s.lampLit[at(now)] = state.lampLit[at(old)];
    for (const auto& [old, now] : m.relays)
        s.relays[at(now)] = state.relays[at(old)];
    for (const auto& [old, now] : m.logics)
        s.logics[at(now)] = state.logics[at(old)];
    for (const auto& [old, now] : m.converters) {
        s.converters[at(now)] = state.converters[at(old)];
        s.converterPowerW[at(now)] = state.converterPowerW[at(old)];
    }
    for (const auto& [old, now] : m.motors) {
        s.flows[at(to.motors[at(now)].flow)] = state.flows[at(from.motors[at(old)].flow)];
        s.wasDriven[at(now)] = state.wasDriven[at(old)];
    }
    for (const auto& [old, now] : m.actuators) {
        s.actuatorMode[at(now)] = state.actuatorMode[at(old)];
        s.actuatorFed[at(now)] = state.actuatorFed[at(old)];
    }
    for (const auto& [old, now] : m.protections)
        if (from.protections[at(old)].data.law == to.protections[at(now)].data.law)
            s.flows[at(to.protections[at(now)].flow)] = state.flows[at(from.protections[at(old)].flow)];
    for (const auto& [old, now] : m.logics)
        if (const int before = levelOf(from.logics[at(old)]), after = levelOf(to.logics[at(now)]);
            before >= 0 && after >= 0)
            s.levels[at(after)] = state.levels[at(before)];
    for (std::size_t k = 0; k < to.knobs.size(); ++k)
        for (std::size_t j = 0; j < from.knobs.size(); ++j)
            if (from.knobs[j].name == to.knobs[k].name)
                s.knobs[k] = state.knobs[j];
    carryFaults(from, state, to, s);
    carryAgenda(state, m, s);
    return s;
}

} // namespace ts
