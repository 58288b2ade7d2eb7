#pragma once
// How fast and how far: what is entered as a sentence, and under it time and distance as a drawing to scale.

#include "app/document/document.h"
#include "app/widgets/figure_view.h"
#include "app/widgets/word_flow.h"
#include "core/analysis/response.h"

#include <QWidget>

class QLabel;

namespace ts::app {

class TimingSentence : public QWidget {
    Q_OBJECT
public:
    TimingSentence(Document& document, const Theme& theme, QWidget* parent);
    void show(const SafetyFunction& function);
    void setBudget(const SafetyFunction& function, const std::optional<ResponseBudget>& budget);

private:
    void change(const QString& label, const std::function<void(Approach&)>& change);
    void takeMeasured();

    Document& m_document;
    FunctionId m_function;
    NumberWord *m_sensor = nullptr, *m_distance = nullptr, *m_intrusion = nullptr, *m_resolution = nullptr;
    ChoiceWord* m_safeguard = nullptr;
    TextWord *m_measured = nullptr, *m_on = nullptr, *m_again = nullptr;
    QLabel *m_few = nullptr, *m_trouble = nullptr;
    WordFlow *m_far = nullptr, *m_thin = nullptr;
    FigureView* m_drawing = nullptr;
};

} // namespace ts::app
