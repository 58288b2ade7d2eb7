// What would reach a level: each case has a change that does, and what is offered is carried out and calculated, some of it run again.

#include "core/improving/improvement.h"
#include "core/safety/level.h"
#include "tests/core/faults/stop_circuits.h"

namespace ts::improving {
namespace {

DossierFile demo()
{
    return test::demoFile();
}

const Improvement* withId(const Improved& found, std::string_view id)
{
    for (const Improvement& i : found.list)
        if (i.changes.size() == 1 && i.changes[0].id == id)
            return &i;
    return nullptr;
}

TEST(Improvements, AnAnswerThatIsMissing)
{
    DossierFile file = demo();
    file.dossier.functions[0].claim[2].ccfAnswers = {"separation", "overload_protection", "well_tried", "analysis"}; // 40 points: 25 more are needed
    const auto found = improvementsOf(file, file.dossier.functions[0].id, nullptr);
    ASSERT_TRUE(found);
    EXPECT_FALSE(found->now);
    ASSERT_FALSE(found->list.empty());
    const Improvement& first = found->list.front();
    EXPECT_TRUE(first.reaches);
    EXPECT_EQ(first.effort(), static_cast<int>(Effort::Answer));
    EXPECT_EQ(first.changes[0].id, "answer"); // EMC alone has 25
    // What is offered is what the changed dossier really gives.
    const safety::FunctionLevel after = safety::functionLevel(first.changed.dossier, first.changed.dossier.functions[0]);
    EXPECT_EQ(after.level, first.level);
    EXPECT_DOUBLE_EQ(after.explanation[after.pfhd].si, first.pfhdPerHour);
}

TEST(Improvements, TwoTogetherWhereOneIsNotEnough)
{
    DossierFile file = demo();
    file.dossier.functions[0].claim[2].ccfAnswers = {"separation", "overload_protection", "well_tried"}; // 35: diversity and EMC, or EMC and analysis ...
    const auto found = improvementsOf(file, file.dossier.functions[0].id, nullptr);
    ASSERT_TRUE(found);
    ASSERT_FALSE(found->list.empty());
    EXPECT_TRUE(found->list.front().reaches);
    EXPECT_EQ(found->list.front().changes.size(), 2u);
    for (std::size_t k = 1; k < found->list.size(); ++k)
        if (found->list[k].reaches && found->list[k - 1].reaches) {
            EXPECT_LE(found->list[k - 1].effort(), found->list[k].effort()) << "the least effort first";
        }
}

TEST(Improvements, LessSwitchingWhereContactsWearOut)
{
    DossierFile file = demo();
    for (ClaimedChannel& c : file.dossier.functions[0].claim[2].channels)
        c.parts[0].secondsPerCycle = 25; // nop 506 880, MTTFd 25.6 y: not high, category 4 is not met; at half the rate 51 y
    const auto found = improvementsOf(file, file.dossier.functions[0].id, nullptr);
    ASSERT_TRUE(found);
    EXPECT_TRUE(std::any_of(found->list.begin(), found->list.end(), [](const Improvement& i) {
        return i.reaches && std::any_of(i.changes.begin(), i.changes.end(), [](const Change& c) { return c.id == "fewer_operations" || c.id == "category"; });
    }));
}

TEST(Improvements, AFeedbackContactIsWiredAndRunAgain)
{
    // Q2's mirror contact is not in the loop: the sweep says so, the claim of 99 % is worth nothing there.
    Dossier d = test::stopping(test::twoChannels(false).circuit());
    for (Device& device : d.circuit.devices)
        if (device.tag == "Q1" || device.tag == "Q2")
            device.reliability = Reliability{.b10dCycles = 1.3e6, .source = "made up for this test"};
    ClaimedSubsystem s = test::claimedPair(d.circuit, "Q1", "Q2", "4", 0.99);
    s.ccfAnswers = {"separation", "overload_protection", "well_tried", "emc_contamination", "other_environment"};
    d.functions[0].claim = {s};
    d.functions[0].requiredLevel = "d";
    for (ClaimedChannel& c : d.functions[0].claim[0].channels) {
        c.parts[0].measure = "output|Direct monitoring (linked or mirror contacts)";
        c.parts[0].secondsPerCycle = 600;
    }
    const DossierFile file{10000, d, {}};
    const auto built = faultAnalysis(d, d.functions[0], {});
    ASSERT_TRUE(built);
    const auto found = improvementsOf(file, d.functions[0].id, &*built);
    ASSERT_TRUE(found);
    EXPECT_FALSE(found->now) << "49.5 % as built: no category";
    const Improvement* wired = withId(*found, "feedback");
    ASSERT_TRUE(wired);
    EXPECT_TRUE(wired->reaches);
    ASSERT_TRUE(wired->rerun);
    EXPECT_TRUE(wired->rerun->stillStops);
    EXPECT_GT(wired->rerun->tried, 0);
    EXPECT_TRUE(wired->rerun->holds()) << wired->rerun->noticed << " of " << wired->rerun->tried;
}

TEST(Improvements, RefuseWhatIsNotThereAndCanBeCancelled)
{
    const DossierFile file = demo();
    EXPECT_FALSE(improvementsOf(file, {987654}, nullptr));
    std::stop_source stopped;
    stopped.request_stop();
    const auto cancelled = improvementsOf(file, file.dossier.functions[0].id, nullptr, {}, stopped.get_token());
    ASSERT_FALSE(cancelled);
    EXPECT_EQ(cancelled.error().code, ErrorCode::Cancelled);
}

TEST(Improvements, OnlyNameWhatMakesItBetter)
{
    const DossierFile file = demo();
    const auto found = improvementsOf(file, file.dossier.functions[0].id, nullptr);
    ASSERT_TRUE(found);
    for (const Improvement& i : found->list)
        EXPECT_TRUE(i.level > found->now || i.pfhdPerHour < found->pfhdNow);
}

} // namespace
} // namespace ts::improving
