#pragma once
// How fast and how far: the response time in its parts, stopping times that were measured, and the distance that
// follows.

#include "app/document/document.h"
#include "app/widgets/theme.h"
#include "core/analysis/response.h"

#include <QWidget>

class QDoubleSpinBox;
class QLabel;
class QLineEdit;

namespace ts::app {

class TimingForm : public QWidget {
    Q_OBJECT
public:
    TimingForm(Document& document, const Theme& theme, QWidget* parent);
    void show(const SafetyFunction& function);
    void setBudget(const SafetyFunction& function, const std::optional<ResponseBudget>& budget);

private:
    void change(const QString& label, const std::function<void(Approach&)>& change);
    void takeMeasured();

    Document& m_document;
    FunctionId m_function;
    QDoubleSpinBox *m_sensor = nullptr, *m_distance = nullptr, *m_intrusion = nullptr;
    QLineEdit *m_measured = nullptr, *m_on = nullptr, *m_again = nullptr;
    QLabel *m_lines = nullptr, *m_trouble = nullptr;
    QWidget* m_far = nullptr;
};

} // namespace ts::app
