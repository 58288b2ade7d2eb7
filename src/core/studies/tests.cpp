#include "core/measuring/test_plan.h"

#include "core/measuring/plan_text.h"
#include "core/studies/entries.h"

namespace ts::studies {
namespace {

Value kept(measuring::TestPlan plan)
{
    std::size_t bytes = sizeof(measuring::TestPlan);
    for (const auto* steps : {&plan.steps, &plan.leftOut})
        for (const measuring::TestStep& s : *steps)
            bytes += sizeof s + 64 * (s.shows.size() + s.covers.size() + s.in.bring.size() + s.look.at.size());
    return Value::of(std::move(plan), bytes);
}

std::optional<Value> planFrom(std::string_view text, const Dossier&, const Subject&)
{
    auto plan = measuring::planFrom(text);
    return plan ? std::optional(kept(*std::move(plan))) : std::nullopt;
}

Expected<Value> planned(
    const Dossier& dossier, const Subject&, const Results&, WorkProgress& progress, std::stop_token stop)
{
    const auto told = [&progress](std::size_t done, std::size_t total) {
        progress.total = total;
        progress.done = done;
    };
    auto plan = measuring::testPlanOf(dossier.circuit, {told}, std::move(stop));
    if (!plan)
        return Unexpected{plan.error()};
    return kept(*std::move(plan));
}

} // namespace

Study tests()
{
    Study s;
    s.id = kTests.id;
    s.cost = Cost::Long;
    s.key = [](const Dossier&, const Subject&, const Fingerprint& f) { return f.circuit; };
    s.run = planned;
    s.textOf = [](const Value& v) { return measuring::keptText(*v.as<measuring::TestPlan>()); };
    s.fromText = planFrom;
    return s;
}

} // namespace ts::studies
