#pragma once
// What is selected on the Bench: its state, what can be done to it by hand, and every fault that can be put on it.

#include "app/places/bench/bench_session.h"
#include "app/widgets/theme.h"
#include "core/model/circuit.h"

#include <QCheckBox>
#include <QScrollArea>

class QLabel;
class QVBoxLayout;

namespace ts::app {

class Inspector : public QScrollArea {
    Q_OBJECT
public:
    Inspector(BenchSession& session, const Theme& theme, QWidget* parent);
    void setCircuit(const Circuit& circuit);
    void show(DeviceId device, const std::string& role);

private:
    void rebuild();
    void addNothing();
    void addDevice(int device);
    void addActions(int device);
    void addKnobs(int device);
    void addFaults(int device);
    void addFault(const FaultSite& site, const QString& text);
    QLabel* addHeading(const QString& text);
    void refresh();

    BenchSession& m_session;
    const Theme& m_theme;
    Circuit m_circuit;
    DeviceId m_device;
    std::string m_role;
    QVBoxLayout* m_list = nullptr;
    QLabel* m_state = nullptr;
    std::vector<std::pair<Fault, QCheckBox*>> m_faults;
    std::vector<std::pair<int, QCheckBox*>> m_knobs;
};

} // namespace ts::app
