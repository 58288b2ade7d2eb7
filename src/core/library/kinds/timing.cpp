// Timers: on-delay, off-delay, star-delta.

#include "core/library/kinds/build.h"
#include "core/library/kinds/kinds.h"

#include <array>

namespace ts::kinds {
namespace {

using Type = ParameterSpec::Type;
const char* const kTimerRow = "timer";

constexpr std::array kTimerParameters{
    ParameterSpec{"function", Type::Word, 0, 0, {}, {}, "on_delay off_delay star_delta", {}, true},
    ParameterSpec{"supply_voltage_v", Type::Number, 5, 500, {}, {}, {}, {}, true},
    ParameterSpec{"delay_s", Type::Number, 0.01, 36000, {}, {}, {}, {}, true},
    ParameterSpec{"pause_s", Type::Number, 0, 10, {}, {}, {}, "assumed"},
    ParameterSpec{"contacts", Type::WordList, 0, 0, {}, "15-16-18", {}, "assumed"},
    ParameterSpec{"star_contact", Type::Word, 0, 0, {}, "17-18", {}, "assumed"},
    ParameterSpec{"delta_contact", Type::Word, 0, 0, {}, "27-28", {}, "assumed"},
    kSmallContactAc,
    kSmallContactDc,
    kContactAc15,
    kContactDc13,
    kContactFuse,
};
constexpr std::array kTimerFaults{FailureModeSpec{"timing", "too_long"}, FailureModeSpec{"timing", "too_short"},
    FailureModeSpec{"timing", "never"}, FailureModeSpec{"contact", "welded"},
    FailureModeSpec{"contact", "does_not_close"}};

Expected<Body> timerBody(const Parameters& p, Timing timing)
{
    Body b;
    TimerLogic logic;
    const std::string& function = p.word("function");
    logic.function = function == "on_delay" ? TimerLogic::Function::OnDelay
        : function == "off_delay"           ? TimerLogic::Function::OffDelay
                                            : TimerLogic::Function::StarDelta;
    const double u = p.number("supply_voltage_v"), power = deviceDefault(kTimerRow, "supply_power").nominal;
    logic.supply = addSupply(b, u, power);
    if (logic.function == TimerLogic::Function::OffDelay)
        logic.control = addTwoPole(
            b, "sense B1", addTerminal(b, "B1"), terminalOf(b, "A2"), SenseElement{u * u / power});
    logic.onV = u * deviceDefault(kTimerRow, "supply_on_from").nominal;
    logic.offV = u * deviceDefault(kTimerRow, "supply_off_below").nominal;
    logic.delayS = p.number("delay_s");
    const double contact = timed(deviceDefault(kTimerRow, "contact_time"), timing);
    const double gap = timed(deviceDefault("plug-in relay", "nc_opens_before_no_closes"), timing);
    b.movers.push_back({"relay", MoverSpec::Driver::Logic, 0, contact, contact, gap, false});
    if (logic.function != TimerLogic::Function::StarDelta) {
        const auto made = [](ContactKind kind) { return contactOf(0, kind); };
        if (auto ok = addContacts(b, p.words("contacts"), p.tag(), made); !ok)
            return Unexpected{ok.error()};
    } else {
        b.movers.push_back({"delta relay", MoverSpec::Driver::Logic, 0, contact, contact, gap, false});
        logic.second = 1;
        logic.pauseS = timedParameter(p, "pause_s", deviceDefault(kTimerRow, "star_delta_pause"), timing);
        for (const auto& [name, mover] : {std::pair{"star_contact", 0}, {"delta_contact", 1}})
            if (auto ok = addContacts(
                    b, {p.word(name)}, p.tag(), [mover = mover](ContactKind kind) { return contactOf(mover, kind); });
                !ok)
                return Unexpected{ok.error()};
    }
    b.logics.push_back(logic);
    return b;
}

} // namespace

const DeviceKind timer{"timer", "K", kTimerParameters, timerBody, kTimerFaults, "timer", "timer"};

} // namespace ts::kinds
