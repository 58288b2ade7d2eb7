#pragma once
// A function's fault sweep with all that follows from it: structure as built, coverage, PFHd for comparison. What is
// found fault with is in checks/as_built.h.

#include "core/analysis/cut_sets.h"
#include "core/faults/structure.h"
#include "core/faults/sweep.h"
#include "core/model/dossier.h"
#include "core/safety/category.h"

namespace ts {

/// One designed subsystem by the Markov model, with the coverage as built. Never a result in the standard's sense.
struct ComparedSubsystem {
    std::string name;
    std::optional<double> coverage; ///< DCavg as built (ISO 13849-1 formula E.1); none: a part's is not known
    std::optional<double> pfhdPerHour; ///< none: one channel, or something is missing
    std::vector<safety::Condition> conditions; ///< of the claimed category, with the structure and the coverage as
                                               ///< built
    safety::Met isMet = safety::Met::Unknown; ///< all of them
    std::optional<safety::Category> category; ///< the best one of which all conditions are met as built; none: none is,
                                              ///< or something is not known
    std::optional<safety::Level> level; ///< with that category
    std::optional<double> tablePfhdPerHour; ///< with that category, by the table
    std::optional<safety::Category> categoryWithoutExclusions; ///< if no fault were excluded
    bool isKnown = false; ///< structure and coverage were found out
};

/// The whole function as built: the sum of its subsystems, and never better than the lowest of them.
struct BuiltLevel {
    double pfhdPerHour = 0;
    safety::Level level = safety::Level::A;
};

struct FaultAnalysis {
    faults::Sweep sweep;
    faults::AsBuilt built;
    std::vector<ComparedSubsystem> compared; ///< of the claim's designed subsystems, in its order
    double checkIntervalS = 0; ///< between two demands, at which the reset loop is looked at; 0: not known, a year is
                               ///< taken
    std::optional<BuiltLevel> level; ///< none: a subsystem has no category as built, or something is not known
    bool isLevelKnown = false; ///< false: `level` is none because something is not known
    std::optional<safety::Level> atMost; ///< what no second fault could make better: the best structure that the single
                                         ///< faults leave, with the coverage as claimed
    std::vector<std::optional<double>> pillarsPerHour; ///< by subsystem of the claim: PFHd as built by the table, or
                                                       ///< the maker's
    std::optional<CutSets> cutSets; ///< for comparison; none: second faults were not tried, or a number is missing
};

/// Fails as faults::sweep does.
Expected<FaultAnalysis> faultAnalysis(const Dossier& dossier, const SafetyFunction& function,
    const faults::SweepOptions& options, const faults::SweepListener& listener = {}, std::stop_token stop = {});

/// What follows from a sweep that is there already.
FaultAnalysis analysedSweep(const Dossier& dossier, const SafetyFunction& function, faults::Sweep sweep);

} // namespace ts
