// The rule of the verdict, over everything that can be claimed, found and needed: the worse counts, what is not known
// never reads as reached, and never as a level that was found out either.

#include "core/analysis/function_verdict.h"
#include "tests/support/circuits.h"

namespace ts {
namespace {

using Answer = FunctionVerdict::Answer;
using Extent = FunctionVerdict::Extent;
using safety::Level;
using Levels = std::optional<Level>;

const std::array<Levels, 6> kAll{std::nullopt, Level::A, Level::B, Level::C, Level::D, Level::E};

struct Case {
    Levels claimed, required, atMost, built;
    bool isTried = false, hasPairs = false, isKnown = false;
};

FunctionVerdict verdictOf(const Case& c)
{
    static const Dossier dossier = test::demoFile().dossier;
    SafetyFunction f = dossier.functions.front();
    f.reliedOnByPerson = true;
    f.conditions = {true, true, true, true, true, {}, {}, {}};
    safety::FunctionLevel level;
    level.level = c.claimed;
    level.required = c.required;
    FaultAnalysis built;
    built.sweep.hasPairs = c.hasPairs;
    built.atMost = c.atMost;
    built.isLevelKnown = c.isKnown;
    if (c.built)
        built.level = BuiltLevel{0, *c.built};
    return verdictOf(dossier, f, level, c.isTried ? &built : nullptr, nullptr);
}

bool isBelow(Levels a, Level b)
{
    return !a || *a < b;
}

template <class Do> void forEachCase(Do each)
{
    for (const Levels& claimed : kAll)
        for (const Levels& required : kAll) {
            each(Case{claimed, required});
            for (const Levels& atMost : kAll) {
                each(Case{claimed, required, atMost, {}, true});
                each(Case{claimed, required, atMost, {}, true, true});
                for (const Levels& built : kAll)
                    each(Case{claimed, required, atMost, built, true, true, true});
            }
        }
}

TEST(VerdictRule, ReachedOnlyIfClaimedAndBuiltBothReachWhatIsDecided)
{
    int reached = 0;
    forEachCase([&reached](const Case& c) {
        const FunctionVerdict v = verdictOf(c);
        const bool isAll = c.required && c.isKnown && !isBelow(c.claimed, *c.required) && !isBelow(c.built, *c.required)
            && !isBelow(c.atMost, *c.required);
        EXPECT_EQ(v.answer == Answer::Reached, isAll);
        EXPECT_EQ(v.notKnown.empty(), c.required && c.isKnown) << "what is not known is named";
        reached += isAll;
    });
    EXPECT_EQ(reached, 5 * 5 * 5 + 4 * 4 * 4 + 3 * 3 * 3 + 2 * 2 * 2 + 1) << "for a needed a to e";
}

TEST(VerdictRule, NotReachedAsSoonAsAnythingSpeaksAgainstIt)
{
    forEachCase([](const Case& c) {
        const FunctionVerdict v = verdictOf(c);
        const bool isMissed = !c.required ? !c.claimed
                                          : isBelow(c.claimed, *c.required)
                || (c.isTried && isBelow(c.atMost, *c.required)) || (c.isKnown && isBelow(c.built, *c.required));
        EXPECT_EQ(v.answer == Answer::NotReached, isMissed);
    });
}

TEST(VerdictRule, TheWorseCounts)
{
    forEachCase([](const Case& c) {
        const Levels counting = verdictOf(c).counting(), found = c.isKnown ? c.built : c.atMost;
        if (!c.isTried)
            EXPECT_EQ(counting, c.claimed);
        else
            EXPECT_EQ(counting, c.claimed && found ? Levels(std::min(*c.claimed, *found)) : std::nullopt);
    });
}

// Second faults were tried, something chatters: it read "No level as built", as if that had been found out.
TEST(VerdictRule, WhatSecondFaultsLeftOpenIsStillABound)
{
    const FunctionVerdict v = verdictOf(Case{Level::E, Level::C, Level::D, {}, true, true, false});
    EXPECT_EQ(v.extent, Extent::Built);
    EXPECT_EQ(v.answer, Answer::NotKnown);
    EXPECT_EQ(v.counting(), Level::D);
    EXPECT_EQ(phrasesOf(v).front().id, "verdict.at_most");
    ASSERT_EQ(v.notKnown.size(), 1u);
    EXPECT_EQ(v.notKnown.front().id, "unknown.built");
    const FunctionVerdict none = verdictOf(Case{Level::E, Level::C, Level::D, {}, true, true, true});
    EXPECT_EQ(none.answer, Answer::NotReached);
    EXPECT_EQ(phrasesOf(none).front().id, "verdict.no_level_built");
}

TEST(VerdictRule, WhatProtectsEquipmentIsNotAsked)
{
    Dossier d = test::demoFile().dossier;
    d.functions.front().reliedOnByPerson = false;
    const FunctionVerdict v = ts::verdictOf(d, d.functions.front(), {}, nullptr, nullptr);
    EXPECT_EQ(v.answer, Answer::NotAsked);
    EXPECT_TRUE(v.notKnown.empty());
    EXPECT_EQ(phrasesOf(v).size(), 1u);
}

} // namespace
} // namespace ts
