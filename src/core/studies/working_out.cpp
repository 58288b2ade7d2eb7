#include "core/studies/working_out.h"

#include <algorithm>

namespace ts {
namespace {

bool isNamed(const std::vector<std::string_view>& names, std::string_view id)
{
    return std::find(names.begin(), names.end(), id) != names.end();
}

/// The studies asked for with all that come before them or are read by them, in the order of the registry.
std::vector<const Study*> wanted(const WorkOptions& options)
{
    std::vector<std::string_view> names = options.only;
    for (std::size_t k = 0; k < names.size(); ++k)
        if (const Study* s = studyNamed(names[k]))
            for (const std::string_view before : s->after)
                if (!isNamed(names, before))
                    names.push_back(before);
    std::vector<const Study*> all;
    for (const Study& s : allStudies())
        if (options.only.empty() ? options.withLong || s.cost != Cost::Long : isNamed(names, s.id))
            all.push_back(&s);
    // What only reads comes last: then there is most to read.
    std::stable_sort(
        all.begin(), all.end(), [](const Study* a, const Study* b) { return a->reads.empty() > b->reads.empty(); });
    return all;
}

} // namespace

Expected<void> workOut(const Dossier& dossier, const WorkOptions& options, Results& results, std::stop_token stop)
{
    for (const Study* study : wanted(options))
        for (const Subject& subject : subjectsOf(study->about, dossier)) {
            if (results.wasTried(study->id, subject))
                continue;
            WorkProgress progress;
            if (options.onBegin)
                options.onBegin(*study, subject, progress);
            auto value = workedOut(
                *study, dossier, subject, results, progress, stop, budgetOf(study->cost), options.memoryInUse);
            if (stop.stop_requested())
                return cancelled();
            results.put(study->id, subject, std::move(value));
        }
    return {};
}

} // namespace ts
