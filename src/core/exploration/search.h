#pragma once
// The search over all orders of operation: breadth first from switching on, until no new settled state appears or the
// bound is reached. What holds in every state and on every way is proved, within what was operated; what does not comes
// with the order of fewest operations that shows it.

#include "core/exploration/joined_poles.h"
#include "core/exploration/settling.h"
#include "core/model/dossier.h"

#include <array>
#include <functional>
#include <string_view>

namespace ts::exploration {

enum class Claim : std::uint8_t {
    NeverJoined, ///< no contactors join two live poles of the supply, as long as nobody pushes an armature in by hand
    PauseOutlastsArc, ///< nor while the arc of one that has opened may still burn
    StaysStopped, ///< while the trigger of a function is operated and no delay is pending, the motor is not driven
    NoStartBySupply, ///< nor does the supply, or a line of it, start the motor from rest when it comes back
    NoStartByReset, ///< nor does what switches a safety relay's outputs on
    NoStartByReturn, ///< nor a letting go, an unlatching, a guard that closes, a trip that is reset
    NoStartAlone, ///< nor time alone
    NoStartHeld, ///< nor does any of these while a start button is held or jammed
    CanStart, ///< from every state there is a way to the running motor
    NoForbiddenRest, ///< opposed contactors are never both in by themselves, whatever hands have done before
    NotEvenByHand ///< not even an armature pushed in by hand joins two live poles
};
inline constexpr std::array kClaims{Claim::NeverJoined, Claim::PauseOutlastsArc, Claim::StaysStopped,
    Claim::NoStartBySupply, Claim::NoStartByReset, Claim::NoStartByReturn, Claim::NoStartAlone, Claim::NoStartHeld,
    Claim::CanStart, Claim::NoForbiddenRest, Claim::NotEvenByHand};
std::string_view nameOf(Claim); ///< "never_joined" ...
/// A counterexample to it is a note: a finger on an armature, a jammed button.
constexpr bool isOnlyTold(Claim c)
{
    return c == Claim::NoStartHeld || c == Claim::NotEvenByHand;
}

enum class Answer : std::uint8_t {
    Proved,
    CounterExample,
    Bounded ///< nothing found, but not every way was followed: the bound, a chatter, or what lies behind joined lines
};
std::string_view nameOf(Answer); ///< "proved", "counter_example", "bounded"

/// The circuit with its times nominal and at their limits: all fast, all slow, quick in and slow out, the other way
/// round, and contactors quick and slow in turn.
struct Machines {
    Plant nominal;
    std::vector<Plant> limits;
    std::shared_ptr<CircuitMemory> memory = std::make_shared<CircuitMemory>(); ///< of all of them: times decide about
                                                                               ///< no voltage
};
/// Fails as compile() does.
Expected<Machines> machinesOf(const Circuit& circuit);

/// The trigger of a function whose motor this is.
struct Demand {
    FunctionId function;
    int mover = 0;
    std::uint8_t operated = 2;
};

struct SearchQuestion {
    /// All: everything but hands on armatures. Joins: of that only NeverJoined and PauseOutlastsArc. Armatures: hands
    /// on armatures too, and the last two claims.
    enum class Scope : std::uint8_t { All, Joins, Armatures };
    Scope scope = Scope::All;
    int motor = 0;
    std::vector<Demand> demands;
    std::vector<Stimulus> starts; ///< operations that the dossier names as the start, also where they reset a safety
                                  ///< relay
    std::vector<Fault> faults; ///< present from the beginning
    std::vector<Opposed> opposed; ///< contactors that must not be in together, for NoForbiddenRest
};

struct Options {
    std::size_t bound = 20'000; ///< settled states
    Restraint restraint;
    int threads = 0; ///< 0: as many as the machine has
    bool atLimits = true; ///< also with times at their limits, where devices race
};

/// Played in this order it shows; with `script` on a bench at nominal times, unless only limits of times bring it
/// about.
struct CounterExample {
    std::vector<Done> order;
    TimeNs shownAt = 0;
    Opposed contactors; ///< that join poles
    bool onlyAtLimits = false;
};
/// The faults, then the operations.
std::vector<Stimulus> scriptOf(const CounterExample& example, const std::vector<Fault>& faults);

struct Proof {
    Claim claim = Claim::NeverJoined;
    FunctionId function{}; ///< for StaysStopped
    Answer answer = Answer::Proved;
    std::optional<CounterExample> counter;
};

struct Searched {
    std::vector<Proof> proofs; ///< in the order of claims and demands
    std::size_t states = 0, transitions = 0;
    std::size_t undecided = 0; ///< operations after which the circuit chatters at any limit of times: nothing is known
                               ///< of what follows
    bool isBounded = false;
};

/// Told now and then how many settled states were reached, from the calling thread.
using StatesListener = std::function<void(std::size_t states)>;

/// Fails with Cancelled only. Same result on any number of threads.
Expected<Searched> search(const Machines& machines, const SearchQuestion& question, const Operations& operations,
    const Options& options, std::stop_token stop = {}, const StatesListener& listener = {});

} // namespace ts::exploration
