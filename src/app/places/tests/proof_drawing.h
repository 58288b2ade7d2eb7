#pragma once
// The circuit with what is proved by now gone over with a highlighter, as people do on paper: a band along each
// conductor whose wires are all proved, broken where they are in part, a tick at each element. The probes of the step
// in hand stand at their terminals.

#include "app/widgets/theme.h"
#include "core/diagram/control_layout.h"
#include "core/measuring/readings.h"
#include "core/model/circuit.h"

#include <QWidget>

#include <map>
#include <set>

namespace ts::app {

class ProofDrawing : public QWidget {
    Q_OBJECT
public:
    ProofDrawing(const Theme& theme, QWidget* parent);
    void setCircuit(const Circuit& circuit);
    void setProof(const measuring::Proof& proof);
    /// "Q1:13", "P6:X1 or P6:X2": the page that shows most of them is turned up.
    void setProbes(const std::vector<std::string>& terminals);
    const diagram::Scene& scene() const; ///< the page that is turned up
    bool isProved(const diagram::Symbol& symbol) const;
    enum class Share : std::uint8_t { None, Some, All };
    Share provedOf(const diagram::Conductor& conductor) const;
    int probesShown() const { return probesOn(scene()); } ///< of the step in hand, on the page that is turned up

protected:
    void paintEvent(QPaintEvent*) override;
    void resizeEvent(QResizeEvent*) override;

private:
    void layOut();
    void turnUp();
    int probesOn(const diagram::Scene& scene) const;
    void paintBands(QPainter& p) const;
    void paintProbes(QPainter& p) const;

    const Theme& m_theme;
    Circuit m_circuit;
    std::map<TerminalRef, int> m_netOf;
    std::map<int, std::vector<int>> m_wiresOf; ///< by net
    std::set<std::string> m_proved, m_begun; ///< "wire/12", "Q1/13-14", "Q1"
    std::vector<std::set<TerminalRef>> m_probes; ///< by probe
    std::set<std::string> m_devices; ///< tags that are watched
    std::vector<diagram::Scene> m_pages; ///< of this circuit in this size
    std::size_t m_page = 0;
};

} // namespace ts::app
