#pragma once
// What a circuit does, found out by trying: from the state in which it is switched on every hand is put on everything
// that it can work, and again from each state that comes of it, the nearest first, then those with most running. For
// circuits that nobody has described yet. What is the matter with what they do: directed.h and the checks.

#include "core/exploration/settling.h"
#include "core/model/dossier.h"

#include <functional>
#include <span>

namespace ts::exploration {

/// What one hand does to one motor, or whatever else moves, heats or holds.
struct Deed {
    enum class Effect : std::uint8_t {
        Starts, ///< and it goes on when let go
        RunsWhileHeld,
        Stops, ///< and it stays off when let go
        StopsWhileHeld
    };
    DeviceId hand;
    std::string action; ///< "press"
    DeviceId actuator;
    int direction = 0; ///< of what starts: 1 forwards, -1 backwards, 0 has none
    Effect effect = Effect::Starts;
    std::vector<Done> way; ///< from switching on, this deed last; the shortest that was tried
    std::string said; ///< the same in the kinds' words: "S4 press, S4 release, S2 press"
    TimeNs after = 0; ///< since then nothing but steady running or rest was left
    bool operator==(const Deed&) const = default;
};
std::string_view nameOf(Deed::Effect); ///< "starts", "runs_while_held", "stops", "stops_while_held"

/// What was done on a way, at its times.
std::vector<Stimulus> stimuliOn(std::span<const Done> way);
/// The push of a hand that was let go at the end of the deed's way; null if it stays.
const Done* pushOf(const Plant& plant, const Deed& deed);

/// One hand that takes the power from as many as it was seen to at once.
struct StopOfMany {
    DeviceId hand;
    std::string action;
    std::vector<DeviceId> stopped; ///< by id
    std::vector<Done> way; ///< this deed last
    TimeNs after = 0;
    bool operator==(const StopOfMany&) const = default;
};

/// A lamp or horn against what runs, over all states that were seen.
struct LampSeen {
    enum class Rule : std::uint8_t { Never, Always, WhileDriven, WhileNotDriven, None };
    DeviceId lamp, actuator; ///< actuator: of WhileDriven and WhileNotDriven
    Rule rule = Rule::None;
    bool operator==(const LampSeen&) const = default;
};
std::string_view nameOf(LampSeen::Rule); ///< "never", "always", "while_driven" ...

/// A hand that changes nothing that runs, and is worked before others do: a reset, a selector.
struct Preparing {
    DeviceId hand;
    std::vector<DeviceId> before; ///< hands that start something after it, by id
    bool operator==(const Preparing&) const = default;
};

struct Behaviour {
    std::vector<Deed> deeds; ///< by hand, action, actuator
    std::vector<StopOfMany> stops; ///< one for each hand and action that stops anything
    std::vector<LampSeen> lamps;
    std::vector<Preparing> preparing;
    std::vector<DeviceId> idle; ///< hands that changed nothing that runs, and come before nothing that does
    std::vector<DeviceId> neverRan; ///< actuators that nothing brought to run
    std::size_t states = 0, runs = 0, leftOut = 0; ///< leftOut: states that were seen and not tried from
    std::size_t undecided = 0; ///< runs in which the circuit chatters
    bool operator==(const Behaviour&) const = default;
};

/// Same result whatever the machine. Fails as compile() does, and with Cancelled.
Expected<Behaviour> behaviourOf(const Circuit& circuit,
    const std::function<void(std::size_t done, std::size_t total)>& listener = {}, std::stop_token stop = {});

} // namespace ts::exploration
