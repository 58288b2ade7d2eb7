#pragma once
// A function's fault sweep with all that follows from it: structure as built, coverage, PFHd for comparison, findings.
// Takes seconds to minutes; the window runs it in the background, the command line as `sweep`.

#include "core/checks/as_built.h"
#include "core/faults/sweep.h"
#include "core/model/dossier.h"

namespace ts {

/// One designed subsystem by the Markov model, with the coverage as built. Never a result in the standard's sense.
struct ComparedSubsystem {
    std::string name;
    std::optional<double> coverage; ///< DCavg as built (ISO 13849-1 formula E.1); none: a part's is not known
    std::optional<double> pfhdPerHour; ///< none: one channel, or something is missing
};

struct FaultAnalysis {
    faults::Sweep sweep;
    faults::AsBuilt built;
    std::vector<ComparedSubsystem> compared; ///< of the claim's designed subsystems, in its order
    double checkIntervalS = 0; ///< between two demands, at which the reset loop is looked at; 0: not known, a year is taken
    std::vector<Finding> findings;
};

/// Fails as faults::sweep does.
Expected<FaultAnalysis> faultAnalysis(const Dossier& dossier, const SafetyFunction& function, const faults::SweepOptions& options,
    const faults::SweepListener& listener = {}, std::stop_token stop = {});

/// What follows from a sweep that is there already.
FaultAnalysis analysedSweep(const Dossier& dossier, const SafetyFunction& function, faults::Sweep sweep);

} // namespace ts
