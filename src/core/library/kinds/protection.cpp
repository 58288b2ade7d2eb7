// What cuts off by itself: circuit breaker, motor protection switch, gG fuses, thermal overload relay.

#include "core/library/kinds/build.h"
#include "core/library/kinds/kinds.h"

#include <array>
#include <cmath>

namespace ts::kinds {
namespace {

using Type = ParameterSpec::Type;

constexpr std::array kBreakerParameters{
    ParameterSpec{"poles", Type::Number, 1, 4, 1, {}, {}, "assumed"},
    ParameterSpec{"rated_current_a", Type::Number, 0.1, 1000, {}, {}, {}, {}, true},
    ParameterSpec{"characteristic", Type::Word, 0, 0, {}, {}, "B C D", {}, true},
    ParameterSpec{"breaking_ka", Type::Number, 0.1, 200, 6, {}, {}, "assumed"},
    ParameterSpec{"energy_class", Type::Number, 1, 3, 3, {}, {}, "assumed"},
};

/// First-order time constant that trips after testS at testMultiple, with the limit given as (I/rated)^2.
double timeConstantFor(double testS, double testMultiple, double limit)
{
    const double drive = testMultiple * testMultiple;
    return testS / std::log(drive / (drive - limit)); // t = tau ln(drive / (drive - limit)) from cold
}

Expected<Body> breakerBody(const Parameters& p, Timing timing)
{
    Body b;
    const double opening = deviceDefault("breaker", "instantaneous_opening_time").nominal;
    const double latch = deviceDefault("breaker", "latch_release_time").nominal;
    b.movers.push_back({"switch", MoverSpec::Driver::Protection, 2, 0.0, opening - latch, 0.0, true});
    const int poles = static_cast<int>(p.number("poles"));
    std::vector<int> all;
    for (int k = 0; k < poles; ++k)
        all.push_back(addContact(b, poleName(k), {ContactKind::Pole, 0, kActuated}));
    const double rated = p.number("rated_current_a");
    const double multiple = timed(deviceDefault("breaker " + p.word("characteristic"), "instantaneous"), timing);
    const double thermalMultiple = deviceDefault("breaker", "thermal").nominal;
    const double limit = thermalMultiple * thermalMultiple;
    const double testS = timed(deviceDefault("breaker", "time_at_2_55_x"), Timing::Nominal);
    b.protections.push_back({Protection::Law::Magnetic, 0, 0, all, -1, rated, multiple, 0.0, latch});
    b.protections.push_back(
        {Protection::Law::Thermal, 0, 0, all, -1, rated, limit, timeConstantFor(testS, 2.55, limit), latch});
    b.actions = {{"switch_on", 0, 2}, {"switch_off", 0, 0}};
    return b;
}

constexpr std::array kFuseParameters{
    ParameterSpec{"poles", Type::Number, 1, 3, 1, {}, {}, "assumed"},
    ParameterSpec{"rated_current_a", Type::Number, 0.05, 1000, {}, {}, {}, {}, true},
    ParameterSpec{"breaking_ka", Type::Number, 0.01, 200, 50, {}, {}, "clause IEC 60269-2"},
};
constexpr std::array kFuseFaults{FailureModeSpec{"element", "open"}};

Expected<Body> fuseBody(const Parameters& p, Timing timing)
{
    Body b;
    const double rated = p.number("rated_current_a");
    const MeltingCurve curve = ggCurve(rated, timing);
    const double cooling = deviceDefault("fuse gG", "cooling_time").nominal;
    for (int k = 0; k < static_cast<int>(p.number("poles")); ++k) {
        b.movers.push_back({"element " + poleName(k), MoverSpec::Driver::Protection, 0, 0.0, 0.0, 0.0, true});
        const int pole = addContact(b, poleName(k), {ContactKind::Pole, k, kAtRest});
        Protection melts;
        melts.law = Protection::Law::Melting;
        melts.mover = k;
        melts.poles = {pole};
        melts.ratedA = rated;
        melts.timeConstantS = cooling;
        melts.melting = curve;
        b.protections.push_back(melts);
        b.actions.push_back({"replace", k, 0});
    }
    return b;
}

constexpr std::array kOverloadParameters{
    ParameterSpec{"setting_a", Type::Number, 0.05, 1000, {}, {}, {}, {}, true},
    ParameterSpec{"trip_class", Type::Word, 0, 0, {}, "10A", "10A 10 20 30", "assumed"},
    ParameterSpec{"reset", Type::Word, 0, 0, {}, "manual", "manual automatic", "assumed"},
    ParameterSpec{"phase_loss_sensitive", Type::Flag, 0, 0, {}, "yes", {}, "assumed"},
    ParameterSpec{"range_low_a", Type::Number, 0.01, 2000, {}, {}, {}, "sheet"},
    ParameterSpec{"range_high_a", Type::Number, 0.01, 2000, {}, {}, {}, "sheet"},
    ParameterSpec{"largest_fuse_type2_a", Type::Number, 1, 2000, {}, {}, {}, "sheet"},
    kContactAc,
    kContactDc,
    kContactAc15,
    kContactDc13,
    kContactFuse,
};
constexpr std::array kOverloadFaults{FailureModeSpec{"contact", "welded"}, FailureModeSpec{"contact", "does_not_close"},
    FailureModeSpec{"mechanism", "does_not_trip"}};

/// Heating of all poles by the trip class of IEC 60947-4-1.
Protection thermalOf(const Parameters& p, int mover, std::uint8_t tripped, const std::vector<int>& poles,
    bool feelsLostPhase, Timing timing)
{
    const DefaultRow cold = deviceDefault("overload relay", "trip_limit");
    const double limit = cold.nominal * cold.nominal;
    const Table& classes = tripClassTable();
    double tau = 0.0;
    for (std::size_t row = 0; row < classes.rowCount(); ++row)
        if (classes.cell(row, "class") == p.word("trip_class")) {
            const double low = *classes.number(row, "min_s_at_7_2"), high = *classes.number(row, "max_s_at_7_2");
            const double at72 = timing == Timing::Fast ? low : timing == Timing::Slow ? high : std::sqrt(low * high);
            tau = timeConstantFor(at72, 7.2, limit);
        }
    Protection heat;
    heat.law = Protection::Law::Thermal;
    heat.mover = mover;
    heat.trippedTravel = tripped;
    heat.poles = poles;
    heat.ratedA = p.number("setting_a");
    heat.limit = limit;
    heat.timeConstantS = tau;
    const double twoPoles = deviceDefault(
        "overload relay", feelsLostPhase ? "two_pole_limit_sensitive" : "two_pole_limit_insensitive")
                                .nominal;
    heat.unbalanceWeight = limit / (twoPoles * twoPoles) - 1.0;
    return heat;
}

Expected<Body> overloadBody(const Parameters& p, Timing timing)
{
    Body b;
    b.movers.push_back({"trip", MoverSpec::Driver::Protection, 0, 0.0, 0.0, 0.0, true});
    std::vector<int> poles;
    for (int k = 0; k < 3; ++k)
        poles.push_back(addContact(b, poleName(k), {ContactKind::Pole, -1, kAlways}));
    addContact(b, "95-96", {ContactKind::NormallyClosed, 0, kAtRest});
    addContact(b, "97-98", {ContactKind::NormallyOpen, 0, kActuated});
    Protection heat = thermalOf(p, 0, 2, poles, p.flag("phase_loss_sensitive"), timing);
    if (p.word("reset") == "automatic")
        heat.resetBelow = heat.limit * deviceDefault("overload relay", "automatic_reset_below").nominal;
    b.protections.push_back(heat);
    b.actions = {{"reset", 0, 0}, {"test", 0, 2}};
    return b;
}

constexpr std::array kMotorSwitchParameters{
    ParameterSpec{"setting_a", Type::Number, 0.05, 1000, {}, {}, {}, {}, true},
    ParameterSpec{"trip_class", Type::Word, 0, 0, {}, "10", "10A 10 20 30", "assumed"},
    ParameterSpec{"auxiliary_contacts", Type::WordList, 0, 0, {}, "", {}, "assumed"},
    ParameterSpec{"range_low_a", Type::Number, 0.01, 1000, {}, {}, {}, "sheet"},
    ParameterSpec{"range_high_a", Type::Number, 0.01, 1000, {}, {}, {}, "sheet"},
    ParameterSpec{"breaking_ka", Type::Number, 0.1, 200, {}, {}, {}, "sheet"},
    ParameterSpec{"instantaneous_x", Type::Number, 5, 25, {}, {}, {}, "sheet"},
    kContactAc,
    kContactDc,
    kContactAc15,
    kContactDc13,
    kContactFuse,
};

/// Three poles with an adjustable thermal and a fixed magnetic release, switched by hand.
Expected<Body> motorSwitchBody(const Parameters& p, Timing timing)
{
    Body b;
    const double opening = deviceDefault("breaker", "instantaneous_opening_time").nominal;
    const double latch = deviceDefault("breaker", "latch_release_time").nominal;
    b.movers.push_back({"switch", MoverSpec::Driver::Protection, 2, 0.0, opening - latch, 0.0, true});
    std::vector<int> poles;
    for (int k = 0; k < 3; ++k)
        poles.push_back(addContact(b, poleName(k), {ContactKind::Pole, 0, kActuated}));
    if (auto ok = addContacts(
            b, p.words("auxiliary_contacts"), p.tag(), [](ContactKind kind) { return contactOf(0, kind); });
        !ok)
        return Unexpected{ok.error()};
    const double multiple = timedParameter(
        p, "instantaneous_x", deviceDefault("motor protection switch", "instantaneous"), timing);
    b.protections.push_back({Protection::Law::Magnetic, 0, 0, poles, -1, p.number("setting_a"), multiple, 0.0, latch});
    Protection heat = thermalOf(p, 0, 0, poles, true, timing);
    heat.latchS = latch;
    b.protections.push_back(heat);
    b.actions = {{"switch_on", 0, 2}, {"switch_off", 0, 0}};
    return b;
}

} // namespace

const DeviceKind motorProtectionSwitch{"motor_protection_switch", "Q", kMotorSwitchParameters, motorSwitchBody,
    kOverloadFaults, "breaker", "breaker", "auxiliary_contacts"};
const DeviceKind breaker{"breaker", "Q", kBreakerParameters, breakerBody, {}, "breaker", "breaker"};
const DeviceKind fuse{"fuse", "F", kFuseParameters, fuseBody, kFuseFaults, "fuse", "fuse"};
const DeviceKind overloadRelay{
    "overload_relay", "F", kOverloadParameters, overloadBody, kOverloadFaults, "overload", "overload"};

} // namespace ts::kinds
