#pragma once
// Events of a trace as lines that an electrician reads: what happened, to what, because of what.

#include "core/simulation/plant.h"
#include "core/simulation/state.h"

namespace ts::wording {

/// "Q1 drops out, net 35 at 0 V". Empty for moves half way, which no one sees.
std::string eventText(const Plant& plant, const Event& event);

/// False for what was said already: a motor that has run up again after a dip, its power being the same.
bool isNews(const Trace& trace, std::size_t event);

/// A fault as one says it: "Q1 main poles: welded", "wire 35 (id 70): open", "K1:S12 touches K1:S22".
std::string faultText(const Plant& plant, const Fault& fault);
/// The same for a listed fault, without looking it up again.
std::string faultText(const Plant& plant, const FaultSite& site);

/// Mode of a fault in the words that stand beside a tick box: "contacts welded".
std::string modeWord(const FaultSite& site);

/// What was done, "turned to hand", and what a button for it says, "Turn to hand".
std::string actionWord(std::string_view action);
std::string doWord(std::string_view action);

/// What a timer, monitor, gate, starter or drive is doing: "tripped: a phase is lost".
std::string logicWord(const Plant& plant, int logic, std::uint8_t mode, std::uint8_t flags);

/// "K1 outputs on", "Q1 pulled in" ... state words of scenarios.
std::string stateWord(std::string_view state);

} // namespace ts::wording
