#include "core/analysis/fault_analysis.h"

#include "core/safety/level.h"
#include "core/safety/markov.h"

namespace ts {
namespace {

constexpr double kSecondsPerYear = 8760.0 * 3600.0;

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

ComparedSubsystem compared(const faults::SubsystemBuilt& built, const safety::SubsystemLevel& level, const safety::Explanation& values, double intervalS)
{
    ComparedSubsystem c{built.name, {}, {}};
    std::vector<safety::PartCoverage> parts;
    std::vector<safety::MarkovChannel> channels;
    for (std::size_t k = 0; k < level.channels.size(); ++k) {
        double rate = 0.0, covered = 0.0;
        for (std::size_t p = 0; p < level.channels[k].parts.size(); ++p) {
            const safety::ValueIndex mttfd = level.channels[k].parts[p].mttfd;
            const auto& coverage = built.channels[k][p].built;
            if (mttfd < 0)
                return c;
            if (!coverage)
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
    if (channels.size() != 2 || built.verdict.structure == faults::Structure::OneChannel || built.verdict.structure == faults::Structure::Unknown)
        return c;
    safety::MarkovOptions options;
    if (intervalS > 0.0)
        options.checkInterval = years(std::min(intervalS / kSecondsPerYear, options.mission.si()));
    if (const auto pfhd = safety::dualChannelPfhd(channels[0], channels[1], options))
        c.pfhdPerHour = pfhd->si();
    return c;
}

} // namespace

FaultAnalysis analysedSweep(const Dossier& dossier, const SafetyFunction& function, faults::Sweep sweep)
{
    FaultAnalysis a;
    a.sweep = std::move(sweep);
    a.built = faults::asBuilt(a.sweep, function);
    const safety::FunctionLevel level = safety::functionLevel(dossier, function);
    a.checkIntervalS = demandIntervalS(function, level);
    for (std::size_t k = 0; k < a.built.subsystems.size() && k < level.subsystems.size(); ++k)
        if (!function.claim[k].encapsulated && level.subsystems[k].channels.size() == a.built.subsystems[k].channels.size())
            a.compared.push_back(compared(a.built.subsystems[k], level.subsystems[k], level.explanation, a.checkIntervalS));
    a.findings = checks::asBuiltFindings(dossier.circuit, function, a.sweep, a.built);
    return a;
}

Expected<FaultAnalysis> faultAnalysis(const Dossier& dossier, const SafetyFunction& function, const faults::SweepOptions& options,
    const faults::SweepListener& listener, std::stop_token stop)
{
    auto sweep = faults::sweep(dossier, function, options, listener, std::move(stop));
    if (!sweep)
        return Unexpected{sweep.error()};
    return analysedSweep(dossier, function, std::move(*sweep));
}

} // namespace ts
