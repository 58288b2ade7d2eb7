// Each way of starting unasked is a question of its own: machines of which a hand knows by what they start.

#include "core/exploration/explore.h"
#include "tests/core/faults/stop_circuits.h"

#include <algorithm>

namespace ts::exploration {
namespace {

using test::CircuitBuilder;
using test::Words;

constexpr std::array kWays{Claim::NoStartBySupply, Claim::NoStartByReset, Claim::NoStartByReturn, Claim::NoStartAlone};

std::string waysOf(const Dossier& d)
{
    Request request;
    request.withFaults = request.withInterlocks = false;
    const auto e = explore(d, request);
    EXPECT_TRUE(e) << e.error().message.id;
    std::string ways;
    for (Claim c : kWays)
        for (const Proof& p : e->motors.at(0).healthy.proofs)
            if (p.claim == c && p.answer == Answer::CounterExample)
                ways += (ways.empty() ? "" : " ") + std::string(nameOf(c));
    return ways;
}

/// A contactor behind a button, held by itself.
CircuitBuilder withHold()
{
    CircuitBuilder b = test::motorBehind({"Q1"});
    b.device("S0", "emergency_stop", {{"contacts", Words{"11-12"}}})
        .device("S3", "push_button", {{"contacts", Words{"13-14"}}});
    b.wire("G1:+", "S0:11").wire("S0:12", "S3:13").wire("Q1:A2", "G1:-");
    return b;
}

TEST(StartWays, AHoldBehindTheStopHasNone)
{
    CircuitBuilder b = withHold();
    b.wire("S3:14", "Q1:A1").wire("S0:12", "Q1:13").wire("Q1:14", "Q1:A1");
    EXPECT_EQ(waysOf(test::stopping(b.circuit())), "");
}

TEST(StartWays, AMaintainedSelectorStartsByTheSupplyAndByTheStopThatIsLetGo)
{
    CircuitBuilder b = test::motorBehind({"Q1"});
    b.device("S0", "emergency_stop", {{"contacts", Words{"11-12"}}})
        .device("S3", "selector", {{"positions", Words{"off", "on"}}, {"contacts", Words{"13-14/on"}}});
    b.wire("G1:+", "S0:11").wire("S0:12", "S3:13").wire("S3:14", "Q1:A1").wire("Q1:A2", "G1:-");
    Dossier d = test::stopping(b.circuit());
    d.scenarios[0].steps[0] = {1.0, "turn_to_on", "S3", 0.0};
    EXPECT_EQ(waysOf(d), "no_start_by_supply no_start_by_return");
}

/// A relay that resets by itself, and nothing behind it that waits for a start.
TEST(StartWays, AnAutomaticResetStartsAsAReset)
{
    CircuitBuilder b = test::motorBehind({"Q1", "Q2"});
    b.device("S0", "emergency_stop", {{"contacts", Words{"11-12", "21-22"}}})
        .device("S3", "push_button", {{"contacts", Words{"13-14"}}});
    b.device("K1", "safety_relay", {{"reset", test::word("automatic")}});
    b.wire("G1:+", "K1:A1").wire("K1:A2", "G1:-");
    b.wire("K1:S11", "S0:11").wire("S0:12", "K1:S12").wire("K1:S21", "S0:21").wire("S0:22", "K1:S22");
    b.wire("K1:S33", "Q1:21").wire("Q1:22", "Q2:21").wire("Q2:22", "K1:S34");
    b.wire("G1:+", "K1:13").wire("K1:14", "Q1:A1").wire("Q1:A2", "G1:-");
    b.wire("G1:+", "K1:23").wire("K1:24", "Q2:A1").wire("Q2:A2", "G1:-");
    const std::string ways = waysOf(test::stopping(b.circuit()));
    EXPECT_NE(ways.find("no_start_by_reset"), std::string::npos) << ways;
    EXPECT_EQ(ways.find("no_start_alone"), std::string::npos) << ways;
}

/// A time relay that lies at the supply and takes the contactor in when its time is up.
TEST(StartWays, ATimerAtTheSupplyStartsByTimeAlone)
{
    CircuitBuilder b = withHold();
    b.device("K5", "timer",
        {{"function", test::word("on_delay")}, {"supply_voltage_v", 24.0}, {"delay_s", 5.0},
            {"contacts", Words{"17-18"}}});
    b.wire("G1:+", "K5:A1").wire("K5:A2", "G1:-");
    b.wire("S3:14", "Q1:A1").wire("S0:12", "K5:17").wire("K5:18", "Q1:A1");
    const std::string ways = waysOf(test::stopping(b.circuit()));
    EXPECT_NE(ways.find("no_start_alone"), std::string::npos) << ways;
}

TEST(StartWays, HaveNamesOfTheirOwn)
{
    std::vector<std::string_view> names;
    for (Claim c : kClaims)
        names.push_back(nameOf(c));
    std::sort(names.begin(), names.end());
    EXPECT_EQ(std::adjacent_find(names.begin(), names.end()), names.end());
    EXPECT_TRUE(isOnlyTold(Claim::NoStartHeld));
    EXPECT_FALSE(isOnlyTold(Claim::NoStartByReset));
}

} // namespace
} // namespace ts::exploration
