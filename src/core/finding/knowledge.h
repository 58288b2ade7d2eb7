#pragma once
// All that can be the matter with one circuit, and all that can be looked at: made once, shared by every step of the
// search. Internal to finding/.

#include "core/finding/beeper.h"
#include "core/measuring/live_steps.h"

#include <mutex>
#include <set>

namespace ts::finding {

/// What looks with two single ends answer by beep, some ohms or nothing.
struct Beeps {
    std::vector<measuring::Path> right; ///< by look
    std::vector<std::optional<std::vector<Beep>>> of; ///< by candidate, if known: only where it answers otherwise
};

class Knowledge {
public:
    /// Fails as compile() does.
    static Expected<std::shared_ptr<const Knowledge>> of(const Circuit& circuit);

    const Circuit& circuit() const { return m_circuit; }
    const Plant& plant() const { return *m_plant; }
    /// The last one is no deviation: as drawn.
    const std::vector<measuring::Deviation>& all() const { return m_deviations.all; }
    std::size_t asDrawn() const { return m_deviations.all.size() - 1; }
    /// One of each that joins the same and looks the same.
    const std::vector<std::size_t>& candidates() const { return m_candidates; }
    /// Those that nothing tells from this one, itself among them.
    std::vector<std::size_t> alike(std::size_t candidate) const;

    /// The candidate that differs at most by what an eye sees of its wires.
    std::size_t electrically(std::size_t candidate) const { return m_electrically[candidate]; }

    const measuring::DeadLooks& looks() const { return m_looks; }
    const std::vector<std::size_t>& looksIn(std::size_t state) const { return m_looksIn[state]; }
    /// By node, more wires than drawn.
    const std::vector<std::pair<int, int>>& moreWires(std::size_t candidate) const { return m_moreWires[candidate]; }
    /// Whether a look is at the same wires or devices as what is wrong there.
    bool isNear(const measuring::DeadLook& look, std::size_t candidate) const;

    measuring::Ohms ohms(std::size_t candidate, const measuring::DeadState& state) const;
    /// As a meter shows it.
    measuring::Reading dead(std::size_t candidate, measuring::Ohms& ohms, const measuring::DeadState& state,
        const measuring::DeadLook& look) const;
    /// As that candidate, but for where its wires are.
    measuring::Reading deadWith(std::size_t candidate, std::vector<measuring::MovedWire> moved,
        const measuring::DeadState& state, const measuring::DeadLook& look) const;
    /// Null if nothing can be built like that.
    std::unique_ptr<measuring::StandIn> panel(std::size_t candidate, std::stop_token stop) const;

    /// What is there at the end of a live situation; kept for the last few situations. Null if it cannot be brought
    /// there, or was cancelled.
    std::shared_ptr<const State> endOf(
        std::size_t candidate, const measuring::Situation& in, const std::stop_token& stop) const;
    /// With those of these candidates, found out when they are first asked for. Null if it was cancelled.
    const Beeps* beeps(const std::vector<std::size_t>& candidates, const std::stop_token& stop) const;
    /// Found out when it is first asked for. Fails as behaviourOf() does, and with Cancelled.
    Expected<std::shared_ptr<const measuring::LiveSteps>> live(std::stop_token stop) const;

private:
    explicit Knowledge(const Circuit& circuit)
        : m_circuit(circuit)
    {
    }
    void addOpenWires();
    void findNear();
    std::vector<Beep> beepsOf(std::size_t candidate) const;

    Circuit m_circuit;
    std::shared_ptr<const Plant> m_plant;
    measuring::Deviations m_deviations;
    std::vector<Overlay> m_overlays;
    std::vector<std::size_t> m_candidates, m_electrically;
    std::vector<std::vector<std::pair<int, int>>> m_moreWires;
    measuring::DeadLooks m_looks;
    std::vector<std::vector<std::size_t>> m_looksIn;
    std::vector<int> m_netOf; ///< by node
    std::vector<std::set<int>> m_near; ///< by deviation: nets that it touches
    std::shared_ptr<CircuitMemory> m_memory;
    mutable std::mutex m_finding;
    mutable Beeps m_beeps;
    mutable std::vector<Beeper> m_beepers; ///< by state
    mutable std::mutex m_ending;
    mutable std::map<measuring::Situation, std::map<std::size_t, std::shared_ptr<const State>>> m_ends;
    mutable std::shared_ptr<const measuring::LiveSteps> m_live;
};

} // namespace ts::finding
