#pragma once
// Readings of ISO 13849-1 on which editions or competent people differ, as values; the first of each is ours. The words
// that stand for them in files are in one table, which readers, printers and the window go through.

#include <array>
#include <cstddef>
#include <string_view>
#include <type_traits>

namespace ts {

/// Of ISO 13849-1. Ours is 2015: tables, formulas and clause numbers are its own. An older file may ask for 2023; that
/// is found fault with, never reckoned by halves.
enum class Edition { Of2015, Of2023 };
enum class PfhdMethod { Row, Interpolated }; ///< the next lower row (the standard's), or between two rows
enum class DifferentChannels { Joined, Lower }; ///< class of two different channels: of the joined value or the lower
enum class TestEquipment { Capped, Uncapped }; ///< it has half of the channel's MTTFd, with or without its cap
enum class UntestedParts { AsZero, LeftOut }; ///< in DCavg
enum class CategoryBAbove30 { Category1Column, LastRow }; ///< years of MTTFd

struct ArithmeticChoice {
    Edition edition = Edition::Of2015;
    PfhdMethod method = PfhdMethod::Row;
    DifferentChannels differentChannels = DifferentChannels::Joined;
    TestEquipment testEquipment = TestEquipment::Capped;
    UntestedParts untestedParts = UntestedParts::AsZero;
    CategoryBAbove30 categoryBAbove30 = CategoryBAbove30::Category1Column;
    bool toleranceOnLimits = false; ///< classes' limits with 5 % tolerance (ISO 13849-1 clause 4.5.2 note)
    double missionYears = 20.0;
    double commonCauseShare = 0.02; ///< beta of the Markov model
    double typicalFactor = 3.0, makerFactor = 1.5,
           cyclesFactor = 2.0; ///< uncertainty: an input may be this many times lower or higher
    bool operator==(const ArithmeticChoice&) const = default;
};

/// One reading by name, whatever its type: which of its two ways is chosen, 0 or 1.
struct ReadingField {
    const char* name;
    std::array<const char*, 2> words;
    bool isAlwaysWritten; ///< else only where it is not the first
    int (*get)(const ArithmeticChoice&);
    void (*set)(ArithmeticChoice&, int way);
    std::string_view wordIn(const ArithmeticChoice& a) const { return words[static_cast<std::size_t>(get(a))]; }
};

template <auto Member>
constexpr ReadingField reading(const char* name, const char* first, const char* second, bool isAlwaysWritten = false)
{
    return {name, {first, second}, isAlwaysWritten,
        [](const ArithmeticChoice& a) { return static_cast<int>(a.*Member); },
        [](ArithmeticChoice& a, int way) {
            auto& into = a.*Member;
            into = static_cast<std::remove_reference_t<decltype(into)>>(way);
        }};
}

inline constexpr ReadingField kEdition = reading<&ArithmeticChoice::edition>("edition", "2015", "2023", true);
inline constexpr ReadingField kMethod = reading<&ArithmeticChoice::method>("method", "row", "interpolated", true);
inline constexpr std::array kReadings{
    kEdition,
    kMethod,
    reading<&ArithmeticChoice::differentChannels>("different_channels", "joined", "lower"),
    reading<&ArithmeticChoice::testEquipment>("test_equipment", "capped", "uncapped"),
    reading<&ArithmeticChoice::untestedParts>("untested_parts", "as_zero", "left_out"),
    reading<&ArithmeticChoice::categoryBAbove30>("category_b_above_30_years", "category_1_column", "last_row"),
};

} // namespace ts
