#pragma once
// What two channels have in common: each thing a row, a channel on either side, a bar through where both hang on it.

#include "core/figures/figure.h"

namespace ts::figures {

struct MeansRow {
    std::string kind, name; ///< "cable", "W3"
    bool isInFirst = false, isInSecond = false;
};

struct MeansWords {
    std::string first, second; ///< heads of the two channels
    std::string shared, none; ///< "both", "Nothing is known to be common to both"
};

/// As wide as wanted, as high as it needs; rows that both share first, of the others the first few. Pure.
Figure channelMeans(const std::vector<MeansRow>& rows, const MeansWords& words, double width);

} // namespace ts::figures
