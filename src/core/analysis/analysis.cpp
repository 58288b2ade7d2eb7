#include "core/analysis/analysis.h"

#include "core/library/motor_plate.h"
#include "core/library/registry.h"

namespace ts {
namespace {

/// A valve or heater has no load that varies: there is nothing to enter.
bool isLeastLoadEntered(const Circuit& circuit, std::string_view tag)
{
    const Device* device = circuit.device(tag);
    if (device && !isMotor(*device))
        return true;
    const auto parameters = device ? parametersOf(circuit, *device) : failure(ErrorCode::NotFound, message("?"));
    return parameters && parameters->isWritten("lowest_load_share");
}

Expected<FunctionResult> resultOf(const Dossier& dossier, const SafetyFunction& f, std::stop_token stop)
{
    FunctionResult result{f.id, safety::functionLevel(dossier, f), {}, {}, {}, {}, {}};
    bool isCancelled = false;
    const auto take = [&](Expected<StopRun> run, std::optional<StopRun>& into, Message& trouble) {
        if (run)
            into = std::move(*run);
        else if (run.error().code == ErrorCode::Cancelled)
            isCancelled = true;
        else
            trouble = run.error().message;
    };
    take(stopRun(dossier, f, Timing::Nominal, stop), result.nominal, result.stopTrouble);
    take(stopRun(dossier, f, Timing::Slow, stop), result.slow, result.stopTrouble);
    take(lowestLoadRun(dossier, f, stop), result.lowestLoad, result.lowestLoadTrouble);
    if (isCancelled)
        return cancelled();
    if (result.lowestLoad)
        for (const safety::ActuatorStop& a : result.lowestLoad->actuators)
            result.isLeastLoadAssumed.push_back(!isLeastLoadEntered(dossier.circuit, a.tag));
    return result;
}

} // namespace

int assumedParameterCount(const Circuit& circuit)
{
    int count = 0;
    for (const Device& d : circuit.devices)
        if (const auto parameters = parametersOf(circuit, d))
            for (const ParameterSpec& spec : deviceKind(d.kind)->parameters)
                count += spec.basis == "assumed" && !parameters->isWritten(spec.name);
    return count;
}

Expected<Analysis> analyse(const Dossier& dossier, std::stop_token stop)
{
    auto plant = compile(dossier.circuit);
    if (!plant)
        return Unexpected{plant.error()};
    Analysis a;
    a.assumptions.push_back(
        message("assume.defaults", {static_cast<long long>(assumedParameterCount(dossier.circuit))}));
    a.assumptions.push_back(message("assume.wire", {Measured{plant->largestNeglectedOhm, "ohm"}}));
    a.assumptions.push_back(message("assume.quasi_steady"));
    a.plant = std::make_shared<const Plant>(std::move(*plant));
    for (const SafetyFunction& f : dossier.functions) {
        auto result = resultOf(dossier, f, stop);
        if (!result)
            return Unexpected{result.error()};
        a.functions.push_back(std::move(*result));
    }
    auto duties = switchingDutyOf(dossier, *a.plant, stop);
    if (!duties)
        return Unexpected{duties.error()};
    a.duties = std::move(*duties);
    return a;
}

} // namespace ts
