// Why something has its voltage, or what keeps it off: by hand for circuits where it can be read off the drawing.

#include "core/simulation/feeding.h"
#include "tests/support/circuits.h"

namespace ts {
namespace {

using test::Bench;
using test::CircuitBuilder;
using test::word;
using Words = std::vector<std::string>;

Feeding feedingOf(Bench& bench, std::string_view tag)
{
    const auto feeding = ts::feedingOf(bench.plant(), bench.state(), bench.frame(), bench.plant().deviceIndex(tag));
    EXPECT_TRUE(feeding) << tag;
    return feeding.value_or(Feeding{});
}

std::string nameOf(const Plant& plant, int link)
{
    const PlantLink& l = plant.links[static_cast<std::size_t>(link)];
    return l.device < 0 ? "wire" : plant.devices[static_cast<std::size_t>(l.device)].tag + " " + l.role;
}

Words gapsOf(Bench& bench, std::string_view tag)
{
    Words names;
    for (const Gap& gap : feedingOf(bench, tag).gaps)
        names.push_back(nameOf(bench.plant(), gap.link));
    return names;
}

Words wayOf(Bench& bench, std::string_view tag)
{
    Words names;
    for (int link : feedingOf(bench, tag).way)
        if (const std::string name = nameOf(bench.plant(), link); name != "wire")
            names.push_back(name);
    return names;
}

bool comesWhenTried(Bench& bench, std::string_view tag)
{
    Workspace workspace;
    return feedsWhenTried(
        bench.plant(), bench.state(), feedingOf(bench, tag), bench.plant().deviceIndex(tag), workspace);
}

/// Stop, start with a hold, and an overload contact in the return.
CircuitBuilder startStop()
{
    CircuitBuilder b;
    b.device("G1", "supply_external_24v")
        .device("S1", "push_button", {{"contacts", Words{"11-12"}}})
        .device("S2", "push_button", {{"contacts", Words{"13-14"}}})
        .device("Q1", "contactor",
            {{"coil_voltage_v", 24.0}, {"coil_current", word("dc")}, {"auxiliary_contacts", Words{"13-14", "23-24"}}})
        .device("F2", "selector", {{"contacts", Words{"95-96/off"}}})
        .device("P1", "lamp", {{"rated_voltage_v", 24.0}});
    b.wire("G1:+", "S1:11").wire("S1:12", "S2:13").wire("S2:14", "Q1:A1").wire("Q1:A2", "F2:95").wire("F2:96", "G1:-");
    b.wire("S1:12", "Q1:13").wire("Q1:14", "Q1:A1").wire("G1:+", "Q1:23").wire("Q1:24", "P1:X1").wire("P1:X2", "G1:-");
    return b;
}

TEST(Feeding, NamesTheStartButtonAndNotTheContactThatOnlyHolds)
{
    Bench bench(startStop().plant());
    bench.to(0.1);
    const Feeding feeding = feedingOf(bench, "Q1");
    EXPECT_TRUE(feeding.hasWay);
    EXPECT_FALSE(feeding.isFed);
    ASSERT_EQ(gapsOf(bench, "Q1"), Words{"S2 13-14"});
    EXPECT_EQ(feeding.gaps[0].closes, Gap::Closes::Hand);
    EXPECT_EQ(feeding.gaps[0].action, "press");
    EXPECT_EQ(wayOf(bench, "Q1"), (Words{"S1 11-12", "S2 13-14", "F2 95-96"})) << "from plus through the coil to minus";
    EXPECT_TRUE(comesWhenTried(bench, "Q1"));
}

TEST(Feeding, ShowsTheHoldOnceItRuns)
{
    Bench bench(startStop().plant());
    bench.to(0.1).tap("S2").to(1.0);
    EXPECT_TRUE(feedingOf(bench, "Q1").isFed);
    EXPECT_EQ(wayOf(bench, "Q1"), (Words{"S1 11-12", "Q1 13-14", "F2 95-96"}));
    EXPECT_TRUE(gapsOf(bench, "Q1").empty());
    EXPECT_EQ(wayOf(bench, "P1"), Words{"Q1 23-24"});
}

TEST(Feeding, FindsGapsOnBothSides)
{
    Bench bench(startStop().plant());
    bench.act("F2", "turn_to_on").act("S1", "press").to(0.2);
    EXPECT_EQ(gapsOf(bench, "Q1"), (Words{"S1 11-12", "S2 13-14", "F2 95-96"}));
    EXPECT_TRUE(comesWhenTried(bench, "Q1")) << "stop let go, start pressed, selector turned back";
}

TEST(Feeding, TellsACoilFromAHand)
{
    Bench bench(startStop().plant());
    bench.to(0.1);
    const Feeding lamp = feedingOf(bench, "P1");
    ASSERT_EQ(lamp.gaps.size(), 1u);
    EXPECT_EQ(lamp.gaps[0].closes, Gap::Closes::Coil);
    EXPECT_TRUE(lamp.gaps[0].action.empty()) << "nobody is told to push an armature in";
    EXPECT_FALSE(comesWhenTried(bench, "P1"));
}

TEST(Feeding, WhatIsBrokenIsSaidToBe)
{
    Bench bench(startStop().plant());
    bench.fault("S1/11-12:does_not_close").to(0.2);
    const Feeding feeding = feedingOf(bench, "Q1");
    ASSERT_EQ(gapsOf(bench, "Q1"), (Words{"S1 11-12", "S2 13-14"}));
    EXPECT_EQ(feeding.gaps[0].closes, Gap::Closes::Repair);
    EXPECT_FALSE(comesWhenTried(bench, "Q1"));
}

TEST(Feeding, WithoutAnyWaySaysSo)
{
    CircuitBuilder b;
    b.device("G1", "supply_external_24v")
        .device("K1", "contactor_relay", {{"coil_voltage_v", 24.0}, {"coil_current", word("dc")}});
    b.wire("G1:+", "K1:A1");
    Bench bench(b.plant());
    bench.to(0.1);
    EXPECT_FALSE(feedingOf(bench, "K1").hasWay);
    EXPECT_FALSE(ts::feedingOf(bench.plant(), bench.state(), bench.frame(), bench.plant().deviceIndex("G1")))
        << "a supply is fed by nobody";
}

TEST(Feeding, BeforeTheResetTheRelayAndTheStartAreMissing)
{
    Bench bench(*compile(test::demoFile().dossier.circuit));
    bench.to(0.2);
    // Two contacts in series inside the relay stand for its one output.
    EXPECT_EQ(gapsOf(bench, "Q1"), (Words{"S2 13-14", "K1 13-14"}));
    EXPECT_EQ(feedingOf(bench, "Q1").gaps[1].closes, Gap::Closes::Program);
    bench.fault("wire/70:open").to(0.4);
    EXPECT_EQ(gapsOf(bench, "Q1").back(), "wire") << "a broken wire counts";
}

TEST(Feeding, OfTheDemosMotorGoesThroughEachLineOfOneDirection)
{
    Bench bench(*compile(test::demoFile().dossier.circuit));
    bench.to(0.5);
    const Feeding off = feedingOf(bench, "M1");
    EXPECT_TRUE(off.hasWay);
    EXPECT_EQ(gapsOf(bench, "M1"), (Words{"Q1 1-2", "Q2 1-2", "Q1 3-4", "Q2 3-4", "Q1 5-6", "Q2 5-6"}))
        << "in each line the contactors of both channels";
    for (const Gap& gap : off.gaps)
        EXPECT_EQ(gap.closes, Gap::Closes::Coil);
    Bench running = test::runningDemo();
    EXPECT_TRUE(feedingOf(running, "M1").isFed);
    EXPECT_TRUE(feedingOf(running, "M1").gaps.empty());
    EXPECT_GT(wayOf(running, "M1").size(), 8u);
}

TEST(Feeding, OfASmallMotorHoldsWhileItRunsUpAndEndsWhenItRunsDown)
{
    CircuitBuilder b;
    b.device("G1", "supply_single_phase", {{"voltage_v", 230.0}})
        .device("S1", "selector", {{"contacts", Words{"13-14/on"}}})
        .device("M1", "motor_single_phase",
            {{"voltage_v", 230.0}, {"current_a", 2.0}, {"runs_up_in_s", 2.0}, {"runs_down_in_s", 5.0}});
    b.wire("G1:L", "S1:13").wire("S1:14", "M1:U1").wire("M1:U2", "G1:N");
    Bench bench(b.plant());
    bench.to(0.5);
    EXPECT_EQ(gapsOf(bench, "M1"), Words{"S1 13-14"});
    bench.act("S1", "turn_to_on").to(1.0);
    EXPECT_TRUE(feedingOf(bench, "M1").isFed) << "it still runs up";
    EXPECT_TRUE(gapsOf(bench, "M1").empty());
    bench.to(4.0);
    EXPECT_TRUE(feedingOf(bench, "M1").isFed);
    bench.act("S1", "turn_to_off").to(6.0);
    EXPECT_FALSE(feedingOf(bench, "M1").isFed) << "it turns, and nothing feeds it";
    EXPECT_EQ(gapsOf(bench, "M1"), Words{"S1 13-14"});
    bench.fault("M1/armature:stuck_out").to(20.0).act("S1", "turn_to_on").to(22.0);
    EXPECT_TRUE(gapsOf(bench, "M1").empty());
    EXPECT_FALSE(feedingOf(bench, "M1").isFed) << "all is closed, and it stands: the fault is its own";
}

/// What it says of every coil and lamp agrees with what runs: fed means no gap on the way, and with no gap and no fault
/// a coil that wants its voltage has it.
TEST(Feeding, AgreesWithTheRunOfTheDemo)
{
    for (const bool runs : {false, true}) {
        Bench bench = runs ? test::runningDemo() : Bench(*compile(test::demoFile().dossier.circuit));
        bench.to(bench.now() + 0.5);
        const Frame frame = bench.frame();
        int looked = 0;
        for (const PlantDevice& d : bench.plant().devices) {
            const auto f = ts::feedingOf(bench.plant(), bench.state(), frame, bench.plant().deviceIndex(d.tag));
            if (!f)
                continue;
            ++looked;
            if (f->isFed)
                EXPECT_TRUE(f->gaps.empty()) << d.tag;
            if (f->hasWay && f->gaps.empty())
                EXPECT_TRUE(f->isFed) << d.tag;
        }
        EXPECT_GT(looked, 5);
    }
}

} // namespace
} // namespace ts
