#include "core/finding/pairs.h"

#include "core/faults/parallel.h"

#include <algorithm>
#include <array>
#include <mutex>

namespace ts::finding {

using namespace measuring;

namespace {

constexpr double kExplains = 0.5; ///< a likelihood from there on
constexpr std::size_t kMostOfOne = 50; ///< candidates that explain one reading
constexpr std::size_t kMostTried = 1500; ///< pairs

/// A reading on the locked-off panel.
struct DeadReading {
    Placed at;
    Reading reading;
    bool isAsDrawn = false;
};

class PairSearch {
public:
    PairSearch(const Knowledge& knowledge, std::vector<DeadReading> readings, std::stop_token stop)
        : m_knowledge(knowledge)
        , m_readings(std::move(readings))
        , m_stop(std::move(stop))
    {
    }

    Expected<std::vector<std::array<std::size_t, 2>>> all(std::size_t most)
    {
        if (!findExplained())
            return cancelled();
        std::vector<std::array<std::size_t, 2>> tried = likelyPairs();
        std::vector<std::uint8_t> explains(tried.size());
        const auto job = [&](std::size_t k, Workspace&) { explains[k] = explain(tried[k]); };
        if (!faults::forEachIndex(tried.size(), 0, job, m_stop))
            return cancelled();
        std::vector<std::array<std::size_t, 2>> found;
        for (std::size_t k = 0; k < tried.size() && found.size() < most; ++k)
            if (explains[k])
                found.push_back(tried[k]);
        return found;
    }

private:
    const Deviation& deviation(std::size_t candidate) const { return m_knowledge.all()[candidate]; }

    /// By candidate: which of the readings that are not as drawn it would read so.
    bool findExplained()
    {
        const auto& candidates = m_knowledge.candidates();
        m_explained.resize(candidates.size());
        const auto job = [&](std::size_t k, Workspace&) {
            for (std::size_t r = 0; r < m_readings.size(); ++r) {
                if (m_readings[r].isAsDrawn)
                    continue;
                const Placed& at = m_readings[r].at;
                Ohms ohms = m_knowledge.ohms(candidates[k], at.state);
                if (likelihood(m_knowledge.dead(candidates[k], ohms, at.state, at.look), m_readings[r].reading)
                    >= kExplains)
                    m_explained[k].push_back(r);
            }
        };
        return faults::forEachIndex(candidates.size(), 0, job, m_stop);
    }

    /// One that explains the first deviating reading, with one that explains what is left.
    std::vector<std::array<std::size_t, 2>> likelyPairs() const
    {
        const auto& candidates = m_knowledge.candidates();
        std::vector<std::array<std::size_t, 2>> pairs;
        const auto first = std::find_if(
            m_readings.begin(), m_readings.end(), [](const DeadReading& r) { return !r.isAsDrawn; });
        if (first == m_readings.end())
            return pairs;
        const auto deviating = static_cast<std::size_t>(first - m_readings.begin());
        for (const std::size_t a : explaining(deviating)) {
            const auto left = std::find_if(m_readings.begin(), m_readings.end(), [&](const DeadReading& r) {
                const auto place = static_cast<std::size_t>(&r - m_readings.data());
                return !r.isAsDrawn
                    && std::find(m_explained[a].begin(), m_explained[a].end(), place) == m_explained[a].end();
            });
            if (left == m_readings.end())
                continue; // what is wrong with it is elsewhere: a pair would be any
            for (const std::size_t b : explaining(static_cast<std::size_t>(left - m_readings.begin())))
                if (a != b && pairs.size() < kMostTried && canBeTogether(candidates[a], candidates[b]))
                    pairs.push_back({candidates[a], candidates[b]});
        }
        return pairs;
    }

    std::vector<std::size_t> explaining(std::size_t reading) const
    {
        std::vector<std::size_t> places;
        for (std::size_t k = 0; k < m_explained.size() && places.size() < kMostOfOne; ++k)
            if (std::find(m_explained[k].begin(), m_explained[k].end(), reading) != m_explained[k].end())
                places.push_back(k);
        return places;
    }

    bool canBeTogether(std::size_t a, std::size_t b) const
    {
        const Deviation &x = deviation(a), &y = deviation(b);
        const auto moves = [&y](const MovedWire& m) {
            return std::any_of(y.moved.begin(), y.moved.end(), [&m](const MovedWire& o) { return o.wire == m.wire; });
        };
        return !(x.other && y.other) && std::none_of(x.moved.begin(), x.moved.end(), moves);
    }

    bool explain(const std::array<std::size_t, 2>& pair) const
    {
        const Deviation &x = deviation(pair[0]), &y = deviation(pair[1]);
        Deviation both = x.other ? x : y;
        both.moved = x.moved;
        both.moved.insert(both.moved.end(), y.moved.begin(), y.moved.end());
        std::vector<Fault> faults;
        for (const Deviation* d : {&x, &y})
            if (d->fault)
                faults.push_back(*d->fault);
        const Overlay overlay = overlayOf(m_knowledge.plant(), faults);
        return std::all_of(m_readings.begin(), m_readings.end(), [&](const DeadReading& r) {
            return !m_stop.stop_requested() && likelihood(predicted(both, overlay, r.at), r.reading) >= kExplains;
        });
    }

    Reading predicted(const Deviation& built, const Overlay& overlay, const Placed& at) const
    {
        const Plant& right = m_knowledge.plant();
        if (at.look.isForWires())
            return wiresSeen(right, at.look.seen, at.look.nodesA, movedIn(at.state, built));
        Ohms ohms = ohmsIn(right, at.state, built, overlay);
        return expectedBy(lookOf(at.look).with, ohms.lowest(at.look.nodesA, at.look.nodesB));
    }

    const Knowledge& m_knowledge;
    std::vector<DeadReading> m_readings;
    std::stop_token m_stop;
    std::vector<std::vector<std::size_t>> m_explained; ///< by place in candidates: readings
};

} // namespace

Expected<std::vector<std::array<std::size_t, 2>>> pairsExplaining(
    const Knowledge& knowledge, const std::vector<Taken>& readings, std::size_t most, std::stop_token stop)
{
    const auto looks = looksAt(knowledge, readings);
    const auto asDrawn = looks ? predictedBy(knowledge, knowledge.asDrawn(), readings, *looks, stop)
                               : Expected<std::vector<Reading>>(Unexpected{looks.error()});
    if (!asDrawn)
        return Unexpected{asDrawn.error()};
    std::vector<DeadReading> dead;
    for (std::size_t r = 0; r < readings.size(); ++r)
        if ((*looks)[r])
            dead.push_back({*(*looks)[r], readings[r].reading, !differ((*asDrawn)[r], readings[r].reading)});
    return PairSearch(knowledge, std::move(dead), std::move(stop)).all(most);
}

} // namespace ts::finding
