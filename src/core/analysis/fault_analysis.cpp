#include "core/analysis/fault_analysis.h"

#include "core/safety/level.h"
#include "core/safety/markov.h"

namespace ts {
namespace {

constexpr double kSecondsPerYear = 3600.0 * kHoursPerYear;

/// Calendar seconds between two demands, from the operations claimed for the trigger.
double demandIntervalS(const SafetyFunction& function, const safety::FunctionLevel& level)
{
    for (const auto& subsystem : level.subsystems)
        for (const auto& channel : subsystem.channels)
            for (const auto& part : channel.parts)
                if (part.device == function.trigger.device && part.operations >= 0)
                    return kSecondsPerYear / level.explanation[part.operations].si;
    return 0.0;
}

safety::FoundStructure foundStructure(faults::Structure s)
{
    switch (s) {
    case faults::Structure::Unknown:
        return safety::FoundStructure::NotTried;
    case faults::Structure::OneChannel:
        return safety::FoundStructure::OneChannel;
    case faults::Structure::Tested:
        return safety::FoundStructure::Tested;
    case faults::Structure::SingleFaultTolerated:
        return safety::FoundStructure::SingleFaultTolerated;
    case faults::Structure::AccumulationTolerated:
        return safety::FoundStructure::AccumulationTolerated;
    }
    return safety::FoundStructure::NotTried;
}

/// Which category the subsystem has as built: the claim's numbers with structure and coverage as found.
void judgeCategory(ComparedSubsystem& c, const faults::SubsystemBuilt& built, const safety::ChainSubsystem& claim,
    const safety::Readings& readings)
{
    safety::CategoryFacts facts = safety::factsOf(claim, readings);
    facts.isBuilt = true;
    facts.structure = foundStructure(built.verdict.structure);
    facts.isCoverageKnown = c.coverage.has_value();
    facts.coverage = c.coverage.value_or(0.0);
    c.isKnown = facts.isCoverageKnown && facts.structure != safety::FoundStructure::NotTried;
    c.conditions = safety::conditionsOf(claim.category, facts, readings, c.name);
    c.isMet = safety::isMet(claim.category, facts, readings);
    c.category = safety::bestCategory(facts, readings);
    if (c.category)
        if (const auto figures = safety::tableFigures(*c.category, facts, readings)) {
            c.level = figures->level;
            c.tablePfhdPerHour = figures->pfhd.si();
        }
    facts.structure = foundStructure(built.withoutExclusions);
    c.categoryWithoutExclusions = safety::bestCategory(facts, readings);
}

ComparedSubsystem compared(const faults::SubsystemBuilt& built, const safety::SubsystemLevel& level, bool isEstimated,
    const safety::Explanation& values, double intervalS, const ArithmeticChoice& choice)
{
    ComparedSubsystem c;
    c.name = built.name;
    std::vector<safety::PartCoverage> parts;
    std::vector<safety::MarkovChannel> channels;
    for (std::size_t k = 0; k < level.channels.size(); ++k) {
        double rate = 0.0, covered = 0.0;
        for (std::size_t p = 0; p < level.channels[k].parts.size(); ++p) {
            const safety::ValueIndex mttfd = level.channels[k].parts[p].mttfd;
            const auto& coverage = built.channels[k][p].built;
            if (isEstimated && coverage) {
                parts.push_back({years(1.0), *coverage}); // all of one weight
                continue;
            }
            if (mttfd < 0 && !level.channels[k].parts[p].isExcluded)
                return c;
            if (!coverage || mttfd < 0)
                continue; // no dangerous mode was found: nothing of it enters
            parts.push_back({years(values[mttfd].si), *coverage});
            rate += 1.0 / values[mttfd].si;
            covered += *coverage / values[mttfd].si;
        }
        if (rate > 0.0)
            channels.push_back({years(1.0 / rate), covered / rate});
    }
    if (const auto average = safety::averageCoverage(parts))
        c.coverage = *average;
    if (channels.size() != 2 || built.verdict.structure == faults::Structure::OneChannel
        || built.verdict.structure == faults::Structure::Tested
        || built.verdict.structure == faults::Structure::Unknown)
        return c;
    safety::MarkovOptions options;
    options.commonCause = choice.commonCauseShare;
    options.mission = years(choice.missionYears);
    if (intervalS > 0.0)
        options.checkInterval = years(std::min(intervalS / kSecondsPerYear, options.mission.si()));
    if (const auto pfhd = safety::dualChannelPfhd(channels[0], channels[1], options))
        c.pfhdPerHour = pfhd->si();
    return c;
}

} // namespace

namespace {

/// Subsystems by their makers count as given; designed ones as built.
void sumUp(FaultAnalysis& a, const safety::FunctionLevel& claimed)
{
    double sum = 0.0;
    std::vector<safety::Level> levels;
    bool isKnown = !claimed.subsystems.empty(), isCounted = false;
    auto designed = a.compared.begin();
    for (const safety::SubsystemLevel& s : claimed.subsystems) {
        std::optional<double> pfhd;
        std::optional<safety::Level> level;
        if (s.isEncapsulated) {
            level = s.level;
            if (s.pfhd >= 0)
                pfhd = claimed.explanation[s.pfhd].si;
        } else if (designed != a.compared.end() && designed->name == s.name) {
            level = designed->level;
            pfhd = designed->tablePfhdPerHour;
            ++designed;
        }
        a.pillarsPerHour.push_back(pfhd);
        const bool isLevelOnly = s.isEncapsulated && s.pfhd < 0;
        isCounted = isCounted || isLevelOnly;
        isKnown = isKnown && (pfhd || isLevelOnly) && level;
        sum += pfhd.value_or(0.0);
        levels.push_back(level.value_or(safety::Level::A));
    }
    const auto level = safety::combinedLevel(levels, isCounted ? std::nullopt : std::optional(perHour(sum)));
    if (isKnown && level)
        a.level = BuiltLevel{sum, *level};
    a.isLevelKnown = a.sweep.hasPairs
        && std::all_of(a.compared.begin(), a.compared.end(), [](const ComparedSubsystem& c) { return c.isKnown; });
}

/// The best structure that is left by what was tried.
safety::FoundStructure bestLeft(faults::Structure s)
{
    return s == faults::Structure::Unknown ? safety::FoundStructure::AccumulationTolerated : foundStructure(s);
}

/// With the coverage as claimed: as built it can only be worse.
std::optional<safety::Level> levelAtMost(const FaultAnalysis& a, const safety::FunctionLevel& claimed)
{
    if (!claimed.chain)
        return std::nullopt;
    const safety::Readings& readings = claimed.chain->readings;
    double sum = 0.0;
    std::vector<safety::Level> levels;
    bool isCounted = false;
    for (std::size_t k = 0; k < claimed.subsystems.size() && k < a.built.subsystems.size(); ++k) {
        const safety::SubsystemLevel& s = claimed.subsystems[k];
        std::optional<safety::TableFigures> figures;
        if (s.isEncapsulated) {
            isCounted = isCounted || s.pfhd < 0;
            if (s.level)
                figures = {perHour(s.pfhd >= 0 ? claimed.explanation[s.pfhd].si : 0.0), *s.level};
        } else {
            safety::CategoryFacts facts = safety::factsOf(claimed.chain->subsystems[k], readings);
            facts.isBuilt = true;
            facts.structure = bestLeft(a.built.subsystems[k].verdict.structure);
            if (const auto category = safety::bestCategory(facts, readings))
                figures = safety::tableFigures(*category, facts, readings);
        }
        if (!figures)
            return std::nullopt;
        sum += figures->pfhd.si();
        levels.push_back(figures->level);
    }
    return safety::combinedLevel(levels, isCounted ? std::nullopt : std::optional(perHour(sum)));
}

} // namespace

FaultAnalysis analysedSweep(const Dossier& dossier, const SafetyFunction& function, faults::Sweep sweep)
{
    FaultAnalysis a;
    a.sweep = std::move(sweep);
    a.built = faults::asBuilt(a.sweep, function);
    const safety::FunctionLevel level = safety::functionLevel(dossier, function);
    a.checkIntervalS = demandIntervalS(function, level);
    for (std::size_t k = 0; k < a.built.subsystems.size() && k < level.subsystems.size(); ++k) {
        if (function.claim[k].encapsulated
            || level.subsystems[k].channels.size() != a.built.subsystems[k].channels.size())
            continue;
        ComparedSubsystem c = compared(a.built.subsystems[k], level.subsystems[k], function.claim[k].estimatedOutput,
            level.explanation, a.checkIntervalS, dossier.arithmetic);
        if (level.chain)
            judgeCategory(c, a.built.subsystems[k], level.chain->subsystems[k], level.chain->readings);
        a.compared.push_back(std::move(c));
    }
    sumUp(a, level);
    a.atMost = levelAtMost(a, level);
    a.cutSets = cutSets(a.sweep, a.built, function, level, a.checkIntervalS, dossier.arithmetic);
    return a;
}

Expected<FaultAnalysis> faultAnalysis(const Dossier& dossier, const SafetyFunction& function,
    const faults::SweepOptions& options, const faults::SweepListener& listener, std::stop_token stop)
{
    auto sweep = faults::sweep(dossier, function, options, listener, std::move(stop));
    if (!sweep)
        return Unexpected{sweep.error()};
    return analysedSweep(dossier, function, std::move(*sweep));
}

} // namespace ts
