#include "app/places/bench/kept_run.h"

#include "app/words/words.h"
#include "core/edit/circuit_edits.h"
#include "core/suggestions/scenario_suggestion.h"

#include <QCoreApplication>

#include <algorithm>

namespace ts::app {
namespace {

QString tr(const char* text)
{
    return QCoreApplication::translate("BenchPlace", text);
}

} // namespace

QString keptRun(const BenchRun& run, Document& document)
{
    std::vector<Stimulus> done;
    std::copy_if(run.script().begin(), run.script().end(), std::back_inserter(done),
        [&run](const Stimulus& s) { return s.at <= run.now(); });
    auto steps = stepsFrom(run.plant(), done);
    if (!steps)
        return words::sentence(steps.error());
    Scenario scenario;
    scenario.lengthS = std::min(secondsOf(run.now()).si(), kLongestScenarioS);
    scenario.steps = std::move(*steps);
    auto seen = withWhatIsSeen(run.plant(), std::move(scenario));
    if (!seen)
        return words::sentence(seen.error());
    QString name = tr("Kept from the Bench");
    for (int k = 2; document.dossier().scenario(name.toStdString()); ++k)
        name = tr("Kept from the Bench, %1").arg(k);
    seen->name = name.toStdString();
    const bool isKept = document.editFile(tr("Keep what was done as a scenario"),
        [&seen](const DossierFile& file) { return Expected<DossierFile>(edit::withScenario(file, *seen)); });
    if (!isKept)
        return tr("The dossier can only be read: nothing was kept.");
    return tr("Kept as \"%1\": %2 steps, %3 things seen.")
        .arg(name)
        .arg(seen->steps.size())
        .arg(seen->expectations.size());
}

} // namespace ts::app
