// The logics on their own: what they tell apart, what they remember, when they want to look again. No circuit.

#include "core/simulation/logic.h"

#include <gtest/gtest.h>

#include <numbers>

namespace ts {
namespace {

TimeNs at(double s)
{
    return timeNs(seconds(s));
}

/// One logic with its memory: look at inputs at a moment.
struct Device {
    DeviceLogic logic;
    LogicWord word{};
    LogicAnswer look(const LogicInputs& in, double s, TimingFault fault = TimingFault::None)
    {
        LogicAnswer a = logicStep(logic, word, sightOf(logic, word, in), at(s), fault);
        word = a.word;
        return a;
    }
    std::string mode() const { return modeName(logic, word.mode); }
};

LogicInputs supply(double v)
{
    LogicInputs in;
    in.supplyV = v;
    return in;
}

Device onDelay(double delayS)
{
    TimerLogic t;
    t.onV = 20.0;
    t.offV = 12.0;
    t.delayS = delayS;
    return {t};
}

TEST(TimerLogic, AsksToBeWokenAtItsTimeAndNotBefore)
{
    Device d = onDelay(2.0);
    EXPECT_FALSE(d.look(supply(0.0), 0.0).wakeAt);
    const LogicAnswer timing = d.look(supply(24.0), 1.0);
    ASSERT_TRUE(timing.wakeAt);
    EXPECT_EQ(*timing.wakeAt, at(3.0));
    EXPECT_EQ(timing.wishes, (std::vector<std::pair<int, std::uint8_t>>{{0, 0}}));
    EXPECT_EQ(*d.look(supply(24.0), 2.999).wakeAt, at(3.0)) << "looking in between changes nothing";
    const LogicAnswer elapsed = d.look(supply(24.0), 3.0);
    EXPECT_FALSE(elapsed.wakeAt);
    EXPECT_EQ(elapsed.wishes, (std::vector<std::pair<int, std::uint8_t>>{{0, 2}}));
    EXPECT_EQ(d.mode(), "elapsed");
}

TEST(TimerLogic, KeepsItsSupplyBetweenTheTwoThresholds)
{
    Device d = onDelay(1.0);
    d.look(supply(15.0), 0.0);
    EXPECT_EQ(d.mode(), "unpowered") << "15 V is below 20";
    d.look(supply(24.0), 1.0);
    d.look(supply(15.0), 1.5);
    EXPECT_EQ(d.mode(), "timing") << "and above 12 once it works";
    d.look(supply(11.0), 1.6);
    EXPECT_EQ(d.mode(), "unpowered");
}

TEST(TimerLogic, StarAndDeltaAreNeverWishedTogether)
{
    TimerLogic t;
    t.function = TimerLogic::Function::StarDelta;
    t.onV = 20.0;
    t.offV = 12.0;
    t.delayS = 4.0;
    t.pauseS = 0.05;
    t.first = 0;
    t.second = 1;
    for (TimingFault fault : {TimingFault::None, TimingFault::TooShort, TimingFault::TooLong, TimingFault::Never}) {
        Device d{t};
        for (int k = 0; k <= 5000; ++k) {
            const LogicAnswer a = d.look(supply(24.0), 0.01 * k, fault);
            EXPECT_LT(a.wishes[0].second + a.wishes[1].second, 4) << "at " << 0.01 * k;
        }
        EXPECT_EQ(d.mode(), fault == TimingFault::Never ? "timing" : "elapsed");
    }
}

LogicInputs phases(double a, double b, double c, bool exchanged = false)
{
    LogicInputs in;
    const double turn = 2.0 * std::numbers::pi / 3.0 * (exchanged ? -1.0 : 1.0);
    in.phases = {std::polar(a, 0.0), std::polar(b, -turn), std::polar(c, turn)};
    in.phaseCount = 3;
    return in;
}

PhaseMonitorLogic sheet()
{
    PhaseMonitorLogic m;
    m.nominalV = 400.0;
    m.supplyOnV = 280.0;
    m.supplyOffV = 200.0;
    m.under = 0.85;
    m.over = 1.1;
    m.loss = 0.6;
    m.unbalance = 0.08;
    m.hysteresis = 0.04;
    m.watchesSequence = true;
    m.delayS = 0.5;
    m.lossS = 0.1;
    return m;
}

std::string tripReason(const LogicInputs& in)
{
    Device d{sheet()};
    d.look(phases(400, 400, 400), 0.0);
    d.look(in, 1.0);
    d.look(in, 2.0);
    return d.mode() == "tripped" ? monitorReason(sheet(), d.word.flags) : d.mode();
}

TEST(PhaseMonitorLogic, NamesTheGravestReason)
{
    EXPECT_EQ(tripReason(phases(400, 400, 400)), "healthy");
    EXPECT_EQ(tripReason(phases(330, 330, 330)), "under_voltage");
    EXPECT_EQ(tripReason(phases(450, 450, 450)), "over_voltage");
    EXPECT_EQ(tripReason(phases(400, 400, 230)), "phase_lost");
    EXPECT_EQ(tripReason(phases(400, 400, 400, true)), "sequence");
    // 400, 400, 345: V2/V1 = (400 - 345) / (400 + 400 + 345) = 4.8 %; with 345 above 340 it is healthy, at 8 % it is
    // not.
    EXPECT_EQ(tripReason(phases(400, 400, 345)), "healthy");
    EXPECT_EQ(tripReason(phases(435, 435, 345)), "healthy"); // 90 / 1215 = 7.4 %
    EXPECT_EQ(tripReason(phases(439, 439, 341)), "unbalance"); // 98 / 1219 = 8.04 %
}

TEST(PhaseMonitorLogic, ALostPhaseIsAnsweredSoonerThanALowVoltage)
{
    Device low{sheet()}, lost{sheet()};
    for (Device* d : {&low, &lost})
        d->look(phases(400, 400, 400), 0.0);
    EXPECT_EQ(*low.look(phases(330, 330, 330), 1.0).wakeAt, at(1.5));
    EXPECT_EQ(*lost.look(phases(400, 400, 100), 1.0).wakeAt, at(1.1));
    low.look(phases(400, 400, 400), 1.2);
    EXPECT_EQ(low.mode(), "healthy") << "gone before the delay was over";
}

TEST(SoftStarterLogic, RampsInStepsThatNeverFall)
{
    SoftStarterLogic s;
    s.onV = 20.0;
    s.offV = 12.0;
    s.initialShare = 0.4;
    s.rampUpS = 2.0;
    s.rampDownS = 1.0;
    Device d{s};
    LogicInputs in = supply(24.0);
    EXPECT_FALSE(d.look(in, 0.0).level->second.isActive);
    in.controlV = 24.0;
    double last = 0.0;
    for (int k = 0; k < 200; ++k) {
        const ConverterOutput level = d.look(in, 1.0 + 0.01 * k).level->second;
        EXPECT_TRUE(level.isActive);
        EXPECT_GE(level.share, std::max(last, 0.4));
        last = level.share;
    }
    EXPECT_EQ(d.look(in, 3.0).level->second.share, 1.0);
    EXPECT_EQ(d.mode(), "bridged");
    in.controlV = 0.0;
    d.look(in, 4.0);
    EXPECT_EQ(d.mode(), "ramp_down");
    d.look(in, 5.0);
    EXPECT_EQ(d.mode(), "blocking");
}

TEST(DriveLogic, ATorqueChannelAloneTakesTheTorqueAwayAndARunCommandMustComeAnew)
{
    DriveLogic s;
    s.supplyOnV = s.supplyOffV = 340.0;
    s.inputV = 11.0;
    s.rampDownS = 1.0;
    for (const bool first : {true, false}) {
        Device d{s};
        LogicInputs in = supply(400.0);
        in.torqueOff1V = in.torqueOff2V = 24.0;
        d.look(in, 0.0);
        EXPECT_EQ(d.mode(), "ready");
        in.controlV = 24.0;
        EXPECT_TRUE(d.look(in, 1.0).level->second.isActive);
        (first ? in.torqueOff1V : in.torqueOff2V) = 0.0;
        EXPECT_FALSE(d.look(in, 2.0).level->second.isActive);
        in.torqueOff1V = in.torqueOff2V = 24.0;
        EXPECT_FALSE(d.look(in, 3.0).level->second.isActive) << "the command stood all the time";
        in.controlV = 0.0;
        d.look(in, 4.0);
        in.controlV = 24.0;
        EXPECT_TRUE(d.look(in, 5.0).level->second.isActive);
    }
}

} // namespace
} // namespace ts
