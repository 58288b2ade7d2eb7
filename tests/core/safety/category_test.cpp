// Conditions of the categories from both sides of every limit, and the best category that is left.

#include "core/safety/category.h"

#include <gtest/gtest.h>

namespace ts::safety {
namespace {

CategoryFacts facts(int channels, double mttfd, double coverage, double points = 65)
{
    CategoryFacts f;
    f.channels = channels;
    f.mttfdYears = {mttfd, mttfd};
    f.coverage = coverage;
    f.commonCausePoints = points;
    return f;
}

Met met(Category c, const CategoryFacts& f, const Readings& r = {})
{
    return isMet(c, f, r);
}

TEST(CategoryThree, EveryLimitFromBothSides)
{
    EXPECT_EQ(met(Category::Three, facts(2, 3.0, 0.60)), Met::Yes);
    EXPECT_EQ(met(Category::Three, facts(1, 3.0, 0.60)), Met::No);
    EXPECT_EQ(met(Category::Three, facts(2, 2.999, 0.60)), Met::No);
    EXPECT_EQ(met(Category::Three, facts(2, 3.0, 0.5999)), Met::No);
    EXPECT_EQ(met(Category::Three, facts(2, 3.0, 0.60, 64)), Met::No);
    CategoryFacts one = facts(2, 3.0, 0.60);
    one.mttfdYears[1] = 2.9; // each channel counts, not the joined value
    EXPECT_EQ(met(Category::Three, one), Met::No);
}

TEST(CategoryFour, EveryLimitFromBothSides)
{
    EXPECT_EQ(met(Category::Four, facts(2, 30.0, 0.99)), Met::Yes);
    EXPECT_EQ(met(Category::Four, facts(2, 29.99, 0.99)), Met::No);
    EXPECT_EQ(met(Category::Four, facts(2, 30.0, 0.9899)), Met::No);
}

TEST(CategoryOne, NeedsHighMttfdAndConfirmedPrinciples)
{
    CategoryFacts f = facts(1, 30.0, 0.0, 0);
    EXPECT_EQ(met(Category::One, f), Met::No);
    f.wellTried = true;
    EXPECT_EQ(met(Category::One, f), Met::Yes);
    f.mttfdYears[0] = 29.99;
    EXPECT_EQ(met(Category::One, f), Met::No);
    Readings tolerant;
    tolerant.tolerance = 0.05; // 29.99 / 0.95 = 31.57; the border is 28.5
    EXPECT_EQ(met(Category::One, f, tolerant), Met::Yes);
    f.mttfdYears[0] = 28.49;
    EXPECT_EQ(met(Category::One, f, tolerant), Met::No);
}

TEST(CategoryTwo, TestRateOutputAndEquipment)
{
    CategoryFacts f = facts(1, 80.0, 0.90);
    EXPECT_EQ(met(Category::Two, f), Met::No) << "nothing tests it";
    f.isTested = true;
    f.testMttfdYears = 40.0;
    EXPECT_EQ(met(Category::Two, f), Met::Yes) << "tested at the demand";
    for (const auto& [rate, expected] : {std::pair{100.0, Met::Yes}, {25.0, Met::Yes}, {24.9, Met::No}}) {
        f.testsPerDemand = rate;
        EXPECT_EQ(met(Category::Two, f), expected) << rate;
    }
    f.testsPerDemand.reset();
    f.testMttfdYears = 39.9;
    EXPECT_EQ(met(Category::Two, f), Met::No);
    // A channel of 400 y counts as 100 y against the test equipment, unless it is read uncapped.
    f.mttfdYears[0] = 400.0;
    f.testMttfdYears = 50.0;
    EXPECT_EQ(met(Category::Two, f), Met::Yes);
    Readings uncapped;
    uncapped.testAgainstCapped = false;
    EXPECT_EQ(met(Category::Two, f, uncapped), Met::No);
}

TEST(AsBuilt, TheStructureFoundCountsAndNotTheNumberOfChannels)
{
    CategoryFacts f = facts(2, 100.0, 0.99);
    f.isBuilt = true;
    f.isTested = true;
    f.testMttfdYears = 100.0;
    struct Row {
        FoundStructure found;
        Met two, three, four;
    };
    for (const Row& r : {Row{FoundStructure::NotTried, Met::Unknown, Met::Unknown, Met::Unknown},
             Row{FoundStructure::OneChannel, Met::No, Met::No, Met::No},
             Row{FoundStructure::Tested, Met::Yes, Met::No, Met::No},
             Row{FoundStructure::SingleFaultTolerated, Met::Yes, Met::Yes, Met::No},
             Row{FoundStructure::AccumulationTolerated, Met::Yes, Met::Yes, Met::Yes}}) {
        f.structure = r.found;
        EXPECT_EQ(met(Category::Two, f), r.two) << static_cast<int>(r.found);
        EXPECT_EQ(met(Category::Three, f), r.three) << static_cast<int>(r.found);
        EXPECT_EQ(met(Category::Four, f), r.four) << static_cast<int>(r.found);
    }
    f.structure = FoundStructure::OneChannel;
    EXPECT_EQ(bestCategory(f, {}), Category::B)
        << "two channels that one fault loses: no better than one, and not well-tried";
    f.wellTried = true;
    EXPECT_EQ(bestCategory(f, {}), Category::One);
    f.structure = FoundStructure::AccumulationTolerated;
    f.isCoverageKnown = false;
    EXPECT_EQ(met(Category::Four, f), Met::Unknown) << "not known is not met";
}

TEST(Conditions, SayWhatIsWantedAndWhatIsThere)
{
    const auto list = conditionsOf(Category::Four, facts(2, 20.0, 0.495), {}, "Contactors");
    ASSERT_EQ(list.size(), demandsOf(Category::Four).size());
    for (const Condition& c : list) {
        EXPECT_FALSE(c.wanted.id.empty());
        EXPECT_FALSE(c.found.id.empty());
        EXPECT_EQ(c.unmet.id.empty(), c.met == Met::Yes);
    }
    EXPECT_EQ(list[2].unmet,
        message("level.mttfd_not_high", {std::string("Contactors"), std::string("4"), Measured{20.0, "y"}}));
    EXPECT_EQ(list[3].unmet, message("level.dc_not_high", {std::string("Contactors"), Measured{0.495, "%"}}));
    EXPECT_EQ(bestCategory(facts(2, 20.0, 0.495), {}), std::nullopt) << "49.5 %: neither 3 nor 4";
    EXPECT_EQ(bestCategory(facts(2, 20.0, 0.99), {}), Category::Three);
}

} // namespace
} // namespace ts::safety
