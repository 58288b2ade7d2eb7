#include "app/places/faults/sweep_page.h"

#include "app/places/faults/fault_panel.h"
#include "app/places/faults/fault_wall.h"
#include "app/places/faults/function_dialog.h"
#include "app/places/faults/outcome_mark.h"
#include "app/widgets/plain_text.h"
#include "core/analysis/suggestion.h"
#include "core/edit/exclusion_edits.h"
#include "core/edit/function_edits.h"
#include "wording/fault_texts.h"

#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>

namespace ts::app {

using faults::SweepProgress;

SweepPage::SweepPage(Document& document, const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_theme(theme)
    , m_work(this)
    , m_telling(this)
    , m_mending(this)
    , m_suggesting(this)
{
    setObjectName("faults.sweep_page");
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 4, 16, 12);
    row->setSpacing(12);
    auto* column = new QVBoxLayout;
    column->setSpacing(8);
    row->addLayout(column, 1);
    column->addWidget(head());
    const auto scrolled = [&](QWidget* inside) {
        auto* scroll = new QScrollArea(this);
        scroll->setWidgetResizable(true);
        scroll->setFrameShape(QFrame::NoFrame);
        scroll->setFocusPolicy(Qt::NoFocus);
        scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
        scroll->setWidget(inside);
        return scroll;
    };
    m_wall = new FaultWall(theme, this);
    auto* wallScroll = scrolled(m_wall);
    column->addWidget(wallScroll, 1);
    m_panel = new FaultPanel(theme, this);
    m_panelScroll = scrolled(m_panel);
    m_panelScroll->setFixedWidth(496);
    row->addWidget(m_panelScroll);

    m_tick.setInterval(150);
    connect(&m_tick, &QTimer::timeout, this, &SweepPage::tellProgress);
    connect(&document, &Document::changed, this, &SweepPage::takeDocument);
    connect(&document, &Document::loaded, this, [this] {
        m_work.drop();
        m_results.clear();
        m_trouble.clear();
        takeFunction();
    });
    connect(m_wall, &FaultWall::selectionChanged, this, [this, wallScroll] {
        if (m_wall->selected() >= 0) {
            const QRect cell = m_wall->cellRect(m_wall->selected(), m_wall->moment());
            wallScroll->ensureVisible(cell.left() - 200, cell.center().y(), 0, 40);
        }
        takeSelection();
    });
    const auto play = [this] {
        if (m_story && current()->of->circuit == m_document.dossier().circuit)
            emit playWanted(m_story->script, m_story->showAt);
    };
    connect(m_wall, &FaultWall::opened, this, play);
    connect(m_panel, &FaultPanel::benchWanted, this, play);
    connect(m_panel, &FaultPanel::exclusionWanted, this, &SweepPage::exclude);
    connect(m_panel, &FaultPanel::faultWanted, this, [this](int place) {
        m_filter->setCurrentIndex(static_cast<int>(WallFilter::Counting));
        fill();
        m_wall->select(place, m_wall->moment());
        m_wall->setFocus();
    });
    connect(m_panel, &FaultPanel::mendsWanted, this, &SweepPage::findMends);
    connect(m_panel, &FaultPanel::mendChosen, this, &SweepPage::mend);
    connect(m_panel, &FaultPanel::exclusionUnwanted, this, &SweepPage::include);
    takeDocument();
}

QWidget* SweepPage::head()
{
    auto* head = new QWidget(this);
    auto* column = new QVBoxLayout(head);
    column->setContentsMargins(16, 0, 0, 0);
    column->setSpacing(6);
    auto* line = new QHBoxLayout;
    const auto box = [&](const char* name, const QString& accessible) {
        auto* b = new QComboBox(head);
        b->setObjectName(name);
        b->setAccessibleName(accessible);
        line->addWidget(b);
        return b;
    };
    m_functions = box("faults.functions", tr("Safety function"));
    m_functions->setMinimumWidth(170);
    m_change = new QPushButton(tr("Change ..."), head);
    m_change->setObjectName("faults.change");
    m_change->setToolTip(tr("What demands this function, what must rest, in which time, by which stop category"));
    line->addWidget(m_change);
    m_filter = box("faults.filter", tr("Which faults are shown"));
    for (const QString& text : {tr("What counts"), tr("Lost"), tr("Hidden"), tr("Caught"), tr("Safe"), tr("Excluded"), tr("All but excluded")})
        m_filter->addItem(text);
    m_order = box("faults.order", tr("Order"));
    m_order->addItems({tr("By device"), tr("Worst first")});
    m_excluded = new QCheckBox(tr("excluded ones too"), head);
    m_excluded->setObjectName("faults.excluded_too");
    m_start = new QPushButton(head);
    m_start->setObjectName("faults.start");
    line->addWidget(m_start);
    m_suggest = new QPushButton(tr("Suggest functions from the circuit"), head);
    m_suggest->setObjectName("faults.suggest");
    m_suggest->setToolTip(tr("What the scenarios show: whatever stays operated and takes the power from motors"));
    line->addWidget(m_suggest);
    line->addStretch(1);
    column->addLayout(line);
    m_counts = new OutcomeCounts(m_theme, head);
    auto* second = new QHBoxLayout;
    second->addWidget(m_counts, 1);
    second->addWidget(m_excluded);
    column->addLayout(second);
    m_state = plainLabel({}, m_theme.body(), head);
    m_state->setObjectName("faults.state");
    column->addWidget(m_state);
    connect(m_functions, &QComboBox::activated, this, [this](int i) {
        m_function = {m_functions->itemData(i).toInt()};
        takeFunction();
    });
    connect(m_filter, &QComboBox::activated, this, &SweepPage::fill);
    connect(m_order, &QComboBox::activated, this, &SweepPage::fill);
    connect(m_start, &QPushButton::clicked, this, &SweepPage::startOrCancel);
    connect(m_suggest, &QPushButton::clicked, this, &SweepPage::suggest);
    connect(m_change, &QPushButton::clicked, this, &SweepPage::changeFunction);
    return head;
}

std::shared_ptr<const SweepPage::Result> SweepPage::current() const
{
    const auto found = m_results.find(m_function);
    return found == m_results.end() ? nullptr : found->second;
}

const FaultAnalysis* SweepPage::analysis() const
{
    const auto result = current();
    return result ? &*result->analysis : nullptr;
}

std::vector<const FaultAnalysis*> SweepPage::fresh() const
{
    std::vector<const FaultAnalysis*> all;
    for (const auto& [id, result] : m_results)
        if (*result->of == m_document.dossier())
            all.push_back(&*result->analysis);
    return all;
}

bool SweepPage::isStale() const
{
    const auto result = current();
    return result && result->of != m_document.snapshot() && *result->of != m_document.dossier();
}

void SweepPage::startOrCancel()
{
    if (m_work.isBusy()) {
        m_work.drop();
        m_tick.stop();
        tellState();
        return;
    }
    const Snapshot snapshot = m_document.snapshot();
    const SafetyFunction* function = snapshot->function(m_function);
    if (!function)
        return;
    m_trouble.clear();
    m_progress = std::make_shared<Progress>();
    m_stage = -1;
    m_work.run(
        [this, snapshot, function, progress = m_progress, withPairs = m_withPairs, withExcluded = m_excluded->isChecked()](std::stop_token stop) -> std::optional<Result> {
            faults::SweepOptions options;
            options.withPairs = withPairs;
            options.withExcluded = withExcluded;
            options.onSingles = [&](const faults::Sweep& sweep) {
                auto early = std::make_shared<const Result>(Result{analysedSweep(*snapshot, *function, sweep), snapshot, std::make_shared<const Plant>(*compile(snapshot->circuit))});
                QMetaObject::invokeMethod(this, [this, id = function->id, early, progress] {
                    if (progress == m_progress && m_work.isBusy())
                        takeSingles(id, early);
                }, Qt::QueuedConnection);
            };
            const auto listener = [&](const SweepProgress& p) {
                progress->stage = static_cast<int>(p.stage);
                progress->total = p.total;
                progress->done = p.done;
            };
            Result r{faultAnalysis(*snapshot, *function, options, listener, stop), snapshot, nullptr};
            if (stop.stop_requested())
                return std::nullopt;
            if (r.analysis)
                r.plant = std::make_shared<const Plant>(*compile(snapshot->circuit));
            return r;
        },
        [this, id = m_function](std::shared_ptr<const Result> result) { takeResult(id, std::move(result)); });
    m_clock.start();
    m_tick.start();
    tellProgress();
}

/// Shown while second faults are still tried, so that nobody waits for what is known.
void SweepPage::takeSingles(FunctionId function, std::shared_ptr<const Result> result)
{
    m_results[function] = std::move(result);
    m_counts->show(&m_results[function]->analysis->sweep);
    fill();
}

void SweepPage::takeResult(FunctionId function, std::shared_ptr<const Result> result)
{
    m_tick.stop();
    if (result->analysis)
        m_results[function] = std::move(result);
    else
        m_trouble = wording::sentence(result->analysis.error());
    takeFunction();
    emit finished();
}

void SweepPage::tellProgress()
{
    m_start->setText(tr("Cancel"));
    const int stage = m_progress->stage;
    if (stage != m_stage) {
        m_stage = stage;
        m_clock.restart();
    }
    const double done = static_cast<double>(m_progress->done), total = static_cast<double>(m_progress->total);
    const QString what = stage == static_cast<int>(SweepProgress::Stage::Single) ? tr("One fault at a time")
        : stage == static_cast<int>(SweepProgress::Stage::Limits)        ? tr("At the limits of times and voltage")
                                                                  : tr("Second faults");
    if (total <= 0.0 || done <= 0.0) {
        m_state->setText(tr("%1 ...").arg(what));
        return;
    }
    const double left = static_cast<double>(m_clock.elapsed()) / 1000.0 * (total - done) / done;
    m_state->setText(tr("%1: %2 %, about %3 s left").arg(what).arg(100.0 * done / total, 0, 'f', 0).arg(left, 0, 'f', 0));
}

void SweepPage::takeDocument()
{
    const auto& functions = m_document.dossier().functions;
    m_functions->clear();
    for (const SafetyFunction& f : functions)
        m_functions->addItem(QString::fromStdString(f.name), f.id.value);
    if (!m_document.dossier().function(m_function))
        m_function = functions.empty() ? FunctionId{} : functions.front().id;
    m_functions->setCurrentIndex(m_functions->findData(m_function.value));
    m_start->setEnabled(!functions.empty());
    for (QWidget* w : std::initializer_list<QWidget*>{m_functions, m_change, m_filter, m_order, m_excluded, m_start, m_panelScroll})
        w->setVisible(!functions.empty());
    m_suggest->setVisible(functions.empty() && !m_document.dossier().scenarios.empty());
    takeFunction();
}

void SweepPage::tellState()
{
    m_start->setText(tr("Break everything"));
    const auto result = current();
    m_counts->show(result ? &result->analysis->sweep : nullptr);
    QString state = m_trouble;
    if (state.isEmpty() && m_document.dossier().functions.empty())
        state = tr("The dossier has no safety function to try faults on. Those that its scenarios show can be suggested; level and claim are yours to decide.");
    else if (state.isEmpty() && !result)
        state = tr("Puts every fault into the circuit at every moment, and then every second one: at rest, running, before and with the demand, at the reset.");
    else if (state.isEmpty() && isStale())
        state = tr("The dossier was changed since: this is about the circuit as it was.");
    else if (state.isEmpty() && !result->analysis->sweep.hasPairs)
        state = tr("Second faults were not tried: what is called hidden or caught may be safe.");
    else if (state.isEmpty())
        state = tr("Moments across: at rest, running, just before, with the demand, at the reset. Arrow keys go from cell to cell.");
    m_state->setText(state);
}

void SweepPage::takeFunction()
{
    if (m_work.isBusy())
        return; // the progress line stays
    tellState();
    fill();
}

void SweepPage::fill()
{
    const auto result = current();
    m_filter->setEnabled(result != nullptr);
    m_order->setEnabled(result != nullptr);
    if (!result) {
        m_wall->show(nullptr, {});
        m_panel->clear();
        return;
    }
    const std::shared_ptr<const faults::Sweep> sweep(result, &result->analysis->sweep);
    m_wall->show(sweep, wallGroups(*sweep, result->of->circuit, static_cast<WallFilter>(m_filter->currentIndex()), static_cast<WallOrder>(m_order->currentIndex())));
    if (const SafetyFunction* f = result->of->function(m_function))
        m_panel->showBuilt(*result->analysis, *f, result->of->circuit);
    takeSelection();
}

void SweepPage::takeSelection()
{
    const auto result = current();
    m_story = nullptr;
    m_telling.drop();
    m_mends = nullptr;
    m_mending.drop();
    if (!result)
        return;
    const int place = m_wall->selected();
    m_panel->showFault(*result->analysis, *result->of, *result->plant, place, m_wall->moment());
    m_panel->showStory(nullptr, nullptr);
    if (place < 0 || !result->analysis->sweep.outcomes[static_cast<std::size_t>(place)].isRun)
        return;
    m_telling.run(
        [result, place, moment = m_wall->moment(), id = m_function](std::stop_token stop) -> std::optional<Expected<faults::Story>> {
            return faults::storyOf(*result->of, *result->of->function(id), result->analysis->sweep, place, moment, stop);
        },
        [this, result](std::shared_ptr<const Expected<faults::Story>> story) {
            if (!*story)
                return;
            m_story = std::shared_ptr<const faults::Story>(story, &**story);
            m_panel->showStory(m_story, result->plant);
            emit storyReady();
        });
}

void SweepPage::suggest()
{
    m_suggesting.run(
        [snapshot = m_document.snapshot()](std::stop_token stop) -> std::optional<Expected<std::vector<SafetyFunction>>> { return suggestedFunctions(*snapshot, stop); },
        [this](std::shared_ptr<const Expected<std::vector<SafetyFunction>>> found) {
            if (!*found || (*found)->empty()) {
                m_trouble = *found ? tr("No scenario operates something that stays operated and takes the power from a motor.") : wording::sentence(found->error());
                tellState();
                return;
            }
            std::vector<SafetyFunction> functions = **found;
            for (SafetyFunction& f : functions) {
                const Device* d = m_document.dossier().circuit.device(f.trigger.device);
                const QString tag = QString::fromStdString(d ? d->tag : "?");
                f.name = (f.emergencyStop ? tr("Emergency stop %1") : tr("Stop by %1")).arg(tag).toStdString();
            }
            m_trouble.clear();
            m_document.editFile(tr("Suggest safety functions"), [&functions](const DossierFile& file) { return edit::withFunctions(file, functions); });
        });
}

void SweepPage::changeFunction()
{
    (new FunctionDialog(m_document, m_function, window()))->open();
}

void SweepPage::findMends()
{
    const auto result = current();
    if (!result || m_wall->selected() < 0 || result->of->circuit != m_document.dossier().circuit)
        return;
    m_panel->tellMending(tr("Trying what can be meant with it, and the fault on each changed circuit ..."));
    m_mending.run(
        [file = m_document.file(), id = m_function, fault = result->analysis->sweep.faults[static_cast<std::size_t>(m_wall->selected())].id](
            std::stop_token stop) -> std::optional<Expected<mending::Tried>> {
            auto tried = mending::mendsOf(file, *file.dossier.function(id), fault, {}, stop);
            if (stop.stop_requested())
                return std::nullopt;
            return tried;
        },
        [this, result](std::shared_ptr<const Expected<mending::Tried>> tried) {
            if (!*tried) {
                m_panel->tellMending(wording::sentence(tried->error()));
                return;
            }
            m_mends = std::shared_ptr<const mending::Tried>(tried, &**tried);
            m_panel->showMends(*m_mends, *result->of, *result->plant);
            emit mendsReady();
        });
}

void SweepPage::mend(int place)
{
    if (!m_mends || place < 0 || place >= static_cast<int>(m_mends->mends.size()))
        return;
    const mending::Mend& m = m_mends->mends[static_cast<std::size_t>(place)];
    const auto edit = [target = m.target, offer = m.offer, answers = m.answers](const DossierFile& file) { return offers::carriedOut(file, target, offer, answers); };
    if (!m_document.editFile(tr("Mend a fault"), edit))
        m_panel->tellMending(tr("The circuit was changed since: look for what mends it again."));
}

void SweepPage::exclude(const QString& reason)
{
    const auto result = current();
    if (!result || m_wall->selected() < 0)
        return;
    const std::string id = result->analysis->sweep.faults[static_cast<std::size_t>(m_wall->selected())].id;
    m_document.edit(tr("Exclude a fault"), [&](const Dossier& d) { return edit::withExclusion(d, {id, reason.trimmed().toStdString()}); });
}

void SweepPage::include()
{
    const auto result = current();
    if (!result || m_wall->selected() < 0)
        return;
    const std::string id = result->analysis->sweep.faults[static_cast<std::size_t>(m_wall->selected())].id;
    m_document.edit(tr("Take an exclusion back"), [&](const Dossier& d) { return edit::withoutExclusion(d, id); });
}

} // namespace ts::app
