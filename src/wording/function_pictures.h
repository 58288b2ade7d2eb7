#pragma once
// What the two drawings beside a function show: the machine as the function sees it, and its time and distance.

#include "core/analysis/response.h"
#include "core/figures/approach_figure.h"
#include "core/figures/machine_map.h"

namespace ts::wording {

/// Protective devices and whatever demands the function; everything that can come to rest. Pure.
figures::MapContent mapContent(const Dossier& dossier, const SafetyFunction& function);
/// The device at a spot of that map.
std::vector<DeviceId> mapDevices(const Dossier& dossier, const SafetyFunction& function);
figures::MapWords mapWords();

/// Empty without a budget. Pure.
figures::ApproachContent approachContent(const SafetyFunction& function, const std::optional<ResponseBudget>& budget);
figures::ApproachWords approachWords();

} // namespace ts::wording
