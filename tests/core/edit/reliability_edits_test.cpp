#include "core/edit/reliability_edits.h"
#include "core/safety/level.h"
#include "tests/support/circuits.h"

#include <limits>

namespace ts::edit {
namespace {

const Dossier& chipBlower()
{
    static const Dossier d = test::demoFile().dossier;
    return d;
}

DeviceId idOf(const char* tag)
{
    return chipBlower().circuit.device(tag)->id;
}

TEST(WithReliability, StandsInFrontOfItsPartsAndGoesAgain)
{
    Reliability own;
    own.b10dCycles = 500'000;
    own.source = "sheet 7";
    const auto with = withReliability(chipBlower(), idOf("Q1"), own);
    ASSERT_TRUE(with);
    EXPECT_EQ(with->circuit.reliabilityOf(*with->circuit.device("Q1"))->b10dCycles, 500'000);
    EXPECT_EQ(*withReliability(*with, idOf("Q1"), std::nullopt), chipBlower());
}

TEST(WithReliability, AWorseContactorMakesAWorseNumber)
{
    Reliability own;
    own.b10dCycles = 1000;
    const auto with = withReliability(chipBlower(), idOf("Q1"), own);
    ASSERT_TRUE(with);
    const auto before = safety::functionLevel(chipBlower(), chipBlower().functions[0]),
               after = safety::functionLevel(*with, with->functions[0]);
    ASSERT_GE(before.pfhd, 0);
    if (after.pfhd >= 0) {
        EXPECT_GT(after.explanation[after.pfhd].si, before.explanation[before.pfhd].si);
    } else {
        EXPECT_FALSE(after.level);
    }
}

TEST(WithReliability, RefusesWhatSaysNothingOrTooMuch)
{
    Reliability nothing, both, bare, none;
    both.b10dCycles = 1e6;
    both.mttfdYears = 100;
    bare.pfhdPerHour = 1e-9; // without PL and category
    for (const Reliability& r : {nothing, both, bare})
        EXPECT_EQ(withReliability(chipBlower(), idOf("Q1"), r).error().code, ErrorCode::Refused);
    none.b10dCycles = 1e6;
    EXPECT_EQ(withReliability(chipBlower(), {99999}, none).error().code, ErrorCode::NotFound);
}

TEST(WithReliability, RefusesNumbersNoPartHas)
{
    const double nan = std::numeric_limits<double>::quiet_NaN();
    for (double b10d : {0.0, -5.0, 0.5, 1e13, nan}) {
        Reliability r;
        r.b10dCycles = b10d;
        EXPECT_EQ(withReliability(chipBlower(), idOf("Q1"), r).error().code, ErrorCode::OutOfRange) << b10d;
    }
    for (double share : {0.0, 1.5, nan}) {
        Reliability r;
        r.b10Cycles = 1e6;
        r.dangerousShare = share;
        EXPECT_EQ(withReliability(chipBlower(), idOf("Q1"), r).error().code, ErrorCode::OutOfRange) << share;
    }
}

} // namespace
} // namespace ts::edit
