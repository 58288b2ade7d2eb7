#pragma once
// Text that is read, not operated: a label that wraps and shows what it is given as it is, and one with a mark before
// it.

#include "app/widgets/marks.h"

#include <QLabel>
#include <QWidget>

namespace ts::app {

/// No markup, whatever the text contains.
QLabel* plainLabel(const QString& text, const QFont& font, QWidget* parent);

/// A sentence with the mark that says how it stands with it.
class MarkedLine : public QWidget {
public:
    MarkedLine(Mark mark, const QString& text, const Theme& theme, QWidget* parent);

protected:
    void paintEvent(QPaintEvent*) override;

private:
    Mark m_mark;
    const Theme& m_theme;
};

} // namespace ts::app
