#include "app/words/words.h"

#include <QCoreApplication>

namespace ts::app::words {
namespace {

QStringList listOf(const std::vector<std::string>& lines)
{
    QStringList list;
    for (const std::string& line : lines)
        list << QString::fromStdString(line);
    return list;
}

} // namespace

void install()
{
    wording::installTranslation(
        [](const char* text) { return QCoreApplication::translate("wording", text).toStdString(); });
}

QString sentence(const Message& message)
{
    return QString::fromStdString(wording::sentence(message));
}

QString sentence(const Error& error)
{
    return QString::fromStdString(wording::sentence(error));
}

QString word(std::string_view id)
{
    return QString::fromStdString(wording::word(id));
}

QString number(double si, std::string_view unit)
{
    return QString::fromStdString(wording::number(si, unit));
}

QString actionWord(std::string_view action)
{
    return QString::fromStdString(wording::actionWord(action));
}

QString answerText(const exploration::Proof& proof)
{
    return QString::fromStdString(wording::answerText(proof));
}

QString stopCautions(const Dossier& dossier, const FunctionPath* path, const FunctionResult* stops)
{
    return listOf(wording::stopCautions(dossier, path, stops)).join('\n');
}

QStringList categoryConsequences(const SafetyFunction& function, const Dossier& dossier, const FunctionResult* result)
{
    return listOf(wording::categoryConsequences(function, dossier, result));
}

QString claimText(const exploration::Proof& proof, DeviceId motor, const Dossier& dossier)
{
    return QString::fromStdString(wording::claimText(proof, motor, dossier));
}

QString consequenceText(
    const faults::SweptFault& fault, const faults::FaultOutcome& outcome, faults::Moment moment, const Plant& plant)
{
    return QString::fromStdString(wording::consequenceText(fault, outcome, moment, plant));
}

QString doWord(std::string_view action)
{
    return QString::fromStdString(wording::doWord(action));
}

QString eventText(const Plant& plant, const Event& event)
{
    return QString::fromStdString(wording::eventText(plant, event));
}

QString faultText(const Plant& plant, const Fault& fault)
{
    return QString::fromStdString(wording::faultText(plant, fault));
}

QString faultText(const Plant& plant, const FaultSite& site)
{
    return QString::fromStdString(wording::faultText(plant, site));
}

QString functionSentence(const SafetyFunction& function, const Circuit& circuit)
{
    return QString::fromStdString(wording::functionSentence(function, circuit));
}

QString logicWord(const Plant& plant, int logic, std::uint8_t mode, std::uint8_t flags)
{
    return QString::fromStdString(wording::logicWord(plant, logic, mode, flags));
}

QStringList markovLines(const safety::FunctionLevel& level, const ArithmeticChoice& choice)
{
    return listOf(wording::markovLines(level, choice));
}

QString mendText(const improving::Mend& mend, const Dossier& dossier, const Plant& plant)
{
    return QString::fromStdString(wording::mendText(mend, dossier, plant));
}

QString modeWord(const FaultSite& site)
{
    return QString::fromStdString(wording::modeWord(site));
}

QString operationText(const Plant& plant, const exploration::Operation& operation)
{
    return QString::fromStdString(wording::operationText(plant, operation));
}

QString powerText(double watts, const wording::Habits& habits)
{
    return QString::fromStdString(wording::powerText(watts, habits));
}

QString riskText(const SafetyFunction& function)
{
    return QString::fromStdString(wording::riskText(function));
}

QString runText(const faults::RunResult& run, const Plant& plant)
{
    return QString::fromStdString(wording::runText(run, plant));
}

QString stateWord(std::string_view state)
{
    return QString::fromStdString(wording::stateWord(state));
}

QString stopCaseText(const StopCase& c, const std::vector<faults::SweptFault>& faults, const Dossier& dossier)
{
    return QString::fromStdString(wording::stopCaseText(c, faults, dossier));
}

QString stopCategoryText(const ActuatorStudy& actuator)
{
    return QString::fromStdString(wording::stopCategoryText(actuator));
}

QString suggestedName(const SafetyFunction& function, const Circuit& circuit)
{
    return QString::fromStdString(wording::suggestedName(function, circuit));
}

QString sweptFaultLabel(const faults::SweptFault& fault, const Circuit& circuit)
{
    return QString::fromStdString(wording::sweptFaultLabel(fault, circuit));
}

QString sweptFaultText(const faults::SweptFault& fault, const Circuit& circuit)
{
    return QString::fromStdString(wording::sweptFaultText(fault, circuit));
}

QStringList uncertaintyLines(const safety::Uncertainty& u, const std::optional<safety::Level>& required,
    const safety::Spread& spread, const Circuit& circuit)
{
    return listOf(wording::uncertaintyLines(u, required, spread, circuit));
}

QString inputText(const safety::ChainInput& input, const Circuit& circuit)
{
    return QString::fromStdString(wording::inputText(input, circuit));
}

QString verdictText(const FunctionVerdict& verdict)
{
    return QString::fromStdString(wording::verdictText(verdict));
}

QString wireSizeText(double areaMm2, const wording::Habits& habits)
{
    return QString::fromStdString(wording::wireSizeText(areaMm2, habits));
}

} // namespace ts::app::words
