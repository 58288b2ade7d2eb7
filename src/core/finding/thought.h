#pragma once
// What the readings leave, and which look comes next. Internal to finding/.

#include "core/finding/finder.h"
#include "core/finding/knowledge.h"
#include "core/finding/outcomes.h"

namespace ts::finding {

/// A reading at a place of the panel that is locked off; none: it is live.
struct Placed {
    measuring::DeadState state;
    measuring::DeadLook look;
};
using Looks = std::vector<std::optional<Placed>>;
/// Fails with NotFound for a device, an action or a terminal that is not there.
Expected<Looks> looksAt(const Knowledge& knowledge, const std::vector<Taken>& readings);
/// What that candidate would read there, one after the other. Fails with Cancelled.
Expected<std::vector<measuring::Reading>> predictedBy(const Knowledge& knowledge, std::size_t candidate,
    const std::vector<Taken>& readings, const Looks& looks, const std::stop_token& stop);

class Thought {
public:
    Thought(const Finder& finder, std::stop_token stop);
    Expected<Finding> all();

private:
    struct Option { ///< a look, and what each of those considered would answer
        measuring::Situation in;
        measuring::Look look;
        double seconds = 0;
        std::vector<measuring::Reading> readings; ///< by place in m_considered
        measuring::Reading expect;
    };
    Expected<Finding> withPairs();
    void consider();
    bool isMany() const;
    Expected<std::vector<Option>> screened() const;
    Expected<std::vector<Option>> dead(const std::vector<std::size_t>& looks) const;
    std::vector<std::size_t> looksNear() const;
    double bitsByEye(const measuring::DeadLook& look) const;
    void addWired(std::vector<Option>& options) const;
    std::set<int> nodesAt(const std::vector<measuring::MovedWire>& moved) const;
    Option wiresAt(const std::vector<int>& nodes) const;
    Expected<std::vector<Option>> live() const;
    bool isTaken(const Option& option) const;
    std::optional<Proposal> best(const std::vector<Option>& options) const;
    Proposal proposalOf(const Option& option, const Cells& cells) const;
    std::optional<Proposal> again() const;
    /// What is only told, or has come with another one, is seen before it is named: the quickest look that tells the
    /// likeliest one from a panel as drawn, or from one on which one of its wires is as drawn. None: all was seen.
    std::optional<Proposal> confirming(const std::vector<Option>& options) const;
    static std::vector<std::vector<measuring::MovedWire>> withoutOne(const std::vector<measuring::MovedWire>& moved);
    std::optional<Proposal> counting(const std::vector<measuring::MovedWire>& moved) const;
    std::optional<Proposal> quickestTelling(const std::vector<Option>& options,
        const std::function<std::optional<measuring::Reading>(const Taken&)>& otherwise) const;
    std::vector<std::vector<std::size_t>> alikeIn(const std::vector<Option>& options) const;
    Class classOf(const std::vector<std::size_t>& places) const;
    measuring::Suspect suspectOf(std::size_t deviation) const;
    void findContradicted();
    bool isContradictedTwice() const;

    const Finder& m_finder;
    const Knowledge& m_knowledge;
    std::stop_token m_stop;
    std::vector<std::size_t> m_considered; ///< candidates, the likeliest first
    std::vector<double> m_share; ///< of them alone, by place
    Finding m_finding;
};

} // namespace ts::finding
