#pragma once
// The control or the power circuit as it grows: with each word of a plan, with each line of notes. What came last is
// marked, and of a drawing too large for its place the page with it is shown.

#include "app/widgets/theme.h"
#include "core/diagram/control_layout.h"
#include "core/model/circuit.h"

#include <QWidget>

#include <set>

namespace ts::app {

class PlanDrawing : public QWidget {
    Q_OBJECT
public:
    enum class Which : std::uint8_t { Control, Power };
    PlanDrawing(const Theme& theme, Which which, const QString& name, const QString& accessible, QWidget* parent);
    /// `isNew`: devices and terminals that came last.
    void show(const Circuit& circuit, std::set<DeviceId> newDevices = {}, std::set<TerminalRef> newTerminals = {});
    const diagram::Scene& scene() const { return m_scene; }
    bool isNew(const diagram::Symbol& symbol) const;

protected:
    void paintEvent(QPaintEvent*) override;

private:
    const Theme& m_theme;
    Which m_which;
    diagram::Scene m_scene; ///< the page that is shown
    std::set<DeviceId> m_newDevices;
    std::set<TerminalRef> m_newTerminals;
};

} // namespace ts::app
