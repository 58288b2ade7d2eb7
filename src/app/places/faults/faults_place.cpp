#include "app/places/faults/faults_place.h"

#include "app/places/faults/orders_page.h"
#include "app/places/faults/stop_page.h"
#include "app/places/faults/sweep_page.h"

#include <QButtonGroup>
#include <QHBoxLayout>
#include <QPushButton>
#include <QStackedWidget>
#include <QVBoxLayout>

namespace ts::app {

FaultsPlace::FaultsPlace(Document& document, Selection& selection, SweepBook& book, const Theme& theme, QWidget* parent)
    : QWidget(parent)
{
    setObjectName("place.faults");
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 8, 0, 0);
    column->setSpacing(4);
    auto* line = new QHBoxLayout;
    line->setContentsMargins(16, 0, 16, 0);
    line->setSpacing(4);
    m_tabs = new QButtonGroup(this);
    const auto tab = [&](Page page, const char* name, const QString& text) {
        auto* b = new QPushButton(text, this);
        b->setObjectName(name);
        b->setCheckable(true);
        m_tabs->addButton(b, page);
        line->addWidget(b);
    };
    tab(Sweep, "faults.tab.sweep", tr("Every fault"));
    tab(Orders, "faults.tab.orders", tr("Every order of operation"));
    tab(Stop, "faults.tab.stop", tr("Stop in its worst case"));
    line->addStretch(1);
    column->addLayout(line);
    m_pages = new QStackedWidget(this);
    m_sweep = new SweepPage(document, selection, book, theme, m_pages);
    m_orders = new OrdersPage(document, theme, m_pages);
    m_stop = new StopPage(document, selection, theme, m_pages);
    for (QWidget* page : std::initializer_list<QWidget*>{m_sweep, m_orders, m_stop})
        m_pages->addWidget(page);
    column->addWidget(m_pages, 1);
    connect(m_tabs, &QButtonGroup::idClicked, this, [this](int page) { show(static_cast<Page>(page)); });
    connect(m_sweep, &SweepPage::finished, this, &FaultsPlace::finished);
    connect(m_orders, &OrdersPage::finished, this, &FaultsPlace::finished);
    connect(m_stop, &StopPage::finished, this, &FaultsPlace::finished);
    connect(m_sweep, &SweepPage::playWanted, this, &FaultsPlace::playWanted);
    connect(m_sweep, &SweepPage::functionWanted, this, &FaultsPlace::functionWanted);
    connect(m_orders, &OrdersPage::playWanted, this, &FaultsPlace::playWanted);
    show(Sweep);
}

void FaultsPlace::show(Page page)
{
    m_tabs->button(page)->setChecked(true);
    m_pages->setCurrentIndex(page);
}

void FaultsPlace::startOrCancel()
{
    switch (static_cast<Page>(m_pages->currentIndex())) {
    case Sweep:
        m_sweep->startOrCancel();
        break;
    case Orders:
        m_orders->startOrCancel();
        break;
    case Stop:
        m_stop->startOrCancel();
        break;
    }
}

bool FaultsPlace::hasResults() const
{
    return m_sweep->analysis() || m_orders->hasResult() || m_stop->hasResult();
}

report::Tried FaultsPlace::tried() const
{
    return {m_sweep->fresh(), m_orders->fresh(), m_stop->fresh()};
}

std::map<std::string, faults::Outcome> FaultsPlace::outcomes() const
{
    std::map<std::string, faults::Outcome> outcomes;
    if (!m_sweep->analysis() || m_sweep->isStale())
        return outcomes;
    const faults::Sweep& sweep = m_sweep->analysis()->sweep;
    for (std::size_t k = 0; k < sweep.faults.size(); ++k)
        if (sweep.outcomes[k].isRun)
            outcomes.emplace(sweep.faults[k].id, sweep.outcomes[k].overall);
    return outcomes;
}

std::vector<Finding> FaultsPlace::findings() const
{
    std::vector<Finding> all;
    for (const auto& a : m_sweep->fresh())
        all.insert(all.end(), a->findings.begin(), a->findings.end());
    for (const auto& more : {m_orders->findings(), m_stop->findings()})
        all.insert(all.end(), more.begin(), more.end());
    return all;
}

} // namespace ts::app
