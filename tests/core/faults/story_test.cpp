// The story of a fault: three scenes, and where they differ from the healthy circuit.

#include "core/faults/story.h"
#include "tests/core/faults/stop_circuits.h"

namespace ts::faults {
namespace {

using namespace test;

struct Told {
    Plant plant;
    Story story;
    const StoryRow* row(std::string_view tag) const
    {
        for (const StoryRow& r : story.rows)
            if (plant.devices[static_cast<std::size_t>(r.device)].tag == tag)
                return &r;
        return nullptr;
    }
};

Told told(const Dossier& d, std::string_view id, Moment moment)
{
    const Sweep s = swept(d, false);
    const SweptFault* f = faultNamed(s.faults, id);
    EXPECT_NE(f, nullptr) << id;
    const auto story = storyOf(d, d.functions.front(), s, static_cast<int>(f - s.faults.data()), moment);
    EXPECT_TRUE(story);
    return {*compile(d.circuit), *story};
}

TEST(Story, OfALostStopEndsLongAfterTheDemandWithTheMotorStillTurning)
{
    const Told t = told(stopping(twoChannels().circuit()), "S0/block:fallen_off", Moment::JustBefore);
    EXPECT_EQ(t.story.scenes[2].when, SceneWhen::Watched);
    ASSERT_NE(t.row("M1"), nullptr);
    EXPECT_EQ(t.row("M1")->isOn, (std::array{true, true, true}));
    EXPECT_FALSE(t.row("M1")->isOnHealthy[2]);
    EXPECT_TRUE(t.row("S0")->isOn[1]) << "it is pressed all the same";
    EXPECT_EQ(t.story.showAt, t.story.scenes[2].at);
}

TEST(Story, OfACaughtWeldEndsAtTheResetThatIsRefused)
{
    const Told t = told(stopping(twoChannels().circuit()), "Q1/main:welded", Moment::JustBefore);
    EXPECT_EQ(t.story.scenes[2].when, SceneWhen::AtReset);
    EXPECT_TRUE(t.row("K1")->isOn[0]);
    EXPECT_FALSE(t.row("K1")->isOn[2]);
    EXPECT_TRUE(t.row("K1")->isOnHealthy[2]);
}

TEST(Story, BringsItsOwnScriptWithTheFaultAtItsMoment)
{
    const Told t = told(stopping(twoChannels().circuit()), "Q1/coil:open", Moment::WithDemand);
    int faults = 0;
    TimeNs last = 0;
    for (const Stimulus& s : t.story.script) {
        EXPECT_GE(s.at, last);
        last = s.at;
        if (s.kind == Stimulus::Kind::PutFault) {
            ++faults;
            EXPECT_EQ(s.at, timeNs(seconds(5.0)));
        }
    }
    EXPECT_EQ(faults, 1);
}

} // namespace
} // namespace ts::faults
