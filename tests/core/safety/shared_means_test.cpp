#include "core/safety/shared_means.h"

#include "tests/support/circuits.h"

#include <gtest/gtest.h>

#include <algorithm>

namespace ts::safety {
namespace {

using Kind = ChannelMeans::Kind;

/// Two contactors with a coil each; the first one's wires in cable W1, the second one's where it is said.
Circuit twoContactors(int secondRoute)
{
    Circuit c;
    c.routes = {{{1}, "W1", RouteKind::Cable}, {{2}, "W2", RouteKind::Cable}};
    for (int k = 1; k <= 2; ++k) {
        Part part;
        part.id = k == 1 ? "A" : "B";
        part.kind = "contactor";
        c.parts.push_back(part);
        Device d;
        d.id = {k};
        d.tag = "Q" + std::to_string(k);
        d.kind = "contactor";
        d.part = part.id;
        d.place = "plate";
        d.parameters = {{"coil_voltage_v", 24.0}, {"coil_current", std::string("dc")},
            {"auxiliary_contacts", std::vector<std::string>{"13-14"}}};
        c.devices.push_back(d);
        Wire w;
        w.id = {10 + k};
        w.number = std::to_string(30 + k);
        w.from = {{k}, "A1"};
        w.to = {{9}, k == 1 ? "13" : "23"};
        w.route = {k == 1 ? 1 : secondRoute};
        c.wires.push_back(w);
    }
    return c;
}

ClaimedSubsystem twoChannels(DeviceId first, DeviceId second)
{
    ClaimedSubsystem s;
    s.channels = {{"1", {{first, "main", {}, {}, {}, 0.0, {}}}}, {"2", {{second, "main", {}, {}, {}, 0.0, {}}}}};
    return s;
}

std::vector<std::pair<Kind, std::string>> sharedOf(const std::vector<ChannelMeans>& list)
{
    std::vector<std::pair<Kind, std::string>> shared;
    for (const ChannelMeans& m : list)
        if (m.isShared())
            shared.emplace_back(m.kind, m.name);
    return shared;
}

using Shared = std::vector<std::pair<Kind, std::string>>;

TEST(SharedMeans, AreWhatBothChannelsHangOn)
{
    EXPECT_EQ(sharedOf(meansOfChannels(twoContactors(2), twoChannels({1}, {2}))), (Shared{{Kind::Place, "plate"}}));
    EXPECT_EQ(sharedOf(meansOfChannels(twoContactors(1), twoChannels({1}, {2}))),
        (Shared{{Kind::Route, "W1"}, {Kind::Place, "plate"}}));
}

TEST(SharedMeans, OfOneDeviceTwiceAreAllOfIt)
{
    const auto list = meansOfChannels(twoContactors(2), twoChannels({1}, {1}));
    EXPECT_EQ(sharedOf(list).size(), list.size());
    EXPECT_EQ(sharedOf(list).front(), (std::pair{Kind::Device, std::string("Q1")}));
}

/// A wire from one coil to the other joins them to one conductor, whatever number it bears.
TEST(SharedMeans, AConductorIsWhateverWiresJoin)
{
    Circuit c = twoContactors(2);
    Wire bridge;
    bridge.id = {20};
    bridge.number = "99";
    bridge.from = {{1}, "A2"};
    bridge.to = {{2}, "A2"};
    bridge.route = {2};
    c.wires.push_back(bridge);
    const auto shared = sharedOf(meansOfChannels(c, twoChannels({1}, {2})));
    EXPECT_NE(std::find(shared.begin(), shared.end(), std::pair{Kind::Conductor, std::string("99")}), shared.end());
}

TEST(SharedMeans, TwoRoutesOfOneNameAreTwo)
{
    Circuit c = twoContactors(2);
    c.routes[1].name = "W1";
    EXPECT_EQ(sharedOf(meansOfChannels(c, twoChannels({1}, {2}))), (Shared{{Kind::Place, "plate"}}));
}

TEST(SharedMeans, BelongToTwoChannels)
{
    ClaimedSubsystem one = twoChannels({1}, {2});
    one.channels.pop_back();
    EXPECT_TRUE(meansOfChannels(twoContactors(1), one).empty());
}

TEST(WiresOf, AContactAreThoseAtItsTerminals)
{
    Circuit c = twoContactors(2);
    Wire w = c.wires.front();
    w.id = {30};
    w.from = {{1}, "13"};
    c.wires.push_back(w);
    EXPECT_EQ(wiresOf(c, {{1}, "13-14", {}, {}, {}, 0.0, {}}).size(), 1u);
    EXPECT_TRUE(wiresOf(c, {{1}, "main", {}, {}, {}, 0.0, {}}).empty()) << "no single element";
    EXPECT_TRUE(wiresOf(c, {{77}, "main", {}, {}, {}, 0.0, {}}).empty());
}

} // namespace
} // namespace ts::safety
