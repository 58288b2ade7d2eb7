#include "app/places/levels/levels_place.h"

#include "app/places/levels/claim_page.h"
#include "app/places/levels/danger_page.h"
#include "app/places/levels/level_scale.h"
#include "app/places/levels/level_sheet.h"
#include "app/places/levels/part_strip.h"
#include "app/places/levels/reach_page.h"
#include "app/places/levels/source_panel.h"
#include "app/places/levels/switching_strip.h"
#include "app/words/words.h"
#include "core/analysis/function_verdict.h"
#include "core/edit/claim_edits.h"

#include <QButtonGroup>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QScrollArea>
#include <QStackedWidget>
#include <QVBoxLayout>

namespace ts::app {

LevelsPlace::LevelsPlace(const PlaceParts& parts, QWidget* parent)
    : Place(QStringLiteral("levels"), tr("Levels"), parent)
    , m_document(parts.document)
    , m_selection(parts.selection)
    , m_book(parts.book)
    , m_theme(parts.theme)
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(16, 8, 16, 12);
    column->setSpacing(7);
    column->addWidget(head());
    column->addWidget(tabs());
    m_pages = new QStackedWidget(this);
    m_claim = new ClaimPage(m_document, m_book, m_theme, m_pages);
    m_danger = new DangerPage(m_document, m_theme, m_pages);
    m_reach = new ReachPage(m_document, m_book, m_theme, m_pages);
    for (QWidget* page : std::initializer_list<QWidget*>{calculation(), m_claim, m_danger, m_reach}) // as in Page
        m_pages->addWidget(page);
    column->addWidget(m_pages, 1);

    connect(&m_document, &Document::changed, this, &LevelsPlace::takeFunction);
    connect(&m_document, &Document::loaded, this, [this] { m_asked = -1; });
    connect(m_functions, &FunctionBox::chosen, this, &LevelsPlace::takeFunction);
    connect(m_sheet, &LevelSheet::asked, this, &LevelsPlace::ask);
    connect(m_source, &SourcePanel::asked, this, &LevelsPlace::ask, Qt::QueuedConnection); // the asking button goes
                                                                                           // away
    connect(&m_book, &StudyBook::changed, this, &LevelsPlace::takeResults);
    takeFunction();
}

/// The chain with every number, how often things work, and where a number comes from.
QWidget* LevelsPlace::calculation()
{
    auto* page = new QWidget(this);
    auto* row = new QHBoxLayout(page);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(16);
    auto* column = new QVBoxLayout;
    column->setSpacing(7);
    row->addLayout(column, 1);
    m_source = new SourcePanel(m_theme, page);
    m_source->setFixedWidth(256);
    row->addWidget(m_source);
    m_scale = new LevelScale(m_theme, page);
    column->addWidget(m_scale);
    auto* scroll = new QScrollArea(page);
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setFocusPolicy(Qt::NoFocus);
    m_sheet = new LevelSheet(m_theme, scroll);
    scroll->setWidget(m_sheet);
    column->addWidget(scroll, 1);
    m_switching = new SwitchingStrip(m_document, m_theme, page);
    m_parts = new PartStrip(m_document, m_theme, page);
    m_parts->hide();
    auto* which = new QPushButton(tr("Other parts ..."), page);
    which->setObjectName("levels.which_strip");
    which->setCheckable(true);
    column->addWidget(which, 0, Qt::AlignRight);
    column->addWidget(m_switching);
    column->addWidget(m_parts);
    connect(which, &QPushButton::toggled, this, [this](bool isParts) {
        m_switching->setVisible(!isParts);
        m_parts->setVisible(isParts);
        takeFunction();
    });
    return page;
}

QWidget* LevelsPlace::tabs()
{
    auto* bar = new QWidget(this);
    auto* line = new QHBoxLayout(bar);
    line->setContentsMargins(0, 0, 0, 0);
    line->setSpacing(4);
    m_tabs = new QButtonGroup(this);
    const auto tab = [&](Page page, const char* name, const QString& text) {
        auto* b = new QPushButton(text, bar);
        b->setObjectName(name);
        b->setCheckable(true);
        b->setChecked(page == Calculation);
        m_tabs->addButton(b, page);
        line->addWidget(b);
    };
    tab(Calculation, "levels.tab.calculation", tr("The calculation"));
    tab(Claim, "levels.tab.claim", tr("The claim"));
    tab(Danger, "levels.tab.danger", tr("Where the danger comes from"));
    tab(Reach, "levels.tab.reach", tr("What would reach it"));
    line->addStretch(1);
    connect(m_tabs, &QButtonGroup::idClicked, this, [this](int page) { showPage(static_cast<Page>(page)); });
    return bar;
}

void LevelsPlace::showPage(Page page)
{
    m_tabs->button(page)->setChecked(true);
    m_pages->setCurrentIndex(page);
    m_stop->setVisible(page == Calculation); // elsewhere its lines take room from the page
    takeFunction();
}

QWidget* LevelsPlace::head()
{
    auto* head = new QWidget(this);
    auto* column = new QVBoxLayout(head);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(2);
    auto* line = new QHBoxLayout;
    m_functions = new FunctionBox(m_document, m_selection, "levels.functions", head);
    m_verdict = new QLabel(head);
    m_verdict->setObjectName("levels.verdict");
    m_verdict->setFont(m_theme.verdict());
    line->addWidget(m_functions);
    line->addSpacing(12);
    line->addWidget(m_verdict, 1);
    column->addLayout(line);
    m_stop = new QLabel(head);
    m_stop->setObjectName("levels.stop");
    m_stop->setWordWrap(true);
    column->addWidget(m_stop);
    return head;
}

void LevelsPlace::takeFunction()
{
    const SafetyFunction* f = m_document.dossier().function(m_functions->function());
    m_level = f ? safety::functionLevel(m_document.dossier(), *f) : safety::FunctionLevel{};
    if (m_asked >= static_cast<int>(m_level.explanation.values.size()))
        m_asked = -1;
    m_scale->setLevel(m_level);
    m_sheet->setLevel(m_level);
    m_sheet->setAsked(m_asked);
    m_source->show(m_level, m_asked);
    if (m_parts->isVisibleTo(this))
        m_parts->setFunction(m_functions->function());
    else
        m_switching->setFunction(m_functions->function());
    // A page that is not in view is filled when it is shown: a slider must not pay for all of them.
    if (m_pages->currentIndex() == Claim)
        m_claim->show(m_functions->function(), m_level);
    if (m_pages->currentIndex() == Danger)
        m_danger->show(m_level);
    if (m_pages->currentIndex() == Reach)
        m_reach->show(m_functions->function());
    m_verdict->setText(verdict());
    takeStop();
}

/// The verdict on the function, and of the claim what it says by itself.
QString LevelsPlace::verdict() const
{
    const SafetyFunction* f = m_document.dossier().function(m_functions->function());
    if (!f)
        return tr("No safety function");
    const auto built = m_book.fresh(kBuilt, about(f->id));
    const auto others = m_book.fresh(kOtherTriggers, about(f->id));
    QString text = words::verdictText(verdictOf(m_document.dossier(), *f, m_level, built.get(), others.get()));
    if (m_level.pfhd >= 0)
        text += tr(". PFHd as claimed %1").arg(words::number(m_level.explanation[m_level.pfhd].si, "1/h"));
    for (const Message& m : m_level.unmet)
        text += ". " + words::sentence(m);
    return text;
}

void LevelsPlace::takeResults()
{
    m_verdict->setText(verdict());
    takeStop();
    const auto built = m_book.fresh(kBuilt, about(m_functions->function()));
    if (built != m_builtOnClaim && m_pages->currentIndex() == Claim) // else nothing of what it shows is another
        m_claim->show(m_functions->function(), m_level);
    m_builtOnClaim = built;
    emit stateChanged();
}

void LevelsPlace::takeStop()
{
    const auto levels = m_book.fresh(kLevels);
    if (!levels) {
        const Error* trouble = m_book.trouble(kLevels.id, {});
        m_stop->setText(trouble                          ? words::sentence(*trouble)
                : m_document.dossier().functions.empty() ? QString()
                                                         : tr("The stop is being read from a run ..."));
        return;
    }
    QStringList lines;
    for (const FunctionResult& r : levels->functions) {
        if (r.function != m_functions->function())
            continue;
        if (!r.nominal || !r.slow)
            lines << tr("Stop: %1").arg(words::sentence(r.stopTrouble));
        else
            for (std::size_t i = 0; i < r.nominal->actuators.size(); ++i) {
                const auto &a = r.nominal->actuators[i], &slow = r.slow->actuators[i];
                QString line = QString::fromStdString(a.tag) + ": "
                    + (a.category ? words::sentence(message("stop.category", {std::to_string(*a.category)}))
                                  : words::word("stop.none"));
                if (a.removedAfter && a.restAfter && slow.removedAfter)
                    line += tr(", power removed after %1 (%2 at the slow limit), at rest after %3")
                                .arg(words::number(a.removedAfter->si(), "s"),
                                    words::number(slow.removedAfter->si(), "s"), words::number(a.restAfter->si(), "s"));
                else
                    line += ", " + words::sentence(a.why);
                lines << line;
            }
    }
    m_stop->setText(lines.join(QStringLiteral("\n")));
}

/// The worst answer of all functions.
Mark LevelsPlace::mark() const
{
    if (const auto found = markOfFindings(m_book, {Target::Aspect::Claim}); found && *found != Mark::Open)
        return *found;
    return markWithoutFindings(
        m_book, m_document.dossier(), {kLevels.id, kSingleFaults.id, kBuilt.id, kSecondFaults.id});
}

bool LevelsPlace::canShow(const Target& target) const
{
    return target.aspect == Target::Aspect::Claim;
}

void LevelsPlace::showTarget(const Target& target)
{
    if (target.function)
        m_selection.chooseFunction(target.function);
    if (!target.subsystem.empty())
        showPage(Calculation);
}

std::vector<PlaceView> LevelsPlace::views()
{
    return {{QStringLiteral("levels"), [this] { showPage(Calculation); }, {}},
        {QStringLiteral("levels.claim"), [this] { showPage(Claim); }, {}},
        {QStringLiteral("levels.danger"), [this] { showPage(Danger); }, [this] { return !m_danger->isBusy(); }},
        {QStringLiteral("levels.reach"),
            [this] {
                showPage(Reach);
                m_reach->startOrCancel();
            },
            [this] { return !m_reach->isBusy(); }}};
}

void LevelsPlace::ask(int value)
{
    m_asked = value;
    m_sheet->setAsked(value);
    m_source->show(m_level, value);
}

} // namespace ts::app
