#pragma once
// The place where the circuit runs: door and plate on the left, current paths and trace in the middle, what is
// selected and the meter on the right.

#include "app/document/document.h"
#include "app/document/selection.h"
#include "app/places/bench/bench_session.h"
#include "app/widgets/theme.h"

#include <QLabel>
#include <QWidget>

class QToolButton;

namespace ts::app {

class DoorView;
class PlateView;
class PathsView;
class TraceView;
class Inspector;
class MeterPanel;

class BenchPlace : public QWidget {
    Q_OBJECT
public:
    BenchPlace(Document& document, Selection& selection, const Theme& theme, QWidget* parent);

    BenchSession& session() { return m_session; }
    PathsView& paths() { return *m_paths; }
    TraceView& trace() { return *m_trace; }
    MeterPanel& meter() { return *m_meter; }
    void showPower(bool power);
    bool showsPower() const { return m_showsPower; }

private:
    QWidget* leftSide();
    QWidget* middle();
    QWidget* rightSide();
    QToolButton* headButton(const QString& name, const QString& text);
    void takeDocument();
    void showCircuit(const Circuit& circuit);
    void updateHead();
    void describeSelection();

    Document& m_document;
    Selection& m_selection;
    const Theme& m_theme;
    BenchSession m_session;
    Circuit m_circuit;
    DoorView* m_door = nullptr;
    PlateView* m_plate = nullptr;
    PathsView* m_paths = nullptr;
    TraceView* m_trace = nullptr;
    Inspector* m_inspector = nullptr;
    MeterPanel* m_meter = nullptr;
    QToolButton *m_control = nullptr, *m_power = nullptr, *m_pause = nullptr;
    QLabel* m_time = nullptr;
    bool m_showsPower = false;
};

} // namespace ts::app
