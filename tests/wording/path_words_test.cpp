// The path in words: shares add up, what faults do stands at the knot, and what is missing says why.

#include "wording/path_words.h"

#include "core/io/dossier_file.h"
#include "core/studies/study.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <numeric>

namespace ts::wording {
namespace {

using figures::Knot;

Dossier debarker()
{
    return io::loadDossier(std::string(TS_SOURCE_DIR) + "/data/demo/larkspur_db2.sentry")->dossier;
}

struct Picture {
    Dossier dossier = debarker();
    const SafetyFunction& function = dossier.functions[0];
    safety::FunctionLevel level = safety::functionLevel(dossier, function);
    FunctionPath path = *functionPath(dossier, function);
    figures::PathContent content(const FaultAnalysis* built = nullptr) const
    {
        return pathContent(dossier, function, level, path, built, nullptr);
    }
    const Knot& named(const figures::PathContent& c, std::string_view name) const
    {
        return *std::find_if(
            c.knots.begin(), c.knots.end(), [name](const Knot& k) { return k.words.starts_with(name); });
    }
};

TEST(PathContent, SharesOfTheDangerAddUpToTheWhole)
{
    const Picture p;
    const auto c = p.content();
    const double sum = std::accumulate(
        c.knots.begin(), c.knots.end(), 0.0, [](double s, const Knot& k) { return s + k.share; });
    EXPECT_NEAR(sum, 1.0, 1e-9);
    EXPECT_NEAR(p.named(c, "K0").share, 2.9e-9 / p.level.explanation[p.level.pfhd].si, 1e-6);
    EXPECT_EQ(p.named(c, "K0").value, "2.9e-9");
}

TEST(PathContent, BeforeFaultsWereTriedNothingIsSaidOfThem)
{
    const Picture p;
    const auto c = p.content();
    for (const Knot& k : c.knots)
        EXPECT_EQ(k.state, Knot::State::Untried) << k.words;
    EXPECT_TRUE(c.shortfalls.empty());
    EXPECT_TRUE(p.named(c, "Q5").isOutside);
    EXPECT_TRUE(p.named(c, "M1").isRound);
}

/// The contact block that falls off loses the stop alone: said at both contacts, and under their frame.
TEST(PathContent, WhatLosesItAloneStandsAtItsKnots)
{
    const Picture p;
    faults::SweepOptions options;
    options.withPairs = options.withLimits = options.withExcluded = false;
    const auto built = faultAnalysis(p.dossier, p.function, options);
    ASSERT_TRUE(built);
    const auto c = p.content(&*built);
    EXPECT_EQ(p.named(c, "S0 contact 11-12").state, Knot::State::Lost);
    EXPECT_EQ(p.named(c, "S0 contact 21-22").state, Knot::State::Lost);
    EXPECT_EQ(p.named(c, "Q9 main poles").state, Knot::State::Noticed);
    ASSERT_EQ(c.shortfalls.size(), 1u);
    EXPECT_EQ(c.shortfalls[0].knots.size(), 2u);
    EXPECT_NE(c.shortfalls[0].text.find("S0 contact block: fallen off"), std::string::npos) << c.shortfalls[0].text;
}

TEST(PathContent, WhatTheClaimItselfMissesIsSaidFirst)
{
    Picture p;
    p.dossier.functions[0].claim[0].ccfAnswers.clear();
    p.level = safety::functionLevel(p.dossier, p.function);
    const auto c = p.content();
    ASSERT_EQ(c.shortfalls.size(), 1u);
    EXPECT_NE(c.shortfalls[0].text.find("0 points"), std::string::npos) << c.shortfalls[0].text;
}

/// The rotor's contactors: Q9 and Q3, the controller that switches and watches them, the motor; no other contactor.
TEST(Strand, OfASubsystemIsItsKnotsAndWhatTheyHangOn)
{
    const Picture p;
    std::size_t rotor = 0;
    for (std::size_t s = 0; s < p.function.claim.size(); ++s)
        if (p.function.claim[s].name.find("rotor") != std::string::npos)
            rotor = s;
    const Strand strand = strandOf(p.content(), p.path, rotor);
    std::vector<std::string> names;
    for (const Knot& k : strand.content.knots) {
        names.push_back(k.name);
        EXPECT_LT(k.column, strand.content.columns);
    }
    std::sort(names.begin(), names.end());
    EXPECT_EQ(names, (std::vector<std::string>{"K0", "M2", "Q3", "Q9"}));
    EXPECT_EQ(strand.content.watches.size(), 2u);
    for (const figures::Way& w : strand.content.ways)
        EXPECT_LT(strand.content.knots[static_cast<std::size_t>(w.from)].column,
            strand.content.knots[static_cast<std::size_t>(w.to)].column);
}

TEST(WatchWords, SayWhoLooksAndWhoDoesNot)
{
    const Picture p;
    const auto of = [&](const char* tag) { return watchWords(p.dossier, &p.path, p.dossier.circuit.device(tag)->id); };
    EXPECT_EQ(of("Q9"), "K0 looks at its contact 11-12 before it switches on again");
    EXPECT_EQ(of("S0"), "it is an input of K0");
    EXPECT_EQ(of("Q5"), "nothing looks at a contact of it");
    EXPECT_EQ(watchWords(p.dossier, nullptr, p.dossier.circuit.device("Q9")->id), "") << "not looked at yet";
}

} // namespace
} // namespace ts::wording
