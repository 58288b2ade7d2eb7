#pragma once
// The places of the window, in the order of the job: one table, the only spot that knows them all.

#include "app/frame/place.h"

namespace ts::app {

std::vector<Place*> allPlaces(const PlaceParts& parts, QWidget* parent);

} // namespace ts::app
