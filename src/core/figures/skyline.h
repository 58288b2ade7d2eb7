#pragma once
// The skyline: one watchtower per safety function on a logarithmic scale of dangerous failures per hour. Pillars are
// the subsystems, the platform is what they carry together, a stem above it what a pillar alone could carry, the
// pennant what is required.

#include "core/figures/figure.h"

#include <array>
#include <optional>

namespace ts::figures {

struct Pillar {
    std::string name;
    std::optional<double> pfhdPerHour; ///< none: has no level
};

/// One function, in words and numbers.
struct Tower {
    std::string name, about; ///< what demands it and what it stops
    bool hasLevel = true; ///< false: equipment protection
    bool isClaimedOnly = false; ///< second faults were not tried: what stands here is the claim
    std::vector<Pillar> pillars;
    std::optional<double> pfhdPerHour; ///< of the whole; none: no level
    std::optional<double> claimedPfhdPerHour; ///< where the claim says something else
    std::string level; ///< "PL d", "no level"
    std::optional<double> requiredBelow; ///< PFHd that is needed
    bool reaches = false, misses = false; ///< neither: not known yet
    std::string needs, stop, due; ///< short facts: "PL d", "cat. 0, 41 ms", "none before 20 y"
    std::optional<std::array<std::size_t, 4>> faults; ///< safe, caught, hidden, lost; none: not tried
    std::string faultsNote; ///< what was not tried of them
    std::string words; ///< all of it, read out
};

/// Words around the towers.
struct SkylineWords {
    std::string axis; ///< "dangerous failures per hour"
    std::string needs, stop, due, faults, equipment, key;
};

constexpr double kSkylineWorst = 1e-4, kSkylineBest = 1e-10; ///< ends of the scale
constexpr std::size_t kWideTowers = 7; ///< as many stand in one row with their facts below; more stand close, in
                                       ///< several rows
constexpr double kLeastRow = 232; ///< height of a row that stands close

/// As wide as wanted, at least as high. Spots are the towers in their order. Pure.
Figure skyline(
    const std::vector<Tower>& towers, const SkylineWords& words, double width, double height, int chosen = -1);

/// One tower alone between the scale's ends. Its spot is the tower. Pure.
Figure singleTower(const Tower& tower, const SkylineWords& words, double width, double height);

} // namespace ts::figures
