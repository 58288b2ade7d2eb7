#include "core/simulation/fault.h"

#include "core/base/at.h"
#include "core/library/registry.h"
#include "core/library/table.h"
#include "core/simulation/logic.h"
#include "core/simulation/plant.h"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace ts {
namespace {

bool hasMode(const DeviceKind& kind, std::string_view element, std::string_view mode)
{
    return std::any_of(kind.failureModes.begin(), kind.failureModes.end(),
        [&](const FailureModeSpec& m) { return m.element == element && m.mode == mode; });
}

/// The element words of FailureModeSpec that a link answers to.
bool isContact(const PlantLink& link)
{
    return link.contact.kind == ContactKind::NormallyClosed || link.contact.kind == ContactKind::NormallyOpen;
}

} // namespace

std::vector<int> failedOutputPercent()
{
    const DefaultRow row = deviceDefault("supply 24 V DC", "failed_output");
    const auto percent = [](double share) { return static_cast<int>(std::lround(100.0 * share)); };
    return {percent(row.low), percent(row.nominal), percent(row.high)};
}

std::vector<FaultSite> faultSites(const Plant& plant)
{
    std::vector<FaultSite> sites;
    for (std::size_t d = 0; d < plant.devices.size(); ++d) {
        const PlantDevice& device = plant.devices[d];
        const DeviceKind& kind = *deviceKind(device.kind);
        const int index = static_cast<int>(d);
        const auto has = [&](std::string_view element, std::string_view mode) { return hasMode(kind, element, mode); };
        const auto add = [&](const std::string& role, std::string mode, FaultMode what, int slot) {
            sites.push_back({device.tag + "/" + role, std::move(mode), {what, slot, -1}});
        };
        if (has("main", "welded"))
            add("main", "welded", FaultMode::PolesWelded, device.movers.front());
        if (has("main", "does_not_close"))
            add("main", "does_not_close", FaultMode::PolesOpen, device.movers.front());
        for (int l : device.links) {
            const PlantLink& link = plant.links[at(l)];
            if (link.role.empty())
                continue;
            if ((isContact(link) && has("contact", "welded"))
                || (link.contact.kind == ContactKind::Main && has("main", "welded")))
                add(link.role, "welded", FaultMode::LinkHeldClosed, l);
            if ((isContact(link) && has("contact", "does_not_close"))
                || (link.contact.kind == ContactKind::Main && has("main", "does_not_close")))
                add(link.role, "does_not_close", FaultMode::LinkHeldOpen, l);
            if (has("element", "open"))
                add(link.role, "open", FaultMode::LinkHeldOpen, l);
            if (link.role.starts_with("tap ") && has("tap", "open"))
                add(link.role, "open", FaultMode::LinkHeldOpen, l);
            if (link.contact.mover >= 0 && has("output", "conducts")) {
                add(link.role, "conducts", FaultMode::LinkHeldClosed, l);
                add(link.role, "open", FaultMode::LinkHeldOpen, l);
            }
        }
        if (has("block", "fallen_off"))
            add("block", "fallen_off", FaultMode::BlockFallenOff, device.movers.front());
        if (has("armature", "stuck_in"))
            add("armature", "stuck_in", FaultMode::MoverStuckActuated, device.movers.front());
        if (has("armature", "stuck_out"))
            add("armature", "stuck_out", FaultMode::MoverStuckAtRest, device.movers.front());
        if (has("actuator", "jammed_pressed"))
            add("actuator", "jammed_pressed", FaultMode::MoverStuckActuated, device.movers.front());
        if (has("actuator", "broken"))
            add("actuator", "broken", FaultMode::MoverStuckAtRest, device.movers.front());
        if (has("latch", "does_not_hold"))
            add("latch", "does_not_hold", FaultMode::LatchFails, device.movers.front());
        if (has("contact", "stays_closed"))
            add("relay", "stays_in", FaultMode::MoverStuckActuated, device.movers.front());
        if (has("contact", "stays_open"))
            add("relay", "stays_out", FaultMode::MoverStuckAtRest, device.movers.front());
        if (has("brake", "does_not_close"))
            add("brake", "does_not_close", FaultMode::MoverStuckActuated, device.movers.front());
        if (has("brake", "does_not_open"))
            add("brake", "does_not_open", FaultMode::MoverStuckAtRest, device.movers.front());
        if (has("brake", "torque_low"))
            add("brake", "torque_low", FaultMode::TorqueLow, device.movers.front());
        for (int l : device.logics)
            for (const auto& [mode, what] : {std::pair{"too_long", FaultMode::TimingTooLong},
                     {"too_short", FaultMode::TimingTooShort}, {"never", FaultMode::TimingNever}})
                if (has("timing", mode))
                    add("timing", mode, what, l);
        for (int c : device.converters)
            if (has("output", "missing"))
                add("output", "missing", FaultMode::SupplyMissing, c);
        for (int c : device.converters) {
            if (has("output", "low"))
                sites.push_back(
                    {device.tag + "/output", "low", {FaultMode::SupplyLevel, c, failedOutputPercent().front()}});
            if (has("output", "high"))
                sites.push_back(
                    {device.tag + "/output", "high", {FaultMode::SupplyLevel, c, failedOutputPercent().back()}});
        }
        int sections = 0; // of a primary with taps
        for (std::size_t t = 0; t < plant.transformers.size(); ++t)
            if (plant.transformers[t].device == index && has("winding", "open")) {
                const std::string name = ++sections == 1 ? "winding" : "winding " + std::to_string(sections);
                add(name, "open", FaultMode::TransformerOpen, static_cast<int>(t));
                if (has("winding", "through"))
                    sites.push_back({device.tag + "/" + name, "through",
                        {FaultMode::Short, plant.transformers[t].p1, plant.transformers[t].s1}});
                if (sections == 1 && has("secondary", "shorted")) // it is one
                    sites.push_back({device.tag + "/secondary", "shorted",
                        {FaultMode::Short, plant.transformers[t].s1, plant.transformers[t].s2}});
            }
        if (has("mechanism", "does_not_trip"))
            add("mechanism", "does_not_trip", FaultMode::MoverStuckAtRest, device.movers.front());
        for (std::size_t z = 0; z < plant.impedances.size(); ++z) {
            const PlantImpedance& impedance = plant.impedances[z];
            if (impedance.device != index)
                continue;
            const std::string_view element = impedance.kind == PlantImpedance::Kind::Coil ? "coil"
                : impedance.kind == PlantImpedance::Kind::Lamp                            ? "lamp"
                : impedance.kind == PlantImpedance::Kind::Load                            ? "load"
                                                                                          : "";
            if (!element.empty() && has(element, "open"))
                add(impedance.role, "open", FaultMode::ImpedanceOpen, static_cast<int>(z));
            if (!element.empty() && has(element, "shorted"))
                add(impedance.role, "shorted", FaultMode::ImpedanceShorted, static_cast<int>(z));
        }
        if (has("winding", "to_earth"))
            for (int m : device.motors)
                sites.push_back({device.tag + "/winding", "to_earth",
                    {FaultMode::Short, plant.motors[at(m)].nodes[0], network::kReference}});
        if (has("winding", "shorted"))
            for (int m : device.motors)
                sites.push_back({device.tag + "/winding", "shorted",
                    {FaultMode::Short, plant.motors[at(m)].nodes[0], plant.motors[at(m)].nodes[1]}});
        if (has("phase", "lost"))
            for (std::size_t s = 0; s < plant.sources.size(); ++s)
                if (plant.sources[s].device == index)
                    add(plant.sources[s].role, "lost", FaultMode::SourceLost, static_cast<int>(s));
        if (has("phase", "exchanged")) {
            const auto first = std::find_if(plant.sources.begin(), plant.sources.end(),
                [index](const PlantSource& s) { return s.device == index; });
            const int s = static_cast<int>(first - plant.sources.begin());
            sites.push_back({device.tag + "/phases", "exchanged", {FaultMode::PhasesExchanged, s, s + 1}});
        }
    }
    for (const PlantWire& wire : plant.wires) {
        const Fault fault = wire.link >= 0 ? Fault{FaultMode::LinkHeldOpen, wire.link}
                                           : Fault{FaultMode::ImpedanceOpen, wire.impedance};
        sites.push_back({"wire/" + std::to_string(wire.id.value), "open", fault});
    }
    return sites;
}

namespace {

/// "A2:S12" or "PE" to a node; -1 if there is none.
int nodeNamed(const Plant& plant, std::string_view name)
{
    if (name == "PE" || name == "earth")
        return network::kReference;
    const std::size_t colon = name.find(':');
    if (colon == name.npos)
        return -1;
    const int terminal = plant.terminalIndex(name.substr(0, colon), name.substr(colon + 1));
    return terminal < 0 ? -1 : plant.terminals[at(terminal)].node;
}

} // namespace

Expected<FaultSite> faultFrom(const Plant& plant, std::string_view text)
{
    const std::size_t colon = text.rfind(':');
    const auto unknown = [&](std::string near) {
        return failure(ErrorCode::NotFound, message("fault.unknown", {std::string(text), std::move(near)}));
    };
    if (colon == text.npos)
        return unknown("SITE:MODE");
    const std::string_view site = text.substr(0, colon), mode = text.substr(colon + 1);
    if (mode == "short" || mode == "to_earth") {
        // A terminal may be called "+": whichever plus has a terminal on either side.
        for (std::size_t plus = mode == "short" ? site.find('+') : site.size(); plus != site.npos;
             plus = plus < site.size() ? site.find('+', plus + 1) : site.npos) {
            const int a = nodeNamed(plant, site.substr(0, plus));
            const int b = mode == "short" ? nodeNamed(plant, site.substr(plus + 1)) : network::kReference;
            if (a >= 0 && b >= 0)
                return FaultSite{std::string(site), std::string(mode), {FaultMode::Short, a, b}};
        }
    }
    std::string near;
    const std::string_view device = site.substr(0, site.find('/'));
    for (FaultSite& candidate : faultSites(plant)) {
        if (candidate.site == site && candidate.mode == mode)
            return std::move(candidate);
        if (near.size() < 300 && std::string_view(candidate.site).substr(0, candidate.site.find('/')) == device)
            near += (near.empty() ? "" : ", ") + candidate.text();
    }
    return unknown(near.empty() ? "TAG/ELEMENT:MODE, wire/ID:open, TAG:TERMINAL+TAG:TERMINAL:short" : near);
}

std::string faultId(const Plant& plant, const Fault& fault)
{
    if (fault.mode == FaultMode::Short) {
        const std::string a = plant.nameOfNode(fault.at);
        return fault.with == network::kReference ? a + ":to_earth" : a + "+" + plant.nameOfNode(fault.with) + ":short";
    }
    for (const FaultSite& site : faultSites(plant))
        if (site.fault == fault
            || (site.fault.mode == fault.mode && fault.mode == FaultMode::SupplyLevel && site.fault.at == fault.at
                && (site.fault.with < 100) == (fault.with < 100)))
            return site.text();
    return "?";
}

Overlay overlayOf(const Plant& plant, const std::vector<Fault>& faults)
{
    Overlay o;
    o.link.assign(plant.links.size(), 0);
    o.impedance.assign(plant.impedances.size(), 0);
    o.lowest.assign(plant.movers.size(), 0);
    for (const PlantMover& m : plant.movers)
        o.highest.push_back(m.spec.last);
    o.losesLatch.assign(plant.movers.size(), 0);
    o.sourceLost.assign(plant.sources.size(), 0);
    o.voltageOf.resize(plant.sources.size());
    std::iota(o.voltageOf.begin(), o.voltageOf.end(), 0);
    o.converterMissing.assign(plant.converters.size(), 0);
    o.converterPercent.assign(plant.converters.size(), 100);
    o.transformerOpen.assign(plant.transformers.size(), 0);
    o.timing.assign(plant.logics.size(), 0);
    o.torqueLow.assign(plant.movers.size(), 0);
    const auto weld = [&](int l) {
        const ContactElement& c = plant.links[at(l)].contact;
        o.link[at(l)] = 1;
        // Mirror and linked contacts: the armature cannot come back to rest over a welded contact.
        if (c.boundsMover && c.mover >= 0)
            o.lowest[at(c.mover)] = std::max<std::uint8_t>(o.lowest[at(c.mover)], 1);
    };
    for (const Fault& f : faults) {
        switch (f.mode) {
        case FaultMode::LinkHeldClosed:
            weld(f.at);
            break;
        case FaultMode::LinkHeldOpen:
            o.link[at(f.at)] = -1;
            break;
        case FaultMode::PolesWelded:
        case FaultMode::PolesOpen:
            for (std::size_t l = 0; l < plant.links.size(); ++l)
                if (plant.links[l].contact.mover == f.at && plant.links[l].contact.kind == ContactKind::Main) {
                    if (f.mode == FaultMode::PolesWelded)
                        weld(static_cast<int>(l));
                    else
                        o.link[l] = -1;
                }
            break;
        case FaultMode::BlockFallenOff:
            for (std::size_t l = 0; l < plant.links.size(); ++l)
                if (plant.links[l].contact.mover == f.at)
                    o.link[l] = (plant.links[l].contact.closedAt & kAtRest) && !plant.links[l].contact.opensWhenOff
                        ? 1
                        : -1;
            break;
        case FaultMode::MoverStuckAtRest:
            o.highest[at(f.at)] = 0;
            break;
        case FaultMode::MoverStuckActuated:
            o.lowest[at(f.at)] = 2;
            break;
        case FaultMode::LatchFails:
            o.losesLatch[at(f.at)] = 1;
            break;
        case FaultMode::ImpedanceOpen:
            o.impedance[at(f.at)] = -1;
            break;
        case FaultMode::ImpedanceShorted:
            o.impedance[at(f.at)] = 1;
            break;
        case FaultMode::Short:
            o.shorts.emplace_back(f.at, f.with);
            break;
        case FaultMode::SourceLost:
            o.sourceLost[at(f.at)] = 1;
            break;
        case FaultMode::PhasesExchanged:
            std::swap(o.voltageOf[at(f.at)], o.voltageOf[at(f.with)]);
            break;
        case FaultMode::SupplyMissing:
            o.converterMissing[at(f.at)] = 1;
            break;
        case FaultMode::SupplyLevel:
            o.converterPercent[at(f.at)] = static_cast<std::uint8_t>(f.with);
            break;
        case FaultMode::TransformerOpen:
            o.transformerOpen[at(f.at)] = 1;
            break;
        case FaultMode::TimingTooLong:
            o.timing[at(f.at)] = static_cast<std::uint8_t>(TimingFault::TooLong);
            break;
        case FaultMode::TimingTooShort:
            o.timing[at(f.at)] = static_cast<std::uint8_t>(TimingFault::TooShort);
            break;
        case FaultMode::TimingNever:
            o.timing[at(f.at)] = static_cast<std::uint8_t>(TimingFault::Never);
            break;
        case FaultMode::TorqueLow:
            o.torqueLow[at(f.at)] = 1;
            break;
        }
    }
    for (std::size_t m = 0; m < plant.movers.size(); ++m)
        o.highest[m] = std::max(o.highest[m], o.lowest[m]);
    return o;
}

} // namespace ts
