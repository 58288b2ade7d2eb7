#pragma once
// What the two channels of a subsystem have in common, by the file: a cause that reaches one of these reaches both.
// Source: ISO 13849-1 annex F (what common cause failures come from).

#include "core/model/circuit.h"
#include "core/model/function.h"

#include <string>
#include <vector>

namespace ts::safety {

struct ChannelMeans {
    enum class Kind : std::uint8_t {
        Device, ///< one housing, one mechanism
        Part, ///< the same type from the parts list
        Route, ///< cable, duct or enclosure in which its wires lie
        Conductor, ///< wires joined to one point
        Place
    };
    Kind kind = Kind::Device;
    std::string name;
    bool isInFirst = false, isInSecond = false;
    bool isShared() const { return isInFirst && isInSecond; }
    bool operator==(const ChannelMeans&) const = default;
};

/// Wires at the terminals of the claimed contact or other single element; none for main poles or a whole device.
std::vector<const Wire*> wiresOf(const Circuit& circuit, const ClaimedPart& part);

/// Shared ones first, then by kind and name. Empty unless there are two channels. Pure.
std::vector<ChannelMeans> meansOfChannels(const Circuit& circuit, const ClaimedSubsystem& subsystem);

} // namespace ts::safety
