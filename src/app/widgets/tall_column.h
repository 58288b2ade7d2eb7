#pragma once
// What stands in a scroll area and wraps: it asks for the height that its layout needs at its width. A scroll area by
// itself asks for none that depends on a width, and wrapped texts would be cut.

#include <QEvent>
#include <QLayout>
#include <QWidget>

namespace ts::app {

class TallColumn : public QWidget {
public:
    using QWidget::QWidget;

protected:
    bool event(QEvent* e) override
    {
        const bool done = QWidget::event(e);
        if ((e->type() == QEvent::LayoutRequest || e->type() == QEvent::Resize) && layout()
            && layout()->hasHeightForWidth())
            setMinimumHeight(layout()->totalHeightForWidth(width()));
        return done;
    }
};

} // namespace ts::app
