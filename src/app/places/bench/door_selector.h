#pragma once
// A selector switch on the door: a click left or right of its middle, or the arrow keys, turn it one position on.
// One with spring return goes back when it is let go.

#include "app/places/bench/bench_session.h"
#include "app/widgets/theme.h"

#include <QAbstractButton>

namespace ts::app {

class DoorSelector : public QAbstractButton {
    Q_OBJECT
public:
    DoorSelector(int device, QString label, BenchSession& session, const Theme& theme, QWidget* parent);
    QSize sizeHint() const override { return {88, 96}; }

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    void keyReleaseEvent(QKeyEvent*) override;

private:
    int position() const; ///< index into m_positions; -1 on the way
    void turn(int by);
    void letGo();
    void say();

    struct Position {
        QString name;
        std::string action;
        int travel = 0;
    };
    QString m_tag, m_label;
    std::vector<Position> m_positions;
    int m_mover = 0;
    BenchSession& m_session;
    const Theme& m_theme;
    int m_shown = -2;
};

} // namespace ts::app
