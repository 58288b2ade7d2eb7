#pragma once
// The checks themselves, one per judgement. Listed in registry.cpp; what each asks is its name in the wording.

#include "core/checks/check.h"

namespace ts::checks {

/// The required level is entered and reached, and its conditions are answered (level.cpp).
void levelReached(const CheckInput&, std::vector<Finding>&);
/// The stop category as read is the chosen one, allowed, and in time (stop.cpp).
void stopCategoryAllowed(const CheckInput&, std::vector<Finding>&);
/// Every device, contact and motor the claim names is in the circuit (claim.cpp).
void claimRefersToParts(const CheckInput&, std::vector<Finding>&);

/// Contactors that inch or plug are not reckoned with an AC-3 value (duty.cpp).
void contactorDuty(const CheckInput&, std::vector<Finding>&);

} // namespace ts::checks
