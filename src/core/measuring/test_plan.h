#pragma once
// The plan by which a built panel is proved: the shortest list of steps found that shows every wiring mistake and
// device fault that can be shown, in an order in which no step is dangerous under a mistake that the steps before it
// would not have shown. Dead first: bonding, insulation, windings, continuity. Then live in stages, with the power
// circuit locked off for as long as that can be (EN 60204-1 clause 18).

#include "core/measuring/look.h"
#include "core/measuring/mistakes.h"

#include <functional>
#include <stop_token>

namespace ts::measuring {

enum class Stage : std::uint8_t {
    Isolation, ///< locked off and proved dead, before anything is touched
    Bonding, ///< dead: protective conductors
    Insulation, ///< dead
    Windings, ///< dead: motors, coils, transformers
    Continuity, ///< dead: wires and contacts
    Incoming, ///< live, main switch or fuses open
    Control, ///< live, nothing that moves is fed
    Direction, ///< live, motors turn
    Stops, ///< live: stops, overloads, emergency stops
    Faults, ///< live: what single faults do on the real machine
    Times ///< live: time to rest
};
std::string_view wordOf(Stage); ///< "bonding", "insulation" ...
constexpr bool isDead(Stage s)
{
    return s <= Stage::Continuity;
}

enum class Power : std::uint8_t {
    LockedOff, ///< the incoming supply is locked off and proved dead
    MotorOff, ///< fed, with what feeds motors taken out
    On
};
std::string_view wordOf(Power); ///< "locked_off", "motor_off", "on"

/// How the panel is brought to where it is looked at. Dead: what is held or pushed while it is measured. Live: from
/// switching on, one after the other, each let run its course.
struct Situation {
    Power power = Power::LockedOff;
    std::vector<std::string> bring; ///< "S2 press", "Q1 push_in", "F1 pull"
    std::vector<std::string> isolated; ///< devices whose poles are taken out: "F1"
    std::vector<WireId> lifted;
    auto operator<=>(const Situation&) const = default;
};

struct TestStep {
    std::string id; ///< hash of situation and look: it survives a new plan
    Stage stage = Stage::Continuity;
    Situation in;
    Look look;
    Reading expect;
    double seconds = 0;
    std::vector<std::string> covers; ///< of what it is the first to show mistakes or faults: "wire/12", "Q1/13-14",
                                     ///< "Q1"
    std::vector<std::string> shows; ///< of what it shows any
    std::vector<std::string> serves; ///< clauses and functions for which it is required; empty: chosen for what it
                                     ///< shows
    bool operator==(const TestStep&) const = default;
};
std::string stepId(const Situation& in, const Look& look);

/// Why no step shows it.
enum class Hidden : std::uint8_t {
    SameInEveryNet, ///< wires join other terminals, and inside the devices they are one: no look reads otherwise
    WithinBands, ///< it reads as the right one does, as far as instruments and parts tell
    NoSafeStep, ///< what would show it is dangerous if it is there
    NotModelled ///< nothing that can be looked at on the panel depends on it in the model
};
std::string_view wordOf(Hidden); ///< "same_in_every_net", "within_bands" ...

struct Unshown {
    std::string id; ///< of a mistake, or a fault as people write it
    Hidden reason = Hidden::WithinBands;
    std::optional<Mistake> mistake{}; ///< if it is one
    bool operator==(const Unshown&) const = default;
};

struct TestPlan {
    std::vector<TestStep> steps; ///< in the order of work
    std::vector<TestStep> leftOut; ///< required steps that are dangerous under a mistake that nothing before them shows
    std::vector<std::string> notInsulated; ///< terminals of power circuits that no test of insulation covers
    std::vector<std::string> stops; ///< what stops motors, as a panel reads it
    std::size_t mistakes = 0, faults = 0, revealed = 0, harmless = 0;
    std::vector<Unshown> hidden;
    double seconds() const;
    bool operator==(const TestPlan&) const = default;
};

struct PlanProgress {
    std::function<void(std::size_t done, std::size_t total)> told{}; ///< from any thread; may be empty
};

/// Same result whatever the machine. Fails as compile() does, and with Cancelled.
Expected<TestPlan> testPlanOf(const Circuit& circuit, const PlanProgress& progress = {}, std::stop_token stop = {});

} // namespace ts::measuring
