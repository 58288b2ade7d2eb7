#pragma once
// What the pictures of a level show: parts with their share of the dangerous failures, the table's columns, the
// subsystems as points.

#include "core/figures/level_figures.h"
#include "core/safety/level.h"
#include "core/safety/uncertainty.h"

namespace ts::wording {

/// A subsystem's PFHd goes to its parts in proportion to their dangerous failure rates that nothing detects (1 - DC) /
/// MTTFd; with all of them detected, in proportion to 1 / MTTFd. A reading of ours for "from whom", not one of the
/// standard.
struct PartShare {
    std::size_t subsystem = 0;
    int channel = -1; ///< -1: the whole subsystem
    std::size_t part = 0;
    double pfhdPerHour = 0;
};
std::vector<PartShare> partShares(const safety::FunctionLevel& level);
/// The same with names.
std::vector<figures::Contribution> contributionsOf(const safety::FunctionLevel& level);
figures::ShareWords shareWords();

std::vector<figures::CategoryCurve> categoryCurves();
std::vector<figures::CurvePoint> pointsOf(const safety::FunctionLevel& level);
figures::CurveWords curveWords(const std::optional<safety::Level>& required);
/// For paper: who brings how much of the danger; the curves of the categories with these subsystems on them.
figures::Figure sharesFigure(const safety::FunctionLevel& level);
figures::Figure curvesFigure(const safety::FunctionLevel& level);

/// PFHd below which a level begins.
double pfhdLimit(safety::Level level);

/// The Markov model of each designed subsystem beside the table's value, for comparison.
std::vector<std::string> markovLines(const safety::FunctionLevel& level, const ArithmeticChoice& choice);

/// "Q1, how often it works".
std::string inputText(const safety::ChainInput& input, const Circuit& circuit);
std::vector<std::string> uncertaintyLines(const safety::Uncertainty& u, const std::optional<safety::Level>& required,
    const safety::Spread& spread, const Circuit& circuit);

} // namespace ts::wording
