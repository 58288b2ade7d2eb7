// What a finding rests on can be played, and shows what it says.

#include "core/checks/check.h"
#include "core/edit/device_edits.h"
#include "core/edit/wiring_edits.h"
#include "core/exploration/directed.h"
#include "core/exploration/trials.h"
#include "core/patterns/machine.h"
#include "core/simulation/frame.h"
#include "core/studies/evidence.h"
#include "core/studies/working_out.h"
#include "tests/support/circuits.h"

#include <algorithm>

namespace ts {
namespace {

using What = exploration::TrialSeen::What;

DossierFile evident(const std::vector<std::string>& choices)
{
    return *patterns::machine(*patterns::MachinePlan::from(choices));
}

Results trialsIn(const Dossier& d)
{
    Results results;
    auto trials = exploration::trialsOf(d.circuit);
    auto directed = exploration::directedRuns(d);
    EXPECT_TRUE(trials && directed);
    results.put(kTrials.id, {}, Value::of(std::move(*trials)));
    results.put(kDirected.id, {}, Value::of(std::move(*directed)));
    return results;
}

/// The motor at the end of the script.
MotorMode motorAfter(const Dossier& d, const Evidence& e)
{
    const auto plant = compile(d.circuit);
    State state = initialState(*plant);
    Trace trace;
    Workspace workspace;
    EXPECT_EQ(advance(*plant, state, e.script, {e.until, {}, {}, false}, trace, workspace), Pause::Reached);
    return state.actuatorMode[0];
}

const Finding* firstOf(const Checked& checked, const char* id)
{
    const auto found = std::find_if(
        checked.findings.begin(), checked.findings.end(), [id](const Finding& f) { return f.id == id; });
    return found == checked.findings.end() ? nullptr : &*found;
}

class Kept : public ::testing::TestWithParam<std::pair<const char*, std::vector<std::string>>> { };

/// Each of these says that the motor runs on.
TEST_P(Kept, RunsOnWhenItIsPlayed)
{
    const auto& [id, choices] = GetParam();
    const Dossier d = evident(choices).dossier;
    const Results results = trialsIn(d);
    const Checked checked = ts::checked(d, results);
    const Finding* f = firstOf(checked, id);
    ASSERT_NE(f, nullptr) << id;
    const auto evidence = evidenceOf(*f, results);
    ASSERT_TRUE(evidence) << id;
    EXPECT_TRUE(std::is_sorted(evidence->script.begin(), evidence->script.end(),
        [](const Stimulus& a, const Stimulus& b) { return a.at < b.at; }));
    EXPECT_EQ(motorAfter(d, *evidence), MotorMode::Driven) << id;
}

INSTANTIATE_TEST_SUITE_P(Trials, Kept,
    ::testing::Values(std::pair{"overloads", std::vector<std::string>{"hold=ahead_of_stop"}},
        std::pair{"earth_faults", std::vector<std::string>{"overload=return_side"}},
        std::pair{"overloads", std::vector<std::string>{"overload=none"}}));

TEST(Evidence, IsNoneForWhatRestsOnNoRunOfItsOwn)
{
    const Dossier d = evident({}).dossier;
    const Results results = trialsIn(d);
    Finding f;
    EXPECT_FALSE(evidenceOf(f, results)) << "no check";
    f.id = "overloads";
    EXPECT_FALSE(evidenceOf(f, results)) << "no place in the list";
    f.target.seen = 100000;
    EXPECT_FALSE(evidenceOf(f, results)) << "of another list";
    f.id = "level";
    f.target.seen = 0;
    EXPECT_FALSE(evidenceOf(f, results));
}

/// Every script of every trial leads where its way leads: the machine runs before anything is tried.
TEST(Evidence, EveryTrialHasAScriptThatEndsAfterItsLastStep)
{
    for (const auto& choices : {std::vector<std::string>{"hold=ahead_of_stop"}, {"base=reversing", "overload=none"},
             {"operation=inching", "overload=none"}}) {
        const Dossier d = evident(choices).dossier;
        const auto trials = exploration::trialsOf(d.circuit);
        for (const auto& t : trials->seen) {
            if (t.what == What::Serves || t.what == What::NeverPulls)
                continue;
            ASSERT_FALSE(t.script.empty()) << exploration::nameOf(t.what);
            EXPECT_GE(t.until, t.script.back().at) << exploration::nameOf(t.what);
        }
    }
}

} // namespace
} // namespace ts
