#include "core/exploration/explore.h"
#include "core/keeping/kept_sweep.h"
#include "core/studies/entries.h"

namespace ts::studies {
namespace {

Expected<Value> ordersRun(
    const Dossier& dossier, const Subject& subject, const Results&, WorkProgress& progress, std::stop_token stop)
{
    const Device* motor = dossier.circuit.device(subject.motor());
    if (!motor)
        return failure(ErrorCode::NotFound, message("study.no_motor"));
    exploration::Request request;
    request.motor = motor->tag;
    request.withFaults = false;
    const auto listener = [&progress](const exploration::Progress& p) {
        progress.total = p.total;
        progress.found = p.states;
        progress.done = p.done;
    };
    auto explored = exploration::explore(dossier, request, listener, std::move(stop));
    if (!explored)
        return Unexpected{explored.error()};
    return Value::of(std::move(*explored), 256 * 1024);
}

} // namespace

Study orders()
{
    Study s;
    s.id = kOrders.id;
    s.about = Subject::Kind::Motor;
    s.cost = Cost::Long;
    s.key = [](const Dossier& d, const Subject& subject, const Fingerprint& f) {
        return demandKey(f.circuit, d) + std::to_string(subject.id);
    };
    s.run = ordersRun;
    return s;
}

} // namespace ts::studies
