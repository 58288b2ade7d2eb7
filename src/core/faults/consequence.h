#pragma once
// Consequential failures: where the current of a first fault is more than the largest fuse of a closed contact would
// let pass, that contact may weld. It belongs to the first fault and is a further way in which it happens. Source: ISO
// 13849-1 clause 3.1.6 and ISO 13849-2 clause 9.1 (failures that follow from a first one count as one).

#include "core/faults/same_fault.h"
#include "core/faults/second_faults.h"

namespace ts::faults {

/// Closed control contacts through which more current flows, and longer, than their largest permitted fuse would let
/// pass: plant links. `state` has the fault in it and has just been applied. What clears the current is whatever
/// protective pole carries it.
std::vector<int> overloadedContacts(const Plant& plant, const State& state, Workspace& workspace);

/// Adds to every fault that lets a current flow the way in which it welds such contacts too, if there are any at some
/// moment of the cycle (SweptFault::welds). Of faults that are the same one is tried. False if cancelled: then not for
/// all.
bool addConsequences(const Context& context, const SameFault& same, std::vector<SweptFault>& faults, int threads,
    std::stop_token stop = {});

} // namespace ts::faults
