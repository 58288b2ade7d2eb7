#pragma once
// Paints a drawing from core/diagram. What is live, closed or broken comes in as plain values.

#include "app/widgets/theme.h"
#include "core/diagram/scene.h"

#include <QPainter>

#include <cstdint>
#include <vector>

namespace ts::app {

/// Carrying: at the return's voltage, and current flows.
enum class Tone : std::uint8_t { Dead, Live, Floating, Carrying };

struct SymbolLook {
    Tone upper = Tone::Dead, lower = Tone::Dead;
    bool isClosed = false; ///< contact or pole
    bool isOn = false; ///< coil in, lamp lit
    bool hasFault = false;
    bool isSelected = false;
    bool isNew = false; ///< of a change that has not been made yet
};

/// In the order of the scene's own lists.
struct SceneLook {
    std::vector<Tone> conductors;
    std::vector<SymbolLook> symbols;
    std::vector<Tone> dots;
};

/// Below this scale small texts are left out and tags drawn larger, so that an overview stays legible.
constexpr double kOverviewZoom = 0.6;

/// Paints in the scene's own pixels; scale and shift are the caller's transform, `zoom` is that scale.
void paintScene(
    QPainter& painter, const diagram::Scene& scene, const SceneLook& look, const Theme& theme, double zoom = 1.0);

} // namespace ts::app
