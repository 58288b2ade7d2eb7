#pragma once
// The drawing under voltage: control circuit or power circuit, live conductors thick. Click a symbol or a conductor to
// select it, a terminal to measure there. Zoom with the wheel or + - 0 (whole page) 1 (full size), pan by dragging or
// the arrow keys, Page Up and Page Down turn the pages. A path is moved by dragging its number.

#include "app/places/bench/bench_session.h"
#include "app/places/bench/found_marks.h"
#include "app/places/bench/scene_binding.h"
#include "app/widgets/theme.h"
#include "core/diagram/pages.h"

#include <QWidget>

class QHelpEvent;

#include <optional>
#include <set>

namespace ts::app {

class PathsView : public QWidget {
    Q_OBJECT
public:
    PathsView(BenchSession& session, const Theme& theme, QWidget* parent);

    /// Another drawing, at least one page of it. The page in view stays, and what was zoomed by hand. The last one may
    /// show again what the others do.
    void setPages(std::vector<diagram::Page> pages);
    /// Clamped to those that are there; fitted if it is another one.
    void showPage(int page);
    /// The page that is shown, with the run as it is now.
    void takeRun();
    int page() const { return m_page; }
    int pageCount() const { return static_cast<int>(m_pages.size()); }
    /// As much as this view shows so large that the smallest text can be read.
    diagram::Sheet legibleSheet() const;
    /// The drawing of a change that is not made: what is new is marked. Empty: it is the circuit as it is.
    void setPreview(std::set<std::pair<DeviceId, std::string>> isNew, bool isPreview);
    const diagram::Scene& scene() const { return shown().scene; }
    /// What keeps the selected thing off, numbered along its way.
    void setGaps(std::vector<std::pair<DeviceId, std::string>> gaps);
    /// What the checks found, beside the things it is about; not on the drawing of a change.
    void setFound(const FoundMarks& found);
    const FoundMarks& found() const { return m_found; }
    void setSelected(DeviceId device, const std::string& role);
    void setSelectedWire(std::optional<std::pair<TerminalRef, TerminalRef>> ends);
    /// Turns to its page and brings a symbol into the middle, large enough to read. False if it is not in this drawing.
    bool reveal(DeviceId device, const std::string& role);
    void setProbes(std::optional<TerminalRef> red, std::optional<TerminalRef> black);
    void fit();
    /// Where a scene point is on the widget; for tests.
    QPointF onWidget(diagram::Point p) const { return m_shift + QPointF(p.x, p.y) * m_zoom; }
    QSize sizeHint() const override { return {700, 500}; }

signals:
    void pageChanged();
    void resized(); ///< other pages may fit
    void symbolPicked(ts::DeviceId device, const std::string& role);
    void conductorPicked(const ts::TerminalRef& net);
    void menuWanted(QPoint global);
    /// The path with this number is to stand before that one; one more than the last: at the end.
    void pathDropped(int number, int before);
    void terminalPicked(const ts::TerminalRef& terminal);

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void wheelEvent(QWheelEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    void resizeEvent(QResizeEvent*) override;
    void contextMenuEvent(QContextMenuEvent*) override;
    bool event(QEvent*) override;

private:
    const diagram::Page& shown() const;
    int pageOf(DeviceId device, const std::string& role) const; ///< -1: on none; the one in view first
    diagram::Point inScene(QPointF p) const;
    void zoomAt(QPointF centre, double factor);
    void pickAt(QPointF p);
    static QRectF numberBox(const diagram::DrawnPath& path);
    int pathNumberAt(diagram::Point p) const; ///< 0: none
    int pathGapAt(diagram::Point p) const; ///< number of the path before which it lies
    void paintWire(QPainter&) const;
    void paintDrag(QPainter&) const;
    void paintGaps(QPainter&) const;
    void showTerminal(QHelpEvent& help);
    void stepSelection(int by);
    void moveSelectedPath(int by);
    void paintProbe(QPainter&, const TerminalRef&, const QString& letter, const QColor& fill, const QColor& text) const;

    BenchSession& m_session;
    const Theme& m_theme;
    std::vector<diagram::Page> m_pages;
    int m_page = 0;
    SceneBinding m_binding;
    DeviceId m_device;
    std::string m_role;
    std::set<std::pair<DeviceId, std::string>> m_isNew;
    std::vector<std::pair<DeviceId, std::string>> m_gaps;
    FoundMarks m_found;
    bool m_isPreview = false;
    int m_draggedPath = 0, m_dropBefore = 0;
    std::optional<std::pair<TerminalRef, TerminalRef>> m_wire;
    std::optional<TerminalRef> m_red, m_black;
    double m_zoom = 1.0;
    QPointF m_shift;
    QPointF m_pressedAt, m_lastAt;
    bool m_dragging = false, m_isFitted = true;
};

} // namespace ts::app
