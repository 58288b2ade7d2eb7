#pragma once
// The places of the window, in the order of the job: one table, the only spot that knows them all.

#include "app/frame/place.h"

#include <QKeySequence>

namespace ts::app {

/// A place with where it stands in the course.
struct PlaceInCourse {
    Place* place = nullptr;
    QString group; ///< "design"; empty: stands by itself
    QKeySequence key; ///< the same for good, whatever places are still to come
};

std::vector<PlaceInCourse> allPlaces(const PlaceParts& parts, QWidget* parent);

} // namespace ts::app
