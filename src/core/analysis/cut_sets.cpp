#include "core/analysis/cut_sets.h"

#include "core/base/at.h"
#include "core/safety/markov.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numeric>
#include <set>

namespace ts {
namespace {

/// The parts that matter, and which faults of the sweep are theirs.
struct Rated {
    std::vector<CutSets::Part> parts;
    std::multimap<int, int> partsOfFault;
};

std::optional<Rated> ratedParts(const faults::Sweep& sweep, const faults::AsBuilt& built,
    const SafetyFunction& function, const safety::FunctionLevel& level)
{
    Rated rated;
    for (std::size_t s = 0; s < function.claim.size(); ++s)
        for (std::size_t c = 0; c < function.claim[s].channels.size(); ++c)
            for (std::size_t p = 0; p < function.claim[s].channels[c].parts.size(); ++p) {
                const ClaimedPart& part = function.claim[s].channels[c].parts[p];
                const safety::PartLevel& figures = level.subsystems[s].channels[c].parts[p];
                const auto& coverage = built.subsystems[s].channels[c][p].built;
                if (!coverage || figures.isExcluded)
                    continue; // no dangerous fault of it was found
                if (figures.mttfd < 0)
                    return std::nullopt;
                const std::pair<int, int> in{static_cast<int>(s), static_cast<int>(c)};
                const auto same = std::find_if(rated.parts.begin(), rated.parts.end(), [&part](const CutSets::Part& x) {
                    return x.device == part.device && x.role == elementWords(part.element);
                });
                if (same != rated.parts.end()) {
                    same->places.push_back(in);
                    same->coverage = std::min(same->coverage, *coverage);
                    continue;
                }
                const int place = static_cast<int>(rated.parts.size());
                for (std::size_t k = 0; k < sweep.faults.size(); ++k)
                    if (!sweep.faults[k].isExcluded && faults::isOfPart(sweep.faults[k], part))
                        rated.partsOfFault.emplace(static_cast<int>(k), place);
                rated.parts.push_back(
                    {{in}, part.device, elementWords(part.element), level.explanation[figures.mttfd].si, *coverage});
            }
    return rated;
}

class Adder {
public:
    Adder(CutSets& result, const Rated& rated, double checkIntervalS, const ArithmeticChoice& choice)
        : m_result(result)
        , m_rated(rated)
        , m_beta(choice.commonCauseShare)
    {
        m_options.commonCause = 0.0; // counted once for the channels, not for every pair
        m_options.mission = years(choice.missionYears);
        if (checkIntervalS > 0.0)
            m_options.checkInterval = years(std::min(checkIntervalS / 3600.0 / kHoursPerYear, choice.missionYears));
    }

    void addAlone(const faults::Sweep& sweep)
    {
        std::vector<std::pair<std::vector<int>, int>> alone; // parts, fault
        for (std::size_t k = 0; k < sweep.faults.size(); ++k) {
            const auto [from, to] = m_rated.partsOfFault.equal_range(static_cast<int>(k));
            if (from == to
                || std::none_of(sweep.outcomes[k].runs.begin(), sweep.outcomes[k].runs.end(),
                    [](const faults::RunResult& r) { return faults::isStopLost(r.loss); }))
                continue;
            alone.push_back({{}, static_cast<int>(k)});
            for (auto it = from; it != to; ++it)
                alone.back().first.push_back(it->second);
        }
        // What is one part's alone first: its whole rate counts, and then it is not counted again with others.
        std::stable_sort(
            alone.begin(), alone.end(), [](const auto& a, const auto& b) { return a.first.size() < b.first.size(); });
        for (const auto& [parts, fault] : alone) {
            const auto rate = [&](int p) {
                return (1.0 - partAt(p).coverage) / (partAt(p).mttfdYears * kHoursPerYear);
            };
            const bool isCounted = std::any_of(parts.begin(), parts.end(), [&](int p) { return m_alone.contains(p); });
            const int worst = *std::max_element(
                parts.begin(), parts.end(), [&](int a, int b) { return rate(a) < rate(b); });
            if (!isCounted)
                m_result.sets.push_back({worst, -1, rate(worst), fault, -1});
            m_alone.insert(parts.begin(), parts.end());
        }
    }

    void addPairs(const faults::Sweep& sweep)
    {
        for (const faults::FaultPair& pair : sweep.pairs)
            if (faults::isStopLost(pair.run.loss))
                for (auto [a, endA] = m_rated.partsOfFault.equal_range(pair.first); a != endA; ++a)
                    for (auto [b, endB] = m_rated.partsOfFault.equal_range(pair.second); b != endB; ++b)
                        addPair(std::min(a->second, b->second), std::max(a->second, b->second), pair);
    }

    void addCommonCauses()
    {
        std::map<int, std::map<int, std::set<int>>> across; // by subsystem, by channel: parts
        for (const CutSet& set : m_result.sets)
            if (set.second >= 0)
                for (const auto& [subsystem, channel] : partAt(set.first).places)
                    for (const auto& [otherSubsystem, otherChannel] : partAt(set.second).places)
                        if (subsystem == otherSubsystem && channel != otherChannel) {
                            across[subsystem][channel].insert(set.first);
                            across[subsystem][otherChannel].insert(set.second);
                        }
        for (const auto& [subsystem, channels] : across) {
            double product = 1.0;
            for (const auto& [channel, parts] : channels)
                product *= std::accumulate(parts.begin(), parts.end(), 0.0,
                    [&](double sum, int p) { return sum + 1.0 / (partAt(p).mttfdYears * kHoursPerYear); });
            m_result.commonCausePerHour += m_beta * std::pow(product, 1.0 / static_cast<double>(channels.size()));
        }
    }

    void finish()
    {
        std::stable_sort(m_result.sets.begin(), m_result.sets.end(),
            [](const CutSet& a, const CutSet& b) { return a.pfhdPerHour > b.pfhdPerHour; });
    }

private:
    const CutSets::Part& partAt(int place) const { return m_rated.parts[at(place)]; }

    void addPair(int first, int second, const faults::FaultPair& pair)
    {
        if (first == second || m_alone.contains(first) || m_alone.contains(second)
            || !m_pairs.insert({first, second}).second)
            return; // one alone is enough
        const auto channel = [&](int p) {
            return safety::MarkovChannel{years(partAt(p).mttfdYears / (1.0 - m_beta)), partAt(p).coverage};
        };
        if (const auto pfhd = safety::dualChannelPfhd(channel(first), channel(second), m_options))
            m_result.sets.push_back({first, second, pfhd->si(), pair.first, pair.second});
    }

    CutSets& m_result;
    const Rated& m_rated;
    double m_beta;
    safety::MarkovOptions m_options;
    std::set<int> m_alone; ///< parts of which one fault is enough
    std::set<std::pair<int, int>> m_pairs;
};

} // namespace

double CutSets::pfhdPerHour() const
{
    return std::accumulate(sets.begin(), sets.end(), commonCausePerHour + makersPerHour,
        [](double sum, const CutSet& s) { return sum + s.pfhdPerHour; });
}

std::optional<CutSets> cutSets(const faults::Sweep& sweep, const faults::AsBuilt& built, const SafetyFunction& function,
    const safety::FunctionLevel& level, double checkIntervalS, const ArithmeticChoice& choice)
{
    if (!sweep.hasPairs || function.claim.empty() || level.subsystems.size() != function.claim.size()
        || built.subsystems.size() != function.claim.size())
        return std::nullopt;
    for (std::size_t s = 0; s < function.claim.size(); ++s)
        if (level.subsystems[s].channels.size() != function.claim[s].channels.size()
            || built.subsystems[s].channels.size() != function.claim[s].channels.size())
            return std::nullopt;
    CutSets result;
    result.beta = choice.commonCauseShare;
    result.missionYears = choice.missionYears;
    for (const safety::SubsystemLevel& s : level.subsystems)
        if (s.isEncapsulated) {
            if (s.pfhd < 0)
                return std::nullopt;
            result.makersPerHour += level.explanation[s.pfhd].si;
        }
    const auto rated = ratedParts(sweep, built, function, level);
    if (!rated)
        return std::nullopt;
    Adder adder(result, *rated, checkIntervalS, choice);
    adder.addAlone(sweep);
    adder.addPairs(sweep);
    adder.addCommonCauses();
    adder.finish();
    result.parts = rated->parts;
    return result;
}

std::vector<CutSetLine> linesOf(
    const CutSets& sets, const faults::Sweep& sweep, const Circuit& circuit, double checkIntervalS, std::size_t most)
{
    const auto nameOf = [&](int place) {
        const CutSets::Part& part = sets.parts[at(place)];
        const Device* device = circuit.device(part.device);
        return (device ? device->tag : "?") + (part.role.empty() ? "" : " " + part.role);
    };
    std::vector<CutSetLine> lines{{message(checkIntervalS > 0.0 ? "cut_sets.at_every_demand" : "cut_sets.once_a_year",
                                       {Measured{sets.missionYears, "y"}}),
        sets.pfhdPerHour(), true}};
    double rest = 0.0;
    for (std::size_t k = 0; k < sets.sets.size(); ++k) {
        const CutSet& set = sets.sets[k];
        if (k >= most)
            rest += set.pfhdPerHour;
        else if (set.second < 0)
            lines.push_back({message("cut_sets.alone",
                                 {nameOf(set.first), Phrases{faults::messageOf(sweep.faults[at(set.fault)], circuit)}}),
                set.pfhdPerHour});
        else
            lines.push_back({message("cut_sets.pair", {nameOf(set.first), nameOf(set.second)}), set.pfhdPerHour});
    }
    if (sets.sets.size() > most)
        lines.push_back({message("cut_sets.others", {std::to_string(sets.sets.size() - most)}), rest});
    if (sets.commonCausePerHour > 0.0)
        lines.push_back({message("cut_sets.common_cause", {Measured{sets.beta, "%"}}), sets.commonCausePerHour});
    if (sets.makersPerHour > 0.0)
        lines.push_back({message("cut_sets.makers"), sets.makersPerHour});
    return lines;
}

} // namespace ts
