// What would reach a level: each case has a change that does, and what is offered is carried out and calculated, some
// of it run again.

#include "core/edit/wiring.h"
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
    file.dossier.functions[0].claim[2].ccfAnswers = {
        "separation", "overload_protection", "well_tried", "analysis"}; // 40 points: 25 more are needed
    const auto found = improvementsOf(file, file.dossier.functions[0].id, nullptr);
    ASSERT_TRUE(found);
    EXPECT_FALSE(found->now);
    ASSERT_FALSE(found->list.empty());
    const Improvement& first = found->list.front();
    EXPECT_TRUE(first.reaches);
    EXPECT_EQ(first.effort(), static_cast<int>(Effort::Answer));
    EXPECT_EQ(first.changes[0].id, "answer"); // EMC alone has 25
    // What is offered is what the changed dossier really gives.
    const safety::FunctionLevel after = safety::functionLevel(
        first.changed.dossier, first.changed.dossier.functions[0]);
    EXPECT_EQ(after.level, first.level);
    EXPECT_DOUBLE_EQ(after.explanation[after.pfhd].si, first.pfhdPerHour);
}

TEST(Improvements, TwoTogetherWhereOneIsNotEnough)
{
    DossierFile file = demo();
    file.dossier.functions[0].claim[2].ccfAnswers = {"separation", "overload_protection", "well_tried"}; // 35:
                                                                                                         // diversity
                                                                                                         // and EMC, or
                                                                                                         // EMC and
                                                                                                         // analysis ...
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
        c.parts[0].secondsPerCycle = 25; // nop 506 880, MTTFd 25.6 y: not high, category 4 is not met; at half the rate
                                         // 51 y
    const auto found = improvementsOf(file, file.dossier.functions[0].id, nullptr);
    ASSERT_TRUE(found);
    EXPECT_TRUE(std::any_of(found->list.begin(), found->list.end(), [](const Improvement& i) {
        return i.reaches && std::any_of(i.changes.begin(), i.changes.end(), [](const Change& c) {
            return c.id == "fewer_operations" || c.id == "category";
        });
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
    d.functions[0].requiredLevel = safety::Level::D;
    for (ClaimedChannel& c : d.functions[0].claim[0].channels) {
        c.parts[0].measure = "output.direct";
        c.parts[0].operationsPerYear.reset();
        c.parts[0].secondsPerCycle = 600;
    }
    const DossierFile file{10000, d, {}};
    const auto built = faultAnalysis(d, d.functions[0], {});
    ASSERT_TRUE(built);
    const auto found = improvementsOf(file, d.functions[0].id, &*built);
    ASSERT_TRUE(found);
    EXPECT_EQ(found->now, safety::Level::B) << "49.5 % as built: neither 3 nor 4, and B is at most PL b";
    EXPECT_TRUE(found->alone.empty()) << "no single fault loses it";
    const Improvement* wired = withId(*found, "feedback");
    ASSERT_TRUE(wired);
    EXPECT_TRUE(wired->reaches);
    ASSERT_TRUE(wired->rerun);
    EXPECT_TRUE(wired->rerun->stillStops);
    EXPECT_GT(wired->rerun->tried, 0);
    EXPECT_TRUE(wired->rerun->holds()) << wired->rerun->mended << " of " << wired->rerun->tried;
}

TEST(Improvements, ASecondContactorBehindTheOnlyOne)
{
    // A safety relay that switches one contactor, which is watched: welded it is lost, category 1 and PL c at most; d
    // is needed.
    test::CircuitBuilder b = test::motorBehind({"Q1"});
    b.device("S0", "emergency_stop", {{"contacts", test::Words{"11-12", "21-22"}}}, "door")
        .device("S3", "push_button", {{"contacts", test::Words{"13-14"}}}, "door");
    b.device("K1", "safety_relay", {{"reset", test::word("monitored")}});
    b.wire("G1:+", "K1:A1").wire("K1:A2", "G1:-");
    b.wire("K1:S11", "S0:11").wire("S0:12", "K1:S12").wire("K1:S21", "S0:21").wire("S0:22", "K1:S22");
    b.wire("K1:S33", "S3:13").wire("S3:14", "Q1:21").wire("Q1:22", "K1:S34");
    b.wire("G1:+", "K1:13").wire("K1:14", "Q1:A1").wire("Q1:A2", "G1:-");
    Dossier d = test::stopping(b.circuit());
    for (Device& device : d.circuit.devices)
        if (device.tag == "Q1")
            device.reliability = Reliability{.b10dCycles = 1.3e6, .source = "made up for this test"};
    ClaimedSubsystem s;
    s.name = "Contactor";
    s.category = safety::Category::One;
    s.wellTried = true;
    s.ccfAnswers = {"separation", "overload_protection", "well_tried", "emc_contamination", "other_environment"};
    ClaimedPart part;
    part.device = d.circuit.device("Q1")->id;
    part.element = "main";
    part.operationsPerYear = 20'000;
    s.channels = {{"Q1", {part}}};
    d.functions[0].claim = {s};
    d.functions[0].requiredLevel = safety::Level::D;
    const auto built = faultAnalysis(d, d.functions[0], {});
    ASSERT_TRUE(built);
    const DossierFile file{10000, d, {}};
    const auto found = improvementsOf(file, d.functions[0].id, &*built);
    ASSERT_TRUE(found);
    const Message welded = message(
        "fault.device", {std::string("Q1"), std::string("@element.main"), std::string("@mode.welded")});
    EXPECT_NE(std::find(found->alone.begin(), found->alone.end(), welded), found->alone.end());
    const Improvement* second = withId(*found, "second_contactor");
    ASSERT_TRUE(second);
    EXPECT_TRUE(second->reaches);
    ASSERT_TRUE(second->rerun);
    EXPECT_TRUE(second->rerun->stillStops);
    EXPECT_TRUE(second->rerun->holds()) << second->rerun->mended << " of " << second->rerun->tried;
    EXPECT_GT(second->rerun->tried, 0);
}

TEST(Improvements, AnOutputOfItsOwnWhereOneShortHoldsBothContactors)
{
    // Both coils on 14, in a cable beside +24: that short feeds both for ever. Output 23-24 has no wire.
    test::CircuitBuilder b = test::motorBehind({"Q1", "Q2"});
    b.device("S0", "emergency_stop", {{"contacts", test::Words{"11-12", "21-22"}}}, "door")
        .device("S3", "push_button", {{"contacts", test::Words{"13-14"}}}, "door");
    b.device("K1", "safety_relay", {{"reset", test::word("monitored")}});
    b.wire("G1:+", "K1:A1").wire("K1:A2", "G1:-");
    b.wire("K1:S11", "S0:11").wire("S0:12", "K1:S12").wire("K1:S21", "S0:21").wire("S0:22", "K1:S22");
    b.wire("K1:S33", "S3:13").wire("S3:14", "Q1:21").wire("Q1:22", "Q2:21").wire("Q2:22", "K1:S34");
    b.wire("G1:+", "K1:13").wire("K1:14", "Q1:A1").wire("K1:14", "Q2:A1").wire("Q1:A2", "G1:-").wire("Q2:A2", "G1:-");
    Dossier d = test::stopping(b.circuit());
    const RouteId cable{9500};
    d.circuit.routes = {{cable, "cable", RouteKind::Cable}};
    for (Wire& w : d.circuit.wires) {
        const std::string from = d.circuit.nameOf(w.from), to = d.circuit.nameOf(w.to);
        if (from == "K1:14" || (from == "G1:+" && to == "K1:13"))
            w.route = cable;
    }
    for (Device& device : d.circuit.devices)
        if (device.tag == "Q1" || device.tag == "Q2")
            device.reliability = Reliability{.b10dCycles = 1.3e6, .source = "made up for this test"};
    ClaimedSubsystem s = test::claimedPair(d.circuit, "Q1", "Q2", "3", 0.99);
    s.ccfAnswers = {"separation", "overload_protection", "well_tried", "emc_contamination", "other_environment"};
    for (ClaimedChannel& c : s.channels) {
        c.parts[0].measure = "output.direct";
        c.parts[0].operationsPerYear.reset();
        c.parts[0].secondsPerCycle = 600;
    }
    d.functions[0].claim = {s};
    d.functions[0].requiredLevel = safety::Level::D;
    const auto built = faultAnalysis(d, d.functions[0], {});
    ASSERT_TRUE(built);
    const DossierFile file{10000, d, {}};
    const auto found = improvementsOf(file, d.functions[0].id, &*built);
    ASSERT_TRUE(found);
    ASSERT_EQ(found->alone.size(), 1u) << "the one short";
    EXPECT_EQ(found->alone[0].id, "fault.touch");
    EXPECT_LT(*found->now, safety::Level::D);
    const Improvement* own = withId(*found, "own_output");
    ASSERT_TRUE(own);
    EXPECT_TRUE(own->reaches);
    ASSERT_TRUE(own->rerun);
    EXPECT_TRUE(own->rerun->stillStops);
    EXPECT_GT(own->rerun->tried, 0);
    EXPECT_TRUE(own->rerun->holds()) << own->rerun->mended << " of " << own->rerun->tried;
    EXPECT_FALSE(edit::netOf(own->changed.dossier.circuit, {d.circuit.device("Q1")->id, "A1"})
                     .contains({d.circuit.device("Q2")->id, "A1"}));
}

TEST(Improvements, MoreTestsWhereCategoryTwoHasTooFew)
{
    DossierFile file = demo();
    ClaimedSubsystem& s = file.dossier.functions[0].claim[2];
    s.category = safety::Category::Two;
    s.test = ClaimedTest{{"test", {s.channels[1].parts[0]}}, 10.0, false};
    s.channels.pop_back();
    file.dossier.functions[0].requiredLevel = safety::Level::C;
    const auto found = improvementsOf(file, file.dossier.functions[0].id, nullptr);
    ASSERT_TRUE(found);
    EXPECT_FALSE(found->now) << "ten tests for each demand are fewer than 25";
    const Improvement* more = withId(*found, "test_rate");
    ASSERT_TRUE(more);
    EXPECT_TRUE(more->reaches);
    EXPECT_EQ(more->changed.dossier.functions[0].claim[2].test->testsPerDemand, 100.0);
}

TEST(Improvements, AnExclusionIsOfferedOnlyWhereATableAllowsItAndNotWithoutItsCondition)
{
    Dossier d = test::stopping(test::twoChannels().circuit());
    for (Device& device : d.circuit.devices)
        if (device.tag == "S0")
            device.reliability = Reliability{.b10dCycles = 1e5, .source = "made up for this test"};
    ClaimedSubsystem s;
    s.name = "Emergency stop device";
    s.category = safety::Category::Three;
    for (const char* contact : {"11-12", "21-22"}) {
        ClaimedPart part;
        part.device = d.circuit.device("S0")->id;
        part.element = contact;
        part.operationsPerYear = 200;
        part.measure = "input.cross_without_dynamic";
        part.dc = 0.9;
        s.channels.push_back({contact, {part}});
    }
    s.ccfAnswers = {"separation", "overload_protection", "well_tried", "emc_contamination", "other_environment"};
    d.functions[0].claim = {s};
    d.functions[0].requiredLevel = safety::Level::D;
    const DossierFile file{10000, d, {}};
    const auto built = faultAnalysis(d, d.functions[0], {});
    ASSERT_TRUE(built);
    const auto found = improvementsOf(file, d.functions[0].id, &*built);
    ASSERT_TRUE(found);
    // A fallen contact block loses it alone, and no table lets that be excluded.
    ASSERT_EQ(found->alone.size(), 2u) << "and a broken actuator, which table D.8 lets be excluded";
    EXPECT_EQ(found->alone[0],
        message("fault.device", {std::string("S0"), std::string("@element.block"), std::string("@mode.fallen_off")}));
    for (const Change& c : catalogueOf(file, d.functions[0], &*built))
        for (const std::string& id : c.excludes)
            EXPECT_NE(id, "S0/block:fallen_off");
    for (const Improvement& i : found->list)
        EXPECT_EQ(i.reaches,
            i.changes.size() == 2
                && std::all_of(i.changes.begin(), i.changes.end(),
                    [](const Change& c) { return c.id == "monitored_block" || c.id == "exclude"; }))
            << "one channel stays one channel";
    ASSERT_FALSE(found->list.empty());
    const Improvement& both = found->list.front();
    ASSERT_TRUE(both.rerun);
    EXPECT_EQ(both.rerun->tried, 1);
    EXPECT_TRUE(both.rerun->holds());
    // Swept as a whole, the changed circuit says the same.
    const Dossier& changed = both.changed.dossier;
    const auto again = faultAnalysis(changed, changed.functions[0], {});
    ASSERT_TRUE(again && again->level);
    EXPECT_EQ(again->level->level, both.level);
    EXPECT_NE(again->built.subsystems[0].verdict.structure, faults::Structure::OneChannel);
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
