#pragma once
// The machine: chosen word by word with what follows beside it (plan_page.h), or a panel that exists, typed in as it is
// read off (notes_page.h), and what it does, found out (deeds_page.h).

#include "app/frame/place.h"
#include "app/places/machine/plan_page.h"

#include <array>

class QPushButton;
class QStackedWidget;

namespace ts::app {

class DeedsPage;
class NotesPage;

class MachinePlace : public Place {
    Q_OBJECT
public:
    MachinePlace(const PlaceParts& parts, QWidget* parent);
    std::vector<ActionSpec> actions() override;
    std::vector<PlaceView> views() override;
    const PlanPreview& preview() const { return m_plan->preview(); }
    NotesPage& notesPage() { return *m_notes; }
    DeedsPage& deedsPage() { return *m_deeds; }
    enum class Page : std::uint8_t { Plan, Notes, Deeds };
    void showPage(Page page);

private:
    QWidget* head();

    PlanPage* m_plan = nullptr;
    NotesPage* m_notes = nullptr;
    DeedsPage* m_deeds = nullptr;
    QStackedWidget* m_pages = nullptr;
    std::array<QPushButton*, 3> m_toPage{};
};

} // namespace ts::app
