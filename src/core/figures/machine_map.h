#pragma once
// The machine as one function sees it: what can demand a stop, what can come to rest, and which of them this function
// joins. What no function looks after is drawn so, too.

#include "core/figures/figure.h"

namespace ts::figures {

struct MapItem {
    enum class Part : std::uint8_t {
        Here, ///< of this function
        Elsewhere, ///< of another one
        Nowhere ///< of none
    };
    std::string tag, about;
    Part part = Part::Nowhere;
    std::string words; ///< read out
};

struct MapContent {
    std::vector<MapItem> demands, rests;
    std::string reset; ///< "S4 reset"; empty: not said
};

struct MapWords {
    std::string demands, rests, elsewhere, nowhere, reset;
};

/// As wide as wanted, at least as high. Spots: demands by their place, then what rests, counted on. Pure.
Figure machineMap(const MapContent& content, const MapWords& words, double width, double height, int chosen = -1);

} // namespace ts::figures
