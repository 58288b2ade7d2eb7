#pragma once
// The Faults place: what happens when something breaks, when things are done in another order, and when the stop has
// its worst case. Three pages, each with its own work in the background.

#include "app/document/document.h"
#include "app/document/selection.h"
#include "app/widgets/theme.h"
#include "core/faults/sweep.h"
#include "core/model/finding.h"
#include "core/report/tried.h"
#include "core/simulation/advance.h"

#include <QWidget>

#include <map>

class QButtonGroup;
class QStackedWidget;

namespace ts::app {

class OrdersPage;
class StopPage;
class SweepBook;
class SweepPage;

class FaultsPlace : public QWidget {
    Q_OBJECT
public:
    enum Page { Sweep, Orders, Stop };
    FaultsPlace(Document& document, Selection& selection, SweepBook& book, const Theme& theme, QWidget* parent);
    void show(Page page);
    /// Starts the work of the page in view, or cancels it.
    void startOrCancel();
    SweepPage& sweep() { return *m_sweep; }
    OrdersPage& orders() { return *m_orders; }
    StopPage& stop() { return *m_stop; }
    /// Of all that has been worked out so far.
    std::vector<Finding> findings() const;
    bool hasResults() const;
    /// Everything that was tried and holds for the dossier as it is.
    report::Tried tried() const;
    /// What the sweep in view says of each fault of the circuit as it is, by id; empty if it was changed since.
    std::map<std::string, faults::Outcome> outcomes() const;

signals:
    void finished();
    /// Play this on the Bench up to a time.
    void playWanted(const std::vector<ts::Stimulus>& script, ts::TimeNs until);
    /// What demands a function and what it stops is decided elsewhere.
    void functionWanted(ts::FunctionId function);

private:
    QButtonGroup* m_tabs = nullptr;
    QStackedWidget* m_pages = nullptr;
    SweepPage* m_sweep = nullptr;
    OrdersPage* m_orders = nullptr;
    StopPage* m_stop = nullptr;
};

} // namespace ts::app
