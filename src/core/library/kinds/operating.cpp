// What a hand operates and what answers the eye: push button, emergency stop, lamp; and the terminal block.

#include "core/library/kinds/build.h"
#include "core/library/kinds/kinds.h"

#include <array>
#include <set>

namespace ts::kinds {
namespace {

using Type = ParameterSpec::Type;

constexpr std::array kButtonParameters{
    ParameterSpec{"contacts", Type::WordList, 0, 0, {}, {}, {}, {}, true},
    ParameterSpec{"colour", Type::Word, 0, 0, {}, "black", "black white grey green red blue yellow", "assumed"},
    ParameterSpec{"purpose", Type::Word, 0, 0, {}, "other", "start stop reset other", "assumed"},
};
constexpr std::array kButtonFaults{FailureModeSpec{"contact", "welded"}, FailureModeSpec{"contact", "does_not_close"},
    FailureModeSpec{"actuator", "jammed_pressed"}};
constexpr std::array kStopFaults{FailureModeSpec{"contact", "welded"}, FailureModeSpec{"contact", "does_not_close"},
    FailureModeSpec{"block", "fallen_off"}, FailureModeSpec{"latch", "does_not_hold"}, FailureModeSpec{"actuator", "broken"}};

Expected<Body> withContacts(const Parameters& p, MoverSpec mover)
{
    Body b;
    b.movers.push_back(std::move(mover));
    std::set<std::string> seen;
    if (p.words("contacts").empty() || p.words("contacts").size() > 8)
        return failure(ErrorCode::Refused, message("kind.contact_count", {p.tag()}));
    for (const std::string& pair : p.words("contacts")) {
        const auto kind = contactKindOf(pair, p.tag());
        if (!kind)
            return Unexpected{kind.error()};
        if (!seen.insert(pair).second)
            return failure(ErrorCode::Refused, message("kind.contact_twice", {p.tag(), pair}));
        addContact(b, pair, {*kind, 0, *kind == ContactKind::NormallyOpen ? kActuated : kAtRest});
    }
    return b;
}

Expected<Body> buttonBody(const Parameters& p, Timing timing)
{
    const double gap = timed(deviceDefault("push button", "nc_opens_before_no_closes"), timing);
    auto b = withContacts(p, {"button", MoverSpec::Driver::Operator, 0, gap, 0.0, gap, false});
    if (b)
        b->actions = {{"press", 0, 2}, {"release", 0, 0}};
    return b;
}

constexpr std::array kStopParameters{
    ParameterSpec{"contacts", Type::WordList, 0, 0, {}, "11-12 21-22", {}, "assumed"},
    ParameterSpec{"direct_opening", Type::Flag, 0, 0, {}, "yes", {}, "clause IEC 60947-5-5"},
};

Expected<Body> stopBody(const Parameters& p, Timing timing)
{
    const double opening = timed(deviceDefault("emergency stop device", "opening_time"), timing);
    const double gap = timed(deviceDefault("emergency stop device", "nc_opens_before_no_closes"), timing);
    auto b = withContacts(p, {"latch", MoverSpec::Driver::Operator, 0, opening + gap, 0.0, gap, true});
    if (b)
        b->actions = {{"press", 0, 2}, {"unlatch", 0, 0}, {"release", 0, 0}};
    return b;
}

constexpr std::array kLampParameters{
    ParameterSpec{"rated_voltage_v", Type::Number, 1, 1000, {}, {}, {}, {}, true},
    ParameterSpec{"rated_current_a", Type::Number, 1e-4, 10, {}, {}, {}, "assumed"},
    ParameterSpec{"colour", Type::Word, 0, 0, {}, "white", "white green yellow red blue", "assumed"},
};
constexpr std::array kLampFaults{FailureModeSpec{"lamp", "open"}, FailureModeSpec{"lamp", "shorted"}};

Expected<Body> lampBody(const Parameters& p, Timing)
{
    Body b;
    Element e;
    e.role = "lamp";
    e.terminals[0] = addTerminal(b, "X1");
    e.terminals[1] = addTerminal(b, "X2");
    const double u = p.number("rated_voltage_v");
    const double rated = p.isWritten("rated_current_a")
        ? p.number("rated_current_a")
        : deviceDefault("indicator lamp", u < 60 ? "current_24v" : "current_230v").nominal;
    e.what = LampElement{u / rated, rated, deviceDefault("indicator lamp", "visible_from").nominal};
    b.elements.push_back(e);
    return b;
}

constexpr std::array kTerminalParameters{ParameterSpec{"terminals", Type::WordList, 0, 0, {}, {}, {}, {}, true}};

Expected<Body> terminalBody(const Parameters& p, Timing)
{
    Body b;
    std::set<std::string> seen;
    for (const std::string& marking : p.words("terminals")) {
        if (marking.empty() || marking.size() > 12 || marking.find(':') != marking.npos || !seen.insert(marking).second)
            return failure(ErrorCode::Refused, message("kind.terminal_marking", {p.tag(), marking}));
        addTerminal(b, marking);
    }
    return b;
}

} // namespace

const DeviceKind pushButton{"push_button", "S", kButtonParameters, buttonBody, kButtonFaults, "button", "button"};
const DeviceKind emergencyStop{"emergency_stop", "S", kStopParameters, stopBody, kStopFaults, "emergency_stop", "emergency_stop"};
const DeviceKind lamp{"lamp", "P", kLampParameters, lampBody, kLampFaults, "lamp", "lamp"};
const DeviceKind terminalBlock{"terminal_block", "X", kTerminalParameters, terminalBody, {}, "terminal", "terminals"};

} // namespace ts::kinds
