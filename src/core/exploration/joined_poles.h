#pragma once
// Whether contactors together join two live poles of the supply: both directions, star and delta. Read from the wiring
// and the travels alone; an arc goes on conducting after its contact has opened.

#include "core/simulation/fault.h"
#include "core/simulation/plant.h"
#include "core/simulation/state.h"

#include <optional>
#include <span>

namespace ts::exploration {

/// Two contactors, or more, whose main poles must never be closed together, as movers in ascending order.
using Opposed = std::vector<int>;

/// Found from the wiring: no two of them, alone with a third that both need, would short the supply. Pure.
std::vector<Opposed> opposedContactors(const Plant& plant);

struct Join {
    Opposed contactors; ///< without one of them it would not be
    TimeNs at = 0;
    bool onlyByArc = false; ///< the pause between opening and closing was shorter than an arc may last
};

/// Looks on while contactors move. One for each list of faults; welded poles count as closed, shorts beside the
/// contactors are not looked at: they need no second contactor.
class JoinWatch {
public:
    JoinWatch(const Plant& plant, const std::vector<Fault>& faults);
    /// The first join, else the first one by arc alone, in the events that lead from one state to the next.
    std::optional<Join> read(const State& before, std::span<const Event> events, const State& after) const;

private:
    bool joins(const std::vector<std::uint8_t>& travel, const std::vector<double>& knobs) const;
    std::optional<Opposed> joinedBy(std::vector<std::uint8_t> travel, const std::vector<double>& knobs) const;

    const Plant& m_plant;
    Overlay m_overlay;
    std::vector<int> m_contactors;
};

} // namespace ts::exploration
