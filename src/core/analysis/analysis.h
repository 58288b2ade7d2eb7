#pragma once
// What a dossier claims and how its functions stop: levels, stops as read from their runs, how often devices work. Each
// is a result of the study "levels"; what is found fault with is in checks/.

#include "core/analysis/stop_run.h"
#include "core/analysis/switching_duty.h"
#include "core/safety/level.h"

#include <memory>

namespace ts {

struct FunctionResult {
    FunctionId function;
    safety::FunctionLevel level;
    std::optional<StopRun> nominal, slow; ///< slow: devices at the slow limit of their times
    std::optional<StopRun> lowestLoad; ///< slow, and each motor with the least load that it may have
    std::vector<bool> isLeastLoadAssumed; ///< by actuator: nobody entered it, so it only shows how far the time may go
    Message stopTrouble; ///< why there is no run
    Message lowestLoadTrouble{}; ///< why there is none with the least load
};

struct Analysis {
    std::shared_ptr<const Plant> plant;
    std::vector<FunctionResult> functions; ///< in the dossier's order
    std::vector<SwitchingDuty> duties; ///< of contactors, over all scenarios
    std::vector<Message> assumptions; ///< of the simulation, beside each level's own
};

/// Pure. Fails with what compile() refuses, and with Cancelled.
Expected<Analysis> analyse(const Dossier& dossier, std::stop_token stop = {});

/// Device parameters that nobody entered and whose default is only assumed.
int assumedParameterCount(const Circuit& circuit);

} // namespace ts
