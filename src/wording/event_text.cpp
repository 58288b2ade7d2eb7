#include "wording/event_text.h"

#include "core/base/at.h"
#include "core/simulation/logic.h"
#include "wording/wording.h"

#include <cctype>
#include <cmath>

namespace ts::wording {
namespace {

std::string tagOf(const Plant& plant, int device)
{
    return device < 0 ? std::string() : plant.devices[at(device)].tag;
}

std::string operatedText(const Plant& plant, const Event& e)
{
    for (const auto& [name, what] : plant.devices[at(e.device)].actions)
        if (what.first == e.slot && what.second == e.to)
            return said("event.operated", {tagOf(plant, e.device), actionWord(name)});
    return said("event.operated", {tagOf(plant, e.device), std::string()});
}

std::string movedText(const Plant& plant, const Event& e)
{
    if (e.to == 1)
        return {};
    const MoverSpec& spec = plant.movers[at(e.slot)].spec;
    const std::string tag = tagOf(plant, e.device);
    const bool in = e.to == 2;
    switch (spec.driver) {
    case MoverSpec::Driver::Coil:
        if (spec.turnsAtOnce)
            return in ? said("event.at_speed", {tag}) : std::string(); // that it is at rest is said by itself
        return said(in ? "event.pulls_in" : "event.drops_out",
            {tag, e.net < 0 ? std::string("-") : plant.nets[at(e.net)].name, Measured{e.si, "V"}});
    case MoverSpec::Driver::Operator:
        return said(in ? "event.actuated" : "event.returned", {tag});
    case MoverSpec::Driver::Logic:
        if (!plant.devices[at(e.device)].logics.empty())
            return said(in ? "event.output_on" : "event.output_off", {tag, spec.role});
        return said(in ? "event.inner_in" : "event.inner_out", {tag, spec.role});
    case MoverSpec::Driver::Protection:
        break;
    }
    for (int p : plant.devices[at(e.device)].protections) {
        const Protection& data = plant.protections[at(p)].data;
        if (data.mover != e.slot)
            continue;
        if (e.to != data.trippedTravel)
            return said("event.protection_back", {tag});
        const char* id = data.winding >= 0         ? "event.burns"
            : data.law == Protection::Law::Melting ? "event.melts"
                                                   : "event.trips";
        return said(id, {tag, spec.role, Measured{e.si, "A"}});
    }
    return said(in ? "event.actuated" : "event.returned", {tag});
}

std::string converterText(const Plant& plant, const Event& e)
{
    static constexpr const char* kModes[] = {
        "converter.off", "converter.voltage", "converter.limit", "converter.hold_up", "converter.hold_up"};
    return said("event.supply_mode", {tagOf(plant, e.device), word(kModes[e.to])});
}

} // namespace

std::string faultText(const Plant& plant, const FaultSite& site)
{
    const std::string& s = site.site;
    if (s.starts_with("wire/")) {
        for (const PlantWire& w : plant.wires)
            if (s.substr(5) == std::to_string(w.id.value))
                return said(
                    "fault.wire", {w.number, plant.nameOfNode(w.p), plant.nameOfNode(w.q), word("mode." + site.mode)});
    }
    if (site.mode == "short" || site.mode == "to_earth") {
        const std::size_t plus = s.find('+');
        if (plus != std::string::npos)
            return said("fault.touch", {s.substr(0, plus), s.substr(plus + 1)});
        return said("fault.to_earth", {s});
    }
    const std::size_t slash = s.find('/');
    return said(
        "fault.device", {s.substr(0, slash), word("element." + s.substr(slash + 1)), word("mode." + site.mode)});
}

std::string faultText(const Plant& plant, const Fault& fault)
{
    const auto site = faultFrom(plant, faultId(plant, fault));
    return site ? faultText(plant, *site) : std::string();
}

std::string modeWord(const FaultSite& site)
{
    const std::size_t slash = site.site.find('/');
    return said("fault.mode", {word("element." + site.site.substr(slash + 1)), word("mode." + site.mode)});
}

namespace {

std::string upper(std::string_view text)
{
    std::string result(text);
    for (char& c : result)
        c = static_cast<char>(std::toupper(static_cast<unsigned char>(c)));
    return result;
}

} // namespace

std::string actionWord(std::string_view action)
{
    constexpr std::string_view kTurn = "turn_to_";
    if (action.starts_with(kTurn))
        return said("action.turned", {std::string(action.substr(kTurn.size()))});
    if (action.starts_with("lose_"))
        return said("action.lose_line", {upper(action.substr(5))});
    return word("action." + std::string(action));
}

std::string doWord(std::string_view action)
{
    constexpr std::string_view kTurn = "turn_to_";
    if (action.starts_with(kTurn))
        return said("do.turn", {std::string(action.substr(kTurn.size()))});
    return word("do." + std::string(action));
}

std::string logicWord(const Plant& plant, int logic, std::uint8_t mode, std::uint8_t flags)
{
    const DeviceLogic& data = plant.logics[at(logic)].data;
    const std::string state = word(std::string("logic.") + modeName(data, mode));
    const auto* monitor = std::get_if<PhaseMonitorLogic>(&data);
    const std::string reason = monitor ? monitorReason(*monitor, flags) : "";
    return reason.empty() ? state : said("logic.because", {state, word("reason." + reason)});
}

std::string stateWord(std::string_view state)
{
    if (state.starts_with("at_") && state != "at_rest")
        return said("state.at", {std::string(state.substr(3))});
    if (!knows("state." + std::string(state)) && knows("logic." + std::string(state)))
        return word("logic." + std::string(state));
    return word("state." + std::string(state));
}

namespace {

/// A device of several stages is told by stage: "K0 input 1", after the movers of it.
std::string stageName(const Plant& plant, const Event& e)
{
    const std::string tag = tagOf(plant, e.device);
    if (plant.devices[at(e.device)].relays.size() < 2)
        return tag;
    std::string role = plant.movers[at(plant.relays[at(e.slot)].data.firstRelay)].spec.role; // "input 1.a", "output a"
    role.pop_back();
    while (!role.empty() && (role.back() == '.' || role.back() == ' '))
        role.pop_back();
    return tag + " " + role;
}

bool isInputStage(const Plant& plant, const Event& e)
{
    return plant.movers[at(plant.relays[at(e.slot)].data.firstRelay)].spec.role.starts_with("input");
}

/// What a safety relay, or one of its stages, has seen or done.
std::string relayText(const Plant& plant, const Event& e)
{
    const std::string name = stageName(plant, e);
    switch (e.why) {
    case Why::RelaySupply:
        return said(e.to ? "event.relay_supply_on" : "event.relay_supply_off", {name});
    case Why::ChannelChanged:
        return said(e.to ? "event.channel_on" : "event.channel_off", {name, static_cast<long long>(e.from)});
    case Why::LockedOut:
        return said("event.locked_out", {name});
    case Why::LockOutCleared:
        return said("event.lock_out_cleared", {name});
    case Why::ResetWanted:
        return said("event.reset_wanted", {name});
    case Why::OutputsOn:
        return said(isInputStage(plant, e) ? "event.input_on" : "event.outputs_on", {name});
    default:
        return said(isInputStage(plant, e) ? "event.input_off" : "event.outputs_off", {name});
    }
}

} // namespace

std::string eventText(const Plant& plant, const Event& e)
{
    const std::string tag = tagOf(plant, e.device);
    const bool isMotor = e.device >= 0 && !plant.devices[at(e.device)].motors.empty();
    switch (e.why) {
    case Why::Operated:
        return operatedText(plant, e);
    case Why::KnobSet:
        return said("event.knob", {plant.knobs[at(e.slot)].name, Measured{e.si, "%"}});
    case Why::FaultOn:
    case Why::FaultOff: {
        const Fault fault{static_cast<FaultMode>(e.slot), e.from, e.to};
        return said(e.why == Why::FaultOn ? "event.fault_on" : "event.fault_off", {faultText(plant, fault)});
    }
    case Why::Moved:
        return movedText(plant, e);
    case Why::Lit:
        return said("event.lit", {tag});
    case Why::Dark:
        return said("event.dark", {tag});
    case Why::PathChanged:
        if (!isMotor)
            return said(e.to > 0 ? "event.power_on" : "event.power_off", {tag});
        return said("event.path", {tag, static_cast<long long>(e.to)});
    case Why::Turning:
        return said(isMotor ? "event.turning" : "event.acts", {tag});
    case Why::RanUp:
        return said("event.ran_up", {tag, Measured{std::round(e.si * 30.0 / M_PI), "/min"}});
    case Why::PowerOff:
        return said(isMotor ? "event.coasts" : "event.goes_off", {tag});
    case Why::AtRest:
        return said("event.at_rest", {tag});
    case Why::SupplyMode:
        return converterText(plant, e);
    case Why::RelaySupply:
    case Why::ChannelChanged:
    case Why::LockedOut:
    case Why::LockOutCleared:
    case Why::ResetWanted:
    case Why::OutputsOn:
    case Why::OutputsOff:
        return relayText(plant, e);
    case Why::LogicMode:
        return said("event.supply_mode",
            {tag, logicWord(plant, e.slot, static_cast<std::uint8_t>(e.to), static_cast<std::uint8_t>(e.from))});
    case Why::Race:
        return said("event.race", {tag, tagOf(plant, plant.movers[at(e.from)].device)});
    }
    return {};
}

bool isNews(const Trace& trace, std::size_t event)
{
    const Event& e = trace.events[event];
    if (e.why != Why::RanUp)
        return true;
    while (event-- > 0) {
        const Event& before = trace.events[event];
        if (before.device != e.device || before.slot != e.slot)
            continue;
        if (before.why == Why::RanUp)
            return false;
        if (before.why == Why::PathChanged || before.why == Why::Turning)
            return true;
    }
    return true;
}

} // namespace ts::wording
