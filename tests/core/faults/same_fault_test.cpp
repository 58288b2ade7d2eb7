// Faults that are listed under several names and run once: each of them, run by itself, says the same.

#include "core/faults/same_fault.h"
#include "core/faults/second_faults.h"
#include "tests/core/faults/stop_circuits.h"

#include <map>

namespace ts::faults {
namespace {

using namespace test;

TEST(SameFault, AWireAndTheContactItLeadsToAndNothingElse)
{
    // + (1) S0:21-22 (2) Q1:A1, and a second wire (3) from S0:22 to Q2.
    const auto essences = [](bool withBranch) {
        CircuitBuilder b = motorBehind({"Q1", "Q2"});
        b.device("S0", "push_button", {{"contacts", Words{"21-22"}}}, "door");
        b.wire("G1:+", "S0:21").wire("S0:22", "Q1:A1").wire("Q1:A2", "G1:-");
        if (withBranch)
            b.wire("S0:22", "Q2:A1").wire("Q2:A2", "G1:-");
        const Circuit circuit = b.circuit();
        const Plant plant = *compile(circuit);
        const SameFault same(plant, circuit, {});
        std::map<std::string, std::vector<std::uint64_t>> result;
        for (const PlantWire& w : plant.wires)
            for (int node : {w.p, w.q})
                if (plant.nameOfNode(node) == "S0:21")
                    result["before"] = same.essence(
                        {"", "", "", "", Family::Wire, {}, {{{FaultMode::LinkHeldOpen, w.link}}}});
                else if (plant.nameOfNode(node) == "S0:22" && !result.contains("behind"))
                    result["behind"] = same.essence(
                        {"", "", "", "", Family::Wire, {}, {{{FaultMode::LinkHeldOpen, w.link}}}});
        result["contact"] = same.essence(
            {"", "", "", "", Family::Part, {}, {{faultFrom(plant, "S0/21-22:does_not_close").value().fault}}});
        result["welded"] = same.essence(
            {"", "", "", "", Family::Part, {}, {{faultFrom(plant, "S0/21-22:welded").value().fault}}});
        return result;
    };
    auto line = essences(false), branched = essences(true);
    EXPECT_EQ(line["before"], line["contact"]);
    EXPECT_EQ(line["behind"], line["contact"]);
    EXPECT_NE(line["welded"], line["contact"]);
    EXPECT_EQ(branched["before"], branched["contact"]);
    EXPECT_NE(branched["behind"], branched["contact"]) << "Q2 stays in if only the wire to the other coil is broken";
}

TEST(SameFault, WhatIsRunOnceSaysTheSameUnderEachName)
{
    for (const char* name : {"data/demo/larkspur_db2_chip_blower.sentry", "data/demo/larkspur_db2.sentry"}) {
        const auto file = io::loadDossier(sourcePath(name));
        const auto made = contextOf(file->dossier, file->dossier.functions.front(), {});
        ASSERT_TRUE(made);
        const Context& c = **made;
        const SameFault same(c.plant, file->dossier.circuit, c.cycle);
        std::map<std::vector<std::uint64_t>, std::vector<const SweptFault*>> groups;
        const auto list = faultList(c.plant, file->dossier);
        for (const SweptFault& f : list)
            if (f.family != Family::Short)
                groups[same.essence(f)].push_back(&f);
        Workspace workspace(c.memory);
        int compared = 0;
        for (const auto& [essence, names] : groups) {
            if (names.size() < 2)
                continue;
            for (const Moment moment : kMoments) {
                const auto run = [&](const SweptFault& f) {
                    return judgedRun(c.course, c.base, c.healthy, {f.variants.front(), moment}, workspace);
                };
                const RunResult first = run(*names.front());
                for (const SweptFault* other : names) {
                    EXPECT_EQ(run(*other), first) << names.front()->id << " " << other->id << " " << nameOf(moment);
                    ++compared;
                }
            }
        }
        EXPECT_GT(compared, 50) << name;
    }
}

} // namespace
} // namespace ts::faults
