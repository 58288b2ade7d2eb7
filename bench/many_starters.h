#pragma once
// A machine of many starters, made from patterns: each with control supply, buttons and emergency stop of its own, all
// on one mains supply. For figures of load.

#include "core/patterns/machine.h"
#include "core/suggestions/suggestion.h"

#include <algorithm>
#include <map>

namespace ts::bench {

/// Starter `k` beside what is there already; ids are counted on, the mains supply is the first one's.
inline void addStarter(DossierFile& machine, const DossierFile& one, int k)
{
    const DeviceId mains = machine.dossier.circuit.device(std::string_view("G0"))->id;
    const std::string suffix = "_" + std::to_string(k);
    std::map<DeviceId, DeviceId> ids;
    for (Device d : one.dossier.circuit.devices) {
        if (d.tag == "G0") {
            ids[d.id] = mains;
            continue;
        }
        ids[d.id] = {machine.nextId++};
        d.id = ids[d.id];
        d.tag += suffix;
        machine.dossier.circuit.devices.push_back(d);
    }
    for (Wire w : one.dossier.circuit.wires) {
        w.id = {machine.nextId++};
        w.number = std::to_string(w.id.value);
        w.from.device = ids.at(w.from.device);
        w.to.device = ids.at(w.to.device);
        machine.dossier.circuit.wires.push_back(w);
    }
}

/// `count` direct starters. The function of the first one's emergency stop is demanded while all motors run; the first
/// starter's own scenarios are there, too.
inline DossierFile manyStarters(int count)
{
    const DossierFile one = *patterns::machine(*patterns::MachinePlan::from({}));
    DossierFile machine = one;
    const auto functions = suggestedFunctions(one.dossier);
    for (SafetyFunction f : *functions) {
        f.id = {machine.nextId++};
        f.name = "stop " + std::to_string(f.id.value);
        machine.dossier.functions.push_back(f);
    }
    for (int k = 2; k <= count; ++k)
        addStarter(machine, one, k);
    Dossier& d = machine.dossier;
    SafetyFunction& function = d.functions.front();
    Scenario all = *d.scenario(function.demandScenario);
    all.id = function.demandScenario = {machine.nextId++};
    const Step start = all.steps.front();
    for (int k = 2; k <= count; ++k) {
        Step other = start;
        other.target += "_" + std::to_string(k);
        all.steps.insert(all.steps.begin(), other);
    }
    d.scenarios.push_back(all);
    return machine;
}

} // namespace ts::bench
