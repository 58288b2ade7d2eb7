#pragma once
// The machine: chosen word by word with what follows beside it (plan_page.h), or a panel that exists, typed in as it is
// read off (notes_page.h), what it does, found out (deeds_page.h), and what it should do, over time
// (scenario_page.h).

#include "app/frame/place.h"
#include "app/places/machine/plan_page.h"

#include <array>

class QPushButton;
class QStackedWidget;

namespace ts::app {

class DeedsPage;
class NotesPage;
class ScenarioPage;

class MachinePlace : public Place {
    Q_OBJECT
public:
    MachinePlace(const PlaceParts& parts, QWidget* parent);
    std::vector<ActionSpec> actions() override;
    std::vector<PlaceView> views() override;
    const PlanPreview& preview() const { return m_plan->preview(); }
    NotesPage& notesPage() { return *m_notes; }
    DeedsPage& deedsPage() { return *m_deeds; }
    ScenarioPage& scenarioPage() { return *m_scenarios; }
    enum class Page : std::uint8_t { Plan, Notes, Deeds, Scenarios };
    void showPage(Page page);

private:
    QWidget* head();

    PlanPage* m_plan = nullptr;
    NotesPage* m_notes = nullptr;
    DeedsPage* m_deeds = nullptr;
    ScenarioPage* m_scenarios = nullptr;
    QStackedWidget* m_pages = nullptr;
    std::array<QPushButton*, 4> m_toPage{};
};

} // namespace ts::app
