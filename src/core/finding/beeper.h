#pragma once
// What looks with two single ends answer by beep, some ohms or nothing, in one dead state. A panel that is built
// otherwise in a few places answers otherwise only where what these places join lies: the rest is not gone over again.
// Internal to finding/.

#include "core/measuring/dead_looks.h"

namespace ts::finding {

struct Beep {
    std::size_t look = 0;
    measuring::Path path = measuring::Path::None;
};

/// Where such a panel may be built otherwise than drawn, whatever its state: links, impedances, transformers.
std::vector<std::size_t> slotsOf(
    const Plant& plant, const Overlay& overlay, std::span<const measuring::MovedWire> moved);

class Beeper {
public:
    /// `looks`: of them those in this state with two single ends.
    Beeper(const Plant& plant, const measuring::DeadState& state, const std::vector<measuring::DeadLook>& looks,
        const std::vector<std::size_t>& inThisState);

    const std::vector<Beep>& right() const { return m_right; }
    /// Of a panel with a fault and with wires elsewhere: only where it answers otherwise. `slots`: slotsOf() these.
    std::vector<Beep> others(const std::vector<std::size_t>& slots, const Overlay& overlay,
        std::span<const measuring::MovedWire> moved) const;

private:
    struct Ends {
        std::size_t look = 0;
        int a = 0, b = 0;
    };
    struct Part { ///< what is joined by anything but electronics
        std::vector<int> bonds, nodes, looks; ///< by place in m_bonds; nodes; by place in m_looks
    };
    struct Change {
        std::vector<std::size_t> gone; ///< slots
        std::vector<measuring::Bond> come;
        std::vector<int> parts; ///< in which it is
    };
    std::optional<measuring::Bond> bondIn(const measuring::BuiltSo& built, std::size_t slot) const;
    Change changeIn(const measuring::BuiltSo& built, const std::vector<std::size_t>& slots) const;
    measuring::Path pathOf(const Ends& look, const std::vector<int>& near, const std::vector<int>& far) const;

    const Plant& m_plant;
    const measuring::DeadState& m_state;
    Overlay m_none;
    std::vector<std::optional<measuring::Bond>> m_bonds; ///< by slot: links, impedances, transformers, the rest
    std::vector<Ends> m_looks;
    std::vector<Beep> m_right;
    std::vector<int> m_near, m_far; ///< by node: the same number for what beeps together, for what is joined at all
    std::vector<Part> m_parts; ///< by the number in m_far
};

} // namespace ts::finding
