#pragma once
// One run through a cycle, cut into stretches by frames: what the healthy circuit did, or the circuit with faults.
// A run with faults is forked from another passage at the moment of the fault, and takes over the other's stretches
// again where its state is the same and its faults change nothing. That changes speed only: held by a test against
// plain runs.

#include "core/faults/cycle.h"

#include <memory>
#include <span>

namespace ts::faults {

/// Between two frames. Shared by all passages that went the same way.
struct Stretch {
    std::vector<Event> events;
    std::vector<std::uint8_t> visited; ///< by mover: set of travels it had, one bit each
};

/// Where all passages of a cycle are looked at: the same instants for every one. Between: only while motors run up.
/// Compare: not judged, but what differed before may be the same by then.
enum class Look : std::uint8_t { Between, Compare, BeforeStart, Started, BeforeDemand, Released, Restart, End };
struct FrameTime {
    TimeNs at = 0;
    Look look = Look::Between;
    int go = 0; ///< 0 or 1; 2: the last start-up
};
std::vector<FrameTime> frameTimes(const Cycle& cycle);

struct ForkedRun {
    std::vector<Fault> faults; ///< in it from its fork on; the states' own lists are not to be read
    std::size_t first = 0; ///< frame at which it was forked; what is before is the base's
    std::vector<std::shared_ptr<const State>> frames; ///< null: not looked at
    std::vector<std::shared_ptr<const Stretch>> stretches; ///< k: from frame k to the next one looked at
    Pause pause = Pause::Reached; ///< Chatter or Cancelled: the frames end early
    bool isStopped = false; ///< by the watcher, before the end
};

/// Told of every stretch and the frame at its end; answers false to stop.
using Watcher = std::function<bool(std::size_t frame, const Stretch&, const State&)>;

struct Course {
    const Plant& plant;
    const Cycle& cycle;
    const std::vector<FrameTime>& times;
};

/// The circuit as it is, from switching on. All frames are kept.
ForkedRun wholeRun(const Course& course, Workspace& workspace, std::stop_token stop = {});

/// What is the same as in other passages from some frame on, and what happens besides.
struct Fork {
    std::span<const Fault> faults; ///< added to the base's
    Moment moment = Moment::JustBefore;
    bool keepsAll = false; ///< every frame, so that it can be a base itself; else looks, and frames while a motor
                           ///< speeds up
    std::span<const ForkedRun> same{}; ///< with the same faults from other moments: where the situation is the same,
                                       ///< the rest is
    std::span<const Stimulus> more{}; ///< actions beside the cycle's own, later than the moment
    Limits::Ties ties = Limits::Ties::FirstIdFirst;
};

/// The base with more faults from a moment on, until the watcher has seen enough.
ForkedRun forkedRun(const Course& course, const ForkedRun& base, const Fork& fork, const Watcher& watcher,
    Workspace& workspace, std::stop_token stop = {});

/// True if the fault changes nothing while movers have only the travels visited: a contact held closed that is closed
/// anyway. False where that is not certain.
bool isInert(const Plant& plant, const Fault& fault, const std::vector<std::uint8_t>& visited);

} // namespace ts::faults
