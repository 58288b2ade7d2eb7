// A sweep comes back from text as it was, and its key follows what it depends on and nothing else.

#include "core/keeping/kept_sweep.h"
#include "tests/support/circuits.h"

#include <random>

namespace ts {
namespace {

/// The demo, shorts inside its enclosures excluded: they are run alone, and not in pairs.
Dossier demo()
{
    Dossier d = test::demoFile().dossier;
    for (const Route& r : d.circuit.routes)
        if (r.kind == RouteKind::Enclosure)
            d.exclusions.push_back({"route/" + std::to_string(r.id.value) + ":short", "enclosure to EN 60204-1"});
    return d;
}

faults::Sweep sweptDemo(const Dossier& d, bool withPairs = false)
{
    faults::SweepOptions options;
    options.withPairs = withPairs;
    options.withLimits = withPairs;
    return *faults::sweep(d, d.functions[0], options);
}

TEST(KeptSweep, ComesBackAsItWas)
{
    const Dossier d = demo();
    const faults::Sweep sweep = sweptDemo(d, true);
    EXPECT_GT(sweep.pairs.size(), 0u);
    const auto back = sweepFrom(keptText(sweep), d, d.functions[0]);
    ASSERT_TRUE(back);
    EXPECT_EQ(*back, sweep) << "every field";
    EXPECT_EQ(keptText(*back), keptText(sweep));
}

TEST(KeptSweep, OfAnotherCircuitOrBrokenIsNone)
{
    const Dossier d = demo();
    const std::string text = keptText(sweptDemo(d));
    Dossier other = d;
    other.circuit.wires.pop_back();
    EXPECT_FALSE(sweepFrom(text, other, other.functions[0]));
    std::mt19937 random(7);
    for (int k = 0; k < 200; ++k) { // whatever happens to the text: none, or one of the right shape, never a crash
        std::string broken = text;
        const std::size_t place = random() % broken.size();
        if (k % 2)
            broken.resize(place);
        else
            broken[place] = static_cast<char>("0123456789-[]{}\",x"[random() % 18]);
        if (const auto read = sweepFrom(broken, d, d.functions[0]))
            EXPECT_EQ(read->outcomes.size(), read->faults.size());
    }
}

TEST(SweepKey, FollowsWhatTheSweepDependsOn)
{
    const Dossier d = test::demoFile().dossier;
    const auto keyAfter = [&](auto change) {
        Dossier other = d;
        change(other);
        return sweepKey(other, other.functions[0]);
    };
    const std::string key = sweepKey(d, d.functions[0]);
    // What a person calls it, claims, answers or calculates with changes no run.
    EXPECT_EQ(key, keyAfter([](Dossier& x) { x.functions[0].name = "other"; }));
    EXPECT_EQ(key, keyAfter([](Dossier& x) { x.functions[0].claim.clear(); }));
    EXPECT_EQ(key, keyAfter([](Dossier& x) { x.circuit.devices[3].label = "other"; }));
    EXPECT_EQ(key, keyAfter([](Dossier& x) { x.machine.duty.hoursPerDay = 3; }));
    EXPECT_EQ(key, keyAfter([](Dossier& x) { x.arithmetic.method = PfhdMethod::Interpolated; }));
    // The circuit, the demand and what is excluded do.
    EXPECT_NE(key, keyAfter([](Dossier& x) { x.circuit.wires.pop_back(); }));
    EXPECT_NE(key, keyAfter([](Dossier& x) { x.circuit.routes[0].kind = RouteKind::MovingCable; }));
    EXPECT_NE(key, keyAfter([](Dossier& x) { x.exclusions.push_back({"S0/latch:does_not_hold", "why"}); }));
    EXPECT_NE(key, keyAfter([](Dossier& x) { x.functions[0].allowedTimeS = 0.1; }));
    EXPECT_NE(key, keyAfter([](Dossier& x) {
        x.functions[0].mustRest.pop_back();
        x.functions[0].mustRest.clear();
    }));
    faults::SweepOptions singles;
    singles.withPairs = false;
    EXPECT_NE(key, sweepKey(d, d.functions[0], singles));
}

TEST(SweepKey, IsKeptUnderAnotherNameForEachStudyAndKey)
{
    EXPECT_NE(keptName("faults", "a"), keptName("pairs", "a"));
    EXPECT_NE(keptName("faults", "a"), keptName("faults", "b"));
    EXPECT_EQ(keptName("faults", "a"), keptName("faults", "a"));
}

} // namespace
} // namespace ts
