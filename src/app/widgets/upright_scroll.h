#pragma once
// What is too high for its place is scrolled, never sideways; the keyboard goes to what is in it.

#include <QScrollArea>

namespace ts::app {

class UprightScroll : public QScrollArea {
public:
    explicit UprightScroll(QWidget* parent)
        : QScrollArea(parent)
    {
        setWidgetResizable(true);
        setFrameShape(QFrame::NoFrame);
        setFocusPolicy(Qt::NoFocus);
        setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    }
};

} // namespace ts::app
