#pragma once
// Changes to what is claimed and to the duty: each one a pure function from an old dossier to a new one.

#include "core/base/expected.h"
#include "core/base/quantity.h"
#include "core/model/dossier.h"

#include <functional>
#include <optional>

namespace ts::edit {

/// Where a part stands in a claim.
struct PartPlace {
    FunctionId function;
    std::size_t subsystem = 0, channel = 0, part = 0;
    bool operator==(const PartPlace&) const = default;
};

/// The dossier with another duty. OutOfRange unless days lie in 1..366 and hours above 0 and at most 24.
Expected<Dossier> withDuty(const Dossier& dossier, Duty duty);

/// The dossier with another time between two operations of one claimed part; operations entered directly give way.
/// NotFound if there is no such part, OutOfRange unless the time lies above 0 and at most a year.
Expected<Dossier> withSecondsPerCycle(const Dossier& dossier, const PartPlace& place, Seconds cycle);

/// The dossier with how often a scenario happens in a working hour; 0 takes it out. NotFound for no such scenario,
/// OutOfRange unless it lies between 0 and 3600.
Expected<Dossier> withScenarioTimes(const Dossier& dossier, ScenarioId scenario, double timesPerHour);

/// The dossier with the operations a year of every part of a claim for which there is a number; the time between two
/// gives way. NotFound if there is no such function.
Expected<Dossier> withOperations(
    const Dossier& dossier, FunctionId function, const std::function<std::optional<double>(DeviceId)>& perYear);

} // namespace ts::edit
