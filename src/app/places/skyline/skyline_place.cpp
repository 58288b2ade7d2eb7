#include "app/places/skyline/skyline_place.h"

#include "app/widgets/plain_text.h"
#include "app/widgets/tall_column.h"
#include "app/widgets/upright_scroll.h"
#include "app/words/words.h"
#include "core/analysis/analysis.h"
#include "core/checks/check.h"

#include <QHBoxLayout>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>

#include <algorithm>
#include <span>

namespace ts::app {
namespace {

constexpr int kSideWidth = 296;
constexpr std::size_t kMostShown = 6; ///< the ledge has them all

/// The panel on the right with its frame.
class Side : public QWidget {
public:
    Side(const Theme& theme, QWidget* parent)
        : QWidget(parent)
        , m_theme(theme)
    {
    }

protected:
    void paintEvent(QPaintEvent*) override
    {
        QPainter p(this);
        p.setRenderHint(QPainter::Antialiasing);
        paintPanel(p, QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), m_theme.colours().panel, m_theme.colours().line);
    }

private:
    const Theme& m_theme;
};

} // namespace

SkylinePlace::SkylinePlace(const PlaceParts& parts, QWidget* parent)
    : Place(QStringLiteral("skyline"), tr("Skyline"), parent)
    , m_document(parts.document)
    , m_book(parts.book)
    , m_theme(parts.theme)
{
    const Theme& theme = m_theme;
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(8, 8, 16, 8);
    row->setSpacing(12);
    auto* left = new QVBoxLayout;
    row->addLayout(left, 1);
    m_empty = plainLabel(tr("The dossier has no safety function yet. Build a starter under Machine, or let functions "
                            "be suggested under Functions."),
        theme.body(), this);
    m_empty->setObjectName("skyline.empty");
    left->addWidget(m_empty);
    auto* scroll = new UprightScroll(this);
    m_view = new FigureView(theme, scroll);
    m_view->setObjectName("skyline.view");
    m_view->setAccessibleName(tr("Safety functions by dangerous failures per hour"));
    scroll->setWidget(m_view);
    left->addWidget(scroll, 1);

    auto* side = new Side(theme, this);
    side->setFixedWidth(kSideWidth);
    auto* column = new QVBoxLayout(side);
    column->setContentsMargins(16, 14, 16, 12);
    column->setSpacing(8);
    column->addWidget(plainLabel(tr("What holds it back"), theme.verdict(), side));
    m_none = plainLabel({}, theme.body(), side);
    m_none->setObjectName("skyline.none");
    column->addWidget(m_none);
    auto* findings = new UprightScroll(side);
    auto* rows = new TallColumn;
    m_list = new QVBoxLayout(rows);
    m_list->setContentsMargins(0, 0, 6, 0);
    m_list->setSpacing(12);
    m_list->addStretch(1);
    findings->setWidget(rows);
    findings->viewport()->setAutoFillBackground(false);
    rows->setAutoFillBackground(false); // a scroll area fills what it is given
    column->addWidget(findings, 1);
    auto* caution = plainLabel(words::word("caution.text"), theme.small(), side);
    caution->setObjectName("skyline.caution");
    column->addWidget(caution);
    row->addWidget(side);

    connect(&m_book, &StudyBook::changed, this, &SkylinePlace::takeResults);
    connect(&m_document, &Document::loaded, this, [this] {
        m_view->choose(-1);
        m_towers.clear();
        takeResults();
    });
    connect(m_view, &FigureView::opened, this, [this](int k) {
        if (k < static_cast<int>(m_functions.size()))
            emit targetWanted({.aspect = Target::Aspect::Claim, .function = m_functions[static_cast<std::size_t>(k)]});
    });
    takeResults();
}

void SkylinePlace::takeResults()
{
    const Dossier& dossier = m_document.dossier();
    m_empty->setVisible(dossier.functions.empty());
    const Results known = m_book.results();
    if (known.find(kLevels)) { // else the towers stay as they were until there are new ones
        m_functions.clear();
        for (const SafetyFunction& f : dossier.functions)
            m_functions.push_back(f.id);
        m_towers = wording::towersOf(dossier, known);
    }
    m_view->show([this](double width, double height, int chosen) {
        return figures::skyline(m_towers, wording::skylineWords(), width, height, chosen);
    });
    showFindings();
    emit stateChanged();
}

Mark SkylinePlace::mark() const
{
    using Aspect = Target::Aspect;
    if (const auto found = markOfFindings(
            m_book, {Aspect::Circuit, Aspect::Demand, Aspect::Claim, Aspect::Fault, Aspect::Order, Aspect::WorstStop});
        found && *found != Mark::Open)
        return *found;
    return markWithoutFindings(m_book, m_document.dossier(),
        {kLevels.id, kScenarios.id, kDirected.id, kSingleFaults.id, kBuilt.id, kSecondFaults.id, kWorstStop.id,
            kOrders.id});
}

figures::Figure SkylinePlace::picture() const
{
    return figures::skyline(m_towers, wording::skylineWords(), 1000, 640);
}

/// Everything that was found so far, the gravest first; and how much was looked at.
void SkylinePlace::showFindings()
{
    const auto checked = m_book.newest(kChecks).value;
    if (checked && checked == m_shown)
        return;
    m_shown = checked;
    for (QWidget* w : m_rows)
        delete w;
    m_rows.clear();
    std::vector<const Finding*> order;
    for (const Finding& f : checked ? std::span<const Finding>(checked->findings) : std::span<const Finding>())
        order.push_back(&f);
    std::stable_sort(
        order.begin(), order.end(), [](const Finding* a, const Finding* b) { return a->severity < b->severity; });
    for (std::size_t k = 0; k < std::min(kMostShown, order.size()); ++k)
        addFinding(*order[k], static_cast<int>(k));
    QStringList lines;
    if (order.size() > kMostShown)
        lines << tr("The gravest %1 of %2; the line below has them all.").arg(kMostShown).arg(order.size());
    if (m_document.dossier().functions.empty())
        lines << tr("Nothing is checked without a safety function.");
    else if (!checked)
        lines << tr("Being checked ...");
    else if (const auto open = std::count_if(
                 checked->checks.begin(), checked->checks.end(), [](const CheckMade& c) { return !c.isWhole(); });
             open > 0)
        lines << (order.empty() ? tr("No finding so far, but %1 of %2 checks were not made, or in part only.")
                                : tr("%1 of %2 checks were not made, or in part only."))
                     .arg(open)
                     .arg(checked->checks.size());
    else if (order.empty())
        lines << tr("No finding from %1 checks.").arg(checked->checks.size());
    m_none->setText(lines.join(QStringLiteral("\n")));
    m_none->setVisible(!m_none->text().isEmpty());
}

void SkylinePlace::addFinding(const Finding& finding, int place)
{
    auto* row = new QWidget(this);
    auto* column = new QVBoxLayout(row);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(2);
    auto* what = new MarkedLine(
        finding.severity == Severity::Stop ? Mark::Wrong : Mark::Open, words::sentence(finding.what), m_theme, row);
    what->setToolTip(words::sentence(finding.consequence) + "\n" + words::sentence(finding.mend));
    column->addWidget(what);
    auto* go = new QPushButton(tr("Go there"), row);
    go->setObjectName(QStringLiteral("skyline.go.%1").arg(place));
    go->setAccessibleName(tr("Go there: %1").arg(words::sentence(finding.what)));
    go->setFlat(true);
    column->addWidget(go, 0, Qt::AlignLeft);
    connect(go, &QPushButton::clicked, this, [this, target = finding.target] { emit targetWanted(target); });
    m_list->insertWidget(m_list->count() - 1, row); // above the stretch
    m_rows.push_back(row);
}

} // namespace ts::app
