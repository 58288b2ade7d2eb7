#include "app/places/machine/machine_place.h"

#include "app/places/machine/deeds_page.h"
#include "app/places/machine/notes_page.h"
#include "app/places/machine/scenario_page.h"
#include "app/widgets/page_stack.h"

#include <QPushButton>
#include <QVBoxLayout>

namespace ts::app {
MachinePlace::MachinePlace(const PlaceParts& parts, QWidget* parent)
    : Place(QStringLiteral("machine"), tr("Machine"), parent)
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(16, 12, 16, 12);
    column->setSpacing(12);
    column->addWidget(head());
    m_pages = new PageStack(this);
    m_plan = new PlanPage(parts, m_pages);
    m_pages->addWidget(m_plan);
    m_notes = new NotesPage(parts, m_pages);
    m_pages->addWidget(m_notes);
    m_deeds = new DeedsPage(parts, m_pages);
    m_pages->addWidget(m_deeds);
    connect(m_deeds, &DeedsPage::playWanted, this, &Place::playWanted);
    m_scenarios = new ScenarioPage(parts, m_pages);
    m_pages->addWidget(m_scenarios);
    connect(m_scenarios, &ScenarioPage::playWanted, this, &Place::playWanted);
    column->addWidget(m_pages, 1);
    connect(m_notes, &NotesPage::emptyPanelWanted, this, [this] { emit dossierWanted({}); });
    connect(m_plan, &PlanPage::dossierWanted, this, &Place::dossierWanted);
    connect(m_plan, &PlanPage::besideWanted, this, &Place::besideWanted);
}

std::vector<PlaceView> MachinePlace::views()
{
    return {{id(), [this] { showPage(Page::Plan); },
                [this] { return !preview().isBusy() && !preview().isTrying() && !preview().isComparing(); }},
        {id() + QStringLiteral(".notes"), [this] { showPage(Page::Notes); }, {}},
        {id() + QStringLiteral(".deeds"), [this] { showPage(Page::Deeds); }, [this] { return !m_deeds->isBusy(); }},
        {id() + QStringLiteral(".scenarios"), [this] { showPage(Page::Scenarios); },
            [this] { return !m_scenarios->isBusy(); }}};
}

std::vector<ActionSpec> MachinePlace::actions()
{
    return {{"machine.take_in", tr("Take in a panel that exists ..."), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_N),
        true, {}, [this] {
            emit placeWanted();
            showPage(Page::Notes);
        }}};
}

void MachinePlace::showPage(Page page)
{
    const auto chosen = static_cast<std::size_t>(page);
    m_pages->setCurrentIndex(static_cast<int>(chosen));
    for (std::size_t k = 0; k < m_toPage.size(); ++k)
        m_toPage[k]->setChecked(k == chosen);
}

QWidget* MachinePlace::head()
{
    auto* line = new QWidget(this);
    auto* row = new QHBoxLayout(line);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(8);
    const std::pair<QString, const char*> pages[] = {{tr("Chosen word by word"), "machine.to_plan"},
        {tr("A panel that exists, typed in"), "machine.to_notes"}, {tr("What it does, found out"), "machine.to_deeds"},
        {tr("What it should do, over time"), "machine.to_scenarios"}};
    for (std::size_t k = 0; k < m_toPage.size(); ++k) {
        m_toPage[k] = new QPushButton(pages[k].first, line);
        m_toPage[k]->setObjectName(QLatin1String(pages[k].second));
        m_toPage[k]->setCheckable(true);
        m_toPage[k]->setChecked(k == 0);
        connect(m_toPage[k], &QPushButton::clicked, this, [this, k] { showPage(static_cast<Page>(k)); });
        row->addWidget(m_toPage[k]);
    }
    row->addStretch(1);
    return line;
}

} // namespace ts::app
