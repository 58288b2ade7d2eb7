// record, retest: readings of a test plan into the record, and which steps are open by now.

#include "core/record/record.h"
#include "cli/commands.h"
#include "cli/test_plan.h"
#include "core/io/dossier_file.h"
#include "core/measuring/stop_times.h"
#include "wording/record_words.h"
#include "wording/test_words.h"
#include "wording/wording.h"

#include <nlohmann/json.hpp>

namespace ts::cli {

using namespace measuring;

namespace {

int takeStops(const Request& r, Session& s)
{
    const auto planned = plannedFrom(r, s);
    if (!planned)
        return fail(planned.error(), s);
    const auto with = withStopTimes(planned->plan, planned->file);
    if (!with)
        return fail(with.error(), s);
    if (const auto saved = io::saveDossier(r.output, *with); !saved)
        return fail(saved.error(), s);
    s.out << wording::said("results.stop_times_taken", {r.output}) << '\n';
    return kInOrder;
}

} // namespace

int record(const Request& r, Session& s)
{
    if (r.takesStops)
        return takeStops(r, s);
    const auto file = io::loadDossier(r.file);
    const auto text = io::systemFiles().read(r.results);
    if (!file || !text)
        return fail(file ? text.error() : file.error(), s);
    auto results = resultsFrom(*text);
    if (!results) {
        results.error().place.file = r.results;
        return fail(results.error(), s);
    }
    const auto plan = planOf(file->dossier, r, s);
    if (!plan)
        return fail(plan.error(), s);
    const auto with = withResults(*results, *plan, *file);
    if (!with)
        return fail(with.error(), s);
    if (const auto saved = io::saveDossier(r.output, *with); !saved)
        return fail(saved.error(), s);
    std::size_t disagree = 0;
    for (std::size_t e = file->record.size(); e < with->record.size(); ++e)
        disagree += verdictOf(with->record[e]) != Verdict::Agrees;
    s.out << wording::said(
        "results.added", {static_cast<long long>(results->entries.size()), static_cast<long long>(disagree), r.output})
          << '\n';
    return disagree == 0 ? kInOrder : kFindings;
}

int retest(const Request& r, Session& s)
{
    const auto planned = plannedFrom(r, s);
    if (!planned)
        return fail(planned.error(), s);
    const auto& [file, plan] = *planned;
    const auto states = standingOf(plan, file);
    const auto broken = ts::record::firstBroken(file.record);
    nlohmann::ordered_json open = nlohmann::ordered_json::array();
    std::size_t count = 0;
    for (std::size_t k = 0; k < states.size(); ++k) {
        if (!states[k].open)
            continue;
        ++count;
        const TestStep& step = plan.steps[k];
        const std::string reason(wordOf(*states[k].open));
        if (r.json)
            open.push_back({{"id", step.id}, {"reason", reason}});
        else
            s.out << step.id << "  " << wording::lookText(step.look) << ": " << wording::word("open." + reason) << '\n';
    }
    if (r.json) {
        nlohmann::ordered_json j{{"format", "retest-1"}, {"steps", states.size()}, {"open", open}};
        j["broken_at"] = broken ? nlohmann::ordered_json(*broken) : nlohmann::ordered_json(nullptr);
        print(j, s);
    } else {
        s.out << wording::said("results.open", {static_cast<long long>(count), static_cast<long long>(states.size())})
              << '\n';
        if (broken)
            s.out << wording::brokenText(file.record) << '\n';
    }
    return count == 0 && !broken ? kInOrder : kFindings;
}

} // namespace ts::cli
