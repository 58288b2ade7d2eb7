#pragma once
// A page of the level desk: from whom the dangerous failures per hour come, where the subsystems stand on the curves of
// the categories, and how sure all this is.

#include "app/document/document.h"
#include "app/document/latest.h"
#include "app/widgets/figure_view.h"
#include "core/safety/level.h"
#include "core/safety/uncertainty.h"

#include <QTimer>
#include <QWidget>

class QCheckBox;
class QLabel;

namespace ts::app {

class DangerPage : public QWidget {
    Q_OBJECT
public:
    DangerPage(Document& document, const Theme& theme, QWidget* parent);
    void show(const safety::FunctionLevel& level);
    bool isBusy() const { return m_work.isBusy() || m_settle.isActive(); }
    FigureView& shares() { return *m_shares; }

signals:
    void finished(); ///< the draws are there

private:
    void draw();
    void takeSensitivities();

    Document& m_document;
    safety::FunctionLevel m_level;
    Latest<Expected<safety::Uncertainty>> m_work;
    QTimer m_settle;
    QCheckBox* m_logarithmic = nullptr;
    FigureView *m_shares = nullptr, *m_curves = nullptr;
    QLabel *m_sure = nullptr, *m_sensitive = nullptr;
};

} // namespace ts::app
