#include "core/measuring/panel.h"

#include "core/base/at.h"
#include "core/measuring/dead_looks.h"
#include "core/simulation/frame.h"
#include "core/simulation/induced.h"
#include "core/simulation/meters.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace ts::measuring {
namespace {

constexpr TimeNs kSwitchedOnNs = 2'000'000'000; ///< supplies are up, relays have looked at their inputs
constexpr const char* kBriefly = " ..."; ///< a hand that does not stay
constexpr double kStandsRadPerS = 0.01;

std::pair<std::string, std::string> split(const std::string& operation)
{
    const std::size_t space = operation.find(' ');
    return space == operation.npos ? std::pair(operation, std::string())
                                   : std::pair(operation.substr(0, space), operation.substr(space + 1));
}

constexpr std::string_view kAtOnce = " + ";

/// What several hands do at once, too.
Expected<std::vector<Stimulus>> stimuliOf(const Plant& plant, const std::string& operation, TimeNs now)
{
    std::vector<Stimulus> all;
    for (std::size_t from = 0; from != operation.npos;) {
        const std::size_t to = operation.find(kAtOnce, from);
        const auto [tag, word] = split(operation.substr(from, to == operation.npos ? to : to - from));
        const auto stimuli = stimuliFor(plant, tag, word, now);
        if (!stimuli)
            return stimuli;
        all.insert(all.end(), stimuli->begin(), stimuli->end());
        from = to == operation.npos ? to : to + kAtOnce.size();
    }
    return all;
}

Unexpected unknown(const std::string& what)
{
    return failure(ErrorCode::NotFound, message("test.unknown", {what}));
}

std::string motorLook(const Plant& plant, const State& state, int motor)
{
    const double speed = flowValue(plant, state, plant.motors[at(motor)].flow, state.now);
    return std::abs(speed) < kStandsRadPerS ? "at rest" : speed > 0 ? "right" : "left";
}

bool isPole(const PlantLink& l)
{
    return l.contact.kind == ContactKind::Pole || l.contact.kind == ContactKind::Main;
}

Fault opened(const PlantWire& w)
{
    return w.link >= 0 ? Fault{FaultMode::LinkHeldOpen, w.link} : Fault{FaultMode::ImpedanceOpen, w.impedance};
}

} // namespace

std::string lookOf(const Plant& plant, const State& state, int device)
{
    const PlantDevice& d = plant.devices[at(device)];
    const auto said = [&d](const std::string& how) { return d.tag + " " + how; };
    if (!d.motors.empty())
        return said(motorLook(plant, state, d.motors.front()));
    if (!d.relays.empty())
        return said(state.relays[at(d.relays.front())].outputs ? "on" : "off");
    if (!d.lamps.empty())
        return said(state.lampLit[at(d.lamps.front())] != 0 ? "lit" : "dark");
    for (const int m : d.movers) {
        if (plant.movers[at(m)].spec.latches && plant.movers[at(m)].spec.driver == MoverSpec::Driver::Operator)
            return said(state.travel[at(m)] == plant.movers[at(m)].spec.initial ? "free" : "held");
        using Driver = MoverSpec::Driver;
        const Driver driver = plant.movers[at(m)].spec.driver;
        if (driver == Driver::Coil || driver == Driver::Logic)
            return said(state.travel[at(m)] == 2 ? "in" : "out");
        if (driver == Driver::Protection)
            return said(state.travel[at(m)] == plant.movers[at(m)].spec.initial ? "whole" : "tripped");
    }
    return {};
}

std::string operationText(const Plant& plant, const Stimulus& s)
{
    if (s.kind != Stimulus::Kind::Drive)
        return {};
    const PlantDevice& device = plant.devices[at(plant.movers[at(s.slot)].device)];
    for (const auto& [word, what] : device.actions)
        if (what.first == s.slot && what.second == s.target && (word == "release") == s.letGo)
            return device.tag + " " + word;
    return {};
}

std::string joinedAtOnce(const std::vector<std::string>& operations)
{
    std::string all;
    for (const std::string& o : operations)
        all += (all.empty() ? "" : std::string(kAtOnce)) + o;
    return all;
}

StandIn::StandIn(std::shared_ptr<const Plant> plant, std::vector<Fault> faults, std::shared_ptr<CircuitMemory> memory,
    std::stop_token stop)
    : m_plant(std::move(plant))
    , m_faults(std::move(faults))
    , m_workspace(memory ? std::move(memory) : std::make_shared<CircuitMemory>())
    , m_stop(std::move(stop))
{
}

std::vector<Fault> StandIn::takenOut(const Situation& in) const
{
    std::vector<Fault> out;
    for (const PlantWire& w : m_plant->wires)
        if (std::find(in.lifted.begin(), in.lifted.end(), w.id) != in.lifted.end())
            out.push_back(opened(w));
    for (const std::string& tag : in.isolated)
        for (std::size_t l = 0; l < m_plant->links.size(); ++l) {
            const PlantLink& link = m_plant->links[l];
            if (link.device >= 0 && m_plant->devices[at(link.device)].tag == tag && isPole(link))
                out.push_back({FaultMode::LinkHeldOpen, static_cast<int>(l)});
        }
    return out;
}

Expected<void> StandIn::bring(const Situation& in)
{
    m_isDead = in.power == Power::LockedOff;
    return m_isDead ? bringDead(in) : bringLive(in);
}

Expected<void> StandIn::bringDead(const Situation& in)
{
    auto state = deadStateOf(*m_plant, in);
    if (!state)
        return Unexpected{state.error()};
    m_travel = std::move(state->travel);
    m_gone = std::move(state->gone);
    return {};
}

Expected<void> StandIn::bringLive(const Situation& in)
{
    m_trail.clear();
    m_lastDone = in.bring.empty() ? std::string() : in.bring.back();
    Situation key = in;
    key.power = Power::On; // what is taken out says the rest
    key.bring.clear();
    auto known = m_known.find(key);
    if (known == m_known.end()) {
        Reached start{initialState(*m_plant), 0, {}, false};
        start.state.faults = m_faults;
        for (const Fault& f : takenOut(in))
            start.state.faults.push_back(f);
        Trace trace;
        const Pause pause = advance(*m_plant, start.state, {}, {kSwitchedOnNs, m_stop, {}, false}, trace, m_workspace);
        if (pause == Pause::Cancelled)
            return cancelled();
        start.isChattering = pause == Pause::Chatter;
        known = m_known.emplace(key, std::move(start)).first;
    }
    m_trail.push_back(known->second.state);
    for (std::size_t k = 0; k < in.bring.size(); ++k) {
        const std::string& operation = in.bring[k];
        // What is let go again at once is held no longer than a hand takes.
        const bool isBrief = k + 1 < in.bring.size() && split(in.bring[k + 1]).first == split(operation).first;
        key.bring.push_back(operation + (isBrief ? kBriefly : ""));
        auto then = m_known.find(key);
        if (then == m_known.end()) {
            auto reached = next(known->second, operation, isBrief);
            if (!reached)
                return Unexpected{reached.error()};
            then = m_known.emplace(key, *std::move(reached)).first;
        }
        known = then;
        m_trail.push_back(known->second.state);
    }
    m_now = known->second;
    return {};
}

Expected<StandIn::Reached> StandIn::next(const Reached& before, const std::string& operation, bool isBrief)
{
    if (before.isChattering)
        return before;
    const auto stimuli = stimuliOf(*m_plant, operation, 0);
    if (!stimuli)
        return Unexpected{stimuli.error()};
    using exploration::Operation;
    const bool areTwo = operation.find(kAtOnce) != operation.npos;
    const Operation hand{areTwo ? Operation::Kind::TwoHands : Operation::Kind::Hand, *stimuli};
    auto settled = isBrief ? exploration::settledAfter(*m_plant, before.state, hand, m_workspace, m_stop)
                           : exploration::steadyAfter(*m_plant, before.state, hand, m_workspace, m_stop);
    if (settled.pause == Pause::Cancelled)
        return cancelled();
    return Reached{
        std::move(settled.state), before.state.now, std::move(settled.trace.events), settled.pause == Pause::Chatter};
}

std::optional<State> StandIn::after(const State& before, const std::string& operation)
{
    const auto reached = next({before, 0, {}, false}, operation, false);
    return reached && !reached->isChattering ? std::optional(reached->state) : std::nullopt;
}

Expected<int> StandIn::nodeOf(const std::string& terminal) const
{
    const auto nodes = nodesOf(*m_plant, terminal);
    return nodes ? Expected<int>(nodes->front()) : Unexpected{nodes.error()};
}

Expected<Reading> StandIn::look(const Look& look)
{
    if (look.with == Instrument::Tester || look.with == Instrument::Person)
        return Reading{0, 0, std::string(look.with == Instrument::Tester ? kShowsVoltage : kDone)};
    if (isOhms(look.with)) {
        const auto a = nodesOf(*m_plant, look.at.front()), b = nodesOf(*m_plant, look.at.back());
        if (!a || !b)
            return Unexpected{a ? b.error() : a.error()};
        return Ohms(*m_plant, m_travel, overlayOf(*m_plant, m_faults), m_gone).lowest(*a, *b);
    }
    if (m_isDead && look.with == Instrument::Eye)
        return wired(look);
    if (m_isDead)
        return figure(0);
    if (m_now.isChattering)
        return Reading{0, 0, "chatters"};
    switch (look.with) {
    case Instrument::Volts:
        return volts(look);
    case Instrument::Sequence:
        return sequence(look);
    case Instrument::LoopOhms:
        return loop(look);
    case Instrument::Amperes:
        return amperes(look);
    case Instrument::Stopwatch:
        return timed(look);
    case Instrument::VoltsLater:
        return later(look);
    default:
        return seen(look);
    }
}

Expected<Reading> StandIn::wired(const Look& look) const
{
    std::vector<int> nodes;
    for (const std::string& terminal : look.at) {
        const auto node = nodeOf(terminal);
        if (!node)
            return Unexpected{node.error()};
        nodes.push_back(*node);
    }
    return wiresSeen(*m_plant, look.at, nodes, m_gone);
}

Expected<Reading> StandIn::volts(const Look& look) const
{
    const auto a = nodeOf(look.at.front()), b = nodeOf(look.at.back());
    if (!a || !b)
        return Unexpected{a ? b.error() : a.error()};
    const Frame frame = observe(*m_plant, m_now.state);
    const NodeReading &p = frame.nodes[at(*a)], &q = frame.nodes[at(*b)];
    const bool areBothEarthed = !p.floating && !q.floating;
    if (!areBothEarthed && !p.isJoinedWith(q))
        return figure(0); // nothing but leaks joins them
    return figure(std::max(std::abs(p.alternatingV - q.alternatingV), std::abs(p.directV - q.directV)));
}

Expected<Reading> StandIn::sequence(const Look& look) const
{
    std::array<int, 3> nodes{};
    for (std::size_t k = 0; k < nodes.size(); ++k) {
        const auto node = nodeOf(look.at[k]);
        if (!node)
            return Unexpected{node.error()};
        nodes[k] = *node;
    }
    const PhaseSequence turns = sequenceOf(observe(*m_plant, m_now.state), nodes);
    return Reading{0, 0, turns == PhaseSequence::None ? "none" : turns == PhaseSequence::Right ? "right" : "left"};
}

/// Voltage over the current of a fault that is put in for the moment.
Expected<Reading> StandIn::loop(const Look& look) const
{
    const auto a = nodeOf(look.at.front()), b = nodeOf(look.at.back());
    if (!a || !b)
        return Unexpected{a ? b.error() : a.error()};
    const Frame open = observe(*m_plant, m_now.state);
    const double volts = std::abs(open.nodes[at(*a)].alternatingV - open.nodes[at(*b)].alternatingV);
    State faulty = m_now.state;
    faulty.faults.push_back({FaultMode::Short, *a, *b});
    const Frame shorted = observe(*m_plant, faulty);
    double amperes = 0;
    for (std::size_t l = 0; l < m_plant->links.size(); ++l)
        if (m_plant->links[l].p == *a || m_plant->links[l].q == *a)
            amperes = std::max(amperes, std::abs(shorted.links[l].alternatingA));
    constexpr double kLeastV = 1.0, kLeastA = 0.01;
    return volts < kLeastV || amperes < kLeastA ? Reading{kEndless, kEndless, {}} : figure(volts / amperes);
}

Expected<Reading> StandIn::amperes(const Look& look) const
{
    const auto node = nodeOf(look.at.front());
    if (!node)
        return Unexpected{node.error()};
    const Frame frame = observe(*m_plant, m_now.state);
    for (std::size_t m = 0; m < m_plant->motors.size(); ++m)
        for (int k = 0; k < 3; ++k)
            if (m_plant->motors[m].nodes[at(k)] == *node)
                return figure(frame.motors[m].currentA[at(k)]);
    return unknown(look.at.front());
}

Expected<Reading> StandIn::timed(const Look& look) const
{
    const int device = m_plant->deviceIndex(look.at.front());
    if (device < 0 || m_plant->devices[at(device)].motors.empty())
        return unknown(look.at.front());
    const int motor = m_plant->devices[at(device)].motors.front();
    for (const Event& e : m_now.since)
        if (e.why == Why::AtRest && e.slot == motor)
            return figure(static_cast<double>(e.at - m_now.doneAt) * 1e-9);
    const bool stood = m_now.state.actuatorMode[at(motor)] == MotorMode::AtRest;
    return stood ? figure(0) : Reading{kEndless, kEndless, {}};
}

/// What is left of a motor's field, or what still feeds it.
Expected<Reading> StandIn::later(const Look& look)
{
    const auto a = nodeOf(look.at.front());
    if (!a)
        return Unexpected{a.error()};
    const auto motor = std::find_if(m_plant->motors.begin(), m_plant->motors.end(),
        [&a](const PlantMotor& m) { return std::find(m.nodes.begin(), m.nodes.end(), *a) != m.nodes.end(); });
    if (motor == m_plant->motors.end() || m_trail.size() < 2)
        return volts(look);
    static const double afterS = bandOf("discharged_after").low;
    State state = m_trail[m_trail.size() - 2];
    const auto stimuli = stimuliOf(*m_plant, m_lastDone, state.now);
    if (!stimuli)
        return Unexpected{stimuli.error()};
    Trace trace;
    Limits limits;
    limits.until = state.now + timeNs(seconds(afterS));
    limits.stop = m_stop;
    if (advance(*m_plant, state, *stimuli, limits, trace, m_workspace) == Pause::Cancelled)
        return cancelled();
    const auto slot = at(m_plant->devices[at(motor->device)].actuator);
    if (state.actuatorFed[slot] != 0)
        return volts(look);
    const double speed = flowValue(*m_plant, state, motor->flow, state.now);
    return figure(residualV(motor->data, m_plant->frequencyHz, speed, afterS));
}

Expected<Reading> StandIn::seen(const Look& look) const
{
    Reading r{0, 0, {}};
    for (const std::string& tag : look.at) {
        const int device = m_plant->deviceIndex(tag);
        if (device < 0)
            return unknown(tag);
        const std::string how = lookOf(*m_plant, m_now.state, device);
        r.word += (r.word.empty() ? "" : ", ") + how;
    }
    return r;
}

} // namespace ts::measuring
