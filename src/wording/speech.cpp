#include "wording/speech.h"

#include "wording/event_text.h"
#include "wording/exploration_texts.h"
#include "wording/fault_texts.h"
#include "wording/wording.h"

namespace ts::wording {

Speech speech()
{
    return {[](const Message& m) { return sentence(m).toStdString(); }, [](std::string_view id) { return word(id).toStdString(); },
        [](double si, std::string_view unit) { return number(si, unit).toStdString(); },
        [](const Plant& plant, const Event& event) { return eventText(plant, event).toStdString(); },
        [](const faults::SweptFault& fault, const Circuit& circuit) { return sweptFaultText(fault, circuit).toStdString(); },
        [](const faults::RunResult& run, const Plant& plant) { return runText(run, plant).toStdString(); },
        [](const exploration::Proof& proof, DeviceId motor, const Dossier& dossier) { return claimText(proof, motor, dossier).toStdString(); },
        [](const exploration::Proof& proof) { return answerText(proof).toStdString(); },
        [](const Plant& plant, const exploration::Operation& operation) { return operationText(plant, operation).toStdString(); },
        [](const StopCase& c, const std::vector<faults::SweptFault>& list, const Dossier& dossier) { return stopCaseText(c, list, dossier).toStdString(); },
        [](const ActuatorStudy& actuator) { return stopCategoryText(actuator).toStdString(); }};
}

} // namespace ts::wording
