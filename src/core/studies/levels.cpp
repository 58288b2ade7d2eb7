#include "core/analysis/analysis.h"
#include "core/studies/entries.h"

namespace ts::studies {
namespace {

std::size_t bytesOfAnalysis(const Analysis& a)
{
    std::size_t bytes = sizeof(Analysis) + a.duties.size() * sizeof(SwitchingDuty);
    for (const FunctionResult& f : a.functions) {
        bytes += sizeof(FunctionResult) + f.level.explanation.values.size() * 256;
        for (const auto* run : {&f.nominal, &f.slow, &f.lowestLoad})
            if (*run)
                bytes += (*run)->run.trace.events.size() * sizeof(Event);
    }
    return bytes;
}

Expected<Value> levelsRun(const Dossier& dossier, const Subject&, const Results&, WorkProgress&, std::stop_token stop)
{
    auto analysis = analyse(dossier, std::move(stop));
    if (!analysis)
        return Unexpected{analysis.error()};
    const std::size_t bytes = bytesOfAnalysis(*analysis);
    return Value::of(std::move(*analysis), bytes);
}

} // namespace

Study levels()
{
    Study s;
    s.id = kLevels.id;
    s.cost = Cost::Soon;
    s.key = [](const Dossier&, const Subject&, const Fingerprint& f) { return f.whole; };
    s.run = levelsRun;
    return s;
}

} // namespace ts::studies
