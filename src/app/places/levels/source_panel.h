#pragma once
// "Where from?": one value with its formula, its inputs and its source. Inputs can be asked in turn.

#include "app/widgets/theme.h"
#include "core/safety/level.h"

#include <QScrollArea>

namespace ts::app {

class SourcePanel : public QScrollArea {
    Q_OBJECT
public:
    SourcePanel(const Theme& theme, QWidget* parent);
    /// -1: nothing asked yet.
    void show(const safety::FunctionLevel& level, int value);

signals:
    void asked(int value);

private:
    const Theme& m_theme;
};

} // namespace ts::app
