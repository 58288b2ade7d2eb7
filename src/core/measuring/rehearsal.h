#pragma once
// A plan taken step by step on a circuit that may not be the one it was made for: what each step reads, whether it
// agrees, and what would have hurt somebody on the way.

#include "core/measuring/dangers.h"

namespace ts::measuring {

struct RehearsedStep {
    std::string id;
    std::optional<Reading> reading; ///< none: it cannot be taken there
    bool agrees = false;
    bool operator==(const RehearsedStep&) const = default;
};

struct RehearsedDanger {
    std::string step;
    Danger danger;
    bool isBeforeDisagreement = false; ///< nobody would have stopped before it
    bool operator==(const RehearsedDanger&) const = default;
};

struct Rehearsal {
    std::vector<RehearsedStep> steps;
    std::vector<RehearsedDanger> dangers;
};

enum class Until : std::uint8_t { End, FirstDisagreement };

/// Fails as compile() does for either circuit, and with Cancelled. Pure.
Expected<Rehearsal> rehearsalOf(const Circuit& right, const TestPlan& plan, const Circuit& built,
    Until until = Until::End, std::stop_token stop = {});

/// Of devices, wires and what they are, without labels, places, numbers, colours and order in drawings.
std::string circuitHash(const Circuit& circuit);

} // namespace ts::measuring
