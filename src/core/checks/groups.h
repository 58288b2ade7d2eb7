#pragma once
// The checks themselves, one per judgement. Listed in registry.cpp; what each asks is its name in the wording.

#include "core/analysis/analysis.h"
#include "core/checks/check.h"

namespace ts::checks {

/// The required level is entered and reached, and its conditions are answered (level.cpp).
void levelReached(const CheckInput&, std::vector<Finding>&);
/// The stop category as read is the chosen one, allowed, and in time (stop.cpp).
void stopCategoryAllowed(const CheckInput&, std::vector<Finding>&);
/// The distance is as long as the time to rest needs, over all states and with each single fault that does not lose the
/// stop (stop.cpp).
void distanceKept(const CheckInput&, std::vector<Finding>&);
/// Every device, contact and motor the claim names is in the circuit (claim.cpp).
void claimRefersToParts(const CheckInput&, std::vector<Finding>&);
/// What is claimed does not contradict the file's own entries (claim_data.cpp; safety/contradiction.h).
void claimAgreesWithData(const CheckInput&, std::vector<Finding>&);
/// Every motor is brought to rest by a function that a person relies on (completeness.cpp).
void everyMotorStops(const CheckInput&, std::vector<Finding>&);
/// Every wire is laid somewhere: between wires that are laid nowhere no short is tried (completeness.cpp).
void everyWireIsLaid(const CheckInput&, std::vector<Finding>&);
void everyContactIsKnown(const CheckInput&, std::vector<Finding>&);
/// A device has no contact that its part has not and no block could add (completeness.cpp).
void contactsAreOnTheirPart(const CheckInput&, std::vector<Finding>&);
/// Every exclusion of a fault says why (completeness.cpp).
void exclusionsHaveReasons(const CheckInput&, std::vector<Finding>&);
bool hasExclusions(const Dossier&, const Subject&);
bool hasFunctions(const Dossier&, const Subject&);
bool hasScenarios(const Dossier&, const Subject&);
/// Every scenario can be run and ends as it expects (scenarios.cpp).
void scenariosEndAsExpected(const CheckInput&, std::vector<Finding>&);
/// Every emergency stop and guard is the trigger of a function, and stops what it names (completeness.cpp).
void protectiveDevicesStop(const CheckInput&, std::vector<Finding>&);
/// What clamps or carries by current does not let go by a stop (completeness.cpp).
void whatHoldsGoesOn(const CheckInput&, std::vector<Finding>&);
/// There is an emergency stop, and each stays operated when it is let go (completeness.cpp).
void emergencyStopsLatch(const CheckInput&, std::vector<Finding>&);
/// Nothing that returns, and no reset, starts a motor (starts.cpp).
void startsOnlyWhenAsked(const CheckInput&, std::vector<Finding>&);
/// Where a monitor watches the lines, no motor stays fed without one of them (starts.cpp).
void linesAreWatched(const CheckInput&, std::vector<Finding>&);
/// Motors, contactors, fuses, wires, contacts and supplies bear what they need (sizing.cpp).
void sizesSuffice(const CheckInput&, std::vector<Finding>&);
/// Figures that are missing, and rules that this edition does not judge.
std::vector<NotLookedAt> leftOutOfSizes(const CheckInput&);
/// Contactors that inch or plug are not reckoned with an AC-3 value (duty.cpp).
void contactorDuty(const CheckInput&, std::vector<Finding>&);
/// What single faults do is borne by the claim (as_built.cpp).
void singleFaults(const CheckInput&, std::vector<Finding>&);
/// So is what they do where something else than the first trigger demands the function (as_built.cpp).
void otherTriggersTried(const CheckInput&, std::vector<Finding>&);
bool hasOtherTriggers(const Dossier&, const Subject&);
/// So is what second faults do, and what is noticed of them (as_built.cpp).
void secondFaults(const CheckInput&, std::vector<Finding>&);
/// The circuit without faults bears the limits of times and voltage (as_built.cpp).
void limits(const CheckInput&, std::vector<Finding>&);
/// The latest stop of all cases is in time (worst_stop.cpp).
void worstStop(const CheckInput&, std::vector<Finding>&);
/// The record still covers the circuit, and no test and no part is past its day (recorded.cpp).
void recordCovers(const CheckInput&, std::vector<Finding>&);
std::vector<NotLookedAt> leftOutOfRecord(const CheckInput&);
/// No order of operation shows anything wrong (explored.cpp).
void everyOrder(const CheckInput&, std::vector<Finding>&);

/// Each function of the dossier with its level and stop, if they have been worked out.
template <class Look> void forEachFunction(const CheckInput& input, const Look& look)
{
    const auto levels = input.results.find(kLevels);
    for (std::size_t k = 0; levels && k < input.dossier.functions.size(); ++k)
        look(input.dossier.functions[k], levels->functions[k]);
}

} // namespace ts::checks
