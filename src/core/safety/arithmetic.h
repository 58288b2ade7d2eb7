#pragma once
// ISO 13849-1 (2015, unchanged in 2023 for what stands here): formulas as free functions on quantities, one per step.
// They keep nothing; level.h runs the same functions and keeps every value. All pure, all refuse NaN.

#include "core/base/expected.h"
#include "core/base/quantity.h"
#include "core/model/level.h"
#include "core/model/readings.h"

#include <optional>
#include <span>
#include <string_view>

namespace ts::safety {

enum class MttfdClass { NotAcceptable, Low, Medium, High };
enum class CoverageClass { None, Low, Medium, High };

/// Readings of the standard on which editions or competent people differ; the defaults are ours and are named in every
/// output.
struct Readings {
    PfhdMethod method = PfhdMethod::Row;
    bool classOfJoined = true; ///< two different channels: class of the joined value; else of the lower one
    bool testAgainstCapped = true; ///< test equipment: at least half of the capped channel; else of the uncapped one
    bool untestedAsZero = true; ///< untested parts count in DCavg with 0; else they are left out
    bool categoryBReadsOne = true; ///< category B above the table's 30 years reads the category 1 column; else its own
                                   ///< last row
    double tolerance = 0.0; ///< share by which a class limit may be missed, 0 or 0.05 (clause 4.5.2, note)
};

constexpr double kMissionYears = 20.0; ///< clause 4.5.4
constexpr int kCommonCausePoints = 65; ///< annex F

/// Annex C, formula C.2: nop = dop * hop * 3600 / tcycle. OutOfRange unless all are above zero, days <= 366, hours
/// <= 24.
Expected<PerYear> operationsPerYear(double daysPerYear, double hoursPerDay, Seconds cycle);
/// Annex C, formula C.1: B10d / (0.1 nop). OutOfRange unless both are above zero.
Expected<Years> mttfdFromB10d(Cycles b10d, PerYear operations);
/// Annex C, formula C.3: B10d / nop, time until 10 % have failed dangerously. OutOfRange as above.
Expected<Years> replacementTime(Cycles b10d, PerYear operations);
/// Annex C.4.2: B10 / share of dangerous failures. OutOfRange unless B10 is above zero and the share in (0, 1].
Expected<Cycles> b10dFromB10(Cycles b10, double dangerousShare);
/// Annex C.5.1: MTTF / share of dangerous failures (one half if it is not known: MTTFd = 2 MTTF). OutOfRange as above.
Expected<Years> mttfdFromMttf(Years mttf, double dangerousShare);
/// From dangerous failures in 1e9 hours: 1e9 / (8760 FIT). OutOfRange unless above zero.
Expected<Years> mttfdFromFit(double fitDangerous);
/// Annex D, formula D.1: parts count. OutOfRange for an empty list or a value not above zero.
Expected<Years> channelMttfd(std::span<const Years> parts);
/// Clause 4.5.2: 100 years, 2500 in category 4.
Years mttfdCap(Category);
/// Annex D, formula D.2: two different channels as one value. Both above zero.
Years symmetrisedMttfd(Years a, Years b);

struct PartCoverage {
    Years mttfd;
    double coverage = 0; ///< 0..1
};
/// Annex E, formula E.1. The parts' MTTFd enter uncapped; untested parts count with 0. OutOfRange for an empty list.
Expected<double> averageCoverage(std::span<const PartCoverage> parts);

/// Clause 4.5.2, table 4. Below 3 years is not acceptable.
MttfdClass mttfdClass(Years, double tolerance = 0.0);
/// Clause 4.5.3, table 5: none below 60 %, low below 90 %, medium below 99 %.
CoverageClass coverageClass(double coverage, double tolerance = 0.0);

/// Annex K: PFHd from category, coverage class and channel MTTFd. Nothing if the table has no value there.
/// Row: the next lower row. Interpolated: between rows, on logarithmic scales; at the last row the same.
/// Category B above the table's 30 years reads the category 1 column, or its own last row.
std::optional<PerHour> tablePfhd(Category, CoverageClass, Years channel, PfhdMethod, bool categoryBReadsOne = true);

/// Clause 4.5.1, table 2. Above 1e-4 there is no level.
std::optional<Level> levelOf(PerHour);
/// Clause 6.3, table 11: subsystems in series of which only levels are known, by how many have the lowest one. None for
/// an empty list, and if more than three have PL a.
std::optional<Level> levelByCount(std::span<const Level> subsystems);
/// Of subsystems in series: the lower of the sum's level and the lowest subsystem's; by count where there is no sum
/// (clause 6.3).
std::optional<Level> combinedLevel(std::span<const Level> subsystems, std::optional<PerHour> sum);
/// The lower of two.
constexpr Level lower(Level a, Level b)
{
    return a < b ? a : b;
}

/// Annex A, figure A.1: required level from severity, frequency and possibility of avoiding harm (each 1 or 2).
Level requiredLevel(bool serious, bool frequent, bool scarcelyAvoidable);

} // namespace ts::safety
