#include "core/exploration/behaviour.h"

#include "core/base/at.h"
#include "core/exploration/departure.h"
#include "core/faults/cycle.h"
#include "core/simulation/motion.h"

#include <algorithm>
#include <map>
#include <set>

namespace ts::exploration {
namespace {

using Kind = Operation::Kind;

constexpr std::size_t kMostStates = 64; ///< from which everything is tried
constexpr std::size_t kMostForTwo = 16; ///< the nearest states, from which two hands are tried at once
constexpr Restraint kFree{2, 0}; ///< nothing is out of order

struct Seen {
    State state;
    std::vector<Done> way;
    TimeNs quiet = 0; ///< since when nothing happens
};

/// What a hand works: no power switch, no armature.
Cone handsOf(const Plant& plant)
{
    Cone cone;
    for (int m = 0; m < static_cast<int>(plant.movers.size()); ++m) {
        const auto isPower = [m](const PlantLink& l) {
            return l.contact.mover == m && (l.contact.kind == ContactKind::Main || l.contact.kind == ContactKind::Pole);
        };
        if (plant.movers[at(m)].spec.driver == MoverSpec::Driver::Operator
            && std::none_of(plant.links.begin(), plant.links.end(), isPower))
            cone.movers.push_back(m);
    }
    return cone;
}

class Finder {
public:
    Finder(Plant plant, std::stop_token stop)
        : m_plant(std::move(plant))
        , m_operations(m_plant, handsOf(m_plant), {})
        , m_stop(std::move(stop))
    {
    }

    Expected<Behaviour> run(const std::function<void(std::size_t, std::size_t)>& listener)
    {
        Seen on{initialState(m_plant), {}};
        Trace trace;
        if (advance(m_plant, on.state, {}, {2 * kSecondNs, m_stop, {}, false}, trace, m_workspace) == Pause::Reached)
            meet(std::move(on));
        tryHands(listener);
        if (hasNeverRun()) { // what one hand does not start may want two, as a two-hand control does
            for (const Seen& here : std::vector<Seen>(m_nearest))
                tryAll(here, Kind::TwoHands);
            tryHands(listener);
        }
        m_found.leftOut = m_open.size();
        if (m_stop.stop_requested())
            return cancelled();
        finish();
        return std::move(m_found);
    }

private:
    void tryHands(const std::function<void(std::size_t, std::size_t)>& listener)
    {
        while (!m_open.empty() && m_found.states < kMostStates && !m_stop.stop_requested()) {
            const Seen here = next();
            ++m_found.states;
            tryAll(here, Kind::Hand);
            if (m_nearest.size() < kMostForTwo)
                m_nearest.push_back(here);
            if (listener)
                listener(m_found.states, std::min(kMostStates, m_found.states + m_open.size()));
        }
    }

    bool isDriven(const State& s, std::size_t actuator) const { return s.actuatorMode[actuator] == MotorMode::Driven; }
    DeviceId idOf(std::size_t actuator) const { return m_plant.deviceOfActuator(static_cast<int>(actuator)).id; }

    int directionOf(const State& s, std::size_t actuator) const
    {
        if (actuator >= m_plant.motors.size())
            return 0;
        const double speed = flowValue(m_plant, s, m_plant.motors[actuator].flow, s.now);
        return speed > 0.0 ? 1 : speed < 0.0 ? -1 : 0;
    }

    /// Half of what is tried are the shortest ways; then what has most running, so that a stop meets all of it.
    Seen next()
    {
        const bool isNear = m_found.states < kMostStates / 2;
        const auto worth = [&](const Seen& s) {
            return isNear ? -static_cast<std::ptrdiff_t>(s.way.size()) : runningIn(s.state);
        };
        const auto best = std::max_element(
            m_open.begin(), m_open.end(), [&](const Seen& a, const Seen& b) { return worth(a) < worth(b); });
        Seen seen = std::move(*best); // of equals the one that came first
        m_open.erase(best);
        return seen;
    }
    static std::ptrdiff_t runningIn(const State& s)
    {
        return std::count(s.actuatorMode.begin(), s.actuatorMode.end(), MotorMode::Driven);
    }

    /// A new state is looked through later.
    void meet(Seen s)
    {
        if (!m_known.insert(situationOf(m_plant, s.state)).second)
            return;
        m_lit.push_back(s.state.lampLit);
        std::vector<std::uint8_t> driven;
        for (std::size_t m = 0; m < s.state.actuatorMode.size(); ++m)
            driven.push_back(isDriven(s.state, m));
        m_driven.push_back(std::move(driven));
        m_open.push_back(std::move(s));
    }

    /// The operation and its course; false if the circuit chatters.
    bool perform(Seen& s, const Operation& o, bool isBrief)
    {
        ++m_found.runs;
        const TimeNs when = s.state.now;
        Settled r = isBrief ? settledAfter(m_plant, s.state, o, m_workspace, m_stop)
                            : steadyAfter(m_plant, s.state, o, m_workspace, m_stop);
        m_found.undecided += r.pause == Pause::Chatter;
        if (r.pause != Pause::Reached)
            return false;
        s.state = std::move(r.state);
        s.way.push_back({o, when});
        s.quiet = std::max(when, r.trace.events.empty() ? when : r.trace.events.back().at) + kHandNs;
        return true;
    }

    bool hasRun(std::size_t actuator) const
    {
        return std::any_of(m_driven.begin(), m_driven.end(), [actuator](const auto& d) { return d[actuator] != 0; })
            || std::any_of(
                m_deeds.begin(), m_deeds.end(), [&](const auto& d) { return d.second.actuator == idOf(actuator); });
    }
    bool hasNeverRun() const
    {
        for (std::size_t m = 0; m < m_plant.actuators.size(); ++m)
            if (!hasRun(m))
                return true;
        return false;
    }

    void tryAll(const Seen& here, Kind kind)
    {
        for (const Operation& o : m_operations.all()) {
            if (o.kind != kind || m_stop.stop_requested() || !m_operations.isPossible(here.state, o, kFree))
                continue;
            Seen held = here;
            const bool springs = springsBack(o);
            if (!perform(held, o, springs))
                continue;
            Seen after = held;
            if (springs) {
                Operation back{kind, {}};
                for (const Stimulus& s : o.stimuli)
                    if (const auto way = faults::wayBack(m_plant, s))
                        back.stimuli.push_back(*way);
                if (back.stimuli.size() != o.stimuli.size() || !perform(after, back, false))
                    continue;
            }
            note(here, held, after, o, springs);
            meet(std::move(after));
            if (kind == Kind::TwoHands && springs) // what stops it while both hands stay
                meet(std::move(held));
        }
    }

    bool springsBack(const Operation& o) const
    {
        return std::all_of(o.stimuli.begin(), o.stimuli.end(), [this](const Stimulus& s) { return springsBack(s); });
    }
    bool springsBack(const Stimulus& s) const
    {
        const MoverSpec& m = m_plant.movers[at(s.slot)].spec;
        if (m.latches || s.target == m.initial)
            return false;
        const auto& actions = deviceOf(m_plant, s).actions;
        return std::any_of(actions.begin(), actions.end(),
            [&](const auto& a) { return a.second.first == s.slot && a.first == "release"; });
    }

    void note(const Seen& before, const Seen& held, const Seen& after, const Operation& o, bool springs)
    {
        const Stimulus& s = o.stimuli.front();
        const PlantDevice& device = deviceOf(m_plant, s);
        m_hands.insert(device.id);
        const auto word = std::find_if(device.actions.begin(), device.actions.end(), [&](const auto& a) {
            return a.second == std::pair{s.slot, s.target};
        });
        if (word == device.actions.end())
            return;
        StopOfMany stop{device.id, word->first, {}, after.way, after.quiet};
        for (std::size_t m = 0; m < m_plant.actuators.size(); ++m) {
            const bool was = isDriven(before.state, m), during = isDriven(held.state, m), is = isDriven(after.state, m);
            if (was == during && was == is)
                continue;
            using Effect = Deed::Effect;
            const Effect effect = !was ? is ? Effect::Starts : Effect::RunsWhileHeld
                : is                   ? Effect::StopsWhileHeld
                                       : Effect::Stops;
            const Seen& seen = effect == Effect::RunsWhileHeld && springs ? held : after;
            keep({device.id, word->first, idOf(m), was ? 0 : directionOf(seen.state, m), effect, after.way,
                wordsOf(after.way), after.quiet});
            if (effect == Effect::Stops)
                stop.stopped.push_back(idOf(m));
            m_working.insert(device.id);
        }
        if (stop.stopped.empty())
            return;
        std::sort(stop.stopped.begin(), stop.stopped.end());
        const auto [known, isNew] = m_stops.try_emplace({stop.hand, stop.action}, stop);
        if (!isNew && known->second.stopped.size() < stop.stopped.size())
            known->second = std::move(stop);
    }

    std::string wordsOf(const std::vector<Done>& way) const
    {
        std::string words;
        for (const Done& d : way)
            words += (words.empty() ? "" : ", ") + exploration::wordsOf(m_plant, d.operation);
        return words;
    }

    void keep(Deed deed)
    {
        const auto [known, isNew] = m_deeds.try_emplace(
            std::tuple(deed.hand, deed.action, deed.actuator, deed.direction, deed.effect), deed);
        if (!isNew && deed.way.size() < known->second.way.size())
            known->second = std::move(deed);
    }

    void finish()
    {
        for (std::size_t m = 0; m < m_plant.actuators.size(); ++m)
            if (!hasRun(m))
                m_found.neverRan.push_back(idOf(m));
        for (auto& [key, deed] : m_deeds)
            m_found.deeds.push_back(std::move(deed));
        for (auto& [key, stop] : m_stops)
            m_found.stops.push_back(std::move(stop));
        std::map<DeviceId, std::set<DeviceId>> before;
        for (const Deed& d : m_found.deeds)
            if (d.effect == Deed::Effect::Starts || d.effect == Deed::Effect::RunsWhileHeld)
                for (const Done& done : d.way)
                    before[deviceOf(m_plant, done.operation.stimuli.front()).id].insert(d.hand);
        for (DeviceId hand : m_hands)
            if (!m_working.contains(hand)) {
                if (const auto others = before.find(hand); others == before.end())
                    m_found.idle.push_back(hand);
                else
                    m_found.preparing.push_back({hand, {others->second.begin(), others->second.end()}});
            }
        for (std::size_t l = 0; l < m_plant.lamps.size(); ++l)
            m_found.lamps.push_back(ruleOf(l));
    }

    LampSeen ruleOf(std::size_t lamp) const
    {
        using Rule = LampSeen::Rule;
        LampSeen seen{m_plant.devices[at(m_plant.lamps[lamp].device)].id, {}, Rule::None};
        const auto lit = std::count_if(m_lit.begin(), m_lit.end(), [lamp](const auto& l) { return l[lamp] != 0; });
        if (lit == 0 || lit == static_cast<std::ptrdiff_t>(m_lit.size())) {
            seen.rule = lit == 0 ? Rule::Never : Rule::Always;
            return seen;
        }
        for (std::size_t m = 0; m < m_plant.actuators.size(); ++m)
            for (const bool driven : {true, false}) {
                bool holds = true;
                for (std::size_t k = 0; k < m_lit.size(); ++k)
                    holds = holds && (m_lit[k][lamp] != 0) == ((m_driven[k][m] != 0) == driven);
                if (holds) {
                    seen.actuator = idOf(m);
                    seen.rule = driven ? Rule::WhileDriven : Rule::WhileNotDriven;
                    return seen;
                }
            }
        return seen;
    }

    Plant m_plant;
    Operations m_operations;
    std::stop_token m_stop;
    Workspace m_workspace;
    Behaviour m_found;
    std::set<std::string> m_known;
    std::vector<Seen> m_open, m_nearest;
    std::vector<std::vector<std::uint8_t>> m_lit, m_driven; ///< of every state that was met
    std::map<std::tuple<DeviceId, std::string, DeviceId, int, Deed::Effect>, Deed> m_deeds;
    std::map<std::pair<DeviceId, std::string>, StopOfMany> m_stops;
    std::set<DeviceId> m_hands, m_working;
};

} // namespace

std::string_view nameOf(Deed::Effect effect)
{
    constexpr std::array<std::string_view, 4> names{"starts", "runs_while_held", "stops", "stops_while_held"};
    return names[static_cast<std::size_t>(effect)];
}

std::vector<Stimulus> stimuliOn(std::span<const Done> way)
{
    std::vector<Stimulus> all;
    for (const Done& d : way)
        for (Stimulus s : d.operation.stimuli) {
            s.at = d.at;
            all.push_back(s);
        }
    return all;
}

const Done* pushOf(const Plant& plant, const Deed& d)
{
    if (d.way.size() < 2)
        return nullptr;
    const Done& push = d.way[d.way.size() - 2];
    const Stimulus& s = push.operation.stimuli.front();
    return s.slot == d.way.back().operation.stimuli.front().slot && faults::wayBack(plant, s) ? &push : nullptr;
}

std::string_view nameOf(LampSeen::Rule rule)
{
    constexpr std::array<std::string_view, 5> names{"never", "always", "while_driven", "while_not_driven", "none"};
    return names[static_cast<std::size_t>(rule)];
}

Expected<Behaviour> behaviourOf(
    const Circuit& circuit, const std::function<void(std::size_t, std::size_t)>& listener, std::stop_token stop)
{
    auto plant = compile(circuit);
    if (!plant)
        return Unexpected{plant.error()};
    return Finder(std::move(*plant), std::move(stop)).run(listener);
}

} // namespace ts::exploration
