#include "app/places/bench/run_keeper.h"

#include "app/words/words.h"
#include "core/edit/circuit_edits.h"
#include "core/suggestions/scenario_suggestion.h"

#include <algorithm>

namespace ts::app {

RunKeeper::RunKeeper(Document& document, QObject* parent)
    : QObject(parent)
    , m_document(document)
    , m_work(this)
{
}

void RunKeeper::keep(const BenchRun& run)
{
    std::vector<Stimulus> done;
    std::copy_if(run.script().begin(), run.script().end(), std::back_inserter(done),
        [&run](const Stimulus& s) { return s.at <= run.now(); });
    auto steps = stepsFrom(run.plant(), done);
    if (!steps)
        return emit said(words::sentence(steps.error()));
    Scenario scenario;
    scenario.lengthS = std::min(secondsOf(run.now()).si(), kLongestScenarioS);
    scenario.steps = std::move(*steps);
    m_work.run([plant = run.sharedPlant(), scenario = std::move(scenario)](
                   std::stop_token stop) { return std::optional(withWhatIsSeen(*plant, scenario, stop)); },
        [this](const std::shared_ptr<const Expected<Scenario>>& seen) { take(*seen); });
}

void RunKeeper::take(const Expected<Scenario>& seen)
{
    if (!seen)
        return emit said(words::sentence(seen.error()));
    Scenario scenario = *seen;
    QString name = tr("Kept from the Bench");
    for (int k = 2; m_document.dossier().scenario(name.toStdString()); ++k)
        name = tr("Kept from the Bench, %1").arg(k);
    scenario.name = name.toStdString();
    const bool isKept = m_document.editFile(tr("Keep what was done as a scenario"),
        [&scenario](const DossierFile& file) { return Expected<DossierFile>(edit::withScenario(file, scenario)); });
    emit said(isKept ? tr("Kept as \"%1\": %2 steps, %3 things seen.")
                           .arg(name)
                           .arg(scenario.steps.size())
                           .arg(scenario.expectations.size())
                     : tr("The dossier can only be read: nothing was kept."));
}

} // namespace ts::app
