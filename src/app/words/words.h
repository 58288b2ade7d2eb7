#pragma once
// The wording as Qt's texts, for the window; the sentences themselves are in src/wording.

#include "wording/cautions.h"
#include "wording/event_text.h"
#include "wording/exploration_texts.h"
#include "wording/fault_texts.h"
#include "wording/function_words.h"
#include "wording/habits.h"
#include "wording/level_pictures.h"
#include "wording/skyline_words.h"
#include "wording/verdict_texts.h"
#include "wording/wording.h"

#include <QString>
#include <QStringList>

namespace ts::app::words {

/// The wording speaks the language of the application from now on.
void install();

QString sentence(const Message& message);
QString sentence(const Error& error);
QString word(std::string_view id);
QString number(double si, std::string_view unit);

QString actionWord(std::string_view action);
QString answerText(const exploration::Proof& proof);
/// Wherever a stop is shown, one caution a line.
QString stopCautions(const Dossier& dossier, const FunctionPath* path, const FunctionResult* stops);
QStringList categoryConsequences(const SafetyFunction& function, const Dossier& dossier, const FunctionResult* result);
QString claimText(const exploration::Proof& proof, DeviceId motor, const Dossier& dossier);
QString consequenceText(
    const faults::SweptFault& fault, const faults::FaultOutcome& outcome, faults::Moment moment, const Plant& plant);
QString doWord(std::string_view action);
QString eventText(const Plant& plant, const Event& event);
QString faultText(const Plant& plant, const Fault& fault);
QString faultText(const Plant& plant, const FaultSite& site);
QString functionSentence(const SafetyFunction& function, const Circuit& circuit);
QString logicWord(const Plant& plant, int logic, std::uint8_t mode, std::uint8_t flags);
QStringList markovLines(const safety::FunctionLevel& level, const ArithmeticChoice& choice);
QString mendText(const improving::Mend& mend, const Dossier& dossier, const Plant& plant);
QString modeWord(const FaultSite& site);
QString operationText(const Plant& plant, const exploration::Operation& operation);
QString powerText(double watts, const wording::Habits& habits);
QString riskText(const SafetyFunction& function);
QString runText(const faults::RunResult& run, const Plant& plant);
QString stateWord(std::string_view state);
QString stopCaseText(const StopCase& c, const std::vector<faults::SweptFault>& faults, const Dossier& dossier);
QString stopCategoryText(const ActuatorStudy& actuator);
QString suggestedName(const SafetyFunction& function, const Circuit& circuit);
QString sweptFaultLabel(const faults::SweptFault& fault, const Circuit& circuit);
QString sweptFaultText(const faults::SweptFault& fault, const Circuit& circuit);
QStringList uncertaintyLines(const safety::Uncertainty& u, const std::optional<safety::Level>& required,
    const safety::Spread& spread, const Circuit& circuit);
QString inputText(const safety::ChainInput& input, const Circuit& circuit);
QString verdictText(const FunctionVerdict& verdict);
QString wireSizeText(double areaMm2, const wording::Habits& habits);

} // namespace ts::app::words
