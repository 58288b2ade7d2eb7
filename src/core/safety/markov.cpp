#include "core/safety/markov.h"

#include <Eigen/Core>
#include <unsupported/Eigen/MatrixFunctions>

#include <cmath>

namespace ts::safety {
namespace {

// Both whole; one failed so that the check finds it, or not. The last row adds up dangerous failures.
enum State { Whole, AFound, AHidden, BFound, BHidden, Count, Size };
using Matrix = Eigen::Matrix<double, Size, Size>;

Matrix generator(const MarkovChannel& a, const MarkovChannel& b, double beta)
{
    const double rateA = 1.0 / (a.mttfd.si() / years(1.0).si() * kHoursPerYear),
                 rateB = 1.0 / (b.mttfd.si() / years(1.0).si() * kHoursPerYear);
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

bool isUsable(const MarkovChannel& c)
{
    return c.mttfd.si() > 0.0 && std::isfinite(c.mttfd.si()) && c.coverage >= 0.0 && c.coverage <= 1.0;
}

bool isUsable(const MarkovOptions& o)
{
    return o.commonCause >= 0.0 && o.commonCause <= 1.0 && o.mission.si() > 0.0 && o.mission.si() <= years(100.0).si();
}

double ratePerHour(Years mttfd)
{
    return 1.0 / (mttfd.si() / years(1.0).si() * kHoursPerYear);
}

/// Mean frequency over the mission of a model whose last row adds up dangerous failures.
template <int N> PerHour meanOf(const Eigen::Matrix<double, N, N>& generatorMatrix, Years mission)
{
    const double hours = mission.si() / years(1.0).si() * kHoursPerYear;
    const Eigen::Matrix<double, N, N> whole = (generatorMatrix * hours).exp();
    return perHour(whole(N - 1, 0) / hours); // from everything whole
}

/// One channel's failures, capped, with the share of them that is found.
MarkovChannel channelOf(const std::vector<ChainPart>& parts, Years cap)
{
    double rate = 0.0, found = 0.0;
    for (const ChainPart& p : parts)
        if (!p.isExcluded) {
            rate += 1.0 / p.mttfd();
            found += p.coverage / p.mttfd();
        }
    return rate > 0.0 ? MarkovChannel{std::min(years(1.0 / rate), cap), found / rate} : MarkovChannel{years(0.0), 0.0};
}

} // namespace

Expected<PerHour> dualChannelAtOncePfhd(const MarkovChannel& a, const MarkovChannel& b, const MarkovOptions& o)
{
    if (!isUsable(a) || !isUsable(b) || !isUsable(o))
        return failure(ErrorCode::OutOfRange, message("markov.out_of_range"));
    const double rateA = ratePerHour(a.mttfd), rateB = ratePerHour(b.mttfd);
    enum { W, OnlyBLeft, OnlyALeft, Failures };
    Eigen::Matrix4d m = Eigen::Matrix4d::Zero();
    const auto goes = [&m](int from, int to, double rate) {
        m(to, from) += rate;
        m(from, from) -= rate;
    };
    goes(W, OnlyBLeft, (1.0 - o.commonCause) * rateA * (1.0 - a.coverage));
    goes(W, OnlyALeft, (1.0 - o.commonCause) * rateB * (1.0 - b.coverage));
    m(Failures, W) += o.commonCause * std::sqrt(rateA * rateB);
    for (const auto& [state, rate] : {std::pair<int, double>{OnlyBLeft, rateB}, {OnlyALeft, rateA}}) {
        goes(state, W, rate);
        m(Failures, state) += rate;
    }
    return meanOf<4>(m, o.mission);
}

Expected<PerHour> testedChannelPfhd(const MarkovChannel& channel, Years testEquipment, const MarkovOptions& o)
{
    if (!isUsable(channel) || !isUsable(MarkovChannel{testEquipment, 0.0}) || !isUsable(o))
        return failure(ErrorCode::OutOfRange, message("markov.out_of_range"));
    const double rate = ratePerHour(channel.mttfd), test = ratePerHour(testEquipment);
    enum { W, TestFailed, Failures };
    Eigen::Matrix3d m = Eigen::Matrix3d::Zero();
    const auto goes = [&m](int from, int to, double r) {
        m(to, from) += r;
        m(from, from) -= r;
    };
    goes(W, TestFailed, test);
    goes(TestFailed, W, rate);
    // Beta is the share of the channel's failures that take the test equipment with them; what else fails there is its
    // own rate.
    m(Failures, W) += rate * (o.commonCause + (1.0 - o.commonCause) * (1.0 - channel.coverage));
    m(Failures, TestFailed) += rate;
    return meanOf<3>(m, o.mission);
}

std::optional<PerHour> markovPfhd(const ChainSubsystem& s, const Readings&, const MarkovOptions& o)
{
    if (s.makerPfhd || s.facts.isEstimated || s.channels.empty())
        return std::nullopt;
    const Years cap = mttfdCap(s.category);
    const MarkovChannel first = channelOf(s.channels[0], cap);
    Expected<PerHour> pfhd = failure(ErrorCode::OutOfRange, message("markov.out_of_range"));
    if (s.category <= Category::One && isUsable(first))
        pfhd = perHour(ratePerHour(first.mttfd));
    else if (s.category == Category::Two && !s.test.empty())
        pfhd = testedChannelPfhd(first, channelOf(s.test, years(2500.0)).mttfd, o);
    else if (s.category >= Category::Three && s.channels.size() == 2)
        pfhd = dualChannelAtOncePfhd(first, channelOf(s.channels[1], cap), o);
    return pfhd ? std::optional(*pfhd) : std::nullopt;
}

Expected<PerHour> dualChannelPfhd(const MarkovChannel& a, const MarkovChannel& b, const MarkovOptions& o)
{
    const auto isShare = [](double x) { return x >= 0.0 && x <= 1.0; };
    const double intervals = o.mission.si() / o.checkInterval.si();
    if (!(a.mttfd.si() > 0.0) || !(b.mttfd.si() > 0.0) || !isShare(a.coverage) || !isShare(b.coverage)
        || !isShare(o.commonCause) || !(o.checkInterval.si() > 0.0) || !(o.mission.si() <= years(100.0).si())
        || !(intervals >= 1.0 && intervals <= 1e5))
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
