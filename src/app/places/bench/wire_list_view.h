#pragma once
// The wire list in working order: the second face of the drawing. What is selected there is selected here, and back.

#include "app/models/wire_model.h"
#include "app/widgets/theme.h"
#include "app/words/words.h"
#include "core/model/dossier.h"

#include <QTableView>

namespace ts::app {

class WireListView : public QTableView {
    Q_OBJECT
public:
    WireListView(const Theme& theme, QWidget* parent);
    /// The rows are made when they are looked at: their order costs as much as both drawings.
    void setDossier(Snapshot dossier, const wording::Habits& habits);
    /// The row of a wire; none: nothing is marked. Does not tell anybody.
    void setSelected(WireId wire);
    const WireModel& rows();

signals:
    void wirePicked(ts::WireId wire);

protected:
    void showEvent(QShowEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    void currentChanged(const QModelIndex& current, const QModelIndex& previous) override;

private:
    void fill();
    void mark();

    WireModel* m_model;
    Snapshot m_dossier;
    wording::Habits m_habits;
    bool m_isFilled = true; ///< with what is in m_dossier
    WireId m_selected;
};

} // namespace ts::app
