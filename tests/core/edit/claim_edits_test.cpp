#include "core/edit/claim_edits.h"
#include "tests/support/circuits.h"

#include <limits>

namespace ts::edit {
namespace {

const Dossier& demo()
{
    static const Dossier d = test::demoFile().dossier;
    return d;
}

TEST(WithDuty, ChangesTheDutyAndNothingElse)
{
    const Dossier before = demo();
    Dossier after = *withDuty(before, {100, 8});
    EXPECT_EQ(before, demo()) << "the old value stays as it was";
    after.machine.duty = before.machine.duty;
    EXPECT_EQ(after, before);
}

TEST(WithDuty, RefusesTheImpossible)
{
    const double nan = std::numeric_limits<double>::quiet_NaN();
    for (const Duty& d : {Duty{0, 8}, Duty{367, 8}, Duty{100, 0}, Duty{100, 25}, Duty{nan, 8}, Duty{100, nan}})
        EXPECT_EQ(withDuty(demo(), d).error().code, ErrorCode::OutOfRange);
    EXPECT_TRUE(withDuty(demo(), {366, 24}));
}

TEST(WithSecondsPerCycle, ReplacesOperationsEnteredDirectly)
{
    Dossier d = demo();
    d.functions[0].claim[2].channels[0].parts[0].secondsPerCycle.reset();
    d.functions[0].claim[2].channels[0].parts[0].operationsPerYear = 5000;
    const auto after = withSecondsPerCycle(d, {d.functions[0].id, 2, 0, 0}, seconds(60));
    ASSERT_TRUE(after);
    EXPECT_EQ(after->functions[0].claim[2].channels[0].parts[0].secondsPerCycle, 60.0);
    EXPECT_FALSE(after->functions[0].claim[2].channels[0].parts[0].operationsPerYear);
}

TEST(WithSecondsPerCycle, RefusesWhatIsNotThere)
{
    const FunctionId f = demo().functions[0].id;
    EXPECT_EQ(withSecondsPerCycle(demo(), {{9999}, 0, 0, 0}, seconds(60)).error().message.id, "edit.no_function");
    EXPECT_EQ(withSecondsPerCycle(demo(), {f, 9, 0, 0}, seconds(60)).error().message.id, "edit.no_part");
    EXPECT_EQ(withSecondsPerCycle(demo(), {f, 1, 0, 0}, seconds(60)).error().message.id, "edit.no_part")
        << "an encapsulated subsystem has no channels";
    EXPECT_EQ(withSecondsPerCycle(demo(), {f, 2, 0, 0}, seconds(0)).error().message.id, "edit.cycle_range");
    EXPECT_EQ(withSecondsPerCycle(demo(), {f, 2, 0, 0}, seconds(1e12)).error().message.id, "edit.cycle_range");
}

TEST(WithScenarioTimes, KeepsWhatCountsAndForgetsZero)
{
    const ScenarioId id = demo().scenarios.front().id;
    Dossier silent = demo();
    silent.machine.duty.timesPerHour.erase(id);
    const auto ten = withScenarioTimes(silent, id, 10);
    ASSERT_TRUE(ten);
    EXPECT_EQ(ten->machine.duty.timesPerHour.at(id), 10.0);
    EXPECT_EQ(*withScenarioTimes(*ten, id, 0), silent);
    const double nan = std::numeric_limits<double>::quiet_NaN();
    for (double times : {-1.0, 3601.0, nan})
        EXPECT_EQ(withScenarioTimes(demo(), id, times).error().code, ErrorCode::OutOfRange) << times;
    EXPECT_EQ(withScenarioTimes(demo(), {99999}, 1).error().code, ErrorCode::NotFound);
}

TEST(WithOperations, GivesEachPartItsOwnNumberAndLeavesTheOthers)
{
    const SafetyFunction& f = demo().functions[0];
    const DeviceId first = f.claim[2].channels[0].parts[0].device;
    const auto after = withOperations(
        demo(), f.id, [first](DeviceId d) { return d == first ? std::optional(1234.0) : std::nullopt; });
    ASSERT_TRUE(after);
    for (std::size_t s = 0; s < f.claim.size(); ++s)
        for (std::size_t c = 0; c < f.claim[s].channels.size(); ++c)
            for (std::size_t p = 0; p < f.claim[s].channels[c].parts.size(); ++p) {
                const ClaimedPart &was = f.claim[s].channels[c].parts[p],
                                  &is = after->functions[0].claim[s].channels[c].parts[p];
                if (was.device == first) {
                    EXPECT_EQ(is.operationsPerYear, 1234.0);
                    EXPECT_FALSE(is.secondsPerCycle);
                } else {
                    EXPECT_EQ(is, was);
                }
            }
    EXPECT_EQ(withOperations(demo(), {99999}, [](DeviceId) { return std::nullopt; }).error().code, ErrorCode::NotFound);
}

} // namespace
} // namespace ts::edit
