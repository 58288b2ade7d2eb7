#pragma once
// The wire list in working order: the second face of the drawing. What is selected there is selected here, and back.

#include "app/models/wire_model.h"
#include "app/widgets/theme.h"
#include "app/words/words.h"
#include "core/model/circuit.h"

#include <QTableView>

namespace ts::app {

class WireListView : public QTableView {
    Q_OBJECT
public:
    WireListView(const Theme& theme, QWidget* parent);
    void setCircuit(const Circuit& circuit, const wording::Habits& habits);
    /// The row of a wire; none: nothing is marked. Does not tell anybody.
    void setSelected(WireId wire);
    WireModel& rows() { return *m_model; }

signals:
    void wirePicked(ts::WireId wire);

protected:
    void keyPressEvent(QKeyEvent*) override;
    void currentChanged(const QModelIndex& current, const QModelIndex& previous) override;

private:
    WireModel* m_model;
    WireId m_selected;
};

} // namespace ts::app
