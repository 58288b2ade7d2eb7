#pragma once
// The place where the circuit runs: door and plate on the left, current paths and trace in the middle, what is
// selected and the meter on the right.

#include "app/frame/place.h"
#include "app/places/bench/bench_session.h"
#include "app/places/bench/found_marks.h"
#include "core/faults/sweep.h"
#include "core/offers/offer.h"

#include <QLabel>

class QSplitter;
class QStackedWidget;
class QToolButton;

namespace ts::app {

class RunKeeper;
class DoorView;
class PlateView;
class PathsView;
class PageTurner;
class TraceView;
class Inspector;
class MeterPanel;
class EditSheet;
class WireListView;
class BesideView;

class BenchPlace : public Place {
    Q_OBJECT
public:
    BenchPlace(const PlaceParts& parts, QWidget* parent);
    std::vector<ActionSpec> actions() override;
    std::vector<SearchItem> searchItems() override;
    Mark mark() const override;
    QString madeUp() const override { return m_session.faultsSaid(); }
    bool canShow(const Target& target) const override;
    void showTarget(const Target& target) override;
    bool canPlay() const override { return true; }
    void play(const std::vector<Stimulus>& script, TimeNs until) override;
    void putBeside(const Circuit& circuit, const QString& name) override;
    std::vector<PlaceView> views() override;
    std::optional<Drawing> drawingShown() const override { return m_showsPower ? Drawing::Power : Drawing::Control; }

    BenchSession& session() { return m_session; }
    PathsView& paths() { return *m_paths; }
    TraceView& trace() { return *m_trace; }
    MeterPanel& meter() { return *m_meter; }
    EditSheet& sheet() { return *m_sheet; }
    WireListView& wires() { return *m_wires; }
    void showPower(bool power);
    bool showsPower() const { return m_showsPower; }
    void setHabits(const wording::Habits& habits) override;
    /// The wire list in the place of the trace, or back.
    void showWires(bool wires);
    bool showsWires() const;
    /// The drawing takes the room of door, plate and trace, or gives it back.
    void setLarge(bool large);
    bool isLarge() const { return m_isLarge; }
    /// What can be meant with what is selected, and opening one of them.
    const std::vector<offers::Offer>& offers() const;
    void openOffer(const offers::Offer& offer);
    /// Selects and shows where it is, in whichever drawing has it.
    void find(const offers::Picked& target);

protected:
    void resizeEvent(QResizeEvent*) override;
    void showEvent(QShowEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

private:
    QWidget* leftSide();
    QWidget* middle();
    QWidget* rightSide();
    QToolButton* headButton(const QString& name, const QString& text);
    void makeHeadButton(QToolButton& button, const QString& name);
    void takeDocument();
    void showDevices(const Snapshot& dossier);
    void draw();
    void fitDoor();
    void takeSelection();
    void showPreview();
    void pickNet(const TerminalRef& net);
    void openMenu(QPoint global);
    void movePath(int number, int before);
    void goToNextElement();
    offers::Picked target() const { return {m_selection.device(), m_selection.role(), m_selection.wire()}; }
    void describeSelection();
    void takeOutcomes();
    void takeFindings();
    void playTo(const Scenario& scenario, double atS);

    Document& m_document;
    Selection& m_selection;
    StudyBook& m_book;
    const Theme& m_theme;
    BenchSession m_session;
    RunKeeper* m_keeper = nullptr;
    Circuit m_circuit;
    wording::Habits m_habits;
    DoorView* m_door = nullptr;
    PlateView* m_plate = nullptr;
    PathsView* m_paths = nullptr;
    FoundMarks m_found;
    PageTurner* m_pages = nullptr;
    TraceView* m_trace = nullptr;
    Inspector* m_inspector = nullptr;
    MeterPanel* m_meter = nullptr;
    EditSheet* m_sheet = nullptr;
    WireListView* m_wires = nullptr;
    BesideView* m_other = nullptr;
    QWidget *m_left = nullptr, *m_doorFrame = nullptr;
    QSplitter* m_splitter = nullptr;
    QStackedWidget *m_below = nullptr, *m_beside = nullptr;
    QToolButton *m_control = nullptr, *m_power = nullptr, *m_list = nullptr;
    bool m_showsPower = false, m_isLarge = false, m_isAnother = true; ///< another file: nothing goes on running
};

} // namespace ts::app
