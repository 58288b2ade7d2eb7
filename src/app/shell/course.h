#pragma once
// The course: the places in the order of the job, in groups, each a word with a mark for its state.

#include "app/widgets/marks.h"

#include <QAbstractButton>
#include <QWidget>

class QHBoxLayout;

namespace ts::app {

class CourseButton : public QAbstractButton {
    Q_OBJECT
public:
    CourseButton(const QString& id, const QString& text, const Theme& theme, QWidget* parent);
    void setMark(Mark mark);
    Mark mark() const { return m_mark; }
    QSize sizeHint() const override;
    QSize minimumSizeHint() const override;

protected:
    void paintEvent(QPaintEvent*) override;

private:
    const Theme& m_theme;
    Mark m_mark = Mark::Untouched;
};

class Course : public QWidget {
    Q_OBJECT
public:
    Course(const Theme& theme, QWidget* parent);
    CourseButton* add(const QString& id, const QString& text, const QString& group = {});
    void setCurrent(int index);
    CourseButton* button(int index) const { return m_buttons[index]; }

signals:
    void chosen(int index);

protected:
    void paintEvent(QPaintEvent*) override; ///< the groups above their places

private:
    const Theme& m_theme;
    QHBoxLayout* m_row;
    QList<CourseButton*> m_buttons;
    QStringList m_groups; ///< of each button
};

} // namespace ts::app
