// Paths by hand: who acts on whom, in which order, in circuits that are known.

#include "core/ways/function_path.h"

#include "core/io/dossier_file.h"
#include "core/patterns/machine.h"
#include "core/suggestions/claim_suggestion.h"
#include "core/suggestions/suggestion.h"
#include "tests/support/circuits.h"

#include <map>
#include <set>

namespace ts {
namespace {

using Names = std::set<std::string>;

Dossier debarker()
{
    return io::loadDossier(std::string(TS_SOURCE_DIR) + "/data/demo/larkspur_db2.sentry")->dossier;
}

/// The path in words: "S0 11-12 > K0", "Q9 main => Q1 main" for power, "Q1 main ~ K0 (31-32)" for who looks.
struct Told {
    Names ways, watches;
    std::map<std::string, int> columns;
    std::vector<std::string> unclaimed;
};

Told toldOf(const Dossier& d, const SafetyFunction& f)
{
    Told told;
    const auto path = functionPath(d, f);
    EXPECT_TRUE(path) << (path ? "" : path.error().message.id);
    if (!path)
        return told;
    const auto name = [&](auto k) {
        const PathKnot& knot = path->knots[static_cast<std::size_t>(k)];
        return d.circuit.device(knot.device)->tag + (knot.element.empty() ? "" : ' ' + knot.element);
    };
    for (const PathWay& w : path->ways) {
        told.ways.insert(name(w.from) + (w.isPower ? " => " : " > ") + name(w.to));
        EXPECT_LT(
            path->knots[static_cast<std::size_t>(w.from)].column, path->knots[static_cast<std::size_t>(w.to)].column);
    }
    for (const PathWatch& w : path->watches)
        told.watches.insert(name(w.from) + " ~ " + name(w.by) + " (" + w.contact + ")");
    for (std::size_t k = 0; k < path->knots.size(); ++k) {
        const PathKnot& knot = path->knots[k];
        told.columns[name(k)] = knot.column;
        EXPECT_LT(knot.column, path->columns);
        if (knot.uses.empty() && knot.stage != PathKnot::Stage::Rests && knot.stage != PathKnot::Stage::Demands)
            told.unclaimed.push_back(name(k));
    }
    return told;
}

/// The starter with its suggested functions and the claim that is read from its wiring.
Dossier ofPlan(std::vector<std::string> choices)
{
    Dossier d = patterns::machine(*patterns::MachinePlan::from(choices))->dossier;
    const auto functions = suggestedFunctions(d);
    EXPECT_TRUE(functions);
    d.functions = *functions;
    for (SafetyFunction& f : d.functions)
        if (auto claim = suggestedClaim(d, f))
            f.claim = std::move(*claim);
    return d;
}

TEST(FunctionPath, OfTheDebarkerLeadsThroughTheSharedContactorToEachMotor)
{
    const Dossier d = debarker();
    const Told told = toldOf(d, d.functions[0]);
    EXPECT_EQ(told.ways,
        (Names{"S0 11-12 > K0", "S0 21-22 > K0", "K0 > Q1 main", "K0 > Q2 main", "K0 > Q3 main", "K0 > Q5",
            "K0 > Q6 main", "K0 > Q9 main", "K0 > K1", "K1 > Q5", "Q9 main => Q1 main", "Q9 main => Q2 main",
            "Q9 main => Q3 main", "Q9 main => Q5", "Q9 main => Q6 main", "Q1 main => M1", "Q2 main => M1",
            "Q3 main => M2", "Q5 => M2", "Q6 main => M3"}));
    EXPECT_EQ(told.watches,
        (Names{"Q1 main ~ K0 (31-32)", "Q2 main ~ K0 (31-32)", "Q3 main ~ K0 (21-22)", "Q6 main ~ K0 (21-22)",
            "Q9 main ~ K0 (11-12)"}))
        << "their mirror contacts lie in its reset loop";
    EXPECT_EQ(told.unclaimed, (std::vector<std::string>{"Q5", "K1"})) << "they feed the rotor's other ends";
    EXPECT_LT(told.columns.at("S0 11-12"), told.columns.at("K0"));
    EXPECT_LT(told.columns.at("Q9 main"), told.columns.at("Q1 main"));
    EXPECT_EQ(told.columns.at("M1"), told.columns.at("M3"));
}

/// What the claim names is a knot, once, with every subsystem that names it.
TEST(FunctionPath, HasOneKnotForAPartThatSeveralSubsystemsName)
{
    const Dossier d = debarker();
    const auto path = functionPath(d, d.functions[0]);
    ASSERT_TRUE(path);
    std::size_t uses = 0, named = 0;
    for (const PathKnot& k : path->knots) {
        uses += k.uses.size();
        if (d.circuit.device(k.device)->tag == "Q9") {
            EXPECT_EQ(k.uses.size(), 3u) << "the second channel of each motor's contactors";
        }
    }
    for (const ClaimedSubsystem& s : d.functions[0].claim) {
        named += s.encapsulated ? 1 : 0;
        for (const ClaimedChannel& c : s.channels)
            named += c.parts.size();
    }
    EXPECT_EQ(uses, named);
}

TEST(FunctionPath, OfAPlainStarterIsOneStrand)
{
    const Dossier d = ofPlan({});
    ASSERT_FALSE(d.functions.empty());
    const Told told = toldOf(d, d.functions[0]);
    EXPECT_EQ(told.ways, (Names{"S0 11-12 > Q1 main", "Q1 main => M1"}));
    EXPECT_TRUE(told.watches.empty()) << "nothing looks at whether the contactor fell";
    EXPECT_TRUE(told.unclaimed.empty());
}

/// A reversing starter: the one that did not run in the demand has its place beside the other.
TEST(FunctionPath, OfAReversingStarterHasBothDirectionsSideBySide)
{
    const Dossier d = ofPlan({"base=reversing"});
    ASSERT_FALSE(d.functions.empty());
    const Told told = toldOf(d, d.functions[0]);
    EXPECT_TRUE(told.ways.contains("Q1 main => M1"));
    EXPECT_TRUE(told.ways.contains("Q2 main => M1"));
    EXPECT_EQ(told.columns.at("Q1 main"), told.columns.at("Q2 main"));
    EXPECT_FALSE(told.ways.contains("Q1 main > Q2 main")) << "an interlock is no way of the stop";
}

/// Whatever is chosen: every path leads from what demands it to what must rest.
TEST(FunctionPath, LeadsFromTheTriggerToEverythingThatMustRest)
{
    for (const char* choice : {"base=direct", "base=reversing", "base=star_delta", "stop=safety_relay", "base=drive",
             "base=soft_starter", "control=plc", "stop=two_relays"}) {
        const auto plan = patterns::MachinePlan::from(std::vector<std::string>{choice});
        if (!plan || !patterns::machine(*plan))
            continue; // not a word of the patterns
        const Dossier d = ofPlan({choice});
        for (const SafetyFunction& f : d.functions) {
            const auto path = functionPath(d, f);
            if (!path)
                continue; // the demand cannot be run: said elsewhere
            std::set<int> reached;
            for (std::size_t k = 0; k < path->knots.size(); ++k)
                if (path->knots[k].stage == PathKnot::Stage::Demands)
                    reached.insert(static_cast<int>(k));
            ASSERT_FALSE(reached.empty()) << choice;
            for (std::size_t round = 0; round < path->ways.size(); ++round)
                for (const PathWay& w : path->ways)
                    if (reached.contains(w.from))
                        reached.insert(w.to);
            for (std::size_t k = 0; k < path->knots.size(); ++k)
                if (path->knots[k].stage == PathKnot::Stage::Rests) {
                    EXPECT_TRUE(reached.contains(static_cast<int>(k)))
                        << choice << ' ' << f.name << ": " << d.circuit.device(path->knots[k].device)->tag;
                }
        }
    }
}

TEST(FunctionPath, WithoutADemandThatCanBeRunSaysWhy)
{
    Dossier d = debarker();
    d.functions[0].demandScenario = {};
    const auto path = functionPath(d, d.functions[0]);
    ASSERT_FALSE(path);
    EXPECT_EQ(path.error().code, ErrorCode::Refused);
}

} // namespace
} // namespace ts
