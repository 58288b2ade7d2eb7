// Equal parts that arrive in one instant: one of them is first, the race is told, and both orders can be run.

#include "tests/support/circuits.h"

#include <algorithm>

namespace ts {
namespace {

using test::CircuitBuilder;
using test::word;
using Words = std::vector<std::string>;

ParameterMap contactor(Words auxiliaries)
{
    return {{"coil_voltage_v", 24.0}, {"coil_current", word("dc")}, {"auxiliary_contacts", std::move(auxiliaries)}};
}

/// Two buttons, two contactors; each one's opening contact lies in the other's coil.
CircuitBuilder electricalInterlock()
{
    CircuitBuilder b;
    b.device("G1", "supply_external_24v").device("S2", "push_button", {{"contacts", Words{"13-14"}}});
    b.device("S3", "push_button", {{"contacts", Words{"13-14"}}});
    b.device("K1", "contactor", contactor({"21-22"})).device("K2", "contactor", contactor({"21-22"}));
    b.wire("G1:+", "S2:13").wire("G1:+", "S3:13").wire("S2:14", "K2:21").wire("K2:22", "K1:A1");
    b.wire("S3:14", "K1:21").wire("K1:22", "K2:A1").wire("K1:A2", "G1:-").wire("K2:A2", "G1:-");
    return b;
}

CircuitBuilder mechanicalInterlock()
{
    CircuitBuilder b;
    b.device("G1", "supply_external_24v").device("S2", "push_button", {{"contacts", Words{"13-14"}}});
    b.device("K1", "contactor", contactor({})).device("K2", "contactor", contactor({}));
    b.wire("G1:+", "S2:13").wire("S2:14", "K1:A1").wire("S2:14", "K2:A1");
    b.wire("K1:A2", "G1:-").wire("K2:A2", "G1:-");
    b.interlock("K1", "K2");
    return b;
}

struct End {
    Pause pause = Pause::Reached;
    bool first = false, second = false; ///< in
    std::size_t races = 0;
};

End pressed(const Plant& plant, Words buttons, Limits::Ties ties)
{
    State state = initialState(plant);
    Trace trace;
    Workspace workspace;
    std::vector<Stimulus> stimuli;
    for (const std::string& tag : buttons)
        stimuli.push_back(*stimulusFor(plant, tag, "press", kSecondNs));
    End end;
    end.pause = advance(plant, state, stimuli, {5 * kSecondNs, {}, {}, true, ties}, trace, workspace);
    end.first = *isInState(plant, state, "K1", "in");
    end.second = *isInState(plant, state, "K2", "in");
    end.races = static_cast<std::size_t>(
        std::count_if(trace.events.begin(), trace.events.end(), [](const Event& e) { return e.why == Why::Race; }));
    EXPECT_EQ(end.races > 0, hasRace(trace.events));
    return end;
}

TEST(Ties, OneOfTwoEqualContactorsIsFirstAndTheRaceIsTold)
{
    for (const CircuitBuilder& b : {electricalInterlock(), mechanicalInterlock()}) {
        const Plant plant = b.plant();
        const Words buttons = plant.deviceIndex("S3") < 0 ? Words{"S2"} : Words{"S2", "S3"};
        const End first = pressed(plant, buttons, Limits::Ties::FirstIdFirst),
                  last = pressed(plant, buttons, Limits::Ties::LastIdFirst);
        for (const End& end : {first, last}) {
            EXPECT_EQ(end.pause, Pause::Reached) << "once it chattered for ever, or both stood half-way";
            EXPECT_EQ(end.races, 1u);
        }
        EXPECT_TRUE(first.first && !first.second);
        EXPECT_TRUE(!last.first && last.second);
    }
}

TEST(Ties, EqualContactorsThatDoNotHinderEachOtherDoNotRace)
{
    CircuitBuilder b;
    b.device("G1", "supply_external_24v").device("S2", "push_button", {{"contacts", Words{"13-14"}}});
    b.device("K1", "contactor", contactor({"13-14"})).device("K2", "contactor", contactor({"13-14"}));
    b.wire("G1:+", "S2:13").wire("S2:14", "K1:A1").wire("S2:14", "K2:A1");
    b.wire("K1:A2", "G1:-").wire("K2:A2", "G1:-");
    const Plant plant = b.plant();
    for (const Limits::Ties ties : {Limits::Ties::FirstIdFirst, Limits::Ties::LastIdFirst}) {
        const End end = pressed(plant, {"S2"}, ties);
        EXPECT_TRUE(end.first && end.second);
        EXPECT_EQ(end.races, 0u);
    }
}

/// A contactor that takes its own coil away chatters by itself: that is no race.
TEST(Ties, ASelfInterruptingContactorStillChatters)
{
    CircuitBuilder b;
    b.device("G1", "supply_external_24v").device("K1", "contactor", contactor({"21-22"}));
    b.device("K2", "contactor", contactor({"21-22"}));
    b.wire("G1:+", "K1:21").wire("K1:22", "K1:A1").wire("G1:+", "K2:21").wire("K2:22", "K2:A1");
    b.wire("K1:A2", "G1:-").wire("K2:A2", "G1:-");
    const End end = pressed(b.plant(), {}, Limits::Ties::FirstIdFirst);
    EXPECT_EQ(end.pause, Pause::Chatter);
    EXPECT_EQ(end.races, 0u);
}

/// IEC 60947-4-1: must attract from 0.85, may from 0.5; may let go from 0.75 down to 0.1 with direct current.
TEST(CoilBand, SaysWhereACoilMayAttractAndLetGo)
{
    Plant plant = mechanicalInterlock().plant();
    setCoilBand(plant, CoilBand::Holds);
    EXPECT_DOUBLE_EQ(plant.coils[0].data.pickUpV, 12.0);
    EXPECT_DOUBLE_EQ(plant.coils[0].data.dropOutV, 2.4);
    setCoilBand(plant, CoilBand::LetsGo);
    EXPECT_DOUBLE_EQ(plant.coils[0].data.pickUpV, 20.4);
    EXPECT_DOUBLE_EQ(plant.coils[0].data.dropOutV, 18.0);
    const Plant nominal = mechanicalInterlock().plant();
    setCoilBand(plant, CoilBand::Nominal);
    EXPECT_DOUBLE_EQ(plant.coils[0].data.pickUpV, nominal.coils[0].data.pickUpV);
    EXPECT_DOUBLE_EQ(plant.coils[0].data.dropOutV, nominal.coils[0].data.dropOutV);
}

} // namespace
} // namespace ts
