#pragma once
// The wire list as rows for a table: worked out once per circuit, told apart by id. Colours and fonts are the view's.

#include "core/model/circuit.h"

#include <QAbstractTableModel>

#include <vector>

namespace ts::app {

/// One wire in working order, in words.
struct WireRow {
    WireId id;
    QString step, section, number, from, to, area, length, colour, route;
    bool operator==(const WireRow&) const = default;
};

class WireModel : public QAbstractTableModel {
    Q_OBJECT
public:
    enum Column { Step, Number, From, To, Area, Length, Colour, Route, Section, ColumnCount };

    using QAbstractTableModel::QAbstractTableModel;
    /// Rows that are still there stay the same rows, so that a selection survives.
    void setRows(std::vector<WireRow> rows);
    WireId wireAt(int row) const;
    int rowOf(WireId wire) const; ///< -1: not there

    int rowCount(const QModelIndex& parent = {}) const override;
    int columnCount(const QModelIndex& parent = {}) const override;
    QVariant data(const QModelIndex& index, int role) const override;
    QVariant headerData(int section, Qt::Orientation orientation, int role) const override;

private:
    std::vector<WireRow> m_rows;
};

} // namespace ts::app
