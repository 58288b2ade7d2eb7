#pragma once
// How the supply stands, as a strip with words: an outline where it is dead, hatched where it is live.

#include "app/widgets/theme.h"

#include <QLabel>

namespace ts::app {

class SupplyStrip : public QLabel {
public:
    SupplyStrip(const QString& name, const Theme& theme, QWidget* parent);
    void show(const QString& words, bool isLive);

protected:
    void paintEvent(QPaintEvent*) override;

private:
    const Theme& m_theme;
    bool m_isLive = false;
};

} // namespace ts::app
