#pragma once
// Every fault that is put into a circuit, one line each, with its variants and whether it may be left out. What one
// fault does to a circuit is in simulation/fault.h; what comes of it is in sweep.h.

#include "core/model/dossier.h"
#include "core/simulation/advance.h"
#include "core/simulation/plant.h"
#include "core/simulation/state.h"

#include <string>
#include <string_view>
#include <vector>

namespace ts::faults {

enum class Family { Part, Wire, Short, CommonCause };

/// All supplies at a share of their voltage from some time after the moment on.
struct SupplyStep {
    double afterS = 0;
    double share = 1;
    bool operator==(const SupplyStep&) const = default;
};

struct SweptFault {
    std::string id; ///< "Q1/main:welded", "wire/46:open", "Q1:A1+Q9:A1:short"
    std::string group; ///< what it is listed under: a device's tag, or the route of a short
    std::string element, mode; ///< words: "11-12", "does_not_open"; for a short "Q1:A1+Q9:A1", "short"
    Family family = Family::Part;
    std::vector<DeviceId> devices; ///< the part, or all whose terminals are on the wire or nets
    std::vector<std::vector<Fault>> variants; ///< ways in which it can happen; the worst one counts
    std::vector<int> welds; ///< plant links that its current may weld as a consequence: the last variant has them too
    std::vector<SupplyStep> supply; ///< of a disturbance of the supply: its course, which ends at the rated voltage
                                    ///< again
    std::vector<RouteId> routes; ///< of a short: where the two nets lie beside each other
    std::string table; ///< of ISO 13849-2, under which it may be excluded; empty: never
    std::string condition; ///< that must hold for that, a row of failure_modes.csv
    bool isExcluded = false;
    std::string reason; ///< of the exclusion
    bool operator==(const SweptFault&) const = default;
};

/// All faults of the kinds on all devices, every wire open, and every short between two nets, or a net and earth, that
/// share a route; in order of devices, wires, nets; then common causes ("route/44:cut", "Q1+Q9:welded_together",
/// "supply:interrupted"), which are no single faults. Exclusions of the dossier are marked, not removed; a broken
/// mirror or linked contact is marked by itself. Source: ISO 13849-2 tables D.1 to D.8, failure_modes.csv.
std::vector<SweptFault> faultList(const Plant& plant, const Dossier& dossier);

/// What a disturbance of the supply does, counted from a moment; empty for any other fault.
std::vector<Stimulus> supplyCourse(const Plant& plant, const SweptFault& fault, TimeNs moment);

/// The fault of this id, or null.
const SweptFault* faultNamed(const std::vector<SweptFault>& list, std::string_view id);

/// "main poles: welded", "wire 46 between Q1:A1 and X1:3: open": said below the device or route that the fault is
/// listed under.
Message labelOf(const SweptFault& fault, const Circuit& circuit);
/// The same with the device in front, to be said alone.
Message messageOf(const SweptFault& fault, const Circuit& circuit);

/// Exclusions of the dossier that name no fault and no route of the circuit.
std::vector<std::string> emptyExclusions(const std::vector<SweptFault>& list, const Dossier& dossier);

} // namespace ts::faults
