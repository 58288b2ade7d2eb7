// Wires: least section, current, voltage drop, protective conductors. Source: EN 60204-1 clauses 8.2, 12.2, 12.4, 12.5.

#include "core/base/at.h"
#include "core/library/table.h"
#include "core/sizing/judge.h"

#include <algorithm>
#include <cmath>

namespace ts::sizing {
namespace {

constexpr double kMuchLeakageMa = 10.0, kLeastForLeakageMm2 = 10.0; ///< EN 60204-1 clause 8.2.6: more than that of a
                                                                    ///< drive
constexpr double kPowerDropShare = 0.05; ///< EN 60204-1 clause 12.5

bool passes(const Conductors& way, int wire)
{
    return std::find(way.wires.begin(), way.wires.end(), wire) != way.wires.end();
}

/// By the drive's sheet; where nobody has written it, as much as the motor: only to tell that it is a power wire.
double throughDrive(const RunningLoad& r, int wire)
{
    return passes(r.toDrive, wire)  ? (r.driveInputA > 0 ? r.driveInputA : r.ratedA)
        : passes(r.fromDrive, wire) ? (r.driveOutputA > 0 ? r.driveOutputA : r.ratedA)
                                    : 0.0;
}

/// What it carries for long with every motor that it feeds: its rated load, or what its protection lets flow.
double ratedOf(const Judge& j, const PlantWire& w)
{
    const auto slot = static_cast<std::size_t>(&w - j.plant.wires.data());
    std::map<DeviceId, double> byMotor;
    for (const RunningLoad& r : j.loads.running) {
        if (r.isFedByDrive)
            byMotor[r.motor] = std::max(byMotor[r.motor], throughDrive(r, static_cast<int>(slot)));
        if (r.isFedByDrive || r.lineA <= 0)
            continue;
        double& a = byMotor[r.motor];
        a = std::max(a, r.wiresA[slot] * std::max(1.0, r.protectedA / r.ratedA));
        const auto motor = j.parameters(r.motor);
        if (motor && a <= 0 && r.wireStartsA[slot] >= kCarries * r.ratedA) // of a star connection
            a = r.wireStartsA[slot] / lockedRotorRatio(*motor);
    }
    double sum = 0;
    for (const auto& [motor, a] : byMotor)
        sum += a;
    return sum;
}

} // namespace

bool isPowerWire(const Judge& j, const PlantWire& w)
{
    return ratedOf(j, w) > 0;
}

const Device* unreadDriveAt(const Judge& j, const PlantWire& w)
{
    const auto slot = static_cast<int>(&w - j.plant.wires.data());
    for (const RunningLoad& r : j.loads.running)
        if ((passes(r.toDrive, slot) && r.driveInputA <= 0) || (passes(r.fromDrive, slot) && r.driveOutputA <= 0))
            return j.circuit.device(r.drive);
    return nullptr;
}

bool isProtective(const Wire& w)
{
    return w.from.marking == "PE" || w.to.marking == "PE";
}

namespace {

/// The largest section of the table that is not above the wire's; nothing below the table.
std::optional<double> ampacityA(double areaMm2, const std::string& method)
{
    const Table& t = conductorTable();
    std::optional<double> a;
    for (std::size_t row = 0; row < t.rowCount(); ++row)
        if (*t.number(row, "area_mm2") <= areaMm2 * 1.0001)
            a = t.number(row, method);
    return a;
}

std::string methodOf(const Route& route)
{
    return !route.method.empty() ? route.method : route.kind == RouteKind::Enclosure ? "b1" : "c";
}

/// The table is for 70 degC. An insulation that bears less carries less, by the heat it may give off; one that bears
/// more carries no more, because terminals are for 70 degC (IEC 60947-1).
double insulationFactor(const Wire& w, const Route& route)
{
    constexpr double kTableC = 70.0, kRubberC = 60.0;
    if (w.insulation != "rubber_60")
        return 1.0;
    const double own = kRubberC - route.ambientC, table = kTableC - route.ambientC;
    return own <= 0 || table <= 0 ? 1e-3 : std::sqrt(own / table);
}

/// For other ambient temperatures and circuits laid together; between rows and columns the harder one.
double factorOf(const Route& route)
{
    const Table &ambient = ambientFactorsTable(), &grouping = groupingFactorsTable();
    double factor = *ambient.number(ambient.rowCount() - 1, "factor");
    for (std::size_t row = ambient.rowCount(); row-- > 0;)
        if (route.ambientC <= *ambient.number(row, "ambient_c"))
            factor = *ambient.number(row, "factor");
    if (route.ambientC > *ambient.number(ambient.rowCount() - 1, "ambient_c"))
        factor = 1e-3; // no row: nothing is known that it bears
    const std::string method = methodOf(route);
    const char* column = route.loadedCircuits <= 2 ? "circuits_2"
        : route.loadedCircuits <= 4                ? "circuits_4"
        : route.loadedCircuits <= 6                ? "circuits_6"
                                                   : "circuits_9";
    for (std::size_t row = 0; route.loadedCircuits > 1 && row < grouping.rowCount(); ++row)
        if (grouping.cell(row, "method") == method)
            factor *= *grouping.number(row, column);
    return factor;
}

/// The cell of the table for its place, use and construction; nothing where the table allows none.
std::optional<double> leastSection(const Judge& j, const Wire& w, const Route& route, bool isPower)
{
    const bool isInside = route.kind == RouteKind::Enclosure;
    const std::string place = isInside ? "inside" : "outside";
    const std::string use = !isPower ? "control" : route.kind == RouteKind::MovingCable ? "power_moving" : "power";
    const auto wires = std::count_if(
        j.circuit.wires.begin(), j.circuit.wires.end(), [&w](const Wire& o) { return o.route == w.route; });
    const auto cores = route.cores > 0 ? route.cores : wires;
    const std::string construction = !route.construction.empty() ? route.construction
        : isInside && isStiff(w)                                 ? "single_stiff"
        : isInside                                               ? "single_flexible"
        : cores > 2                                              ? "multicore"
                                                                 : "two_core";
    const Table& t = minSectionsTable();
    for (std::size_t row = 0; row < t.rowCount(); ++row)
        if (t.cell(row, "place") == place && t.cell(row, "use") == use)
            return t.number(row, construction);
    return std::nullopt;
}

void judgeWire(Judge& j, const PlantWire& slot)
{
    const Wire& w = *j.circuit.wire(slot.id);
    const Route* route = j.circuit.route(w.route);
    const double rated = ratedOf(j, slot);
    if (isProtective(w))
        return;
    if (!route)
        return j.notJudged("wire.minimum", {}, w.id,
            message("sizing.enter.route", {j.circuit.nameOf(w.from), j.circuit.nameOf(w.to)}));
    if (const auto least = leastSection(j, w, *route, rated > 0)) {
        Headroom h{"wire.minimum", {}, w.id, false, *least, w.areaMm2, "mm2"};
        h.isMet = w.areaMm2 >= *least;
        j.met(std::move(h));
    }
    if (rated <= 0)
        return; // of a control circuit
    if (unreadDriveAt(j, slot))
        return; // its sheet is asked for where its contactors are judged
    const auto carries = ampacityOf(j, w);
    if (!carries)
        return j.notJudged("wire.ampacity", {}, w.id,
            message("sizing.below_table", {j.circuit.nameOf(w.from), j.circuit.nameOf(w.to)}));
    Headroom h{"wire.ampacity", {}, w.id, true, rated, *carries, "A"};
    if (route->loadedCircuits == 0)
        h.assumed = {"loaded circuits in " + route->name};
    if (w.insulation.empty())
        h.assumed.emplace_back("insulation PVC 70");
    h.severity = rated > 1.45 * *carries ? Severity::Stop : Severity::Fix;
    j.share(std::move(h));
    if (route->loadedCircuits == 0)
        j.add({"wire.ampacity", {}, {}, message("sizing.enter.loaded_circuits", {route->name}), {}, route->id});
}

/// From the losses in all wires on its way: drop = sqrt3 (R I cos + X I sin), each wire with its own current.
void motorDrop(Judge& j, const RunningLoad& r)
{
    const auto p = j.parameters(r.motor);
    if (r.isFedByDrive || !p || r.lineA <= 0)
        return;
    const double reactance = Judge::fallback("copper", "reactance") * 1e-3;
    double ohmA2 = 0, reactA2 = 0;
    bool isSaid = true; // of which class each wire on its way is
    for (const PlantWire& slot : j.plant.wires) {
        const Wire& w = *j.circuit.wire(slot.id);
        const double a = r.wiresA[static_cast<std::size_t>(&slot - j.plant.wires.data())];
        isSaid &= a <= 0 || !w.conductorClass.empty();
        ohmA2 += a * a * ohmPerM(w) * kHot * w.lengthM;
        reactA2 += a * a * reactance * w.lengthM;
    }
    const double cos = p->number("cos_phi"), sin = std::sqrt(1 - cos * cos);
    const double drop = std::sqrt(3.0) * (ohmA2 * cos + reactA2 * sin) / (3.0 * r.ratedA);
    Headroom h{"wire.drop", r.motor, {}, true, drop, kPowerDropShare * p->number("voltage_v"), "V"};
    if (!isSaid)
        h.assumed = {"conductors of class 5"};
    j.share(std::move(h));
}

bool leaksMuch(const Judge& j, const Device& d)
{
    const auto p = hasParameter(d, "leakage_ma") ? j.parameters(d.id) : std::nullopt;
    return p && p->isWritten("leakage_ma") && p->number("leakage_ma") > kMuchLeakageMa;
}

/// By the section of the lines beside it: to 16 as they are, to 35 16, above half.
void protectiveConductor(Judge& j, const Device& motor)
{
    double lines = 0, earth = 0;
    WireId first;
    for (const Wire& w : j.circuit.wires)
        for (const TerminalRef& end : {w.from, w.to}) {
            if (end.device != motor.id)
                continue;
            if (end.marking == "PE") {
                earth += w.areaMm2;
                first = w.id;
            } else {
                lines = std::max(lines, w.areaMm2);
            }
        }
    double least = lines <= 16 ? lines : lines <= 35 ? 16 : lines / 2;
    if (leaksMuch(j, motor))
        least = std::max(least, kLeastForLeakageMm2);
    Headroom h{"wire.earth", motor.id, first, false, least, earth, "mm2", Severity::Stop};
    h.isMet = earth >= least;
    if (lines > 0)
        j.met(std::move(h));
}

/// What a drive takes and gives flows through cables, too: by its sheet. Of what power factor at its input nobody says:
/// the whole impedance counts there.
void driveDrop(Judge& j, const RunningLoad& r)
{
    const Device* drive = r.isFedByDrive ? j.circuit.device(r.drive) : nullptr;
    const auto p = j.parameters(r.motor);
    if (!drive || !p)
        return;
    const double reactance = Judge::fallback("copper", "reactance") * 1e-3, cos = p->number("cos_phi");
    const auto judged = [&](const Conductors& way, double flowsA, const char* figure, DeviceId end, bool isInput) {
        if (way.wires.empty())
            return;
        if (flowsA <= 0)
            return j.lacks("wire.drop", *drive, figure);
        double ohm = 0, react = 0;
        bool isSaid = true;
        for (int slot : way.wires) {
            const Wire& w = *j.circuit.wire(j.plant.wires[static_cast<std::size_t>(slot)].id);
            ohm += ohmPerM(w) * kHot * w.lengthM / 3.0;
            react += reactance * w.lengthM / 3.0;
            isSaid &= !w.conductorClass.empty();
        }
        const double of = isInput ? std::hypot(ohm, react) : ohm * cos + react * std::sqrt(1 - cos * cos);
        Headroom h{
            "wire.drop", end, {}, true, std::sqrt(3.0) * flowsA * of, kPowerDropShare * p->number("voltage_v"), "V"};
        if (!isSaid)
            h.assumed = {"conductors of class 5"};
        j.share(std::move(h));
    };
    judged(r.toDrive, r.driveInputA, "rated_input_a", drive->id, true);
    judged(r.fromDrive, r.driveOutputA, "rated_output_a", r.motor, false);
}

} // namespace

std::optional<double> ampacityOf(const Judge& j, const Wire& w)
{
    const Route* route = j.circuit.route(w.route);
    const auto alone = route ? ampacityA(w.areaMm2, methodOf(*route)) : std::nullopt;
    return alone ? std::optional(*alone * factorOf(*route) * insulationFactor(w, *route)) : std::nullopt;
}

void judgeWires(Judge& j)
{
    for (const char* rule : {"wire.minimum", "wire.ampacity", "wire.drop", "wire.earth"})
        j.here(rule);
    for (const PlantWire& w : j.plant.wires)
        judgeWire(j, w);
    for (const RunningLoad& r : j.loads.running) {
        motorDrop(j, r);
        driveDrop(j, r);
        if (!r.isFedByDrive && r.protectedA <= 0)
            j.notJudged(
                "wire.ampacity", r.motor, {}, message("sizing.enter.protection", {j.circuit.device(r.motor)->tag}));
    }
    for (const Device& d : j.circuit.devices)
        if (d.kind == "motor" || leaksMuch(j, d))
            protectiveConductor(j, d);
    for (const PlantWire& slot : j.plant.wires) {
        const Wire& w = *j.circuit.wire(slot.id);
        if (!isPowerWire(j, slot) && !isProtective(w) && j.circuit.route(w.route) && !j.has("wire.ampacity", w.id)
            && !isAtDrive(j, slot.p) && !unreadDriveAt(j, slot))
            j.notJudged("wire.ampacity", {}, w.id,
                message("sizing.enter.wire_fuse", {j.circuit.nameOf(w.from), j.circuit.nameOf(w.to)}));
    }
}

} // namespace ts::sizing
