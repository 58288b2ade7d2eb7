#include "core/simulation/meters.h"

#include "core/base/at.h"

#include <algorithm>

namespace ts {
namespace {

constexpr double kNoLineShare = 0.2; ///< of the largest voltage: then a sequence cannot be told

} // namespace

std::vector<ClampReading> clampAt(const Plant& plant, const Frame& frame, int terminal)
{
    std::vector<ClampReading> readings;
    const int node = plant.terminals[at(terminal)].node;
    for (std::size_t w = 0; w < plant.wires.size(); ++w) {
        const PlantWire& wire = plant.wires[w];
        if (wire.p == node || wire.q == node)
            readings.push_back({static_cast<int>(w),
                wire.link >= 0 ? frame.links[at(wire.link)].rmsA() : frame.impedancesA[at(wire.impedance)]});
    }
    return readings;
}

PhaseSequence sequenceOf(const Frame& frame, const std::array<int, 3>& nodes)
{
    const auto v = [&](std::size_t k) { return frame.nodes[at(nodes[k])].alternatingV; };
    const Complex ab = v(0) - v(1), bc = v(1) - v(2), ca = v(2) - v(0);
    const auto [least, largest] = std::minmax({std::abs(ab), std::abs(bc), std::abs(ca)});
    if (largest == 0 || least < kNoLineShare * largest)
        return PhaseSequence::None;
    return (bc / ab).imag() < 0 ? PhaseSequence::Right : PhaseSequence::Left;
}

} // namespace ts
