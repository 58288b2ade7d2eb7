// What offers look at: ahead and behind, in series or beside, and what lamps tell.

#include "core/offers/sight.h"

#include "core/offers/lamp_meaning.h"
#include "core/patterns/machine.h"
#include "tests/support/circuits.h"

namespace ts::offers {
namespace {

Dossier starterOf(const std::vector<std::string>& with)
{
    return patterns::machine(*patterns::MachinePlan::from(with))->dossier;
}

std::string names(const Dossier& d, const std::vector<Sighted>& list)
{
    std::string text;
    for (const Sighted& e : list)
        text += (text.empty() ? "" : ", ") + d.circuit.device(e.upper.device)->tag + " " + e.edge->role;
    return text;
}

Sighted element(const Sight& s, std::string_view tag, const char* role)
{
    return *s.element(s.circuit().device(tag)->id, role);
}

TEST(Sight, SeesWhatLiesAheadAndBehind)
{
    const Dossier d = starterOf({"base=direct", "lamps=none"});
    const Sight s = *Sight::of(d);
    EXPECT_EQ(names(d, s.ahead(element(s, "Q1", "coil"))), "S2 13-14, Q1 13-14, S1 11-12, F2 95-96, S0 11-12");
    EXPECT_EQ(names(d, s.behind(element(s, "S1", "11-12"))), "S2 13-14, Q1 13-14, Q1 coil");
    EXPECT_EQ(names(d, s.behind(element(s, "Q1", "coil"))), "") << "a load ends the search";
    EXPECT_EQ(names(d, s.ahead(element(s, "S0", "11-12"))), "") << "so does a rail";
}

TEST(Sight, TellsSeriesFromParallel)
{
    const Dossier d = starterOf({"base=direct"});
    const Sight s = *Sight::of(d);
    EXPECT_TRUE(s.standsInSeries(element(s, "S1", "11-12")));
    EXPECT_TRUE(s.standsInSeries(element(s, "F2", "95-96")));
    EXPECT_FALSE(s.standsInSeries(element(s, "S2", "13-14"))) << "the hold is beside it";
    EXPECT_FALSE(s.standsInSeries(element(s, "Q1", "13-14")));
}

TEST(Sight, ContactOfASeriesInsideABranchStandsInSeries)
{
    const Dossier d = starterOf({"base=reversing", "operation=run_inch_selector"});
    const Sight s = *Sight::of(d);
    int inSeries = 0;
    for (const Sighted& e : s.elements())
        if (d.circuit.device(e.upper.device)->kind == "selector") {
            EXPECT_TRUE(s.standsInSeries(e)) << "the selector stands in the hold with the contactor's own contact";
            ++inSeries;
        }
    EXPECT_GT(inSeries, 0);
}

TEST(Sight, FindsTheRailThatFeedsACoil)
{
    const Dossier d = starterOf({"base=direct"});
    const Sight s = *Sight::of(d);
    const auto rail = s.liveRailAbove(element(s, "Q1", "coil"));
    ASSERT_TRUE(rail);
    EXPECT_EQ(s.netOf(*rail), s.netOf(element(s, "S0", "11-12").upper));
    EXPECT_TRUE(s.isRail(s.netOf(*rail)));
}

TEST(Choices, FreeContactsComeFirstAndTheDeviceItselfCanBeLeftOut)
{
    const Dossier d = starterOf({"base=direct"});
    const Sight s = *Sight::of(d);
    bool newSeen = false;
    for (const Choice& c : whatToPutIn(s)) {
        newSeen |= c.value.starts_with("new ");
        EXPECT_FALSE(newSeen && c.value.starts_with("contact "))
            << "what is there is offered before what would be bought";
    }
    EXPECT_TRUE(newSeen);
    for (const Choice& c : whatToPutIn(s, d.circuit.device("Q1")->id))
        EXPECT_EQ(c.value.find(" Q1 "), std::string::npos) << c.value;
}

TEST(PutIn, RefusesWhatIsNotAmongTheWords)
{
    DossierFile file;
    file.dossier = starterOf({"base=direct"});
    file.nextId = 1000;
    for (const char* answer :
        {"", "new", "new teapot opening", "contact S1", "contact S1 99-98", "block S99 opening", "steal Q1 opening"})
        EXPECT_EQ(putIn(file, answer).error().message.id, "offer.no_answer") << answer;
    EXPECT_EQ(putIn(file, "block M1 opening").error().message.id, "edit.no_block");
    const auto put = putIn(file, "new emergency_stop opening");
    ASSERT_TRUE(put);
    EXPECT_EQ(put->contact.role, "11-12");
    EXPECT_EQ(put->ends.a.marking, "11");
}

TEST(LampMeaning, IsReadFromTheContactsThatFeedIt)
{
    const Dossier d = io::loadDossier(test::sourcePath("data/demo/larkspur_db2.sentry"))->dossier;
    const auto meanings = lampMeanings(d);
    ASSERT_TRUE(meanings);
    const auto of = [&](const char* tag) { return meanings->at(d.circuit.device(std::string_view(tag))->id); };
    EXPECT_EQ(of("P1"), LampMeaning::Runs) << "two directions side by side";
    EXPECT_EQ(of("P2"), LampMeaning::Runs);
    EXPECT_EQ(of("P5"), LampMeaning::Fault) << "the overloads' contacts";
    EXPECT_EQ(of("P6"), LampMeaning::Fault) << "the supply monitor's contact";
    const Dossier small = starterOf({"base=direct"});
    const auto others = *lampMeanings(small);
    EXPECT_EQ(others.at(small.circuit.device("P1")->id), LampMeaning::Runs);
    EXPECT_EQ(others.at(small.circuit.device("P2")->id), LampMeaning::Stopped);
    EXPECT_EQ(others.at(small.circuit.device("P3")->id), LampMeaning::Fault);
}

} // namespace
} // namespace ts::offers
