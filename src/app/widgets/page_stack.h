#pragma once
// Pages of which one is shown.

#include <QStackedWidget>

namespace ts::app {

/// Its height does not follow its width: a page has the room that there is. Else each text that changes anywhere would
/// have the height of every wrapped text of every page worked out, which takes longer than a key may.
class PageStack : public QStackedWidget {
public:
    using QStackedWidget::QStackedWidget;
    bool hasHeightForWidth() const override { return false; }
};

} // namespace ts::app
