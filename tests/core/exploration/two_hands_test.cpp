// What one hand does not start may want two at once: a two-hand control, an enabling switch with its button.

#include "core/exploration/behaviour.h"
#include "core/patterns/advice.h"
#include "core/patterns/machine.h"

#include <gtest/gtest.h>

#include <algorithm>

namespace ts::exploration {
namespace {

using Texts = std::vector<std::string>;

Circuit chosen(const char* operation)
{
    const auto file = patterns::machine(*patterns::advised(Texts{operation}));
    EXPECT_TRUE(file);
    return file->dossier.circuit;
}

const Deed* runsWhileHeld(const Behaviour& found)
{
    const auto it = std::find_if(
        found.deeds.begin(), found.deeds.end(), [](const Deed& d) { return d.effect == Deed::Effect::RunsWhileHeld; });
    return it == found.deeds.end() ? nullptr : &*it;
}

class TwoHands : public ::testing::TestWithParam<const char*> { };

TEST_P(TwoHands, BringToRunWhatOneDoesNot)
{
    const Circuit circuit = chosen(GetParam());
    const auto found = behaviourOf(circuit);
    ASSERT_TRUE(found);
    EXPECT_TRUE(found->neverRan.empty());
    const Deed* deed = runsWhileHeld(*found);
    ASSERT_TRUE(deed);
    EXPECT_EQ(circuit.device(deed->actuator)->tag, "M1");
    EXPECT_NE(deed->said.find(" and "), std::string::npos) << deed->said;
    for (const Deed& d : found->deeds)
        EXPECT_NE(d.effect, Deed::Effect::Starts) << d.said << ": let go, it stops";
}

INSTANTIATE_TEST_SUITE_P(Operated, TwoHands, ::testing::Values("operation=two_hand", "operation=enabling"));

TEST(TwoHandsAreNotTried, WhereOneIsEnough)
{
    const auto found = behaviourOf(chosen("operation=maintained"));
    ASSERT_TRUE(found);
    for (const Deed& d : found->deeds)
        EXPECT_EQ(d.said.find(" and "), std::string::npos) << d.said;
}

} // namespace
} // namespace ts::exploration
