#pragma once
// Time: discrete events over quasi-steady phasors. Same plant, state and stimuli give the same trace, to the byte.

#include "core/simulation/electrics.h"
#include "core/simulation/plant.h"
#include "core/simulation/state.h"

#include <functional>
#include <span>
#include <stop_token>

namespace ts {

/// Something an operator or the plant does at one instant.
struct Stimulus {
    enum class Kind : std::uint8_t { Drive, SetKnob, PutFault, ClearFault };
    TimeNs at = 0;
    Kind kind = Kind::Drive;
    int slot = 0; ///< mover or knob
    std::uint8_t target = 0; ///< travel, for Drive
    bool letGo = false; ///< a hand that leaves: a latch stays where it is
    double value = 0; ///< for SetKnob
    Fault fault{};
    bool operator==(const Stimulus&) const = default;
};

/// Stimulus for an action word of a device ("press"). Fails with NotFound naming the words it knows.
Expected<Stimulus> stimulusFor(const Plant& plant, std::string_view tag, std::string_view word, TimeNs at);
/// The same, and what happens to a supply: "lose" and "return" for all its lines, "lose_l2" and "return_l2" for one,
/// "exchange" and "exchange_back" for two of three.
Expected<std::vector<Stimulus>> stimuliFor(const Plant& plant, std::string_view tag, std::string_view word, TimeNs at);
/// The words of what can happen to a supply, "lose" first; empty for any other device.
std::vector<std::string> losses(const Plant& plant, std::string_view tag);
/// True if both do the same, whenever they do it.
bool doesTheSame(const Stimulus& a, const Stimulus& b);

struct Limits {
    TimeNs until = 0; ///< advance stops there even if nothing is pending
    std::stop_token stop{};
    /// Called between instants; answers true to pause early (real time budget). May be empty.
    std::function<bool()> outOfBudget{};
    /// Whether events say what they are because of. Finding that out solves the network again; without it causes are
    /// only roughly right, and nothing else changes.
    bool findsCauses = true;
    /// Which of two movers is first where they arrive in one instant and one keeps the other from it. Equal parts are
    /// never quite equal: who judges by a run with a Race in its trace looks at the other order, too.
    enum class Ties : std::uint8_t { FirstIdFirst, LastIdFirst };
    Ties ties = Ties::FirstIdFirst;
};

/// True if equal parts raced in it: the other order may have ended otherwise.
bool hasRace(std::span<const Event> events);

enum class Pause : std::uint8_t { Reached, Chatter, OutOfBudget, Cancelled };

/// Runs until the limit. Stimuli are sorted by time and not before state.now; those after the limit are ignored.
/// The trace is only appended to. On Chatter, OutOfBudget and Cancelled the state stands at the instant reached,
/// and stimuli up to that instant have been applied.
Pause advance(const Plant& plant, State& state, std::span<const Stimulus> stimuli, const Limits& limits, Trace& trace,
    Workspace& workspace);

/// Arrivals of one mover within half a second, without an operator, that count as chatter.
constexpr int kChatterMoves = 6;
constexpr TimeNs kChatterWindowNs = 500'000'000;
/// Step of a driven motor's speed: the longest one that is accurate, down to the shortest, which is always taken.
constexpr TimeNs kShortestSpeedStepNs = 2'000'000, kLongestSpeedStepNs = 64'000'000;

} // namespace ts
