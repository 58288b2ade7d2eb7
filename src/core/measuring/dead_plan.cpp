#include "core/measuring/dead_plan.h"

#include "core/base/at.h"
#include "core/faults/parallel.h"
#include "core/measuring/insulation.h"
#include "core/simulation/electrics.h"

#include <algorithm>
#include <atomic>
#include <cmath>
#include <mutex>
#include <set>

namespace ts::measuring {
namespace {

constexpr double kRounding = 1e-6; ///< of a resistance

/// Measures looks on the right circuit and on every other one.
class Measurer {
public:
    Measurer(const Plant& plant, const Deviations& deviations)
        : m_plant(plant)
        , m_deviations(deviations)
        , m_none(overlayOf(plant, {}))
        , m_isFelt(deviations.all.size())
    {
        for (const Deviation& d : deviations.all)
            m_overlays.push_back(d.fault ? overlayOf(plant, {*d.fault}) : m_none);
    }

    /// Of each look what it shows; the looks that a harmless one would disturb are marked.
    bool measure(DeadLooks& found, const std::vector<std::size_t>& against, std::vector<Shown>& shows,
        std::vector<std::uint8_t>& isUpset, const PlanProgress& progress, const std::stop_token& stop) const
    {
        std::vector<std::vector<std::size_t>> looksOf(found.states.size());
        for (std::size_t k = 0; k < found.looks.size(); ++k)
            looksOf[found.looks[k].state].push_back(k);
        for (std::size_t s = 0; s < found.states.size(); ++s) {
            Ohms right(m_plant, found.states[s].travel, m_none, found.states[s].gone);
            for (const std::size_t k : looksOf[s]) {
                DeadLook& look = found.looks[k];
                look.seconds = secondsOf(found.states[look.state], look);
                look.right = look.isForWires() ? wiresSeen(m_plant, look.seen, look.nodesA, found.states[s].gone)
                                               : right.lowest(look.nodesA, look.nodesB);
                look.expect = expectedBy(lookOf(look).with, look.right);
            }
        }
        shows.assign(found.looks.size(), Shown(m_deviations.all.size()));
        isUpset.assign(found.looks.size(), 0);
        std::atomic<std::size_t> done{0};
        std::mutex telling;
        const auto job = [&](std::size_t s, Workspace&) {
            for (const std::size_t d : against) {
                if (looksOf[s].empty() || stop.stop_requested())
                    break;
                see(found, looksOf[s], d, shows, isUpset);
            }
            const std::size_t count = ++done;
            if (const std::unique_lock lock(telling, std::try_to_lock); lock && progress.told)
                progress.told(count, found.states.size());
        };
        if (!faults::forEachIndex(found.states.size(), 0, job, stop))
            return false;
        for (std::size_t d = 0; d < m_deviations.all.size(); ++d)
            if (const std::size_t same = m_deviations.sameAs[d]; same != d)
                for (Shown& look : shows)
                    if (look.has(same))
                        look.add(d);
        return true;
    }

    std::vector<std::uint8_t> felt() const { return {m_isFelt.begin(), m_isFelt.end()}; }

private:
    /// More than rounding makes.
    static bool isOther(const Reading& a, const Reading& b)
    {
        const auto apart = [](double x, double y) { return x != y && !(std::abs(x - y) <= kRounding * (1 + x)); };
        return a.word != b.word || apart(a.low, b.low) || apart(a.high, b.high);
    }

    void see(const DeadLooks& found, const std::vector<std::size_t>& looks, std::size_t d, std::vector<Shown>& shows,
        std::vector<std::uint8_t>& isUpset) const
    {
        const Deviation& deviation = m_deviations.all[d];
        const DeadState& state = found.states[found.looks[looks.front()].state];
        const std::vector<MovedWire> moved = movedIn(state, deviation);
        Ohms ohms = ohmsIn(m_plant, state, deviation, m_overlays[d]);
        for (const std::size_t k : looks) {
            const DeadLook& look = found.looks[k];
            const Reading reading = look.isForWires() ? wiresSeen(m_plant, look.seen, look.nodesA, moved)
                                                      : ohms.lowest(look.nodesA, look.nodesB);
            if (isOther(look.right, reading))
                m_isFelt[d] = 1;
            if (!differ(look.expect, reading))
                continue;
            if (deviation.isHarmless)
                isUpset[k] = 1;
            else
                shows[k].add(d);
        }
    }

    const Plant& m_plant;
    const Deviations& m_deviations;
    Overlay m_none;
    std::vector<Overlay> m_overlays;
    mutable std::vector<std::atomic<std::uint8_t>> m_isFelt; ///< by deviation; several threads find it out
};

TestStep stepOf(const DeadLook& look, const DeadState& state)
{
    TestStep step;
    step.stage = look.stage;
    step.in = situationOf(state);
    step.look = lookOf(look);
    step.expect = look.expect;
    step.seconds = look.seconds;
    step.serves = look.serves;
    step.id = stepId(step.in, step.look);
    return step;
}

} // namespace

std::vector<std::string> coveredBy(const Shown& shows, const Deviations& deviations)
{
    std::set<std::string> all;
    for (std::size_t d = 0; d < deviations.all.size(); ++d)
        if (shows.has(d))
            all.insert(deviations.all[d].touches.begin(), deviations.all[d].touches.end());
    return {all.begin(), all.end()};
}

Expected<DeadPlan> deadPlanOf(const Circuit& circuit, const Plant& plant, const Deviations& deviations,
    const PlanProgress& progress, std::stop_token stop)
{
    DeadPlan plan;
    plan.shown = Shown(deviations.all.size());
    const Measurer measurer(plant, deviations);
    std::vector<std::size_t> against;
    for (std::size_t d = 0; d < deviations.all.size(); ++d)
        if (deviations.sameAs[d] == d)
            against.push_back(d);

    const auto take = [&](DeadLooks found, const std::vector<std::size_t>& who) {
        std::vector<Shown> shows;
        std::vector<std::uint8_t> isUpset;
        if (!measurer.measure(found, who, shows, isUpset, progress, stop))
            return false;
        std::vector<Option> options;
        std::vector<std::size_t> lookOf;
        const double open = bandOf("open_from").low;
        for (std::size_t k = 0; k < found.looks.size(); ++k) {
            const DeadLook& look = found.looks[k];
            if (look.stage == Stage::Insulation && look.expect.low < open) {
                plan.notInsulated.push_back(look.a);
                continue;
            }
            if (isUpset[k])
                continue;
            options.push_back({shows[k], look.seconds, !look.serves.empty()});
            lookOf.push_back(k);
        }
        for (const std::size_t o : chosenOf(options, plan.shown)) {
            const DeadLook& look = found.looks[lookOf[o]];
            plan.steps.push_back({stepOf(look, found.states[look.state]), shows[lookOf[o]]});
        }
        return true;
    };
    InsulationLooks insulation = insulationLooksOf(plant);
    plan.notInsulated = std::move(insulation.notReached);
    if (!take(std::move(insulation.found), against) || !take(deadLooksOf(circuit, plant), against))
        return cancelled();
    // What is still hidden is looked for with more effort.
    const auto stillHidden = [&] {
        std::vector<std::size_t> still;
        for (const std::size_t d : against)
            if (deviations.all[d].isHarmless || !plan.shown.has(d))
                still.push_back(d);
        return still;
    };
    if (!take(eitherEndLooksOf(circuit, plant), stillHidden()))
        return cancelled();
    std::vector<const Deviation*> missing;
    const auto still = stillHidden();
    for (const std::size_t d : still)
        if (const Deviation& x = deviations.all[d]; !x.isHarmless && x.mistake.kind == MistakeKind::Missing)
            missing.push_back(&x);
    if (!missing.empty() && !take(liftedLooksOf(circuit, plant, missing), still))
        return cancelled();
    plan.isFelt = measurer.felt();
    // A lifted end is a new chance of a mistake: what lifts comes before the rest, which proves it again.
    std::stable_sort(plan.steps.begin(), plan.steps.end(), [](const ChosenStep& a, const ChosenStep& b) {
        const auto rank = [](const TestStep& s) {
            return std::tuple(s.stage, s.stage == Stage::Continuity && s.in.lifted.empty(), s.in.bring, s.look.at);
        };
        return rank(a.step) < rank(b.step);
    });
    return plan;
}

} // namespace ts::measuring
