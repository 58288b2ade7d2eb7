#pragma once
// A finder's looks taken one after the other on a panel that is simulated, until it is concluded.

#include "core/finding/finder.h"
#include "core/measuring/rehearsal.h"

namespace ts::finding {

struct Measurement {
    Taken taken;
    double bits = 0; ///< by how much less is unknown than before
};

struct SearchDanger {
    std::size_t measurement = 0;
    measuring::Danger danger;
};

struct Search {
    std::vector<Measurement> measurements;
    Finding finding;
    std::vector<SearchDanger> dangers;
};

/// `finder`: with what is known before. Fails with Cancelled, and as take() does.
Expected<Search> searchOn(Finder finder, measuring::StandIn& built, std::stop_token stop = {});

/// Begun at the first step of a plan that does not read as expected, with all that was read up to there. None: all do.
/// Fails as above, and as compile() does.
Expected<std::optional<Search>> searchAfter(const Circuit& right, const measuring::TestPlan& plan,
    const measuring::Rehearsal& rehearsal, measuring::StandIn& built, std::stop_token stop = {});

/// After so many nobody would go on.
inline constexpr std::size_t kMostMeasurements = 100;

} // namespace ts::finding
