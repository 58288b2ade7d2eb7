#include "app/places/levels/reach_page.h"

#include "app/widgets/plain_text.h"
#include "app/words/words.h"
#include "core/analysis/fault_analysis.h"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QPushButton>
#include <QTreeWidget>
#include <QVBoxLayout>

namespace ts::app {
namespace {

QString sentenceOf(const improving::Change& c)
{
    return words::sentence(message("improve." + c.id, c.words));
}

QString levelText(const std::optional<safety::Level>& level)
{
    return level ? "PL " + QString::fromUtf8(safety::nameOf(*level).data(), 1) : words::word("level.none");
}

} // namespace

ReachPage::ReachPage(Document& document, const StudyBook& book, const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_book(book)
    , m_work(this)
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(8);
    auto* line = new QHBoxLayout;
    m_start = new QPushButton(this);
    m_start->setObjectName("reach.start");
    line->addWidget(m_start);
    m_now = plainLabel({}, theme.bold(), this);
    m_now->setObjectName("reach.now");
    line->addWidget(m_now, 1);
    column->addLayout(line);
    m_state = plainLabel({}, theme.body(), this);
    m_state->setObjectName("reach.state");
    column->addWidget(m_state);
    m_list = new QTreeWidget(this);
    m_list->setObjectName("reach.list");
    m_list->setAccessibleName(tr("What would make it better"));
    m_list->setHeaderLabels({tr("Change"), tr("Effort"), tr("Level"), tr("PFHd"), tr("Run again")});
    m_list->setRootIsDecorated(false);
    m_list->setWordWrap(true);
    m_list->header()->setSectionResizeMode(0, QHeaderView::Stretch);
    m_list->header()->setStretchLastSection(false);
    for (int c = 1; c < 5; ++c)
        m_list->header()->setSectionResizeMode(c, QHeaderView::ResizeToContents);
    column->addWidget(m_list, 1);
    m_do = new QPushButton(tr("Carry this out (can be undone)"), this);
    m_do->setObjectName("reach.do");
    column->addWidget(m_do, 0, Qt::AlignLeft);
    connect(m_start, &QPushButton::clicked, this, &ReachPage::startOrCancel);
    connect(m_do, &QPushButton::clicked, this, &ReachPage::carryOut);
    connect(m_list, &QTreeWidget::itemActivated, this, &ReachPage::carryOut);
    connect(m_list, &QTreeWidget::itemSelectionChanged, this, &ReachPage::takeSelection);
    fill();
}

void ReachPage::show(FunctionId function)
{
    const bool isSame = function == m_function && m_of && *m_of == m_document.dossier();
    m_function = function;
    if (!isSame && !m_work.isBusy())
        m_result = nullptr;
    fill();
}

void ReachPage::startOrCancel()
{
    if (m_work.isBusy()) {
        m_work.drop();
        fill();
        return;
    }
    if (!m_document.dossier().function(m_function))
        return;
    m_of = m_document.snapshot();
    m_result = nullptr;
    m_work.run(
        [file = m_document.file(), id = m_function, built = m_book.fresh(kBuilt, about(m_function))](
            std::stop_token stop) -> std::optional<Expected<improving::Improved>> {
            auto found = improving::improvementsOf(
                file, id, built && built->sweep.hasPairs ? built.get() : nullptr, {}, stop);
            if (stop.stop_requested())
                return std::nullopt;
            return found;
        },
        [this](std::shared_ptr<const Expected<improving::Improved>> found) {
            m_result = std::move(found);
            fill();
            emit finished();
        });
    fill();
}

void ReachPage::fill()
{
    m_start->setText(m_work.isBusy() ? tr("Cancel") : tr("Look for what reaches it"));
    m_start->setEnabled(m_document.dossier().function(m_function) != nullptr);
    m_list->clear();
    m_do->setEnabled(false);
    const improving::Improved* found = result();
    if (m_work.isBusy())
        m_state->setText(tr("Calculating every change and every two of them, then running the best again ..."));
    else if (m_result && !*m_result)
        m_state->setText(words::sentence(m_result->error()));
    else if (!found)
        m_state->setText(tr("Answers, other parts, feedback contacts, cables of their own, less switching: each change "
                            "and every two of them are carried out on a copy and calculated."));
    else
        m_state->setText(found->list.empty()
                ? tr("None of %1 combinations makes it better.").arg(found->combinations)
                : tr("%1 combinations were calculated; those that reach come first, then the least effort. A change of "
                     "wiring is run again: what nothing notices now is put into the changed circuit.")
                      .arg(found->combinations));
    const auto built = m_book.fresh(kBuilt, about(m_function));
    const bool hasSweep = built && built->sweep.hasPairs;
    QString now;
    if (found) {
        now = tr("Now %1").arg(levelText(found->now));
        if (found->now)
            now += tr(", PFHd %1").arg(words::number(found->pfhdNow, "1/h"));
        now += hasSweep ? tr(", with what the faults showed") : tr(", as claimed: second faults were not tried");
        if (!found->alone.empty()) {
            QStringList said;
            for (const Message& fault : found->alone)
                said << words::sentence(fault);
            now += tr(". A single fault loses it: %1").arg(said.join(QStringLiteral(", ")));
        }
    }
    m_now->setText(now);
    if (!found || m_work.isBusy())
        return;
    for (std::size_t k = 0; k < found->list.size(); ++k) {
        const improving::Improvement& i = found->list[k];
        QStringList changes;
        for (const improving::Change& c : i.changes)
            changes << sentenceOf(c);
        const QString again = !i.rerun ? tr("estimated")
            : !i.rerun->stillStops     ? tr("no longer starts or stops")
            : i.rerun->tried == 0      ? tr("still starts and stops")
            : i.rerun->holds()         ? tr("mended: %1 of %2").arg(i.rerun->mended).arg(i.rerun->tried)
                                       : tr("only %1 of %2 mended").arg(i.rerun->mended).arg(i.rerun->tried);
        auto* item = new QTreeWidgetItem(m_list,
            {changes.join(QStringLiteral("\n")), QString::number(i.effort()),
                levelText(i.level) + (i.reaches ? tr(", reaches") : QString()), words::number(i.pfhdPerHour, "1/h"),
                again});
        item->setData(0, Qt::UserRole, static_cast<int>(k));
    }
}

void ReachPage::takeSelection()
{
    m_do->setEnabled(!m_list->selectedItems().isEmpty() && m_of && *m_of == m_document.dossier());
}

void ReachPage::carryOut()
{
    const auto chosen = m_list->selectedItems();
    const improving::Improved* found = result();
    if (chosen.isEmpty() || !found || !m_of || *m_of != m_document.dossier())
        return;
    const improving::Improvement
        i = found->list[static_cast<std::size_t>(chosen.front()->data(0, Qt::UserRole).toInt())];
    m_document.editFile(tr("Make a level better"), [&i](const DossierFile& file) {
        Expected<DossierFile> changed = file;
        for (const improving::Change& c : i.changes)
            if (changed)
                changed = c.carriedOut(*changed);
        return changed;
    });
}

} // namespace ts::app
