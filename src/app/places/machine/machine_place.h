#pragma once
// The machine: a starter is chosen word by word, what follows from the choice is shown beside it by running it, and one
// button makes it the dossier; or a panel that exists is typed in as it is read off (notes_page.h). Below, how well
// each motor's equivalent circuit meets its plate.

#include "app/frame/place.h"
#include "app/places/machine/plan_preview.h"
#include "app/widgets/word_flow.h"

#include <array>

class QLabel;
class QPushButton;
class QStackedWidget;
class QVBoxLayout;

namespace ts::app {

class DeedsPage;
class NotesPage;
class PlanDrawing;

class MachinePlace : public Place {
    Q_OBJECT
public:
    MachinePlace(const PlaceParts& parts, QWidget* parent);
    std::vector<ActionSpec> actions() override;
    std::vector<PlaceView> views() override;
    const PlanPreview& preview() const { return *m_preview; }
    NotesPage& notesPage() { return *m_notes; }
    DeedsPage& deedsPage() { return *m_deeds; }
    enum class Page : std::uint8_t { Plan, Notes, Deeds };
    void showPage(Page page);

private:
    QWidget* head();
    QWidget* planPage();
    QWidget* choicesSide();
    QWidget* consequenceSide();
    void addChoice(WordFlow& flow, const patterns::PlanChoice& choice);
    std::vector<std::string> assignments() const;
    void showWhatMatters();
    void takeChoices();
    void showEvent(QShowEvent* event) override;
    void takePreview();
    void takeDocument();

    Document& m_document;
    const Theme& m_theme;
    PlanPreview* m_preview;
    struct Answer {
        std::string name;
        std::vector<QWidget*> fields, around; ///< around: the words of its clause
        std::function<std::string()> text; ///< what is chosen now
    };
    std::vector<Answer> m_answers;
    QLabel *m_summary = nullptr, *m_motors = nullptr;
    QVBoxLayout* m_lines = nullptr;
    QPushButton* m_build = nullptr;
    PlanDrawing* m_drawing = nullptr;
    NotesPage* m_notes = nullptr;
    DeedsPage* m_deeds = nullptr;
    QStackedWidget* m_pages = nullptr;
    std::array<QPushButton*, 3> m_toPage{};
};

} // namespace ts::app
