#pragma once
// What happens, as one sentence: what demands the function, what comes to rest, how, and what starts it again. Each
// word that can be another is chosen where it stands.

#include "app/document/document.h"
#include "app/widgets/word_flow.h"

#include <QWidget>

namespace ts::app {

class DemandSentence : public QWidget {
    Q_OBJECT
public:
    DemandSentence(Document& document, const Theme& theme, QWidget* parent);
    void show(const SafetyFunction& function);

private:
    void rebuild(const SafetyFunction& function);
    void addDemand(const SafetyFunction& function);
    void addStop();
    void addReturn();
    void addProof();
    void fill(const SafetyFunction& function);
    std::vector<Trigger> othersOf(const SafetyFunction& function) const;
    ToggleWord* toggle(const QString& name, const QString& text, const QString& label,
        const std::function<void(SafetyFunction&, bool)>& set);
    void change(const QString& label, const std::function<void(SafetyFunction&)>& change);

    Document& m_document;
    const Theme& m_theme;
    FunctionId m_function;
    std::vector<Trigger> m_triggers, m_others;
    std::vector<DeviceId> m_actuators;
    QString m_shape; ///< of the sentence: another one is made anew
    TextWord *m_name = nullptr, *m_resetRule = nullptr, *m_testedOn = nullptr;
    WordFlow* m_flow = nullptr;
    ChoiceWord *m_trigger = nullptr, *m_category = nullptr, *m_resetBy = nullptr, *m_restart = nullptr,
               *m_scenario = nullptr;
    NumberWord* m_allowed = nullptr;
    ToggleWord* m_emergency = nullptr;
    std::vector<ToggleWord*> m_otherWords, m_actuatorWords;
    CountWord* m_testDays = nullptr;
};

} // namespace ts::app
