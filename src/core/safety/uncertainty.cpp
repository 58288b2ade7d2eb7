#include "core/safety/uncertainty.h"

#include <algorithm>
#include <cmath>
#include <random>

namespace ts::safety {
namespace {

std::vector<ChainInput> inputsOf(const Chain& chain)
{
    std::vector<ChainInput> inputs;
    const auto add = [&inputs](const ChainInput& i) {
        if (std::find(inputs.begin(), inputs.end(), i) == inputs.end())
            inputs.push_back(i);
    };
    const auto addPart = [&](const ChainPart& p) {
        if (p.isExcluded)
            return;
        add({p.device, InputKind::Reliability});
        if (p.b10dCycles > 0)
            add({p.device, InputKind::Cycles});
    };
    for (const ChainSubsystem& s : chain.subsystems) {
        for (const auto& channel : s.channels)
            std::for_each(channel.begin(), channel.end(), addPart);
        std::for_each(s.test.begin(), s.test.end(), addPart);
    }
    return inputs;
}

/// One part's place among the inputs; -1: does not vary.
struct Varied {
    ChainPart* part = nullptr;
    ChainPart as; ///< as it is in the chain
    int reliability = -1, cycles = -1;
};

/// A copy of the chain of which the parts can be moved.
class Movable {
public:
    explicit Movable(const Chain& chain)
        : m_chain(chain)
        , m_inputs(inputsOf(chain))
    {
        const auto place = [this](const ChainInput& i) {
            const auto found = std::find(m_inputs.begin(), m_inputs.end(), i);
            return found == m_inputs.end() ? -1 : static_cast<int>(found - m_inputs.begin());
        };
        const auto add = [&](ChainPart& p) {
            if (!p.isExcluded)
                m_parts.push_back({&p, p, place({p.device, InputKind::Reliability}),
                    p.b10dCycles > 0 ? place({p.device, InputKind::Cycles}) : -1});
        };
        for (ChainSubsystem& s : m_chain.subsystems) {
            for (auto& channel : s.channels)
                std::for_each(channel.begin(), channel.end(), add);
            std::for_each(s.test.begin(), s.test.end(), add);
        }
    }
    Movable(const Movable&) = delete;

    const std::vector<ChainInput>& inputs() const { return m_inputs; }
    Chain& chain() { return m_chain; }
    /// Basis of what a device's reliability rests on.
    bool isTypical(std::size_t input) const
    {
        return std::any_of(m_parts.begin(), m_parts.end(),
            [&](const Varied& v) { return v.reliability == static_cast<int>(input) && v.as.basis == Basis::Typical; });
    }
    /// Every input times its factor.
    void move(std::span<const double> factors)
    {
        for (const Varied& v : m_parts) {
            const double f = factors[static_cast<std::size_t>(v.reliability)];
            v.part->b10dCycles = v.as.b10dCycles * f;
            v.part->mttfdYears = v.as.mttfdYears * f;
            if (v.cycles >= 0)
                v.part->operationsPerYear = v.as.operationsPerYear * factors[static_cast<std::size_t>(v.cycles)];
        }
    }

private:
    Chain m_chain;
    std::vector<ChainInput> m_inputs;
    std::vector<Varied> m_parts;
};

/// Sums for the correlation of each input with the result.
struct Sums {
    double y = 0, yy = 0;
    std::vector<double> x, xx, xy;
    explicit Sums(std::size_t inputs)
        : x(inputs)
        , xx(inputs)
        , xy(inputs)
    {
    }
    void add(std::span<const double> drawn, double result)
    {
        y += result;
        yy += result * result;
        for (std::size_t i = 0; i < drawn.size(); ++i) {
            x[i] += drawn[i];
            xx[i] += drawn[i] * drawn[i];
            xy[i] += drawn[i] * result;
        }
    }
    /// Square of the correlation coefficient.
    double correlation2(std::size_t i, double n) const
    {
        const double covariance = xy[i] / n - x[i] / n * (y / n), varX = xx[i] / n - x[i] / n * (x[i] / n),
                     varY = yy / n - y / n * (y / n);
        return varX > 1e-15 && varY > 1e-15 ? covariance * covariance / (varX * varY) : 0.0;
    }
};

std::vector<Uncertainty::Drive> drivesOf(const Sums& sums, const std::vector<ChainInput>& inputs, double n)
{
    std::vector<Uncertainty::Drive> drives;
    double all = 0.0;
    for (std::size_t i = 0; i < inputs.size(); ++i) {
        drives.push_back({inputs[i], n > 1 ? sums.correlation2(i, n) : 0.0});
        all += drives.back().share;
    }
    if (all <= 0.0)
        return {};
    for (auto& d : drives)
        d.share /= all;
    std::stable_sort(drives.begin(), drives.end(), [](const auto& a, const auto& b) { return a.share > b.share; });
    return drives;
}

bool isFactor(double f)
{
    return f >= 1.0 && f <= 1000.0;
}

} // namespace

Spread spreadOf(const ArithmeticChoice& c)
{
    return {c.typicalFactor, c.makerFactor, c.cyclesFactor};
}

Expected<Uncertainty> uncertaintyOf(const Chain& chain, const Spread& spread, std::optional<Level> required,
    std::size_t draws, std::uint64_t seed, std::stop_token stop)
{
    if (draws == 0 || draws > 10'000'000 || !isFactor(spread.typicalFactor) || !isFactor(spread.makerFactor)
        || !isFactor(spread.cyclesFactor))
        return failure(ErrorCode::OutOfRange, message("uncertainty.out_of_range"));
    Movable movable(chain);
    const std::size_t count = movable.inputs().size();
    std::vector<double> width(count), drawn(count), factors(count);
    for (std::size_t i = 0; i < count; ++i)
        width[i] = std::log(movable.inputs()[i].kind == InputKind::Cycles ? spread.cyclesFactor
                : movable.isTypical(i)                                    ? spread.typicalFactor
                                                                          : spread.makerFactor);
    Uncertainty u;
    u.draws = draws;
    Sums sums(count);
    std::vector<double> results;
    results.reserve(draws);
    std::mt19937_64 random(seed);
    constexpr double kScale = 2.0 / 18446744073709551616.0; // 2^64: the same everywhere, unlike the library's
                                                            // distributions
    for (std::size_t k = 0; k < draws; ++k) {
        if ((k & 0xfff) == 0 && stop.stop_requested())
            return cancelled();
        for (std::size_t i = 0; i < count; ++i) {
            drawn[i] = (static_cast<double>(random()) * kScale - 1.0) * width[i];
            factors[i] = std::exp(drawn[i]);
        }
        movable.move(factors);
        const ChainFigures f = figuresOf(movable.chain());
        if (!f.level)
            continue;
        u.levelShares[static_cast<std::size_t>(*f.level)] += 1.0;
        u.reachedShare += required && *f.level >= *required;
        sums.add(drawn, std::log(f.pfhd.si()));
        results.push_back(f.pfhd.si());
    }
    u.withLevel = results.size();
    for (double& share : u.levelShares)
        share /= static_cast<double>(draws);
    u.reachedShare /= static_cast<double>(draws);
    constexpr std::array kPercent{0.05, 0.25, 0.50, 0.75, 0.95};
    for (std::size_t p = 0; p < kPercent.size() && !results.empty(); ++p) {
        const auto nth = results.begin()
            + static_cast<std::ptrdiff_t>(kPercent[p] * static_cast<double>(results.size() - 1) + 0.5);
        std::nth_element(results.begin(), nth, results.end());
        u.pfhdPerHour[p] = *nth;
    }
    u.drives = drivesOf(sums, movable.inputs(), static_cast<double>(u.withLevel));
    return u;
}

std::vector<Sensitivity> sensitivitiesOf(const Chain& chain)
{
    Movable movable(chain);
    movable.chain().readings.method = PfhdMethod::Interpolated;
    const ChainFigures as = figuresOf(movable.chain());
    std::vector<Sensitivity> list;
    if (!as.level)
        return list;
    std::vector<double> factors(movable.inputs().size(), 1.0);
    for (std::size_t i = 0; i < factors.size(); ++i) {
        factors[i] = movable.inputs()[i].kind == InputKind::Cycles ? 1.1 : 1.0 / 1.1;
        movable.move(factors);
        if (const ChainFigures worse = figuresOf(movable.chain()); worse.level)
            list.push_back({movable.inputs()[i], worse.pfhd.si() / as.pfhd.si()});
        factors[i] = 1.0;
    }
    std::stable_sort(
        list.begin(), list.end(), [](const Sensitivity& a, const Sensitivity& b) { return a.ratio > b.ratio; });
    return list;
}

} // namespace ts::safety
