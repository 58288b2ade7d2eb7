#pragma once
// Texts of the fault sweep: outcomes, losses, who noticed, structure, findings; and a swept fault in words.

#include "core/analysis/stop_study.h"
#include "core/faults/sweep.h"
#include "core/improving/mend.h"
#include "wording/wording.h"

#include <span>

namespace ts::wording {

std::span<const Entry> faultEntries();

/// Which contacts the fault's current welds as a consequence, if the run in question is the one with that; else empty.
std::string consequenceText(
    const faults::SweptFault& fault, const faults::FaultOutcome& outcome, faults::Moment moment, const Plant& plant);

/// "Q1 main poles: welded", "wire 46 between K0:1.S11 and S0:11: open", "Q1:A1 touches Q9:A1".
std::string sweptFaultText(const faults::SweptFault& fault, const Circuit& circuit);
/// The same without its group, as it stands under the group's heading.
std::string sweptFaultLabel(const faults::SweptFault& fault, const Circuit& circuit);

/// One line on what a run came to: "lost: M1 runs on", "noticed at the reset by K0 (grade A)".
std::string runText(const faults::RunResult& run, const Plant& plant);

/// "Add feedback at Q2: K1 -> caught, noticed at the reset by K1". `plant`: of the circuit before the change.
std::string mendText(const improving::Mend& mend, const Dossier& dossier, const Plant& plant);

/// The circumstances of one case of a stop: "Clearing a jam, with Q1 main poles: welded". `faults`: the fault list.
std::string stopCaseText(const StopCase& c, const std::vector<faults::SweptFault>& faults, const Dossier& dossier);
/// "stop category 0", or that it is not the same in every case.
std::string stopCategoryText(const ActuatorStudy& actuator);

} // namespace ts::wording
