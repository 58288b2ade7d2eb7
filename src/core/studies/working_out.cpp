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

/// Found again, or made and kept.
class Worker {
public:
    Worker(const Dossier& dossier, const WorkOptions& options)
        : m_dossier(dossier)
        , m_options(options)
        , m_fingerprint(options.kept ? fingerprintOf(dossier) : Fingerprint{})
    {
    }

    Expected<Value> operator()(
        const Study& study, const Subject& subject, const Results& earlier, std::stop_token stop) const
    {
        const std::string key = m_options.kept ? study.key(m_dossier, subject, m_fingerprint) : std::string();
        if (m_options.kept)
            if (auto known = recalled(study, key, m_dossier, subject, *m_options.kept))
                return *std::move(known);
        WorkProgress progress;
        if (m_options.onBegin)
            m_options.onBegin(study, subject, progress);
        auto value = workedOut(
            study, m_dossier, subject, earlier, progress, stop, budgetOf(study.cost), m_options.memoryInUse);
        if (m_options.kept && value && !stop.stop_requested())
            keep(study, key, *value, *m_options.kept);
        return value;
    }

private:
    const Dossier& m_dossier;
    const WorkOptions& m_options;
    Fingerprint m_fingerprint;
};

} // namespace

Expected<void> workOut(const Dossier& dossier, const WorkOptions& options, Results& results, std::stop_token stop)
{
    const Worker worked(dossier, options);
    for (const Study* study : wanted(options))
        for (const Subject& subject : subjectsOf(study->about, dossier)) {
            if (results.wasTried(study->id, subject))
                continue;
            auto value = worked(*study, subject, results, stop);
            if (stop.stop_requested())
                return cancelled();
            results.put(study->id, subject, std::move(value));
        }
    return {};
}

} // namespace ts
