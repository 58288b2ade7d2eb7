#pragma once
// The drawing under voltage: control circuit or power circuit, live conductors thick. Click a symbol to select it,
// a terminal to measure there. Zoom with the wheel or + - 0, pan by dragging or the arrow keys.

#include "app/places/bench/bench_session.h"
#include "app/places/bench/scene_binding.h"
#include "app/widgets/theme.h"

#include <QWidget>

#include <optional>

namespace ts::app {

class PathsView : public QWidget {
    Q_OBJECT
public:
    PathsView(BenchSession& session, const Theme& theme, QWidget* parent);

    void setScene(diagram::Scene scene);
    const diagram::Scene& scene() const { return m_scene; }
    void setSelected(DeviceId device, const std::string& role);
    void setProbes(std::optional<TerminalRef> red, std::optional<TerminalRef> black);
    void fit();
    /// Where a scene point is on the widget; for tests.
    QPointF onWidget(diagram::Point p) const { return m_shift + QPointF(p.x, p.y) * m_zoom; }
    QSize sizeHint() const override { return {700, 500}; }

signals:
    void symbolPicked(ts::DeviceId device, const std::string& role);
    void terminalPicked(const ts::TerminalRef& terminal);

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void wheelEvent(QWheelEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    void resizeEvent(QResizeEvent*) override;
    bool event(QEvent*) override;

private:
    diagram::Point inScene(QPointF p) const;
    void zoomAt(QPointF centre, double factor);
    void pickAt(QPointF p);
    void stepSelection(int by);
    void paintProbe(QPainter&, const TerminalRef&, const QString& letter, const QColor& fill, const QColor& text) const;

    BenchSession& m_session;
    const Theme& m_theme;
    diagram::Scene m_scene;
    SceneBinding m_binding;
    DeviceId m_device;
    std::string m_role;
    std::optional<TerminalRef> m_red, m_black;
    double m_zoom = 1.0;
    QPointF m_shift;
    QPointF m_pressedAt, m_lastAt;
    bool m_dragging = false, m_isFitted = true;
};

} // namespace ts::app
