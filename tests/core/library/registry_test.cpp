// Walks the registry: every kind is complete, its defaults have a basis, its faults do something.

#include "core/library/motor_plate.h"
#include "core/library/registry.h"
#include "core/library/table.h"
#include "core/simulation/fault.h"
#include "tests/support/circuits.h"

#include <set>

namespace ts {
namespace {

/// The least that must be written for each kind to have a body.
ParameterMap leastParameters(std::string_view kind)
{
    using Words = std::vector<std::string>;
    static const std::map<std::string, ParameterMap, std::less<>> least{
        {"brake", {{"coil_voltage_v", 24.0}, {"coil_current", std::string("dc")}, {"torque_nm", 20.0}}},
        {"controller_input", {}}, {"current_transformer", {{"ratio", 100.0}}}, {"drive", {{"line_voltage_v", 400.0}}},
        {"external_call", {}}, {"current_monitor", {{"setting_a", 10.0}, {"auxiliary_supply_v", 24.0}}},
        {"guard_switch", {}}, {"horn", {{"rated_voltage_v", 24.0}}},
        {"heater_three_phase",
            {{"rated_voltage_v", 400.0}, {"rated_power_w", 6000.0}, {"heats_in_s", 1.0}, {"cools_in_s", 60.0}}},
        {"heater", {{"rated_voltage_v", 230.0}, {"rated_power_w", 500.0}, {"heats_in_s", 1.0}, {"cools_in_s", 60.0}}},
        {"solenoid",
            {{"coil_voltage_v", 24.0}, {"coil_current", std::string("dc")}, {"coil_power_w", 12.0}, {"acts_in_s", 0.05},
                {"rests_in_s", 0.08}}},
        {"enabling_switch", {}}, {"relay_extension", {}}, {"key_switch", {}}, {"exposed_part", {}},
        {"standstill_monitor", {{"auxiliary_supply_v", 24.0}}},
        {"resistor", {{"rated_voltage_v", 24.0}, {"rated_power_w", 10.0}}},
        {"motor_dc", {{"voltage_v", 24.0}, {"current_a", 4.0}, {"runs_up_in_s", 0.5}, {"runs_down_in_s", 2.0}}},
        {"motor_single_phase",
            {{"voltage_v", 230.0}, {"current_a", 2.0}, {"runs_up_in_s", 0.5}, {"runs_down_in_s", 2.0}}},
        {"light_curtain", {}}, {"motor_protection_switch", {{"setting_a", 2.0}}},
        {"phase_monitor", {{"line_voltage_v", 400.0}}},
        {"plug_in_relay", {{"coil_voltage_v", 24.0}, {"coil_current", std::string("dc")}}}, {"safety_controller", {}},
        {"selector", {{"contacts", Words{"13-14/on"}}}},
        {"soft_starter", {{"line_voltage_v", 400.0}, {"motor_current_a", 11.0}}},
        {"solid_state_relay", {{"output_voltage_v", 230.0}}}, {"supply_external_24v", {}},
        {"supply_single_phase", {{"voltage_v", 230.0}}},
        {"switch_disconnector", {{"auxiliary_contacts", Words{"13-14"}}}},
        {"timer", {{"function", std::string("on_delay")}, {"supply_voltage_v", 24.0}, {"delay_s", 2.0}}},
        {"breaker", {{"rated_current_a", 10.0}, {"characteristic", std::string("C")}}},
        {"contactor",
            {{"coil_voltage_v", 24.0}, {"coil_current", std::string("dc")},
                {"auxiliary_contacts", Words{"13-14", "21-22"}}}},
        {"contactor_relay",
            {{"coil_voltage_v", 230.0}, {"coil_current", std::string("ac")}, {"auxiliary_contacts", Words{"13-14"}}}},
        {"control_transformer", {{"rated_va", 100.0}, {"primary_v", 400.0}, {"secondary_v", 230.0}}},
        {"emergency_stop", {}}, {"fuse", {{"rated_current_a", 2.0}}}, {"lamp", {{"rated_voltage_v", 24.0}}},
        {"motor",
            {{"rated_power_w", 5500.0}, {"voltage_v", 400.0}, {"current_a", 11.0}, {"cos_phi", 0.83},
                {"speed_per_min", 1455.0}}},
        {"overload_relay", {{"setting_a", 2.0}}}, {"push_button", {{"contacts", Words{"13-14"}}}}, {"safety_relay", {}},
        {"supply_24v_dc", {{"input_voltage_v", 230.0}, {"rated_current_a", 2.5}}},
        {"supply_three_phase", {{"voltage_v", 400.0}}}, {"terminal_block", {{"terminals", Words{"1", "2"}}}}};
    const auto it = least.find(kind);
    EXPECT_NE(it, least.end()) << "a new kind needs a line here: " << kind;
    return it == least.end() ? ParameterMap{} : it->second;
}

Circuit withOne(std::string_view kind)
{
    Circuit c;
    Device d;
    d.id = {1};
    d.tag = "D1";
    d.kind = kind;
    d.parameters = leastParameters(kind);
    c.devices.push_back(d);
    return c;
}

class EveryKind : public ::testing::TestWithParam<const DeviceKind*> { };

TEST_P(EveryKind, HasABodySymbolAndLook)
{
    const DeviceKind& kind = *GetParam();
    EXPECT_FALSE(kind.symbol.empty());
    EXPECT_FALSE(kind.look.empty());
    EXPECT_FALSE(kind.letter.empty());
    const Circuit c = withOne(kind.id);
    for (Timing timing : {Timing::Fast, Timing::Nominal, Timing::Slow}) {
        const auto body = bodyOf(c, c.devices[0], timing);
        ASSERT_TRUE(body) << body.error().message.id;
        EXPECT_FALSE(body->terminals.empty());
        std::set<std::string> markings;
        for (const TerminalSpec& t : body->terminals)
            EXPECT_TRUE(markings.insert(t.marking).second) << t.marking << " twice";
        for (const MoverSpec& m : body->movers)
            EXPECT_GE(m.toActuatedS, m.driver == MoverSpec::Driver::Protection ? 0.0 : m.gapS);
        for (const ActionSpec& a : body->actions)
            EXPECT_LT(static_cast<std::size_t>(a.mover), body->movers.size());
    }
}

TEST_P(EveryKind, DefaultsSayWhatTheyRestOn)
{
    for (const ParameterSpec& p : GetParam()->parameters) {
        EXPECT_TRUE(p.required || !p.basis.empty()) << p.name;
        if (p.number)
            EXPECT_TRUE(*p.number >= p.low && *p.number <= p.high) << p.name;
    }
}

TEST_P(EveryKind, RefusesWhatIsMissing)
{
    Circuit c = withOne(GetParam()->id);
    bool hasRequired = false;
    for (const ParameterSpec& p : GetParam()->parameters)
        hasRequired |= p.required;
    c.devices[0].parameters.clear();
    const auto body = bodyOf(c, c.devices[0]);
    EXPECT_EQ(body.has_value(), !hasRequired);
    if (!body)
        EXPECT_EQ(body.error().message.id, "parameter.missing");
}

TEST_P(EveryKind, EachFailureModeChangesTheOverlay)
{
    const Plant plant = *compile(withOne(GetParam()->id));
    const Overlay healthy = overlayOf(plant, {});
    std::set<std::string> texts;
    for (const FaultSite& site : faultSites(plant)) {
        EXPECT_TRUE(texts.insert(site.text()).second) << site.text() << " twice";
        const Overlay o = overlayOf(plant, {site.fault});
        EXPECT_NE(o, healthy) << site.text();
        EXPECT_EQ(faultFrom(plant, site.text())->fault, site.fault) << "text and fault are the same thing";
    }
    if (!GetParam()->failureModes.empty())
        EXPECT_FALSE(texts.empty());
}

INSTANTIATE_TEST_SUITE_P(Registry, EveryKind, ::testing::ValuesIn(deviceKinds().begin(), deviceKinds().end()),
    [](const auto& info) { return std::string(info.param->id); });

TEST(Registry, IsSortedAndFindsByName)
{
    const auto kinds = deviceKinds();
    for (std::size_t i = 1; i < kinds.size(); ++i)
        EXPECT_LT(kinds[i - 1]->id, kinds[i]->id);
    EXPECT_EQ(deviceKind("contactor")->id, "contactor");
    EXPECT_EQ(deviceKind("teapot"), nullptr);
}

TEST(MotorPlate, CircuitComesBackToThePlate)
{
    for (const MotorPlate& plate :
        {MotorPlate{750, 400, 1.75, 0.75, 1440, 50, 5.4, 6.4}, MotorPlate{5500, 400, 11.0, 0.83, 1455, 50, 6.5, 47},
            MotorPlate{30000, 400, 56.0, 0.85, 1470, 50, 6.8, 255}}) {
        const auto motor = fittedMotor(plate);
        ASSERT_TRUE(motor) << plate.powerW;
        EXPECT_EQ(motor->polePairs, 2);
        for (double deviation :
            {motor->currentDeviation, motor->powerDeviation, motor->cosPhiDeviation, motor->lockedRotorDeviation})
            EXPECT_LT(std::abs(deviation), 0.02) << plate.powerW; // two figures of a plate
    }
}

TEST(MotorPlate, RefusesContradictions)
{
    EXPECT_FALSE(fittedMotor({750, 400, 1.0, 0.75, 1440, 50, 5.4, 0})); // efficiency above 100 %
    EXPECT_FALSE(fittedMotor({750, 400, 1.75, 0.75, 1500, 50, 5.4, 0})); // synchronous
    EXPECT_FALSE(fittedMotor({750, 400, 1.75, 0.75, 1100, 50, 5.4, 0})); // slip of 27 %
}

TEST(Tables, DefaultsAreInSiUnits)
{
    EXPECT_DOUBLE_EQ(deviceDefault("contactor to 7.5 kW", "pick_up_time_dc").nominal, 0.045);
    EXPECT_DOUBLE_EQ(deviceDefault("coil", "must_pull_in").nominal, 0.85);
    EXPECT_DOUBLE_EQ(deviceDefault("indicator lamp", "current_24v").nominal, 0.015);
}

/// Some sheets number otherwise than the standard: then the name says what the contact does when the device acts.
TEST(Contacts, ThatAreNumberedOtherwiseSayWhatTheyDo)
{
    Circuit c = withOne("phase_monitor");
    const auto kindOf = [&c](const std::string& name) -> std::optional<ContactKind> {
        c.devices[0].parameters["contacts"] = std::vector<std::string>{name};
        const auto body = bodyOf(c, c.devices[0]);
        if (!body)
            return std::nullopt;
        for (const Element& e : body->elements)
            if (e.role == "5-6")
                return std::get<ContactElement>(e.what).kind;
        return std::nullopt;
    };
    EXPECT_EQ(kindOf("5-6"), ContactKind::NormallyClosed) << "by the numbering rule";
    EXPECT_EQ(kindOf("5-6/closes"), ContactKind::NormallyOpen);
    EXPECT_EQ(kindOf("5-6/opens"), ContactKind::NormallyClosed);
    EXPECT_EQ(kindOf("5-6/no"), ContactKind::NormallyOpen);
    EXPECT_EQ(kindOf("5-6/nc"), ContactKind::NormallyClosed);
    EXPECT_EQ(kindOf("5-6/unknown"), ContactKind::NormallyClosed) << "by its digits, and a check says so";
    c.devices[0].parameters["contacts"] = std::vector<std::string>{"5-6/sideways"};
    EXPECT_EQ(bodyOf(c, c.devices[0]).error().message.id, "kind.contact_effect");
}

} // namespace
} // namespace ts
