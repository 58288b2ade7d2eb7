#pragma once
// The level desk: verdict and scale on top, the calculation as a sheet, how often things work below, and for every
// number where it comes from.

#include "app/document/analyst.h"
#include "app/document/document.h"
#include "app/widgets/theme.h"

#include <QWidget>

class QComboBox;
class QLabel;

namespace ts::app {

class LevelScale;
class LevelSheet;
class SourcePanel;
class SwitchingStrip;

class LevelsPlace : public QWidget {
    Q_OBJECT
public:
    LevelsPlace(Document& document, Analyst& analyst, const Theme& theme, QWidget* parent);
    const safety::FunctionLevel& level() const { return m_level; }
    void ask(int value);

private:
    QWidget* head();
    void takeDocument();
    void takeFunction();
    void takeStop();
    QString verdict() const;

    Document& m_document;
    Analyst& m_analyst;
    const Theme& m_theme;
    FunctionId m_function;
    safety::FunctionLevel m_level;
    int m_asked = -1;
    QComboBox* m_functions = nullptr;
    QLabel *m_verdict = nullptr, *m_stop = nullptr;
    LevelScale* m_scale = nullptr;
    LevelSheet* m_sheet = nullptr;
    SwitchingStrip* m_switching = nullptr;
    SourcePanel* m_source = nullptr;
};

} // namespace ts::app
