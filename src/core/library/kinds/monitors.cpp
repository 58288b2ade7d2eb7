// Phase monitors by voltage and by current, the current transformer, and the standstill monitor. The plain phase
// monitor, three relays whose contacts are in series, is wired from plug-in relays.

#include "core/library/kinds/build.h"
#include "core/library/kinds/kinds.h"

#include <array>
#include <cmath>
#include <numbers>

namespace ts::kinds {
namespace {

using Type = ParameterSpec::Type;

constexpr std::array kVoltageParameters{
    ParameterSpec{"line_voltage_v", Type::Number, 10, 1000, {}, {}, {}, {}, true},
    ParameterSpec{"taps", Type::Word, 0, 0, {}, "three_wire", "three_wire four_wire", "assumed"},
    ParameterSpec{"auxiliary_supply_v", Type::Number, 0, 500, 0, {}, {}, "assumed"},
    ParameterSpec{"undervoltage_x", Type::Number, 0.3, 0.99, {}, {}, {}, "assumed"},
    ParameterSpec{"overvoltage_x", Type::Number, 0, 2, {}, {}, {}, "assumed"},
    ParameterSpec{"unbalance_pct", Type::Number, 0, 50, {}, {}, {}, "assumed"},
    ParameterSpec{"watches_sequence", Type::Flag, 0, 0, {}, "yes", {}, "assumed"},
    ParameterSpec{"delay_s", Type::Number, 0, 60, {}, {}, {}, "assumed"},
    ParameterSpec{"phase_loss_response_s", Type::Number, 0, 10, {}, {}, {}, "assumed"},
    ParameterSpec{"start_up_s", Type::Number, 0, 60, {}, {}, {}, "assumed"},
    ParameterSpec{"latches", Type::Flag, 0, 0, {}, "no", {}, "assumed"},
    ParameterSpec{"relay", Type::Word, 0, 0, {}, "energised_when_healthy", "energised_when_healthy energised_on_fault",
        "assumed"},
    ParameterSpec{"contacts", Type::WordList, 0, 0, {}, "15-16-18", {}, "assumed"},
    kSmallContactAc,
    kSmallContactDc,
    kContactAc15,
    kContactDc13,
    kContactFuse,
};
constexpr std::array kMonitorFaults{FailureModeSpec{"contact", "stays_closed"},
    FailureModeSpec{"contact", "stays_open"}, FailureModeSpec{"tap", "open"}};

struct Common {
    Body body;
    PhaseMonitorLogic logic;
};

/// Output relay, latch and times of any monitor. Its relay is mover 0.
Expected<void> addOutput(Common& m, const Parameters& p, Timing timing)
{
    const double pick = timed(deviceDefault("plug-in relay", "pick_up_time"), timing),
                 release = timed(deviceDefault("plug-in relay", "release_time"), timing);
    m.body.movers.push_back({"relay", MoverSpec::Driver::Logic, 0, pick, release,
        timed(deviceDefault("plug-in relay", "nc_opens_before_no_closes"), timing), false});
    if (p.flag("latches")) {
        m.logic.resetButton = 1;
        m.body.movers.push_back({"reset button", MoverSpec::Driver::Operator, 0, 0.0, 0.0, 0.0, false});
        m.body.actions = {{"press", 1, 2}, {"release", 1, 0}};
    }
    m.logic.energisedWhenHealthy = p.word("relay") == "energised_when_healthy";
    m.logic.delayS = timedParameter(p, "delay_s", deviceDefault("phase monitor", "delay"), Timing::Nominal);
    m.logic.hysteresis = deviceDefault("phase monitor", "hysteresis").nominal;
    return addContacts(m.body, p.words("contacts"), p.tag(), [](ContactKind kind) { return contactOf(0, kind); });
}

/// The tap's own lead inside, so that it can break.
int addTap(Body& b, const std::string& marking)
{
    const int outer = addTerminal(b, marking), inner = addTerminal(b, "inside " + marking, true);
    addTwoPole(b, "tap " + marking, outer, inner, ContactElement{ContactKind::Pole});
    return inner;
}

Expected<Body> voltageBody(const Parameters& p, Timing timing)
{
    const char* row = "phase monitor";
    const auto number = [&](const char* name, const char* parameter) {
        return timedParameter(p, name, deviceDefault(row, parameter), Timing::Nominal);
    };
    Common m;
    if (auto ok = addOutput(m, p, timing); !ok)
        return Unexpected{ok.error()};
    const bool fourWire = p.word("taps") == "four_wire";
    const double line = p.number("line_voltage_v"), auxiliary = p.number("auxiliary_supply_v");
    m.logic.nominalV = fourWire ? line / std::numbers::sqrt3 : line;
    const double ohm = deviceDefault(row, "tap_resistance").nominal;
    std::array<int, 3> tap{};
    for (std::size_t k = 0; k < 3; ++k)
        tap[k] = addTap(m.body, "L" + std::to_string(k + 1));
    const int neutral = fourWire ? addTap(m.body, "N") : -1;
    for (std::size_t k = 0; k < 3; ++k)
        m.logic.taps.push_back(addTwoPole(m.body, "sense " + std::to_string(k + 1), tap[k],
            fourWire ? neutral : tap[(k + 1) % 3], SenseElement{ohm, SenseElement::Use::Tap}));
    const double supplyV = auxiliary > 0.0 ? auxiliary : m.logic.nominalV;
    if (auxiliary > 0.0)
        m.logic.supply = addSupply(m.body, auxiliary, deviceDefault(row, "supply_power").nominal);
    m.logic.supplyOnV = supplyV * deviceDefault(row, "supply_on_from").nominal;
    m.logic.supplyOffV = supplyV * deviceDefault(row, "supply_off_below").nominal;
    m.logic.under = number("undervoltage_x", "undervoltage");
    m.logic.over = number("overvoltage_x", "overvoltage");
    m.logic.unbalance = p.isWritten("unbalance_pct") ? p.number("unbalance_pct") / 100.0
                                                     : deviceDefault(row, "unbalance").nominal;
    m.logic.loss = deviceDefault(row, "loss").nominal;
    m.logic.watchesSequence = p.flag("watches_sequence");
    m.logic.lossS = number("phase_loss_response_s", "phase_loss_response");
    m.logic.startUpS = number("start_up_s", "start_up_time");
    m.body.logics.push_back(m.logic);
    return std::move(m.body);
}

constexpr std::array kCurrentParameters{
    ParameterSpec{"setting_a", Type::Number, 0.05, 5000, {}, {}, {}, {}, true},
    ParameterSpec{
        "measures", Type::Word, 0, 0, {}, "in_line", "in_line two_transformers three_transformers", "assumed"},
    ParameterSpec{"transformer_ratio", Type::Number, 1, 5000, 1, {}, {}, "assumed"},
    ParameterSpec{"auxiliary_supply_v", Type::Number, 5, 500, {}, {}, {}, {}, true},
    ParameterSpec{"unbalance_pct", Type::Number, 0, 100, {}, {}, {}, "assumed"},
    ParameterSpec{"delay_s", Type::Number, 0, 60, {}, {}, {}, "assumed"},
    ParameterSpec{"phase_loss_response_s", Type::Number, 0, 10, {}, {}, {}, "assumed"},
    ParameterSpec{"latches", Type::Flag, 0, 0, {}, "no", {}, "assumed"},
    ParameterSpec{"relay", Type::Word, 0, 0, {}, "energised_when_healthy", "energised_when_healthy energised_on_fault",
        "assumed"},
    ParameterSpec{"contacts", Type::WordList, 0, 0, {}, "15-16-18", {}, "assumed"},
    kSmallContactAc,
    kSmallContactDc,
    kContactAc15,
    kContactDc13,
    kContactFuse,
};

Expected<Body> currentBody(const Parameters& p, Timing timing)
{
    const char* row = "current monitor";
    Common m;
    if (auto ok = addOutput(m, p, timing); !ok)
        return Unexpected{ok.error()};
    const double supplyV = p.number("auxiliary_supply_v");
    m.logic.supply = addSupply(m.body, supplyV, deviceDefault("phase monitor", "supply_power").nominal);
    m.logic.supplyOnV = supplyV * deviceDefault("phase monitor", "supply_on_from").nominal;
    m.logic.supplyOffV = supplyV * deviceDefault("phase monitor", "supply_off_below").nominal;
    m.logic.unbalance = p.isWritten("unbalance_pct") ? p.number("unbalance_pct") / 100.0
                                                     : deviceDefault(row, "unbalance").nominal;
    m.logic.loss = deviceDefault(row, "loss").nominal;
    m.logic.smallestA = p.number("setting_a") * deviceDefault(row, "smallest_share").nominal;
    m.logic.lossS = timedParameter(
        p, "phase_loss_response_s", deviceDefault("phase monitor", "phase_loss_response"), Timing::Nominal);
    const std::string& measures = p.word("measures");
    if (measures == "in_line") {
        for (int k = 0; k < 3; ++k)
            m.logic.poles.push_back(addContact(m.body, poleName(k), {ContactKind::Pole, -1, kAlways}));
    } else {
        m.logic.burdenOhm = deviceDefault("current transformer", "burden_resistance").nominal;
        m.logic.ratio = p.number("transformer_ratio");
        for (int k = 1; k <= (measures == "two_transformers" ? 2 : 3); ++k) {
            const int inner = addTap(m.body, "k" + std::to_string(k)),
                      back = addTerminal(m.body, "l" + std::to_string(k));
            m.logic.taps.push_back(addTwoPole(m.body, "burden " + std::to_string(k), inner, back,
                SenseElement{m.logic.burdenOhm, SenseElement::Use::Tap}));
        }
    }
    m.body.logics.push_back(m.logic);
    return std::move(m.body);
}

constexpr std::array kStandstillParameters{
    ParameterSpec{"auxiliary_supply_v", Type::Number, 5, 500, {}, {}, {}, {}, true},
    ParameterSpec{"leads", Type::Word, 0, 0, {}, "three", "three two", "assumed"},
    ParameterSpec{"threshold_v", Type::Number, 0.005, 20, {}, {}, {}, "assumed"},
    ParameterSpec{"delay_s", Type::Number, 0, 60, {}, {}, {}, "assumed"},
    ParameterSpec{"contacts", Type::WordList, 0, 0, {}, "13-14 21-22", {}, "assumed"},
    kSmallContactAc,
    kSmallContactDc,
    kContactAc15,
    kContactDc13,
    kContactFuse,
};

Expected<Body> standstillBody(const Parameters& p, Timing timing)
{
    const char* row = "standstill monitor";
    Body b;
    StandstillLogic logic;
    b.movers.push_back(
        {"relay", MoverSpec::Driver::Logic, 0, timed(deviceDefault("plug-in relay", "pick_up_time"), timing),
            timed(deviceDefault("plug-in relay", "release_time"), timing),
            timed(deviceDefault("plug-in relay", "nc_opens_before_no_closes"), timing), false});
    const double supplyV = p.number("auxiliary_supply_v"), ohm = deviceDefault(row, "tap_resistance").nominal;
    logic.supply = addSupply(b, supplyV, deviceDefault("phase monitor", "supply_power").nominal);
    logic.supplyOnV = supplyV * deviceDefault("phase monitor", "supply_on_from").nominal;
    logic.supplyOffV = supplyV * deviceDefault("phase monitor", "supply_off_below").nominal;
    std::vector<int> leads;
    for (int k = 1; k <= (p.word("leads") == "two" ? 2 : 3); ++k)
        leads.push_back(addTap(b, "L" + std::to_string(k)));
    for (std::size_t k = 0; k + 1 < leads.size(); ++k)
        logic.taps.push_back(addTwoPole(
            b, "sense " + std::to_string(k + 1), leads[k], leads[k + 1], SenseElement{ohm, SenseElement::Use::Tap}));
    logic.thresholdV = timedParameter(p, "threshold_v", deviceDefault(row, "threshold"), Timing::Nominal);
    logic.hysteresis = deviceDefault(row, "hysteresis").nominal;
    logic.delayS = timedParameter(p, "delay_s", deviceDefault(row, "delay"), Timing::Nominal);
    b.logics.push_back(logic);
    if (auto ok = addContacts(b, p.words("contacts"), p.tag(), [](ContactKind kind) { return contactOf(0, kind); });
        !ok)
        return Unexpected{ok.error()};
    return b;
}

constexpr std::array kCurrentTransformerParameters{
    ParameterSpec{"ratio", Type::Number, 1, 5000, {}, {}, {}, {}, true},
};

/// One line led through: a winding of one turn on the line side.
Expected<Body> currentTransformerBody(const Parameters& p, Timing)
{
    Body b;
    for (const char* marking : {"1", "2", "k", "l"})
        addTerminal(b, marking);
    const double n = p.number("ratio"), winding = deviceDefault("current transformer", "winding_resistance").nominal;
    const double burden = winding + deviceDefault("current transformer", "burden_resistance").nominal;
    const double magnetising = burden / deviceDefault("current transformer", "magnetising_share").nominal;
    Element e;
    e.role = "windings";
    e.terminals = {0, 1, 2, 3, -1, -1};
    e.what = TransformerElement{1.0 / n, winding, {0.0, magnetising / (n * n)}, winding / (n * n), winding, 0.0};
    b.elements.push_back(e);
    return b;
}

} // namespace

const DeviceKind phaseMonitor{
    "phase_monitor", "B", kVoltageParameters, voltageBody, kMonitorFaults, "monitor", "monitor"};
const DeviceKind currentMonitor{
    "current_monitor", "B", kCurrentParameters, currentBody, kMonitorFaults, "monitor", "monitor"};
const DeviceKind standstillMonitor{
    "standstill_monitor", "B", kStandstillParameters, standstillBody, kMonitorFaults, "monitor", "monitor"};
const DeviceKind currentTransformer{"current_transformer", "T", kCurrentTransformerParameters, currentTransformerBody,
    {}, "transformer", "transformer"};

} // namespace ts::kinds
