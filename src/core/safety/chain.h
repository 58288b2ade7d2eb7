#pragma once
// A function's chain as bare numbers, without texts: what sweeps, sliders and Monte Carlo compute thousands of times.
// The same formulas as level.h, which explains every value and is held against this one by a test.

#include "core/model/dossier.h"
#include "core/safety/category.h"

#include <vector>

namespace ts::safety {

struct ChainPart {
    double b10dCycles = 0; ///< 0: does not wear, has mttfdYears
    double operationsPerYear = 0;
    double mttfdYears = 0; ///< where b10dCycles is 0
    double coverage = 0; ///< 0..1
    bool isTested = false;
    bool isExcluded = false; ///< takes no part in the sums
    Basis basis = Basis::Part; ///< Typical: from a table
    DeviceId device;

    double mttfd() const { return b10dCycles > 0 ? b10dCycles / (0.1 * operationsPerYear) : mttfdYears; }
};

struct ChainSubsystem {
    std::optional<PerHour> makerPfhd; ///< encapsulated: this, and makerLevel
    bool isLevelOnly = false; ///< encapsulated, and only makerLevel is known: subsystems are counted
    Level makerLevel = Level::A;
    Category category = Category::B;
    std::vector<std::vector<ChainPart>> channels; ///< one or two
    std::vector<ChainPart> test; ///< category 2
    CategoryFacts facts; ///< what the numbers of the parts do not say
    bool isAtMostD = false; ///< the mechanics of a guard switch are excluded, or faults are noticed by the process
                            ///< alone: never PL e (ISO 13849-2 table D.8, ISO 13849-1 annex E)
};

/// Made of a claim by functionLevel() (level.h).
struct Chain {
    std::vector<ChainSubsystem> subsystems;
    Readings readings;
};

struct SubsystemFigures {
    CategoryFacts facts; ///< with MTTFd and coverage of the parts
    double mttfdYears = 0; ///< joined, capped
    PerHour pfhd;
    std::optional<Level> level; ///< none: a condition is not met, or the table has no value
};

struct ChainFigures {
    PerHour pfhd; ///< sum
    std::optional<Level> level;
};

Readings readingsOf(const ArithmeticChoice&);

/// Facts with what the parts say: MTTFd of channels and of the test equipment, DCavg. Parts that are excluded are left
/// out; every channel has at least one that is not.
CategoryFacts factsOf(const ChainSubsystem&, const Readings&);
/// PFHd and level of a category from facts of which the conditions are met. The level is limited by B, 1, and a test
/// that only warns.
struct TableFigures {
    PerHour pfhd;
    Level level;
};
std::optional<TableFigures> tableFigures(Category, const CategoryFacts&, const Readings&);
/// Of an output part without reliability data. Source: ISO 13849-1:2015 clause 4.5.5, output_parts_by_category.csv.
TableFigures estimatedFigures(Category);

SubsystemFigures figuresOf(const ChainSubsystem&, const Readings&);
ChainFigures figuresOf(const Chain&);

} // namespace ts::safety
