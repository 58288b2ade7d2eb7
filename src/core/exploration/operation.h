#pragma once
// What can be done to a machine at rest between two events: a hand on a button, two at once, the supply lost or back, a
// protective device tripped, or nothing but waiting. An order of operation is a sequence of these.

#include "core/exploration/cone.h"
#include "core/simulation/advance.h"

#include <optional>

namespace ts::exploration {

struct Operation {
    enum class Kind : std::uint8_t { Hand, TwoHands, SupplyLost, SupplyBack, PhaseLost, PhaseBack, Wait };
    Kind kind = Kind::Wait;
    std::vector<Stimulus> stimuli; ///< all at one instant; their times are set when it is done
    bool operator==(const Operation&) const = default;
};

/// In the kinds' own words: "S2 press", "Q0 switch off", "supply lost".
std::string wordsOf(const Plant& plant, const Operation& operation);

struct Done {
    Operation operation;
    TimeNs at = 0; ///< from switching on
    bool operator==(const Done&) const = default;
};

/// What a person can hold, and how many departures from normal the plant has at once.
struct Restraint {
    int hands = 2; ///< things held against a spring, armatures pushed in
    int departures = 1; ///< supply lost, phase lost, breaker off, overload tripped, fuse blown
    bool operator==(const Restraint&) const = default;
};

/// Everything that can be operated within a cone, in a fixed order. The plant is referred to.
class Operations {
public:
    /// `also`: movers that are operated whether or not they lie in the cone.
    Operations(const Plant& plant, const Cone& cone, const std::vector<int>& also);

    const std::vector<Operation>& all() const { return m_all; }
    const std::vector<std::string>& tags() const { return m_tags; } ///< devices that are operated
    const std::vector<std::string>& leftAlone() const
    {
        return m_leftAlone;
    } ///< that could be, but do not bear on the question

    /// Whether the operation changes anything in this state and stays within the restraint.
    bool isPossible(const State& state, const Operation& operation, const Restraint& restraint) const;
    /// Held by a hand: it goes back by itself when let go. Not by a fault.
    bool isHeld(const State& state, int mover) const;
    /// A hand that operates something away from its position of rest: what alone may start a machine.
    bool isGivenByHand(const Stimulus& stimulus) const;

private:
    void addHands(const std::vector<std::uint8_t>& isOperated);
    void addSupply(const Cone& cone);
    int departuresIn(const State& state) const;

    const Plant& m_plant;
    std::vector<std::uint8_t> m_springsBack, m_isDeparture; ///< by mover
    std::vector<Operation> m_all;
    std::vector<std::string> m_tags, m_leftAlone;
};

} // namespace ts::exploration
