#pragma once
// A function as its own path through the wiring: from what demands it to what must rest. The knots are what the claim
// names, and what a run of the demand shows to take part; a way between two knots is there because a contact of the one
// lies in what feeds the other and opened first, so it is found by running and by the wires, never by the order of the
// claim. Source of the idea of a chain: ISO 13849-1 clause 6.3; the power path: EN 60204-1 clause 9.2.2.

#include "core/base/expected.h"
#include "core/model/dossier.h"

#include <compare>
#include <stop_token>
#include <string>
#include <vector>

namespace ts {

/// Where the claim speaks of a knot.
struct KnotUse {
    std::size_t subsystem = 0;
    int channel = -1; ///< -1: the whole subsystem, as its manufacturer gives it
    std::size_t part = 0;
    bool isTest = false; ///< it tests the others (category 2)
    bool operator==(const KnotUse&) const = default;
};

struct PathKnot {
    enum class Stage : std::uint8_t { Demands, Decides, Switches, Rests };
    DeviceId device;
    std::string element; ///< as the claim says it: "11-12", "main"; empty: the whole device
    Stage stage = Stage::Decides;
    int column = 0; ///< from the left, through all stages; what rests stands in the last one
    bool acts = false; ///< it moved or changed over in the run
    std::vector<KnotUse> uses; ///< none: it takes part and no claim names it, or it is what demands or rests
    bool operator==(const PathKnot&) const = default;
};

struct PathWay {
    int from = 0, to = 0; ///< knots
    bool isPower = false; ///< what feeds the motor; false: what tells the next one
    auto operator<=>(const PathWay&) const = default;
};

/// A contact that closes when its device has opened, in what an earlier knot looks at: that one notices if it does not.
struct PathWatch {
    int from = 0, by = 0; ///< knots
    std::string contact; ///< "21-22"
    auto operator<=>(const PathWatch&) const = default;
};

struct FunctionPath {
    FunctionId function;
    std::vector<PathKnot> knots; ///< as the claim names them; then what demands, takes part, rests
    std::vector<PathWay> ways; ///< sorted, never from right to left
    std::vector<PathWatch> watches; ///< sorted
    int columns = 0;
    std::vector<DeviceId> stillLive; ///< devices with a dangerous voltage at them a second after the demand
    bool operator==(const FunctionPath&) const = default;
};

/// Above these a conductor is dangerous to touch. Source: EN 60204-1:2018 clause 6.4.1 (PELV in dry places).
constexpr double kTouchableAlternatingV = 25.0, kTouchableDirectV = 60.0;

/// By one run of the demand with times as usual. Fails as stopRun does.
Expected<FunctionPath> functionPath(const Dossier& dossier, const SafetyFunction& function, std::stop_token stop = {});

} // namespace ts
