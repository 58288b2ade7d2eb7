#include "core/finding/search.h"

namespace ts::finding {

Expected<Search> searchOn(Finder finder, measuring::StandIn& built, std::stop_token stop)
{
    Search search;
    const auto right = std::make_shared<const Plant>(finder.plant());
    measuring::StandIn asDrawn(right, {}, nullptr, stop);
    while (true) {
        auto finding = finder.think(stop);
        if (!finding)
            return Unexpected{finding.error()};
        search.finding = *std::move(finding);
        const auto& next = search.finding.next;
        if (!next || search.measurements.size() >= kMostMeasurements)
            return search;
        if (const auto brought = built.bring(next->in); !brought)
            return Unexpected{brought.error()};
        if (next->in.power != measuring::Power::LockedOff && asDrawn.bring(next->in))
            if (const auto danger = measuring::dangerIn(built, *right, asDrawn.trail(), finder.stops(stop)))
                search.dangers.push_back({search.measurements.size(), *danger});
        const auto reading = built.look(next->look);
        if (!reading)
            return Unexpected{reading.error()};
        const double before = finder.entropy();
        const Taken taken{next->in, next->look, *reading};
        if (const auto ok = finder.take(taken, stop); !ok)
            return Unexpected{ok.error()};
        search.measurements.push_back({taken, before - finder.entropy()});
    }
}

Expected<std::optional<Search>> searchAfter(const Circuit& right, const measuring::TestPlan& plan,
    const measuring::Rehearsal& rehearsal, measuring::StandIn& built, std::stop_token stop)
{
    std::vector<Taken> taken;
    bool isDeviating = false;
    for (std::size_t k = 0; k < rehearsal.steps.size() && !isDeviating; ++k) {
        isDeviating = !rehearsal.steps[k].agrees;
        if (rehearsal.steps[k].reading)
            taken.push_back({plan.steps[k].in, plan.steps[k].look, *rehearsal.steps[k].reading});
    }
    if (!isDeviating)
        return std::optional<Search>();
    auto finder = Finder::of(right, History::Wired);
    if (!finder)
        return Unexpected{finder.error()};
    if (const auto ok = finder->take(taken, stop); !ok)
        return Unexpected{ok.error()};
    auto search = searchOn(*std::move(finder), built, stop);
    if (!search)
        return Unexpected{search.error()};
    return std::optional(*std::move(search));
}

} // namespace ts::finding
