#pragma once
// How much is needed, as a sentence with the three risk questions in its flow, and the level that follows. Source: ISO
// 13849-1 annex A.

#include "app/document/document.h"
#include "app/widgets/word_flow.h"

#include <QWidget>

#include <array>

class QLabel;
class QPushButton;

namespace ts::app {

class RiskSentence : public QWidget {
    Q_OBJECT
public:
    RiskSentence(Document& document, const Theme& theme, QWidget* parent);
    void show(const SafetyFunction& function);

private:
    void addQuestions();
    void addLevel();
    void change(const QString& label, const std::function<void(SafetyFunction&)>& change);
    void answer(const std::function<void(RiskAnswers&)>& change);

    Document& m_document;
    const Theme& m_theme;
    FunctionId m_function;
    WordFlow *m_questions = nullptr, *m_required = nullptr;
    ToggleWord *m_relied = nullptr, *m_unlikely = nullptr;
    std::array<ChoiceWord*, 3> m_answers{};
    TextWord *m_unlikelyReason = nullptr, *m_reason = nullptr;
    ChoiceWord* m_level = nullptr;
    QLabel *m_path = nullptr, *m_differs = nullptr;
    QPushButton* m_take = nullptr;
};

} // namespace ts::app
