// Before a bridge: each answer against what the wiring says by hand.

#include "core/analysis/bridge.h"
#include "core/record/record.h"
#include "tests/support/circuits.h"

#include <algorithm>

namespace ts {
namespace {

const SafetyFunction& emergencyStop(const Dossier& d)
{
    const auto it = std::find_if(
        d.functions.begin(), d.functions.end(), [](const SafetyFunction& f) { return f.emergencyStop; });
    EXPECT_NE(it, d.functions.end());
    return *it;
}

const BridgedFunction* of(const BridgeCost& cost, FunctionId id)
{
    const auto it = std::find_if(
        cost.functions.begin(), cost.functions.end(), [id](const BridgedFunction& b) { return b.function == id; });
    return it == cost.functions.end() ? nullptr : &*it;
}

TEST(Bridge, OverOneChannelLeavesTheOtherAlone)
{
    const Dossier d = test::demoFile().dossier;
    const auto cost = bridgeCost(d, "S0:11", "S0:12");
    ASSERT_TRUE(cost);
    EXPECT_FALSE(cost->isJoined);
    ASSERT_EQ(cost->contacts.size(), 1u);
    EXPECT_EQ(d.circuit.device(cost->contacts[0].first)->tag, "S0");
    EXPECT_EQ(cost->contacts[0].second, "11-12");
    EXPECT_TRUE(cost->protections.empty());
    EXPECT_TRUE(cost->givesWay.empty());
    const BridgedFunction* stop = of(*cost, emergencyStop(d).id);
    ASSERT_NE(stop, nullptr);
    EXPECT_FALSE(stop->isLost) << "the other channel still stops it";
    ASSERT_FALSE(stop->losing.empty());
    EXPECT_TRUE(std::any_of(stop->losing.begin(), stop->losing.end(), [](const BridgedFunction::Losing& l) {
        return l.id == "S0/21-22:welded";
    })) << "and now one welded contact loses it";
    EXPECT_EQ(cost->functions.size() + cost->held, d.functions.size());
}

TEST(Bridge, OverBothContactorsOfThePathLosesTheStop)
{
    // Line 1 straight to the motor: on its own one line turns nothing, but three bridges do; over the coil the
    // contactor does not drop out any more.
    const Dossier d = test::demoFile().dossier;
    Dossier one = *withBridge(d, "S0:11", "S0:12");
    const auto cost = bridgeCost(one, "S0:21", "S0:22");
    ASSERT_TRUE(cost);
    const BridgedFunction* stop = of(*cost, emergencyStop(d).id);
    ASSERT_NE(stop, nullptr);
    EXPECT_TRUE(stop->isLost);
    EXPECT_TRUE(stop->why.has_value());
}

TEST(Bridge, OverAFuseNamesWhatItProtects)
{
    const Dossier d = test::demoFile().dossier;
    const auto fuse = std::find_if(d.circuit.devices.begin(), d.circuit.devices.end(),
        [](const Device& x) { return x.kind == "fuse" || x.kind == "breaker" || x.kind == "motor_protection_switch"; });
    ASSERT_NE(fuse, d.circuit.devices.end());
    const auto cost = bridgeCost(d, fuse->tag + ":1", fuse->tag + ":2");
    ASSERT_TRUE(cost);
    ASSERT_EQ(cost->protections.size(), 1u);
    const BridgedProtection& p = cost->protections.front();
    EXPECT_EQ(p.device, fuse->id);
    EXPECT_EQ(p.element, "1-2");
    EXPECT_FALSE(p.wires.empty());
    double thinnest = 1e9;
    for (const WireId w : p.wires)
        thinnest = std::min(thinnest, d.circuit.wire(w)->areaMm2);
    EXPECT_DOUBLE_EQ(p.thinnestMm2, thinnest);
    for (const WireId w : p.wires)
        EXPECT_NE(d.circuit.nameOf(d.circuit.wire(w)->to), fuse->tag + ":1")
            << "what is ahead of it it does not protect";
}

TEST(Bridge, OfLiveConductorsGivesWay)
{
    const Dossier d = test::demoFile().dossier;
    const auto cost = bridgeCost(d, "G1:+", "G1:-");
    ASSERT_TRUE(cost);
    EXPECT_NEAR(cost->volts, 24, 2);
    EXPECT_TRUE(cost->contacts.empty());
    EXPECT_FALSE(cost->functions.empty()) << "without its supply nothing can be tried";
}

TEST(Bridge, BetweenWhatIsJoinedChangesNothingAndNeedsTwoEnds)
{
    const Dossier d = test::demoFile().dossier;
    const Wire& w = d.circuit.wires.front();
    const auto cost = bridgeCost(d, d.circuit.nameOf(w.from), d.circuit.nameOf(w.to));
    ASSERT_TRUE(cost);
    EXPECT_TRUE(cost->isJoined);
    EXPECT_TRUE(cost->functions.empty());
    EXPECT_EQ(bridgeCost(d, "S0:11", "S0:99").error().message.id, "test.unknown");
    EXPECT_EQ(bridgeCost(d, "S77:11", "S0:11").error().code, ErrorCode::NotFound);
    EXPECT_EQ(bridgeCost(d, "S0:11", "S0:11").error().message.id, "bridge.same");
    std::stop_source stopped;
    stopped.request_stop();
    EXPECT_EQ(bridgeCost(d, "S0:11", "S0:12", stopped.get_token()).error().code, ErrorCode::Cancelled);
}

} // namespace
} // namespace ts
