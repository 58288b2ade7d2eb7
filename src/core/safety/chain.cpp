#include "core/safety/chain.h"

#include "core/base/check.h"
#include "core/library/table.h"

#include <algorithm>
#include <cmath>

namespace ts::safety {
namespace {

/// 1 / sum(1 / MTTFd). Zero if nothing is left.
double joined(const std::vector<ChainPart>& parts)
{
    double rate = 0.0;
    for (const ChainPart& p : parts)
        if (!p.isExcluded)
            rate += 1.0 / p.mttfd();
    return rate > 0.0 ? 1.0 / rate : 0.0;
}

double averageCoverage(const ChainSubsystem& s, const Readings& r)
{
    double covered = 0.0, all = 0.0;
    for (const auto& channel : s.channels)
        for (const ChainPart& p : channel) {
            if (p.isExcluded || (!p.isTested && !r.untestedAsZero))
                continue;
            covered += p.coverage / p.mttfd();
            all += 1.0 / p.mttfd();
        }
    return all > 0.0 ? covered / all : 0.0;
}

} // namespace

Readings readingsOf(const ArithmeticChoice& c)
{
    Readings r;
    r.method = c.method;
    r.classOfJoined = c.differentChannels == DifferentChannels::Joined;
    r.testAgainstCapped = c.testEquipment == TestEquipment::Capped;
    r.untestedAsZero = c.untestedParts == UntestedParts::AsZero;
    r.categoryBReadsOne = c.categoryBAbove30 == CategoryBAbove30::Category1Column;
    r.tolerance = c.toleranceOnLimits ? 0.05 : 0.0;
    return r;
}

CategoryFacts factsOf(const ChainSubsystem& s, const Readings& r)
{
    CategoryFacts f = s.facts;
    f.channels = static_cast<int>(s.channels.size());
    for (std::size_t k = 0; k < s.channels.size(); ++k)
        f.mttfdYears[k] = joined(s.channels[k]);
    f.coverage = averageCoverage(s, r);
    f.testMttfdYears = joined(s.test);
    return f;
}

TableFigures estimatedFigures(Category category)
{
    const Table& table = outputPartsTable();
    const auto row = rowOf(table, nameOf(category));
    TS_CHECK(row);
    return {perHour(*table.number(*row, "pfhd_per_h")), *levelNamed(table.cell(*row, "pl"))};
}

std::optional<TableFigures> tableFigures(Category category, const CategoryFacts& f, const Readings& r)
{
    if (f.isEstimated)
        return estimatedFigures(category);
    const auto pfhd = tablePfhd(
        category, coverageClass(f.coverage, r.tolerance), joinedMttfd(category, f), r.method, r.categoryBReadsOne);
    if (!pfhd)
        return std::nullopt;
    const bool isRarelyTested = category == Category::Two && f.testsPerDemand && *f.testsPerDemand < kFullTestRate;
    TableFigures t{perHour(pfhd->si() * (isRarelyTested ? kReducedTestFactor : 1.0)), Level::A};
    const auto level = levelOf(t.pfhd);
    if (!level)
        return std::nullopt;
    t.level = *level;
    if (category == Category::B) // clause 6.2.3
        t.level = lower(t.level, Level::B);
    if (category == Category::One || (category == Category::Two && f.testOnlyWarns)) // clauses 6.2.4, 6.2.5
        t.level = lower(t.level, Level::C);
    if (category == Category::Two) // clause 6.2.5
        t.level = lower(t.level, Level::D);
    return t;
}

SubsystemFigures figuresOf(const ChainSubsystem& s, const Readings& r)
{
    SubsystemFigures result;
    if (s.makerPfhd || s.isLevelOnly) {
        result.pfhd = s.makerPfhd.value_or(PerHour{});
        result.level = s.makerLevel;
        return result;
    }
    result.facts = factsOf(s, r);
    result.mttfdYears = joinedMttfd(s.category, result.facts).si();
    if (isMet(s.category, result.facts, r) != Met::Yes)
        return result;
    if (const auto t = tableFigures(s.category, result.facts, r)) {
        result.pfhd = t->pfhd;
        result.level = s.isAtMostD ? lower(t->level, Level::D) : t->level;
    }
    return result;
}

ChainFigures figuresOf(const Chain& chain)
{
    ChainFigures sum;
    std::vector<Level> levels;
    bool isCounted = false;
    for (const ChainSubsystem& s : chain.subsystems) {
        const SubsystemFigures f = figuresOf(s, chain.readings);
        if (!f.level)
            return {};
        sum.pfhd = sum.pfhd + f.pfhd;
        levels.push_back(*f.level);
        isCounted = isCounted || s.isLevelOnly;
    }
    sum.level = combinedLevel(levels, isCounted ? std::nullopt : std::optional(sum.pfhd));
    return sum;
}

} // namespace ts::safety
