#include "core/measuring/ways_on.h"

#include "core/measuring/panel.h"

#include <algorithm>

namespace ts::measuring {

using exploration::Deed;

const PlantDevice* deviceIn(const Plant& plant, DeviceId id)
{
    const auto it = std::find_if(
        plant.devices.begin(), plant.devices.end(), [id](const PlantDevice& d) { return d.id == id; });
    return it == plant.devices.end() ? nullptr : &*it;
}

std::vector<std::string> bringOf(const Plant& plant, const std::vector<exploration::Done>& way)
{
    std::vector<std::string> all;
    for (const exploration::Done& d : way) {
        std::vector<std::string> atOnce;
        for (const Stimulus& s : d.operation.stimuli) {
            atOnce.push_back(operationText(plant, s));
            if (atOnce.back().empty())
                return {};
        }
        if (d.operation.kind == exploration::Operation::Kind::TwoHands)
            all.push_back(joinedAtOnce(atOnce)); // one after the other is not the same
        else
            all.insert(all.end(), atOnce.begin(), atOnce.end());
    }
    return all;
}

std::vector<Way> waysOn(const Plant& plant, const exploration::Behaviour& behaviour)
{
    std::vector<Way> ways;
    for (const Deed& d : behaviour.deeds) {
        if (d.effect != Deed::Effect::Starts && d.effect != Deed::Effect::RunsWhileHeld)
            continue;
        Way way{d.actuator, d.direction, bringOf(plant, d.way), d.effect == Deed::Effect::RunsWhileHeld, {}};
        if (way.bring.empty())
            continue;
        if (way.isHeld && exploration::pushOf(plant, d)) {
            way.let = way.bring.back();
            way.bring.pop_back();
        }
        const auto known = std::find_if(ways.begin(), ways.end(), [&](const Way& w) {
            return w.actuator == way.actuator && w.direction == way.direction && w.isHeld == way.isHeld;
        });
        if (known == ways.end())
            ways.push_back(std::move(way));
        else if (way.bring.size() < known->bring.size())
            *known = std::move(way);
    }
    return ways;
}

std::vector<std::string> stopsOn(const Plant& plant, const exploration::Behaviour& behaviour)
{
    std::vector<std::string> stops;
    for (const Deed& d : behaviour.deeds)
        if (d.effect == Deed::Effect::Stops)
            if (const PlantDevice* hand = deviceIn(plant, d.hand)) {
                const std::string text = hand->tag + " " + d.action;
                if (std::find(stops.begin(), stops.end(), text) == stops.end())
                    stops.push_back(text);
            }
    return stops;
}

} // namespace ts::measuring
