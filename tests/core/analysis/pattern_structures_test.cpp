// What each way of building an emergency stop is worth as built: the starter from its pattern, its function as
// suggested, everything broken.

#include "core/edit/function_edits.h"
#include "core/patterns/machine.h"
#include "core/suggestions/claim_suggestion.h"
#include "core/suggestions/suggestion.h"
#include "tests/core/faults/stop_circuits.h"

#include <set>

namespace ts {
namespace {

using faults::Outcome;
using faults::Structure;
using Texts = std::vector<std::string>;

/// The starter with its suggested function; shorts inside the enclosure left out, as in practice.
Dossier builtWith(const Texts& with)
{
    DossierFile file = *patterns::machine(*patterns::MachinePlan::from(with));
    auto functions = suggestedFunctions(file.dossier);
    EXPECT_TRUE(functions && !functions->empty());
    for (SafetyFunction& f : *functions)
        f.name = "Emergency stop";
    Dossier d = edit::withFunctions(file, *functions)->dossier;
    for (const Route& r : d.circuit.routes)
        if (r.kind == RouteKind::Enclosure)
            d.exclusions.push_back({"route/" + std::to_string(r.id.value) + ":short", "enclosure to EN 60204-1"});
    return d;
}

struct StructureCase {
    const char* name;
    Texts with;
    Structure switching; ///< of the subsystem that switches the motor
    const char* shows; ///< a fault that decides it
    Outcome outcome;
};

class StopPatterns : public ::testing::TestWithParam<StructureCase> { };

TEST_P(StopPatterns, AreWorthWhatTheirFaultsShow)
{
    const StructureCase& expected = GetParam();
    const Dossier d = builtWith(expected.with);
    const SafetyFunction& f = d.functions.front();
    ASSERT_FALSE(f.claim.empty());
    const faults::Sweep s = test::swept(d);
    EXPECT_EQ(test::outcomeOf(s, expected.shows).overall, expected.outcome) << expected.shows;
    const faults::AsBuilt built = faults::asBuilt(s, f);
    EXPECT_EQ(built.subsystems.back().verdict.structure, expected.switching)
        << nameOf(built.subsystems.back().verdict.structure);
    // Nothing is better as a whole than the part of it that is looked at, and the healthy machine stands still.
    EXPECT_LE(built.whole.structure, built.subsystems.back().verdict.structure);
    EXPECT_TRUE(s.notRunning.empty());
    EXPECT_GT(s.worstRestS, 0.0);
}

INSTANTIATE_TEST_SUITE_P(Built, StopPatterns,
    ::testing::Values(
        StructureCase{"Straight", {"stop=straight"}, Structure::OneChannel, "Q1/main:welded", Outcome::Lost},
        StructureCase{
            "ThroughAContactorRelay", {"stop=contactor_relay"}, Structure::OneChannel, "Q1/main:welded", Outcome::Lost},
        StructureCase{
            "ThroughAnOrdinaryRelay", {"stop=ordinary_relay"}, Structure::OneChannel, "Q1/main:welded", Outcome::Lost},
        StructureCase{
            "OneChannelRelay", {"stop=one_channel_relay"}, Structure::OneChannel, "Q1/main:welded", Outcome::Lost},
        StructureCase{"TwoChannels", {"stop=two_channel_relay"}, Structure::AccumulationTolerated, "Q1/main:welded",
            Outcome::Caught},
        // Without feedback the welded contactor lets the motor start at the reset. Nothing notices it, and with a
        // second one the stop is lost.
        StructureCase{"TwoChannelsUnwatched", {"stop=two_channel_relay", "feedback=no"},
            Structure::SingleFaultTolerated, "Q1/main:welded", Outcome::Lost},
        StructureCase{"TwoChannelsIntoOneContactor", {"stop=two_channel_relay", "second_contactor=no"},
            Structure::OneChannel, "Q1/main:welded", Outcome::Lost}),
    [](const auto& info) { return std::string(info.param.name); });

TEST(StopPattern, WhatOnlyStartsAtTheResetIsTriedWithASecondFault)
{
    const Dossier d = builtWith({"stop=two_channel_relay", "feedback=no"});
    const faults::Sweep s = test::swept(d);
    const auto place = [&](std::string_view id) {
        return static_cast<int>(faults::faultNamed(s.faults, id) - s.faults.data());
    };
    const int welded = place("Q1/main:welded");
    std::set<std::string> mates;
    for (const faults::FaultPair& p : s.pairs)
        if (faults::isStopLost(p.run.loss) && (p.first == welded || p.second == welded))
            mates.insert(s.faults[static_cast<std::size_t>(p.first == welded ? p.second : p.first)].id);
    EXPECT_TRUE(mates.contains("Q9/main:welded")) << "both contactors welded: the motor runs on";
    EXPECT_FALSE(mates.contains("Q9/coil:open")) << "the other one stops it";
    for (const faults::FaultPair& p : s.pairs)
        for (int k : {p.first, p.second})
            EXPECT_TRUE(
                faults::isStopLost(p.run.loss) || s.outcomes[static_cast<std::size_t>(k)].overall != Outcome::Lost)
                << s.faults[static_cast<std::size_t>(k)].id
                << ": that it starts at the reset is its own doing, no pair's";
    // What counts as hidden was found in a pair, not assumed.
    const faults::AsBuilt built = faults::asBuilt(s, d.functions.front());
    EXPECT_FALSE(built.subsystems.back().verdict.hidden.empty());
    for (int k : built.subsystems.back().verdict.hidden)
        EXPECT_GE(s.outcomes[static_cast<std::size_t>(k)].mate, 0) << s.faults[static_cast<std::size_t>(k)].id;
}

TEST(StopPattern, AFallenContactBlockIsLostInEveryOneOfThem)
{
    for (const char* stop : {"stop=straight", "stop=one_channel_relay", "stop=two_channel_relay", "stop=controller"}) {
        const faults::Sweep s = test::swept(builtWith({stop}), false);
        EXPECT_EQ(test::outcomeOf(s, "S0/block:fallen_off").overall, Outcome::Lost) << stop;
    }
}

TEST(StopPattern, AnAutomaticResetStartsNothingByItself)
{
    // The relay comes back when the button is unlatched; the motor waits for its own start button.
    const Dossier d = builtWith({"stop=two_channel_relay", "reset=automatic"});
    const SafetyFunction& f = d.functions.front();
    EXPECT_FALSE(f.resetBy) << "nothing is pressed to reset it";
    const faults::Sweep s = test::swept(d, false);
    EXPECT_TRUE(s.notRunning.empty());
    const faults::FaultOutcome& jammed = test::outcomeOf(s, "S2/actuator:jammed_pressed");
    EXPECT_EQ(jammed.overall, Outcome::Lost) << "a start button that is jammed starts it with the reset";
}

} // namespace
} // namespace ts
