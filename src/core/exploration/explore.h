#pragma once
// Every order of operation of a dossier's motors: healthy, with each single fault, and with every interlock judged
// alone.

#include "core/exploration/search.h"

#include <functional>

namespace ts::exploration {

struct FaultExplored {
    std::string fault; ///< "Q1/main:welded"
    std::vector<Fault> present; ///< its worst variant
    Searched searched;
};

struct MotorExplored {
    DeviceId motor;
    std::vector<std::string> operated,
        leftAlone; ///< devices; the second ones have no contact on any path to the motor's contactors
    Searched healthy;
    std::optional<Searched> byHand; ///< with armatures pushed in by hand; for motors with opposed contactors
    std::vector<FaultExplored> faults; ///< those of devices and wires within the cone, in the order of the fault list
};

/// What keeps two contactors apart.
enum class InterlockKind : std::uint8_t { Mechanical, ContactorContacts, ButtonContacts };
std::string_view nameOf(InterlockKind);

/// One interlock, without the others and left out itself: a test with all of them in place proves none.
struct InterlockJudged {
    std::array<DeviceId, 2> contactors;
    InterlockKind kind = InterlockKind::Mechanical;
    std::vector<std::string> contacts; ///< "Q1:21-22"
    Searched alone, without; ///< only whether poles are joined, nobody pushing armatures
    std::vector<Fault> bridged, bridgedWithout; ///< how the contacts were put out of action
};

struct Explored {
    std::vector<MotorExplored> motors;
    std::vector<InterlockJudged> interlocks;
};

struct Request {
    Options options;
    std::string motor; ///< tag; empty: all
    bool withFaults = true;
    bool withInterlocks = true;
};

/// Searches done, all of them, and how many settled states the present one has reached. Told from the calling thread.
struct Progress {
    std::size_t done = 0, total = 0, states = 0;
};
using Listener = std::function<void(const Progress&)>;

/// Fails as compile() does, with NotFound for a motor that does not exist or if there is none, and with Cancelled.
Expected<Explored> explore(
    const Dossier& dossier, const Request& request, const Listener& listener = {}, std::stop_token stop = {});

} // namespace ts::exploration
