// The record and the calendar among the checks: not looked at where they were not given, and what they say.

#include "core/checks/check.h"
#include "core/results/on_record.h"
#include "core/studies/working_out.h"
#include "tests/support/circuits.h"

#include <algorithm>

namespace ts {
namespace {

/// Of the check "record" alone.
struct RecordSays {
    CheckMade made;
    std::vector<Finding> findings;
    const Finding* of(std::string_view what) const
    {
        const auto it = std::find_if(
            findings.begin(), findings.end(), [what](const Finding& f) { return f.what.id == what; });
        return it == findings.end() ? nullptr : &*it;
    }
};

RecordSays said(const Dossier& d, const std::optional<OnRecord>& onRecord)
{
    Results results;
    EXPECT_TRUE(workOut(d, {.only = {kLevels.id}}, results));
    if (onRecord)
        results.put(kOnRecord.id, {}, Value::of(*onRecord));
    RecordSays s;
    s.made = madeBy(*checkNamed("record"), {d, results}, s.findings);
    return s;
}

RecordEntry reading(std::string step, std::string word, std::vector<std::string> covers)
{
    RecordEntry e;
    e.date = "2026-11-30T10:00:00+01:00";
    e.who = "A. Weller";
    e.text = "seen: " + word;
    e.kind = "reading";
    e.role = "tested";
    e.subject = std::move(step);
    e.reading = TakenReading{{}, std::move(word), {}, {}, {}, "in", "eye", {}, 0, std::move(covers)};
    return e;
}

TEST(OnRecord, IsNotLookedAtWhereNobodyGaveIt)
{
    const RecordSays without = said(test::demoFile().dossier, std::nullopt);
    ASSERT_EQ(without.made.missing.size(), 1u);
    EXPECT_EQ(without.made.missing.front().why.id, "check.no_record");
    const RecordSays with = said(test::demoFile().dossier, OnRecord{{}, "2026-12-01"});
    EXPECT_TRUE(with.made.isWhole());
    EXPECT_TRUE(with.findings.empty()) << "an empty record covers nothing and claims nothing";
}

TEST(OnRecord, ATestByHandIsDueOnItsDayAndOverdueAfterIt)
{
    Dossier d = test::demoFile().dossier;
    d.functions.front().manualTest = {};
    d.functions.front().manualTest.everyDays = 30;
    d.functions.front().manualTest.lastOn = "2026-10-01";
    EXPECT_TRUE(said(d, OnRecord{{}, "2026-10-31"}).findings.empty()) << "that is the day";
    const RecordSays late = said(d, OnRecord{{}, "2026-11-01"});
    const Finding* f = late.of("finding.record.test_overdue");
    ASSERT_NE(f, nullptr);
    EXPECT_EQ(f->severity, Severity::Fix);
    EXPECT_EQ(f->target.function, d.functions.front().id);
    EXPECT_EQ(std::get<std::string>(f->what.arguments[1]), "2026-10-31");
}

TEST(OnRecord, APartPastItsT10dForbidsOperation)
{
    Dossier d = test::demoFile().dossier;
    d.machine.inUseSince = "2026-01-01";
    ClaimedPart& part = d.functions.front().claim[2].channels[0].parts[0];
    part.secondsPerCycle.reset();
    part.operationsPerYear = 1e6;
    EXPECT_TRUE(said(d, OnRecord{{}, "2026-01-02"}).findings.empty());
    const RecordSays late = said(d, OnRecord{{}, "2040-01-01"}); // a million operations a year
    const Finding* f = late.of("finding.record.part_overdue");
    ASSERT_NE(f, nullptr);
    EXPECT_EQ(f->severity, Severity::Stop);
    EXPECT_EQ(f->target.device, part.device);
    d.machine.inUseSince.clear();
    EXPECT_TRUE(said(d, OnRecord{{}, "2040-01-01"}).findings.empty()) << "nobody knows since when it is in use";
}

TEST(OnRecord, WhatWasChangedSinceCoversNoMore)
{
    const Dossier d = test::demoFile().dossier;
    const std::string wire = "wire/" + std::to_string(d.circuit.wires.front().id.value) + ":00000000";
    const OnRecord old{{reading("a", "in", {wire}), reading("b", "in", {})}, "2026-12-01"};
    const RecordSays s = said(d, old);
    const Finding* f = s.of("finding.record.changed");
    ASSERT_NE(f, nullptr);
    EXPECT_EQ(f->what.arguments, (std::vector<Argument>{1LL, 2LL}));
    EXPECT_EQ(std::get<std::string>(f->evidence.arguments[1]), "A. Weller");
    EXPECT_EQ(s.of("finding.record.disagrees"), nullptr);
}

TEST(OnRecord, AReadingThatDisagreesForbidsOperationUntilALaterOneAgrees)
{
    const Dossier d = test::demoFile().dossier;
    OnRecord now{{reading("a", "out", {})}, "2026-12-01"};
    const RecordSays s = said(d, now);
    const Finding* f = s.of("finding.record.disagrees");
    ASSERT_NE(f, nullptr);
    EXPECT_EQ(f->severity, Severity::Stop);
    now.record.push_back(reading("a", "in", {}));
    EXPECT_TRUE(said(d, now).findings.empty());
}

} // namespace
} // namespace ts
