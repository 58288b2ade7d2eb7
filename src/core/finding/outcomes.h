#pragma once
// Which answers a look can have, when each candidate predicts a range or a word. Internal to finding/.

#include "core/measuring/look.h"

#include <span>

namespace ts::finding {

struct Cell {
    measuring::Reading reading;
    double share = 0;
};

struct Cells {
    std::vector<Cell> all;
    std::vector<std::vector<std::size_t>> of; ///< by candidate: the cells that its reading may be in
};

/// Ranges that overlap are one cell; a range of which nothing more is known than that it is no short is in every cell
/// that it overlaps.
Cells cellsOf(std::span<const measuring::Reading> readings, std::span<const double> weights);
/// In bits: how much the answer says of the candidates.
double bitsOf(const Cells& cells, std::span<const double> weights);

} // namespace ts::finding
