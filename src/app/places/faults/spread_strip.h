#pragma once
// One line of time for each motor: when power went and when it stood still, in every case, on a logarithmic scale.

#include "app/widgets/theme.h"
#include "core/analysis/stop_study.h"

#include <QWidget>

#include <memory>

namespace ts::app {

class SpreadStrip : public QWidget {
    Q_OBJECT
public:
    SpreadStrip(const Theme& theme, QWidget* parent);
    /// Null: nothing is shown, and no room is taken. Allowed time 0: no mark for it.
    void show(std::shared_ptr<const StopStudy> study, double allowedS);

protected:
    void paintEvent(QPaintEvent*) override;

private:
    double xOf(double timeS) const;
    void paintActuator(QPainter& p, const ActuatorStudy& actuator, double top) const;

    const Theme& m_theme;
    std::shared_ptr<const StopStudy> m_study;
    double m_allowedS = 0, m_fromS = 0.01, m_toS = 100;
};

} // namespace ts::app
