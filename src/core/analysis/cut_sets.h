#pragma once
// The frequency of dangerous failures as the wiring really has it, from cut sets: rated parts that lose the stop alone,
// and pairs of rated parts that lose it together. A comparison figure, never a result in the standard's sense. Source:
// textbook (minimal cut sets of a fault tree), each pair by the Markov model of safety/markov.h. Wires decide about
// structure and have no rate; sets of three parts and more are not looked at.

#include "core/faults/structure.h"
#include "core/safety/level.h"

namespace ts {

/// One part alone (second -1), or two of them. A fault that is several parts' at once counts once, with the worst rate
/// among them.
struct CutSet {
    int first = 0, second = -1; ///< places in CutSets::parts
    double pfhdPerHour = 0;
    int fault = -1, mate = -1; ///< places in the sweep: one example
};

struct CutSets {
    struct Part {
        std::vector<std::pair<int, int>> places; ///< subsystem and channel of the claim: a contactor can be in several
        DeviceId device;
        std::string role;
        double mttfdYears = 0;
        double coverage = 0; ///< as built
    };
    std::vector<Part> parts; ///< of the designed subsystems, those with dangerous faults
    std::vector<CutSet> sets; ///< the largest first
    double commonCausePerHour = 0; ///< once for every subsystem with a pair across its channels: beta times the mean of
                                   ///< its channels' rates (geometric)
    double beta = 0, missionYears = 0; ///< taken for it
    double makersPerHour = 0; ///< what the encapsulated subsystems bring
    double pfhdPerHour() const;
};

/// None without second faults, or if a part that can fail dangerously has no MTTFd, or a maker's subsystem no PFHd.
/// Pure. `checkIntervalS`: at which a noticed fault is noticed; 0: not known, a year.
std::optional<CutSets> cutSets(const faults::Sweep& sweep, const faults::AsBuilt& built, const SafetyFunction& function,
    const safety::FunctionLevel& level, double checkIntervalS, const ArithmeticChoice& choice);

/// The figure and what makes it up, for window, command line and report: the sum first, then the largest sets.
struct CutSetLine {
    Message what;
    double perHour = 0;
    bool isSum = false;
};
constexpr std::size_t kShownSets = 5;
std::vector<CutSetLine> linesOf(const CutSets& sets, const faults::Sweep& sweep, const Circuit& circuit,
    double checkIntervalS, std::size_t most = kShownSets);

} // namespace ts
