#pragma once
// The slots of a plant with twins exchanged for each other (twins.h).

#include "core/faults/twins.h"
#include "core/simulation/fault.h"

#include <array>

namespace ts::faults {

/// By twins: which ones of them something is in, in the order in which they are told.
using Touched = std::vector<std::vector<int>>;
/// By twins, by one: whose part it takes.
using Exchange = std::vector<std::vector<int>>;

class TwinSlots {
public:
    TwinSlots(const Plant& plant, std::vector<Twins> twins);

    /// Ascending.
    Touched touchedBy(const std::vector<std::vector<Fault>>& variants) const;
    /// As many of each as are touched: the first ones.
    static Touched firstOf(const Touched& touched);
    /// `from` take the parts of `to`, in their order, and those whose part was taken take what is free. Both touch as
    /// many of each.
    Exchange exchange(const Touched& from, const Touched& to) const;

    Fault exchanged(Fault fault, const Exchange& exchange) const;
    int device(int slot, const Exchange& exchange) const; ///< -1 stays
    int link(int slot, const Exchange& exchange) const;

private:
    enum Kind { Device, Link, Mover, Impedance, Node, Source, Converter, Transformer, Logic, KindCount };
    /// Where a slot is: at which place of which one; -1: in none.
    struct Seat {
        int twins = -1, one = -1, place = -1;
    };
    struct Slot {
        Kind kind = Device;
        int* slot = nullptr;
    };
    /// The slots that a fault names.
    static std::vector<Slot> slotsOf(Fault& fault);
    void seat(Kind kind, int slot, int twins, int one);
    int exchanged(Kind kind, int slot, const Exchange& exchange) const;

    std::vector<Twins> m_twins;
    std::array<std::vector<Seat>, KindCount> m_seats; ///< by slot
    /// By twins, one, place. An order of places that is the same for each one.
    std::array<std::vector<std::vector<std::vector<int>>>, KindCount> m_slots;
};

} // namespace ts::faults
