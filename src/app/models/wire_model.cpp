#include "app/models/wire_model.h"

#include <algorithm>

namespace ts::app {

void WireModel::setRows(std::vector<WireRow> rows)
{
    // What is gone goes, what is new comes in at its place, what moved moves: each a change of one row.
    for (int k = static_cast<int>(m_rows.size()) - 1; k >= 0; --k)
        if (std::none_of(rows.begin(), rows.end(),
                [&](const WireRow& r) { return r.id == m_rows[static_cast<std::size_t>(k)].id; })) {
            beginRemoveRows({}, k, k);
            m_rows.erase(m_rows.begin() + k);
            endRemoveRows();
        }
    for (std::size_t k = 0; k < rows.size(); ++k) {
        const int row = static_cast<int>(k), old = rowOf(rows[k].id);
        if (old < 0) {
            beginInsertRows({}, row, row);
            m_rows.insert(m_rows.begin() + row, rows[k]);
            endInsertRows();
        } else if (old != row) {
            beginMoveRows({}, old, old, {}, row);
            std::rotate(m_rows.begin() + row, m_rows.begin() + old, m_rows.begin() + old + 1);
            endMoveRows();
        }
        if (m_rows[k] != rows[k]) {
            m_rows[k] = rows[k];
            emit dataChanged(index(row, 0), index(row, ColumnCount - 1));
        }
    }
}

WireId WireModel::wireAt(int row) const
{
    return row >= 0 && row < static_cast<int>(m_rows.size()) ? m_rows[static_cast<std::size_t>(row)].id : WireId{};
}

int WireModel::rowOf(WireId wire) const
{
    const auto it = std::find_if(m_rows.begin(), m_rows.end(), [wire](const WireRow& r) { return r.id == wire; });
    return it == m_rows.end() ? -1 : static_cast<int>(it - m_rows.begin());
}

int WireModel::rowCount(const QModelIndex& parent) const
{
    return parent.isValid() ? 0 : static_cast<int>(m_rows.size());
}

int WireModel::columnCount(const QModelIndex& parent) const
{
    return parent.isValid() ? 0 : static_cast<int>(ColumnCount);
}

QVariant WireModel::data(const QModelIndex& index, int role) const
{
    if (!index.isValid() || (role != Qt::DisplayRole && role != Qt::ToolTipRole))
        return {};
    const WireRow& r = m_rows[static_cast<std::size_t>(index.row())];
    switch (index.column()) {
    case Step:
        return r.step;
    case Number:
        return r.number;
    case From:
        return r.from;
    case To:
        return r.to;
    case Area:
        return r.area;
    case Length:
        return r.length;
    case Colour:
        return r.colour;
    case Route:
        return r.route;
    case Section:
        return r.section;
    default:
        return {};
    }
}

QVariant WireModel::headerData(int section, Qt::Orientation orientation, int role) const
{
    if (orientation != Qt::Horizontal || role != Qt::DisplayRole)
        return {};
    switch (section) {
    case Step:
        return tr("Step");
    case Number:
        return tr("Wire");
    case From:
        return tr("From");
    case To:
        return tr("To");
    case Area:
        return tr("Size");
    case Length:
        return tr("Length");
    case Colour:
        return tr("Colour");
    case Route:
        return tr("Route");
    case Section:
        return tr("Circuit");
    default:
        return {};
    }
}

} // namespace ts::app
