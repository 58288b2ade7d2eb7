#include "core/safety/markov.h"

#include <Eigen/Core>
#include <unsupported/Eigen/MatrixFunctions>

#include <cmath>

namespace ts::safety {
namespace {

constexpr double kHoursPerYear = 8760.0;

// Both whole; one failed so that the check finds it, or not. The last row adds up dangerous failures.
enum State { Whole, AFound, AHidden, BFound, BHidden, Count, Size };
using Matrix = Eigen::Matrix<double, Size, Size>;

Matrix generator(const MarkovChannel& a, const MarkovChannel& b, double beta)
{
    const double rateA = 1.0 / (a.mttfd.si() / years(1.0).si() * kHoursPerYear), rateB = 1.0 / (b.mttfd.si() / years(1.0).si() * kHoursPerYear);
    const double both = beta * std::sqrt(rateA * rateB), aloneA = (1.0 - beta) * rateA, aloneB = (1.0 - beta) * rateB;
    Matrix m = Matrix::Zero(); // column: from, row: to
    const auto goes = [&m](State from, State to, double rate) {
        m(to, from) += rate;
        m(from, from) -= rate;
    };
    const auto fails = [&](State from, double rate) { // dangerous: counted, and everything is whole again
        goes(from, Whole, rate);
        m(Count, from) += rate;
    };
    goes(Whole, AFound, aloneA * a.coverage);
    goes(Whole, AHidden, aloneA * (1.0 - a.coverage));
    goes(Whole, BFound, aloneB * b.coverage);
    goes(Whole, BHidden, aloneB * (1.0 - b.coverage));
    m(Count, Whole) += both;
    fails(AFound, rateB); // what would hit both hits the one that is left
    fails(AHidden, rateB);
    fails(BFound, rateA);
    fails(BHidden, rateA);
    return m;
}

} // namespace

Expected<PerHour> dualChannelPfhd(const MarkovChannel& a, const MarkovChannel& b, const MarkovOptions& o)
{
    const auto isShare = [](double x) { return x >= 0.0 && x <= 1.0; };
    const double intervals = o.mission.si() / o.checkInterval.si();
    if (!(a.mttfd.si() > 0.0) || !(b.mttfd.si() > 0.0) || !isShare(a.coverage) || !isShare(b.coverage) || !isShare(o.commonCause)
        || !(o.checkInterval.si() > 0.0) || !(o.mission.si() <= years(100.0).si()) || !(intervals >= 1.0 && intervals <= 1e5))
        return failure(ErrorCode::OutOfRange, message("markov.out_of_range"));
    const double hours = o.checkInterval.si() / years(1.0).si() * kHoursPerYear;
    const Matrix step = (generator(a, b, o.commonCause) * hours).exp();
    Eigen::Matrix<double, Size, 1> p = Eigen::Matrix<double, Size, 1>::Zero();
    p(Whole) = 1.0;
    const int whole = static_cast<int>(std::floor(intervals + 1e-9));
    for (int k = 0; k < whole; ++k) {
        p = step * p;
        p(Whole) += p(AFound) + p(BFound);
        p(AFound) = p(BFound) = 0.0;
    }
    return perHour(p(Count) / (whole * hours));
}

} // namespace ts::safety
