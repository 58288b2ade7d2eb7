#include "core/base/at.h"
#include "core/simulation/run.h"

#include "core/base/check.h"
#include "core/simulation/motion.h"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <limits>

namespace ts {
namespace {

constexpr int kMostRounds = 200; ///< within one instant; more is a loop without time

} // namespace

Run::Run(const Plant& plant, State& state, Trace& trace, Workspace& workspace)
    : m_plant(plant)
    , m_state(state)
    , m_trace(trace)
    , m_workspace(workspace)
    , m_overlay(overlayOf(plant, state.faults))
{
    m_firstPole.push_back(0);
    for (const PlantProtection& p : plant.protections)
        m_firstPole.push_back(m_firstPole.back() + p.data.poles.size() + (p.data.winding >= 0));
}

Pause Run::run(std::span<const Stimulus> stimuli, const Limits& limits)
{
    m_findsCauses = limits.findsCauses;
    m_ties = limits.ties;
    if (m_state.isSettled && isAnyDriven())
        m_state.now = std::min(m_state.now, drivenSince()); // a pause within a step of speed: the step is done as a
                                                            // whole
    auto next = stimuli.begin();
    const bool due = next != stimuli.end() && next->at <= m_state.now;
    if (m_state.isSettled && !due)
        solve(); // so that pausing and going on is the same as not pausing
    else if (!settleWith(next, stimuli.end()))
        return Pause::Chatter;
    while (m_state.now < limits.until) {
        if (limits.stop.stop_requested())
            return Pause::Cancelled;
        if (limits.outOfBudget && limits.outOfBudget())
            return Pause::OutOfBudget;
        TimeNs event = std::numeric_limits<TimeNs>::max();
        if (!m_state.agenda.empty())
            event = std::min(event, m_state.agenda.front().at);
        if (next != stimuli.end())
            event = std::min(event, next->at);
        if (const auto crossing = nextCrossing(m_plant, m_state))
            event = std::min(event, *crossing);
        if (isAnyDriven()) {
            if (moveBy(event, limits.until) && m_state.now < event)
                continue; // a step of speed alone, nothing crossed
        } else {
            m_state.now = std::min(event, limits.until);
            if (m_state.now < event)
                break;
        }
        if (!settleWith(next, stimuli.end()))
            return Pause::Chatter;
    }
    return Pause::Reached;
}

bool Run::settleWith(StimulusIt& next, StimulusIt end)
{
    for (; next != end && next->at <= m_state.now; ++next)
        apply(*next);
    return settle();
}

bool Run::settle()
{
    m_state.isSettled = true;
    bool solvesAgain = false; // a supply changed its mode: the same moves are still what everything follows from
    m_oneByOne = false;
    std::optional<std::pair<State, std::size_t>> beforeTie; // and the length of its trace
    for (int round = 0; round < kMostRounds; ++round) {
        if (!solvesAgain) {
            m_applied.clear();
            m_reasonOf.assign(m_plant.movers.size(), -1);
            beforeTie.reset();
            if (!m_oneByOne && isTieDue())
                beforeTie.emplace(m_state, m_trace.events.size());
        }
        if (applyDue())
            if (m_chatter)
                return false;
        solve();
        solvesAgain = !look();
        if (solvesAgain)
            continue;
        if (beforeTie && isUndone()) {
            m_state = std::move(beforeTie->first);
            m_trace.events.resize(beforeTie->second);
            m_oneByOne = true;
            continue;
        }
        reconcileMovers();
        markLamps();
        markMotors();
        markOutputs();
        if (m_state.agenda.empty() || m_state.agenda.front().at > m_state.now)
            return true;
    }
    return false;
}

bool Run::look()
{
    const bool supplies = reactSupplies(), semiconductors = reactLogics();
    if (supplies || semiconductors)
        return false;
    rebaseFlows();
    reactCoils();
    reactProtections();
    reactRelays();
    return true;
}

bool Run::isUndone() const
{
    return std::any_of(m_applied.begin(), m_applied.end(), [this](const Applied& a) {
        const int travel = m_state.travel[at(a.mover)];
        const auto [low, high] = boundsOf(a.mover);
        const int wish = std::clamp<int>(m_state.pushed[at(a.mover)] ? 2 : m_state.wish[at(a.mover)], low, high);
        return travel > a.from ? wish < travel : wish > travel;
    });
}

bool hasRace(std::span<const Event> events)
{
    return std::any_of(events.begin(), events.end(), [](const Event& e) { return e.why == Why::Race; });
}

void Run::solve()
{
    m_slips = slipsAt(m_plant, m_state, m_state.now);
    m_instant = solveInstant(m_plant, m_state, m_overlay, m_slips, m_workspace);
    readProtections();
}

void Run::solveSpeeds()
{
    m_slips = slipsAt(m_plant, m_state, m_state.now);
    if (m_step.after)
        m_instant.alternating = m_step.after;
    else
        m_instant.alternating = m_workspace.solved(m_instant.electrics.alternating, m_slips);
    readProtections();
}

void Run::readProtections()
{
    const std::vector<double>&alternating = m_instant.alternating->protectionsA2,
          &direct = m_instant.electrics.direct->protectionsA2;
    m_protectionsA.resize(alternating.size());
    for (std::size_t k = 0; k < alternating.size(); ++k)
        m_protectionsA[k] = std::sqrt(alternating[k] + direct[k]);
}

std::span<const double> Run::polesOf(std::size_t protection) const
{
    return std::span(m_protectionsA)
        .subspan(m_firstPole[protection], m_firstPole[protection + 1] - m_firstPole[protection]);
}

int Run::record(Why why, int device, int slot, int from, int to, int cause, int net, double si)
{
    m_trace.events.push_back({m_state.now, why, device, slot, from, to, cause, net, si});
    return m_state.lastEvent = static_cast<int>(m_trace.events.size()) - 1;
}

void Run::apply(const Stimulus& s)
{
    std::fill(m_state.moves.begin(), m_state.moves.end(), std::uint8_t{0});
    switch (s.kind) {
    case Stimulus::Kind::Drive: {
        const PlantMover& mover = m_plant.movers[at(s.slot)];
        if (s.letGo && mover.spec.latches && !m_overlay.losesLatch[at(s.slot)])
            return;
        if (mover.spec.driver == MoverSpec::Driver::Coil)
            m_state.pushed[at(s.slot)] = s.target == 2;
        else
            m_state.wish[at(s.slot)] = s.target;
        resetFlowsOf(s.slot, s.target);
        record(Why::Operated, mover.device, s.slot, m_state.travel[at(s.slot)], s.target, -1);
        break;
    }
    case Stimulus::Kind::SetKnob:
        m_state.knobs[at(s.slot)] = s.value;
        record(Why::KnobSet, -1, s.slot, 0, 0, -1, -1, s.value);
        break;
    case Stimulus::Kind::PutFault:
        if (std::find(m_state.faults.begin(), m_state.faults.end(), s.fault) == m_state.faults.end())
            m_state.faults.push_back(s.fault);
        m_overlay = overlayOf(m_plant, m_state.faults);
        record(Why::FaultOn, -1, static_cast<int>(s.fault.mode), s.fault.at, s.fault.with, -1);
        break;
    case Stimulus::Kind::ClearFault:
        std::erase(m_state.faults, s.fault);
        m_overlay = overlayOf(m_plant, m_state.faults);
        record(Why::FaultOff, -1, static_cast<int>(s.fault.mode), s.fault.at, s.fault.with, -1);
        break;
    }
}

void Run::resetFlowsOf(int mover, int target)
{
    for (const PlantProtection& p : m_plant.protections)
        if (p.data.mover == mover && p.data.law != Protection::Law::Thermal && target != p.data.trippedTravel)
            m_state.flows[at(p.flow)] = {0.0, 0.0, 0.0, m_state.now, Flow::Law::Constant};
}

State initialState(const Plant& plant)
{
    State s;
    for (const PlantMover& m : plant.movers)
        s.travel.push_back(m.spec.initial);
    s.wish = s.travel;
    s.pushed.assign(plant.movers.size(), 0);
    s.moves.assign(plant.movers.size(), 0);
    s.movesSince.assign(plant.movers.size(), 0);
    s.relays.resize(plant.relays.size());
    s.logics.resize(plant.logics.size());
    s.levels.resize(at(plant.levelCount));
    s.converters.assign(plant.converters.size(), ConverterMode::Off);
    s.converterPowerW.assign(plant.converters.size(), 0.0);
    s.flows.resize(at(plant.flowCount));
    for (const PlantProtection& p : plant.protections)
        if (p.data.law != Protection::Law::Magnetic)
            s.flows[at(p.flow)].law = p.data.law == Protection::Law::Thermal ? Flow::Law::Heating : Flow::Law::Melting;
    for (const PlantKnob& k : plant.knobs)
        s.knobs.push_back(k.initial);
    s.lampLit.assign(plant.lamps.size(), 0);
    s.actuatorMode.assign(plant.actuators.size(), MotorMode::AtRest);
    s.actuatorFed.assign(plant.actuators.size(), 0);
    s.actuatorEvent.assign(plant.actuators.size(), -1);
    s.wasDriven.assign(plant.motors.size(), 0);
    return s;
}

Expected<Stimulus> stimulusFor(const Plant& plant, std::string_view tag, std::string_view word, TimeNs time)
{
    const int device = plant.deviceIndex(tag);
    if (device < 0)
        return failure(ErrorCode::NotFound, message("scenario.no_device", {std::string(tag)}));
    std::string known;
    for (const auto& [name, what] : plant.devices[at(device)].actions) {
        if (name == word) {
            Stimulus s;
            s.at = time;
            s.slot = what.first;
            s.target = what.second;
            s.letGo = word == "release";
            return s;
        }
        known += (known.empty() ? "" : ", ") + name;
    }
    for (const std::string& name : losses(plant, tag))
        known += (known.empty() ? "" : ", ") + name;
    return failure(ErrorCode::NotFound, message("scenario.no_action", {std::string(tag), std::string(word), known}));
}

namespace {

/// "L2" of the knob "G0.L2"; empty if it is another device's.
std::string_view lineOf(const PlantKnob& knob, std::string_view tag)
{
    const std::string_view name = knob.name;
    return name.size() > tag.size() + 1 && name.starts_with(tag) && name[tag.size()] == '.'
        ? name.substr(tag.size() + 1)
        : std::string_view{};
}

std::string lowered(std::string_view text)
{
    std::string result(text);
    for (char& c : result)
        c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    return result;
}

} // namespace

std::vector<std::string> losses(const Plant& plant, std::string_view tag)
{
    std::vector<std::string> words;
    for (const PlantKnob& k : plant.knobs)
        if (const std::string_view line = lineOf(k, tag); !line.empty())
            words.push_back("lose_" + lowered(line));
    if (words.size() == 1)
        words.clear(); // its only line is the supply
    if (words.size() == 3)
        words.push_back("exchange");
    if (std::any_of(plant.knobs.begin(), plant.knobs.end(), [tag](const auto& k) { return !lineOf(k, tag).empty(); }))
        words.insert(words.begin(), "lose");
    return words;
}

namespace {

/// Two of a supply's lines exchanged, or put right again; none for a supply that has no sequence.
std::optional<Stimulus> exchangeOf(const Plant& plant, std::string_view tag, std::string_view word, TimeNs time)
{
    const auto words = losses(plant, tag);
    const bool isExchanged = word == "exchange";
    if ((!isExchanged && word != "exchange_back") || std::find(words.begin(), words.end(), "exchange") == words.end())
        return std::nullopt;
    const int device = plant.deviceIndex(tag);
    const auto first = std::find_if(
        plant.sources.begin(), plant.sources.end(), [device](const PlantSource& s) { return s.device == device; });
    const int source = static_cast<int>(first - plant.sources.begin());
    Stimulus s;
    s.at = time;
    s.kind = isExchanged ? Stimulus::Kind::PutFault : Stimulus::Kind::ClearFault;
    s.fault = {FaultMode::PhasesExchanged, source, source + 1};
    return s;
}

} // namespace

Expected<std::vector<Stimulus>> stimuliFor(const Plant& plant, std::string_view tag, std::string_view word, TimeNs time)
{
    if (const auto exchange = exchangeOf(plant, tag, word, time))
        return std::vector{*exchange};
    std::vector<Stimulus> all;
    for (std::size_t k = 0; k < plant.knobs.size(); ++k) {
        const std::string line = lowered(lineOf(plant.knobs[k], tag));
        const bool isLost = word == "lose" || word == "lose_" + line;
        if (line.empty() || (!isLost && word != "return" && word != "return_" + line))
            continue;
        Stimulus s;
        s.at = time;
        s.kind = Stimulus::Kind::SetKnob;
        s.slot = static_cast<int>(k);
        s.value = isLost ? 0.0 : plant.knobs[k].initial;
        all.push_back(s);
    }
    if (!all.empty())
        return all;
    auto one = stimulusFor(plant, tag, word, time);
    if (!one)
        return Unexpected{one.error()};
    return std::vector{*one};
}

bool doesTheSame(const Stimulus& a, const Stimulus& b)
{
    Stimulus other = b;
    other.at = a.at;
    return a == other;
}

Pause advance(const Plant& plant, State& state, std::span<const Stimulus> stimuli, const Limits& limits, Trace& trace,
    Workspace& workspace)
{
    TS_CHECK(state.travel.size() == plant.movers.size());
    return Run(plant, state, trace, workspace).run(stimuli, limits);
}

} // namespace ts
