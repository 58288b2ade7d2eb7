// The registry of studies: complete, in an order that can be worked through, and asked alike by everybody. A made-up
// study and a made-up check cost one function each.

#include "core/analysis/fault_analysis.h"
#include "core/checks/check.h"
#include "core/studies/standing.h"
#include "core/studies/working_out.h"
#include "tests/core/faults/stop_circuits.h"

#include <set>
#include <thread>

namespace ts {
namespace {

Dossier twoChannels()
{
    Dossier d = test::stopping(test::twoChannels().circuit());
    for (Device& device : d.circuit.devices)
        if (device.tag == "Q1" || device.tag == "Q2")
            device.reliability = Reliability{.b10dCycles = 1.0e6, .source = "made up for this test"};
    d.functions.front().claim = {test::claimedPair(d.circuit, "Q1", "Q2", "4", 0.99)};
    return d;
}

TEST(Studies, NamesAreUniqueAndWhatTheyReadExists)
{
    std::set<std::string_view> seen;
    for (const Study& s : allStudies()) {
        EXPECT_TRUE(seen.insert(s.id).second) << s.id;
        EXPECT_TRUE(s.key && s.run) << s.id;
        EXPECT_EQ(s.textOf == nullptr, s.fromText == nullptr) << s.id;
        for (const std::string_view before : s.after)
            EXPECT_TRUE(studyNamed(before)) << s.id << " after " << before;
        for (const std::string_view read : s.reads)
            EXPECT_TRUE(studyNamed(read)) << s.id << " reads " << read;
    }
    for (const std::string_view id :
        {kLevels.id, kSingleFaults.id, kSecondFaults.id, kBuilt.id, kOrders.id, kWorstStop.id, kChecks.id})
        EXPECT_TRUE(seen.contains(id)) << id << " has a type but no study";
    EXPECT_EQ(studyNamed("tea"), nullptr);
}

TEST(Studies, WhatIsSoonRunsByItselfAndWhatIsLongWhenAsked)
{
    const Dossier d = twoChannels();
    const Subject function = about(d.functions.front().id);
    Results soon, all;
    ASSERT_TRUE(workOut(d, {}, soon));
    ASSERT_TRUE(workOut(d, {.withLong = true}, all));
    EXPECT_FALSE(soon.wasTried(kSecondFaults.id, function));
    EXPECT_TRUE(soon.find(kBuilt, function));
    EXPECT_FALSE(soon.find(kBuilt, function)->sweep.hasPairs);
    for (const Study& s : allStudies())
        for (const Subject& subject : subjectsOf(s.about, d))
            EXPECT_TRUE(all.wasTried(s.id, subject)) << s.id;
    EXPECT_TRUE(all.find(kBuilt, function)->sweep.hasPairs) << "what only reads comes last";
}

TEST(Studies, SingleFaultsThatAreKnownChangeNoByteOfTheSecondOnes)
{
    const Dossier d = twoChannels();
    const SafetyFunction& f = d.functions.front();
    Results results;
    ASSERT_TRUE(workOut(d, {.only = {kSecondFaults.id}}, results));
    const auto with = results.find(kSecondFaults, about(f.id));
    const auto without = faults::sweep(d, f, {});
    ASSERT_TRUE(with && without);
    EXPECT_EQ(*with, *without);
}

TEST(Studies, EqualKeysMeanEqualResultsAndWhatAResultRestsOnChangesItsKey)
{
    const Dossier d = twoChannels();
    const Subject function = about(d.functions.front().id);
    const auto key = [&function](const Dossier& of, std::string_view id) {
        const Study& s = *studyNamed(id);
        return s.key(of,
            s.about == Subject::Kind::Function    ? function
                : s.about == Subject::Kind::Motor ? subjectsOf(s.about, of).front()
                                                  : Subject{},
            fingerprintOf(of));
    };
    const auto changed = [&d](auto change) {
        Dossier other = d;
        change(other);
        return other;
    };
    const Dossier renamed = changed([](Dossier& x) { x.functions[0].claim.clear(); });
    const Dossier rewired = changed([](Dossier& x) { x.circuit.wires.pop_back(); });
    const Dossier played = changed([](Dossier& x) { x.scenarios[0].steps.back().atS += 1.0; });
    for (const std::string_view id : {kSingleFaults.id, kSecondFaults.id, kWorstStop.id, kOrders.id}) {
        EXPECT_EQ(key(d, id), key(renamed, id)) << id << ": nothing that is run depends on a claim";
        EXPECT_NE(key(d, id), key(rewired, id)) << id;
        EXPECT_NE(key(d, id), key(played, id)) << id;
    }
    for (const std::string_view id : {kLevels.id, kBuilt.id, kChecks.id})
        EXPECT_NE(key(d, id), key(renamed, id)) << id;
}

TEST(Studies, WhatIsKeptComesBackAsItWas)
{
    const Dossier d = twoChannels();
    Results results;
    ASSERT_TRUE(workOut(d, {}, results));
    int kept = 0;
    for (const Study& s : allStudies())
        if (s.textOf && s.cost != Cost::Long)
            for (const Subject& subject : subjectsOf(s.about, d)) {
                const auto sweep = results.find(StudyOf<faults::Sweep>{s.id}, subject);
                ASSERT_TRUE(sweep) << s.id;
                const auto back = s.fromText(s.textOf(Value::of(faults::Sweep(*sweep))), d, subject);
                ASSERT_TRUE(back) << s.id;
                EXPECT_EQ(*back->as<faults::Sweep>(), *sweep);
                EXPECT_FALSE(s.fromText("{}", d, subject)) << "damaged: worked out anew";
                ++kept;
            }
    EXPECT_GT(kept, 0);
}

TEST(Studies, AStudyThatFailsIsATroubleAndTheOthersGoOn)
{
    Dossier d = twoChannels();
    d.functions[0].demandScenario = {};
    Results results;
    ASSERT_TRUE(workOut(d, {}, results));
    const Subject function = about(d.functions[0].id);
    ASSERT_TRUE(results.trouble(kSingleFaults.id, function));
    EXPECT_TRUE(results.find(kLevels));
    const Standing standing = standingOf(d, results);
    const auto single = std::find_if(standing.checked.checks.begin(), standing.checked.checks.end(),
        [](const CheckMade& c) { return c.id == "single_faults"; });
    ASSERT_NE(single, standing.checked.checks.end());
    EXPECT_TRUE(single->isNotMade());
    EXPECT_EQ(single->missing.front().why, results.trouble(kSingleFaults.id, function)->message) << "and why";
}

/// A study made up for this test: one function, nothing else has to be touched.
Study madeUp(Expected<Value> (*run)(const Dossier&, const Subject&, const Results&, WorkProgress&, std::stop_token))
{
    Study s;
    s.id = "wires";
    s.cost = Cost::Instant;
    s.key = [](const Dossier&, const Subject&, const Fingerprint& f) { return f.circuit; };
    s.run = run;
    return s;
}

TEST(AMadeUpStudy, IsRunReadAndBounded)
{
    const Dossier d = twoChannels();
    const Study counting = madeUp(
        [](const Dossier& of, const Subject&, const Results&, WorkProgress&, std::stop_token) -> Expected<Value> {
            return Value::of(of.circuit.wires.size());
        });
    WorkProgress progress;
    Results results;
    results.put(counting.id, {}, workedOut(counting, d, {}, results, progress, {}, budgetOf(counting.cost)));
    EXPECT_EQ(*results.find(StudyOf<std::size_t>{"wires"}), d.circuit.wires.size());

    const Study endless = madeUp(
        [](const Dossier&, const Subject&, const Results&, WorkProgress&, std::stop_token stop) -> Expected<Value> {
            while (!stop.stop_requested())
                std::this_thread::yield();
            return failure(ErrorCode::Cancelled, message("run.cancelled"));
        });
    const auto late = workedOut(endless, d, {}, results, progress, {}, {0.05, 1u << 30});
    ASSERT_FALSE(late);
    EXPECT_EQ(late.error().message.id, "study.too_long");
    const auto large = workedOut(endless, d, {}, results, progress, {}, {60.0, 1000}, [] { return std::size_t{2000}; });
    ASSERT_FALSE(large);
    EXPECT_EQ(large.error().message.id, "study.too_large");
    std::stop_source stop;
    stop.request_stop();
    EXPECT_EQ(workedOut(endless, d, {}, results, progress, stop.get_token(), {60.0, 1u << 30}).error().code,
        ErrorCode::Cancelled);
}

TEST(AMadeUpCheck, IsMadeOnlyWhereItsStudyIsThere)
{
    const Dossier d = twoChannels();
    const Check check{"long_wire", "complete", Remedy::Wiring, "EN 60204-1 clause 12", Subject::Kind::Machine, "wires",
        [](const CheckInput& input, std::vector<Finding>& out) {
            if (const auto count = input.results.find(StudyOf<std::size_t>{"wires"}); count && *count > 3)
                out.push_back({{}, Severity::Note, {}, message("x"), message("x"), message("x"), {}, message("x")});
        }};
    Results results;
    std::vector<Finding> findings;
    EXPECT_TRUE(madeBy(check, {d, results}, findings).isNotMade());
    EXPECT_TRUE(findings.empty());
    results.put("wires", {}, Value::of(std::size_t{7}));
    EXPECT_TRUE(madeBy(check, {d, results}, findings).isWhole());
    ASSERT_EQ(findings.size(), 1u);
    EXPECT_EQ(findings[0].id, "long_wire");
    EXPECT_EQ(findings[0].clause, "EN 60204-1 clause 12");
}

} // namespace
} // namespace ts
