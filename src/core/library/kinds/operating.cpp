// What a hand pushes and what answers: push button, emergency stop, lamp, horn, controller input; terminal block,
// exposed part.

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
    kContactAc,
    kContactDc,
    kContactAc15,
    kContactDc13,
    kContactFuse,
};
constexpr std::array kButtonFaults{FailureModeSpec{"contact", "welded"}, FailureModeSpec{"contact", "does_not_close"},
    FailureModeSpec{"actuator", "jammed_pressed"}};
constexpr std::array kStopFaults{FailureModeSpec{"contact", "welded"}, FailureModeSpec{"contact", "does_not_close"},
    FailureModeSpec{"block", "fallen_off"}, FailureModeSpec{"latch", "does_not_hold"},
    FailureModeSpec{"actuator", "broken"}};

Expected<Body> withContacts(const Parameters& p, MoverSpec mover, bool isMonitored = false)
{
    if (p.words("contacts").empty())
        return failure(ErrorCode::Refused, message("kind.contact_count", {p.tag()}));
    Body b;
    b.movers.push_back(std::move(mover));
    if (auto ok = addContacts(b, p.words("contacts"), p.tag(),
            [isMonitored](ContactKind kind) {
                ContactElement contact = contactOf(0, kind);
                contact.opensWhenOff = isMonitored;
                return contact;
            });
        !ok)
        return Unexpected{ok.error()};
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
    ParameterSpec{"monitored_block", Type::Flag, 0, 0, {}, "no", {}, "assumed"},
    kContactAc,
    kContactDc,
    kContactAc15,
    kContactDc13,
    kContactFuse,
};

Expected<Body> stopBody(const Parameters& p, Timing timing)
{
    const double opening = timed(deviceDefault("emergency stop device", "opening_time"), timing);
    const double gap = timed(deviceDefault("emergency stop device", "nc_opens_before_no_closes"), timing);
    auto b = withContacts(
        p, {"latch", MoverSpec::Driver::Operator, 0, opening + gap, 0.0, gap, true}, p.flag("monitored_block"));
    if (b)
        b->actions = {{"press", 0, 2}, {"unlatch", 0, 0}, {"release", 0, 0}};
    return b;
}

constexpr std::array kLampParameters{
    ParameterSpec{"rated_voltage_v", Type::Number, 1, 1000, {}, {}, {}, {}, true},
    ParameterSpec{"rated_current_a", Type::Number, 1e-4, 10, {}, {}, {}, "assumed"},
    ParameterSpec{"colour", Type::Word, 0, 0, {}, "white", "white green yellow red blue", "assumed"},
    ParameterSpec{"filament", Type::Flag, 0, 0, {}, "no", {}, "assumed"},
};
constexpr std::array kLampFaults{FailureModeSpec{"lamp", "open"}, FailureModeSpec{"lamp", "shorted"}};

/// One two-pole that shows something; its current is written or a row of the table.
Body shownBy(const char* role, std::array<const char*, 2> markings, LampElement lamp)
{
    Body b;
    const int p = addTerminal(b, markings[0]), q = addTerminal(b, markings[1]);
    addTwoPole(b, role, p, q, lamp);
    return b;
}

double ratedCurrent(const Parameters& p, const char* row)
{
    return p.isWritten("rated_current_a")
        ? p.number("rated_current_a")
        : deviceDefault(row, p.number("rated_voltage_v") < 60 ? "current_24v" : "current_230v").nominal;
}

Expected<Body> lampBody(const Parameters& p, Timing)
{
    const double rated = ratedCurrent(p, "indicator lamp");
    return shownBy("lamp", {"X1", "X2"},
        {p.number("rated_voltage_v") / rated, rated, deviceDefault("indicator lamp", "visible_from").nominal});
}

constexpr std::array kHornParameters{
    ParameterSpec{"rated_voltage_v", Type::Number, 1, 1000, {}, {}, {}, {}, true},
    ParameterSpec{"rated_current_a", Type::Number, 1e-4, 10, {}, {}, {}, "assumed"},
};

Expected<Body> hornBody(const Parameters& p, Timing)
{
    const double rated = ratedCurrent(p, "horn");
    return shownBy("horn", {"X1", "X2"},
        {p.number("rated_voltage_v") / rated, rated, deviceDefault("coil", "must_pull_in").nominal,
            LampElement::Shows::Sound});
}

constexpr std::array kInputParameters{
    ParameterSpec{"input_resistance_ohm", Type::Number, 100, 1e6, {}, {}, {}, "assumed"},
    ParameterSpec{"on_from_v", Type::Number, 1, 300, {}, {}, {}, "clause IEC 61131-2"},
    ParameterSpec{"pull", Type::Word, 0, 0, {}, "none", "none up", "assumed"},
    ParameterSpec{"pull_resistance_ohm", Type::Number, 10, 1e6, {}, {}, {}, "assumed"},
};

/// Between IN and M it is a sinking input; the other way round, from + to IN, a sourcing one. With a pull-up it has a
/// terminal + and reads on until a contact joins IN to M.
Expected<Body> inputBody(const Parameters& p, Timing)
{
    const double ohm = timedParameter(
        p, "input_resistance_ohm", deviceDefault("controller input", "resistance"), Timing::Nominal);
    const double on = timedParameter(p, "on_from_v", deviceDefault("controller input", "on_from"), Timing::Nominal);
    Body b = shownBy("input", {"IN", "M"}, {ohm, on / ohm, 1.0, LampElement::Shows::Input});
    if (p.word("pull") == "up") {
        const double pull = timedParameter(
            p, "pull_resistance_ohm", deviceDefault("controller input", "pull_resistance"), Timing::Nominal);
        addTwoPole(b, "pull-up", addTerminal(b, "+"), terminalOf(b, "IN"), LoadElement{{pull, 0.0}, pull});
    }
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

constexpr std::array kExposedParameters{
    ParameterSpec{"width_m", Type::Number, 0.05, 10, {}, {}, {}, "measured"},
    ParameterSpec{"height_m", Type::Number, 0.05, 10, {}, {}, {}, "measured"},
    ParameterSpec{"depth_m", Type::Number, 0.05, 10, {}, {}, {}, "measured"},
    ParameterSpec{"mounting", Type::Word, 0, 0, {}, "wall", "wall free", "assumed"},
    ParameterSpec{"ambient_c", Type::Number, -20, 60, 40, {}, {}, "clause EN 60204-1 4.4.3"},
    ParameterSpec{"inside_at_most_c", Type::Number, 20, 90, 55, {}, {}, "assumed"},
};

/// With its size it is the enclosure in which all lies that is not in the field.
/// Metal that a hand can touch and that a fault can make live: door, plate, box, frame. Source: EN 60204-1 clause 8.2.
Expected<Body> exposedBody(const Parameters&, Timing)
{
    Body b;
    addTerminal(b, "PE");
    return b;
}

} // namespace

const DeviceKind pushButton{
    "push_button", "S", kButtonParameters, buttonBody, kButtonFaults, "button", "button", "contacts"};
const DeviceKind emergencyStop{"emergency_stop", "S", kStopParameters, stopBody, kStopFaults, "emergency_stop",
    "emergency_stop", "contacts", {.protects = KindTraits::Protects::EmergencyStop}};
const DeviceKind lamp{"lamp", "P", kLampParameters, lampBody, kLampFaults, "lamp", "lamp"};
const DeviceKind horn{"horn", "P", kHornParameters, hornBody, {}, "lamp", "horn"};
const DeviceKind controllerInput{"controller_input", "K", kInputParameters, inputBody, {}, "box", "input"};
const DeviceKind exposedPart{"exposed_part", "U", kExposedParameters, exposedBody, {}, "exposed_part", "frame"};
const DeviceKind terminalBlock{"terminal_block", "X", kTerminalParameters, terminalBody, {}, "terminal", "terminals"};

} // namespace ts::kinds
