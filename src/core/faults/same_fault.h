#pragma once
// Faults that are one and the same to everything in the circuit: a broken wire, and the open contact that it leads to
// and nothing else; a fault in one starter, and the same one in its twin. One is run, its outcome is told under each
// name.

#include "core/faults/fault_list.h"
#include "core/faults/twin_slots.h"

#include <cstdint>

namespace ts::faults {

struct FaultOutcome;

class SameFault {
public:
    /// `plant`: compiled from the circuit.
    SameFault(const Plant& plant, const Circuit& circuit, const Cycle& cycle);
    /// Equal for faults whose runs are equal in all that is judged, each in its own names. A way of happening that has
    /// consequences is alike only to itself, and to a twin's.
    std::vector<std::uint64_t> essence(const SweptFault& fault) const;
    /// The outcome of one fault in the names of another one of the same essence. Where several twins show at once that
    /// it is there, one of them is named.
    FaultOutcome outcomeOf(const SweptFault& other, const SweptFault& run, FaultOutcome outcome) const;
    /// Links that one fault welds, in the names of another one of the same essence, ascending.
    std::vector<int> weldsOf(const SweptFault& other, const SweptFault& run) const;

private:
    Fault standIn(const Fault& fault) const;
    std::vector<std::uint64_t> told(const SweptFault& fault, const Touched& touched) const;
    Touched ordered(const SweptFault& fault) const;
    Exchange between(const SweptFault& from, const SweptFault& to) const;
    std::string forgottenBy(const std::string& words, const Exchange& exchange) const;

    const Plant& m_plant;
    TwinSlots m_twins;
    std::vector<int> m_ofLink,
        m_ofImpedance; ///< the first one in line with it: links by slot, then impedances behind all links
    int m_linkCount = 0;
};

} // namespace ts::faults
