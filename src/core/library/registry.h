#pragma once
// All device kinds, sorted by id. To add one: a file in kinds/, a line in registry.cpp, wording, a test.

#include "core/library/kind.h"

#include <span>

namespace ts {

std::span<const DeviceKind* const> deviceKinds();
/// Null if there is no such kind.
const DeviceKind* deviceKind(std::string_view id);

/// The body of a device with its parameters resolved against its part. Fails with NotFound for an unknown kind or
/// part, with OutOfRange for values its kind refuses.
Expected<Body> bodyOf(const Circuit& circuit, const Device& device, Timing timing = Timing::Nominal);
/// How the name of a contact ends of which nobody has found out what it does: "5-6/unknown".
constexpr std::string_view kUnknownContact = "/unknown";
/// Those of a device, by their terminals: "5-6".
std::vector<std::string> unknownContacts(const Circuit& circuit, const Device& device);
/// What is written of a device: its own values over its part's.
ParameterMap writtenValues(const Circuit& circuit, const Device& device);
/// It moves, heats or holds: something that a function brings to rest.
bool isActuator(const Device& device);
/// The hazard is that it lets go: MoverSpec::holds. False where its parameters are wrong.
bool mustHold(const Circuit& circuit, const Device& device);
/// On the door: written so, or, where nothing is written, of a kind that a hand works or an eye looks at there.
bool standsOnDoor(const Device& device);

Expected<Parameters> parametersOf(const Circuit& circuit, const Device& device);

} // namespace ts
