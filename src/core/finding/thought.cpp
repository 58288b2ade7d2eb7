#include "core/finding/thought.h"

#include "core/base/at.h"
#include "core/faults/parallel.h"
#include "core/finding/far_looks.h"
#include "core/finding/pairs.h"
#include "core/network/disjoint_sets.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numeric>

namespace ts::finding {

using namespace measuring;

namespace {

constexpr double kHoldsIt = 0.95; ///< share of a class that is as good as found
constexpr double kAlmostHoldsIt = 0.9; ///< nobody goes live for the rest of it
constexpr double kStillLikely = 0.02; ///< against the likeliest one: less is what one reading contradicts
constexpr double kMayBe = 0.001; ///< what is likelier must not be dangerous
constexpr std::size_t kFew = 40; ///< candidates for which every look is worked out
constexpr std::size_t kFinalists = 4; ///< looks that are worked out when there are many candidates
constexpr double kLeastBits = 0.05; ///< what says less is not worth the way
constexpr double kControlDanger = 1.5, kPowerDanger = 5.0; ///< how much dearer a live look is than a dead one
constexpr std::size_t kMostPairs = 12; ///< that are named
constexpr double kDoubted = 0.5; ///< a likelihood below contradicts

/// With the way there.
double costOf(double seconds, double danger)
{
    static const double walk = bandOf("walk").low;
    return (seconds + walk) * danger;
}

double dangerOf(Power power)
{
    return power == Power::LockedOff ? 1.0 : power == Power::MotorOff ? kControlDanger : kPowerDanger;
}

} // namespace

Expected<Looks> looksAt(const Knowledge& knowledge, const std::vector<Taken>& readings)
{
    Looks looks;
    for (const Taken& t : readings) {
        looks.emplace_back();
        if (t.in.power != Power::LockedOff)
            continue;
        auto state = deadStateOf(knowledge.plant(), t.in);
        if (!state)
            return Unexpected{state.error()};
        auto look = deadLookOf(knowledge.plant(), t.look);
        if (!look)
            return Unexpected{look.error()};
        looks.back() = Placed{*std::move(state), *std::move(look)};
    }
    return looks;
}

Expected<std::vector<Reading>> predictedBy(const Knowledge& knowledge, std::size_t candidate,
    const std::vector<Taken>& readings, const Looks& looks, const std::stop_token& stop)
{
    std::vector<Reading> predicted;
    std::map<Situation, Ohms> ohms;
    std::unique_ptr<StandIn> panel;
    for (std::size_t r = 0; r < readings.size(); ++r) {
        const Taken& t = readings[r];
        if (const auto& placed = looks[r]) {
            const auto in = ohms.try_emplace(t.in, knowledge.ohms(candidate, placed->state)).first;
            predicted.push_back(knowledge.dead(candidate, in->second, placed->state, placed->look));
            continue;
        }
        if (!panel)
            panel = knowledge.panel(candidate, stop);
        if (stop.stop_requested())
            return cancelled();
        auto reading = panel && panel->bring(t.in) ? panel->look(t.look) : Expected<Reading>(cancelled());
        predicted.push_back(reading ? expectedBy(t.look.with, *reading) : Reading{0, 0, "cannot be taken"});
    }
    return predicted;
}

Thought::Thought(const Finder& finder, std::stop_token stop)
    : m_finder(finder)
    , m_knowledge(*finder.m_knowledge)
    , m_stop(std::move(stop))
{
}

Expected<Finding> Thought::all()
{
    consider();
    m_finding.notOnTheList = m_finder.m_unlisted;
    if (m_finder.m_unlisted >= kHoldsIt) {
        m_finding.isUnexplained = m_finding.isConcluded = true;
        return withPairs();
    }
    findContradicted();
    m_finding.next = again();
    if (m_finding.next)
        return m_finding;
    if (isMany()) {
        const auto options = screened();
        if (!options)
            return Unexpected{options.error()};
        m_finding.next = best(*options);
        if (m_finding.next)
            return m_finding;
    }
    auto options = dead(looksNear());
    if (!options)
        return Unexpected{options.error()};
    addWired(*options);
    auto classes = alikeIn(*options);
    m_finding.next = best(*options);
    const auto shareOf = [&](const std::vector<std::size_t>& places) { return classOf(places).share; };
    const double held = shareOf(classes.front());
    const bool isOne = classes.front().size() == 1;
    if (isOne ? !m_finding.next && held < kAlmostHoldsIt : !m_finding.next || held >= kHoldsIt) {
        auto more = live();
        if (!more)
            return Unexpected{more.error()};
        m_finding.next = best(*more);
        options->insert(options->end(), more->begin(), more->end());
        classes = alikeIn(*options);
    }
    m_finding.isConcluded = !m_finding.next || shareOf(classes.front()) >= kHoldsIt;
    if (m_finding.isConcluded) {
        m_finding.next = confirming(*options);
        m_finding.isConcluded = !m_finding.next;
    }
    for (const auto& places : classes)
        m_finding.classes.push_back(classOf(places));
    m_finding.isUnexplained = m_finding.isConcluded
        && (m_finder.m_unlisted > m_finding.classes.front().share || isContradictedTwice());
    if (!m_finding.isUnexplained)
        return m_finding;
    m_finding.classes.clear();
    return withPairs();
}

/// Nothing alone: perhaps two at once.
Expected<Finding> Thought::withPairs()
{
    const auto pairs = pairsExplaining(m_knowledge, m_finder.taken(), kMostPairs, m_stop);
    if (!pairs)
        return Unexpected{pairs.error()};
    for (const auto& [a, b] : *pairs)
        m_finding.pairs.push_back({suspectOf(a), suspectOf(b)});
    return m_finding;
}

/// What is not contradicted more than the likeliest.
void Thought::consider()
{
    const auto& weight = m_finder.m_weight;
    m_considered = m_knowledge.candidates();
    std::stable_sort(
        m_considered.begin(), m_considered.end(), [&](std::size_t a, std::size_t b) { return weight[a] > weight[b]; });
    const double least = kStillLikely * weight[m_considered.front()];
    std::erase_if(m_considered, [&](std::size_t c) { return weight[c] < least; });
    double sum = 0;
    for (const std::size_t c : m_considered)
        sum += weight[c];
    for (const std::size_t c : m_considered)
        m_share.push_back(weight[c] / sum);
    m_finding.left = m_considered.size();
    std::set<std::string> touched;
    for (const std::size_t c : m_considered)
        touched.insert(m_knowledge.all()[c].touches.begin(), m_knowledge.all()[c].touches.end());
    m_finding.suspected = {touched.begin(), touched.end()};
}

bool Thought::isMany() const
{
    return m_considered.size() > kFew;
}

void Thought::findContradicted()
{
    const auto& taken = m_finder.taken();
    const auto looks = looksAt(m_knowledge, taken);
    const auto predicted = predictedBy(m_knowledge, m_considered.front(), taken, *looks, m_stop);
    for (std::size_t r = 0; predicted && r < taken.size(); ++r)
        if (likelihood((*predicted)[r], taken[r].reading) < kDoubted)
            m_finding.contradicted.push_back(r);
}

/// Read so whenever it was read: no mistake of who read it.
bool Thought::isContradictedTwice() const
{
    const auto& taken = m_finder.taken();
    const auto& all = m_finding.contradicted;
    return std::any_of(all.begin(), all.end(), [&](std::size_t r) {
        std::size_t times = 0, contradicting = 0;
        for (std::size_t k = 0; k < taken.size(); ++k)
            if (taken[k].in == taken[r].in && taken[k].look == taken[r].look) {
                ++times;
                contradicting += std::find(all.begin(), all.end(), k) != all.end();
            }
        return times > 1 && contradicting == times;
    });
}

/// What contradicts even the likeliest one may have been misread: the same once more.
std::optional<Proposal> Thought::again() const
{
    const auto& taken = m_finder.taken();
    for (const std::size_t r : m_finding.contradicted) {
        const auto isSame = [&](const Taken& t) { return t.in == taken[r].in && t.look == taken[r].look; };
        if (std::count_if(taken.begin(), taken.end(), isSame) > 1)
            continue;
        Option option{taken[r].in, taken[r].look, bandOf("read").low, {}, {}};
        const auto looks = looksAt(m_knowledge, {taken[r]});
        for (const std::size_t c : m_considered) {
            const auto predicted = predictedBy(m_knowledge, c, {taken[r]}, *looks, m_stop);
            if (!predicted)
                return std::nullopt;
            option.readings.push_back(predicted->front());
        }
        if (const auto right = predictedBy(m_knowledge, m_knowledge.asDrawn(), {taken[r]}, *looks, m_stop))
            option.expect = right->front();
        Proposal p = proposalOf(option, cellsOf(option.readings, m_share));
        p.isAgain = true;
        return p;
    }
    return std::nullopt;
}

std::optional<Proposal> Thought::confirming(const std::vector<Option>& options) const
{
    const std::size_t likeliest = m_considered.front();
    if (likeliest == m_knowledge.asDrawn())
        return std::nullopt;
    const auto asDrawn = [&](const Taken& t) -> std::optional<Reading> {
        const auto looks = looksAt(m_knowledge, {t});
        const auto read = looks ? predictedBy(m_knowledge, m_knowledge.asDrawn(), {t}, *looks, m_stop)
                                : Expected<std::vector<Reading>>(cancelled());
        return read ? std::optional(read->front()) : std::nullopt;
    };
    if (auto look = quickestTelling(options, asDrawn))
        return look;
    const auto& moved = m_knowledge.all()[likeliest].moved;
    for (const std::vector<MovedWire>& almost : withoutOne(moved)) {
        const auto other = [&](const Taken& t) -> std::optional<Reading> {
            const auto looks = looksAt(m_knowledge, {t});
            if (!looks || !looks->front())
                return std::nullopt;
            return m_knowledge.deadWith(likeliest, almost, looks->front()->state, looks->front()->look);
        };
        if (auto look = quickestTelling(options, other))
            return look;
    }
    return counting(moved);
}

/// Each of several wires as drawn.
std::vector<std::vector<MovedWire>> Thought::withoutOne(const std::vector<MovedWire>& moved)
{
    std::vector<std::vector<MovedWire>> others;
    for (std::size_t w = 0; moved.size() > 1 && w < moved.size(); ++w) {
        others.push_back(moved);
        others.back().erase(others.back().begin() + static_cast<std::ptrdiff_t>(w));
    }
    return others;
}

/// The ends that are not as drawn, where they should be and where they are: that a wire ends there, and not another one
/// or elsewhere on the same, is only seen. None if all of them were counted.
std::optional<Proposal> Thought::counting(const std::vector<MovedWire>& moved) const
{
    const Plant& plant = m_knowledge.plant();
    std::set<int> nodes;
    bool isCloser = false; // as drawn to the eye: not among many others
    for (const MovedWire& m : moved) {
        isCloser |= m.isBroken;
        const PlantWire& drawn = plant.wires[at(m.wire)];
        if (!m.nodes || m.isBroken || m.nodes->first != drawn.p)
            nodes.insert({drawn.p, m.nodes ? m.nodes->first : drawn.p});
        if (!m.nodes || m.isBroken || m.nodes->second != drawn.q)
            nodes.insert({drawn.q, m.nodes ? m.nodes->second : drawn.q});
    }
    const auto taken = looksAt(m_knowledge, m_finder.taken());
    const std::size_t most = isCloser ? nodes.size() : std::numeric_limits<std::size_t>::max();
    for (const auto& placed : *taken)
        if (placed && placed->look.isForWires() && placed->look.nodesA.size() <= most)
            for (const int node : placed->look.nodesA)
                nodes.erase(node);
    std::erase_if(nodes, [&plant](int node) { return !isOneTerminal(plant, node); });
    if (nodes.empty())
        return std::nullopt;
    const Option o = wiresAt({nodes.begin(), nodes.end()});
    return proposalOf(o, cellsOf(o.readings, m_share));
}

/// None if a reading has told it already, or nothing can.
std::optional<Proposal> Thought::quickestTelling(
    const std::vector<Option>& options, const std::function<std::optional<Reading>(const Taken&)>& otherwise) const
{
    const auto& taken = m_finder.taken();
    const auto looks = looksAt(m_knowledge, taken);
    const auto likeliest = predictedBy(m_knowledge, m_considered.front(), taken, *looks, m_stop);
    for (std::size_t r = 0; likeliest && r < taken.size(); ++r)
        if (const auto other = otherwise(taken[r]);
            other && differ(*other, taken[r].reading) && !differ((*likeliest)[r], taken[r].reading))
            return std::nullopt;
    const Option* quickest = nullptr;
    for (const Option& o : options) {
        const bool isQuicker = !quickest
            || costOf(o.seconds, dangerOf(o.in.power)) < costOf(quickest->seconds, dangerOf(quickest->in.power));
        if (!isQuicker || isTaken(o))
            continue;
        if (const auto other = otherwise({o.in, o.look, {}}); other && differ(o.readings.front(), *other))
            quickest = &o;
    }
    if (!quickest)
        return std::nullopt;
    return proposalOf(*quickest, cellsOf(quickest->readings, m_share));
}

/// Of how many wires are there.
double Thought::bitsByEye(const DeadLook& look) const
{
    std::map<std::vector<std::pair<int, int>>, double> shares;
    for (std::size_t k = 0; k < m_considered.size(); ++k) {
        std::vector<std::pair<int, int>> seen;
        for (const auto& more : m_knowledge.moreWires(m_considered[k]))
            if (std::find(look.nodesA.begin(), look.nodesA.end(), more.first) != look.nodesA.end())
                seen.push_back(more);
        shares[seen] += m_share[k];
    }
    double bits = 0;
    for (const auto& [seen, share] : shares)
        bits -= share * std::log2(share);
    return bits;
}

/// The looks that promise most by nothing but beep, some ohms, or open; these are worked out then.
Expected<std::vector<Thought::Option>> Thought::screened() const
{
    const Beeps* beeps = m_knowledge.beeps(m_considered, m_stop);
    if (!beeps)
        return cancelled();
    const auto& all = m_knowledge.looks();
    std::vector<std::array<double, 3>> share(all.looks.size());
    for (std::size_t l = 0; l < share.size(); ++l)
        share[l][static_cast<std::size_t>(beeps->right[l])] = 1;
    for (std::size_t k = 0; k < m_considered.size(); ++k)
        for (const Beep& o : *beeps->of[m_knowledge.electrically(m_considered[k])]) {
            share[o.look][static_cast<std::size_t>(o.path)] += m_share[k];
            share[o.look][static_cast<std::size_t>(beeps->right[o.look])] -= m_share[k];
        }
    std::vector<double> worth(all.looks.size());
    for (std::size_t l = 0; l < worth.size(); ++l) {
        for (const double p : share[l])
            worth[l] -= p > 0 && p < 1 ? p * std::log2(p) : 0.0;
        if (all.looks[l].isForWires())
            worth[l] = bitsByEye(all.looks[l]);
        const DeadState& state = all.states[all.looks[l].state];
        worth[l] /= costOf(secondsOf(state, all.looks[l]), dangerOf(Power::LockedOff));
    }
    std::vector<std::size_t> order(worth.size());
    std::iota(order.begin(), order.end(), std::size_t{0});
    const auto mid = order.begin() + static_cast<std::ptrdiff_t>(std::min(kFinalists, order.size()));
    std::partial_sort(order.begin(), mid, order.end(),
        [&](std::size_t a, std::size_t b) { return std::pair(worth[b], a) < std::pair(worth[a], b); });
    return dead({order.begin(), mid});
}

Expected<std::vector<Thought::Option>> Thought::dead(const std::vector<std::size_t>& looks) const
{
    const auto& all = m_knowledge.looks();
    std::vector<Option> options;
    std::map<std::size_t, std::vector<std::size_t>> ofState; // places in options
    for (const std::size_t l : looks) {
        const DeadLook& look = all.looks[l];
        ofState[look.state].push_back(options.size());
        options.push_back({situationOf(all.states[look.state]), lookOf(look), secondsOf(all.states[look.state], look),
            std::vector<Reading>(m_considered.size()), {}});
    }
    std::vector<std::size_t> states;
    for (const auto& [state, places] : ofState)
        states.push_back(state);
    const auto job = [&](std::size_t s, Workspace&) {
        const DeadState& state = all.states[states[s]];
        for (std::size_t k = 0; k <= m_considered.size() && !m_stop.stop_requested(); ++k) {
            const bool isRight = k == m_considered.size();
            const std::size_t c = isRight ? m_knowledge.asDrawn() : m_considered[k];
            Ohms ohms = m_knowledge.ohms(c, state);
            for (const std::size_t o : ofState[states[s]])
                (isRight ? options[o].expect : options[o].readings[k]) = m_knowledge.dead(
                    c, ohms, state, all.looks[looks[o]]);
        }
    };
    if (!faults::forEachIndex(states.size(), 0, job, m_stop))
        return cancelled();
    return options;
}

std::vector<std::size_t> Thought::looksNear() const
{
    std::vector<std::size_t> near;
    for (std::size_t l = 0; l < m_knowledge.looks().looks.size(); ++l)
        if (std::any_of(m_considered.begin(), m_considered.end(),
                [&](std::size_t c) { return m_knowledge.isNear(m_knowledge.looks().looks[l], c); }))
            near.push_back(l);
    return near;
}

/// How many wires are there: at each terminal of the wires in question, and at all of the likeliest one's at once.
void Thought::addWired(std::vector<Option>& options) const
{
    std::set<int> nodes;
    for (const std::size_t c : m_considered)
        for (const int node : nodesAt(m_knowledge.all()[c].moved))
            nodes.insert(node);
    for (const int node : nodes)
        options.push_back(wiresAt({node}));
    if (const auto all = nodesAt(m_knowledge.all()[m_considered.front()].moved); all.size() > 1)
        options.push_back(wiresAt({all.begin(), all.end()}));
}

/// The terminals on which these wires are, and on which they should be.
std::set<int> Thought::nodesAt(const std::vector<MovedWire>& moved) const
{
    std::set<int> nodes;
    for (const MovedWire& m : moved) {
        const PlantWire& w = m_knowledge.plant().wires[at(m.wire)];
        nodes.insert({w.p, w.q});
        if (m.nodes)
            nodes.insert({m.nodes->first, m.nodes->second});
    }
    std::erase_if(nodes, [this](int node) { return !isOneTerminal(m_knowledge.plant(), node); });
    return nodes;
}

Thought::Option Thought::wiresAt(const std::vector<int>& nodes) const
{
    const DeadState& rest = m_knowledge.looks().states.front();
    DeadLook look;
    look.nodesA = nodes;
    for (const int node : nodes)
        look.seen.push_back(m_knowledge.plant().nameOfNode(node));
    Option o{situationOf(rest), lookOf(look), secondsOf(rest, look), {}, {}};
    const auto seen = [&](std::size_t c) { return m_knowledge.deadWith(c, m_knowledge.all()[c].moved, rest, look); };
    for (const std::size_t c : m_considered)
        o.readings.push_back(seen(c));
    o.expect = seen(m_knowledge.asDrawn());
    return o;
}

/// Live steps of a plan; none that is dangerous under anything that may be.
Expected<std::vector<Thought::Option>> Thought::live() const
{
    const auto steps = m_knowledge.live(m_stop);
    if (!steps)
        return Unexpected{steps.error()};
    const LiveSteps& live = **steps;
    std::vector<Option> options;
    for (std::size_t s = 0; s < live.steps.size(); ++s)
        options.push_back({live.steps[s].in, live.steps[s].look, live.steps[s].seconds,
            std::vector<Reading>(m_considered.size()), live.steps[s].expect});
    std::vector<std::size_t> mayBe;
    for (const std::size_t c : m_knowledge.candidates())
        if (m_finder.m_weight[c] > kMayBe)
            mayBe.push_back(c);
    for (const std::size_t c : m_considered)
        if (m_finder.m_weight[c] <= kMayBe)
            mayBe.push_back(c);
    std::vector<std::uint8_t> isDangerous(options.size());
    std::mutex writing;
    const auto job = [&](std::size_t n, Workspace&) {
        const auto panel = m_knowledge.panel(mayBe[n], m_stop);
        const auto place = std::find(m_considered.begin(), m_considered.end(), mayBe[n]) - m_considered.begin();
        for (std::size_t s = 0; panel && s < options.size(); ++s) {
            if (!panel->bring(options[s].in))
                return; // cancelled
            const bool isUnsafe = dangerIn(*panel, m_knowledge.plant(), live.trails[s], live.stops).has_value();
            const auto reading = panel->look(options[s].look);
            const std::scoped_lock lock(writing);
            isDangerous[s] |= isUnsafe;
            if (at(static_cast<int>(place)) < m_considered.size())
                options[s].readings[at(static_cast<int>(place))] = reading ? expectedBy(options[s].look.with, *reading)
                                                                           : Reading{0, 0, "cannot be taken"};
        }
    };
    if (!faults::forEachIndex(mayBe.size(), 0, job, m_stop))
        return cancelled();
    std::vector<Option> harmless;
    for (std::size_t s = 0; s < options.size(); ++s)
        if (!isDangerous[s])
            harmless.push_back(std::move(options[s]));
    return harmless;
}

bool Thought::isTaken(const Option& o) const
{
    return std::any_of(m_finder.taken().begin(), m_finder.taken().end(),
        [&](const Taken& t) { return t.in == o.in && t.look == o.look; });
}

std::optional<Proposal> Thought::best(const std::vector<Option>& options) const
{
    const Option* most = nullptr;
    double worth = 0;
    for (const Option& o : options) {
        const double bits = bitsOf(cellsOf(o.readings, m_share), m_share);
        const double each = bits / costOf(o.seconds, dangerOf(o.in.power));
        if (bits < kLeastBits || each <= worth || isTaken(o))
            continue;
        most = &o;
        worth = each;
    }
    return most ? std::optional(proposalOf(*most, cellsOf(most->readings, m_share))) : std::nullopt;
}

Proposal Thought::proposalOf(const Option& o, const Cells& cells) const
{
    Proposal p{o.in, o.look, bitsOf(cells, m_share), o.seconds, false, o.expect, {}};
    for (const Cell& c : cells.all)
        p.outcomes.push_back({c.reading, c.share, {}});
    for (std::size_t k = 0; k < m_considered.size(); ++k)
        for (const std::size_t c : cells.of[k])
            p.outcomes[c].candidates.push_back(suspectOf(m_considered[k]));
    constexpr double kAlike = 1e9; // shares that differ by rounding are in the order of what is read
    const auto place = [](const Outcome& read) {
        return std::tuple(-std::llround(read.share * kAlike), read.reading.low, read.reading.word);
    };
    std::stable_sort(p.outcomes.begin(), p.outcomes.end(),
        [&place](const Outcome& a, const Outcome& b) { return place(a) < place(b); });
    return p;
}

/// Those that no look tells apart, by place; the likeliest class first.
std::vector<std::vector<std::size_t>> Thought::alikeIn(const std::vector<Option>& options) const
{
    const std::size_t count = m_considered.size();
    network::DisjointSets joined(static_cast<int>(count));
    for (std::size_t a = 0; a < count; ++a)
        for (std::size_t b = a + 1; b < count; ++b)
            if (std::none_of(options.begin(), options.end(),
                    [&](const Option& o) { return differ(o.readings[a], o.readings[b]); }))
                joined.join(static_cast<int>(a), static_cast<int>(b));
    std::map<int, std::vector<std::size_t>> by;
    for (std::size_t k = 0; k < count; ++k)
        by[joined.find(static_cast<int>(k))].push_back(k);
    std::vector<std::vector<std::size_t>> classes;
    for (auto& [first, places] : by)
        classes.push_back(std::move(places));
    std::stable_sort(classes.begin(), classes.end(),
        [&](const auto& a, const auto& b) { return classOf(a).share > classOf(b).share; });
    return classes;
}

Class Thought::classOf(const std::vector<std::size_t>& places) const
{
    Class c;
    for (const std::size_t p : places) {
        c.share += m_finder.m_weight[m_considered[p]];
        c.candidates.push_back(suspectOf(m_considered[p]));
        c.alike.emplace_back();
        for (const std::size_t d : m_knowledge.alike(m_considered[p]))
            if (d != m_considered[p])
                c.alike.back().push_back(suspectOf(d));
    }
    return c;
}

Suspect Thought::suspectOf(std::size_t deviation) const
{
    const Deviation& x = m_knowledge.all()[deviation];
    if (deviation == m_knowledge.asDrawn())
        return {};
    return {x.id, !x.mistake.id.empty() ? std::optional(x.mistake) : std::nullopt};
}

} // namespace ts::finding
