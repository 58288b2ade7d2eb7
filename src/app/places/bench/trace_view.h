#pragma once
// The trace as strips over time, and under them why the newest or chosen event happened.

#include "app/places/bench/bench_session.h"
#include "app/widgets/theme.h"

#include <QWidget>

namespace ts::app {

/// Event, its cause, the cause of that ... in words, back to an action or a fault.
QStringList causeChain(const Plant& plant, const Trace& trace, int event);

class TraceView : public QWidget {
    Q_OBJECT
public:
    TraceView(BenchSession& session, const Theme& theme, QWidget* parent);
    /// What the line under the strips says.
    QString reason() const;
    QSize sizeHint() const override { return {700, 220}; }

signals:
    void devicePicked(int plantDevice);

protected:
    void paintEvent(QPaintEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void leaveEvent(QEvent*) override;
    void wheelEvent(QWheelEvent*) override;

private:
    struct Row {
        QString name;
        int device = 0, mover = -1, relay = -1, motor = -1;
        std::vector<std::pair<TimeNs, bool>> changes;
    };
    void findRows();
    void readTrace();
    int newestReason() const;
    double xOf(TimeNs t) const;
    TimeNs left() const;
    int eventNear(QPointF p) const;
    void paintRow(QPainter&, const Row&, double y) const;
    void paintSpeed(QPainter&, const Row&, double y) const;
    void paintAxis(QPainter&) const;
    double rowHeight() const;
    /// All rows if they are legible; else the motors and those that changed last. The others are named in a line.
    std::vector<const Row*> shownRows() const;
    QString folded() const;

    BenchSession& m_session;
    const Theme& m_theme;
    std::vector<Row> m_rows;
    std::size_t m_read = 0;
    int m_chosen = -1;
    double m_spanS = 10.0;
};

} // namespace ts::app
