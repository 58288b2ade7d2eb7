#include "core/finding/finder.h"

#include "core/faults/parallel.h"
#include "core/finding/knowledge.h"
#include "core/finding/thought.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numeric>

namespace ts::finding {

using namespace measuring;

namespace {

double misread()
{
    static const double e = bandOf("misread").low;
    return e;
}

/// Of the panel's wiring: that it is dead is seen with the tester.
bool saysNothing(const Taken& t)
{
    const bool isOfWiring = isOhms(t.look.with) || t.look.with == Instrument::Eye;
    return t.look.with == Instrument::Tester || t.look.with == Instrument::Person
        || (t.in.power == Power::LockedOff && !isOfWiring);
}

double shareOfMistakes(History history)
{
    constexpr std::array<std::string_view, 3> rows{"wrong_when_wired", "wrong_when_changed", "wrong_when_ran"};
    return bandOf(rows[static_cast<std::size_t>(history)]).low;
}

} // namespace

std::string_view wordOf(History history)
{
    constexpr std::array<std::string_view, 3> words{"wired", "changed", "ran_until_now"};
    return words[static_cast<std::size_t>(history)];
}

double likelihood(const Reading& predicted, const Reading& reading)
{
    if (!differ(predicted, reading))
        return 1 - misread();
    if (!predicted.word.empty() || !reading.word.empty())
        return misread();
    const double away = std::max(predicted.low - reading.high, reading.low - predicted.high);
    const double band = std::isfinite(predicted.high) ? predicted.high - predicted.low : predicted.low / 2;
    const double beyond = band > 0 ? std::min(away / band, 1.0) : 1.0;
    return 1 - misread() - beyond * (1 - 2 * misread());
}

Finder::Finder(std::shared_ptr<const Knowledge> knowledge, History history)
    : m_knowledge(std::move(knowledge))
    , m_weight(m_knowledge->all().size())
    , m_unlisted(bandOf("not_on_list").low)
{
    const auto isWrong = [](const Deviation& d) { return d.isMistake && d.mistake.kind != MistakeKind::Missing; };
    const auto isGone = [](const Deviation& d) { return d.isMistake && d.mistake.kind == MistakeKind::Missing; };
    double mistakes = 0, faults = 0;
    for (std::size_t d = 0; d < m_knowledge->asDrawn(); ++d) {
        const Deviation& x = m_knowledge->all()[d];
        mistakes += isWrong(x) || isGone(x);
        faults += !isWrong(x); // a wire that was left out, or came loose
    }
    const double nothing = bandOf("nothing_wrong").low, rest = 1 - nothing - m_unlisted;
    const double ofMistakes = rest * shareOfMistakes(history), ofFaults = rest - ofMistakes;
    for (std::size_t d = 0; d < m_knowledge->asDrawn(); ++d) {
        const Deviation& x = m_knowledge->all()[d];
        m_weight[d] = (x.isMistake ? ofMistakes / mistakes : 0) + (isWrong(x) ? 0 : ofFaults / faults);
    }
    m_weight[m_knowledge->asDrawn()] = nothing;
    std::vector<double> together(m_weight.size()); // what joins the same is one candidate
    for (const std::size_t c : m_knowledge->candidates())
        for (const std::size_t d : m_knowledge->alike(c))
            together[c] += m_weight[d];
    m_weight = std::move(together);
}

Expected<Finder> Finder::of(const Circuit& circuit, History history)
{
    auto knowledge = Knowledge::of(circuit);
    if (!knowledge)
        return Unexpected{knowledge.error()};
    return Finder(*std::move(knowledge), history);
}

Finder Finder::of(std::shared_ptr<const Knowledge> knowledge, History history)
{
    return Finder(std::move(knowledge), history);
}

const Plant& Finder::plant() const
{
    return m_knowledge->plant();
}

std::vector<std::string> Finder::stops(std::stop_token stop) const
{
    const auto live = m_knowledge->live(std::move(stop));
    return live ? (*live)->stops : std::vector<std::string>();
}

double Finder::entropy() const
{
    double bits = m_unlisted > 0 ? -m_unlisted * std::log2(m_unlisted) : 0;
    for (const double w : m_weight)
        if (w > 0)
            bits -= w * std::log2(w);
    return bits;
}

/// Each candidate's weight times how well it explains it, and all of them a whole again.
Expected<void> Finder::weigh(const std::function<Expected<double>(std::size_t)>& likelihood,
    std::optional<double> ofOthers, const std::stop_token& stop)
{
    const auto& candidates = m_knowledge->candidates();
    std::vector<double> weight = m_weight;
    std::mutex writing;
    std::optional<Error> error;
    const auto job = [&](std::size_t k, Workspace&) {
        const std::size_t c = candidates[k];
        if (m_weight[c] <= 0)
            return;
        const auto fits = likelihood(c);
        if (fits) {
            weight[c] *= *fits;
            return;
        }
        const std::scoped_lock lock(writing);
        error = fits.error();
    };
    if (!faults::forEachIndex(candidates.size(), 0, job, stop))
        return cancelled();
    if (error)
        return Unexpected{*error};
    const double listed = std::accumulate(weight.begin(), weight.end(), 0.0);
    const double others = m_unlisted * ofOthers.value_or(m_unlisted < 1 ? listed / (1 - m_unlisted) : 1.0);
    const double sum = listed + others;
    for (double& w : weight)
        w /= sum;
    m_weight = std::move(weight);
    m_unlisted = others / sum;
    return {};
}

Expected<void> Finder::take(const Taken& taken, std::stop_token stop)
{
    return take(std::vector{taken}, std::move(stop));
}

Expected<void> Finder::take(const std::vector<Taken>& taken, std::stop_token stop)
{
    std::vector<Taken> readings;
    for (const Taken& t : taken)
        if (!saysNothing(t))
            readings.push_back(t);
    const auto looks = looksAt(*m_knowledge, readings);
    if (!looks)
        return Unexpected{looks.error()};
    const auto fits = [&](std::size_t c) -> Expected<double> {
        double all = 1;
        const auto predicted = predictedBy(*m_knowledge, c, readings, *looks, stop);
        if (!predicted)
            return Unexpected{predicted.error()};
        for (std::size_t r = 0; r < readings.size(); ++r)
            all *= likelihood((*predicted)[r], readings[r].reading);
        return all;
    };
    const auto asDrawn = predictedBy(*m_knowledge, m_knowledge->asDrawn(), readings, *looks, stop);
    if (!asDrawn)
        return Unexpected{asDrawn.error()};
    static const double usual = bandOf("not_on_list_as_drawn").low;
    double ofOthers = 1;
    for (std::size_t r = 0; r < readings.size(); ++r)
        ofOthers *= differ((*asDrawn)[r], readings[r].reading) ? 1 - usual : usual;
    if (auto weighed = weigh(fits, ofOthers, stop); !weighed)
        return weighed;
    m_taken.insert(m_taken.end(), readings.begin(), readings.end());
    return {};
}

Expected<void> Finder::tell(const std::vector<Symptom>& symptoms, std::stop_token stop)
{
    const auto fits = [&](std::size_t c) -> Expected<double> {
        double all = 1;
        for (const Symptom& s : symptoms) {
            const auto end = m_knowledge->endOf(c, s.in, stop);
            if (!end && stop.stop_requested())
                return cancelled();
            const auto is = end ? isSeen(m_knowledge->plant(), *end, s) : Expected<bool>(false);
            all *= is && *is ? 1 - misread() : misread();
        }
        return all;
    };
    return weigh(fits, std::nullopt, stop); // it was told because something was the matter
}

Expected<Finding> Finder::think(std::stop_token stop) const
{
    return Thought(*this, std::move(stop)).all();
}

} // namespace ts::finding
