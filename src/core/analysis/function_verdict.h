#pragma once
// The verdict on one safety function, the same wherever it is shown: the worse of what is claimed and what is built,
// with the required level beside it and what is not known by name. Source: ISO 13849-1 clause 4.5.1 (PL against PLr);
// that the worse counts: decision 015.

#include "core/analysis/analysis.h"
#include "core/analysis/other_triggers.h"

namespace ts {

struct FunctionVerdict {
    /// How far it has been tried.
    enum class Extent : std::uint8_t {
        Claimed, ///< no fault was tried
        SingleFaults, ///< single faults: as built it is `atMost`
        Built ///< second faults too
    };
    enum class Answer : std::uint8_t {
        NotAsked, ///< nobody relies on it: no level
        NotReached,
        NotKnown, ///< nothing speaks against it so far, but something was not tried, not answered or not decided
        Reached
    };
    FunctionId function;
    Extent extent = Extent::Claimed;
    Answer answer = Answer::NotKnown;
    std::optional<safety::Level> required, claimed;
    std::optional<safety::Level> atMost; ///< by what single faults do; none: not tried, or no level at all
    std::optional<safety::Level> built; ///< none: not tried, no level, or not known
    bool isBuiltKnown = false; ///< false: second faults were tried in vain or not at all, only the bound is known
    std::vector<Message> notKnown; ///< by name; empty only where nothing is missing

    /// What counts: the worse of claimed and of what was found out so far. Only a bound unless `isBuiltKnown`.
    /// None: no level.
    std::optional<safety::Level> counting() const;
    bool operator==(const FunctionVerdict&) const = default;
};
std::string_view nameOf(FunctionVerdict::Extent); ///< "claimed", "single_faults", "built"
std::string_view nameOf(FunctionVerdict::Answer); ///< "not_asked", "not_reached", "not_known", "reached"

/// `built`: null before any fault was tried; what it was made of says how far. `others`: null before the function's
/// other triggers were tried with faults; the worst one counts. Pure.
FunctionVerdict verdictOf(const Dossier& dossier, const SafetyFunction& function, const safety::FunctionLevel& level,
    const FaultAnalysis* built, const OtherTriggers* others);

/// The verdict in messages, to be put into one line: what counts, what it rests on, what is needed.
Phrases phrasesOf(const FunctionVerdict& verdict);

} // namespace ts
