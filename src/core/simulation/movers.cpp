// Movers: where each one is driven, bounded by faults and interlocks, and when it gets there.

#include "core/base/at.h"
#include "core/simulation/run.h"

#include <algorithm>
#include <cmath>
#include <tuple>

namespace ts {
namespace {

bool sooner(const Pending& a, const Pending& b)
{
    return std::tie(a.at, a.phase, a.slot, a.to) < std::tie(b.at, b.phase, b.slot, b.to);
}

} // namespace

std::pair<int, int> Run::boundsOf(int mover) const
{
    int low = m_overlay.lowest[at(mover)], high = m_overlay.highest[at(mover)];
    const PlantMover& m = m_plant.movers[at(mover)];
    for (int partner : m.partners) // whoever left rest first holds the other one there
        if (m_state.travel[at(partner)] != 0)
            high = std::min(high, std::max(low, m_state.travel[at(mover)] == 0 ? 0 : 2 - m_state.travel[at(partner)]));
    if (m.spec.freedBy >= 0 && m_state.travel[at(m.spec.freedBy)] != 2 && m_state.travel[at(mover)] == 0)
        high = low;
    for (int freed : m.frees) // a bolt cannot return while the guard is open
        if (m_state.travel[at(freed)] != 0)
            low = std::max(low, static_cast<int>(m_state.travel[at(mover)]));
    return {low, std::max(low, high)};
}

void Run::reconcileMovers()
{
    std::vector<std::uint8_t>& headed = m_headed;
    headed = m_state.travel;
    for (const Pending& p : m_state.agenda)
        if (p.phase == Pending::Move)
            headed[at(p.slot)] = static_cast<std::uint8_t>(p.to); // sorted by time: the last one wins
    for (int m = 0; m < static_cast<int>(m_plant.movers.size()); ++m) {
        const auto [low, high] = boundsOf(m);
        const int wish = m_state.pushed[at(m)] ? 2 : m_state.wish[at(m)];
        int desired = std::clamp(wish, low, high);
        if (desired == 2 && m_state.travel[at(m)] > 2 && m_plant.movers[at(m)].spec.opensOnReturn)
            desired = 3;
        if (headed[at(m)] == desired)
            continue;
        const auto isOfIt = [m](const Pending& p) { return p.phase == Pending::Move && p.slot == m; };
        if (m_oneByOne && !m_applied.empty()
            && std::any_of(m_state.agenda.begin(), m_state.agenda.end(),
                [&](const Pending& p) { return isOfIt(p) && p.at <= m_state.now; }))
            recordRace(m_applied.front().mover, m);
        std::erase_if(m_state.agenda, isOfIt);
        if (m_state.travel[at(m)] != desired)
            scheduleMove(m, desired);
    }
}

void Run::scheduleMove(int m, int target)
{
    const MoverSpec& spec = m_plant.movers[at(m)].spec;
    const int from = m_state.travel[at(m)];
    const TimeNs gap = timeNs(seconds(spec.gapS));
    Pending p;
    p.slot = m;
    p.cause = causeOfMove(m);
    describeCause(m, p);
    if (target > from) {
        TimeNs when = m_state.now
            + (from == 0 || spec.turnsAtOnce ? std::max(timeNs(seconds(spec.toActuatedS)), gap) : gap);
        if (from == 0 && target >= 2 && (gap > 0 || spec.turnsAtOnce))
            schedule(p, spec.turnsAtOnce ? m_state.now : when - gap, 1);
        schedule(p, when, from == 0 ? std::min(target, 2) : from + 1);
        for (int step = from == 0 ? 3 : from + 2; step <= target; ++step)
            schedule(p, when += gap, step);
    } else {
        TimeNs when = m_state.now;
        for (int step = from - 1; step >= 2 && !spec.opensOnReturn; --step)
            schedule(p, when += gap, step);
        if (spec.opensOnReturn && target == 3)
            schedule(p, when + gap, target);
        if (target >= 2)
            return;
        const TimeNs leave = from > 2 ? gap : from == 2 || spec.turnsAtOnce ? timeNs(seconds(spec.toRestS)) : 0;
        if (from >= 2 && target == 0 && gap > 0)
            schedule(p, when + leave, 1);
        schedule(p, when + leave + (from >= 2 && target == 1 ? 0 : gap), target);
    }
}

int Run::causeOf(const std::function<bool(const Instant&)>& isSo) const
{
    if (m_applied.size() < 2 || !m_findsCauses)
        return m_state.lastEvent;
    const auto holds = [&](const State& s) { return isSo(solveInstant(m_plant, s, m_overlay, m_slips, m_workspace)); };
    State before = m_state;
    for (const Applied& a : m_applied) {
        State without = m_state;
        without.travel[at(a.mover)] = a.from;
        if (!holds(without))
            return a.event;
        before.travel[at(a.mover)] = a.from;
    }
    for (const Applied& a : m_applied) { // each of several would have done it
        State alone = before;
        alone.travel[at(a.mover)] = m_state.travel[at(a.mover)];
        if (holds(alone))
            return a.event;
    }
    return m_state.lastEvent;
}

int Run::causeOfMove(int m) const
{
    if (m_reasonOf[at(m)] >= 0)
        return m_reasonOf[at(m)];
    const auto isAttracted = [&](const auto& voltsOf) {
        return std::any_of(m_plant.coils.begin(), m_plant.coils.end(),
            [&](const PlantCoil& c) { return c.mover == m && attracts(c, voltsOf(c)); });
    };
    if (m_plant.movers[at(m)].spec.driver != MoverSpec::Driver::Coil)
        return m_state.lastEvent;
    const bool attracted = isAttracted([this](const PlantCoil& c) { return coilVoltage(c); });
    return causeOf([&](const Instant& i) {
        return isAttracted([&](const PlantCoil& c) { return voltageAt(i, c); }) == attracted;
    });
}

void Run::schedule(Pending p, TimeNs when, int to)
{
    p.at = when;
    p.to = to;
    m_state.agenda.insert(std::upper_bound(m_state.agenda.begin(), m_state.agenda.end(), p, sooner), p);
}

void Run::describeCause(int m, Pending& p) const
{
    for (const PlantCoil& c : m_plant.coils)
        if (c.mover == m && coilVoltage(c) >= p.si) { // of several the one with most
            const PlantImpedance& z = m_plant.impedances[at(c.impedance)];
            p.net = m_plant.netOfNode[at(z.p)];
            p.si = coilVoltage(c);
        }
    for (std::size_t k = 0; k < m_plant.protections.size(); ++k)
        if (m_plant.protections[k].data.mover == m)
            for (double i : polesOf(k))
                p.si = std::max(p.si, i);
}

int Run::firstDue() const
{
    int first = -1;
    for (const Pending& p : m_state.agenda) { // sorted by time
        if (p.at > m_state.now)
            break;
        if (p.phase != Pending::Move)
            continue;
        const int device = m_plant.movers[at(p.slot)].device;
        if (first < 0 || (m_ties == Limits::Ties::FirstIdFirst ? device < first : device > first))
            first = device;
    }
    return first;
}

bool Run::isTieDue() const
{
    const int first = firstDue();
    return std::any_of(m_state.agenda.begin(), m_state.agenda.end(), [&](const Pending& p) {
        return p.at <= m_state.now && p.phase == Pending::Move && m_plant.movers[at(p.slot)].device != first;
    });
}

bool Run::applyDue()
{
    bool moved = false;
    for (int device = firstDue();; device = firstDue()) {
        const auto due = std::find_if(m_state.agenda.begin(), m_state.agenda.end(),
            [&](const Pending& p) { return p.phase != Pending::Move || m_plant.movers[at(p.slot)].device == device; });
        if (due == m_state.agenda.end() || due->at > m_state.now)
            return moved;
        const Pending p = *due;
        m_state.agenda.erase(due);
        if (p.phase == Pending::Move)
            moved |= applyMove(p);
        else if (p.phase == Pending::HoldUp)
            endHoldUp(p);
        if (m_oneByOne && moved && firstDue() != device)
            return true;
    }
}

bool Run::applyMove(const Pending& p)
{
    const auto [low, high] = boundsOf(p.slot);
    const int to = std::clamp(p.to, low, high), from = m_state.travel[at(p.slot)];
    for (int partner : m_plant.movers[at(p.slot)].partners)
        if (to < p.to && std::any_of(m_applied.begin(), m_applied.end(), [&](const Applied& a) {
                return a.mover == partner && a.from == 0;
            }))
            recordRace(partner, p.slot);
    if (to == from)
        return false;
    m_state.travel[at(p.slot)] = static_cast<std::uint8_t>(to);
    m_applied.push_back({record(Why::Moved, m_plant.movers[at(p.slot)].device, p.slot, from, to, p.cause, p.net, p.si),
        p.slot, static_cast<std::uint8_t>(from)});
    if (to != 1)
        countArrival(p.slot);
    return true;
}

void Run::recordRace(int winner, int loser)
{
    const int before = m_state.lastEvent;
    record(Why::Race, m_plant.movers[at(winner)].device, winner, loser, 0, before);
    m_state.lastEvent = before; // nothing follows from it
}

void Run::countArrival(int mover)
{
    if (m_state.moves[at(mover)] == 0 || m_state.now - m_state.movesSince[at(mover)] > kChatterWindowNs) {
        m_state.moves[at(mover)] = 0;
        m_state.movesSince[at(mover)] = m_state.now;
    }
    if (++m_state.moves[at(mover)] >= kChatterMoves)
        m_chatter = true;
}

} // namespace ts
