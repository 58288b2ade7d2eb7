#pragma once
// The circuit as a graph for drawing: nets joined by wires, and between them the devices' two-poles.
// Which nets are rails follows from where supplies reach over protective and main poles.

#include "core/base/expected.h"
#include "core/diagram/scene.h"
#include "core/library/kind.h"

#include <vector>

namespace ts::diagram {

struct GraphTerminal {
    TerminalRef ref;
    int device = 0; ///< index into WiredGraph::devices
    int net = 0;
    bool isWired = false;
    bool isPort = false; ///< leads into the device's inside, such as a relay's input
};

struct GraphNet {
    std::vector<int> terminals;
    std::string name; ///< smallest wire number, else its first terminal
    std::string railName; ///< of a rail: the number its control wires bear
    bool isEarth = false; ///< holds the supply's protective earth
    bool isRail = false; ///< a supply reaches it over poles, and control elements hang on it
    bool isReturn = false; ///< a rail that is drawn at the bottom
    int order = 0; ///< rails from left to right
};

/// A two-pole of a control circuit, or a pole of a power circuit.
struct GraphEdge {
    int device = 0;
    std::string role;
    int a = 0, b = 0; ///< terminals
    SymbolKind kind = SymbolKind::NormallyOpen;
    Operated operated = Operated::ByNothing;
    bool isPole = false;
    bool isLoad() const
    {
        return kind == SymbolKind::Coil || kind == SymbolKind::Lamp || kind == SymbolKind::Horn
            || kind == SymbolKind::BoxLoad;
    }
};

/// What is known by its times, a motor or a heater on alternating current: a load of the power circuit, though a coil
/// in the body.
inline bool isTimedLoad(const Body& body, const Element& element)
{
    const auto* coil = std::get_if<CoilElement>(&element.what);
    const MoverSpec* mover = coil ? &body.movers[static_cast<std::size_t>(coil->mover)] : nullptr;
    return mover && (mover->turnsAtOnce || (mover->role == "heat" && !coil->direct));
}

struct GraphDevice {
    const Device* device = nullptr;
    Body body;
    std::vector<int> terminals;
    bool isPower = false; ///< appears in the power circuit
};

struct WiredGraph {
    std::vector<GraphDevice> devices; ///< in order of id
    std::vector<GraphTerminal> terminals;
    std::vector<GraphNet> nets;
    std::vector<GraphEdge> edges;

    int netOf(int terminal) const { return terminals[static_cast<std::size_t>(terminal)].net; }
};

/// Fails with what the device kinds refuse. The circuit must outlive the graph. Pure.
Expected<WiredGraph> wiredGraph(const Circuit& circuit);

/// Wires and routes are all that differs.
bool hasSameDevices(const Circuit& a, const Circuit& b);

/// Whether two circuits come out as one drawing: they differ in nothing, or in what is not drawn of wires, as length,
/// cross-section, colour or route.
bool isDrawnAlike(const Circuit& a, const Circuit& b);

} // namespace ts::diagram
