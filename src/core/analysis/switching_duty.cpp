#include "core/analysis/switching_duty.h"

#include "core/base/at.h"

#include <map>

namespace ts {
namespace {

bool isContactor(const Plant& plant, int mover)
{
    const PlantMover& m = plant.movers[at(mover)];
    if (m.spec.driver != MoverSpec::Driver::Coil)
        return false;
    for (const PlantLink& l : plant.links)
        if (l.contact.mover == mover && l.contact.kind == ContactKind::Main)
            return true;
    return false;
}

/// An armature that has come in, or something that left its rest by a hand or the plant.
bool isOperation(const Plant& plant, const Event& e)
{
    if (e.why != Why::Moved)
        return false;
    const MoverSpec& m = plant.movers[at(e.slot)].spec;
    return m.driver == MoverSpec::Driver::Coil
        ? e.to == 2
        : m.driver == MoverSpec::Driver::Operator && e.from == m.initial && e.to != m.initial;
}

/// The contactor whose armature moved last before the event, along its causes; -1: none.
int breakerOf(const Plant& plant, const Trace& trace, int event)
{
    while (event >= 0) {
        const Event& e = trace.events[at(event)];
        if (e.why == Why::Moved && isContactor(plant, e.slot))
            return e.slot;
        event = e.cause;
    }
    return -1;
}

} // namespace

std::vector<SwitchingDuty> switchingDuty(const Plant& plant, std::span<const CountedRun> runs)
{
    std::map<int, SwitchingDuty> byMover;
    for (const auto& [trace, timesPerHour] : runs) {
        std::vector<int> fed(plant.actuators.size());
        for (const Event& e : trace.events) {
            if (isOperation(plant, e)) {
                ++byMover[e.slot].operations;
                byMover[e.slot].operationsPerHour += timesPerHour;
            }
            if (e.why != Why::PathChanged)
                continue;
            const bool isBroken = fed[at(e.slot)] >= 2 && e.to < 2;
            fed[at(e.slot)] = e.to;
            if (!plant.actuators[at(e.slot)].coils.empty())
                continue; // no motor that is broken while it runs up
            const PlantMotor& motor = plant.motors[at(e.slot)];
            if (!isBroken || e.si >= kRunUpShare * motor.data.synchronousRadPerS)
                continue;
            if (const int mover = breakerOf(plant, trace, e.cause); mover >= 0) {
                byMover[mover].breaksRunUp = true;
                byMover[mover].motor = plant.devices[at(motor.device)].tag;
            }
        }
    }
    std::vector<SwitchingDuty> list;
    for (auto& [mover, duty] : byMover) {
        duty.device = plant.devices[at(plant.movers[at(mover)].device)].id;
        list.push_back(duty);
    }
    return list;
}

std::optional<double> countedPerYear(const Duty& duty, std::span<const SwitchingDuty> counted, DeviceId device)
{
    double perHour = 0;
    for (const SwitchingDuty& d : counted)
        if (d.device == device)
            perHour = std::max(perHour, d.operationsPerHour);
    if (!(perHour > 0.0))
        return {};
    return perHour * duty.hoursPerDay * duty.daysPerYear;
}

Expected<std::vector<SwitchingDuty>> switchingDutyOf(const Dossier& dossier, const Plant& plant, std::stop_token stop)
{
    std::vector<CountedRun> runs;
    Workspace workspace;
    for (const Scenario& s : dossier.scenarios) {
        auto run = runScenario(plant, s, {}, 0.0, workspace, stop);
        if (stop.stop_requested())
            return cancelled();
        const auto times = dossier.machine.duty.timesPerHour.find(s.id);
        if (run)
            runs.push_back(
                {std::move(run->trace), times == dossier.machine.duty.timesPerHour.end() ? 0.0 : times->second});
    }
    return switchingDuty(plant, runs);
}

} // namespace ts
