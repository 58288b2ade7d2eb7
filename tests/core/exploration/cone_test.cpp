// What bears on a motor, found from the wiring; and what a person and the plant can do.

#include "core/exploration/operation.h"
#include "tests/core/faults/stop_circuits.h"

#include <algorithm>

namespace ts::exploration {
namespace {

using test::Words;

/// Two channels on a relay, and a lamp with a button of its own beside them.
Circuit withABystander()
{
    test::CircuitBuilder b = test::twoChannels();
    b.device("S9", "push_button", {{"contacts", Words{"13-14"}}}).device("P9", "lamp", {{"rated_voltage_v", 24.0}});
    b.wire("G1:+", "S9:13").wire("S9:14", "P9:X1").wire("P9:X2", "G1:-");
    return b.circuit();
}

std::vector<std::string> tagsOf(const Plant& plant, const std::vector<int>& movers)
{
    std::vector<std::string> tags;
    for (int m : movers)
        tags.push_back(plant.devices[static_cast<std::size_t>(plant.movers[static_cast<std::size_t>(m)].device)].tag);
    std::sort(tags.begin(), tags.end());
    tags.erase(std::unique(tags.begin(), tags.end()), tags.end());
    return tags;
}

TEST(Cone, GoesFromTheMotorOverCoilsAndInputsToTheHands)
{
    const Plant plant = *compile(withABystander());
    const Cone cone = coneOfMotor(plant, 0);
    EXPECT_EQ(tagsOf(plant, cone.contactors), (Words{"Q1", "Q2"}));
    EXPECT_EQ(tagsOf(plant, cone.movers), (Words{"F1", "K1", "Q1", "Q2", "S0", "S3"}))
        << "the relay's inputs lead to S0 and S3";
    EXPECT_EQ(cone.knobs.size(), 3u) << "three lines";
}

TEST(Operations, LeaveAloneWhatDoesNotBearOnTheMotor)
{
    const Plant plant = *compile(withABystander());
    const Operations operations(plant, coneOfMotor(plant, 0), {});
    EXPECT_EQ(operations.leftAlone(), (Words{"S9"}));
    EXPECT_EQ(operations.all().back().kind, Operation::Kind::Wait);
}

TEST(Operations, KeepToTwoHandsAndOneThingOutOfOrder)
{
    const Plant plant = *compile(withABystander());
    const Operations operations(plant, coneOfMotor(plant, 0), {});
    State state = initialState(plant);
    const auto possible = [&](Operation::Kind kind) {
        return std::count_if(operations.all().begin(), operations.all().end(),
            [&](const Operation& o) { return o.kind == kind && operations.isPossible(state, o, {}); });
    };
    EXPECT_EQ(possible(Operation::Kind::SupplyLost), 1);
    EXPECT_EQ(possible(Operation::Kind::SupplyBack), 0) << "it is there";
    EXPECT_EQ(possible(Operation::Kind::PhaseLost), 3);
    for (double& k : state.knobs)
        k = 0.0;
    EXPECT_EQ(possible(Operation::Kind::PhaseLost), 0);
    EXPECT_EQ(possible(Operation::Kind::PhaseBack), 0) << "a lost supply comes back as a whole";
    EXPECT_EQ(possible(Operation::Kind::SupplyBack), 1);
    state = initialState(plant);
    const auto before = possible(Operation::Kind::Hand);
    for (int m = 0; m < static_cast<int>(plant.movers.size()); ++m) // both armatures held in: no hand is left for a
                                                                    // button
        if (plant.movers[static_cast<std::size_t>(m)].spec.driver == MoverSpec::Driver::Coil)
            state.pushed[static_cast<std::size_t>(m)] = 1;
    EXPECT_LT(possible(Operation::Kind::Hand), before);
    EXPECT_EQ(possible(Operation::Kind::TwoHands), 1) << "only letting both go";
}

} // namespace
} // namespace ts::exploration
