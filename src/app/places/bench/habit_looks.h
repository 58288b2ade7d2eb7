#pragma once
// What habits change in what the Bench shows.

#include "app/words/words.h"
#include "core/diagram/scene.h"
#include "core/model/dossier.h"

#include <map>

namespace ts::app {

/// Colour words of lamps where a school colours them by what they tell; a lamp that is missing keeps its own.
std::map<DeviceId, QString> lampColours(const Dossier& dossier, const wording::Habits& habits);

/// The power circuit with its phases named as is the habit.
diagram::Scene withPhaseNames(diagram::Scene scene, const wording::Habits& habits);

} // namespace ts::app
