#pragma once
// What a sweep says about structure and coverage, subsystem by subsystem of the claim. Source: ISO 13849-1 clause 6
// (what a category demands of single faults and their accumulation), annex E (no coverage better than the measure, nor
// than 99 %). Rates, MTTFd and the category that follows are not looked at here (checks/as_built.h).

#include "core/faults/sweep.h"

namespace ts::faults {

enum class Structure : std::uint8_t {
    Unknown, ///< second faults were not tried, or a run was undecided
    OneChannel, ///< a single fault loses the function
    Tested, ///< one does, but not before something else than the demand has noticed it, had there been time: what
            ///< category 2 is built on
    SingleFaultTolerated, ///< no single one does, but one that stays hidden and then a second one
    AccumulationTolerated ///< nothing hidden adds up to a loss
};
std::string_view nameOf(Structure);

/// Coverage of one part as built.
struct PartCoverage {
    DeviceId device;
    std::string role; ///< of the claim, in words
    double claimed = 0;
    std::optional<double> built; ///< none: no dangerous mode of it was found, or it is not known
    std::vector<int> uncovered; ///< dangerous faults that nothing automatic notices, places in the sweep
};

struct StructureVerdict {
    Structure structure = Structure::Unknown;
    std::vector<int> alone; ///< faults that lose the stop alone
    bool testOnlyWarns = false; ///< Tested: somewhere nothing stops the machine, there is a warning only
    std::vector<int> hidden; ///< faults that stay hidden and count together with others
};

struct SubsystemBuilt {
    std::string name;
    StructureVerdict verdict; ///< with the exclusions
    Structure withoutExclusions = Structure::Unknown;
    std::vector<std::vector<PartCoverage>> channels; ///< in the claim's order
};

struct AsBuilt {
    std::vector<SubsystemBuilt> subsystems; ///< of the claim; encapsulated ones are judged by the wiring around them
    StructureVerdict outside; ///< faults of devices that the claim does not name
    StructureVerdict whole;
    Structure wholeWithoutExclusions = Structure::Unknown;
    std::vector<int> restarts; ///< single faults that defeat only the prevention of restart
    std::vector<int> commonCauses; ///< causes that break several things at once and defeat the function; no single
                                   ///< faults
    std::vector<int> exclusionsUsed; ///< excluded faults that would be lost or hidden
};

/// Whether the fault is one of the claimed part: of its device, and of the element it is claimed for.
bool isOfPart(const SweptFault& fault, const ClaimedPart& part);

/// Pure.
AsBuilt asBuilt(const Sweep& sweep, const SafetyFunction& function);

} // namespace ts::faults
