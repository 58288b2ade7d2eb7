#include "wording/speech.h"

#include "wording/event_text.h"
#include "wording/exploration_texts.h"
#include "wording/fault_texts.h"
#include "wording/function_words.h"
#include "wording/level_pictures.h"
#include "wording/skyline_words.h"
#include "wording/wording.h"

namespace ts::wording {

Speech speech()
{
    return {[](const Message& m) { return sentence(m).toStdString(); },
        [](std::string_view id) { return word(id).toStdString(); },
        [](double si, std::string_view unit) { return number(si, unit).toStdString(); },
        [](const Plant& plant, const Event& event) { return eventText(plant, event).toStdString(); },
        [](const faults::SweptFault& fault, const Circuit& circuit) {
            return sweptFaultText(fault, circuit).toStdString();
        },
        [](const faults::RunResult& run, const Plant& plant) { return runText(run, plant).toStdString(); },
        [](const exploration::Proof& proof, DeviceId motor, const Dossier& dossier) {
            return claimText(proof, motor, dossier).toStdString();
        },
        [](const exploration::Proof& proof) { return answerText(proof).toStdString(); },
        [](const Plant& plant, const exploration::Operation& operation) {
            return operationText(plant, operation).toStdString();
        },
        [](const StopCase& c, const std::vector<faults::SweptFault>& list, const Dossier& dossier) {
            return stopCaseText(c, list, dossier).toStdString();
        },
        [](const ActuatorStudy& actuator) { return stopCategoryText(actuator).toStdString(); },
        [](const SafetyFunction& function, const Circuit& circuit) {
            return functionSentence(function, circuit).toStdString();
        },
        [](const SafetyFunction& function) { return riskText(function).toStdString(); },
        [](const SafetyFunction& function, const ResponseBudget& budget) {
            std::vector<std::pair<std::string, std::string>> lines;
            for (const auto& [what, value] : responseLines(function, budget))
                lines.emplace_back(what.toStdString(), value.toStdString());
            return lines;
        },
        [](const safety::FunctionLevel& level) {
            return figures::shares(contributionsOf(level), false, shareWords(), 700, 0);
        },
        [](const safety::FunctionLevel& level) {
            const auto required = level.required ? std::optional(pfhdLimit(*level.required)) : std::nullopt;
            return figures::categoryCurves(
                categoryCurves(), pointsOf(level), required, curveWords(level.required), 700, 420);
        },
        [](const Dossier& dossier, const Analysis& analysis, const std::vector<const FaultAnalysis*>& swept) {
            return figures::skyline(towersOf(dossier, analysis, swept), skylineWords(), 900, 560);
        }};
}

} // namespace ts::wording
