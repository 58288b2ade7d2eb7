#pragma once
// Where competent people write the same thing differently: how sizes, powers and phases are named, how control circuits
// are drawn, which lamp colours are used. Display only: files and computation know millimetres, watts and L1 to L3.

#include "core/diagram/path_frame.h"

#include <string>
#include <string_view>

namespace ts::wording {

struct Habits {
    enum class Phases { L1L2L3, RYB, UVW };
    enum class WireSize { SquareMillimetres, AmericanGauge };
    enum class Power { Kilowatts, Horsepower };
    /// Of indicator lights: as the dossier has them; by what they tell, after IEC 60204-1 (running green, fault
    /// yellow); or running red and stopped green.
    enum class LampColours { AsWritten, Standard, RunningRed };

    diagram::School school = diagram::School::CurrentPaths;
    Phases phases = Phases::L1L2L3;
    WireSize wireSize = WireSize::SquareMillimetres;
    Power power = Power::Kilowatts;
    LampColours lampColours = LampColours::AsWritten;
    bool operator==(const Habits&) const = default;
};

/// "1.5 mm²", or the usual American gauge next to it, "16 AWG". Source of the gauge: ASTM B258, area of n is that of
/// 0.127 mm * 92^((36 - n) / 39); even numbers to 2, then 1/0 to 4/0.
std::string wireSizeText(double areaMm2, const Habits& habits);
/// "5.5 kW" or "7.4 hp" (1 hp = 745.7 W).
std::string powerText(double watts, const Habits& habits);
/// The name of a phase "L1" to "L3"; any other marking stays as it is.
std::string phaseName(std::string_view marking, const Habits& habits);

} // namespace ts::wording
