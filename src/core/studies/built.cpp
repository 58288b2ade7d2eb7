#include "core/analysis/fault_analysis.h"
#include "core/studies/entries.h"

#include <array>

namespace ts::studies {
namespace {

constexpr std::array kAfterFaults{kSingleFaults.id};
constexpr std::array kReads{kSingleFaults.id, kSecondFaults.id};

Expected<Value> builtRun(
    const Dossier& dossier, const Subject& subject, const Results& earlier, WorkProgress&, std::stop_token)
{
    const SafetyFunction* function = dossier.function(subject.function());
    if (!function)
        return failure(ErrorCode::NotFound, message("sweep.none"));
    auto sweep = earlier.find(kSecondFaults, subject);
    if (!sweep)
        sweep = earlier.find(kSingleFaults, subject);
    if (!sweep) {
        const Error* trouble = earlier.trouble(kSingleFaults.id, subject);
        return trouble ? Expected<Value>(Unexpected{*trouble})
                       : failure(ErrorCode::NotFound, message("study.no_faults"));
    }
    return Value::of(analysedSweep(dossier, *function, *sweep), sizeof(FaultAnalysis) + sweep->outcomes.size() * 1024);
}

} // namespace

Study built()
{
    Study s;
    s.id = kBuilt.id;
    s.about = Subject::Kind::Function;
    s.cost = Cost::Instant;
    s.after = kAfterFaults;
    s.reads = kReads;
    s.key = [](const Dossier&, const Subject&, const Fingerprint& f) { return f.whole; };
    s.run = builtRun;
    return s;
}

} // namespace ts::studies
