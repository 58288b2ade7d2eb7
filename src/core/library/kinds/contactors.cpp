// Contactor, contactor relay and plug-in relay: a coil, an armature, main poles and contacts by the numbering rule.

#include "core/library/kinds/coil.h"
#include "core/library/kinds/kinds.h"

#include <array>

namespace ts::kinds {
namespace {

using Type = ParameterSpec::Type;

constexpr std::array kContactorParameters{
    ParameterSpec{"coil_voltage_v", Type::Number, 1, 1000, {}, {}, {}, {}, true},
    ParameterSpec{"coil_current", Type::Word, 0, 0, {}, {}, "ac dc", {}, true},
    ParameterSpec{"size", Type::Word, 0, 0, {}, "to_7_5_kw", "to_7_5_kw from_11_to_30_kw", "assumed"},
    ParameterSpec{"auxiliary_contacts", Type::WordList, 0, 0, {}, "", {}, "assumed"},
    ParameterSpec{"mirror_contacts", Type::Flag, 0, 0, {}, "no", {}, "assumed"},
    ParameterSpec{"linked_contacts", Type::Flag, 0, 0, {}, "no", {}, "assumed"},
    ParameterSpec{"suppressor", Type::Word, 0, 0, {}, "none", "none rc varistor diode diode_and_zener", "assumed"},
    ParameterSpec{"pick_up_time_s", Type::Number, 0.001, 5, {}, {}, {}, "assumed"},
    ParameterSpec{"release_time_s", Type::Number, 0.001, 5, {}, {}, {}, "assumed"},
    ParameterSpec{"coil_power_w", Type::Number, 0.1, 1000, {}, {}, {}, "assumed"},
    ParameterSpec{"rated_current_ac3_a", Type::Number, 0.1, 2000, 9, {}, {}, "assumed"},
    ParameterSpec{"rated_voltage_v", Type::Number, 12, 1000, {}, {}, {}, "sheet"},
    ParameterSpec{"rated_current_ac1_a", Type::Number, 0.1, 4000, {}, {}, {}, "sheet"},
    ParameterSpec{"rated_current_ac4_a", Type::Number, 0.1, 2000, {}, {}, {}, "sheet"},
    ParameterSpec{"rated_current_ac3e_a", Type::Number, 0.1, 2000, {}, {}, {}, "sheet"},
    ParameterSpec{"dc_volts_by_poles", Type::WordList, 0, 0, {}, "", {}, "sheet"},
    ParameterSpec{"largest_fuse_type1_a", Type::Number, 1, 2000, {}, {}, {}, "sheet"},
    ParameterSpec{"largest_fuse_type2_a", Type::Number, 1, 2000, {}, {}, {}, "sheet"},
    ParameterSpec{"life_ac3_operations", Type::Number, 1e4, 1e8, 1e6, {}, {}, "assumed"},
    ParameterSpec{"weld_i2t_a2s", Type::Number, 1, 1e8, {}, {}, {}, "sheet"},
    ParameterSpec{"weld_peak_a", Type::Number, 1, 1e6, {}, {}, {}, "sheet"},
    ParameterSpec{"pole_loss_w", Type::Number, 0.01, 500, {}, {}, {}, "sheet"},
    ParameterSpec{"coil_inrush_va", Type::Number, 0.1, 5000, {}, {}, {}, "sheet"},
    ParameterSpec{"coil_inrush_pf", Type::Number, 0.1, 1, {}, {}, {}, "sheet"},
    ParameterSpec{"coil_hold_va", Type::Number, 0.1, 1000, {}, {}, {}, "sheet"},
    ParameterSpec{"coil_hold_pf", Type::Number, 0.1, 1, {}, {}, {}, "sheet"},
    ParameterSpec{"coil_low_x", Type::Number, 0.5, 1, 0.85, {}, {}, "clause IEC 60947-4-1"},
    ParameterSpec{"coil_high_x", Type::Number, 1, 1.5, 1.1, {}, {}, "clause IEC 60947-4-1"},
    kContactAc,
    kContactDc,
    kContactAc15,
    kContactDc13,
    kContactFuse,
};
constexpr std::array kContactorFaults{FailureModeSpec{"main", "welded"}, FailureModeSpec{"main", "does_not_close"},
    FailureModeSpec{"armature", "stuck_in"}, FailureModeSpec{"armature", "stuck_out"},
    FailureModeSpec{"contact", "welded"}, FailureModeSpec{"contact", "does_not_close"}, FailureModeSpec{"coil", "open"},
    FailureModeSpec{"coil", "shorted"}};
/// Without main poles there is nothing of them to fail.
constexpr std::span kRelayFaults = std::span(kContactorFaults).subspan(2);

double releaseFactor(const std::string& suppressor, Timing timing)
{
    const std::string row = "suppressor "
        + (suppressor == "diode_and_zener" ? std::string("diode and zener") : suppressor);
    return timed(deviceDefault(row, "release_factor"), timing);
}

CoilElement coilOf(const Parameters& p, const std::string& row)
{
    const double u = p.number("coil_voltage_v");
    const auto nominal = [&row](const char* parameter) { return deviceDefault(row, parameter).nominal; };
    const auto sheetOr = [&p](const char* name, double otherwise) {
        return p.isWritten(name) ? p.number(name) : otherwise;
    };
    if (p.word("coil_current") == "dc")
        return directCoil(u, sheetOr("coil_power_w", sheetOr("coil_hold_va", nominal("power_dc"))));
    return alternatingCoil(u,
        {sheetOr("coil_inrush_va", nominal("inrush_power_ac")),
            sheetOr("coil_inrush_pf", nominal("inrush_power_factor")),
            sheetOr("coil_hold_va", nominal("hold_power_ac")), sheetOr("coil_hold_pf", nominal("hold_power_factor"))});
}

Expected<Body> bodyWith(const Parameters& p, Timing timing, int mainPoles)
{
    Body b;
    const bool large = p.word("size") == "from_11_to_30_kw";
    const bool direct = p.word("coil_current") == "dc";
    const std::string row = large ? "contactor 11 to 30 kW" : "contactor to 7.5 kW";
    const std::string kindOfCurrent = direct ? "dc" : "ac";
    MoverSpec armature{"armature", MoverSpec::Driver::Coil};
    armature.toActuatedS = timedParameter(
        p, "pick_up_time_s", deviceDefault(row, "pick_up_time_" + kindOfCurrent), timing);
    armature.toRestS = timedParameter(p, "release_time_s", deviceDefault(row, "release_time_" + kindOfCurrent), timing)
        * releaseFactor(p.word("suppressor"), timing);
    armature.gapS = timed(deviceDefault("contactor", "nc_opens_before_no_closes"), timing);
    b.movers.push_back(armature);
    const bool mirror = p.flag("mirror_contacts"), linked = p.flag("linked_contacts");
    for (int k = 0; k < mainPoles; ++k)
        addContact(b, poleName(k), {ContactKind::Main, 0, kActuated, mirror});
    const auto contact = [linked](ContactKind kind) { return contactOf(0, kind, linked); };
    if (auto ok = addContacts(b, p.words("auxiliary_contacts"), p.tag(), contact); !ok)
        return Unexpected{ok.error()};
    addCoil(b, "coil", "A1", "A2", coilOf(p, row), 0);
    b.actions = {{"push_in", 0, 2}, {"let_go", 0, 0}};
    return b;
}

Expected<Body> contactorBody(const Parameters& p, Timing timing)
{
    return bodyWith(p, timing, 3);
}

Expected<Body> contactorRelayBody(const Parameters& p, Timing timing)
{
    return bodyWith(p, timing, 0);
}

constexpr std::array kPlugInParameters{
    ParameterSpec{"coil_voltage_v", Type::Number, 1, 1000, {}, {}, {}, {}, true},
    ParameterSpec{"coil_current", Type::Word, 0, 0, {}, {}, "ac dc", {}, true},
    ParameterSpec{"contacts", Type::WordList, 0, 0, {}, "11-12-14 21-22-24", {}, "assumed"},
    ParameterSpec{"linked_contacts", Type::Flag, 0, 0, {}, "no", {}, "assumed"},
    ParameterSpec{"suppressor", Type::Word, 0, 0, {}, "none", "none rc varistor diode diode_and_zener", "assumed"},
    ParameterSpec{"pick_up_time_s", Type::Number, 0.001, 5, {}, {}, {}, "assumed"},
    ParameterSpec{"release_time_s", Type::Number, 0.001, 5, {}, {}, {}, "assumed"},
    kSmallContactAc,
    kSmallContactDc,
    kContactAc15,
    kContactDc13,
    kContactFuse,
};

Expected<Body> plugInBody(const Parameters& p, Timing timing)
{
    const char* row = "plug-in relay";
    Body b;
    MoverSpec armature{"armature", MoverSpec::Driver::Coil};
    armature.toActuatedS = timedParameter(p, "pick_up_time_s", deviceDefault(row, "pick_up_time"), timing);
    armature.toRestS = timedParameter(p, "release_time_s", deviceDefault(row, "release_time"), timing)
        * releaseFactor(p.word("suppressor"), timing);
    armature.gapS = timed(deviceDefault(row, "nc_opens_before_no_closes"), timing);
    b.movers.push_back(armature);
    const bool linked = p.flag("linked_contacts");
    if (auto ok = addContacts(
            b, p.words("contacts"), p.tag(), [linked](ContactKind kind) { return contactOf(0, kind, linked); });
        !ok)
        return Unexpected{ok.error()};
    const double u = p.number("coil_voltage_v"), cosine = deviceDefault(row, "power_factor").nominal;
    const DefaultRow va = deviceDefault(row, "power_ac");
    addCoil(b, "coil", "A1", "A2",
        p.word("coil_current") == "dc" ? directCoil(u, deviceDefault(row, "power_dc").nominal)
                                       : alternatingCoil(u, {va.high, cosine, va.nominal, cosine}),
        0);
    b.actions = {{"push_in", 0, 2}, {"let_go", 0, 0}};
    return b;
}

} // namespace

const DeviceKind plugInRelay{
    "plug_in_relay", "K", kPlugInParameters, plugInBody, kRelayFaults, "contactor", "contactor"};
const DeviceKind contactor{"contactor", "Q", kContactorParameters, contactorBody, kContactorFaults, "contactor",
    "contactor", "auxiliary_contacts"};
const DeviceKind contactorRelay{"contactor_relay", "K", kContactorParameters, contactorRelayBody, kRelayFaults,
    "contactor", "contactor", "auxiliary_contacts"};

} // namespace ts::kinds
