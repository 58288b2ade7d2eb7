// Control circuits: coils, contacts, supplies, and the fuses ahead of them. Source: EN 60204-1 clauses 7.2, 9.1, IEC
// 60947-4-1, IEC 60947-5-1 annex A.

#include "core/base/at.h"
#include "core/library/table.h"
#include "core/simulation/advance.h"
#include "core/sizing/judge.h"

#include <algorithm>
#include <cmath>

namespace ts::sizing {
namespace {

constexpr double kFed = 0.3; ///< of its rated voltage: a coil that is fed, well or badly
constexpr double kLow = 0.944, kHigh = 1.1, kBurns = 1.3,
                 kHighAtHighSupply = 1.005; ///< of Us: 0.85 to 1.1 (IEC 60947-4-1) at a supply of 0.9 to 1.1
constexpr double kDropShare = 0.05; ///< EN 60204-1 clause 9.1: of the control voltage
constexpr TimeNs kAtOnceNs = 100'000;

struct Voltage {
    double alternating, direct;
    double larger() const { return std::max(alternating, direct); }
    bool isDirect() const { return direct > alternating; }
};
Voltage between(const Frame& f, int p, int q)
{
    return {std::abs(f.nodes[at(p)].alternatingV - f.nodes[at(q)].alternatingV),
        std::abs(f.nodes[at(p)].directV - f.nodes[at(q)].directV)};
}

void coilKind(Judge& j)
{
    for (const RunningLoad& r : j.loads.running)
        for (std::size_t c = 0; c < j.plant.coils.size(); ++c) {
            const PlantCoil& coil = j.plant.coils[c];
            const PlantImpedance& winding = j.plant.impedances[at(coil.impedance)];
            const Voltage v = between(r.frame, winding.p, winding.q);
            if (v.larger() < kFed * coil.data.ratedV || !coil.data.hasBand)
                continue;
            const double share = v.larger() / coil.data.ratedV;
            const bool isOtherKind = coil.data.direct != v.isDirect();
            Headroom h{"coil.kind", j.deviceOf(winding.device).id, {}, false, v.larger(), coil.data.ratedV, "V"};
            h.isMet = !isOtherKind && share >= kLow && share <= kHigh;
            h.severity = isOtherKind || share > kBurns ? Severity::Stop : Severity::Fix;
            if (h.isMet && share > kHighAtHighSupply)
                h.note = message("sizing.coil.high",
                    {j.deviceOf(winding.device).tag, Measured{v.larger(), "V"}, Measured{coil.data.ratedV, "V"}});
            j.met(std::move(h));
            const bool isSixty = j.plant.frequencyHz > 55;
            const double limit = coil.data.direct ? 220 : isSixty ? 277 : 230; // EN 60204-1 clause 9.1.2
            Headroom control{"control.voltage", j.deviceOf(winding.device).id, {}, false, coil.data.ratedV, limit, "V",
                Severity::Note};
            control.isMet = coil.data.ratedV <= limit;
            j.met(std::move(control));
        }
}

bool isSafetyOutput(const Device& d)
{
    return d.kind == "safety_relay" || d.kind == "safety_controller";
}

struct Rating {
    double holdsA, makesA;
};
/// By designation: buttons and contactors A600 and Q300, relays and monitors B300 and R300; direct current below the
/// table by its VA.
std::optional<Rating> ratingOf(const Device& d, const Voltage& v)
{
    if (isSafetyOutput(d)) {
        const double a = Judge::fallback("safety relay", "output_rating_ac15");
        return Rating{a, v.isDirect() ? 1.1 * a : 10 * a};
    }
    const bool isSmall = d.kind == "plug_in_relay" || d.kind == "timer" || d.kind.ends_with("_monitor");
    const std::string designation = v.isDirect() ? (isSmall ? "R300" : "Q300") : (isSmall ? "B300" : "A600");
    const Table& t = contactRatingsTable();
    for (std::size_t row = 0; row < t.rowCount(); ++row) {
        if (t.cell(row, "designation") != designation || *t.number(row, "voltage_v") < v.larger())
            continue;
        if (!v.isDirect())
            return Rating{*t.number(row, "rated_a"), *t.number(row, "make_a")};
        const double a = std::min(*t.number(row, "va") / v.larger(), *t.number(row, "thermal_a"));
        return Rating{a, 1.1 * a};
    }
    return std::nullopt;
}

bool isPilot(const PlantLink& l)
{
    return l.device >= 0 && l.contact.kind != ContactKind::Main && l.contact.kind != ContactKind::Pole;
}

void contactLoad(Judge& j)
{
    for (const RunningLoad& r : j.loads.running)
        for (std::size_t l = 0; l < j.plant.links.size(); ++l) {
            const PlantLink& link = j.plant.links[l];
            if (!isPilot(link))
                continue;
            const Device& d = j.deviceOf(link.device);
            const Voltage v = between(r.frame, link.p, 0);
            const auto rating = ratingOf(d, v);
            const double holds = r.frame.links[l].rmsA(), makes = r.pulling ? r.pulling->links[l].rmsA() : 0.0;
            if (!rating || std::max(holds, makes) <= 0)
                continue;
            for (const auto& [needed, allowed] : {std::pair{holds, rating->holdsA}, {makes, rating->makesA}}) {
                Headroom h{"contact.load", d.id, {}, true, needed, allowed, "A", Severity::Fix};
                h.assumed = {d.tag + " contact_rating"};
                j.share(std::move(h));
            }
        }
}

/// Fuses of the control circuit, found by taking each out: what is dead then lies behind it.
struct Behind {
    int device;
    double ratedA;
    std::set<int> nets;
    int pole;
};
std::vector<Behind> fusesAhead(Judge& j, const RunningLoad& r)
{
    std::vector<Behind> all;
    Workspace workspace;
    for (const PlantProtection& p : j.plant.protections) {
        if (p.data.law != Protection::Law::Melting || p.data.poles.size() != 1)
            continue; // three poles: a motor's
        Stimulus out;
        out.kind = Stimulus::Kind::PutFault;
        out.fault = {FaultMode::LinkHeldOpen, p.data.poles.front()};
        State without = r.state;
        out.at = without.now;
        Trace trace;
        if (advance(j.plant, without, {&out, 1}, {without.now + kAtOnceNs, {}, {}, false}, trace, workspace)
            != Pause::Reached)
            continue; // before anything lets go: what is dead then hung on it
        const Frame frame = observe(j.plant, without);
        Behind b{p.device, p.data.ratedA, {}, p.data.poles.front()};
        for (std::size_t n = 0; n < frame.nets.size(); ++n)
            if (r.frame.nets[n] == NetLook::Live && frame.nets[n] != NetLook::Live)
                b.nets.insert(static_cast<int>(n));
        all.push_back(std::move(b));
    }
    return all;
}

int netOf(const Judge& j, int node)
{
    return j.plant.netOfNode[at(node)];
}

void contactFuses(Judge& j, const RunningLoad& r, const std::vector<Behind>& fuses)
{
    constexpr double kLargest = 10, kLargestOfSafety = 6; // A gG, assumed without a sheet
                                                          // sheet
    for (std::size_t l = 0; l < j.plant.links.size(); ++l) {
        const PlantLink& link = j.plant.links[l];
        if (!isPilot(link) || r.frame.links[l].rmsA() <= 0)
            continue;
        const Behind* nearest = nullptr;
        for (const Behind& b : fuses)
            if (b.nets.contains(netOf(j, link.p)) && (!nearest || b.ratedA < nearest->ratedA))
                nearest = &b;
        const Device& d = j.deviceOf(link.device);
        if (!nearest)
            continue;
        Headroom h{"short.contact_fuse", d.id, {}, false, nearest->ratedA,
            isSafetyOutput(d) ? kLargestOfSafety : kLargest, "A", isSafetyOutput(d) ? Severity::Stop : Severity::Fix};
        h.assumed = {d.tag + " contact_largest_fuse_a"};
        h.isMet = h.needed <= h.allowed;
        j.met(std::move(h));
    }
}

/// By wires and closed contacts.
bool areJoined(const Judge& j, const Frame& frame, int from, int to)
{
    std::set<int> met{from};
    std::vector<int> open{from};
    const auto reach = [&](int node) {
        if (node != 0 && met.insert(node).second)
            open.push_back(node);
    };
    while (!open.empty()) {
        const int here = open.back();
        open.pop_back();
        for (std::size_t l = 0; l < j.plant.links.size(); ++l)
            if (const PlantLink& link = j.plant.links[l]; frame.links[l].closed && (link.p == here || link.q == here))
                reach(link.p == here ? link.q : link.p);
        for (const PlantImpedance& i : j.plant.impedances)
            if (i.kind == PlantImpedance::Kind::Wire && (i.p == here || i.q == here))
                reach(i.p == here ? i.q : i.p);
    }
    return met.contains(to);
}

/// One behind the other at the same voltage: so far apart that the nearer one opens first.
void selective(Judge& j, const RunningLoad& r, const std::vector<Behind>& fuses)
{
    for (const Behind& ahead : fuses)
        for (const Behind& behind : fuses) {
            const auto& near = j.plant.links[at(behind.pole)];
            if (&ahead == &behind || !ahead.nets.contains(netOf(j, near.q))
                || behind.nets.contains(netOf(j, j.plant.links[at(ahead.pole)].q)))
                continue;
            if (!areJoined(j, r.frame, j.plant.links[at(ahead.pole)].q, near.p))
                continue; // a transformer or supply lies between them
            const double ratio = Judge::fallback(
                ahead.ratedA >= 16 ? "fuse gG" : "fuse gG below 16 A", "selective_ratio");
            Headroom h{
                "fuse.selective", j.deviceOf(behind.device).id, {}, false, behind.ratedA * ratio, ahead.ratedA, "A"};
            h.isMet = h.needed <= h.allowed;
            j.met(std::move(h));
        }
}

/// All that leaves a source by its terminal: everything there flows the same way.
double leaving(const Judge& j, const Frame& frame, int node)
{
    double sum = 0;
    for (std::size_t l = 0; l < j.plant.links.size(); ++l)
        if (j.plant.links[l].p == node || j.plant.links[l].q == node)
            sum += frame.links[l].rmsA();
    for (std::size_t i = 0; i < j.plant.impedances.size(); ++i)
        if (j.plant.impedances[i].p == node || j.plant.impedances[i].q == node)
            sum += frame.impedancesA[i];
    return sum;
}

void supplies(Judge& j, const RunningLoad& r)
{
    for (const PlantConverter& c : j.plant.converters) {
        const Device& d = j.deviceOf(c.device);
        const auto p = j.parameters(d.id);
        if (p)
            j.share({"dc.load", d.id, {}, true, leaving(j, r.frame, c.plus), p->number("rated_current_a"), "A"});
    }
    for (const PlantTransformer& t : j.plant.transformers) {
        const Device& d = j.deviceOf(t.device);
        const auto p = d.kind == "control_transformer" ? j.parameters(d.id) : std::nullopt;
        if (!p)
            continue;
        const double ratedA = p->number("rated_va") / t.data.nominalSecondaryV;
        j.share({"transformer.inrush", d.id, {}, true, leaving(j, r.frame, t.s1), ratedA, "A"});
        if (!r.pulling)
            continue;
        const double before = between(j.loads.rest, t.s1, t.s2).alternating,
                     then = between(*r.pulling, t.s1, t.s2).alternating;
        j.share({"transformer.inrush", d.id, {}, true, before - then, kDropShare * before, "V"});
    }
}

} // namespace

void judgeControl(Judge& j)
{
    for (const char* rule : {"coil.kind", "control.voltage", "contact.load", "short.contact_fuse", "fuse.selective",
             "dc.load", "transformer.inrush"})
        j.here(rule);
    coilKind(j);
    contactLoad(j);
    for (const RunningLoad& r : j.loads.running) {
        const auto fuses = fusesAhead(j, r);
        contactFuses(j, r, fuses);
        selective(j, r, fuses);
        supplies(j, r);
    }
}

} // namespace ts::sizing
