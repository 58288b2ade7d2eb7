#pragma once
// Physical quantities as types: volts plus seconds does not compile. SI inside.
// Made only by the named factories below, read by si().

#include <compare>
#include <cstdint>

namespace ts {

template <class Tag> class Quantity {
public:
    constexpr Quantity() = default;
    /// The value in SI units.
    constexpr double si() const { return m_si; }
    static constexpr Quantity fromSi(double value)
    {
        Quantity q;
        q.m_si = value;
        return q;
    }
    constexpr auto operator<=>(const Quantity&) const = default;
    friend constexpr Quantity operator+(Quantity a, Quantity b) { return fromSi(a.m_si + b.m_si); }
    friend constexpr Quantity operator-(Quantity a, Quantity b) { return fromSi(a.m_si - b.m_si); }
    friend constexpr Quantity operator*(Quantity a, double k) { return fromSi(a.m_si * k); }
    friend constexpr double operator/(Quantity a, Quantity b) { return a.m_si / b.m_si; }

private:
    double m_si = 0.0;
};

using Volts = Quantity<struct VoltsTag>;
using Amperes = Quantity<struct AmperesTag>;
using Seconds = Quantity<struct SecondsTag>;
using Years = Quantity<struct YearsTag>; ///< mean time to failure; kept in years, as the standard's tables are
using PerHour = Quantity<struct PerHourTag>; ///< probability of dangerous failure per hour
using PerYear = Quantity<struct PerYearTag>; ///< operations per year
using Cycles = Quantity<struct CyclesTag>;

constexpr Volts volts(double v)
{
    return Volts::fromSi(v);
}
constexpr Amperes amperes(double a)
{
    return Amperes::fromSi(a);
}
constexpr Seconds seconds(double s)
{
    return Seconds::fromSi(s);
}
constexpr double kHoursPerYear = 8760.0;
constexpr Years years(double y)
{
    return Years::fromSi(y);
}
constexpr PerHour perHour(double p)
{
    return PerHour::fromSi(p);
}
constexpr PerYear perYear(double n)
{
    return PerYear::fromSi(n);
}
constexpr Cycles cycles(double n)
{
    return Cycles::fromSi(n);
}

/// Simulated time in whole nanoseconds.
using TimeNs = std::int64_t;
constexpr TimeNs kSecondNs = 1'000'000'000;
constexpr TimeNs kGridNs = 10'000; ///< computed instants are rounded up to this grid before they are scheduled

/// Rounded to the 10 us grid; exact instants of the user stay exact.
TimeNs timeNs(Seconds time);
constexpr Seconds secondsOf(TimeNs time)
{
    return seconds(static_cast<double>(time) * 1e-9);
}

} // namespace ts
