#include "app/places/faults/sweep_page.h"

#include "app/places/faults/fault_panel.h"
#include "app/places/faults/fault_wall.h"
#include "app/places/faults/outcome_mark.h"
#include "app/widgets/plain_text.h"
#include "core/edit/exclusion_edits.h"
#include "wording/fault_texts.h"

#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>

namespace ts::app {

using faults::SweepProgress;

SweepPage::SweepPage(Document& document, Selection& selection, SweepBook& book, const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_book(book)
    , m_theme(theme)
    , m_telling(this)
    , m_mending(this)
{
    setObjectName("faults.sweep_page");
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 4, 16, 12);
    row->setSpacing(12);
    auto* column = new QVBoxLayout;
    column->setSpacing(8);
    row->addLayout(column, 1);
    column->addWidget(head(selection));
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

    connect(&book, &SweepBook::progressed, this, &SweepPage::tellProgress);
    connect(&book, &SweepBook::changed, this, &SweepPage::takeFunction);
    connect(&book, &SweepBook::finished, this, [this] {
        takeFunction();
        emit finished();
    });
    connect(&document, &Document::changed, this, &SweepPage::takeDocument);
    connect(&document, &Document::loaded, this, [this] {
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

QWidget* SweepPage::head(Selection& selection)
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
    m_functions = new FunctionBox(m_document, selection, "faults.functions", head);
    line->addWidget(m_functions);
    m_change = new QPushButton(tr("Functions ..."), head);
    m_change->setObjectName("faults.change");
    m_change->setToolTip(
        tr("To the functions: what demands this one, what must rest, in which time, by which stop category"));
    line->addWidget(m_change);
    m_filter = box("faults.filter", tr("Which faults are shown"));
    for (const QString& text :
        {tr("What counts"), tr("Lost"), tr("Hidden"), tr("Caught"), tr("Safe"), tr("Excluded"), tr("All but excluded")})
        m_filter->addItem(text);
    m_order = box("faults.order", tr("Order"));
    m_order->addItems({tr("By device"), tr("Worst first")});
    m_excluded = new QCheckBox(tr("excluded ones too"), head);
    m_excluded->setObjectName("faults.excluded_too");
    m_start = new QPushButton(head);
    m_start->setObjectName("faults.start");
    line->addWidget(m_start);
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
    connect(m_functions, &FunctionBox::chosen, this, &SweepPage::takeFunction);
    connect(m_filter, &QComboBox::activated, this, &SweepPage::fill);
    connect(m_order, &QComboBox::activated, this, &SweepPage::fill);
    connect(m_start, &QPushButton::clicked, this, &SweepPage::startOrCancel);
    connect(m_change, &QPushButton::clicked, this, [this] { emit functionWanted(m_functions->function()); });
    return head;
}

const FaultAnalysis* SweepPage::analysis() const
{
    const auto result = current();
    return result ? &result->analysis : nullptr;
}

std::vector<std::shared_ptr<const FaultAnalysis>> SweepPage::fresh() const
{
    std::vector<std::shared_ptr<const FaultAnalysis>> all;
    for (const SafetyFunction& f : m_document.dossier().functions)
        if (const auto swept = m_book.fresh(f.id))
            all.emplace_back(swept, &swept->analysis);
    return all;
}

bool SweepPage::isStale() const
{
    return current() && !m_book.fresh(m_functions->function());
}

void SweepPage::startOrCancel()
{
    if (m_book.isBusy()) {
        m_book.cancel();
        tellState();
        return;
    }
    m_trouble.clear();
    m_book.start(m_functions->function(), {m_withPairs, m_excluded->isChecked()});
}

void SweepPage::tellProgress()
{
    m_start->setText(tr("Cancel"));
    const SweepBook::Progress p = m_book.progress();
    const QString what = p.stage == SweepProgress::Stage::Single ? tr("One fault at a time")
        : p.stage == SweepProgress::Stage::Limits                ? tr("At the limits of times and voltage")
                                                                 : tr("Second faults");
    if (p.done == 0 || p.total == 0) {
        m_state->setText(tr("%1 ...").arg(what));
        return;
    }
    const double percent = 100.0 * static_cast<double>(p.done) / static_cast<double>(p.total);
    m_state->setText(tr("%1: %2 %, about %3 s left").arg(what).arg(percent, 0, 'f', 0).arg(p.secondsLeft, 0, 'f', 0));
}

void SweepPage::takeDocument()
{
    const bool hasAny = !m_document.dossier().functions.empty();
    m_start->setEnabled(hasAny);
    for (QWidget* w : std::initializer_list<QWidget*>{m_functions, m_filter, m_order, m_excluded, m_start})
        w->setVisible(hasAny);
    takeFunction();
}

void SweepPage::tellState()
{
    m_start->setText(tr("Break everything"));
    const auto result = current();
    QString state = m_trouble.isEmpty() && m_book.trouble() ? wording::sentence(*m_book.trouble()) : m_trouble;
    if (state.isEmpty() && m_document.dossier().functions.empty())
        state = tr("The dossier has no safety function to try faults on. The button leads to the functions, where "
                   "those that the scenarios show can be suggested.");
    else if (state.isEmpty() && !result)
        state = tr("Puts every fault into the circuit at every moment, and then every second one: at rest, running, "
                   "before and with the demand, at the reset.")
            + countText();
    else if (state.isEmpty() && isStale())
        state = tr("The dossier was changed since: this is about the circuit as it was.");
    else if (state.isEmpty() && !result->analysis.sweep.hasPairs)
        state = tr("Second faults were not tried: what is called hidden or caught may be safe.");
    else if (state.isEmpty())
        state = tr("Moments across: at rest, running, just before, with the demand, at the reset. Arrow keys go from "
                   "cell to cell.");
    m_state->setText(state);
}

void SweepPage::showEvent(QShowEvent* event)
{
    QWidget::showEvent(event);
    if (!current())
        takeFunction(); // what is there to be tried is listed only for those who look
}

/// All there is to be tried, with nothing tried yet.
std::shared_ptr<const faults::Sweep> SweepPage::untried()
{
    if (m_untriedOf == m_document.snapshot())
        return m_untried;
    auto sweep = std::make_shared<faults::Sweep>();
    if (const auto plant = compile(m_document.dossier().circuit))
        sweep->faults = faults::faultList(*plant, m_document.dossier());
    sweep->outcomes.resize(sweep->faults.size());
    m_untriedOf = m_document.snapshot();
    return m_untried = std::move(sweep);
}

/// How much there is to do, before it is done.
QString SweepPage::countText()
{
    if (!isVisible())
        return {};
    const auto& faults = untried()->faults;
    const auto excluded = std::count_if(
        faults.begin(), faults.end(), [](const faults::SweptFault& f) { return f.isExcluded; });
    return ' '
        + tr("That is %1 faults at five moments each; %2 more are excluded.")
              .arg(static_cast<qsizetype>(faults.size()) - excluded)
              .arg(excluded);
}

void SweepPage::takeFunction()
{
    if (!m_book.isBusy()) // else the progress line stays
        tellState();
    fill();
}

void SweepPage::fill()
{
    const auto result = current();
    m_filter->setEnabled(result != nullptr);
    m_order->setEnabled(result != nullptr);
    m_counts->show(result ? &result->analysis.sweep : nullptr);
    m_panelScroll->setVisible(result != nullptr);
    if (!result) {
        m_told = {};
        m_panel->clear();
        if (isVisible() && !m_document.dossier().functions.empty())
            m_wall->show(
                untried(), wallGroups(*untried(), m_document.dossier().circuit, WallFilter::All, WallOrder::ByDevice));
        else
            m_wall->show(nullptr, {});
        return;
    }
    const std::shared_ptr<const faults::Sweep> sweep(result, &result->analysis.sweep);
    const bool isComing = m_book.isBusy() && !sweep->hasPairs && !isStale(); // all of it, so that nothing jumps while
                                                                             // it fills
    const auto filter = isComing ? WallFilter::All : static_cast<WallFilter>(m_filter->currentIndex());
    m_wall->show(sweep,
        wallGroups(*sweep, result->of->circuit, filter,
            isComing ? WallOrder::ByDevice : static_cast<WallOrder>(m_order->currentIndex())));
    if (const SafetyFunction* f = result->of->function(m_functions->function()))
        m_panel->showBuilt(result->analysis, *f, result->of->circuit);
    takeSelection();
}

void SweepPage::takeSelection()
{
    const auto result = current();
    const int place = m_wall->selected();
    Told told;
    if (result) {
        const faults::Sweep& sweep = result->analysis.sweep;
        told = {result->of, place, m_wall->moment(),
            place < 0 ? faults::FaultOutcome() : sweep.outcomes[static_cast<std::size_t>(place)], sweep.hasPairs};
    }
    if (place >= 0 && told == m_told)
        return; // results come while somebody reads
    m_told = told;
    m_story = nullptr;
    m_telling.drop();
    m_mends = nullptr;
    m_mending.drop();
    if (!result)
        return;
    m_panel->showFault(result->analysis, *result->of, *result->plant, place, m_wall->moment());
    m_panel->showStory(nullptr, nullptr);
    if (place < 0 || !result->analysis.sweep.outcomes[static_cast<std::size_t>(place)].isRun)
        return;
    m_telling.run(
        [result, place, moment = m_wall->moment(), id = m_functions->function()](
            std::stop_token stop) -> std::optional<Expected<faults::Story>> {
            return faults::storyOf(*result->of, *result->of->function(id), result->analysis.sweep, place, moment, stop);
        },
        [this, result](std::shared_ptr<const Expected<faults::Story>> story) {
            if (!*story)
                return;
            m_story = std::shared_ptr<const faults::Story>(story, &**story);
            m_panel->showStory(m_story, result->plant);
            emit storyReady();
        });
}

void SweepPage::findMends()
{
    const auto result = current();
    if (!result || m_wall->selected() < 0 || result->of->circuit != m_document.dossier().circuit)
        return;
    m_panel->tellMending(tr("Trying what can be meant with it, and the fault on each changed circuit ..."));
    m_mending.run(
        [file = m_document.file(), id = m_functions->function(),
            fault = result->analysis.sweep.faults[static_cast<std::size_t>(m_wall->selected())].id](
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
    const auto edit = [target = m.target, offer = m.offer, answers = m.answers](
                          const DossierFile& file) { return offers::carriedOut(file, target, offer, answers); };
    if (!m_document.editFile(tr("Mend a fault"), edit))
        m_panel->tellMending(tr("The circuit was changed since: look for what mends it again."));
}

void SweepPage::exclude(const QString& reason, const std::vector<std::string>& faults)
{
    m_document.edit(tr("Exclude a fault"), [&](const Dossier& d) {
        Expected<Dossier> changed = d;
        for (const std::string& id : faults)
            if (changed)
                changed = edit::withExclusion(*changed, {id, reason.trimmed().toStdString()});
        return changed;
    });
}

void SweepPage::include(const std::vector<std::string>& faults)
{
    m_document.edit(tr("Take an exclusion back"), [&](const Dossier& d) {
        Expected<Dossier> changed = d;
        for (const std::string& id : faults)
            if (auto without = edit::withoutExclusion(*changed, id)) // the one that is there
                changed = std::move(without);
        return changed;
    });
}

} // namespace ts::app
