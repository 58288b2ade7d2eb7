// A short behind a control contact: what flows through it, how long, and whether the contact's largest fuse would have
// stood that.

#include "core/faults/consequence.h"
#include "core/simulation/frame.h"
#include "tests/core/faults/stop_circuits.h"

#include <algorithm>

namespace ts::faults {
namespace {

/// A contactor with a 230 V coil from L1 over a fuse, held by the emergency stop's contact and a selector.
Dossier mainsControl(double fuseA)
{
    test::CircuitBuilder b;
    b.device(
        "G0", "supply_three_phase", {{"voltage_v", 400.0}, {"frequency_hz", 50.0}, {"earthing", test::word("tn_s")}});
    b.device("F2", "fuse", {{"poles", 1.0}, {"rated_current_a", fuseA}});
    b.device("S0", "emergency_stop", {{"contacts", test::Words{"11-12"}}}, "door")
        .device("S1", "selector", {{"contacts", test::Words{"13-14/on"}}}, "door");
    b.device("Q1", "contactor",
        {{"coil_voltage_v", 230.0}, {"coil_current", test::word("ac")}, {"auxiliary_contacts", test::Words{"13-14"}}});
    b.wire("G0:L1", "F2:1").wire("F2:2", "S0:11").wire("S0:12", "S1:13").wire("S1:14", "Q1:A1").wire("Q1:A2", "G0:N");
    Dossier d;
    d.circuit = b.circuit();
    return d;
}

std::vector<std::string> welded(double fuseA, const char* fault)
{
    const Dossier d = mainsControl(fuseA);
    const Plant plant = *compile(d.circuit);
    Workspace workspace;
    State state = initialState(plant);
    Trace trace;
    const Stimulus on = *stimulusFor(plant, "S1", "turn_to_on", 1'000'000);
    EXPECT_EQ(advance(plant, state, std::span(&on, 1), {500'000'000}, trace, workspace), Pause::Reached);
    state.faults = {faultFrom(plant, fault)->fault};
    std::vector<std::string> names;
    for (int l : overloadedContacts(plant, state, workspace)) {
        const PlantLink& link = plant.links[static_cast<std::size_t>(l)];
        names.push_back(plant.devices[static_cast<std::size_t>(link.device)].tag + " " + link.role);
    }
    return names;
}

TEST(OverloadedContacts, WeldBehindAFuseThatIsTooLarge)
{
    // The short's current is some thousand ampere. 10 A gG stands it for less than 1 ms, 35 A gG twelve times longer
    // (I2t goes with the square of the rated current).
    EXPECT_EQ(welded(35.0, "Q1:A1+G0:N:short"), (std::vector<std::string>{"S0 11-12", "S1 13-14"}));
    EXPECT_EQ(welded(16.0, "Q1:A1+G0:N:short").size(), 2u);
}

TEST(OverloadedContacts, NoneBehindOneThatIsSmallEnough)
{
    EXPECT_TRUE(welded(10.0, "Q1:A1+G0:N:short").empty()) << "the border: the largest fuse itself";
    EXPECT_TRUE(welded(6.0, "Q1:A1+G0:N:short").empty());
}

TEST(OverloadedContacts, OnlyThoseThatCarryTheCurrent)
{
    EXPECT_EQ(welded(35.0, "S0:12+G0:N:short"), (std::vector<std::string>{"S0 11-12"}));
    EXPECT_TRUE(welded(35.0, "F2:2+G0:N:short").empty());
}

/// Whether a contact could be overloaded is told at first without sharing the current among contacts. Against what is
/// observed of every short between two nets: nothing that carries so much is missed, and nothing else is named.
TEST(OverloadedContacts, NoneIsMissedWhereverTheShortIs)
{
    const Dossier d = mainsControl(35.0);
    const Plant plant = *compile(d.circuit);
    Workspace workspace;
    State running = initialState(plant);
    Trace trace;
    const Stimulus on = *stimulusFor(plant, "S1", "turn_to_on", 1'000'000);
    ASSERT_EQ(advance(plant, running, std::span(&on, 1), {500'000'000}, trace, workspace), Pause::Reached);
    int welding = 0, harmless = 0;
    for (int a = 0; a < plant.nodeCount; ++a)
        for (int b = a + 1; b < plant.nodeCount; ++b) {
            State state = running;
            state.faults = {{FaultMode::Short, a}};
            state.faults.front().with = b;
            const std::vector<int> found = overloadedContacts(plant, state, workspace);
            const Frame frame = observe(plant, state);
            for (std::size_t l = 0; l < plant.links.size(); ++l) {
                const ContactKind kind = plant.links[l].contact.kind;
                if ((kind != ContactKind::NormallyOpen && kind != ContactKind::NormallyClosed)
                    || !frame.links[l].closed)
                    continue;
                const bool isFound = std::find(found.begin(), found.end(), static_cast<int>(l)) != found.end();
                const double amperes = frame.links[l].rmsA();
                if (amperes > 200.0) { // 10 A gG clears it before 35 A gG does
                    EXPECT_TRUE(isFound) << plant.nameOfNode(a) << " " << plant.nameOfNode(b) << " " << amperes << " A";
                    ++welding;
                } else if (amperes < 10.0) { // its largest fuse stands it for ever
                    EXPECT_FALSE(isFound)
                        << plant.nameOfNode(a) << " " << plant.nameOfNode(b) << " " << amperes << " A";
                    ++harmless;
                }
            }
        }
    EXPECT_GT(welding, 5);
    EXPECT_GT(harmless, 20);
}

TEST(Consequences, AreFurtherWaysOfTheFirstFault)
{
    Dossier d = test::stopping(test::twoChannels().circuit());
    const auto swept = sweep(d, d.functions.front(), {.withPairs = false, .withLimits = false});
    ASSERT_TRUE(swept);
    for (const SweptFault& f : swept->faults)
        EXPECT_TRUE(f.welds.empty()) << f.id << ": 2.5 A of a 24 V supply weld nothing";
}

} // namespace
} // namespace ts::faults
