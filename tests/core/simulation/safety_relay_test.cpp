// The relay's logic by itself: discrepancy, lock-out, the three kinds of reset, loss of supply.

#include "core/simulation/safety_relay.h"

#include <gtest/gtest.h>

namespace ts {
namespace {

constexpr TimeNs kMs = 1'000'000;

/// A relay on a table: two channels, 24 V, thresholds as its sheet says.
class Relay {
public:
    SafetyRelayLogic sheet;
    RelayWord word;
    RelayInputs in{24.0, 24.0, 24.0, 0.0, true};
    TimeNs now = 0;
    std::optional<TimeNs> wakeAt;

    Relay()
    {
        sheet.channel2 = 1;
        sheet.supplyOnV = 20.4;
        sheet.supplyOffV = 14.4;
        sheet.senseV = 14.4;
        sheet.resetShortestS = 0.05;
        sheet.resetLongestS = 3.0;
        sheet.discrepancyS = 0.5;
    }
    Relay& look(TimeNs after = 0)
    {
        now += after;
        const RelayAnswer answer = relayStep(sheet, word, in, now);
        word = answer.word;
        wakeAt = answer.wakeAt;
        in.relaysAtRest = !word.outputs;
        return *this;
    }
    Relay& channels(bool first, bool second, TimeNs after = 0)
    {
        in.channel1V = first ? 24.0 : 0.0;
        in.channel2V = second ? 24.0 : 0.0;
        return look(after);
    }
    Relay& reset(TimeNs heldNs)
    {
        in.resetV = 24.0;
        look(10 * kMs);
        in.resetV = 0.0;
        return look(heldNs);
    }
};

/// A reset that is held or stuck when the relay becomes ready is none, even if both are seen at one instant: the supply
/// comes back, or the reset is fed from the loop that closes. Once it counted as pressed afresh.
TEST(AHeldReset, IsNoResetWhenTheSupplyReturns)
{
    using Kind = SafetyRelayLogic::Reset;
    for (const Kind kind : {Kind::Manual, Kind::Monitored}) {
        Relay r;
        r.sheet.resetKind = kind;
        r.look();
        r.in.resetV = 24.0;
        r.in.supplyV = 0.0;
        r.look(100 * kMs);
        r.in.supplyV = 24.0; // everything at once
        EXPECT_FALSE(r.look(100 * kMs).word.outputs);
        EXPECT_FALSE(r.look(200 * kMs).word.outputs);
        r.in.resetV = 0.0;
        EXPECT_FALSE(r.look(200 * kMs).word.outputs) << "letting go of it is none either";
        EXPECT_TRUE(kind == Kind::Manual ? (r.in.resetV = 24.0, r.look(100 * kMs).word.outputs)
                                         : r.reset(200 * kMs).word.outputs)
            << "a fresh one is";
    }
}

TEST(AHeldReset, IsNoResetWhenItsLoopCloses)
{
    Relay r;
    r.look().channels(false, false, 100 * kMs);
    r.in.resetV = 24.0;
    EXPECT_FALSE(r.channels(true, true, 100 * kMs).word.outputs) << "channels and reset at one instant";
    r.in.resetV = 0.0;
    EXPECT_FALSE(r.look(200 * kMs).word.outputs);
    EXPECT_TRUE(r.reset(200 * kMs).word.outputs);
}

TEST(MonitoredReset, ActsOnTheFallingEdgeWithinItsLimits)
{
    EXPECT_TRUE(Relay().look().reset(200 * kMs).word.outputs);
    EXPECT_FALSE(Relay().look().reset(20 * kMs).word.outputs) << "shorter than 50 ms";
    EXPECT_FALSE(Relay().look().reset(4000 * kMs).word.outputs) << "longer than 3 s";
    Relay held;
    held.look();
    held.in.resetV = 24.0;
    EXPECT_FALSE(held.look(200 * kMs).word.outputs) << "not while it is pressed";
}

TEST(MonitoredReset, AButtonThatWasBridgedBeforeIsNoEdge)
{
    Relay r;
    r.in.resetV = 24.0; // before the supply comes
    r.channels(false, false).channels(true, true, 10 * kMs);
    r.in.resetV = 0.0;
    EXPECT_FALSE(r.look(200 * kMs).word.outputs);
    EXPECT_TRUE(r.reset(200 * kMs).word.outputs) << "a real one works after that";
}

TEST(ManualReset, ActsOnTheRisingEdge)
{
    Relay r;
    r.sheet.resetKind = SafetyRelayLogic::Reset::Manual;
    r.look();
    r.in.resetV = 24.0;
    EXPECT_TRUE(r.look(10 * kMs).word.outputs);
}

TEST(AutomaticReset, NeedsOnlyAClosedLoop)
{
    Relay r;
    r.sheet.resetKind = SafetyRelayLogic::Reset::Automatic;
    r.in.resetV = 24.0;
    r.channels(false, false);
    EXPECT_FALSE(r.word.outputs);
    r.channels(true, true, 10 * kMs).look(10 * kMs);
    EXPECT_TRUE(r.word.outputs);
    r.in.resetV = 0.0; // the loop opens when the contactors pull in
    EXPECT_TRUE(r.look(10 * kMs).word.outputs);
}

TEST(InnerRelays, ThatDidNotDropOutRefuseTheReset)
{
    Relay r;
    r.look();
    r.in.relaysAtRest = false;
    r.in.resetV = 24.0;
    r.now += 10 * kMs;
    r.word = relayStep(r.sheet, r.word, r.in, r.now).word;
    r.in.resetV = 0.0;
    r.now += 200 * kMs;
    EXPECT_FALSE(relayStep(r.sheet, r.word, r.in, r.now).word.outputs);
}

TEST(Channels, EitherOneTakesTheOutputsAway)
{
    for (const bool first : {true, false}) {
        Relay r;
        r.look().reset(200 * kMs);
        ASSERT_TRUE(r.word.outputs);
        r.channels(!first, first, 100 * kMs);
        EXPECT_FALSE(r.word.outputs);
        EXPECT_FALSE(r.word.lockedOut) << "within the discrepancy time";
        ASSERT_TRUE(r.wakeAt);
        EXPECT_EQ(*r.wakeAt - r.now, 500 * kMs);
    }
}

TEST(LockOut, ComesWhenTheChannelsDisagreeTooLongAndGoesWhenBothWereOff)
{
    Relay r;
    r.look().reset(200 * kMs).channels(false, true, 100 * kMs).look(500 * kMs);
    EXPECT_TRUE(r.word.lockedOut);
    r.channels(true, true, 100 * kMs);
    EXPECT_TRUE(r.word.lockedOut) << "closing again is not enough";
    EXPECT_FALSE(r.reset(200 * kMs).word.outputs);
    r.channels(false, false, 100 * kMs).channels(true, true, 100 * kMs);
    EXPECT_FALSE(r.word.lockedOut);
    EXPECT_TRUE(r.reset(200 * kMs).word.outputs);
}

TEST(LockOut, ComesWhenOneChannelNeverOpened)
{
    Relay r;
    r.look().reset(200 * kMs);
    r.channels(false, true, 100 * kMs).channels(true, true, 50 * kMs); // within the discrepancy time
    EXPECT_TRUE(r.word.lockedOut) << "channel 2 did not open";
    EXPECT_FALSE(r.word.ready);
}

TEST(LockOut, SurvivesLossOfSupplyOnlyIfTheSheetSaysSo)
{
    for (const bool survives : {true, false}) {
        Relay r;
        r.sheet.lockOutSurvivesSupplyLoss = survives;
        r.look().reset(200 * kMs).channels(false, true, 100 * kMs).look(500 * kMs);
        ASSERT_TRUE(r.word.lockedOut);
        r.in.supplyV = 0.0;
        r.look(1000 * kMs);
        EXPECT_FALSE(r.word.powered);
        r.in.supplyV = 24.0;
        r.channels(true, true, 1000 * kMs);
        EXPECT_EQ(r.word.lockedOut, survives);
    }
}

TEST(Supply, HasAHysteresis)
{
    Relay r;
    r.in.supplyV = 18.0;
    EXPECT_FALSE(r.look().word.powered) << "below 20.4 V it does not come on";
    r.in.supplyV = 21.0;
    EXPECT_TRUE(r.look(kMs).word.powered);
    r.in.supplyV = 18.0;
    EXPECT_TRUE(r.look(kMs).word.powered) << "but stays on down to 14.4 V";
    r.in.supplyV = 14.0;
    EXPECT_FALSE(r.look(kMs).word.powered);
}

TEST(OneChannel, WorksWithoutASecond)
{
    Relay r;
    r.sheet.channel2 = -1;
    EXPECT_TRUE(r.look().reset(200 * kMs).word.outputs);
    r.channels(false, false, 10 * kMs);
    EXPECT_FALSE(r.word.outputs);
    EXPECT_FALSE(r.word.lockedOut);
}

} // namespace
} // namespace ts
