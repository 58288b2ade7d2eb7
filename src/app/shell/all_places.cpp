#include "app/shell/all_places.h"

#include "app/places/bench/bench_place.h"
#include "app/places/faults/faults_place.h"
#include "app/places/functions/functions_place.h"
#include "app/places/levels/levels_place.h"
#include "app/places/machine/machine_place.h"
#include "app/places/skyline/skyline_place.h"

#include <array>

namespace ts::app {
namespace {

template <class P> Place* made(const PlaceParts& parts, QWidget* parent)
{
    return new P(parts, parent);
}

constexpr std::array kPlaces{
    made<SkylinePlace>,
    made<MachinePlace>,
    made<FunctionsPlace>,
    made<BenchPlace>,
    made<FaultsPlace>,
    made<LevelsPlace>,
};

} // namespace

std::vector<Place*> allPlaces(const PlaceParts& parts, QWidget* parent)
{
    std::vector<Place*> all;
    for (const auto make : kPlaces)
        all.push_back(make(parts, parent));
    return all;
}

} // namespace ts::app
