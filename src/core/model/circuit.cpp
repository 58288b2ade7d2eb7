#include "core/model/circuit.h"

#include <algorithm>
#include <array>

namespace ts {
namespace {

template <class Range, class Predicate>
auto pointerIf(const Range& range, Predicate predicate) -> decltype(&*range.begin())
{
    const auto it = std::find_if(range.begin(), range.end(), predicate);
    return it == range.end() ? nullptr : &*it;
}

} // namespace

const Device* Circuit::device(DeviceId id) const
{
    return pointerIf(devices, [id](const Device& d) { return d.id == id; });
}

const Device* Circuit::device(std::string_view tag) const
{
    return pointerIf(devices, [tag](const Device& d) { return d.tag == tag; });
}

const Wire* Circuit::wire(WireId id) const
{
    return pointerIf(wires, [id](const Wire& w) { return w.id == id; });
}

const Route* Circuit::route(RouteId id) const
{
    return pointerIf(routes, [id](const Route& r) { return r.id == id; });
}

namespace {
constexpr std::array<std::pair<RouteKind, std::string_view>, 5> kRouteWords{
    {{RouteKind::Enclosure, "enclosure"}, {RouteKind::Cable, "cable"}, {RouteKind::ProtectedCable, "protected_cable"},
        {RouteKind::ShieldedCable, "shielded_cable"}, {RouteKind::MovingCable, "moving_cable"}}};
} // namespace

std::string_view routeWord(RouteKind kind)
{
    return std::find_if(kRouteWords.begin(), kRouteWords.end(), [kind](const auto& w) {
        return w.first == kind;
    })->second;
}

RouteKind routeNamed(std::string_view word)
{
    const auto found = std::find_if(
        kRouteWords.begin(), kRouteWords.end(), [word](const auto& w) { return w.second == word; });
    return found == kRouteWords.end() ? RouteKind::Enclosure : found->first;
}

const Part* Circuit::part(std::string_view id) const
{
    return pointerIf(parts, [id](const Part& p) { return p.id == id; });
}

std::string Circuit::nameOf(const TerminalRef& terminal) const
{
    const Device* owner = device(terminal.device);
    return (owner ? owner->tag : std::string("?")) + ":" + terminal.marking;
}

const Reliability* Circuit::reliabilityOf(const Device& device) const
{
    if (device.reliability)
        return &*device.reliability;
    const Part* owner = part(device.part);
    return owner && owner->reliability ? &*owner->reliability : nullptr;
}

} // namespace ts
