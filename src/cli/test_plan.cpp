#include "cli/test_plan.h"

#include "core/io/dossier_file.h"
#include "core/keeping/kept_sweep.h"
#include "core/results/study_ids.h"
#include "core/studies/kept_studies.h"

#include <mutex>

namespace ts::cli {

Expected<measuring::TestPlan> planOf(const Dossier& dossier, const Request& r, Session& s)
{
    const io::ResultStore store(r.keptIn());
    const Study& study = *studyNamed(kTests.id);
    const std::string key = circuitKey(dossier);
    if (const auto known = recalled(study, key, dossier, {}, store))
        return *known->as<measuring::TestPlan>();
    std::mutex telling;
    std::size_t told = 0;
    const auto listener = [&](std::size_t done, std::size_t total) {
        const std::size_t percent = total ? 100 * done / total : 100;
        const std::scoped_lock lock(telling);
        if (percent / 10 != told) {
            told = percent / 10;
            s.err << "plan of tests: " << percent << " %\n";
        }
    };
    auto plan = measuring::testPlanOf(dossier.circuit, {listener}, s.stop);
    if (plan)
        keep(study, key, Value::of(*plan), store);
    return plan;
}

Expected<Planned> plannedFrom(const Request& r, Session& s)
{
    auto file = io::loadDossier(r.file);
    if (!file)
        return Unexpected{file.error()};
    auto plan = planOf(file->dossier, r, s);
    if (!plan)
        return Unexpected{plan.error()};
    return Planned{*std::move(file), *std::move(plan)};
}

} // namespace ts::cli
