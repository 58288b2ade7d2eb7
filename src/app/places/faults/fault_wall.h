#pragma once
// The wall of faults: every device with its faults down, the moments across, a mark for what came of each. A thousand
// cells, painted; one row and one moment selected, by mouse and by arrow keys.

#include "app/widgets/theme.h"
#include "core/faults/sweep.h"

#include <QWidget>

#include <vector>

namespace ts::app {

struct WallRow {
    int place = 0; ///< in the sweep
    QString text;
    bool isExcluded = false;
};
struct WallGroup {
    QString title, subtitle;
    std::vector<WallRow> rows;
};

enum class WallFilter { Counting, Lost, Hidden, Caught, Safe, Excluded, All };
enum class WallOrder { ByDevice, WorstFirst };

/// Pure: the sweep as groups, without empty ones.
std::vector<WallGroup> wallGroups(
    const faults::Sweep& sweep, const Circuit& circuit, WallFilter filter, WallOrder order);

class FaultWall : public QWidget {
    Q_OBJECT
public:
    FaultWall(const Theme& theme, QWidget* parent);
    /// Keeps the selection if its fault is still shown.
    void show(std::shared_ptr<const faults::Sweep> sweep, std::vector<WallGroup> groups);
    void select(int place, faults::Moment moment);
    int selected() const { return m_place; }
    faults::Moment moment() const { return m_moment; }
    /// Where a cell is painted, for tests; null if it is not shown.
    QRect cellRect(int place, faults::Moment moment) const;

signals:
    void selectionChanged();
    void opened(); ///< Enter: show it on the Bench

protected:
    void paintEvent(QPaintEvent*) override;
    void resizeEvent(QResizeEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

private:
    struct Line {
        QRect box;
        int group = 0, row = -1; ///< row -1: the group's heading
    };
    void layOut();
    void paintRow(QPainter&, const Line&) const;
    const WallRow& rowOf(const Line& line) const
    {
        return m_groups[static_cast<std::size_t>(line.group)].rows[static_cast<std::size_t>(line.row)];
    }
    const Line* selectedLine() const;
    void step(int rows);

    const Theme& m_theme;
    std::shared_ptr<const faults::Sweep> m_sweep;
    std::vector<WallGroup> m_groups;
    std::vector<Line> m_lines;
    int m_place = -1;
    faults::Moment m_moment = faults::Moment::JustBefore;
};

} // namespace ts::app
