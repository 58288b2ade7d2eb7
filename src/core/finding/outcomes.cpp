#include "core/finding/outcomes.h"

#include <algorithm>
#include <cmath>
#include <numeric>
#include <tuple>

namespace ts::finding {

using measuring::kEndless;
using measuring::Reading;

namespace {

/// What is behind electronics reads anything above this.
bool isAnything(const Reading& r)
{
    static const double open = measuring::bandOf("open_from").low;
    return r.word.empty() && r.high == kEndless && r.low < open / 2;
}

double termOf(double share)
{
    return share > 0 ? -share * std::log2(share) : 0.0;
}

std::vector<std::size_t> inOrder(std::span<const Reading> readings)
{
    std::vector<std::size_t> order(readings.size());
    std::iota(order.begin(), order.end(), std::size_t{0});
    std::sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) {
        return std::tie(readings[a].word, readings[a].low) < std::tie(readings[b].word, readings[b].low);
    });
    return order;
}

} // namespace

Cells cellsOf(std::span<const Reading> readings, std::span<const double> weights)
{
    Cells cells;
    cells.of.resize(readings.size());
    for (const std::size_t k : inOrder(readings)) {
        const Reading& r = readings[k];
        if (isAnything(r))
            continue;
        if (cells.all.empty() || differ(cells.all.back().reading, r))
            cells.all.push_back({r, 0});
        Reading& together = cells.all.back().reading;
        together.high = std::max(together.high, r.high);
        cells.of[k] = {cells.all.size() - 1};
    }
    for (std::size_t k = 0; k < readings.size(); ++k) {
        if (!isAnything(readings[k]))
            continue;
        for (std::size_t c = 0; c < cells.all.size(); ++c)
            if (!differ(cells.all[c].reading, readings[k]))
                cells.of[k].push_back(c);
        if (cells.of[k].empty()) {
            cells.all.push_back({readings[k], 0});
            cells.of[k] = {cells.all.size() - 1};
        }
    }
    for (std::size_t k = 0; k < readings.size(); ++k)
        for (const std::size_t c : cells.of[k])
            cells.all[c].share += weights[k] / static_cast<double>(cells.of[k].size());
    return cells;
}

double bitsOf(const Cells& cells, std::span<const double> weights)
{
    double bits = 0;
    for (const Cell& c : cells.all)
        bits += termOf(c.share);
    for (std::size_t k = 0; k < weights.size(); ++k)
        bits -= weights[k] * std::log2(static_cast<double>(cells.of[k].size()));
    return std::max(bits, 0.0);
}

} // namespace ts::finding
