// The plan against panels that are not as they should be: what it shows, what it must not do, and what may not upset
// it.

#include "core/faults/parallel.h"
#include "core/io/dossier_text.h"
#include "core/measuring/readings.h"
#include "core/measuring/rehearsal.h"
#include "core/measuring/suspects.h"
#include "core/patterns/advice.h"
#include "core/patterns/machine.h"
#include "core/record/record.h"
#include "tests/support/circuits.h"

#include <atomic>
#include <mutex>
#include <random>

namespace ts::measuring {
namespace {

using Texts = std::vector<std::string>;

const Circuit& demo()
{
    static const Circuit c = test::demoFile().dossier.circuit;
    return c;
}
const TestPlan& demoPlan()
{
    static const TestPlan plan = *testPlanOf(demo());
    return plan;
}

/// Runs for each on two cores; what it gives back is a failure in words, or nothing.
Texts failuresOf(std::size_t count, const std::function<std::string(std::size_t)>& job)
{
    Texts failures;
    std::mutex writing;
    faults::forEachIndex(count, 0,
        [&](std::size_t k, Workspace&) {
            if (std::string said = job(k); !said.empty()) {
                const std::scoped_lock lock(writing);
                failures.push_back(std::move(said));
            }
        },
        {});
    return failures;
}

TEST(TestPlan, ShowsWhatCanBeShownAndListsTheRest)
{
    const TestPlan& plan = demoPlan();
    const auto all = static_cast<double>(plan.mistakes + plan.faults);
    EXPECT_GE(static_cast<double>(plan.revealed), 0.98 * all);
    EXPECT_EQ(plan.revealed + plan.hidden.size(), plan.mistakes + plan.faults) << "nobody is forgotten";
    EXPECT_TRUE(plan.leftOut.empty());
    std::set<std::string> ids;
    for (const TestStep& s : plan.steps)
        EXPECT_TRUE(ids.insert(s.id).second) << "two steps are one: " << s.look.at.front();
    bool isLive = false;
    for (const TestStep& s : plan.steps) {
        isLive |= !isDead(s.stage);
        EXPECT_EQ(isDead(s.stage), !isLive) << "what is dead comes first";
        EXPECT_EQ(isDead(s.stage), s.in.power == Power::LockedOff);
    }
}

TEST(TestPlan, RightCircuitAndHarmlessOnesAgreeAtEveryStep)
{
    const auto right = rehearsalOf(demo(), demoPlan(), demo());
    ASSERT_TRUE(right);
    for (const RehearsedStep& s : right->steps)
        EXPECT_TRUE(s.agrees) << s.id;
    EXPECT_TRUE(right->dangers.empty());
    std::vector<Mistake> harmless = *mistakesOf(demo());
    std::erase_if(harmless, [](const Mistake& m) { return !m.isHarmless; });
    ASSERT_GE(harmless.size(), 10u);
    const Texts failures = failuresOf(harmless.size(), [&](std::size_t k) -> std::string {
        const auto r = rehearsalOf(demo(), demoPlan(), *builtWith(demo(), harmless[k]), Until::FirstDisagreement);
        return r && r->steps.size() == demoPlan().steps.size() && r->steps.back().agrees ? "" : harmless[k].id;
    });
    EXPECT_EQ(failures, Texts{});
}

/// A common potential wired in another order, other numbers and colours, wires turned end for end.
TEST(TestPlan, OtherOrdersOfACommonPotentialAgree)
{
    Circuit other = demo();
    for (Wire& w : other.wires) {
        std::swap(w.from, w.to);
        w.number += "x";
        w.colour = "violet";
        if (w.id.value == 74) // Q1:A2 - Q2:A2, then from K1:A2
            w.to.device = other.device("K1")->id;
    }
    const auto r = rehearsalOf(demo(), demoPlan(), other);
    ASSERT_TRUE(r);
    for (const RehearsedStep& s : r->steps)
        EXPECT_TRUE(s.agrees) << s.id;
}

/// Each mistake that can be written as a panel: shown if the plan says so, and nobody hurt before it is.
TEST(TestPlan, ShowsWhatItSaysAndEndangersNobodyBefore)
{
    std::set<std::string> hidden;
    for (const Unshown& h : demoPlan().hidden)
        hidden.insert(h.id);
    std::vector<Mistake> mistakes = *mistakesOf(demo());
    std::erase_if(mistakes, [](const Mistake& m) { return m.isHarmless || m.kind == MistakeKind::Inverted; });
    const Texts failures = failuresOf(mistakes.size(), [&](std::size_t k) -> std::string {
        const Mistake& m = mistakes[k];
        const auto built = builtWith(demo(), m);
        if (!built || !compile(*built))
            return ""; // a coil that its kind does not come for
        const auto r = rehearsalOf(demo(), demoPlan(), *built, Until::FirstDisagreement);
        if (!r)
            return m.id + ": " + r.error().message.id;
        for (const RehearsedDanger& d : r->dangers)
            if (d.isBeforeDisagreement) // also at the very step that would show it
                return m.id + " endangers " + d.danger.device + " at " + d.step;
        const bool isShown = !r->steps.back().agrees;
        return isShown != hidden.contains(m.id) ? "" : m.id + (isShown ? " is shown" : " is not shown");
    });
    EXPECT_EQ(failures, Texts{});
}

/// Ends moved to any terminal of the panel, and any two exchanged: not of the plan's own list.
TEST(TestPlan, ShowsMistakesThatNobodyListed)
{
    const auto seed = std::random_device{}();
    std::mt19937 chance(seed);
    const Plant plant = *compile(demo());
    std::vector<TerminalRef> terminals;
    for (const PlantTerminal& t : plant.terminals)
        if (!t.inner)
            terminals.push_back({plant.devices[static_cast<std::size_t>(t.device)].id, t.marking});
    std::vector<Circuit> panels;
    while (panels.size() < 120) {
        Circuit c = demo();
        Wire& w = c.wires[chance() % c.wires.size()];
        Wire& v = c.wires[chance() % c.wires.size()];
        if (panels.size() % 2 == 0)
            w.to = terminals[chance() % terminals.size()];
        else
            std::swap(w.to, v.from);
        const auto built = compile(c);
        if (built && netsOf(*built) != netsOf(plant))
            panels.push_back(std::move(c));
    }
    const Texts hidden = failuresOf(panels.size(), [&](std::size_t k) -> std::string {
        const auto r = rehearsalOf(demo(), demoPlan(), panels[k], Until::FirstDisagreement);
        return r && !r->steps.back().agrees ? "" : "panel " + std::to_string(k);
    });
    // Two that turn an element round, or join what is joined inside a relay, look the same.
    EXPECT_LE(hidden.size(), 6u) << "seed " << seed << ": " << ::testing::PrintToString(hidden);
}

class PlanOfPattern : public ::testing::TestWithParam<Texts> { };

TEST_P(PlanOfPattern, AgreesWithItsOwnCircuitAndShowsNearlyAll)
{
    const Circuit c = patterns::machine(*patterns::advised(GetParam()))->dossier.circuit;
    const auto plan = testPlanOf(c);
    ASSERT_TRUE(plan) << plan.error().message.id;
    EXPECT_GE(static_cast<double>(plan->revealed), 0.95 * static_cast<double>(plan->mistakes + plan->faults))
        << ::testing::PrintToString(plan->hidden.size());
    const auto r = rehearsalOf(c, *plan, c);
    ASSERT_TRUE(r);
    for (const RehearsedStep& s : r->steps)
        EXPECT_TRUE(s.agrees) << s.id;
    std::vector<Mistake> harmless = *mistakesOf(c);
    std::erase_if(harmless, [](const Mistake& m) { return !m.isHarmless; });
    for (std::size_t k = 0; k < harmless.size(); k += 5) {
        const auto turned = rehearsalOf(c, *plan, *builtWith(c, harmless[k]), Until::FirstDisagreement);
        EXPECT_TRUE(turned && turned->steps.back().agrees) << harmless[k].id;
    }
}

INSTANTIATE_TEST_SUITE_P(Patterns, PlanOfPattern,
    ::testing::Values(Texts{}, Texts{"base=reversing"}, Texts{"base=star_delta", "motor=30kW", "load=none"},
        Texts{"base=soft_starter"}, Texts{"base=drive"}, Texts{"control=transformer_bonded"}, Texts{"monitor=voltage"},
        Texts{"load=hanging", "stop=delayed_relay"}));

/// Readings up to the first that is not as expected: what was done is among what could be the matter, and that is
/// little.
TEST(Suspects, HaveTheMistakeAmongFew)
{
    std::set<std::string> hidden;
    for (const Unshown& h : demoPlan().hidden)
        hidden.insert(h.id);
    std::vector<Mistake> mistakes = *mistakesOf(demo());
    std::erase_if(mistakes, [&](const Mistake& m) { return m.isHarmless || m.wires.empty() || hidden.contains(m.id); });
    std::size_t most = 0;
    for (std::size_t k = 5; k < mistakes.size(); k += 97) {
        const Mistake& m = mistakes[k];
        const auto r = rehearsalOf(demo(), demoPlan(), *builtWith(demo(), m), Until::FirstDisagreement);
        ASSERT_FALSE(r->steps.back().agrees) << m.id;
        std::vector<StepRead> readings;
        for (std::size_t s = r->steps.size(); s-- > 0;) { // the one that deviates first
            const Reading& read = *r->steps[s].reading;
            readings.push_back({s, read.word.empty() ? figure(std::min(read.low, 1e11)) : read});
        }
        const auto suspects = suspectsOf(demo(), demoPlan(), readings);
        ASSERT_TRUE(suspects);
        EXPECT_TRUE(std::any_of(suspects->begin(), suspects->end(), [&m](const Suspect& s) { return s.id == m.id; }))
            << m.id << " of " << suspects->size();
        most = std::max(most, suspects->size());
    }
    EXPECT_LE(most, 60u) << "of nearly a thousand";
    EXPECT_GT(most, 0u);
}

StepTaken takenAs(const TestStep& step, const RehearsedStep& read)
{
    StepTaken t{step.id, "A. Weller", "2026-11-30T10:00:00+01:00", "meter 1", "2027-03-01", 0.0, {}, {}};
    if (unitOf(step.look.with).empty())
        t.word = read.reading->word;
    else
        t.value = std::min(read.reading->low, 1e11);
    return t;
}

DossierFile provedDemo()
{
    DossierFile file = test::demoFile();
    const auto r = rehearsalOf(demo(), demoPlan(), demo());
    SentResults results{circuitHash(demo()), {}};
    for (std::size_t k = 0; k < demoPlan().steps.size(); ++k)
        results.entries.push_back(takenAs(demoPlan().steps[k], r->steps[k]));
    auto with = withResults(results, demoPlan(), std::move(file));
    EXPECT_TRUE(with) << with.error().message.id;
    return *with;
}

std::size_t openIn(const std::vector<StepState>& states)
{
    return static_cast<std::size_t>(
        std::count_if(states.begin(), states.end(), [](const StepState& s) { return s.open.has_value(); }));
}

TEST(Readings, AllTakenNothingIsOpenAndTheChainHolds)
{
    const DossierFile file = provedDemo();
    EXPECT_EQ(openIn(standingOf(demoPlan(), file)), 0u);
    EXPECT_EQ(record::firstBroken(file.record), std::nullopt);
    const auto again = io::parseDossier(io::printDossier(file));
    ASSERT_TRUE(again);
    EXPECT_EQ(again->record, file.record) << "as a file gives them back";
    DossierFile forged = file;
    forged.record[5].reading->value = 0.1;
    EXPECT_EQ(record::firstBroken(forged.record), 6u) << "the one that follows the changed one does not fit";
    const auto [proved, begun] = proofOf(demoPlan(), standingOf(demoPlan(), file));
    EXPECT_TRUE(begun.empty());
    EXPECT_TRUE(std::binary_search(proved.begin(), proved.end(), "wire/34"));
}

/// Exchange of one wire: what is open is little, and finds every mistake in that wire.
TEST(Readings, AfterOneChangedWireLittleIsOpenAndFindsEveryMistakeInIt)
{
    for (const int id : {63, 37, 79, 53}) {
        DossierFile file = provedDemo();
        Wire& wire = *std::find_if(file.dossier.circuit.wires.begin(), file.dossier.circuit.wires.end(),
            [id](const Wire& w) { return w.id.value == id; });
        wire.lengthM += 1.0;
        wire.areaMm2 = 2.5;
        const Circuit& changed = file.dossier.circuit;
        const auto plan = testPlanOf(changed);
        ASSERT_TRUE(plan);
        const auto states = standingOf(*plan, file);
        EXPECT_GT(openIn(states), 0u) << id;
        EXPECT_LT(openIn(states) * 3, states.size()) << id;
        TestPlan open = *plan;
        open.steps.clear();
        for (std::size_t k = 0; k < states.size(); ++k)
            if (states[k].open)
                open.steps.push_back(plan->steps[k]);
        std::set<std::string> hidden;
        for (const Unshown& h : plan->hidden)
            hidden.insert(h.id);
        const auto mistakes = *mistakesOf(changed);
        for (const Mistake& m : mistakes) {
            const bool isOfIt = std::any_of(
                m.wires.begin(), m.wires.end(), [id](const WireChange& c) { return c.wire.value == id; });
            if (!isOfIt || m.isHarmless || hidden.contains(m.id))
                continue;
            const auto r = rehearsalOf(changed, open, *builtWith(changed, m), Until::FirstDisagreement);
            EXPECT_FALSE(r->steps.back().agrees) << m.id;
        }
    }
}

TEST(Readings, AreJudgedAnewAndNeverByATick)
{
    const TestPlan& plan = demoPlan();
    const TestStep& step = *std::find_if(
        plan.steps.begin(), plan.steps.end(), [](const TestStep& s) { return s.stage == Stage::Bonding; });
    ASSERT_EQ(unitOf(step.look.with), "ohm");
    const Dossier& dossier = test::demoFile().dossier;
    StepTaken t{step.id, "A. Weller", "2026-11-30T10:00:00+01:00", "meter 1", "2026-11-29", 0.0,
        (step.expect.low + step.expect.high) / 2, {}};
    EXPECT_EQ(verdictOf(*entryOf(t, plan, dossier, {})), Verdict::NotCalibrated) << "overdue by a day";
    t.calibratedUntil = "2026-11-30";
    EXPECT_EQ(verdictOf(*entryOf(t, plan, dossier, {})), Verdict::Agrees);
    t.value = 5e5;
    EXPECT_EQ(verdictOf(*entryOf(t, plan, dossier, {})), Verdict::Disagrees);
    t.calibratedUntil = "soon";
    EXPECT_EQ(entryOf(t, plan, dossier, {}).error().message.id, "results.no_date");
    t.calibratedUntil.clear();
    t.at = "yesterday";
    EXPECT_EQ(entryOf(t, plan, dossier, {}).error().message.id, "results.no_date");
    t.at = "2026-11-30T10:00:00+01:00";
    t.value.reset();
    t.word = "ok";
    EXPECT_EQ(entryOf(t, plan, dossier, {}).error().message.id, "results.figure_wanted");
    t.step = "feed";
    EXPECT_EQ(entryOf(t, plan, dossier, {}).error().code, ErrorCode::NotFound);
}

/// Without a plan: what each step's newest reading rests on, and whether it was as expected.
TEST(Readings, SayOfThemselvesWhatWasChangedSince)
{
    const TestPlan& plan = demoPlan();
    DossierFile file = test::demoFile();
    file.record.clear();
    const TestStep& step = *std::find_if(
        plan.steps.begin(), plan.steps.end(), [](const TestStep& s) { return s.stage == Stage::Bonding; });
    StepTaken t{step.id, "A. Weller", "2026-11-30T10:00:00+01:00", "meter 1", "", 0.0, 5e5, {}};
    const auto take = [&] { file.record.push_back(*entryOf(t, plan, file.dossier, file.record)); };
    EXPECT_EQ(recordedOf(file.dossier.circuit, file.record).steps, 0u);
    take();
    EXPECT_EQ(recordedOf(file.dossier.circuit, file.record).disagree, (std::vector<std::size_t>{0}));
    t.value = (step.expect.low + step.expect.high) / 2;
    take();
    const Recorded right = recordedOf(file.dossier.circuit, file.record);
    EXPECT_EQ(right.steps, 1u) << "the newest of a step counts";
    EXPECT_TRUE(right.disagree.empty() && right.changed.empty());
    for (Wire& w : file.dossier.circuit.wires)
        w.lengthM += 1.0;
    EXPECT_EQ(recordedOf(file.dossier.circuit, file.record).changed, (std::vector<std::size_t>{1}));
}

/// It was dead then: a reading taken live, another day or a reading that is not as expected, and it is to be proved
/// anew.
TEST(Readings, DeadIsProvedForTodayAndUntilSomethingIsLive)
{
    const TestPlan& plan = demoPlan();
    const auto r = rehearsalOf(demo(), plan, demo());
    DossierFile file = test::demoFile();
    const auto take = [&](std::size_t k) {
        file.record.push_back(*entryOf(takenAs(plan.steps[k], r->steps[k]), plan, file.dossier, file.record));
    };
    EXPECT_EQ(toProveDead(plan, file.record, "2026-11-30"), 0u);
    std::size_t next = 0;
    while (plan.steps[next].stage == Stage::Isolation)
        take(next++);
    EXPECT_EQ(toProveDead(plan, file.record, "2026-11-30"), std::nullopt);
    EXPECT_EQ(toProveDead(plan, file.record, "2026-12-01"), 0u) << "nobody knows what happened over night";
    take(next);
    EXPECT_EQ(toProveDead(plan, file.record, "2026-11-30"), std::nullopt) << "a dead reading leaves it dead";
    take(plan.steps.size() - 1);
    EXPECT_EQ(toProveDead(plan, file.record, "2026-11-30"), 0u) << "it was live since";
    EXPECT_EQ(openBefore(standingOf(plan, file), plan.steps.size() - 1), plan.steps.size() - 1 - next - 1);
}

TEST(Readings, OpenIsWrittenAsMetersShowIt)
{
    for (const char* text : {"OL", "0L", "open"})
        EXPECT_EQ(figureFrom(text, Instrument::Ohms), kOverloadOhm);
    EXPECT_EQ(figureFrom("OL", Instrument::Volts), std::nullopt) << "too much, and nobody knows how much";
    EXPECT_EQ(figureFrom("0,3", Instrument::Ohms), 0.3);
    EXPECT_EQ(figureFrom("fine", Instrument::Ohms), std::nullopt);
}

TEST(Readings, OfAnotherCircuitAndBrokenOnesAreRefusedWhole)
{
    EXPECT_EQ(withResults({"0123", {}}, demoPlan(), test::demoFile()).error().message.id, "results.other_circuit");
    EXPECT_FALSE(resultsFrom("{\"format\": \"sentry-results-1\""));
    EXPECT_EQ(resultsFrom("{\"format\": \"other\", \"circuit\": \"\"}").error().message.id, "file.unknown_format");
    const char* const text = R"({"format": "sentry-results-1", "circuit": "ab", "entries": [{"step": "x", "who": "A",
        "at": "2026-11-30", "instrument": {"name": "m"}, "reading": {"value": 1e300}}]})";
    EXPECT_FALSE(resultsFrom(text)) << "no instrument shows that";
    EXPECT_EQ(resultsFrom(std::string(kLargestResultsBytes + 1, ' ')).error().message.id, "results.too_large");
}

} // namespace
} // namespace ts::measuring
