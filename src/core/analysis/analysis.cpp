#include "core/analysis/analysis.h"

#include "core/library/registry.h"

namespace ts {
namespace {

Expected<FunctionResult> resultOf(const Dossier& dossier, const SafetyFunction& f, std::stop_token stop)
{
    FunctionResult result{f.id, safety::functionLevel(dossier, f), {}, {}, {}};
    for (const auto& [timing, into] : {std::pair{Timing::Nominal, &result.nominal}, {Timing::Slow, &result.slow}}) {
        auto run = stopRun(dossier, f, timing, stop);
        if (run)
            *into = std::move(*run);
        else if (run.error().code == ErrorCode::Cancelled)
            return Unexpected{run.error()};
        else
            result.stopTrouble = run.error().message;
    }
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
