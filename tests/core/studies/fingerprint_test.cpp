// What results rest on, as two hashes: of what a run of the circuit reads, and of everything.

#include "core/studies/fingerprint.h"
#include "tests/support/circuits.h"

#include <functional>
#include <set>

namespace ts {
namespace {

struct Change {
    const char* what;
    bool isOfTheRun; ///< a run of the circuit reads it
    std::function<void(Dossier&)> make;
};

const std::vector<Change>& changes()
{
    static const std::vector<Change> kAll{
        {"label", false, [](Dossier& d) { d.circuit.devices[3].label += " x"; }},
        {"another's label", false, [](Dossier& d) { d.circuit.devices[4].label += " x"; }},
        {"rank", false, [](Dossier& d) { ++d.circuit.devices[3].rank; }},
        {"reliability", false, [](Dossier& d) { d.circuit.devices[3].reliability.emplace(); }},
        {"reliability of a part", false,
            [](Dossier& d) {
                d.circuit.parts.push_back({"x", "x", "lamp", {}, Reliability{}});
            }},
        {"colour of a wire", false, [](Dossier& d) { d.circuit.wires[5].colour += "x"; }},
        {"another's colour", false, [](Dossier& d) { d.circuit.wires[6].colour += "x"; }},
        {"length of a wire", true, [](Dossier& d) { d.circuit.wires[5].lengthM += 0.5; }},
        {"end of a wire", true, [](Dossier& d) { std::swap(d.circuit.wires[5].from, d.circuit.wires[5].to); }},
        {"parameter", true, [](Dossier& d) { d.circuit.devices[0].parameters["x"] = 1.0; }},
        {"exclusion", true,
            [](Dossier& d) {
                d.exclusions.push_back({"Q1/main:welded", "tried"});
            }},
        {"name of a function", false, [](Dossier& d) { d.functions[0].name += " x"; }},
        {"allowed time", false, [](Dossier& d) { d.functions[0].allowedTimeS += 1; }},
        {"scenario", false, [](Dossier& d) { d.scenarios[0].lengthS += 1; }},
    };
    return kAll;
}

TEST(Fingerprint, EveryChangeIsAnotherWholeAndWhatARunReadsAnotherCircuit)
{
    const Dossier dossier = test::demoFile().dossier;
    const Fingerprint before = fingerprintOf(dossier);
    EXPECT_EQ(before, fingerprintOf(dossier));
    std::set<std::string> seen{before.whole};
    for (const Change& change : changes()) {
        Dossier changed = dossier;
        change.make(changed);
        ASSERT_NE(changed, dossier) << change.what;
        const Fingerprint after = fingerprintOf(changed);
        EXPECT_TRUE(seen.insert(after.whole).second) << change.what << ": no two changes are one";
        if (std::string_view(change.what) != "reliability of a part") // a part more is another circuit, too
            EXPECT_EQ(after.circuit != before.circuit, change.isOfTheRun) << change.what;
    }
}

/// What one device has is not the same as what another has.
TEST(Fingerprint, TellsWhoseItIs)
{
    Dossier a = test::demoFile().dossier, b = a;
    for (Dossier* d : {&a, &b})
        for (Device& device : d->circuit.devices)
            device.label.clear();
    a.circuit.devices[1].label = b.circuit.devices[2].label = "the one";
    EXPECT_EQ(fingerprintOf(a).circuit, fingerprintOf(b).circuit);
    EXPECT_NE(fingerprintOf(a).whole, fingerprintOf(b).whole);
}

} // namespace
} // namespace ts
