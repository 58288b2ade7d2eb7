#pragma once
// Qt's own style, but for the boxes of choices: theirs are darker than what they stand on, and are not seen on the dark
// ground.

#include <QProxyStyle>

namespace ts::app {

class PlainStyle : public QProxyStyle {
public:
    PlainStyle();
    void drawPrimitive(
        PrimitiveElement element, const QStyleOption* option, QPainter* painter, const QWidget* widget) const override;
};

} // namespace ts::app
