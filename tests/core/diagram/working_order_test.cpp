// The order in which one wires: every wire once, power before control before indication, and along the paths.

#include "core/diagram/working_order.h"

#include "core/patterns/machine.h"
#include "tests/support/circuits.h"

#include <map>
#include <set>

namespace ts::diagram {
namespace {

Circuit machine()
{
    return io::loadDossier(test::sourcePath("data/demo/larkspur_db2.sentry"))->dossier.circuit;
}

std::vector<WorkStep> orderOf(const Circuit& c)
{
    return workingOrder(c, *wiredGraph(c));
}

/// Place of the wire between two terminals in the list, counted from 0.
int stepOf(const Circuit& c, const std::vector<WorkStep>& order, std::string_view a, std::string_view b)
{
    for (std::size_t k = 0; k < order.size(); ++k) {
        const Wire& w = *c.wire(order[k].wire);
        if ((c.nameOf(w.from) == a && c.nameOf(w.to) == b) || (c.nameOf(w.from) == b && c.nameOf(w.to) == a))
            return static_cast<int>(k);
    }
    ADD_FAILURE() << "no wire from " << a << " to " << b;
    return -1;
}

TEST(WorkingOrder, HoldsEveryWireOnceAndItsSectionsInOrder)
{
    const Circuit c = machine();
    const auto order = orderOf(c);
    std::set<WireId> seen;
    WorkSection last = WorkSection::Power;
    for (const WorkStep& step : order) {
        EXPECT_TRUE(seen.insert(step.wire).second);
        EXPECT_GE(step.section, last);
        last = step.section;
    }
    EXPECT_EQ(seen.size(), c.wires.size());
    EXPECT_EQ(last, WorkSection::Indication);
}

TEST(WorkingOrder, TellsTheSectionsApart)
{
    const Circuit c = patterns::machine(*patterns::MachinePlan::from(std::vector<std::string>{"base=direct"}))
                          ->dossier.circuit;
    std::map<std::string, WorkSection> sectionOf;
    for (const WorkStep& step : orderOf(c)) {
        const Wire& w = *c.wire(step.wire);
        sectionOf[c.nameOf(w.from)] = step.section;
        sectionOf[c.nameOf(w.to)] = step.section;
    }
    EXPECT_EQ(sectionOf.at("M1:U1"), WorkSection::Power);
    EXPECT_EQ(sectionOf.at("Q1:2"), WorkSection::Power);
    EXPECT_EQ(sectionOf.at("S2:14"), WorkSection::Control);
    EXPECT_EQ(sectionOf.at("P1:X1"), WorkSection::Indication);
}

/// In the power circuit from the supply outwards, in the control circuit from the stop to the coil.
TEST(WorkingOrder, FollowsTheDrawing)
{
    const Circuit c = patterns::machine(*patterns::MachinePlan::from(std::vector<std::string>{"base=direct"}))
                          ->dossier.circuit;
    const auto order = orderOf(c);
    EXPECT_LT(stepOf(c, order, "G0:L1", "Q0:1"), stepOf(c, order, "Q0:2", "F1:1"));
    EXPECT_LT(stepOf(c, order, "Q0:2", "F1:1"), stepOf(c, order, "F2:2", "M1:U1"));
    EXPECT_LT(stepOf(c, order, "S0:12", "F2:95"), stepOf(c, order, "S1:12", "S2:13"));
    EXPECT_LT(stepOf(c, order, "S1:12", "S2:13"), stepOf(c, order, "S2:14", "Q1:A1"));
}

TEST(WorkingOrder, DoesNotDependOnTheOrderInTheFile)
{
    Circuit c = machine();
    const auto before = orderOf(c);
    std::reverse(c.wires.begin(), c.wires.end());
    std::reverse(c.devices.begin(), c.devices.end());
    EXPECT_EQ(orderOf(c), before);
}

} // namespace
} // namespace ts::diagram
