#pragma once
// How far the running circuit is, how fast it goes, and stepping through its events.

#include "app/places/bench/bench_session.h"
#include "app/widgets/theme.h"

#include <QWidget>

class QComboBox;
class QHBoxLayout;
class QLabel;
class QToolButton;

namespace ts::app {

class RunBar : public QWidget {
    Q_OBJECT
public:
    RunBar(BenchSession& session, const Theme& theme, QWidget* parent);

private:
    QToolButton* addButton(const char* name, const QString& text, const QString& help);
    void addPace();
    void refresh();

    BenchSession& m_session;
    const Theme& m_theme;
    QHBoxLayout* m_row;
    QLabel* m_time;
    QToolButton* m_pause = nullptr;
    QComboBox* m_pace = nullptr;
};

} // namespace ts::app
