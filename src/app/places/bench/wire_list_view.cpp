#include "app/places/bench/wire_list_view.h"

#include "core/diagram/working_order.h"

#include <QHeaderView>
#include <QKeyEvent>

namespace ts::app {

WireListView::WireListView(const Theme& theme, QWidget* parent)
    : QTableView(parent)
    , m_model(new WireModel(this))
{
    setObjectName("wires");
    setAccessibleName(tr("Wire list in working order"));
    setModel(m_model);
    setFont(theme.mono(11));
    setSelectionBehavior(SelectRows);
    setSelectionMode(SingleSelection);
    setEditTriggers(NoEditTriggers);
    setShowGrid(false);
    setFrameShape(QFrame::NoFrame);
    setTabKeyNavigation(false);
    setWordWrap(false);
    verticalHeader()->hide();
    verticalHeader()->setDefaultSectionSize(22);
    verticalHeader()->setMinimumSectionSize(18);
    horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    horizontalHeader()->setHighlightSections(false);
    horizontalHeader()->setStretchLastSection(true);
    static constexpr int kWidths[] = {44, 48, 80, 80, 76, 60, 60, 100};
    for (int c = 0; c < static_cast<int>(std::size(kWidths)); ++c)
        setColumnWidth(c, kWidths[c]);
}

void WireListView::setDossier(Snapshot dossier, const wording::Habits& habits)
{
    m_dossier = std::move(dossier);
    m_habits = habits;
    m_isFilled = false;
    if (isVisible())
        fill();
}

void WireListView::showEvent(QShowEvent* e)
{
    if (!m_isFilled)
        fill();
    QTableView::showEvent(e);
}

const WireModel& WireListView::rows()
{
    if (!m_isFilled)
        fill();
    return *m_model;
}

void WireListView::fill()
{
    m_isFilled = true;
    const Circuit& circuit = m_dossier->circuit;
    const auto graph = diagram::wiredGraph(circuit);
    std::vector<WireRow> rows;
    if (graph)
        for (const diagram::WorkStep& step : diagram::workingOrder(circuit, *graph)) {
            const Wire& w = *circuit.wire(step.wire);
            const Route* route = circuit.route(w.route);
            const QString section = step.section == diagram::WorkSection::Power ? tr("power")
                : step.section == diagram::WorkSection::Control                 ? tr("control")
                                                                                : tr("indication");
            rows.push_back({w.id, QString::number(rows.size() + 1), section, QString::fromStdString(w.number),
                QString::fromStdString(circuit.nameOf(w.from)), QString::fromStdString(circuit.nameOf(w.to)),
                words::wireSizeText(w.areaMm2, m_habits), tr("%1 m").arg(w.lengthM), QString::fromStdString(w.colour),
                route ? QString::fromStdString(route->name) : QString()});
        }
    m_model->setRows(std::move(rows));
    mark();
}

void WireListView::setSelected(WireId wire)
{
    m_selected = wire;
    if (m_isFilled)
        mark();
}

void WireListView::mark()
{
    const WireId wire = m_selected;
    const int row = m_model->rowOf(wire);
    if (row < 0) {
        clearSelection();
        return;
    }
    if (currentIndex().row() != row)
        setCurrentIndex(m_model->index(row, 0));
    selectRow(row);
    scrollTo(m_model->index(row, 0));
}

/// Letters mean what they mean at the Bench, not a row that begins with them.
void WireListView::keyPressEvent(QKeyEvent* e)
{
    const bool isLetter = e->key() >= Qt::Key_A && e->key() <= Qt::Key_Z
        && !(e->modifiers() & (Qt::ControlModifier | Qt::AltModifier));
    if (isLetter || e->key() == Qt::Key_Delete)
        e->ignore();
    else
        QTableView::keyPressEvent(e);
}

void WireListView::currentChanged(const QModelIndex& current, const QModelIndex& previous)
{
    QTableView::currentChanged(current, previous);
    const WireId wire = m_model->wireAt(current.row());
    if (!wire || wire == m_selected || !hasFocus())
        return;
    m_selected = wire;
    emit wirePicked(wire);
}

} // namespace ts::app
