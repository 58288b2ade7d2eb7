#pragma once
// The control circuit of the starter that is being chosen, as it grows with each word.

#include "app/widgets/theme.h"
#include "core/diagram/scene.h"
#include "core/model/circuit.h"

#include <QWidget>

namespace ts::app {

class PlanDrawing : public QWidget {
    Q_OBJECT
public:
    PlanDrawing(const Theme& theme, QWidget* parent);
    void show(const Circuit& circuit);
    const diagram::Scene& scene() const { return m_scene; }

protected:
    void paintEvent(QPaintEvent*) override;

private:
    const Theme& m_theme;
    diagram::Scene m_scene;
};

} // namespace ts::app
