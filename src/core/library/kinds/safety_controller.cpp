// Modular safety controller: one head, input modules and output modules on a bus. Built from what a safety relay is
// built from: each input module is a two-channel stage that closes two links of the bus, the head needs both links
// closed and a reset. Encapsulated: no faults inside.

#include "core/library/kinds/build.h"
#include "core/library/kinds/kinds.h"

#include <array>

namespace ts::kinds {
namespace {

using Type = ParameterSpec::Type;
const char* const kRelayRow = "safety relay";

constexpr std::array kControllerParameters{
    ParameterSpec{"input_modules", Type::Number, 1, 8, 1, {}, {}, "assumed"},
    ParameterSpec{"output_modules", Type::Number, 1, 4, 1, {}, {}, "assumed"},
    ParameterSpec{"delayed_modules", Type::Number, 0, 4, 0, {}, {}, "assumed"},
    ParameterSpec{"delay_s", Type::Number, 0, 300, 0, {}, {}, "assumed"},
    ParameterSpec{"bus_limit", Type::Number, 1, 64, 12, {}, {}, "assumed"},
    ParameterSpec{"configured", Type::Flag, 0, 0, {}, "yes", {}, "assumed"},
    ParameterSpec{"reset", Type::Word, 0, 0, {}, "monitored", "automatic manual monitored", "assumed"},
    ParameterSpec{"discrepancy_time_s", Type::Number, 0, 60, {}, {}, {}, "assumed"},
    ParameterSpec{"release_time_s", Type::Number, 0.001, 2, {}, {}, {}, "assumed"},
    ParameterSpec{"pick_up_time_s", Type::Number, 0.001, 5, {}, {}, {}, "assumed"},
    ParameterSpec{"output_rating_ac15_a", Type::Number, 0.1, 20, {}, {}, {}, "sheet"},
    ParameterSpec{"output_rating_dc13_a", Type::Number, 0.1, 100, {}, {}, {}, "sheet"},
    ParameterSpec{"supply_low_x", Type::Number, 0.5, 1, 0.85, {}, {}, "assumed"},
    ParameterSpec{"supply_high_x", Type::Number, 1, 1.5, 1.1, {}, {}, "assumed"},
    ParameterSpec{"loop_capacitance_nf", Type::Number, 1, 1e5, {}, {}, {}, "sheet"},
    ParameterSpec{"input_loop_resistance_ohm", Type::Number, 0, 2000, {}, {}, {}, "assumed"},
};

class ControllerBuilder {
public:
    ControllerBuilder(const Parameters& p, Timing timing)
        : m_p(p)
        , m_release(timedParameter(p, "release_time_s", deviceDefault(kRelayRow, "release_time_on_demand"), timing))
        , m_pickUp(timedParameter(p, "pick_up_time_s", deviceDefault(kRelayRow, "pick_up_time_after_reset"), timing))
        , m_gap(timed(deviceDefault("contactor", "nc_opens_before_no_closes"), timing))
    {
    }

    Body built()
    {
        m_supply = addSupply(m_b, kUsualDirectControlV, deviceDefault(kRelayRow, "supply_power").nominal);
        m_minus = terminalOf(m_b, "A2");
        m_fed = addTerminal(m_b, "input supply", true);
        const double limit = deviceDefault(kRelayRow, "internal_limit_resistance").nominal;
        addTwoPole(m_b, "", terminalOf(m_b, "A1"), m_fed, LoadElement{{limit, 0.0}, limit});
        m_links = {m_fed, m_fed};
        for (int k = 1; k <= static_cast<int>(m_p.number("input_modules")); ++k)
            addInputModule(k);
        addHead();
        return std::move(m_b);
    }

private:
    int sense(int p, int q)
    {
        return addTwoPole(m_b, "", p, q, SenseElement{deviceDefault(kRelayRow, "sense_resistance").nominal});
    }
    int addLoop(const std::string& out, const std::string& in)
    {
        const int fed = addTerminal(m_b, out), back = addTerminal(m_b, in);
        joinInside(m_b, fed, m_fed);
        return sense(back, m_minus);
    }
    int addRelayPair(const std::string& name)
    {
        const int first = static_cast<int>(m_b.movers.size());
        for (const char* which : {"a", "b"})
            m_b.movers.push_back(
                {name + which, MoverSpec::Driver::Logic, 0, m_pickUp / 2.0, m_release / 2.0, m_gap, false});
        return first; // a stage takes its half of the times of the sheet
    }
    SafetyRelayLogic stage(int first) const
    {
        SafetyRelayLogic logic;
        logic.supply = m_supply;
        logic.firstRelay = first;
        logic.secondRelay = first + 1;
        logic.supplyOnV = kUsualDirectControlV * deviceDefault(kRelayRow, "supply_on_from").nominal;
        logic.supplyOffV = kUsualDirectControlV * deviceDefault(kRelayRow, "supply_off_below").nominal;
        logic.senseV = kUsualDirectControlV * deviceDefault(kRelayRow, "sense_threshold").nominal;
        logic.isConfigured = m_p.flag("configured");
        logic.discrepancyS = timedParameter(
            m_p, "discrepancy_time_s", deviceDefault(kRelayRow, "discrepancy_time"), Timing::Nominal);
        return logic;
    }

    /// Module 1: 1.S11-1.S12 and 1.S21-1.S22. Its relays continue the two links of the bus.
    void addInputModule(int k)
    {
        const std::string n = std::to_string(k) + ".";
        const int first = addRelayPair("input " + n);
        SafetyRelayLogic logic = stage(first);
        logic.channel1 = addLoop(n + "S11", n + "S12");
        logic.channel2 = addLoop(n + "S21", n + "S22");
        logic.resetKind = SafetyRelayLogic::Reset::Automatic;
        logic.reset = sense(m_fed, m_minus);
        for (std::size_t link = 0; link < 2; ++link) {
            const int next = addTerminal(m_b, "bus " + n + std::to_string(link), true);
            addTwoPole(m_b, "", m_links[link], next,
                ContactElement{ContactKind::Pole, first + static_cast<int>(link), kActuated});
            m_links[link] = next;
        }
        m_b.safetyRelays.push_back(logic);
    }

    void addHead()
    {
        const int outputs = addRelayPair("output ");
        SafetyRelayLogic logic = stage(outputs);
        logic.channel1 = sense(m_links[0], m_minus);
        logic.channel2 = sense(m_links[1], m_minus);
        logic.reset = addLoop("S33", "S34");
        const std::string& reset = m_p.word("reset");
        logic.resetKind = reset == "automatic" ? SafetyRelayLogic::Reset::Automatic
            : reset == "manual"                ? SafetyRelayLogic::Reset::Manual
                                               : SafetyRelayLogic::Reset::Monitored;
        const DefaultRow press = deviceDefault(kRelayRow, "reset_press");
        logic.resetShortestS = press.low;
        logic.resetLongestS = press.high;
        int number = 1;
        addOutputs(static_cast<int>(m_p.number("output_modules")), outputs, number);
        if (m_p.number("delayed_modules") > 0) {
            logic.firstDelayed = addRelayPair("delayed ");
            logic.secondDelayed = logic.firstDelayed + 1;
            logic.delayS = m_p.number("delay_s");
            addOutputs(static_cast<int>(m_p.number("delayed_modules")), logic.firstDelayed, number);
        }
        m_b.safetyRelays.push_back(logic);
    }

    /// Two closing paths a module: 13-14 and 23-24 of the first, 33-34 and 43-44 of the second.
    void addOutputs(int modules, int firstRelay, int& number)
    {
        for (int k = 0; k < 2 * modules; ++k, ++number) {
            const std::string a = std::to_string(number) + "3", b = std::to_string(number) + "4";
            const int first = addTerminal(m_b, a), middle = addTerminal(m_b, "inside " + a, true),
                      second = addTerminal(m_b, b);
            addTwoPole(
                m_b, a + "-" + b, first, middle, ContactElement{ContactKind::NormallyOpen, firstRelay, kActuated});
            addTwoPole(
                m_b, a + "-" + b, middle, second, ContactElement{ContactKind::NormallyOpen, firstRelay + 1, kActuated});
        }
    }

    const Parameters& m_p;
    double m_release, m_pickUp, m_gap;
    Body m_b;
    int m_supply = 0, m_minus = 0, m_fed = 0;
    std::array<int, 2> m_links{};
};

Expected<Body> controllerBody(const Parameters& p, Timing timing)
{
    if (p.number("output_modules") + p.number("delayed_modules") > 4)
        return failure(ErrorCode::Refused, message("kind.too_many_modules", {p.tag()}));
    const double modules = p.number("input_modules") + p.number("output_modules") + p.number("delayed_modules");
    if (modules > p.number("bus_limit"))
        return failure(ErrorCode::Refused,
            message("kind.bus_full", {p.tag(), Measured{modules, ""}, Measured{p.number("bus_limit"), ""}}));
    return ControllerBuilder(p, timing).built();
}

} // namespace

const DeviceKind safetyController{"safety_controller", "K", kControllerParameters, controllerBody, {}, "safety_relay",
    "safety_relay", {}, {.isProgrammed = true}};

} // namespace ts::kinds
