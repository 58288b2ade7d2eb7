#include "core/exploration/departure.h"

#include "core/base/at.h"
#include "core/library/registry.h"

#include <algorithm>
#include <array>

namespace ts::exploration {

using Protects = KindTraits::Protects;

std::string_view nameOf(Departure d)
{
    constexpr std::array<std::string_view, 8> names{
        "none", "supply_lost", "phase_lost", "switch_opened", "overload", "emergency_stop", "guard", "other"};
    return names[static_cast<std::size_t>(d)];
}

const PlantDevice& deviceOf(const Plant& plant, const Stimulus& s)
{
    return plant.devices[at(plant.movers[at(s.slot)].device)];
}

Protects protects(const Plant& plant, const Stimulus& s)
{
    if (s.kind != Stimulus::Kind::Drive)
        return Protects::Nothing;
    return deviceKind(deviceOf(plant, s).kind)->traits.protects;
}

Departure departureOf(const Plant& plant, const Operation& o)
{
    if (o.kind == Operation::Kind::SupplyLost)
        return Departure::SupplyLost;
    if (o.kind == Operation::Kind::PhaseLost)
        return Departure::PhaseLost;
    const Stimulus& s = o.stimuli.front();
    switch (protects(plant, s)) {
    case Protects::EmergencyStop:
        return Departure::EmergencyStop;
    case Protects::Guard:
        return Departure::Guard;
    case Protects::Nothing:
        break;
    }
    if (plant.movers[at(s.slot)].spec.driver == MoverSpec::Driver::Protection)
        return Departure::Overload;
    const bool isPower = std::any_of(plant.links.begin(), plant.links.end(), [&](const PlantLink& l) {
        return l.contact.mover == s.slot
            && (l.contact.kind == ContactKind::Main || l.contact.kind == ContactKind::Pole);
    });
    return isPower ? Departure::SwitchOpened : Departure::Other;
}

} // namespace ts::exploration
