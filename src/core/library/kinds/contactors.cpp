// Contactor and contactor relay: a coil, an armature, main poles and auxiliary contacts by the numbering rule.

#include "core/library/kinds/build.h"
#include "core/library/kinds/kinds.h"

#include <array>
#include <cmath>

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
};
constexpr std::array kContactorFaults{FailureModeSpec{"main", "welded"}, FailureModeSpec{"main", "does_not_close"},
    FailureModeSpec{"armature", "stuck_in"}, FailureModeSpec{"armature", "stuck_out"}, FailureModeSpec{"contact", "welded"},
    FailureModeSpec{"contact", "does_not_close"}, FailureModeSpec{"coil", "open"}, FailureModeSpec{"coil", "shorted"}};
/// Without main poles there is nothing of them to fail.
constexpr std::span kRelayFaults = std::span(kContactorFaults).subspan(2);

Complex impedanceOf(double ratedV, double va, double cosine)
{
    return ratedV * ratedV / va * Complex(cosine, std::sqrt(1.0 - cosine * cosine));
}

double releaseFactor(const std::string& suppressor, Timing timing)
{
    const std::string row = "suppressor " + (suppressor == "diode_and_zener" ? std::string("diode and zener") : suppressor);
    return timed(deviceDefault(row, "release_factor"), timing);
}

CoilElement coilOf(const Parameters& p, const std::string& row)
{
    CoilElement coil;
    coil.direct = p.word("coil_current") == "dc";
    const double u = coil.ratedV = p.number("coil_voltage_v");
    coil.openOhm = impedanceOf(u, deviceDefault(row, "inrush_power_ac").nominal, deviceDefault(row, "inrush_power_factor").nominal);
    coil.sealedOhm = impedanceOf(u, deviceDefault(row, "hold_power_ac").nominal, deviceDefault(row, "hold_power_factor").nominal);
    const double powerW = p.isWritten("coil_power_w") ? p.number("coil_power_w") : deviceDefault(row, "power_dc").nominal;
    // An AC coil's winding resistance is the real part of its inrush impedance at most; a DC coil's follows from its power.
    coil.resistanceOhm = coil.direct ? u * u / powerW : coil.openOhm.real();
    if (coil.direct)
        coil.openOhm = coil.sealedOhm = coil.resistanceOhm;
    coil.pickUpV = u * deviceDefault("coil", "may_pull_in_from").nominal;
    coil.dropOutV = u * deviceDefault("coil", coil.direct ? "may_drop_out_at_dc" : "may_drop_out_at_ac").nominal;
    return coil;
}

Expected<Body> bodyWith(const Parameters& p, Timing timing, int mainPoles)
{
    Body b;
    const bool large = p.word("size") == "from_11_to_30_kw";
    const bool direct = p.word("coil_current") == "dc";
    const std::string row = large ? "contactor 11 to 30 kW" : "contactor to 7.5 kW";
    const std::string kindOfCurrent = direct ? "dc" : "ac";
    MoverSpec armature{"armature", MoverSpec::Driver::Coil};
    armature.toActuatedS = timedParameter(p, "pick_up_time_s", deviceDefault(row, "pick_up_time_" + kindOfCurrent), timing);
    armature.toRestS = timedParameter(p, "release_time_s", deviceDefault(row, "release_time_" + kindOfCurrent), timing)
        * releaseFactor(p.word("suppressor"), timing);
    armature.gapS = timed(deviceDefault("contactor", "nc_opens_before_no_closes"), timing);
    b.movers.push_back(armature);
    const bool mirror = p.flag("mirror_contacts"), linked = p.flag("linked_contacts");
    for (int k = 0; k < mainPoles; ++k)
        addContact(b, std::to_string(2 * k + 1) + "-" + std::to_string(2 * k + 2), {ContactKind::Main, 0, kActuated, mirror});
    for (const std::string& pair : p.words("auxiliary_contacts")) {
        const auto kind = contactKindOf(pair, p.tag());
        if (!kind)
            return Unexpected{kind.error()};
        for (const Element& e : b.elements)
            if (e.role == pair)
                return failure(ErrorCode::Refused, message("kind.contact_twice", {p.tag(), pair}));
        const bool closing = *kind == ContactKind::NormallyOpen;
        addContact(b, pair, {*kind, 0, closing ? kActuated : kAtRest, linked && closing});
    }
    Element coil;
    coil.role = "coil";
    coil.terminals[0] = addTerminal(b, "A1");
    coil.terminals[1] = addTerminal(b, "A2");
    coil.what = coilOf(p, row);
    b.elements.push_back(coil);
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

} // namespace

const DeviceKind contactor{"contactor", "Q", kContactorParameters, contactorBody, kContactorFaults, "contactor", "contactor"};
const DeviceKind contactorRelay{"contactor_relay", "K", kContactorParameters, contactorRelayBody, kRelayFaults, "contactor", "contactor"};

} // namespace ts::kinds
