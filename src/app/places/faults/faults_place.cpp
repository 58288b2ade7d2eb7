#include "app/places/faults/faults_place.h"

#include "app/places/faults/orders_page.h"
#include "app/places/faults/stop_page.h"
#include "app/places/faults/sweep_page.h"
#include "app/widgets/page_stack.h"
#include "app/words/words.h"

#include <QButtonGroup>
#include <QHBoxLayout>
#include <QPushButton>
#include <QVBoxLayout>

namespace ts::app {

FaultsPlace::FaultsPlace(const PlaceParts& parts, QWidget* parent)
    : Place(QStringLiteral("faults"), tr("What if"), parent)
    , m_document(parts.document)
    , m_selection(parts.selection)
    , m_book(parts.book)
{
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
    m_pages = new PageStack(this);
    m_sweep = new SweepPage(m_document, m_selection, m_book, parts.theme, m_pages);
    m_orders = new OrdersPage(m_document, m_book, parts.theme, m_pages);
    m_stop = new StopPage(m_document, m_selection, m_book, parts.theme, m_pages);
    for (QWidget* page : std::initializer_list<QWidget*>{m_sweep, m_orders, m_stop})
        m_pages->addWidget(page);
    column->addWidget(m_pages, 1);
    connect(m_tabs, &QButtonGroup::idClicked, this, [this](int page) { show(static_cast<Page>(page)); });
    connect(m_sweep, &SweepPage::playWanted, this, &FaultsPlace::playWanted);
    connect(m_sweep, &SweepPage::functionWanted, this,
        [this](FunctionId f) { emit targetWanted({.aspect = Target::Aspect::Demand, .function = f}); });
    connect(m_orders, &OrdersPage::playWanted, this, &FaultsPlace::playWanted);
    connect(&m_book, &StudyBook::changed, this, &FaultsPlace::stateChanged);
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

std::vector<ActionSpec> FaultsPlace::actions()
{
    return {{QStringLiteral("faults.start"),
        tr("Break everything, play every order or stop in every case (the page in view), or cancel"),
        QKeySequence(Qt::Key_F9), false, [this] { return !m_document.dossier().circuit.devices.empty(); },
        [this] { startOrCancel(); }}};
}

/// Faults by their words, once they have been listed.
std::vector<SearchItem> FaultsPlace::searchItems()
{
    std::vector<SearchItem> items;
    const FunctionId function = m_selection.functionIn(m_document.dossier());
    const auto sweep = m_sweep->swept();
    if (!sweep)
        return items;
    for (const faults::SweptFault& f : sweep->faults)
        if (f.family != faults::Family::Short)
            items.push_back({tr("fault"), words::sweptFaultText(f, m_document.dossier().circuit),
                f.isExcluded ? tr("excluded") : QString(), [this, function, id = f.id] {
                    emit targetWanted({.aspect = Target::Aspect::Fault, .function = function, .fault = id});
                }});
    return items;
}

Mark FaultsPlace::mark() const
{
    using Aspect = Target::Aspect;
    if (const auto found = markOfFindings(m_book, {Aspect::Fault, Aspect::Order, Aspect::WorstStop});
        found && *found != Mark::Open)
        return *found;
    return markWithoutFindings(
        m_book, m_document.dossier(), {kSingleFaults.id, kSecondFaults.id, kWorstStop.id, kOrders.id});
}

bool FaultsPlace::canShow(const Target& target) const
{
    using Aspect = Target::Aspect;
    return target.aspect == Aspect::Fault || target.aspect == Aspect::Order || target.aspect == Aspect::WorstStop;
}

void FaultsPlace::showTarget(const Target& target)
{
    if (target.function)
        m_selection.chooseFunction(target.function);
    show(target.aspect == Target::Aspect::Fault ? Sweep : target.aspect == Target::Aspect::Order ? Orders : Stop);
    if (target.aspect == Target::Aspect::Fault && !target.fault.empty())
        m_sweep->select(target.fault);
    if (target.aspect == Target::Aspect::Order && target.device)
        m_orders->choose(target.device);
}

std::vector<PlaceView> FaultsPlace::views()
{
    const auto view = [this](const char* name, Page page) {
        return PlaceView{QLatin1String(name),
            [this, page] {
                show(page);
                startOrCancel();
            },
            [this] { return !m_book.isWorking(); }};
    };
    return {{QStringLiteral("faults"), [this] { show(Sweep); }, {}}, view("faults.sweep", Sweep),
        view("faults.orders", Orders), view("faults.stop", Stop)};
}

} // namespace ts::app
