#include "app/places/faults/sweep_page.h"

#include "app/places/faults/fault_panel.h"
#include "app/places/faults/fault_wall.h"
#include "app/places/faults/outcome_mark.h"
#include "app/widgets/plain_text.h"
#include "app/widgets/upright_scroll.h"
#include "app/words/words.h"
#include "core/edit/exclusion_edits.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QPushButton>
#include <QVBoxLayout>

namespace ts::app {

using faults::SweepProgress;

SweepPage::SweepPage(Document& document, Selection& selection, StudyBook& book, const Theme& theme, QWidget* parent)
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
        auto* scroll = new UprightScroll(this);
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

    connect(&book, &StudyBook::progressed, this, &SweepPage::tellState);
    connect(&book, &StudyBook::changed, this, &SweepPage::takeFunction);
    connect(&document, &Document::changed, this, &SweepPage::takeDocument);
    connect(&document, &Document::loaded, this, [this] { m_wanted.clear(); });
    connect(m_wall, &FaultWall::selectionChanged, this, [this, wallScroll] {
        if (m_wall->selected() >= 0) {
            const QRect cell = m_wall->cellRect(m_wall->selected(), m_wall->moment());
            wallScroll->ensureVisible(cell.left() - 200, cell.center().y(), 0, 40);
        }
        takeSelection();
    });
    const auto play = [this] {
        if (m_story && shown().of->circuit == m_document.dossier().circuit)
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
    m_start = new QPushButton(head);
    m_start->setObjectName("faults.start");
    line->addWidget(m_start);
    line->addStretch(1);
    column->addLayout(line);
    m_counts = new OutcomeCounts(m_theme, head);
    column->addWidget(m_counts);
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

/// What says most of the circuit as it is; else the newest of another.
SweepPage::Shown SweepPage::shown() const
{
    const Subject function = about(m_functions->function());
    const auto pairs = m_book.newest(kSecondFaults, function), singles = m_book.newest(kSingleFaults, function);
    const auto of = [this](const StudyBook::Held<faults::Sweep>& held) {
        const bool isComing = !held.isFresh && held.of && held.of->circuit == m_document.dossier().circuit
            && m_book.isWorking();
        return Shown{held.value, held.of, held.isFresh, isComing};
    };
    if (pairs.isFresh)
        return of(pairs);
    if (singles.isFresh || !pairs)
        return of(singles);
    return of(singles).isComing ? of(singles) : of(pairs);
}

std::shared_ptr<const Plant> SweepPage::plantOf(const Snapshot& snapshot)
{
    if (m_plantOf != snapshot) {
        m_plantOf = snapshot;
        const auto plant = compile(snapshot->circuit);
        m_plant = plant ? std::make_shared<const Plant>(*plant) : nullptr;
    }
    return m_plant;
}

bool SweepPage::isBusy() const
{
    const Subject function = about(m_functions->function());
    return m_book.isBusy(kSecondFaults.id, function) || m_book.isBusy(kOtherTriggers.id, function);
}

bool SweepPage::isStale() const
{
    const Shown what = shown();
    return what.sweep && !what.isFresh && !what.isComing;
}

void SweepPage::select(const std::string& fault)
{
    m_wanted = fault;
    fill();
}

void SweepPage::startOrCancel()
{
    const Subject function = about(m_functions->function());
    if (!m_document.dossier().function(m_functions->function()))
        return;
    if (isBusy()) {
        m_book.cancel(kSecondFaults.id, function);
        m_book.cancel(kOtherTriggers.id, function);
    } else {
        m_book.ask(kSecondFaults.id, function);
        if (!m_document.dossier().function(m_functions->function())->alsoBy.empty())
            m_book.ask(kOtherTriggers.id, function);
    }
    tellState();
}

/// How far the work is that somebody waits for.
void SweepPage::tellProgress()
{
    const Subject function = about(m_functions->function());
    const bool isSingle = !m_book.fresh(kSingleFaults, function);
    const bool isOther = !isSingle && !m_book.isBusy(kSecondFaults.id, function);
    const StudyBook::Progress p = m_book.progress(isSingle ? kSingleFaults.id
            : isOther                                      ? kOtherTriggers.id
                                                           : kSecondFaults.id,
        function);
    const auto stage = static_cast<SweepProgress::Stage>(p.stage);
    const QString what = isOther                ? tr("With the other triggers")
        : stage == SweepProgress::Stage::Single ? tr("One fault at a time")
        : stage == SweepProgress::Stage::Limits ? tr("At the limits of times, voltage and load")
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
    for (QWidget* w : std::initializer_list<QWidget*>{m_functions, m_filter, m_order, m_start})
        w->setVisible(hasAny);
    takeFunction();
}

void SweepPage::tellState()
{
    const Subject function = about(m_functions->function());
    m_start->setText(isBusy() ? tr("Cancel") : tr("Break everything"));
    m_start->setToolTip(tr("Second faults, excluded ones, and the limits of times, voltage and load: single faults are "
                           "tried by themselves"));
    if (isBusy())
        return tellProgress();
    const Shown what = shown();
    const Error* trouble = m_book.trouble(kSecondFaults.id, function);
    if (!trouble && !what.isFresh)
        trouble = m_book.trouble(kSingleFaults.id, function);
    QString state;
    if (m_document.dossier().functions.empty())
        state = tr("The dossier has no safety function to try faults on. The button leads to the functions, where "
                   "those that the scenarios show can be suggested.");
    else if (trouble)
        state = words::sentence(*trouble);
    else if (!what.sweep)
        state = tr("Every fault is put into the circuit at every moment: at rest, running, before and with the demand, "
                   "at the reset.")
            + countText();
    else if (isStale())
        state = tr("The dossier was changed since: this is about the circuit as it was.");
    else if (what.isComing)
        state = tr("One fault at a time ...");
    else if (!what.sweep->hasPairs)
        state = tr("Single faults were tried by themselves. Second faults were not tried: what is called hidden or "
                   "caught may be safe.");
    else
        state = tr("Moments across: at rest, running, just before, with the demand, at the reset. Arrow keys go from "
                   "cell to cell.");
    m_state->setText(state);
}

void SweepPage::showEvent(QShowEvent* event)
{
    QWidget::showEvent(event);
    takeFunction(); // only for those who look
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
    tellState();
    fill();
}

void SweepPage::fill()
{
    if (!isVisible())
        return;
    const Shown what = shown();
    m_filter->setEnabled(what.sweep != nullptr);
    m_order->setEnabled(what.sweep != nullptr);
    m_counts->show(what.sweep.get());
    m_panelScroll->setVisible(what.sweep != nullptr);
    if (!what.sweep) {
        m_told = {};
        m_builtShown = nullptr;
        m_panel->clear();
        if (!m_document.dossier().functions.empty())
            m_wall->show(
                untried(), wallGroups(*untried(), m_document.dossier().circuit, WallFilter::All, WallOrder::ByDevice));
        else
            m_wall->show(nullptr, {});
        return;
    }
    const auto filter = what.isComing ? WallFilter::All : static_cast<WallFilter>(m_filter->currentIndex()); // all of
                                                                                                             // it, so
                                                                                                             // that
                                                                                                             // nothing
                                                                                                             // jumps
                                                                                                             // while it
                                                                                                             // fills
    m_wall->show(what.sweep,
        wallGroups(*what.sweep, what.of->circuit, filter,
            what.isComing ? WallOrder::ByDevice : static_cast<WallOrder>(m_order->currentIndex())));
    showBuilt(what);
    if (const faults::SweptFault* f = m_wanted.empty() ? nullptr : faults::faultNamed(what.sweep->faults, m_wanted)) {
        const int place = static_cast<int>(f - what.sweep->faults.data());
        m_wanted.clear();
        m_wall->select(place, m_wall->moment());
    }
    takeSelection();
}

void SweepPage::showBuilt(const Shown& what)
{
    const auto built = m_book.newest(kBuilt, about(m_functions->function()));
    const SafetyFunction* f = built ? built.of->function(m_functions->function()) : nullptr;
    if (f && (built.isFresh || !what.isFresh) && built.value != m_builtShown) {
        m_builtShown = built.value;
        m_panel->showBuilt(*built.value, *f, built.of->circuit);
    }
}

void SweepPage::takeSelection()
{
    const Shown what = shown();
    const int place = m_wall->selected();
    Told told;
    if (what.sweep)
        told = {what.of, place, m_wall->moment(),
            place < 0 ? faults::FaultOutcome() : what.sweep->outcomes[static_cast<std::size_t>(place)],
            what.sweep->hasPairs};
    if (place >= 0 && told == m_told)
        return; // results come while somebody reads
    m_told = told;
    m_story = nullptr;
    m_telling.drop();
    m_mends = nullptr;
    m_mending.drop();
    const auto plant = what.sweep ? plantOf(what.of) : nullptr;
    if (!plant)
        return;
    m_panel->showFault(*what.sweep, *what.of, *plant, place, m_wall->moment());
    m_panel->showStory(nullptr, nullptr);
    if (place < 0 || !what.sweep->outcomes[static_cast<std::size_t>(place)].isRun)
        return;
    m_telling.run(
        [what, place, moment = m_wall->moment(), id = m_functions->function()](
            std::stop_token stop) -> std::optional<Expected<faults::Story>> {
            return faults::storyOf(*what.of, *what.of->function(id), *what.sweep, place, moment, stop);
        },
        [this, plant](std::shared_ptr<const Expected<faults::Story>> story) {
            if (!*story)
                return;
            m_story = std::shared_ptr<const faults::Story>(story, &**story);
            m_panel->showStory(m_story, plant);
            emit storyReady();
        });
}

void SweepPage::findMends()
{
    const Shown what = shown();
    if (!what.sweep || m_wall->selected() < 0 || what.of->circuit != m_document.dossier().circuit)
        return;
    m_panel->tellMending(tr("Trying what can be meant with it, and the fault on each changed circuit ..."));
    m_mending.run(
        [file = m_document.file(), id = m_functions->function(),
            fault = what.sweep->faults[static_cast<std::size_t>(m_wall->selected())].id](
            std::stop_token stop) -> std::optional<Expected<improving::Tried>> {
            auto tried = improving::mendsOf(file, *file.dossier.function(id), fault, {}, stop);
            if (stop.stop_requested())
                return std::nullopt;
            return tried;
        },
        [this, what, plant = plantOf(what.of)](std::shared_ptr<const Expected<improving::Tried>> tried) {
            if (!*tried) {
                m_panel->tellMending(words::sentence(tried->error()));
                return;
            }
            m_mends = std::shared_ptr<const improving::Tried>(tried, &**tried);
            m_panel->showMends(*m_mends, *what.of, *plant);
            emit mendsReady();
        });
}

void SweepPage::mend(int place)
{
    if (!m_mends || place < 0 || place >= static_cast<int>(m_mends->mends.size()))
        return;
    const improving::Mend& m = m_mends->mends[static_cast<std::size_t>(place)];
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
