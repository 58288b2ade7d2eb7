#pragma once
// The Faults place: what happens when something breaks, when things are done in another order, and when the stop has
// its worst case. Three pages, each with its study.

#include "app/frame/place.h"

class QButtonGroup;
class QStackedWidget;

namespace ts::app {

class OrdersPage;
class StopPage;
class SweepPage;

class FaultsPlace : public Place {
    Q_OBJECT
public:
    enum Page { Sweep, Orders, Stop };
    FaultsPlace(const PlaceParts& parts, QWidget* parent);
    void show(Page page);
    /// Starts the work of the page in view, or cancels it.
    void startOrCancel();
    SweepPage& sweep() { return *m_sweep; }
    OrdersPage& orders() { return *m_orders; }
    StopPage& stop() { return *m_stop; }

    std::vector<ActionSpec> actions() override;
    std::vector<SearchItem> searchItems() override;
    Mark mark() const override;
    bool canShow(const Target& target) const override;
    void showTarget(const Target& target) override;
    std::vector<PlaceView> views() override;

private:
    Document& m_document;
    Selection& m_selection;
    StudyBook& m_book;
    QButtonGroup* m_tabs = nullptr;
    QStackedWidget* m_pages = nullptr;
    SweepPage* m_sweep = nullptr;
    OrdersPage* m_orders = nullptr;
    StopPage* m_stop = nullptr;
};

} // namespace ts::app
