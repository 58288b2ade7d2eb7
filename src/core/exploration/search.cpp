#include "core/exploration/search.h"

#include "core/base/at.h"
#include "core/faults/parallel.h"

#include <algorithm>
#include <deque>
#include <set>
#include <unordered_map>

namespace ts::exploration {
namespace {

constexpr std::size_t kBatch = 128; ///< states whose operations are tried before what they lead to is sorted out
constexpr int kNominal = -1, kOtherOrder = -2; ///< of movers that arrive in one instant, at nominal times

struct Node {
    State state; ///< emptied once its operations have been tried
    int parent = -1, operation = -1;
    bool atLimits = false; ///< reached with times at a limit
    bool isStartPending = false; ///< a start was given and a delay has been pending ever since
    bool isRunning = false;
    bool isCutOff = false; ///< ways from it were not followed, because something was lost on them or the circuit
                           ///< chattered
    TimeNs leftAt = 0; ///< its settled time
    std::vector<int> leadsTo;
};

struct Next {
    std::string key;
    State state;
    int operation = 0, machine = kNominal;
    bool isStartPending = false;
};

struct Seen {
    std::size_t proof = 0;
    int operation = -1; ///< -1: in the state itself
    int machine = kNominal;
    TimeNs shownAt = 0;
    Opposed contactors;
};

struct Expansion {
    std::vector<Next> next;
    std::vector<int> known; ///< nodes it leads to
    std::vector<Seen> seen;
    std::size_t transitions = 0, undecided = 0;
    bool isCancelled = false, isCutOff = false;
};

class Searching {
public:
    Searching(const Machines& machines, const SearchQuestion& question, const Operations& operations,
        const Options& options, std::stop_token stop)
        : m_machines(machines)
        , m_plant(machines.nominal)
        , m_question(question)
        , m_operations(operations)
        , m_options(options)
        , m_stop(std::move(stop))
        , m_watch(m_plant, question.faults)
    {
        for (Claim claim : kClaims)
            if (isAskedFor(claim))
                for (std::size_t d = 0; d < (claim == Claim::StaysStopped ? question.demands.size() : 1); ++d)
                    m_result.proofs.push_back(
                        {claim, claim == Claim::StaysStopped ? question.demands[d].function : FunctionId{}, {}, {}});
    }

    Expected<Searched> run(const StatesListener& listener)
    {
        if (!begin())
            return cancelled();
        for (std::size_t first = 0; first < m_nodes.size() && !m_result.isBounded;) {
            const std::size_t count = std::min(kBatch, m_nodes.size() - first);
            std::vector<Expansion> expansions(count);
            const bool ran = faults::forEachIndex(
                count, m_options.threads, [&](std::size_t k, Workspace& w) { expansions[k] = expanded(first + k, w); },
                m_stop, m_machines.memory);
            if (!ran
                || std::any_of(expansions.begin(), expansions.end(), [](const Expansion& e) { return e.isCancelled; }))
                return cancelled();
            for (std::size_t k = 0; k < count; ++k)
                take(first + k, std::move(expansions[k]));
            first += count;
            if (listener)
                listener(m_nodes.size());
        }
        judgeDeadEnds();
        // Nothing is proved where ways were not followed: at the bound, after a chatter, behind joined lines.
        const bool isCutOff = std::any_of(m_nodes.begin(), m_nodes.end(), [](const Node& n) { return n.isCutOff; });
        for (Proof& p : m_result.proofs)
            if (!p.counter
                && (m_result.isBounded || m_result.undecided > 0
                    || (isCutOff && p.claim != Claim::NeverJoined && joinsSeen())))
                p.answer = Answer::Bounded;
        m_result.states = m_nodes.size();
        return std::move(m_result);
    }

private:
    using Scope = SearchQuestion::Scope;

    /// With a fault in it a circuit that cannot be started any more has done well: that is not asked.
    bool isAskedFor(Claim claim) const
    {
        if (claim >= Claim::NoForbiddenRest)
            return m_question.scope == Scope::Armatures;
        if (claim <= Claim::PauseOutlastsArc)
            return m_question.scope != Scope::Armatures;
        const bool isOfTheHealthy = claim == Claim::CanStart || claim == Claim::NoStartHeld;
        return m_question.scope == Scope::All && (!isOfTheHealthy || m_question.faults.empty());
    }

    bool begin()
    {
        Workspace workspace;
        Settled s{initialState(m_plant), {}, Pause::Reached};
        s.state.faults = m_question.faults;
        const State before = s.state;
        s.pause = advance(m_plant, s.state, {}, {kHandNs, m_stop, {}, false}, s.trace, workspace);
        while (s.pause == Pause::Reached && !s.state.agenda.empty() && s.state.agenda.front().phase == Pending::Move)
            s.pause = advance(m_plant, s.state, {}, {s.state.agenda.front().at, m_stop, {}, false}, s.trace, workspace);
        if (s.pause == Pause::Cancelled)
            return false;
        Expansion start; // switching on is an operation by itself: a machine that starts then starts unasked
        Operation on;
        on.kind = Operation::Kind::SupplyBack;
        const bool isJoined = judgeWay(before, s, on, -1, kNominal, false, start);
        Node node;
        node.leftAt = s.state.now;
        m_nodes.push_back(std::move(node));
        for (const Seen& seen : start.seen)
            keep(0, seen);
        if (s.pause == Pause::Chatter) {
            m_result.undecided = 1;
            m_nodes[0].isCutOff = true;
            return true;
        }
        if (isJoined) {
            m_nodes[0].isCutOff = true;
            return true;
        }
        runUp(m_plant, s, workspace, m_stop);
        m_nodes[0].isRunning = isRunning(s.state);
        m_known.emplace(keyOf(s.state, false), 0);
        m_nodes[0].leftAt = s.state.now;
        m_nodes[0].state = std::move(s.state);
        return true;
    }

    std::string keyOf(const State& state, bool isStartPending) const
    {
        return situationOf(m_plant, state) + (isStartPending ? 's' : '-');
    }
    bool isRunning(const State& state) const { return state.actuatorMode[at(m_question.motor)] == MotorMode::Driven; }

    Expansion expanded(std::size_t n, Workspace& workspace) const
    {
        Expansion e;
        const Node& node = m_nodes[n];
        if (node.state.travel.empty())
            return e; // not known what follows
        std::set<std::string> mine;
        for (int o = 0; o < static_cast<int>(m_operations.all().size()); ++o) {
            const Operation& operation = m_operations.all()[at(o)];
            if (isOnArmature(operation) && m_question.scope != Scope::Armatures)
                continue;
            if (!m_operations.isPossible(node.state, operation, m_options.restraint))
                continue;
            const std::size_t undecidedBefore = e.undecided;
            const Tried tried = tryOut(n, o, kNominal, mine, workspace, e);
            if (tried.isTie)
                tryOut(n, o, kOtherOrder, mine, workspace, e);
            const bool races = tried.races;
            const bool chatters = e.undecided > undecidedBefore;
            if (!m_options.atLimits || !(races || chatters))
                continue;
            for (int m = 0; m < static_cast<int>(m_machines.limits.size()); ++m)
                tryOut(n, o, m, mine, workspace, e);
            if (chatters && e.undecided <= undecidedBefore + m_machines.limits.size())
                e.undecided = undecidedBefore; // at some limit one is first, as in every real machine
            else if (e.undecided > undecidedBefore)
                e.undecided = undecidedBefore + 1;
        }
        return e;
    }

    bool isOnArmature(const Operation& o) const
    {
        return std::any_of(o.stimuli.begin(), o.stimuli.end(), [this](const Stimulus& s) {
            return s.kind == Stimulus::Kind::Drive && m_plant.movers[at(s.slot)].spec.driver == MoverSpec::Driver::Coil;
        });
    }

    struct Tried {
        bool races = false; ///< two devices moved by themselves: then it matters which is quicker
        bool isTie = false; ///< in one instant, the one keeping the other from it
    };
    Tried tryOut(
        std::size_t n, int o, int machine, std::set<std::string>& mine, Workspace& workspace, Expansion& e) const
    {
        const Node& node = m_nodes[n];
        const Operation& operation = m_operations.all()[at(o)];
        const Plant& plant = machine < 0 ? m_plant : m_machines.limits[at(machine)];
        Settled s = settledAfter(plant, node.state, operation, workspace, m_stop,
            machine == kOtherOrder ? Limits::Ties::LastIdFirst : Limits::Ties::FirstIdFirst);
        ++e.transitions;
        if (s.pause == Pause::Cancelled)
            e.isCancelled = true;
        const bool isLost = judgeWay(node.state, s, operation, o, machine, node.isStartPending, e);
        const Tried races{movedByThemselves(s.trace) > 1, hasRace(s.trace.events)};
        if (s.pause == Pause::Chatter)
            ++e.undecided;
        if (isLost || s.pause != Pause::Reached) {
            e.isCutOff = true;
            return races;
        }
        const bool isStart = operation.kind != Operation::Kind::Wait
            && (isGiven(operation, false) || isAnythingHeld(s.state, false));
        const bool pending = !s.state.agenda.empty() && (isStart || node.isStartPending) && !isStop(operation);
        Next next{keyOf(s.state, pending), {}, o, machine, pending};
        const auto known = m_known.find(next.key);
        if (operation.kind == Operation::Kind::Wait && known != m_known.end() && known->second == static_cast<int>(n)) {
            judgeRest(node.state, e);
            return races;
        }
        if (known != m_known.end()) {
            e.known.push_back(known->second);
            return races;
        }
        if (mine.insert(next.key).second) { // else it was reached from here before
            runUp(plant, s, workspace, m_stop);
            next.state = std::move(s.state);
            e.next.push_back(std::move(next));
        }
        return races;
    }

    int movedByThemselves(const Trace& trace) const
    {
        std::set<int> devices;
        for (const Event& event : trace.events)
            if (event.why == Why::Moved && m_plant.movers[at(event.slot)].spec.driver != MoverSpec::Driver::Operator)
                devices.insert(event.device);
        return static_cast<int>(devices.size());
    }

    bool isStop(const Operation& o) const
    {
        if (o.kind == Operation::Kind::SupplyLost)
            return true;
        return std::any_of(m_question.demands.begin(), m_question.demands.end(), [&](const Demand& d) {
            return std::any_of(o.stimuli.begin(), o.stimuli.end(), [&](const Stimulus& s) {
                return s.kind == Stimulus::Kind::Drive && s.slot == d.mover && s.target == d.operated;
            });
        });
    }

    bool isDeclared(int mover) const
    {
        return std::any_of(
            m_question.starts.begin(), m_question.starts.end(), [&](const Stimulus& d) { return d.slot == mover; });
    }

    /// Whether a hand gives a start with this operation. What switches the outputs of a safety relay on is a reset and
    /// asks for nothing, unless the dossier names it as the start.
    bool isGiven(const Operation& o, bool resets) const
    {
        return std::any_of(o.stimuli.begin(), o.stimuli.end(), [&](const Stimulus& given) {
            return given.kind == Stimulus::Kind::Drive
                && (resets ? isDeclared(given.slot) : m_operations.isGivenByHand(given));
        }); // a monitored reset acts when it is let go
    }

    bool isAnythingHeld(const State& state, bool resets) const
    {
        for (int m = 0; m < static_cast<int>(m_plant.movers.size()); ++m)
            if (m_operations.isHeld(state, m) && (!resets || isDeclared(m)))
                return true;
        return false;
    }

    /// What a start from rest comes from that no hand gives.
    Claim brokenBy(const Settled& s, const Operation& o, bool resets) const
    {
        if (isAnythingHeld(s.state, resets))
            return Claim::NoStartHeld;
        if (resets)
            return Claim::NoStartByReset;
        switch (o.kind) {
        case Operation::Kind::SupplyBack:
        case Operation::Kind::PhaseBack:
            return Claim::NoStartBySupply;
        case Operation::Kind::Hand:
        case Operation::Kind::TwoHands:
            return Claim::NoStartByReturn;
        default:
            return Claim::NoStartAlone;
        }
    }

    /// What happened on the way from one settled state to the next. True if the way is not to be followed any further.
    bool judgeWay(const State& before, const Settled& s, const Operation& o, int operation, int machine,
        bool isStartPending, Expansion& e) const
    {
        bool isLost = false;
        const auto see = [&](Claim claim, TimeNs when, Opposed contactors) {
            for (std::size_t p = 0; p < m_result.proofs.size(); ++p)
                if (m_result.proofs[p].claim == claim)
                    e.seen.push_back({p, operation, machine, when, std::move(contactors)});
        };
        const bool byHand = m_question.scope == Scope::Armatures;
        auto join = m_watch.read(before, s.trace.events, s.state);
        if (join && byHand && join->onlyByArc)
            join.reset();
        if (join) {
            see(byHand                ? Claim::NotEvenByHand
                    : join->onlyByArc ? Claim::PauseOutlastsArc
                                      : Claim::NeverJoined,
                join->at, join->contactors);
            isLost = !join->onlyByArc && !byHand; // what is left when the fuses have done their work is looked at too
        }
        if (m_question.scope != Scope::All)
            return isLost;
        bool resets = false;
        const std::size_t motor = at(m_question.motor);
        for (const Event& event : s.trace.events) {
            resets = resets || event.why == Why::OutputsOn;
            if (event.why != Why::Turning || event.slot != m_question.motor
                || static_cast<MotorMode>(event.from) != MotorMode::AtRest)
                continue;
            const bool isOnItsWay = (o.kind == Operation::Kind::Wait && isStartPending)
                || (o.kind == Operation::Kind::PhaseBack && before.actuatorFed[motor] >= 2);
            if (isOnItsWay || isGiven(o, resets))
                continue;
            see(brokenBy(s, o, resets), event.at, {}); // what follows is looked at all the same
        }
        return isLost;
    }

    /// A state in which nothing is pending any more.
    void judgeRest(const State& state, Expansion& e) const
    {
        if (std::any_of(state.pushed.begin(), state.pushed.end(), [](std::uint8_t p) { return p != 0; }))
            return;
        for (std::size_t p = 0; p < m_result.proofs.size(); ++p)
            if (m_result.proofs[p].claim == Claim::NoForbiddenRest)
                for (const Opposed& pair : m_question.opposed)
                    if (std::all_of(pair.begin(), pair.end(), [&](int m) { return state.travel[at(m)] == 2; }))
                        e.seen.push_back({p, -1, kNominal, state.now, pair});
        if (!isRunning(state))
            return;
        for (std::size_t p = 0; p < m_result.proofs.size(); ++p)
            if (m_result.proofs[p].claim == Claim::StaysStopped)
                for (const Demand& d : m_question.demands)
                    if (d.function == m_result.proofs[p].function && state.wish[at(d.mover)] == d.operated)
                        e.seen.push_back({p, -1, kNominal, state.now, {}});
    }

    void keep(std::size_t n, const Seen& seen)
    {
        Proof& proof = m_result.proofs[seen.proof];
        if (proof.counter)
            return; // an earlier one has no more operations
        proof.answer = Answer::CounterExample;
        proof.counter = CounterExample{orderTo(static_cast<int>(n)), seen.shownAt, seen.contactors,
            m_nodes[n].atLimits || seen.machine != kNominal};
        if (seen.operation >= 0)
            proof.counter->order.push_back({m_operations.all()[at(seen.operation)], m_nodes[n].leftAt});
    }

    std::vector<Done> orderTo(int n) const
    {
        std::vector<Done> order;
        for (; m_nodes[at(n)].parent >= 0; n = m_nodes[at(n)].parent)
            order.push_back(
                {m_operations.all()[at(m_nodes[at(n)].operation)], m_nodes[at(m_nodes[at(n)].parent)].leftAt});
        std::reverse(order.begin(), order.end());
        return order;
    }

    void take(std::size_t n, Expansion e)
    {
        m_result.transitions += e.transitions;
        m_result.undecided += e.undecided;
        for (const Seen& seen : e.seen)
            keep(n, seen);
        m_nodes[n].leadsTo = std::move(e.known);
        m_nodes[n].isCutOff = m_nodes[n].isCutOff || e.isCutOff;
        for (Next& next : e.next) {
            const auto [found, isNew] = m_known.try_emplace(std::move(next.key), static_cast<int>(m_nodes.size()));
            m_nodes[n].leadsTo.push_back(found->second);
            if (!isNew)
                continue;
            if (m_nodes.size() >= m_options.bound) {
                m_result.isBounded = true;
                m_known.erase(found);
                m_nodes[n].leadsTo.pop_back();
                break;
            }
            Node node;
            node.parent = static_cast<int>(n);
            node.operation = next.operation;
            node.atLimits = m_nodes[n].atLimits || next.machine != kNominal;
            node.isStartPending = next.isStartPending;
            node.isRunning = isRunning(next.state);
            node.leftAt = next.state.now;
            node.state = std::move(next.state);
            m_nodes.push_back(std::move(node));
        }
        m_nodes[n].state = {};
    }

    bool joinsSeen() const
    {
        return std::any_of(m_result.proofs.begin(), m_result.proofs.end(),
            [](const Proof& p) { return p.claim == Claim::NeverJoined && p.counter; });
    }

    /// States from which no order of operation leads to the running motor.
    void judgeDeadEnds()
    {
        const auto proof = std::find_if(
            m_result.proofs.begin(), m_result.proofs.end(), [](const Proof& p) { return p.claim == Claim::CanStart; });
        if (proof == m_result.proofs.end() || m_result.isBounded)
            return;
        std::vector<std::vector<int>> from(m_nodes.size());
        std::deque<int> open;
        std::vector<std::uint8_t> isAlive(m_nodes.size());
        for (std::size_t n = 0; n < m_nodes.size(); ++n) {
            for (int to : m_nodes[n].leadsTo)
                from[at(to)].push_back(static_cast<int>(n));
            if (m_nodes[n].isRunning || m_nodes[n].isCutOff) {
                isAlive[n] = 1;
                open.push_back(static_cast<int>(n));
            }
        }
        for (; !open.empty(); open.pop_front())
            for (int n : from[at(open.front())])
                if (!isAlive[at(n)]) {
                    isAlive[at(n)] = 1;
                    open.push_back(n);
                }
        const auto dead = std::find(isAlive.begin(), isAlive.end(), 0); // in order of operations
        if (dead == isAlive.end())
            return;
        const auto n = static_cast<int>(dead - isAlive.begin());
        proof->answer = Answer::CounterExample;
        proof->counter = CounterExample{orderTo(n), m_nodes[at(n)].leftAt, {}, m_nodes[at(n)].atLimits};
    }

    const Machines& m_machines;
    const Plant& m_plant;
    const SearchQuestion& m_question;
    const Operations& m_operations;
    const Options& m_options;
    std::stop_token m_stop;
    JoinWatch m_watch;
    std::deque<Node> m_nodes;
    std::unordered_map<std::string, int> m_known;
    Searched m_result;
};

} // namespace

std::string_view nameOf(Claim claim)
{
    constexpr std::array<std::string_view, kClaims.size()> names{"never_joined", "pause_outlasts_arc", "stays_stopped",
        "no_start_by_supply", "no_start_by_reset", "no_start_by_return", "no_start_alone", "no_start_held", "can_start",
        "no_forbidden_rest", "not_even_by_hand"};
    return names[static_cast<std::size_t>(claim)];
}

std::string_view nameOf(Answer answer)
{
    constexpr std::array<std::string_view, 3> names{"proved", "counter_example", "bounded"};
    return names[static_cast<std::size_t>(answer)];
}

Expected<Machines> machinesOf(const Circuit& circuit)
{
    auto nominal = compile(circuit);
    auto fast = compile(circuit, Timing::Fast), slow = compile(circuit, Timing::Slow);
    if (!nominal || !fast || !slow)
        return Unexpected{(!nominal ? nominal : !fast ? fast : slow).error()};
    Machines m{std::move(*nominal), {}, std::make_shared<CircuitMemory>()};
    const auto mixed = [&](const auto& isInFast, const auto& isOutFast) {
        Plant plant = *slow;
        for (std::size_t k = 0; k < plant.movers.size(); ++k) {
            if (isInFast(k))
                plant.movers[k].spec.toActuatedS = fast->movers[k].spec.toActuatedS;
            if (isOutFast(k))
                plant.movers[k].spec.toRestS = fast->movers[k].spec.toRestS;
        }
        return plant;
    };
    std::vector<std::uint8_t> isOdd;
    bool odd = false;
    for (const PlantMover& mover : m.nominal.movers) {
        odd = odd != (mover.spec.driver == MoverSpec::Driver::Coil);
        isOdd.push_back(odd && mover.spec.driver == MoverSpec::Driver::Coil);
    }
    const auto always = [](std::size_t) { return true; };
    const auto never = [](std::size_t) { return false; };
    const auto first = [&isOdd](std::size_t k) { return isOdd[k] != 0; };
    const auto second = [&isOdd](std::size_t k) { return isOdd[k] == 0; };
    m.limits.push_back(mixed(always, never));
    m.limits.push_back(mixed(never, always));
    m.limits.push_back(mixed(first, first));
    m.limits.push_back(mixed(second, second));
    m.limits.push_back(std::move(*fast));
    m.limits.push_back(std::move(*slow));
    return m;
}

std::vector<Stimulus> scriptOf(const CounterExample& example, const std::vector<Fault>& faults)
{
    std::vector<Stimulus> script;
    for (const Fault& fault : faults) {
        Stimulus s;
        s.kind = Stimulus::Kind::PutFault;
        s.fault = fault;
        script.push_back(s);
    }
    for (const Done& done : example.order)
        for (Stimulus s : done.operation.stimuli) {
            s.at = done.at;
            script.push_back(s);
        }
    return script;
}

Expected<Searched> search(const Machines& machines, const SearchQuestion& question, const Operations& operations,
    const Options& options, std::stop_token stop, const StatesListener& listener)
{
    return Searching(machines, question, operations, options, std::move(stop)).run(listener);
}

} // namespace ts::exploration
