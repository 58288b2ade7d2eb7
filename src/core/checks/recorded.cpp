// What the record and the calendar say: readings that rest on what was changed since, readings that disagree, tests by
// hand and parts whose day is over.

#include "core/base/date.h"
#include "core/checks/groups.h"
#include "core/measuring/readings.h"
#include "core/results/on_record.h"

#include <algorithm>

namespace ts::checks {
namespace {

Finding findingOf(Severity severity, Message what, Message consequence, Message mend, Message evidence)
{
    return {{}, severity, {}, std::move(what), std::move(consequence), std::move(mend), {}, std::move(evidence)};
}

void readings(const CheckInput& input, const OnRecord& onRecord, std::vector<Finding>& out)
{
    const measuring::Recorded recorded = measuring::recordedOf(input.dossier.circuit, onRecord.record);
    const auto evidence = [&](const std::vector<std::size_t>& entries) {
        const RecordEntry& last = onRecord.record[entries.back()];
        return message("evidence.record.reading", {last.date, last.who, last.text});
    };
    const auto count = [](std::size_t n) { return static_cast<long long>(n); };
    if (!recorded.disagree.empty())
        out.push_back(findingOf(Severity::Stop, message("finding.record.disagrees", {count(recorded.disagree.size())}),
            message("consequence.record.disagrees"), message("mend.record.disagrees"), evidence(recorded.disagree)));
    if (!recorded.changed.empty())
        out.push_back(findingOf(Severity::Fix,
            message("finding.record.changed", {count(recorded.changed.size()), count(recorded.steps)}),
            message("consequence.record.changed"), message("mend.record.changed"), evidence(recorded.changed)));
}

void testsByHand(const CheckInput& input, const OnRecord& onRecord, std::vector<Finding>& out)
{
    for (const SafetyFunction& f : input.dossier.functions) {
        const ManualTest& test = f.manualTest;
        const auto due = test.everyDays ? dayAfter(test.lastOn, *test.everyDays) : std::nullopt;
        if (!due || *due >= onRecord.today)
            continue;
        Finding over = findingOf(Severity::Fix, message("finding.record.test_overdue", {f.name, *due}),
            message("consequence.record.test_overdue"), message("mend.record.test_overdue"),
            message("evidence.record.test", {test.lastOn, Measured{*test.everyDays, "d"}, onRecord.today}));
        over.target = {.function = f.id};
        out.push_back(std::move(over));
    }
}

void parts(const CheckInput& input, const OnRecord& onRecord, std::vector<Finding>& out)
{
    std::vector<DeviceId> told;
    forEachFunction(input, [&](const SafetyFunction& f, const FunctionResult& result) {
        for (const safety::Replacement& r : result.level.replacements) {
            const Device* device = input.dossier.circuit.device(r.device);
            if (!device || r.due >= onRecord.today || std::find(told.begin(), told.end(), r.device) != told.end())
                continue;
            told.push_back(r.device);
            Finding over = findingOf(Severity::Stop, message("finding.record.part_overdue", {device->tag, r.due}),
                message("consequence.record.part_overdue"), message("mend.record.part_overdue"),
                message("evidence.record.part", {input.dossier.machine.inUseSince, Measured{r.t10dYears, "y"}}));
            over.devices = {device->tag};
            over.clause = "ISO 13849-1 annex C.4.2";
            over.target = {.device = r.device, .function = f.id};
            out.push_back(std::move(over));
        }
    });
}

} // namespace

void recordCovers(const CheckInput& input, std::vector<Finding>& out)
{
    const auto onRecord = input.results.find(kOnRecord);
    if (!onRecord)
        return;
    readings(input, *onRecord, out);
    testsByHand(input, *onRecord, out);
    parts(input, *onRecord, out);
}

std::vector<NotLookedAt> leftOutOfRecord(const CheckInput& input)
{
    if (input.results.find(kOnRecord))
        return {};
    return {{std::string(kOnRecord.id), {}, message("check.no_record")}};
}

} // namespace ts::checks
