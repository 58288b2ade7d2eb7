#include "app/widgets/plain_text.h"

#include <QVBoxLayout>

namespace ts::app {

QLabel* plainLabel(const QString& text, const QFont& font, QWidget* parent)
{
    auto* label = new QLabel(text, parent);
    label->setTextFormat(Qt::PlainText);
    label->setWordWrap(true);
    label->setFont(font);
    return label;
}

MarkedLine::MarkedLine(Mark mark, const QString& text, const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_mark(mark)
    , m_theme(theme)
{
    auto* row = new QVBoxLayout(this);
    row->setContentsMargins(20, 2, 0, 2);
    row->addWidget(plainLabel(text, theme.body(), this));
    setAccessibleName(markWord(mark) + ": " + text);
}

void MarkedLine::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    paintMark(p, QRectF(2, 6, 10, 10), m_mark, m_theme.colours());
}

} // namespace ts::app
