// Shorts and earth faults at the places where they count, run: what must break them, what they let through, how soon
// they are gone. Source: EN 60204-1 clauses 5.3.3, 7.2.9, 7.10, 18.2, annexes A and D; IEC 60909-0.

#include "core/base/at.h"
#include "core/library/melting.h"
#include "core/library/table.h"
#include "core/sizing/judge.h"

#include <algorithm>
#include <cmath>

namespace ts::sizing {
namespace {

constexpr double kFixedS = 5.0; ///< EN 60204-1 annex A: what is fixed is dead by then
constexpr double kTouchAcV = 50.0, kTouchDcV = 120.0; ///< IEC 60364-4-41 clause 411.1: below, a frame may stay live
constexpr double kReleaseBand = 1.2; ///< IEC 60947-2 clause 8.3.3.1.2: a short-circuit release holds within 20 %
constexpr double kNearShareOfMeter = 2.0 / 3.0; ///< EN 60204-1 annex A: measured cold

/// A s^0.5 / mm2 of a core bundled or of a cable, by its insulation. Source: EN 60204-1 annex D.
double adiabaticK(const Wire& w)
{
    const std::string word = w.insulation.empty() ? "pvc_70" : w.insulation; // "..._70": from so many degC
    const double from = *numberFrom(std::string_view(word).substr(word.rfind('_') + 1));
    const Table& t = adiabaticTable();
    std::size_t row = 0;
    while (*t.number(row, "from_c") != from || !t.cell(row, "use").starts_with("core"))
        ++row;
    return *t.number(row, "k");
}

/// So much must flow that it is gone in time, in terms of one of its poles; nothing for thermal releases.
std::optional<double> opensFrom(const PlantProtection& p, double upperMultiple, double withinS)
{
    if (p.data.law == Protection::Law::Magnetic)
        return p.data.ratedA * upperMultiple;
    if (p.data.law != Protection::Law::Melting)
        return std::nullopt;
    return opensWithin(p.data.ratedA, withinS);
}

/// Of an instantaneous release the upper limit.
double upperMultipleOf(const Judge& j, const PlantProtection& p)
{
    const Device& d = j.deviceOf(p.device);
    if (hasParameter(d, "instantaneous_x"))
        if (const auto own = j.parameters(d.id); own->isWritten("instantaneous_x"))
            return kReleaseBand * own->number("instantaneous_x");
    const auto parameters = d.kind == "breaker" ? j.parameters(d.id) : std::nullopt;
    return deviceDefault(
        parameters ? "breaker " + parameters->word("characteristic") : "motor protection switch", "instantaneous")
        .high;
}

/// Poles of one device, with the node where its current comes in and where it leaves.
struct Breaking {
    int device;
    std::vector<int> links;
};
std::vector<Breaking> breaking(const Judge& j)
{
    std::vector<Breaking> all;
    for (const PlantProtection& p : j.plant.protections) {
        if (p.data.law == Protection::Law::Thermal || !hasParameter(j.deviceOf(p.device), "breaking_ka"))
            continue;
        auto known = std::find_if(all.begin(), all.end(), [&p](const Breaking& b) { return b.device == p.device; });
        if (known == all.end()) {
            all.push_back({p.device, {}});
            known = all.end() - 1;
        }
        for (int pole : p.data.poles)
            if (std::find(known->links.begin(), known->links.end(), pole) == known->links.end())
                known->links.push_back(pole);
    }
    return all;
}

/// Where the current of one pole comes back to: the other ends of what feeds it.
std::set<int> returnsOf(const Judge& j, const RunningLoad& r, int link)
{
    const PlantLink& pole = j.plant.links[at(link)];
    std::set<int> mine = joinedTo(j, r.frame, pole.p), back;
    mine.merge(joinedTo(j, r.frame, pole.q));
    for (const PlantConverter& c : j.plant.converters)
        if (mine.contains(c.plus) || mine.contains(c.minus))
            back.insert(mine.contains(c.plus) ? c.minus : c.plus);
    for (const PlantTransformer& t : j.plant.transformers)
        if (mine.contains(t.s1) || mine.contains(t.s2))
            back.insert(mine.contains(t.s1) ? t.s2 : t.s1);
    const bool isLine = std::any_of(
        j.plant.sources.begin(), j.plant.sources.end(), [&mine](const PlantSource& s) { return mine.contains(s.p); });
    if (isLine)
        back.insert(0);
    for (const PlantSource& s : j.plant.sources)
        if (isLine && !mine.contains(s.p))
            back.insert(s.p);
    return back;
}

/// The largest current through its poles with a short right behind it: between its poles, or of one pole to whatever
/// its current comes back to.
double largestThrough(Judge& j, const RunningLoad& r, const Breaking& b)
{
    double most = 0;
    const auto tried = [&](const std::vector<Fault>& faults) {
        if (const auto frame = frameWith(j.loads.cold, r.state, faults))
            for (int link : b.links)
                most = std::max(most, frame->links[at(link)].rmsA());
    };
    for (bool isOut : {false, true}) {
        const auto side = [&](std::size_t k) {
            const PlantLink& l = j.plant.links[at(b.links[k])];
            return isOut ? l.q : l.p;
        };
        std::vector<Fault> together;
        for (std::size_t k = 0; k + 1 < b.links.size(); ++k)
            together.push_back({FaultMode::Short, side(k), side(k + 1)});
        if (!together.empty())
            tried(together);
        else
            for (int back : returnsOf(j, r, b.links[0]))
                tried({{FaultMode::Short, side(0), back}});
    }
    return most;
}

void capacity(Judge& j, const RunningLoad& r, const std::vector<Breaking>& all)
{
    const double c = Judge::fallback("short circuit", "voltage_factor_largest");
    for (const Breaking& b : all) {
        const Device& d = j.deviceOf(b.device);
        const auto p = j.parameters(d.id);
        if (d.kind == "motor_protection_switch" && !p->isWritten("breaking_ka")) {
            j.lacks("short.capacity", d, "breaking_ka");
            continue;
        }
        Headroom h{"short.capacity", d.id, {}, true, c * largestThrough(j, r, b), 0, "A", Severity::Stop};
        h.allowed = 1000 * j.number(*p, "breaking_ka", h);
        if (h.needed > 0)
            j.share(std::move(h));
    }
}

/// What the fuse lets through against what welds the contacts, where the sheet says so.
void letThrough(Judge& j, const RunningLoad& r, const std::vector<Breaking>& all)
{
    double least = 0, largestA = 0;
    for (const PlantProtection& p : j.plant.protections)
        if (p.data.law == Protection::Law::Melting && !p.data.poles.empty()
            && r.ratedThrough(p.data.poles.front()) >= kCarries * r.ratedA && (least <= 0 || p.data.ratedA < least)) {
            least = p.data.ratedA;
            for (const Breaking& b : all)
                if (b.device == p.device)
                    largestA = largestThrough(j, r, b);
        }
    if (least <= 0)
        return;
    const auto most = ggCurve(least, Timing::Slow).points.back();
    const double total = Judge::fallback("fuse gG", "total_over_prearcing") * most.first * most.first * most.second;
    for (std::size_t l = 0; l < j.plant.links.size(); ++l) {
        const PlantLink& link = j.plant.links[l];
        if (link.device < 0 || link.contact.kind != ContactKind::Main
            || !hasParameter(j.deviceOf(link.device), "weld_i2t_a2s")
            || r.ratedThrough(static_cast<int>(l)) < kCarries * r.ratedA)
            continue;
        const Device& d = j.deviceOf(link.device);
        const auto p = j.parameters(d.id);
        if (!p->isWritten("weld_i2t_a2s"))
            j.lacks("short.letthrough", d, "weld_i2t_a2s");
        else
            j.share({"short.letthrough", d.id, {}, true, total, p->number("weld_i2t_a2s"), "A2s"});
        if (p->isWritten("weld_peak_a") && largestA > 0) { // cut off before the first peak: (3 sqrt2 w Ik I2t)^(1/3)
            const double flows = Judge::fallback("short circuit", "voltage_factor_largest") * largestA;
            const double peak = std::cbrt(3 * std::sqrt(2.0) * 2 * M_PI * j.plant.frequencyHz * flows * total);
            j.share({"short.letthrough", d.id, {}, true, std::min(peak, 2 * std::sqrt(2.0) * flows),
                p->number("weld_peak_a"), "A"});
        }
    }
}

/// Something with a frame, as it runs: a line of it, and what flows there.
struct Framed {
    DeviceId device;
    int line = 0; ///< node
    const State& state;
    const Frame& frame;
    double lineA = 0;
};

/// The line that is farthest from earth; none where a touch is harmless.
std::optional<Framed> framed(const Judge& j, const OtherLoad& other)
{
    const PlantActuator& load = j.plant.actuators[other.slot];
    const auto volts = [&](int node) {
        const NodeReading& n = other.frame.nodes[at(node)];
        return std::max(std::abs(n.alternatingV) / kTouchAcV, std::abs(n.directV) / kTouchDcV);
    };
    const int line = *std::max_element(
        load.nodes.begin(), load.nodes.end(), [&](int a, int b) { return volts(a) < volts(b); });
    if (volts(line) <= 1.0)
        return std::nullopt;
    double flows = 0;
    for (int coil : load.coils)
        flows = std::max(flows, other.frame.impedancesA[at(j.plant.coils[at(coil)].impedance)]);
    return Framed{other.device, line, other.state, other.frame, flows};
}

/// The thickest of lines is on the frame: who opens it, and how soon.
void disconnection(Judge& j, const Framed& r)
{
    const Device& load = *j.circuit.device(r.device);
    const int pe = j.plant.terminalIndex(load.tag, "PE");
    const Device* supply = j.supplyDevice();
    if (pe < 0 || !supply)
        return;
    const auto p = j.parameters(supply->id);
    const std::string& earthing = p->word("earthing");
    if (earthing == "it")
        return;
    if (earthing == "tt")
        return j.notJudged("loop.tt", supply->id, {}, message("sizing.enter.electrode", {supply->tag}));
    if (!p->isWritten("earth_return_ohm"))
        return j.lacks("loop.disconnection", *supply, "earth_return_ohm", "sizing.enter.earth_return");
    const int frame = j.plant.terminals[at(pe)].node;
    const std::array fault{Fault{FaultMode::Short, r.line, frame}};
    const auto hot = frameWith(j.plant, r.state, fault), cold = frameWith(j.loads.cold, r.state, fault);
    if (!hot || !cold)
        return;
    const double c = Judge::fallback("short circuit", "voltage_factor_smallest");
    std::optional<double> least;
    double flows = 0, flowsCold = 0;
    for (const PlantProtection& protection : j.plant.protections)
        for (int pole : protection.data.poles) {
            const double a = c * hot->links[at(pole)].rmsA();
            const auto from = opensFrom(protection, upperMultipleOf(j, protection), kFixedS);
            if (!from || r.frame.links[at(pole)].rmsA() < kCarries * r.lineA || a <= r.lineA)
                continue;
            if (!least || *from / a < *least / flows) {
                least = from;
                flows = a;
                flowsCold = cold->links[at(pole)].rmsA();
            }
        }
    if (!least)
        return j.notJudged("loop.disconnection", r.device, {}, message("sizing.enter.protection", {load.tag}));
    Headroom h{"loop.disconnection", r.device, {}, true, *least, flows, "A", Severity::Stop};
    if (*least > kNearShareOfMeter * flowsCold && *least <= flows)
        h.note = message("sizing.loop.meter", {load.tag, Measured{flowsCold, "A"}});
    j.share(std::move(h));
}

/// One motor stalled, the others running: what the switch at the supply must be able to open.
void switches(Judge& j)
{
    std::map<int, std::pair<double, double>> currents; // device -> largest stalled less running, sum of all running
    std::map<int, std::set<DeviceId>> counted;
    for (const RunningLoad& r : j.loads.running) {
        const auto p = j.parameters(r.motor);
        if (!p || r.isFedByDrive)
            continue;
        for (std::size_t l = 0; l < j.plant.links.size(); ++l) {
            const PlantLink& link = j.plant.links[l];
            if (link.device < 0 || j.deviceOf(link.device).kind != "switch_disconnector"
                || r.frame.links[l].rmsA() < kCarries * r.lineA || !counted[link.device].insert(r.motor).second)
                continue;
            auto& [stalled, running] = currents[link.device];
            running += r.ratedA;
            stalled = std::max(stalled, r.ratedA * (lockedRotorRatio(*p) - 1));
        }
    }
    for (const auto& [device, both] : currents) {
        const Device& d = j.deviceOf(device);
        const auto p = j.parameters(d.id);
        if (!p->isWritten("rated_current_a") && !p->isWritten("breaking_current_a")) {
            j.lacks("switch.breaking", d, "rated_current_a");
            continue;
        }
        Headroom h{"switch.breaking", d.id, {}, true, both.first + both.second, 0, "A"};
        if (p->isWritten("breaking_current_a")) {
            h.allowed = p->number("breaking_current_a");
        } else {
            h.allowed = Judge::fallback("switch-disconnector", "breaking_current") * p->number("rated_current_a");
            h.assumed = {d.tag + " breaking_current_a"};
        }
        j.share(std::move(h));
    }
}

/// Of a breaker that trips at once; without a class, or beyond the table, the current of a half wave. None where it
/// does not trip at once.
std::optional<double> letThroughOf(const Judge& j, const PlantProtection& breaker, double flowsA, Headroom& h)
{
    constexpr double kHalfWaveS = 0.010;
    const Device& d = j.deviceOf(breaker.device);
    if (flowsA < breaker.data.ratedA * upperMultipleOf(j, breaker))
        return std::nullopt;
    const double all = flowsA * flowsA * kHalfWaveS;
    const auto p = hasParameter(d, "energy_class") ? j.parameters(d.id) : std::nullopt;
    if (!p || p->word("characteristic") == "D" || j.number(*p, "energy_class", h) < 3)
        return all;
    const Table& t = breakerLetThroughTable();
    for (std::size_t row = 0; row < t.rowCount(); ++row)
        if (*t.number(row, "rated_to_a") >= breaker.data.ratedA && *t.number(row, "breaking_ka") * 1000 >= flowsA)
            return std::min(all, *t.number(row, p->word("characteristic") == "B" ? "b_a2s" : "c_a2s"));
    return all;
}

/// Along each way: what the fuse passed last lets through into a short at the far end. Presumed where the fuse
/// protects the wire against overload already.
void wiresAtShort(Judge& j, const Walk& walk)
{
    const Device* supply = j.supplyDevice();
    const auto p = supply ? j.parameters(supply->id) : std::nullopt;
    double fuseA = p && p->isWritten("incoming_fuse_a") ? p->number("incoming_fuse_a") : 0.0;
    const PlantProtection* breaker = nullptr;
    for (const Station& s : walk.stations) {
        if (const Device* d = j.circuit.device(s.device))
            for (const PlantProtection& fuse : j.plant.protections)
                if (j.plant.devices[at(fuse.device)].id == d->id) {
                    if (fuse.data.law == Protection::Law::Melting)
                        fuseA = fuseA > 0 ? std::min(fuseA, fuse.data.ratedA) : fuse.data.ratedA;
                    if (fuse.data.law == Protection::Law::Magnetic)
                        breaker = &fuse;
                }
        const Wire* w = j.circuit.wire(s.wire);
        if (!w || s.shortA <= 0)
            continue;
        if (fuseA <= 0 && !breaker) {
            if (supply)
                j.lacks("wire.short", *supply, "incoming_fuse_a", "sizing.enter.incoming_fuse");
            continue;
        }
        const double flows = Judge::fallback("short circuit", "voltage_factor_smallest") * s.shortA;
        const double bears = std::pow(adiabaticK(*w) * w->areaMm2, 2);
        Headroom h{"wire.short", {}, w->id, true, bears * 10, bears, "A2s", Severity::Stop};
        if (w->insulation.empty())
            h.assumed = {"insulation PVC 70"};
        if (fuseA > 0)
            if (const auto t = clearingTimeS(ggCurve(fuseA, Timing::Slow), flows))
                h.needed = std::max(flows * flows * *t, *t > kFixedS ? bears * *t / kFixedS : 0.0);
        Headroom said;
        if (const auto through = breaker ? letThroughOf(j, *breaker, flows, said) : std::nullopt;
            through && *through < h.needed) {
            h.needed = *through;
            h.assumed.insert(h.assumed.end(), said.assumed.begin(), said.assumed.end());
        }
        const auto carries = ampacityOf(j, *w);
        if (carries && fuseA > 0 && fuseA <= *carries)
            h.needed = std::min(h.needed, bears); // presumed: EN 60204-1 annex D
        j.share(std::move(h));
    }
}

} // namespace

void judgeShorts(Judge& j, const std::vector<Walk>& walks)
{
    for (const char* rule :
        {"short.capacity", "short.letthrough", "loop.disconnection", "loop.tt", "switch.breaking", "wire.short"})
        j.here(rule);
    const auto all = breaking(j);
    for (const RunningLoad& r : j.loads.running) {
        capacity(j, r, all);
        letThrough(j, r, all);
        if (!r.isFedByDrive)
            disconnection(j, {r.motor, j.plant.motors[r.slot].nodes[0], r.state, r.frame, r.lineA});
    }
    for (const OtherLoad& other : j.loads.others)
        if (const auto f = framed(j, other))
            disconnection(j, *f);
    switches(j);
    for (const Walk& w : walks)
        if (!w.isControl)
            wiresAtShort(j, w);
}

} // namespace ts::sizing
