#pragma once
// Two pictures of one function's level: from whom its dangerous failures per hour come, and where its subsystems stand
// on the curves of the categories.

#include "core/figures/figure.h"

#include <optional>
#include <utility>

namespace ts::figures {

struct Contribution {
    std::string name, about; ///< "Q1", "Contactors of the deck"
    double pfhdPerHour = 0;
};

struct ShareWords {
    std::string heading, unit; ///< "dangerous failures per hour"
    std::string none; ///< nothing to show
};

/// One bar each, the largest first; linear bars end at the sum, logarithmic ones begin at a thousandth of the largest.
/// Spots are the bars, their items places in the list that was given. Pure.
Figure shares(const std::vector<Contribution>& list, bool isLogarithmic, const ShareWords& words, double width,
    double height, int chosen = -1);

/// One column of the table: MTTFd in years and PFHd, in order of years.
struct CategoryCurve {
    std::string name; ///< "3, DC low"
    std::vector<std::pair<double, double>> points;
};
struct CurvePoint {
    std::string name;
    double mttfdYears = 0, pfhdPerHour = 0;
};
struct CurveWords {
    std::string heading, x, y, required;
};

/// Both axes logarithmic: 3 to 2500 years, 1e-4 to 1e-9 per hour, the better further up. Pure.
Figure categoryCurves(const std::vector<CategoryCurve>& curves, const std::vector<CurvePoint>& points,
    std::optional<double> requiredBelow, const CurveWords& words, double width, double height);

} // namespace ts::figures
