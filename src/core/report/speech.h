#pragma once
// How core's report gets its sentences without knowing a language: functions handed in by the caller (wording).

#include "core/base/ids.h"
#include "core/base/message.h"
#include "core/figures/figure.h"

#include <functional>
#include <string>
#include <string_view>
#include <vector>

namespace ts::faults {
struct SweptFault;
struct RunResult;
} // namespace ts::faults
namespace ts::safety {
struct FunctionLevel;
}
namespace ts::exploration {
struct Proof;
struct Operation;
} // namespace ts::exploration

namespace ts {

struct Speech {
    std::function<std::string(const Message&)> sentence;
    std::function<std::string(std::string_view)> word;
    std::function<std::string(double, std::string_view)> number;
    std::function<std::string(const struct Plant&, const struct Event&)> event; ///< empty text: not worth a line
    std::function<std::string(const faults::SweptFault&, const struct Circuit&)> fault;
    std::function<std::string(const faults::RunResult&, const struct Plant&)> run;
    std::function<std::string(const exploration::Proof&, DeviceId motor, const struct Dossier&)> claim;
    std::function<std::string(const exploration::Proof&)> answer;
    std::function<std::string(const struct Plant&, const exploration::Operation&)> operation;
    std::function<std::string(const struct StopCase&, const std::vector<faults::SweptFault>&, const struct Dossier&)>
        stopCase;
    std::function<std::string(const struct ActuatorStudy&)> stopCategory;
    std::function<std::string(const struct SafetyFunction&, const struct Circuit&)> function;
    std::function<std::string(const struct SafetyFunction&)> risk;
    std::function<std::vector<std::pair<std::string, std::string>>(
        const struct SafetyFunction&, const struct ResponseBudget&)>
        response;
    std::function<figures::Figure(const safety::FunctionLevel&)> shares, curves;
    std::function<figures::Figure(
        const struct Dossier&, const struct Analysis&, const std::vector<const struct FaultAnalysis*>&)>
        skyline;
};

} // namespace ts
