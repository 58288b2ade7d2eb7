#pragma once
// How hands start each motor, and what they do that stops one, as StandIn::bring() reads it. Internal to measuring/.

#include "core/exploration/behaviour.h"

namespace ts::measuring {

struct Way {
    DeviceId actuator;
    int direction = 0;
    std::vector<std::string> bring;
    bool isHeld = false;
    std::string let; ///< what lets go of a held start
};

/// The shortest of each direction of each actuator, held and not.
std::vector<Way> waysOn(const Plant& plant, const exploration::Behaviour& behaviour);
/// "S0 press", one of each.
std::vector<std::string> stopsOn(const Plant& plant, const exploration::Behaviour& behaviour);
/// Empty if something of it is no hand's. Two hands at once: "S5 press + S6 press".
std::vector<std::string> bringOf(const Plant& plant, const std::vector<exploration::Done>& way);

const PlantDevice* deviceIn(const Plant& plant, DeviceId id);

} // namespace ts::measuring
