#pragma once
// The chain of a safety function as its wiring shows it: what senses, what decides, what takes the power away. A
// beginning to be looked at by a person: no measure, no answer and no cycle is guessed, so that no level comes out
// before somebody has given them.

#include "core/base/expected.h"
#include "core/model/dossier.h"
#include "core/simulation/plant.h"

#include <stop_token>

namespace ts {

/// Sensing: the trigger's contacts that open with it, a channel each. Deciding: relays without which a demand taken
/// again no longer stops, one alone or two together; electronics encapsulated, with the PFHd that their maker gives.
/// Switching, once for each group of motors with the same contactors: each contactor that takes the power alone is a
/// channel; those that do so only together are one. The category is the one of the structure alone: "B" for one
/// channel, "3" for two. Fails as compile() does, with Refused where the function has no scenario to run, and with
/// Cancelled.
Expected<std::vector<ClaimedSubsystem>> suggestedClaim(
    const Dossier& dossier, const SafetyFunction& function, std::stop_token stop = {});

/// Everything that a channel can name, in order of devices: wired contacts of what is operated or pulls in, and the
/// main poles of contactors. Electronics are left out.
std::vector<ClaimedPart> claimableParts(const Circuit& circuit, const Plant& plant);

/// Safety relays and other electronics, and whatever has a maker's PFHd.
std::vector<DeviceId> encapsulatedDevices(const Circuit& circuit, const Plant& plant);

} // namespace ts
