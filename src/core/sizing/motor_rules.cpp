// Motors, overload relays, contactors and the fuses of power circuits. Source: EN 60204-1 clause 7.3, IEC 60947-4-1,
// IEC 60269-1.

#include "core/base/at.h"
#include "core/library/contact_rating.h"
#include "core/library/melting.h"
#include "core/library/table.h"
#include "core/sizing/judge.h"

#include <algorithm>
#include <cmath>

namespace ts::sizing {
namespace {

constexpr double kEfficiencyTolerance = 0.15; ///< x (1 - efficiency): IEC 60034-1 table 20, to 150 kW
constexpr double kLowSetting = 0.95; ///< of the motor's current: below it trips in normal work

/// What the plate itself says must be possible: its efficiency.
void motorCurrent(Judge& j)
{
    j.here("motor.current");
    for (const Device& d : j.circuit.devices) {
        const auto p = d.kind == "motor" ? j.parameters(d.id) : std::nullopt;
        if (!p)
            continue;
        const double apparent = std::sqrt(3.0) * p->number("voltage_v") * p->number("current_a") * p->number("cos_phi");
        Headroom h{"motor.current", d.id, {}, false, p->number("rated_power_w") / apparent,
            Judge::fallback("motor", "efficiency_plausible", "max"), ""};
        h.isMet = h.needed <= h.allowed && h.needed >= Judge::fallback("motor", "efficiency_plausible", "min");
        if (p->isWritten("efficiency")) { // its power, current and power factor give another one
            h.allowed = p->number("efficiency");
            h.isMet = h.isMet && std::abs(h.needed - h.allowed) <= kEfficiencyTolerance * (1 - h.allowed);
        }
        j.met(std::move(h));
    }
}

/// Against the current that its poles carry at the motor's rated load: inside a delta that is less.
void overloadSetting(Judge& j)
{
    j.here("overload.setting");
    const double tolerance = Judge::fallback("overload relay", "setting_tolerance");
    for (const RunningLoad& r : j.loads.running)
        for (const PlantProtection& protection : j.plant.protections) {
            const Device& d = j.deviceOf(protection.device);
            const auto& poles = protection.data.poles;
            if (protection.data.law != Protection::Law::Thermal || poles.empty() || r.isFedByDrive
                || !hasParameter(d, "setting_a"))
                continue;
            double rated = 0;
            for (int pole : poles)
                rated = std::max(rated, r.ratedThrough(pole));
            if (rated < kCarries * r.ratedA)
                continue;
            const auto p = j.parameters(d.id), motor = j.parameters(r.motor);
            const double factor = motor ? motor->number("service_factor") : 1.0;
            Headroom h{"overload.setting", d.id, {}, false, p->number("setting_a"), tolerance * factor * rated, "A"};
            h.isMet = h.needed <= h.allowed;
            if (h.isMet && h.needed > tolerance * rated)
                h.note = message("sizing.overload.factor", {d.tag, Measured{h.needed, "A"}, Measured{rated, "A"}});
            if (h.needed < kLowSetting * rated)
                h.note = message("sizing.overload.low", {d.tag, Measured{h.needed, "A"}, Measured{rated, "A"}});
            j.met(std::move(h));
        }
}

/// Its scale holds what must be set.
void overloadRange(Judge& j)
{
    j.here("overload.range");
    for (const RunningLoad& r : j.loads.running)
        for (const PlantProtection& protection : j.plant.protections) {
            const Device& d = j.deviceOf(protection.device);
            const auto& poles = protection.data.poles;
            if (protection.data.law != Protection::Law::Thermal || poles.empty() || !hasParameter(d, "range_low_a"))
                continue;
            const double rated = r.ratedThrough(poles.front());
            if (r.isFedByDrive || rated < kCarries * r.ratedA)
                continue;
            const auto p = j.parameters(d.id);
            for (const char* end : {"range_low_a", "range_high_a"})
                if (!p->isWritten(end))
                    j.lacks("overload.range", d, end);
            if (!p->isWritten("range_low_a") || !p->isWritten("range_high_a"))
                continue;
            const double low = p->number("range_low_a"), high = p->number("range_high_a");
            Headroom h{"overload.range", d.id, {}, false, rated, rated < low ? low : high, "A"};
            h.isMet = rated >= low && rated <= high;
            j.met(std::move(h));
        }
}

/// Of the trip class the fastest relay, from cold: t = T L(x) / L(7.2), L = ln(x2 / (x2 - limit2)).
double tripS(const std::string& tripClass, double x, const char* column = "min_s_at_7_2")
{
    const Table& classes = tripClassTable();
    const double limit = std::pow(Judge::fallback("overload relay", "ultimate_trip"), 2);
    const auto l = [limit](double multiple) { return std::log(multiple * multiple / (multiple * multiple - limit)); };
    for (std::size_t row = 0; row < classes.rowCount(); ++row)
        if (classes.cell(row, "class") == tripClass && x * x > limit)
            return *classes.number(row, column) * l(x) / l(7.2);
    return HUGE_VAL;
}

/// A motor that jams as it runs is gone before its own stall time, on the slowest relay of the class. `load`: its rated
/// current there, times the setting.
void stalled(Judge& j, const RunningLoad& r, const Device& d, const Parameters& relay, double load)
{
    const std::string& tripClass = relay.word("trip_class");
    const auto motor = j.parameters(r.motor);
    const double slowest = motor ? tripS(tripClass, load * lockedRotorRatio(*motor), "max_s_at_7_2") : HUGE_VAL;
    if (!std::isfinite(slowest))
        return;
    if (motor->isWritten("stall_time_s")) {
        Headroom h{"overload.class", d.id, {}, true, slowest, motor->number("stall_time_s"), "s"};
        if (!motor->isWritten("locked_rotor_ratio"))
            h.assumed = {motor->tag() + " locked_rotor_ratio"};
        j.share(std::move(h));
    } else if (tripClass != "10A" && tripClass != "10")
        j.lacks("overload.class", *j.circuit.device(r.motor), "stall_time_s");
}

/// The run-up is over before the fastest relay of its class trips.
void overloadClass(Judge& j)
{
    j.here("overload.class");
    const double limit = std::pow(Judge::fallback("overload relay", "ultimate_trip"), 2);
    for (const RunningLoad& r : j.loads.running)
        for (const PlantProtection& protection : j.plant.protections) {
            const Device& d = j.deviceOf(protection.device);
            const auto& poles = protection.data.poles;
            if (protection.data.law != Protection::Law::Thermal || poles.empty() || !hasParameter(d, "trip_class"))
                continue;
            const auto start = r.starts.find(poles.front());
            if (start == r.starts.end() || start->second.largestA <= protection.data.ratedA
                || r.ratedThrough(poles.front()) < kCarries * r.ratedA)
                continue;
            const auto p = j.parameters(d.id);
            const double set = p->number("setting_a"), largest = start->second.largestA;
            const double heats = start->second.heatA2s / (largest * largest);
            const double cold = tripS(p->word("trip_class"), largest / set);
            Headroom h{"overload.class", d.id, {}, true, heats, cold, "s"};
            const double load = std::min(1.0, r.ratedThrough(poles.front()) / set);
            const double warm = cold * (1 - load * load / limit);
            if (heats <= cold && heats >= warm)
                h.note = message("sizing.overload.warm", {d.tag, Measured{warm, "s"}, Measured{heats, "s"}});
            if (std::isfinite(cold))
                j.share(std::move(h));
            stalled(j, r, d, *p, r.ratedThrough(poles.front()) / set);
        }
}

/// What it may break now and then, if somebody lets go while the motor is still at rest.
void lockedRotor(Judge& j)
{
    j.here("contactor.locked_rotor");
    const double times = Judge::fallback("contactor", "broken_locked_rotor");
    for (const RunningLoad& r : j.loads.running) {
        const auto motor = j.parameters(r.motor);
        for (std::size_t l = 0; motor && !r.isFedByDrive && l < j.plant.links.size(); ++l) {
            const PlantLink& link = j.plant.links[l];
            const double rated = r.ratedThrough(static_cast<int>(l));
            if (link.contact.kind != ContactKind::Main || link.device < 0 || rated < kCarries * r.ratedA
                || !hasParameter(j.deviceOf(link.device), "rated_current_ac3_a"))
                continue;
            const Device& d = j.deviceOf(link.device);
            Headroom h{
                "contactor.locked_rotor", d.id, {}, true, rated * lockedRotorRatio(*motor), 0, "A", Severity::Note};
            h.allowed = times * j.number(*j.parameters(d.id), "rated_current_ac3_a", h);
            if (const auto p = j.parameters(d.id); p->isWritten("rated_current_ac3e_a")) { // made for such a start
                h.needed = rated;
                h.allowed = p->number("rated_current_ac3e_a");
            }
            j.share(std::move(h));
        }
    }
}

void directPolesIn(Judge& j, const Frame& frame)
{
    std::map<int, int> poles;
    std::map<int, double> volts;
    for (std::size_t l = 0; l < j.plant.links.size(); ++l) {
        const PlantLink& link = j.plant.links[l];
        if (link.device < 0 || link.contact.kind != ContactKind::Main || std::abs(frame.links[l].directA) < 0.01)
            continue;
        ++poles[link.device];
        volts[link.device] = std::max(
            {volts[link.device], std::abs(frame.nodes[at(link.p)].directV), std::abs(frame.nodes[at(link.q)].directV)});
    }
    for (const auto& [device, count] : poles) {
        const Device& d = j.deviceOf(device);
        Headroom h{"contact.dc_poles", d.id, {}, false, volts[device], 0, "V", Severity::Stop};
        const auto own = hasParameter(d, "dc_volts_by_poles")
            ? voltsByPoles(j.parameters(d.id)->words("dc_volts_by_poles"), d.tag)
            : Expected<std::vector<double>>(std::vector<double>{});
        if (own && !own->empty()) {
            h.allowed = (*own)[std::min(own->size(), static_cast<std::size_t>(count)) - 1];
        } else {
            const char* row = count == 1 ? "dc_volts_one_pole"
                : count == 2             ? "dc_volts_two_poles"
                                         : "dc_volts_three_poles";
            h.allowed = Judge::fallback("contactor", row);
            h.assumed = {d.tag + " dc_volts_by_poles"};
        }
        h.isMet = h.needed <= h.allowed;
        j.met(std::move(h));
    }
}

/// Poles that break direct current, as many in series as carry the same.
void directPoles(Judge& j)
{
    j.here("contact.dc_poles");
    for (const RunningLoad& r : j.loads.running)
        directPolesIn(j, r.frame);
    for (const OtherLoad& other : j.loads.others)
        directPolesIn(j, other.frame);
}

/// Ahead of a drive contactors switch what it takes, by their AC-1 current; behind it they carry the motor's.
void driveContactors(Judge& j, std::set<int>& carrying)
{
    const double byDefault = Judge::fallback("contactor", "rated_current_ac1");
    const auto judged = [&](const Conductors& way, double needed, bool isAhead) {
        for (const int l : way.links) {
            const Device& d = j.deviceOf(j.plant.links[at(l)].device);
            if (j.plant.links[at(l)].contact.kind != ContactKind::Main || !hasParameter(d, "rated_current_ac3_a"))
                continue;
            carrying.insert(j.plant.links[at(l)].device);
            if (needed <= 0)
                continue;
            const auto p = j.parameters(d.id);
            Headroom h{"contactor.current", d.id, {}, true, needed, 0, "A", Severity::Fix};
            h.allowed = !isAhead ? j.number(*p, "rated_current_ac3_a", h)
                                 : j.sheetOr(d, "rated_current_ac1_a", byDefault * p->number("rated_current_ac3_a"), h);
            j.share(std::move(h));
        }
    };
    for (const RunningLoad& r : j.loads.running) {
        judged(r.toDrive, r.driveInputA, true);
        judged(r.fromDrive, r.driveOutputA > 0 ? r.ratedA : 0.0, false);
    }
}

/// It gives what its motor takes; what is missing of its sheet is asked for.
void drives(Judge& j)
{
    for (const RunningLoad& r : j.loads.running) {
        const Device* d = j.circuit.device(r.drive);
        if (!r.isFedByDrive || !d)
            continue;
        for (const char* rule : {"contactor.current", "wire.ampacity"}) {
            if (r.driveInputA <= 0)
                j.lacks(rule, *d, "rated_input_a");
            if (r.driveOutputA <= 0)
                j.lacks(rule, *d, "rated_output_a");
        }
        if (r.driveOutputA > 0)
            j.share({"contactor.current", d->id, {}, true, r.ratedA, r.driveOutputA, "A", Severity::Fix});
    }
}

/// Those that carry while a motor runs up, and not when it runs: as much of the rated current as they carry of that
/// with the rotor at rest.
void starContactors(Judge& j, const std::set<int>& all, std::set<int>& carrying)
{
    const std::set<int> steady = carrying;
    for (const RunningLoad& r : j.loads.running) {
        const auto motor = j.parameters(r.motor);
        for (const auto& [link, start] : r.starts) {
            const PlantLink& pole = j.plant.links[at(link)];
            if (!motor || r.isFedByDrive || !all.contains(pole.device) || steady.contains(pole.device)
                || start.largestA < kCarries * r.lineA)
                continue;
            carrying.insert(pole.device);
            const Device& d = j.deviceOf(pole.device);
            Headroom h{"contactor.current", d.id, {}, true, start.largestA / lockedRotorRatio(*motor), 0, "A"};
            h.allowed = j.number(*j.parameters(d.id), "rated_current_ac3_a", h);
            j.share(std::move(h));
        }
    }
}

/// Its poles at the motor's rated load, as the run shares it out among them.
void contactorCurrent(Judge& j)
{
    j.here("contactor.current");
    std::set<int> carrying, all;
    for (const RunningLoad& r : j.loads.running)
        for (std::size_t l = 0; l < j.plant.links.size(); ++l) {
            const PlantLink& link = j.plant.links[l];
            if (link.contact.kind != ContactKind::Main || link.device < 0
                || !hasParameter(j.deviceOf(link.device), "rated_current_ac3_a"))
                continue;
            all.insert(link.device);
            const double rated = r.ratedThrough(static_cast<int>(l));
            if (r.isFedByDrive || rated < kCarries * r.ratedA)
                continue;
            carrying.insert(link.device);
            const Device& d = j.deviceOf(link.device);
            const auto p = j.parameters(d.id), motor = j.parameters(r.motor);
            if (p->isWritten("rated_voltage_v") && motor && motor->number("voltage_v") > p->number("rated_voltage_v")) {
                j.notJudged("contactor.current", d.id, {},
                    message("sizing.enter.at_voltage", {d.tag, Measured{motor->number("voltage_v"), "V"}}));
                continue;
            }
            Headroom h{"contactor.current", d.id, {}, true, rated, 0, "A", Severity::Fix};
            h.allowed = j.number(*j.parameters(d.id), "rated_current_ac3_a", h);
            j.share(std::move(h));
        }
    starContactors(j, all, carrying);
    driveContactors(j, carrying);
    for (int device : all)
        if (!carrying.contains(device))
            j.notJudged("contactor.current", j.deviceOf(device).id, {},
                message("sizing.enter.carries_nothing", {j.deviceOf(device).tag}));
}

/// Main contacts that a heater's current flows through, by their AC-1 current; as far as it is on at rest, or while a
/// motor runs.
void heaters(Judge& j)
{
    std::vector<const Frame*> frames{&j.loads.rest};
    for (const RunningLoad& r : j.loads.running)
        frames.push_back(&r.frame);
    for (const Frame* frame : frames)
        for (const PlantCoil& c : j.plant.coils) {
            const PlantImpedance& element = j.plant.impedances[at(c.impedance)];
            if (!j.deviceOf(element.device).kind.starts_with("heater"))
                continue;
            for (std::size_t l = 0; l < j.plant.links.size(); ++l) {
                const PlantLink& link = j.plant.links[l];
                const double flows = std::abs(frame->links[l].alternatingA);
                if (link.contact.kind != ContactKind::Main || link.device < 0 || flows <= 0
                    || !hasParameter(j.deviceOf(link.device), "rated_current_ac1_a"))
                    continue;
                const auto joined = joinedTo(j, *frame, link.p);
                if (!joined.contains(element.p) && !joined.contains(element.q))
                    continue;
                const Device& d = j.deviceOf(link.device);
                Headroom h{"contactor.current", d.id, {}, true, flows, 0, "A", Severity::Fix};
                h.allowed = j.sheetOr(d, "rated_current_ac1_a",
                    Judge::fallback("contactor", "rated_current_ac1")
                        * j.parameters(d.id)->number("rated_current_ac3_a"),
                    h);
                j.share(std::move(h));
            }
        }
}

struct FuseAhead {
    int device;
    double ratedA;
};
/// The smallest three-pole fuse that carries the motor's current.
std::optional<FuseAhead> fuseOf(Judge& j, const RunningLoad& r)
{
    std::optional<FuseAhead> best;
    for (const PlantProtection& p : j.plant.protections) {
        if (p.data.law != Protection::Law::Melting || p.data.poles.empty()
            || r.ratedThrough(p.data.poles.front()) < kCarries * r.ratedA)
            continue;
        if (!best || p.data.ratedA < best->ratedA)
            best = FuseAhead{p.device, p.data.ratedA};
    }
    return best;
}

/// The overload relay's own limit, where its sheet gives one.
void overloadAtShort(Judge& j, const RunningLoad& r, double fuseA)
{
    for (const PlantProtection& p : j.plant.protections) {
        const Device& d = j.deviceOf(p.device);
        if (p.data.law != Protection::Law::Thermal || p.data.poles.empty() || !hasParameter(d, "largest_fuse_type2_a")
            || r.ratedThrough(p.data.poles.front()) < kCarries * r.ratedA)
            continue;
        const auto parameters = j.parameters(d.id);
        if (!parameters->isWritten("largest_fuse_type2_a"))
            continue;
        Headroom h{"short.coordination", d.id, {}, false, fuseA, parameters->number("largest_fuse_type2_a"), "A"};
        h.isMet = h.needed <= h.allowed;
        j.met(std::move(h));
    }
}

void shortCoordination(Judge& j)
{
    j.here("short.coordination");
    const double type1 = Judge::fallback("contactor", "largest_fuse_type1"),
                 type2 = Judge::fallback("contactor", "largest_fuse_type2");
    for (const RunningLoad& r : j.loads.running) {
        const auto fuse = fuseOf(j, r);
        for (std::size_t l = 0; fuse && l < j.plant.links.size(); ++l) {
            const PlantLink& link = j.plant.links[l];
            if (link.contact.kind != ContactKind::Main || link.device < 0
                || !hasParameter(j.deviceOf(link.device), "rated_current_ac3_a")
                || r.ratedThrough(static_cast<int>(l)) < kCarries * r.ratedA)
                continue;
            const Device& d = j.deviceOf(link.device);
            Headroom h{"short.coordination", d.id, {}, false, fuse->ratedA, 0, "A"}, light = h;
            const double rated = j.parameters(d.id)->number("rated_current_ac3_a");
            h.allowed = j.sheetOr(d, "largest_fuse_type2_a", type2 * rated, h);
            h.isMet = fuse->ratedA <= h.allowed;
            const bool isBeyond = fuse->ratedA > j.sheetOr(d, "largest_fuse_type1_a", type1 * rated, light);
            h.severity = isBeyond ? Severity::Stop : Severity::Note;
            if (isBeyond)
                h.assumed.insert(h.assumed.end(), light.assumed.begin(), light.assumed.end());
            j.met(std::move(h));
        }
        if (fuse)
            overloadAtShort(j, r, fuse->ratedA);
    }
}

/// It carries the motor's current, and outlasts the start on its fastest curve.
void fuseStart(Judge& j)
{
    j.here("fuse.start");
    for (const RunningLoad& r : j.loads.running)
        for (const PlantProtection& p : j.plant.protections) {
            if (p.data.law != Protection::Law::Melting || p.data.poles.empty())
                continue;
            const int pole = p.data.poles.front();
            const double rated = r.ratedThrough(pole);
            if (r.isFedByDrive || rated < kCarries * r.ratedA)
                continue;
            const DeviceId fuse = j.deviceOf(p.device).id;
            j.share({"fuse.start", fuse, {}, true, rated, p.data.ratedA, "A"});
            const auto start = r.starts.find(pole);
            if (start == r.starts.end() || !(start->second.largestA > 0))
                continue;
            const double current = start->second.largestA;
            const auto holds = clearingTimeS(ggCurve(p.data.ratedA, Timing::Fast), current);
            if (holds)
                j.share({"fuse.start", fuse, {}, true, start->second.heatA2s / (current * current), *holds, "s"});
        }
}

} // namespace

void judgeMotors(Judge& j)
{
    motorCurrent(j);
    overloadSetting(j);
    overloadRange(j);
    overloadClass(j);
    contactorCurrent(j);
    heaters(j);
    lockedRotor(j);
    directPoles(j);
    shortCoordination(j);
    fuseStart(j);
    drives(j);
    for (std::size_t k = j.plant.motors.size(); k < j.plant.actuators.size(); ++k) {
        const Device& d = j.deviceOf(j.plant.actuators[k].device);
        j.notJudged("contactor.current", d.id, {}, message("sizing.enter.other_load", {d.tag}));
    }
    for (DeviceId id : j.loads.neverRan)
        j.notJudged("contactor.current", id, {}, message("sizing.enter.never_ran", {j.circuit.device(id)->tag}));
}

} // namespace ts::sizing
