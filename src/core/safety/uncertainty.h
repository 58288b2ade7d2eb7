#pragma once
// How sure a level is: the chain's inputs varied within their ranges (Monte Carlo), what drives the result, and what
// each input does by itself. The ranges are settings of the dossier (ArithmeticChoice), named in the output. Source:
// textbook (propagation of distributions, JCGM 101); the standard itself asks for no uncertainty.

#include "core/safety/chain.h"

#include <stop_token>

namespace ts::safety {

/// An input may be this many times lower or higher, evenly on a logarithmic scale. 1: exactly known.
struct Spread {
    double typicalFactor = 3.0; ///< B10d and MTTFd from tables of typical values
    double makerFactor = 1.5; ///< from sheets
    double cyclesFactor = 2.0; ///< operations per year
};
Spread spreadOf(const ArithmeticChoice&);

enum class InputKind : std::uint8_t { Reliability, Cycles };

/// One input of the chain: a device's reliability or how often it works. The same device in several channels is one
/// input.
struct ChainInput {
    DeviceId device;
    InputKind kind = InputKind::Reliability;
    bool operator==(const ChainInput&) const = default;
};

struct Uncertainty {
    std::size_t draws = 0, withLevel = 0;
    std::array<double, 5> pfhdPerHour{}; ///< of those with a level: 5, 25, 50, 75 and 95 %
    double reachedShare = 0; ///< of all draws that reach the required level
    std::array<double, 5> levelShares{}; ///< of all draws, PL a to e; the rest has none
    struct Drive {
        ChainInput input;
        double share = 0; ///< of the variation of ln PFHd that goes with this input; all together 1
    };
    std::vector<Drive> drives; ///< the largest first; empty if nothing varies
};

/// The same for the same seed, to the bit. Fails with OutOfRange for no draws, more than ten million, or a factor below
/// 1 or above 1000, and with Cancelled.
Expected<Uncertainty> uncertaintyOf(const Chain&, const Spread&, std::optional<Level> required, std::size_t draws,
    std::uint64_t seed, std::stop_token stop = {});

/// PFHd with one input ten per cent worse, over PFHd; interpolated between rows whatever the chain's method, so that
/// small changes show.
struct Sensitivity {
    ChainInput input;
    double ratio = 1;
};
/// The most sensitive first. Empty if the chain has no level.
std::vector<Sensitivity> sensitivitiesOf(const Chain&);

} // namespace ts::safety
