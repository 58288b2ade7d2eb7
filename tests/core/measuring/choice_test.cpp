// The choice of looks by hand calculation, and a plan as text and back.

#include "core/measuring/choice.h"
#include "core/measuring/plan_text.h"
#include "tests/support/circuits.h"

namespace ts::measuring {
namespace {

Option option(std::initializer_list<std::size_t> shows, double seconds, bool isRequired = false)
{
    Option o{Shown(10), seconds, isRequired};
    for (const std::size_t k : shows)
        o.shows.add(k);
    return o;
}

TEST(Choice, MostForItsTimeFirstAndNothingNeedless)
{
    const std::vector<Option> options{
        option({0, 1, 2, 3}, 20), option({0, 1}, 5), option({2, 3, 4}, 5), option({5}, 100), option({4}, 1)};
    Shown shown(10);
    EXPECT_EQ(chosenOf(options, shown), (std::vector<std::size_t>{1, 2, 3}))
        << "the last is the best for its time, and needless once 2 is taken; 0 costs too much";
    EXPECT_EQ(shown.count(), 6u);
}

TEST(Choice, WhatIsRequiredStaysAndCounts)
{
    const std::vector<Option> options{option({0, 1}, 5), option({1}, 50, true), option({1}, 1)};
    Shown shown(10);
    EXPECT_EQ(chosenOf(options, shown), (std::vector<std::size_t>{1, 0}));
}

TEST(Choice, WhatIsShownBeforeIsNotShownAgain)
{
    const std::vector<Option> options{option({0, 1}, 5), option({2}, 5)};
    Shown shown(10);
    shown.add(0);
    shown.add(1);
    EXPECT_EQ(chosenOf(options, shown), std::vector<std::size_t>{1});
}

TEST(Choice, SetsKnowWhatIsBeyondAndLeft)
{
    Shown a = option({1, 2, 9}, 1).shows;
    const Shown b = option({2, 3}, 1).shows;
    EXPECT_EQ(a.beyond(b), 2u);
    EXPECT_EQ(a.without(b).count(), 2u);
    EXPECT_FALSE(a.without(b).has(2));
    a.add(b);
    EXPECT_EQ(a.count(), 4u);
}

TEST(PlanText, ComesBackAsItWasAndDamageIsNone)
{
    const auto plan = testPlanOf(test::demoFile().dossier.circuit);
    ASSERT_TRUE(plan);
    const std::string text = keptText(*plan);
    const auto again = planFrom(text);
    ASSERT_TRUE(again);
    EXPECT_EQ(*again, *plan);
    EXPECT_EQ(planFrom(text.substr(0, text.size() / 2)), std::nullopt);
    EXPECT_EQ(planFrom("{}"), std::nullopt);
    std::string other = text;
    const std::size_t at = other.find("\"stage\":");
    other.replace(at, 9, "\"stage\":99");
    EXPECT_EQ(planFrom(other), std::nullopt) << "no such stage";
}

} // namespace
} // namespace ts::measuring
