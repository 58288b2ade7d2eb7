#include "core/faults/twin_slots.h"

#include "core/base/at.h"
#include "core/base/check.h"

#include <algorithm>

namespace ts::faults {
namespace {

/// Slots by what they belong to, in order.
template <class Element>
std::vector<std::vector<int>> byDevice(const std::vector<Element>& elements, std::size_t devices)
{
    std::vector<std::vector<int>> slots(devices);
    for (std::size_t k = 0; k < elements.size(); ++k)
        if (elements[k].device >= 0)
            slots[at(elements[k].device)].push_back(static_cast<int>(k));
    return slots;
}

} // namespace

TwinSlots::TwinSlots(const Plant& plant, std::vector<Twins> twins)
    : m_twins(std::move(twins))
{
    const std::size_t count = plant.devices.size();
    std::array<std::vector<std::vector<int>>, KindCount> own;
    own[Link] = byDevice(plant.links, count);
    own[Mover] = byDevice(plant.movers, count);
    own[Impedance] = byDevice(plant.impedances, count);
    own[Node] = byDevice(plant.terminals, count);
    own[Source] = byDevice(plant.sources, count);
    own[Converter] = byDevice(plant.converters, count);
    own[Transformer] = byDevice(plant.transformers, count);
    own[Logic] = byDevice(plant.logics, count);
    const std::array<std::size_t, KindCount> counts{count, plant.links.size(), plant.movers.size(),
        plant.impedances.size(), at(plant.nodeCount), plant.sources.size(), plant.converters.size(),
        plant.transformers.size(), plant.logics.size()};
    for (int kind = 0; kind < KindCount; ++kind) {
        m_seats[at(kind)].resize(counts[at(kind)]);
        for (const Twins& t : m_twins)
            m_slots[at(kind)].emplace_back(t.ones.size());
    }
    for (std::size_t t = 0; t < m_twins.size(); ++t)
        for (std::size_t one = 0; one < m_twins[t].ones.size(); ++one) {
            const auto seatThere = [&](Kind kind, int slot) {
                seat(kind, slot, static_cast<int>(t), static_cast<int>(one));
            };
            for (int device : m_twins[t].ones[one].devices) {
                seatThere(Device, device);
                for (Kind kind : {Link, Mover, Impedance, Source, Converter, Transformer, Logic})
                    for (int slot : own[kind][at(device)])
                        seatThere(kind, slot);
                for (int terminal : own[Node][at(device)]) // each has a node of its own, or is at the reference
                    if (const int node = plant.terminals[at(terminal)].node; node != network::kReference)
                        seatThere(Node, node);
            }
            for (int wire : m_twins[t].ones[one].wires) {
                const PlantWire& w = plant.wires[at(wire)];
                w.link >= 0 ? seatThere(Link, w.link) : seatThere(Impedance, w.impedance);
            }
        }
}

void TwinSlots::seat(Kind kind, int slot, int twins, int one)
{
    std::vector<int>& slots = m_slots[kind][at(twins)][at(one)];
    Seat& seat = m_seats[kind][at(slot)];
    if (seat.one >= 0) {
        TS_CHECK(kind == Node && seat.one == one && seat.twins == twins); // of a second terminal of a device
        return;
    }
    seat = {twins, one, static_cast<int>(slots.size())};
    slots.push_back(slot);
}

std::vector<TwinSlots::Slot> TwinSlots::slotsOf(Fault& f)
{
    switch (f.mode) {
    case FaultMode::LinkHeldClosed:
    case FaultMode::LinkHeldOpen:
        return {{Link, &f.at}};
    case FaultMode::PolesWelded:
    case FaultMode::PolesOpen:
    case FaultMode::BlockFallenOff:
    case FaultMode::MoverStuckAtRest:
    case FaultMode::MoverStuckActuated:
    case FaultMode::LatchFails:
    case FaultMode::TorqueLow:
        return {{Mover, &f.at}};
    case FaultMode::ImpedanceOpen:
    case FaultMode::ImpedanceShorted:
        return {{Impedance, &f.at}};
    case FaultMode::Short:
        return {{Node, &f.at}, {Node, &f.with}};
    case FaultMode::SourceLost:
        return {{Source, &f.at}};
    case FaultMode::PhasesExchanged:
        return {{Source, &f.at}, {Source, &f.with}};
    case FaultMode::SupplyMissing:
    case FaultMode::SupplyLevel:
        return {{Converter, &f.at}};
    case FaultMode::TransformerOpen:
        return {{Transformer, &f.at}};
    case FaultMode::TimingTooLong:
    case FaultMode::TimingTooShort:
    case FaultMode::TimingNever:
        return {{Logic, &f.at}};
    }
    return {};
}

Touched TwinSlots::touchedBy(const std::vector<std::vector<Fault>>& variants) const
{
    Touched touched(m_twins.size());
    for (const std::vector<Fault>& variant : variants)
        for (Fault fault : variant)
            for (const Slot& s : slotsOf(fault))
                if (const Seat& seat = m_seats[s.kind][at(*s.slot)]; seat.one >= 0)
                    touched[at(seat.twins)].push_back(seat.one);
    for (std::vector<int>& ones : touched) {
        std::sort(ones.begin(), ones.end());
        ones.erase(std::unique(ones.begin(), ones.end()), ones.end());
    }
    return touched;
}

Touched TwinSlots::firstOf(const Touched& touched)
{
    Touched first = touched;
    for (std::vector<int>& ones : first)
        for (std::size_t k = 0; k < ones.size(); ++k)
            ones[k] = static_cast<int>(k);
    return first;
}

Exchange TwinSlots::exchange(const Touched& from, const Touched& to) const
{
    Exchange exchange;
    for (std::size_t t = 0; t < m_twins.size(); ++t) {
        TS_CHECK(from[t].size() == to[t].size());
        std::vector<int> takes(m_twins[t].ones.size());
        for (std::size_t one = 0; one < takes.size(); ++one)
            takes[one] = static_cast<int>(one);
        for (std::size_t k = 0; k < from[t].size(); ++k)
            takes[at(from[t][k])] = to[t][k];
        const auto without = [](const std::vector<int>& ones, const std::vector<int>& others) {
            std::vector<int> rest;
            std::copy_if(ones.begin(), ones.end(), std::back_inserter(rest),
                [&others](int one) { return std::find(others.begin(), others.end(), one) == others.end(); });
            return rest;
        };
        const std::vector<int> free = without(from[t], to[t]), left = without(to[t], from[t]);
        for (std::size_t k = 0; k < left.size(); ++k)
            takes[at(left[k])] = free[k];
        exchange.push_back(std::move(takes));
    }
    return exchange;
}

int TwinSlots::exchanged(Kind kind, int slot, const Exchange& exchange) const
{
    const Seat& seat = m_seats[kind][at(slot)];
    return seat.one < 0 ? slot
                        : m_slots[kind][at(seat.twins)][at(exchange[at(seat.twins)][at(seat.one)])][at(seat.place)];
}

Fault TwinSlots::exchanged(Fault fault, const Exchange& exchange) const
{
    for (const Slot& s : slotsOf(fault))
        *s.slot = exchanged(s.kind, *s.slot, exchange);
    return fault;
}

int TwinSlots::device(int slot, const Exchange& exchange) const
{
    return slot < 0 ? slot : exchanged(Device, slot, exchange);
}

int TwinSlots::link(int slot, const Exchange& exchange) const
{
    return exchanged(Link, slot, exchange);
}

} // namespace ts::faults
