#pragma once
// Three scenes of one fault side by side: what is in and what is out, and where that differs from the healthy circuit.

#include "app/widgets/theme.h"
#include "core/faults/story.h"

#include <QWidget>

namespace ts::app {

class SceneStrip : public QWidget {
    Q_OBJECT
public:
    SceneStrip(const Theme& theme, QWidget* parent);
    /// Null story: nothing to show.
    void show(std::shared_ptr<const faults::Story> story, std::shared_ptr<const Plant> plant);
    QSize sizeHint() const override;

protected:
    void paintEvent(QPaintEvent*) override;

private:
    const Theme& m_theme;
    std::shared_ptr<const faults::Story> m_story;
    std::shared_ptr<const Plant> m_plant;
};

} // namespace ts::app
