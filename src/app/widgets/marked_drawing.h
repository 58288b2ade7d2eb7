#pragma once
// The circuit with some of it gone over with a highlighter, as people do on paper: a band along each conductor whose
// wires are all marked, broken where they are in part, a sign at each element. Probes stand at their terminals.

#include "app/widgets/theme.h"
#include "core/diagram/control_layout.h"
#include "core/model/circuit.h"

#include <QWidget>

#include <map>
#include <set>

namespace ts::app {

class MarkedDrawing : public QWidget {
    Q_OBJECT
public:
    enum class Sign : std::uint8_t { Proved, Suspected };
    MarkedDrawing(Sign sign, const QString& name, const QString& accessible, const Theme& theme, QWidget* parent);
    void setCircuit(const Circuit& circuit);
    /// "wire/12", "Q1/13-14", "Q1": wholly, and in part.
    void setMarked(const std::vector<std::string>& whole, const std::vector<std::string>& part);
    /// By probe "Q1:13", or several of which one counts; tags of devices that are watched. The page that shows most of
    /// them is turned up.
    void setProbes(const std::vector<std::vector<std::string>>& probes);
    const diagram::Scene& scene() const; ///< the page that is turned up
    bool isMarked(const diagram::Symbol& symbol) const;
    enum class Share : std::uint8_t { None, Some, All };
    Share markedOf(const diagram::Conductor& conductor) const;
    int probesShown() const { return probesOn(scene()); } ///< on the page that is turned up

signals:
    void terminalChosen(const QString& terminal); ///< "Q1:13": pressed in the drawing

protected:
    void mousePressEvent(QMouseEvent*) override;
    void paintEvent(QPaintEvent*) override;
    void resizeEvent(QResizeEvent*) override;

private:
    double zoom() const;
    void layOut();
    void turnUp();
    int probesOn(const diagram::Scene& scene) const;
    void paintBands(QPainter& p) const;
    void paintProbes(QPainter& p) const;

    void paintSign(QPainter& p, QPointF at) const;

    Sign m_sign;
    const Theme& m_theme;
    Circuit m_circuit;
    std::map<TerminalRef, int> m_netOf;
    std::map<int, std::vector<int>> m_wiresOf; ///< by net
    std::set<std::string> m_whole, m_part;
    std::vector<std::set<TerminalRef>> m_probes; ///< by probe
    std::set<std::string> m_devices; ///< tags that are watched
    std::vector<diagram::Scene> m_pages; ///< of this circuit in this size
    std::size_t m_page = 0;
};

} // namespace ts::app
