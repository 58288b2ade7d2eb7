#include "app/places/levels/path_page.h"

#include "app/places/levels/knot_sheet.h"
#include "app/places/levels/part_strip.h"
#include "app/places/levels/source_panel.h"
#include "app/places/levels/switching_strip.h"
#include "app/widgets/upright_scroll.h"
#include "app/words/words.h"
#include "wording/path_words.h"

#include <QHBoxLayout>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>

#include <algorithm>

namespace ts::app {
namespace {

/// Whatever is too much for its room can be scrolled to.
QScrollArea* scrolled(QWidget* inside, QWidget* parent)
{
    auto* scroll = new UprightScroll(parent);
    scroll->setWidget(inside);
    return scroll;
}

constexpr int kTowerWidth = 232, kSheetWidth = 300, kSourceWidth = 240, kBelow = 226;

} // namespace

PathPage::PathPage(Document& document, StudyBook& book, const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_book(book)
    , m_theme(theme)
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(8);
    column->addWidget(above(), 1);
    column->addWidget(below());
    connect(m_drawing, &FigureView::chosenChanged, this, &PathPage::showKnot);
    connect(m_sheet, &KnotSheet::asked, this, &PathPage::ask);
    connect(m_source, &SourcePanel::asked, this, &PathPage::ask, Qt::QueuedConnection); // the asking button goes away
    connect(m_which, &QPushButton::toggled, this, [this](bool isParts) {
        m_switching->setVisible(!isParts);
        m_parts->setVisible(isParts);
        show(m_function, m_level);
    });
}

QWidget* PathPage::above()
{
    auto* box = new QWidget(this);
    auto* row = new QHBoxLayout(box);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(12);
    m_drawing = new FigureView(m_theme, box);
    m_drawing->setObjectName("levels.path");
    m_drawing->setAccessibleName(tr("The function's path through the wiring"));
    row->addWidget(scrolled(m_drawing, box), 1);
    m_tower = new FigureView(m_theme, box);
    m_tower->setObjectName("levels.tower");
    m_tower->setAccessibleName(tr("Dangerous failures per hour"));
    m_tower->setMinimumWidth(kTowerWidth);
    m_tower->setFixedWidth(kTowerWidth);
    m_tower->setFocusPolicy(Qt::NoFocus);
    row->addWidget(m_tower);
    return box;
}

QWidget* PathPage::below()
{
    auto* box = new QWidget(this);
    box->setFixedHeight(kBelow);
    auto* row = new QHBoxLayout(box);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(12);
    m_sheet = new KnotSheet(m_theme, box);
    m_sheet->setMinimumWidth(kSheetWidth * 5 / 6);
    m_sheet->setMaximumWidth(kSheetWidth);
    m_source = new SourcePanel(m_theme, box);
    m_source->setMinimumWidth(kSourceWidth * 5 / 6);
    m_source->setMaximumWidth(kSourceWidth);
    row->addWidget(m_sheet, 2);
    row->addWidget(m_source, 2);
    auto* strips = new QVBoxLayout;
    strips->setSpacing(4);
    m_switching = new SwitchingStrip(m_document, m_theme, box);
    m_parts = new PartStrip(m_document, m_theme, box);
    m_parts->hide();
    m_which = new QPushButton(tr("Other parts ..."), box);
    m_which->setObjectName("levels.which_strip");
    m_which->setCheckable(true);
    auto* inside = new QWidget(box);
    auto* either = new QVBoxLayout(inside);
    either->setContentsMargins(0, 0, 0, 0);
    either->addWidget(m_switching);
    either->addWidget(m_parts);
    strips->addWidget(scrolled(inside, box), 1);
    strips->addWidget(m_which, 0, Qt::AlignRight);
    row->addLayout(strips, 3);
    return box;
}

void PathPage::show(FunctionId function, const safety::FunctionLevel& level)
{
    if (function != m_function) {
        m_drawing->choose(-1);
        m_asked = -1;
        m_path = nullptr;
    }
    m_function = function;
    m_level = level;
    if (m_asked >= static_cast<int>(m_level.explanation.values.size()))
        m_asked = -1;
    takeResults();
    if (m_parts->isVisibleTo(this))
        m_parts->setFunction(m_function);
    else
        m_switching->setFunction(m_function);
    m_source->show(m_level, m_asked);
}

void PathPage::takeResults()
{
    showPath();
    showTower();
    showKnot();
}

void PathPage::showEvent(QShowEvent*)
{
    takeResults();
}

/// Why there is no drawing.
std::string PathPage::missingPath() const
{
    if (const Error* trouble = m_book.trouble(kPath.id, about(m_function)))
        return words::sentence(*trouble).toStdString();
    return tr("The path is being read from a run ...").toStdString();
}

void PathPage::showPath()
{
    const SafetyFunction* f = m_document.dossier().function(m_function);
    if (const auto fresh = m_book.fresh(kPath, about(m_function)))
        m_path = fresh;
    else if (m_book.trouble(kPath.id, about(m_function)))
        m_path = nullptr;
    else if (f && isVisible() && !m_book.isBusy(kPath.id, about(m_function)))
        m_book.ask(kPath.id, about(m_function));
    figures::PathContent content;
    figures::PathWords words = wording::pathWords();
    if (f && m_path) {
        const auto built = m_book.fresh(kBuilt, about(m_function));
        content = wording::pathContent(m_document.dossier(), *f, m_level, *m_path, built.get(), stopResult());
    } else
        words.none = missingPath();
    m_drawing->show([content, words](double width, double height, int chosen) {
        return figures::functionPath(content, words, width, height, chosen);
    });
}

void PathPage::showTower()
{
    const auto& functions = m_document.dossier().functions;
    const auto place = std::find_if(
        functions.begin(), functions.end(), [this](const SafetyFunction& f) { return f.id == m_function; });
    const auto towers = wording::towersOf(m_document.dossier(), m_book.results());
    const auto k = static_cast<std::size_t>(place - functions.begin());
    if (place == functions.end() || k >= towers.size())
        return; // it stays as it was until there is a new one
    m_tower->show([tower = towers[k]](double width, double height, int) {
        return figures::singleTower(tower, wording::skylineWords(), width, height);
    });
}

void PathPage::showKnot()
{
    const int chosen = m_drawing->chosen();
    if (!m_path || chosen < 0 || chosen >= static_cast<int>(m_path->knots.size())) {
        std::vector<ValueRow> rows = functionRows(m_level);
        const SafetyFunction* f = m_document.dossier().function(m_function);
        if (const Scenario* s = f ? m_document.dossier().scenario(std::to_string(f->demandScenario.value)) : nullptr)
            rows.insert(rows.begin(),
                {ValueRow::Kind::Heading,
                    tr("The path is what one run shows: \"%1\".").arg(QString::fromStdString(s->name)), -1, {}});
        m_sheet->show(tr("The whole function"), std::move(rows));
        return;
    }
    const PathKnot& knot = m_path->knots[static_cast<std::size_t>(chosen)];
    const Device* d = m_document.dossier().circuit.device(knot.device);
    QString title = d ? QString::fromStdString(d->tag) : tr("missing device");
    if (!knot.element.empty())
        title += ' ' + QString::fromStdString(elementWords(knot.element));
    else if (d && !d->label.empty())
        title += ' ' + QString::fromStdString(d->label);
    std::vector<ValueRow> rows = knotRows(m_level, knot);
    if (knot.stage == PathKnot::Stage::Rests)
        rows.insert(rows.begin(), {ValueRow::Kind::Heading, stopText(d ? d->tag : std::string()), -1, {}});
    else if (knot.uses.empty())
        rows.push_back({ValueRow::Kind::Heading,
            knot.stage == PathKnot::Stage::Demands ? tr("Demands the function; nothing is claimed for it.")
                                                   : tr("Takes part in the stop; no claim names it."),
            -1, {}});
    m_sheet->show(title, std::move(rows));
    m_sheet->setAsked(m_asked);
}

/// How it comes to rest, as it was read from a run.
QString PathPage::stopText(const std::string& tag) const
{
    const FunctionResult* r = stopResult();
    if (!r)
        return tr("The stop is being read from a run ...");
    if (!r->nominal || !r->slow)
        return tr("Stop: %1").arg(words::sentence(r->stopTrouble));
    for (std::size_t i = 0; i < r->nominal->actuators.size(); ++i) {
        const auto &a = r->nominal->actuators[i], &slow = r->slow->actuators[i];
        if (a.tag != tag)
            continue;
        const QString category = a.category ? words::sentence(message("stop.category", {std::to_string(*a.category)}))
                                            : words::word("stop.none");
        if (!a.removedAfter || !a.restAfter || !slow.removedAfter)
            return category + ", " + words::sentence(a.why);
        return category
            + tr(", power removed after %1 (%2 at the slow limit), at rest after %3")
                  .arg(words::number(a.removedAfter->si(), "s"), words::number(slow.removedAfter->si(), "s"),
                      words::number(a.restAfter->si(), "s"));
    }
    return {};
}

const FunctionResult* PathPage::stopResult() const
{
    const auto levels = m_book.fresh(kLevels);
    if (!levels)
        return nullptr;
    const auto found = std::find_if(levels->functions.begin(), levels->functions.end(),
        [this](const FunctionResult& r) { return r.function == m_function; });
    return found == levels->functions.end() ? nullptr : &*found; // the book keeps it
}

void PathPage::chooseSubsystem(const std::string& name)
{
    const SafetyFunction* f = m_document.dossier().function(m_function);
    if (!f || !m_path)
        return;
    for (std::size_t k = 0; k < m_path->knots.size(); ++k)
        for (const KnotUse& use : m_path->knots[k].uses)
            if (use.subsystem < f->claim.size() && f->claim[use.subsystem].name == name)
                return m_drawing->choose(static_cast<int>(k));
}

void PathPage::ask(int value)
{
    m_asked = value;
    m_sheet->setAsked(value);
    m_source->show(m_level, value);
}

} // namespace ts::app
