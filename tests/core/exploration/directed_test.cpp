// Directed runs: what stops, what starts unasked, on small machines of which a hand knows the answer.

#include "core/exploration/directed.h"
#include "core/patterns/machine.h"
#include "tests/support/circuits.h"

#include <algorithm>

namespace ts::exploration {
namespace {

Dossier pattern(std::vector<std::string> choices)
{
    const auto plan = patterns::MachinePlan::from(choices);
    EXPECT_TRUE(plan);
    const auto file = patterns::machine(*plan);
    EXPECT_TRUE(file);
    return file->dossier;
}

DeviceId idOf(const Dossier& d, std::string_view tag)
{
    const Device* device = d.circuit.device(tag);
    EXPECT_TRUE(device) << tag;
    return device ? device->id : DeviceId{};
}

bool starts(const Directed& seen, Departure departure, StartedBy by)
{
    return std::any_of(seen.starts.begin(), seen.starts.end(),
        [&](const StartSeen& s) { return s.departure == departure && s.by == by; });
}

bool startsUnasked(const Directed& seen)
{
    return std::any_of(seen.starts.begin(), seen.starts.end(),
        [](const StartSeen& s) { return s.by == StartedBy::Return || s.by == StartedBy::Reset; });
}

TEST(DirectedRuns, AStarterWithHoldStopsAndStaysStopped)
{
    const Dossier d = pattern({"base=direct"});
    const auto seen = directedRuns(d);
    ASSERT_TRUE(seen);
    ASSERT_EQ(seen->stops.size(), 1u);
    EXPECT_EQ(seen->stops[0].device, idOf(d, "S0"));
    EXPECT_EQ(seen->stops[0].stopped, std::vector<DeviceId>{idOf(d, "M1")});
    EXPECT_TRUE(seen->stops[0].kept.empty());
    EXPECT_FALSE(startsUnasked(*seen));
    EXPECT_TRUE(starts(*seen, Departure::EmergencyStop, StartedBy::HeldAtReturn))
        << "a start button held all the while";
    EXPECT_TRUE(seen->neverRan.empty());
    EXPECT_EQ(seen->undecided, 0u);
}

TEST(DirectedRuns, AHoldFromAheadOfTheStopMakesTheEmergencyStopDead)
{
    // Once no function was suggested for it, and the check had no finding.
    const Dossier d = pattern({"base=reversing", "hold=ahead_of_stop"});
    const auto seen = directedRuns(d);
    ASSERT_TRUE(seen);
    ASSERT_EQ(seen->stops.size(), 1u);
    EXPECT_EQ(seen->stops[0].kept, std::vector<DeviceId>{idOf(d, "M1")});
    EXPECT_NE(seen->stops[0].said.find("S0 press"), std::string::npos) << seen->stops[0].said;
}

TEST(DirectedRuns, ASelectorThatStaysOnStartsWhenAnythingReturns)
{
    const auto seen = directedRuns(pattern({"base=direct", "operation=hand_off_auto"}));
    ASSERT_TRUE(seen);
    for (const Departure departure :
        {Departure::SupplyLost, Departure::SwitchOpened, Departure::Overload, Departure::EmergencyStop})
        EXPECT_TRUE(starts(*seen, departure, StartedBy::Return)) << nameOf(departure);
}

TEST(DirectedRuns, AResetPermitsAndDoesNotStart)
{
    const auto seen = directedRuns(pattern({"base=direct", "stop=two_channel_relay"}));
    ASSERT_TRUE(seen);
    EXPECT_FALSE(startsUnasked(*seen));
    EXPECT_TRUE(starts(*seen, Departure::EmergencyStop, StartedBy::HeldAtReset));
    EXPECT_FALSE(starts(*seen, Departure::EmergencyStop, StartedBy::HeldAtReturn)) << "the relay waits for its reset";
}

TEST(DirectedRuns, TheDemoStopsWithEachOfItsDevices)
{
    const DossierFile file = *io::loadDossier(test::sourcePath("data/demo/larkspur_db2.sentry"));
    const Dossier& d = file.dossier;
    const auto seen = directedRuns(d);
    ASSERT_TRUE(seen);
    ASSERT_EQ(seen->stops.size(), 4u) << "three emergency stops and a guard door";
    for (const StopSeen& s : seen->stops) {
        EXPECT_EQ(s.stopped.size(), 3u) << d.circuit.device(s.device)->tag;
        EXPECT_TRUE(s.kept.empty()) << d.circuit.device(s.device)->tag;
    }
    EXPECT_FALSE(startsUnasked(*seen));
    EXPECT_EQ(seen->leftOut, 0u) << "no state of the demo's scenarios is left out";
    EXPECT_EQ(seen->undecidedFreely, 0u);
    EXPECT_EQ(seen->undecided, 0u);
    ASSERT_FALSE(seen->races.empty()) << "both directions held when a trip is reset: equal contactors race";
    EXPECT_TRUE(std::any_of(seen->races.begin(), seen->races.end(), [](const RaceSeen& r) {
        return r.said.find("S2 press") != std::string::npos && r.said.find("S3 press") != std::string::npos;
    }));
}

TEST(DirectedRuns, WithoutScenariosTheStartsAreLookedFor)
{
    Dossier d = pattern({"base=direct"});
    d.scenarios.clear();
    const auto seen = directedRuns(d);
    ASSERT_TRUE(seen);
    EXPECT_TRUE(seen->neverRan.empty());
    EXPECT_EQ(seen->stops.at(0).stopped.size(), 1u);
    std::erase_if(d.circuit.wires,
        [&](const Wire& w) { return d.circuit.nameOf(w.from) == "S2:13" || d.circuit.nameOf(w.to) == "S2:13"; });
    const auto dead = directedRuns(d);
    ASSERT_TRUE(dead);
    EXPECT_EQ(dead->neverRan.size(), 1u) << "what never runs is said";
}

std::string linesOf(const std::vector<std::string>& choices)
{
    std::string lines;
    for (const RunsWithoutLine& r : directedRuns(pattern(choices))->lines)
        lines += (lines.empty() ? "" : " ") + r.line + (r.isStartHeld ? " held" : "");
    return lines;
}

/// What a monitor is there for: no motor without a line, whichever it is and whatever a thumb does.
TEST(LostLines, AreSeenByAMonitorThatIsPlacedWell)
{
    EXPECT_EQ(linesOf({"monitor=voltage"}), "");
    EXPECT_EQ(linesOf({"monitor=three_transformers"}), "");
    EXPECT_EQ(linesOf({"monitor=none"}), "") << "nothing claims to see it; an overload relay takes its time";
}

TEST(LostLines, AreTriedEachByItselfAndWithAStartHeld)
{
    EXPECT_EQ(linesOf({"monitor=two_transformers"}), "G0.L3 held G0.L3") << "no transformer there";
    EXPECT_EQ(linesOf({"monitor=voltage", "monitor_contact=signal_only"}).find("G0.L2"), 0u);
    const std::string held = linesOf({"monitor=voltage", "tap=motor_side", "monitor_contact=hold"});
    EXPECT_NE(held.find("G0.L2 held"), std::string::npos) << held;
}

/// A circuit that chatters shows nothing: no motor is said to stay fed by a run that came to no end.
TEST(LostLines, OfARunThatChattersNothingIsSaid)
{
    Dossier d = pattern({"monitor=two_transformers"});
    const auto sound = directedRuns(d);
    ASSERT_TRUE(sound);
    ASSERT_FALSE(sound->lines.empty());
    test::addSelfInterruptingContactor(d.circuit); // from now on every run chatters
    const auto seen = directedRuns(d);
    ASSERT_TRUE(seen);
    EXPECT_TRUE(seen->lines.empty());
    EXPECT_GT(seen->undecided, 0u);
}

TEST(DirectedRuns, AreTheSameEveryTimeAndCanBeCancelled)
{
    const Dossier d = pattern({"base=reversing"});
    EXPECT_TRUE(*directedRuns(d) == *directedRuns(d));
    std::stop_source source;
    source.request_stop();
    const auto none = directedRuns(d, {}, source.get_token());
    ASSERT_FALSE(none);
    EXPECT_EQ(none.error().code, ErrorCode::Cancelled);
}

} // namespace
} // namespace ts::exploration
