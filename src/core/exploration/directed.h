#pragma once
// Directed runs: from rest and from each state in which the dossier's scenarios show the machine running, every single
// thing that can happen is done, taken back, and reset, once with free hands and once with a start held; and two hands
// press at once, one of them perhaps a stop. What each
// protective device stops, and what starts a motor although nobody asks for it. Quick, and no proof: orders of more
// than these few operations are the search's (search.h).

#include "core/exploration/departure.h"
#include "core/exploration/lost_lines.h"
#include "core/exploration/settling.h"
#include "core/model/dossier.h"

#include <functional>

namespace ts::exploration {

/// What made it start then.
enum class StartedBy : std::uint8_t {
    Return, ///< the return itself
    Reset, ///< a reset after it
    HeldAtReturn, ///< the return, a start button being held
    HeldAtReset
};
std::string_view nameOf(StartedBy); ///< "return", "reset" ...

struct StartSeen {
    DeviceId motor, what; ///< what departed or was pressed; none: the supply
    Departure departure = Departure::None;
    StartedBy by = StartedBy::Return;
    bool isTwitch = false; ///< it did not go on running
    std::vector<Done> order; ///< from switching on
    std::string said; ///< the same in the kinds' words: "S2 press, S0 press, S0 unlatch"
    bool operator==(const StartSeen&) const = default;
};

/// A protective device, operated while motors run.
struct StopSeen {
    DeviceId device;
    std::vector<DeviceId> stopped, kept; ///< over all states that were tried; a motor that was kept once is kept
    std::string said; ///< the shortest way to one that was kept, as StartSeen::said
    bool isLocked = false; ///< whenever anything ran it could not be operated: a bolt held it
    bool operator==(const StopSeen&) const = default;
};

/// Something that must hold (`PlantActuator::holds`) let go when something departed.
struct ReleaseSeen {
    DeviceId held, what; ///< what departed or was pressed; none: the supply
    Departure departure = Departure::None;
    std::string said; ///< the shortest way, as StartSeen::said
    bool operator==(const ReleaseSeen&) const = default;
};

/// Each once, by its shortest way.
void keepShortest(std::vector<ReleaseSeen>& all, ReleaseSeen seen);

/// Equal parts that arrive in one instant, and one keeps the other from it: chance decides. Both orders were tried.
struct RaceSeen {
    DeviceId first, second; ///< by id
    std::string said; ///< the shortest way to it, as StartSeen::said
    bool operator==(const RaceSeen&) const = default;
};

struct Directed {
    std::vector<StartSeen> starts; ///< the shortest way of each kind and motor
    std::vector<StopSeen> stops; ///< every protective device of the circuit that can be operated
    std::vector<ReleaseSeen> releases;
    std::vector<RaceSeen> races;
    std::vector<RunsWithoutLine> lines;
    std::vector<DeviceId> neverRan; ///< motors that no scenario and no single start brings to run: nothing is known
    std::size_t situations = 0, runs = 0;
    std::size_t leftOut = 0; ///< states that the scenarios show, beyond the bound: nothing was tried from there
    std::size_t undecided = 0; ///< runs in which the circuit chatters
    std::size_t undecidedFreely = 0; ///< of these, with no button held
    std::string undecidedSaid; ///< the shortest way to one of them
    bool operator==(const Directed&) const = default;
};

/// Of one circuit with ties in either order: what either shows.
Directed merged(Directed first, const Directed& other);

/// Told now and then how many runs are done and how many there will be, from the calling thread.
using RunsListener = std::function<void(std::size_t done, std::size_t total)>;

/// Same result whatever the machine. Fails as compile() does, and with Cancelled.
Expected<Directed> directedRuns(const Dossier& dossier, const RunsListener& listener = {}, std::stop_token stop = {});

} // namespace ts::exploration
