#pragma once
// Words for enumerators in the JSON output. They are part of the documented format: never rename one.

#include "core/simulation/state.h"

#include <string_view>

namespace ts::cli {

constexpr std::string_view nameOf(Why why)
{
    switch (why) {
    case Why::Operated:
        return "operated";
    case Why::KnobSet:
        return "knob_set";
    case Why::FaultOn:
        return "fault_on";
    case Why::FaultOff:
        return "fault_off";
    case Why::Moved:
        return "moved";
    case Why::Lit:
        return "lit";
    case Why::Dark:
        return "dark";
    case Why::PathChanged:
        return "path_changed";
    case Why::Turning:
        return "turning";
    case Why::RanUp:
        return "ran_up";
    case Why::PowerOff:
        return "power_off";
    case Why::AtRest:
        return "at_rest";
    case Why::SupplyMode:
        return "supply_mode";
    case Why::RelaySupply:
        return "relay_supply";
    case Why::ChannelChanged:
        return "channel_changed";
    case Why::LockedOut:
        return "locked_out";
    case Why::LockOutCleared:
        return "lock_out_cleared";
    case Why::ResetWanted:
        return "reset_wanted";
    case Why::OutputsOn:
        return "outputs_on";
    case Why::OutputsOff:
        return "outputs_off";
    case Why::LogicMode:
        return "logic_mode";
    case Why::Race:
        return "race";
    }
    return "";
}

} // namespace ts::cli
