#pragma once
// Faults that are one and the same to everything in the circuit: a broken wire, and the open contact that it leads to
// and nothing else. One is run, its outcome is listed under each name.

#include "core/faults/fault_list.h"

#include <cstdint>

namespace ts::faults {

class SameFault {
public:
    explicit SameFault(const Plant& plant);
    /// Equal for faults whose runs are equal in all that is judged. A way of happening that has consequences is alike
    /// only to itself.
    std::vector<std::uint64_t> essence(const SweptFault& fault) const;

private:
    Fault standIn(const Fault& fault) const;

    std::vector<int> m_ofLink,
        m_ofImpedance; ///< the first one in line with it: links by slot, then impedances behind all links
    int m_linkCount = 0;
};

} // namespace ts::faults
