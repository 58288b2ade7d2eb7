#pragma once
// Ties a drawing to a plant: which net colours a line, which contacts a symbol stands for. Found once per drawing;
// each frame then gives the look by index.

#include "app/widgets/scene_painter.h"
#include "core/simulation/frame.h"

#include <map>

namespace ts::app {

class SceneBinding {
public:
    SceneBinding() = default;
    SceneBinding(const diagram::Scene& scene, const Plant& plant);

    SceneLook look(const Frame& frame, DeviceId selected, const std::string& role) const;
    /// The plant's net of each conductor, in the scene's order; -1: of no net of this plant.
    const std::vector<int>& conductorNets() const { return m_conductors; }
    int netOf(const TerminalRef& terminal) const;

private:
    struct BoundSymbol {
        int upper = -1, lower = -1; ///< nets
        std::vector<int> links; ///< closed if all are
        int coil = -1, lamp = -1, relay = -1, motor = -1, converter = -1, actuator = -1;
        DeviceId device;
        std::string role;
        std::vector<std::pair<FaultMode, int>> faults; ///< that show on this symbol
    };
    void bindDevice(const diagram::Symbol& symbol, const Plant& plant, BoundSymbol& bound) const;

    std::map<TerminalRef, int> m_netOf;
    std::vector<int> m_conductors, m_dots;
    std::vector<BoundSymbol> m_symbols;
};

} // namespace ts::app
