#pragma once
// One cause that breaks several things at once: named, run alone and judged apart from single faults. Internal to
// faults/; they stand at the end of faultList(). Source: ISO 13849-1 annex F (common cause), ISO 13849-2 annex D
// (cables).

#include "core/faults/fault_list.h"

namespace ts::faults {

/// A cable cut, its cores crushed together, both contactors in series welded by one short behind them. Pure.
std::vector<SweptFault> commonCauses(const Plant& plant, const Circuit& circuit);

/// Pairs of contactors that feed a motor together and not alone, all others being out: movers in ascending order.
std::vector<std::pair<int, int>> contactorsInSeries(const Plant& plant, int motor);

} // namespace ts::faults
