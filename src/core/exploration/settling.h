#pragma once
// From one settled state to the next: an operation is done and everything that follows at once runs its course. What is
// settled, and when two settled states are the same.

#include "core/exploration/operation.h"

#include <string>

namespace ts::exploration {

/// What two settled states have in common if they are the same: travels, what drives them, modes of logics and
/// supplies, faults, knobs, each motor at rest, driven or coasting and its direction, and which delays are pending. Not
/// speeds, heat and times.
std::string situationOf(const Plant& plant, const State& state);

struct Settled {
    State state;
    Trace trace; ///< since the state before
    Pause pause = Pause::Reached; ///< or Chatter, Cancelled
};

/// Does the operation now and lets it run its course: until nothing moves, and no delay shorter than it takes a person
/// to do the next thing is pending. Waiting: until the next delay ends or the next motor comes to rest or up to speed.
Settled settledAfter(const Plant& plant, const State& before, const Operation& operation, Workspace& workspace,
    std::stop_token stop = {}, Limits::Ties ties = Limits::Ties::FirstIdFirst);

/// The same, and on until nothing but steady running or rest is left: every delay ended, every motor up to speed or at
/// rest; at most a dozen such events.
Settled steadyAfter(const Plant& plant, const State& before, const Operation& operation, Workspace& workspace,
    std::stop_token stop = {}, Limits::Ties ties = Limits::Ties::FirstIdFirst);

/// Runs on while only motors change speed; true if they are steady then and nothing else has changed.
bool runUp(const Plant& plant, Settled& settled, Workspace& workspace, std::stop_token stop = {});

/// So quick is a hand: delays below belong to what it did before.
constexpr TimeNs kHandNs = 300'000'000;
/// Longer than any delay or run-down in a machine's circuit.
constexpr TimeNs kLongestWaitNs = 600'000'000'000;

} // namespace ts::exploration
