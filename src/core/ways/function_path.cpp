#include "core/ways/function_path.h"

#include "core/analysis/stop_run.h"
#include "core/base/at.h"
#include "core/base/check.h"
#include "core/exploration/cone.h"
#include "core/simulation/frame.h"
#include "core/ways/power_ways.h"

#include <algorithm>
#include <map>
#include <set>

namespace ts {
namespace {

using Stage = PathKnot::Stage;

constexpr TimeNs kReaction = 1'000'000'000; ///< relays and contactors have dropped long before

/// What the demand did to a mover.
struct Travelled {
    std::uint8_t from = 0, to = 0;
    std::size_t event = 0; ///< the first one
};

bool isClosedAt(const PlantLink& link, std::uint8_t travel)
{
    return ((link.contact.closedAt >> travel) & 1u) != 0;
}

class Reading {
public:
    Reading(const SafetyFunction& function, const Plant& plant, const Trace& trace, TimeNs demand)
        : m_function(function)
        , m_plant(plant)
        , m_trace(trace)
    {
        for (std::size_t k = 0; k < trace.events.size(); ++k) {
            const Event& e = trace.events[k];
            if (e.at < demand || e.at > demand + kReaction)
                continue;
            if (e.device >= 0)
                m_reacts.emplace(e.device, k);
            if (e.why != Why::Moved)
                continue;
            const auto to = static_cast<std::uint8_t>(e.to);
            const auto [known, isNew] = m_travelled.emplace(
                e.slot, Travelled{static_cast<std::uint8_t>(e.from), to, k});
            if (!isNew)
                known->second.to = to;
        }
    }

    FunctionPath path()
    {
        m_path.function = m_function.id;
        addClaimed();
        addTrigger();
        addRest();
        addOthers();
        for (std::size_t k = 0; k < m_path.knots.size(); ++k)
            addControl(static_cast<int>(k));
        dropLocks();
        addPower();
        addCausedWays();
        dropIdle();
        placeColumns();
        dropBackward();
        addWatches();
        return std::move(m_path);
    }

private:
    PathKnot& knot(int k) { return m_path.knots[at(k)]; }
    int deviceOf(int k) const { return m_devices[at(k)]; }
    bool isReacting(int device) const { return m_reacts.contains(device); }

    int deviceIndex(DeviceId id) const
    {
        const auto found = std::find_if(
            m_plant.devices.begin(), m_plant.devices.end(), [id](const PlantDevice& d) { return d.id == id; });
        return found == m_plant.devices.end() ? -1 : static_cast<int>(found - m_plant.devices.begin());
    }

    int add(DeviceId id, const std::string& element, Stage stage)
    {
        for (std::size_t k = 0; k < m_path.knots.size(); ++k)
            if (m_path.knots[k].device == id && m_path.knots[k].element == element)
                return static_cast<int>(k);
        PathKnot k;
        k.device = id;
        k.element = element;
        k.stage = stage;
        const int device = deviceIndex(id);
        k.acts = device >= 0 && isReacting(device);
        m_path.knots.push_back(std::move(k));
        m_devices.push_back(device);
        return static_cast<int>(m_path.knots.size()) - 1;
    }

    Stage stageOf(DeviceId id, const std::string& element) const
    {
        const int device = deviceIndex(id);
        if (id == m_function.trigger.device)
            return Stage::Demands;
        if (std::find(m_function.mustRest.begin(), m_function.mustRest.end(), id) != m_function.mustRest.end())
            return Stage::Rests;
        return element == "main" || (device >= 0 && hasMainPoles(m_plant, m_plant.devices[at(device)]))
            ? Stage::Switches
            : Stage::Decides;
    }

    void addClaimed()
    {
        const auto take = [this](const ClaimedPart& part, KnotUse use) {
            knot(add(part.device, part.element, stageOf(part.device, part.element))).uses.push_back(use);
        };
        for (std::size_t s = 0; s < m_function.claim.size(); ++s) {
            const ClaimedSubsystem& claimed = m_function.claim[s];
            if (claimed.encapsulated) {
                knot(add(claimed.encapsulated, {}, stageOf(claimed.encapsulated, {})))
                    .uses.push_back({s, -1, 0, false});
                continue;
            }
            for (std::size_t c = 0; c < claimed.channels.size(); ++c)
                for (std::size_t p = 0; p < claimed.channels[c].parts.size(); ++p)
                    take(claimed.channels[c].parts[p], {s, static_cast<int>(c), p, false});
            if (claimed.test)
                for (std::size_t p = 0; p < claimed.test->equipment.parts.size(); ++p)
                    take(claimed.test->equipment.parts[p], {s, 0, p, true});
        }
    }

    void addTrigger()
    {
        const bool isThere = std::any_of(m_path.knots.begin(), m_path.knots.end(),
            [this](const PathKnot& k) { return k.device == m_function.trigger.device; });
        if (!isThere)
            add(m_function.trigger.device, {}, Stage::Demands);
    }

    /// A valve that the claim names is a part of its own stop: then that knot is what rests.
    void addRest()
    {
        for (DeviceId id : m_function.mustRest)
            if (std::none_of(m_path.knots.begin(), m_path.knots.end(),
                    [id](const PathKnot& k) { return k.device == id && k.stage == Stage::Rests; }))
                add(id, {}, Stage::Rests);
    }

    /// What moved with the demand, decides about one of the motors, and stands in no claim.
    void addOthers()
    {
        std::set<int> cone;
        for (int k : m_plant.actuatorsOf(m_function.mustRest)) {
            const exploration::Cone c = exploration::coneOfMotor(m_plant, k);
            cone.insert(c.movers.begin(), c.movers.end());
        }
        for (const auto& [mover, travelled] : m_travelled) {
            const PlantMover& m = m_plant.movers[at(mover)];
            const bool isKnown = std::find(m_devices.begin(), m_devices.end(), m.device) != m_devices.end();
            if (isKnown || !cone.contains(mover) || travelled.from == travelled.to
                || m.spec.driver == MoverSpec::Driver::Operator)
                continue;
            const DeviceId id = m_plant.devices[at(m.device)].id;
            add(id, {}, stageOf(id, {}));
        }
    }

    std::vector<int> nodesOf(int k) const
    {
        const int device = deviceOf(k);
        std::vector<int> nodes;
        if (device < 0)
            return nodes;
        if (m_path.knots[at(k)].stage == Stage::Rests) {
            for (int slot : m_plant.actuatorsOf({m_path.knots[at(k)].device}))
                nodes = m_plant.actuators[at(slot)].nodes;
            return nodes;
        }
        for (const PlantImpedance& z : m_plant.impedances)
            if (z.device == device && (z.kind == PlantImpedance::Kind::Sense || z.kind == PlantImpedance::Kind::Coil))
                nodes.insert(nodes.end(), {z.p, z.q});
        for (const PlantDrive& d : m_plant.drives)
            if (d.device == device)
                nodes.insert(nodes.end(), d.inputs.begin(), d.inputs.end());
        return nodes;
    }

    /// Contacts that lie in what feeds the knot, through supplies and transformers, too.
    std::set<int> linksFeeding(int k) const
    {
        std::set<int> all, asked;
        std::vector<int> nodes = nodesOf(k);
        while (!nodes.empty()) {
            std::set<int> touched(nodes.begin(), nodes.end());
            for (int l : exploration::linksOnPaths(m_plant, nodes)) {
                all.insert(l);
                touched.insert({m_plant.links[at(l)].p, m_plant.links[at(l)].q});
            }
            nodes.clear();
            const auto ask = [&](int device, int p, int q) {
                if (asked.insert(device).second)
                    nodes.insert(nodes.end(), {p, q});
            };
            for (const PlantConverter& c : m_plant.converters)
                if (touched.contains(c.plus) || touched.contains(c.minus))
                    ask(c.device, c.inputP, c.inputQ);
            for (const PlantTransformer& t : m_plant.transformers)
                if (touched.contains(t.s1) || touched.contains(t.s2))
                    ask(t.device, t.p1, t.p2);
        }
        return all;
    }

    /// Whether this contact is one of what the knot stands for.
    bool isOf(const PathKnot& k, const PlantLink& link) const
    {
        return k.element.empty() || k.element == "main" || k.element == "armature" || k.element == link.role;
    }

    /// Opened by the demand, and before the other one reacted.
    bool opensBefore(const PlantLink& link, int device) const
    {
        const auto moved = m_travelled.find(link.contact.mover);
        if (moved == m_travelled.end() || !isClosedAt(link, moved->second.from) || isClosedAt(link, moved->second.to))
            return false;
        const auto reacts = m_reacts.find(device);
        return reacts == m_reacts.end() || moved->second.event < reacts->second;
    }

    bool isMotor(int k) const
    {
        const auto slots = m_plant.actuatorsOf({m_path.knots[at(k)].device});
        return m_path.knots[at(k)].stage == Stage::Rests && !slots.empty()
            && m_plant.actuators[at(slots.front())].coils.empty();
    }

    /// Contacts of others in what feeds this one, that opened first.
    void addControl(int to)
    {
        if (knot(to).stage == Stage::Demands || deviceOf(to) < 0 || isMotor(to))
            return;
        const std::set<int> feeding = linksFeeding(to);
        for (std::size_t k = 0; k < m_path.knots.size(); ++k) {
            const int device = m_devices[k];
            if (device < 0 || device == deviceOf(to) || m_path.knots[k].stage == Stage::Rests)
                continue;
            const bool isWay = std::any_of(feeding.begin(), feeding.end(), [&](int l) {
                const PlantLink& link = m_plant.links[at(l)];
                return link.device == device && link.contact.mover >= 0 && isOf(m_path.knots[k], link)
                    && opensBefore(link, deviceOf(to));
            });
            if (isWay)
                m_ways.insert({static_cast<int>(k), to, knot(to).stage == Stage::Rests});
        }
    }

    /// A contactor that locks another one is its way only where nothing else tells that one.
    void dropLocks()
    {
        const auto isLock = [this](const PathWay& w) {
            return !w.isPower && knot(w.from).stage == Stage::Switches && knot(w.to).stage == Stage::Switches;
        };
        std::set<int> told;
        for (const PathWay& w : m_ways)
            if (!w.isPower && !isLock(w))
                told.insert(w.to);
        std::erase_if(m_ways, [&](const PathWay& w) { return isLock(w) && told.contains(w.to); });
    }

    /// From gate to gate, and from the last one to the motor.
    void addPower()
    {
        std::set<int> gates;
        for (int device : m_devices)
            if (device >= 0)
                gates.insert(device);
        const PowerIslands islands(m_plant, gates);
        for (int a = 0; a < static_cast<int>(m_path.knots.size()); ++a)
            for (int b = 0; b < static_cast<int>(m_path.knots.size()); ++b) {
                if (deviceOf(a) < 0 || deviceOf(b) < 0 || deviceOf(a) == deviceOf(b) || knot(a).stage == Stage::Demands
                    || knot(a).stage == Stage::Rests)
                    continue;
                const bool isWay = isMotor(b)         ? islands.feeds(deviceOf(a), nodesOf(b))
                    : knot(b).stage == Stage::Demands ? false
                                                      : islands.isAhead(deviceOf(a), deviceOf(b));
                if (isWay)
                    m_ways.insert({a, b, true});
            }
    }

    bool hasWayTo(int k) const
    {
        return std::any_of(m_ways.begin(), m_ways.end(), [k](const PathWay& w) { return w.to == k; });
    }

    /// Where no contact explains it, the run says because of whom it changed over.
    void addCausedWays()
    {
        for (int to = 0; to < static_cast<int>(m_path.knots.size()); ++to) {
            const auto reacts = m_reacts.find(deviceOf(to));
            if (knot(to).stage == Stage::Demands || reacts == m_reacts.end() || hasWayTo(to))
                continue;
            for (int e = m_trace.events[reacts->second].cause; e >= 0; e = m_trace.events[at(e)].cause) {
                const int device = m_trace.events[at(e)].device;
                bool isFound = false;
                for (std::size_t k = 0; k < m_devices.size(); ++k)
                    if (m_devices[k] == device && device >= 0 && device != deviceOf(to)
                        && m_path.knots[k].stage != Stage::Rests) {
                        m_ways.insert({static_cast<int>(k), to, knot(to).stage == Stage::Rests});
                        isFound = true;
                    }
                if (isFound)
                    break;
            }
        }
    }

    /// What moved and is in no claim, and from which no way leads to what must rest, has no part in it.
    void dropIdle()
    {
        std::set<int> leads;
        for (int k = 0; k < static_cast<int>(m_path.knots.size()); ++k)
            if (knot(k).stage == Stage::Rests || knot(k).stage == Stage::Demands || !knot(k).uses.empty())
                leads.insert(k);
        for (bool isNew = true; isNew;) {
            isNew = false;
            for (const PathWay& w : m_ways)
                isNew = (leads.contains(w.to) && leads.insert(w.from).second) || isNew;
        }
        FunctionPath kept;
        kept.function = m_path.function;
        std::map<int, int> place;
        std::vector<int> devices;
        for (int k : leads) {
            place[k] = static_cast<int>(kept.knots.size());
            kept.knots.push_back(std::move(knot(k)));
            devices.push_back(deviceOf(k));
        }
        std::set<PathWay> ways;
        for (const PathWay& w : m_ways)
            if (leads.contains(w.from) && leads.contains(w.to))
                ways.insert({place[w.from], place[w.to], w.isPower});
        m_path = std::move(kept);
        m_devices = std::move(devices);
        m_ways = std::move(ways);
    }

    void placeColumns()
    {
        const auto pushRight = [this] {
            for (std::size_t round = 0; round < m_path.knots.size(); ++round) // no ring can push for ever
                for (const PathWay& w : m_ways)
                    if (knot(w.to).stage != Stage::Rests && knot(w.to).column <= knot(w.from).column
                        && knot(w.to).column + 1 < static_cast<int>(m_path.knots.size()))
                        knot(w.to).column = knot(w.from).column + 1;
        };
        const auto lastOf = [this](Stage stage) {
            int last = -1;
            for (const PathKnot& k : m_path.knots)
                if (k.stage == stage)
                    last = std::max(last, k.column);
            return last;
        };
        for (PathKnot& k : m_path.knots)
            k.column = k.stage == Stage::Demands ? 0 : 1;
        pushRight();
        const int decided = std::max(lastOf(Stage::Decides), 0);
        for (PathKnot& k : m_path.knots)
            if (k.stage == Stage::Switches)
                k.column = std::max(k.column, decided + 1);
        pushRight();
        int last = 0;
        for (const PathKnot& k : m_path.knots)
            if (k.stage != Stage::Rests)
                last = std::max(last, k.column);
        for (PathKnot& k : m_path.knots)
            if (k.stage == Stage::Rests)
                k.column = last + 1;
        m_path.columns = last + 2;
    }

    /// What is left of a ring is no way of this function.
    void dropBackward()
    {
        for (const PathWay& w : m_ways)
            if (knot(w.from).column < knot(w.to).column)
                m_path.ways.push_back(w);
    }

    void addWatches()
    {
        std::set<PathWatch> all;
        for (int by = 0; by < static_cast<int>(m_path.knots.size()); ++by) {
            if (deviceOf(by) < 0 || knot(by).stage == Stage::Rests || knot(by).stage == Stage::Demands)
                continue;
            for (int l : exploration::linksOnPaths(m_plant, nodesOf(by))) {
                const PlantLink& link = m_plant.links[at(l)];
                if (link.device < 0 || link.device == deviceOf(by) || link.contact.mover < 0
                    || link.contact.kind == ContactKind::Main)
                    continue;
                const auto mover = m_plant.movers[at(link.contact.mover)].spec;
                if (mover.driver != MoverSpec::Driver::Coil || !isClosedAt(link, mover.initial) || isClosedAt(link, 2))
                    continue;
                for (int from = 0; from < static_cast<int>(m_path.knots.size()); ++from)
                    if (deviceOf(from) == link.device && knot(from).column > knot(by).column)
                        all.insert({from, by, link.role});
            }
        }
        m_path.watches.assign(all.begin(), all.end());
    }

    const SafetyFunction& m_function;
    const Plant& m_plant;
    const Trace& m_trace;
    std::map<int, std::size_t> m_reacts; ///< device: its first event after the demand
    std::map<int, Travelled> m_travelled; ///< by mover
    FunctionPath m_path;
    std::vector<int> m_devices; ///< of each knot; -1: not in the circuit
    std::set<PathWay> m_ways;
};

/// Devices between whose terminals, or from one of them to earth, there is more than may be touched.
std::vector<DeviceId> liveDevices(const Plant& plant, const Frame& frame)
{
    const auto isDangerous = [&frame](int a, int b) {
        const NodeReading &na = frame.nodes[at(a)], &nb = frame.nodes[at(b)];
        if ((na.floating || nb.floating) && !na.isJoinedWith(nb))
            return false; // nothing joins them: a reading would mean nothing
        return std::abs(na.alternatingV - nb.alternatingV) > kTouchableAlternatingV
            || std::abs(na.directV - nb.directV) > kTouchableDirectV;
    };
    std::vector<std::vector<int>> nodes(plant.devices.size(), std::vector<int>{0});
    for (const PlantTerminal& t : plant.terminals)
        if (!t.inner)
            nodes[at(t.device)].push_back(t.node);
    std::vector<DeviceId> live;
    for (std::size_t d = 0; d < plant.devices.size(); ++d) {
        const auto& own = nodes[d];
        const bool isLive = std::any_of(own.begin(), own.end(),
            [&](int a) { return std::any_of(own.begin(), own.end(), [&](int b) { return isDangerous(a, b); }); });
        if (isLive)
            live.push_back(plant.devices[d].id);
    }
    return live;
}

/// The circuit a second after the demand, nothing done since.
std::optional<Frame> afterDemand(const Plant& plant, const Scenario& scenario, TimeNs demand, std::stop_token stop)
{
    auto stimuli = stimuliOf(plant, scenario);
    if (!stimuli)
        return std::nullopt;
    std::erase_if(*stimuli, [demand](const Stimulus& s) { return s.at > demand; });
    State state = initialState(plant);
    Trace trace;
    Workspace workspace;
    if (advance(plant, state, *stimuli, {demand + kReaction, std::move(stop), {}, false}, trace, workspace)
        != Pause::Reached)
        return std::nullopt;
    return observe(plant, state);
}

} // namespace

Expected<FunctionPath> functionPath(const Dossier& dossier, const SafetyFunction& function, std::stop_token stop)
{
    const auto plant = compile(dossier.circuit);
    if (!plant)
        return Unexpected{plant.error()};
    const auto run = stopRun(dossier, function, Timing::Nominal, stop);
    if (!run)
        return Unexpected{run.error()};
    const auto demand = demandTime(
        *plant, run->run.trace, dossier.circuit.device(function.trigger.device)->tag, function.trigger.action);
    TS_CHECK(demand.has_value()); // else there is no run
    FunctionPath path = Reading(function, *plant, run->run.trace, *demand).path();
    const auto after = afterDemand(
        *plant, *dossier.scenario(std::to_string(function.demandScenario.value)), *demand, std::move(stop));
    if (!after)
        return cancelled();
    path.stillLive = liveDevices(*plant, *after);
    return path;
}

} // namespace ts
