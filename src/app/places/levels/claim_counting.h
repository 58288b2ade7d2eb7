#pragma once
// How often things work, counted: how many times in a working hour each scenario happens, what each part of the claim
// then does in a year, and what is claimed for it.

#include "app/document/document.h"
#include "app/document/study_book.h"
#include "app/widgets/theme.h"
#include "core/analysis/analysis.h"
#include "core/safety/level.h"

#include <QWidget>

class QDoubleSpinBox;
class QGridLayout;
class QLabel;
class QPushButton;

namespace ts::app {

class ClaimCounting : public QWidget {
    Q_OBJECT
public:
    ClaimCounting(Document& document, const StudyBook& book, const Theme& theme, QWidget* parent);
    void show(const SafetyFunction& function, const safety::FunctionLevel& level);

private:
    void rebuild();
    void takeResults();
    void takeCounted();
    std::vector<SwitchingDuty> counted() const; ///< of this snapshot, else empty

    Document& m_document;
    const StudyBook& m_book;
    const Theme& m_theme;
    FunctionId m_function;
    safety::FunctionLevel m_level;
    std::vector<ScenarioId> m_shown;
    std::vector<QDoubleSpinBox*> m_times;
    QGridLayout* m_grid = nullptr;
    QLabel* m_table = nullptr;
    QPushButton* m_take = nullptr;
};

} // namespace ts::app
