#pragma once
// What demands a function and what comes to rest: name, trigger, motors, time, stop category, reset and restart.

#include "app/document/document.h"
#include "app/widgets/theme.h"

#include <QWidget>

class QCheckBox;
class QComboBox;
class QDoubleSpinBox;
class QHBoxLayout;
class QLabel;
class QLineEdit;
class QSpinBox;

namespace ts::app {

class DemandForm : public QWidget {
    Q_OBJECT
public:
    DemandForm(Document& document, const Theme& theme, QWidget* parent);
    void show(const SafetyFunction& function);
    /// What each stop category would mean here.
    void setConsequences(const QStringList& lines);

private:
    void takeTriggers(const SafetyFunction& function);
    void takeOthers(const SafetyFunction& function);
    void takeMotors(const SafetyFunction& function);
    void change(const QString& label, const std::function<void(SafetyFunction&)>& change);

    Document& m_document;
    FunctionId m_function;
    std::vector<Trigger> m_triggers;
    QLineEdit *m_name = nullptr, *m_resetRule = nullptr;
    QComboBox *m_trigger = nullptr, *m_category = nullptr, *m_resetBy = nullptr, *m_restart = nullptr,
              *m_scenario = nullptr;
    QDoubleSpinBox* m_allowed = nullptr;
    QCheckBox* m_emergency = nullptr;
    QHBoxLayout *m_motorLine = nullptr, *m_otherLine = nullptr;
    std::vector<QCheckBox*> m_motors, m_others;
    QSpinBox* m_testDays = nullptr;
    QLineEdit* m_testedOn = nullptr;
    QLabel* m_consequences = nullptr;
};

} // namespace ts::app
