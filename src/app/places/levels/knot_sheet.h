#pragma once
// What stands at one knot of the path in numbers: of the part, its channel and the subsystems that name it; of the
// whole function where no knot is chosen. Every number can be asked where it comes from.

#include "app/places/levels/value_button.h"
#include "core/safety/level.h"
#include "core/ways/function_path.h"

#include <QScrollArea>

#include <vector>

namespace ts::app {

/// Pure: the subsystems with their numbers, and what is missing.
std::vector<ValueRow> functionRows(const safety::FunctionLevel& level);
/// Pure: all numbers that stand at the knot.
std::vector<ValueRow> knotRows(const safety::FunctionLevel& level, const PathKnot& knot);

class KnotSheet : public QScrollArea {
    Q_OBJECT
public:
    KnotSheet(const Theme& theme, QWidget* parent);
    void show(const QString& title, std::vector<ValueRow> rows);
    void setAsked(int value);

signals:
    void asked(int value);

private:
    void rebuild();
    const Theme& m_theme;
    QString m_title;
    std::vector<ValueRow> m_rows;
    std::vector<ValueButton*> m_buttons;
    int m_asked = -1;
};

} // namespace ts::app
