#pragma once
// How much is needed: whether a person relies on it, the three risk questions in plain words, and the level that
// follows.

#include "app/document/document.h"
#include "app/widgets/theme.h"

#include <QWidget>

#include <array>

class QCheckBox;
class QComboBox;
class QLabel;
class QLineEdit;
class QPushButton;
class QRadioButton;

namespace ts::app {

class RiskForm : public QWidget {
    Q_OBJECT
public:
    RiskForm(Document& document, const Theme& theme, QWidget* parent);
    void show(const SafetyFunction& function);

private:
    void change(const QString& label, const std::function<void(SafetyFunction&)>& change);
    void answer(const std::function<void(RiskAnswers&)>& change);

    Document& m_document;
    FunctionId m_function;
    QCheckBox *m_relied = nullptr, *m_unlikely = nullptr;
    std::array<std::array<QRadioButton*, 2>, 3> m_answers{};
    QLineEdit *m_unlikelyReason = nullptr, *m_reason = nullptr;
    QComboBox* m_level = nullptr;
    QLabel *m_path = nullptr, *m_differs = nullptr;
    QPushButton* m_take = nullptr;
    QWidget* m_questions = nullptr;
};

} // namespace ts::app
