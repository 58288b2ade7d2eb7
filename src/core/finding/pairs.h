#pragma once
// Two things at once: where nothing alone explains what was read, the pairs that do. Internal to finding/.

#include "core/finding/thought.h"

namespace ts::finding {

/// Pairs of candidates with which every reading on the locked-off panel is as it was read, so many at most. Symptoms
/// and live readings are not tried with them. Empty: none was found among those that explain one reading each.
Expected<std::vector<std::array<std::size_t, 2>>> pairsExplaining(
    const Knowledge& knowledge, const std::vector<Taken>& readings, std::size_t most, std::stop_token stop);

} // namespace ts::finding
