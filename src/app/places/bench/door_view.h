#pragma once
// The cabinet door: what a hand can press and an eye can see, as in front of the machine. Every button is a real
// button with a name, so that keyboard and screen readers reach it.

#include "app/places/bench/bench_session.h"
#include "app/widgets/theme.h"
#include "core/model/circuit.h"

#include <QAbstractButton>
#include <QWidget>

#include <map>

namespace ts::app {

/// A push button or emergency stop. Pressed by mouse or space bar; Shift+click holds a button down until the next
/// click; a click on a latched device unlatches it.
class DoorButton : public QAbstractButton {
    Q_OBJECT
public:
    struct Look {
        QString tag, label, colour;
        bool latches = false;
        int mover = 0;
    };
    DoorButton(Look look, BenchSession& session, const Theme& theme, QWidget* parent);
    QSize sizeHint() const override;

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    void keyReleaseEvent(QKeyEvent*) override;

private:
    void pressDown();
    void letGo();
    bool isActuated() const;
    void paintPush(QPainter&, const QRectF&) const;
    void paintEmergency(QPainter&, const QRectF&) const;

    Look m_look;
    BenchSession& m_session;
    const Theme& m_theme;
    bool m_isHeld = false, m_keep = false, m_wasActuated = false;
};

class DoorLamp : public QWidget {
    Q_OBJECT
public:
    DoorLamp(QString tag, QString label, QString colour, int lamp, BenchSession& session, const Theme& theme,
        QWidget* parent);
    bool isLit() const;
    QSize sizeHint() const override { return {104, 30}; }
    QSize minimumSizeHint() const override { return sizeHint(); } ///< words need it: a small door scrolls

protected:
    void paintEvent(QPaintEvent*) override;

private:
    QString m_tag, m_label, m_colour;
    int m_lamp;
    BenchSession& m_session;
    const Theme& m_theme;
    bool m_wasLit = false;
};

class DoorView : public QWidget {
    Q_OBJECT
public:
    DoorView(BenchSession& session, const Theme& theme, QWidget* parent);
    /// Takes everything that stands on the door, by the look of its kind. Lamps that are named have that colour instead
    /// of their own.
    void setCircuit(const Circuit& circuit, const std::map<DeviceId, QString>& lampColours);

protected:
    void paintEvent(QPaintEvent*) override;

private:
    void addButton(const Circuit& circuit, const Device& device, const PlantDevice& plant);
    void addLamp(const Device& device, int lamp, const QString& colour);
    void arrange();

    BenchSession& m_session;
    const Theme& m_theme;
    QList<QWidget*> m_pushes, m_stops, m_lamps;
};

} // namespace ts::app
