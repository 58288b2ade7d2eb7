#include "app/places/levels/levels_place.h"

#include "app/places/levels/claim_page.h"
#include "app/places/levels/danger_page.h"
#include "app/places/levels/path_page.h"
#include "app/places/levels/reach_page.h"
#include "app/widgets/page_stack.h"
#include "app/words/words.h"
#include "core/analysis/function_verdict.h"
#include "core/edit/claim_edits.h"

#include <QButtonGroup>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QScrollArea>
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
    m_pages = new PageStack(this);
    m_claim = new ClaimPage(m_document, m_book, m_theme, m_pages);
    m_danger = new DangerPage(m_document, m_theme, m_pages);
    m_reach = new ReachPage(m_document, m_book, m_theme, m_pages);
    m_path = new PathPage(m_document, m_book, m_theme, m_pages);
    for (QWidget* page : std::initializer_list<QWidget*>{m_path, m_claim, m_danger, m_reach}) // as in Page
        m_pages->addWidget(page);
    column->addWidget(m_pages, 1);

    connect(&m_document, &Document::changed, this, &LevelsPlace::takeFunction);
    connect(m_functions, &FunctionBox::chosen, this, &LevelsPlace::takeFunction);
    connect(&m_book, &StudyBook::changed, this, &LevelsPlace::takeResults);
    takeFunction();
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
        b->setChecked(page == Path);
        m_tabs->addButton(b, page);
        line->addWidget(b);
    };
    tab(Path, "levels.tab.path", tr("The path"));
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
    m_verdict->setWordWrap(true);
    line->addWidget(m_functions);
    line->addSpacing(12);
    line->addWidget(m_verdict, 1);
    column->addLayout(line);
    return head;
}

void LevelsPlace::takeFunction()
{
    const SafetyFunction* f = m_document.dossier().function(m_functions->function());
    m_level = f ? safety::functionLevel(m_document.dossier(), *f) : safety::FunctionLevel{};
    // A page that is not in view is filled when it is shown: a slider must not pay for all of them.
    if (m_pages->currentIndex() == Path)
        m_path->show(m_functions->function(), m_level);
    if (m_pages->currentIndex() == Claim)
        m_claim->show(m_functions->function(), m_level);
    if (m_pages->currentIndex() == Danger)
        m_danger->show(m_level);
    if (m_pages->currentIndex() == Reach)
        m_reach->show(m_functions->function());
    m_verdict->setText(verdict());
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
    if (m_pages->currentIndex() == Path)
        m_path->takeResults();
    const auto built = m_book.fresh(kBuilt, about(m_functions->function()));
    const auto path = m_book.fresh(kPath, about(m_functions->function()));
    if ((built != m_builtOnClaim || path != m_pathOnClaim) && m_pages->currentIndex() == Claim) // else nothing of what
                                                                                                // it shows is another
        m_claim->show(m_functions->function(), m_level);
    m_builtOnClaim = built;
    m_pathOnClaim = path;
    emit stateChanged();
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
    if (target.subsystem.empty())
        return;
    showPage(Path);
    m_path->chooseSubsystem(target.subsystem);
}

std::vector<PlaceView> LevelsPlace::views()
{
    return {{QStringLiteral("levels"), [this] { showPage(Path); }, {}},
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
    m_path->ask(value);
}

} // namespace ts::app
