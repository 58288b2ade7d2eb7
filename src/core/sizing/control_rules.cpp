// Control circuits: coils, contacts, supplies, and the fuses ahead of them. Source: EN 60204-1 clauses 7.2, 9.1, IEC
// 60947-4-1, IEC 60947-5-1 annex A.

#include "core/base/at.h"
#include "core/library/contact_rating.h"
#include "core/library/table.h"
#include "core/simulation/advance.h"
#include "core/sizing/judge.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace ts::sizing {
namespace {

constexpr double kFed = 0.3; ///< of its rated voltage: a coil that is fed, well or badly
constexpr double kBurns = 1.3, kRounding = 1.005; ///< of Us
constexpr double kHighestSupply = 1.1; ///< x Un, EN 60204-1 clause 4.3.2
constexpr double kTapM = 3.0; ///< EN 60204-1 clause 7.2.8
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

/// Of the lines, what they may have at the most.
double highestSupply(const Judge& j)
{
    const Device* supply = j.supplyDevice();
    return supply && hasParameter(*supply, "high_x") ? j.parameters(supply->id)->number("high_x") : kHighestSupply;
}

/// Of the transformer behind which a coil lies: so much higher is its voltage without load.
double noLoadRise(const Judge& j, const Frame& frame, const PlantImpedance& load)
{
    const auto joined = joinedTo(j, frame, load.p), other = joinedTo(j, frame, load.q);
    for (const PlantTransformer& t : j.plant.transformers)
        if (const Device& d = j.deviceOf(t.device); hasParameter(d, "no_load_voltage_x"))
            for (int end : {t.s1, t.s2})
                if (joined.contains(end) || other.contains(end))
                    return j.parameters(d.id)->number("no_load_voltage_x");
    return 1.0;
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
            // A 24 V supply holds its output where the lines fall to 0.9.
            const bool isHeld = coil.data.direct && converterOf(j, r.frame, winding);
            const Device& d = j.deviceOf(winding.device);
            const double high = hasParameter(d, "coil_high_x") ? j.parameters(d.id)->number("coil_high_x")
                                                               : Judge::fallback("coil", "high_limit");
            Headroom h{"coil.kind", d.id, {}, false, v.larger(), coil.data.ratedV, "V"};
            const double low = pullsInFrom(j, d) / lowestShare(j, r.frame, winding, h);
            h.isMet = !isOtherKind && share >= low && share <= high;
            h.severity = isOtherKind || share > kBurns ? Severity::Stop : Severity::Fix;
            if (h.isMet && !isHeld && share * highestSupply(j) * noLoadRise(j, r.frame, winding) > high * kRounding)
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

/// A supply that is said to be PELV: low enough to touch where it is dry, and one side bonded. Source: EN 60204-1
/// clause 6.4.
void pelvClaims(Judge& j)
{
    constexpr double kPelvDirectV = 60.0;
    for (const PlantConverter* c : j.plant.supplies()) {
        const Device& d = j.deviceOf(c->device);
        const auto p = hasParameter(d, "pelv") ? j.parameters(d.id) : std::nullopt;
        if (!p || !p->flag("pelv"))
            continue;
        Headroom low{"control.voltage", d.id, {}, false, c->data.outputV, kPelvDirectV, "V", Severity::Stop};
        low.isMet = low.needed <= low.allowed;
        const auto earth = joinedTo(j, j.loads.rest, 0);
        if (low.isMet && !earth.contains(c->plus) && !earth.contains(c->minus)) {
            low.isMet = false;
            low.severity = Severity::Fix;
            low.wrong = message("sizing.pelv.unbonded", {d.tag});
        }
        j.met(std::move(low));
    }
}

bool isSafetyOutput(const Device& d)
{
    return d.kind == "safety_relay" || d.kind == "safety_controller";
}

struct Rating {
    double holdsA, makesA;
};
/// By designation, direct current below the table by its VA; of a safety relay by its own figures. What nobody wrote is
/// noted in `h`.
std::optional<Rating> ratingOf(const Judge& j, const Device& d, const Voltage& v, Headroom& h)
{
    if (isSafetyOutput(d)) {
        const double a = j.sheetOr(d, v.isDirect() ? "output_rating_dc13_a" : "output_rating_ac15_a",
            Judge::fallback("safety relay", "output_rating_ac15"), h);
        return Rating{a, v.isDirect() ? 1.1 * a : 10 * a};
    }
    const char* sheet = v.isDirect() ? "contact_rating_dc13_a" : "contact_rating_ac15_a";
    if (hasParameter(d, sheet))
        if (const auto ratings = contactRatings(j.parameters(d.id)->words(sheet), d.tag))
            if (const auto a = ratedAt(*ratings, v.larger()))
                return Rating{*a, v.isDirect() ? 1.1 * *a : 10 * *a};
    const char* parameter = v.isDirect() ? "contact_rating_dc" : "contact_rating_ac";
    const auto p = hasParameter(d, parameter) ? j.parameters(d.id) : std::nullopt;
    const std::string designation = p ? p->word(parameter) : v.isDirect() ? "R300" : "B300";
    if (!p || !p->isWritten(parameter))
        h.assumed.push_back(d.tag + " " + parameter);
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
            Headroom said;
            const auto rating = ratingOf(j, d, v, said);
            const double holds = r.frame.links[l].rmsA(), makes = r.pulling ? r.pulling->links[l].rmsA() : 0.0;
            if (!rating || std::max(holds, makes) <= 0)
                continue;
            for (const auto& [needed, allowed] : {std::pair{holds, rating->holdsA}, {makes, rating->makesA}}) {
                Headroom h{"contact.load", d.id, {}, true, needed, allowed, "A", Severity::Fix};
                h.assumed = said.assumed;
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
    constexpr double kLargestOfSafety = 6; // A gG, assumed where the kind does not say it
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
        const char* parameter = isSafetyOutput(d) ? "output_fuse_gg_a" : "contact_largest_fuse_a";
        Headroom h{"short.contact_fuse", d.id, {}, false, nearest->ratedA, 0, "A",
            isSafetyOutput(d) ? Severity::Stop : Severity::Fix};
        h.allowed = hasParameter(d, parameter) ? j.number(*j.parameters(d.id), parameter, h)
                                               : j.sheetOr(d, parameter, kLargestOfSafety, h);
        h.isMet = h.needed <= h.allowed;
        j.met(std::move(h));
    }
}

/// Over wires and contacts whatever their state, not across loads and other fuses.
std::set<int> regionOf(const Judge& j, int from)
{
    std::set<int> fuses;
    for (const PlantProtection& p : j.plant.protections)
        if (p.data.law == Protection::Law::Melting)
            fuses.insert(p.data.poles.begin(), p.data.poles.end());
    Frame all = j.loads.rest;
    for (std::size_t l = 0; l < all.links.size(); ++l)
        all.links[l].closed = !fuses.contains(static_cast<int>(l));
    return joinedTo(j, all, from);
}

/// Where power comes in: lines, ends of transformers and of 24 V supplies.
bool isAtSource(const Judge& j, const std::set<int>& region)
{
    const auto has = [&region](int node) { return region.contains(node); };
    const auto any = [](const auto& all, const auto& is) { return std::any_of(all.begin(), all.end(), is); };
    return any(j.plant.sources, [&has](const PlantSource& s) { return has(s.p); })
        || any(j.plant.transformers, [&has](const PlantTransformer& t) { return has(t.s1) || has(t.s2); })
        || any(j.plant.converters, [&has](const PlantConverter& c) { return has(c.plus) || has(c.minus); });
}

/// What one fuse protects: all that lies behind it, in whatever state, and what else is at devices there.
struct Protected {
    double ratedA;
    bool isPower; ///< one of several poles: a motor's
    std::set<int> nodes, devices;
};
std::size_t poleCount(const Judge& j, int device)
{
    std::size_t count = 0;
    for (const PlantProtection& p : j.plant.protections)
        count += p.device == device && p.data.law == Protection::Law::Melting ? p.data.poles.size() : 0;
    return count;
}

std::vector<Protected> protectedBy(const Judge& j)
{
    std::vector<Protected> all;
    for (const PlantProtection& fuse : j.plant.protections)
        for (int pole : fuse.data.law == Protection::Law::Melting ? fuse.data.poles : std::vector<int>{}) {
            std::set<int> one = regionOf(j, j.plant.links[at(pole)].p), other = regionOf(j, j.plant.links[at(pole)].q);
            if (isAtSource(j, one) == isAtSource(j, other))
                continue; // fed from both sides
            Protected p{fuse.data.ratedA, poleCount(j, fuse.device) > 1,
                isAtSource(j, one) ? std::move(other) : std::move(one), {}};
            for (const PlantTerminal& t : j.plant.terminals)
                if (p.nodes.contains(t.node))
                    p.devices.insert(t.device);
            all.push_back(std::move(p));
        }
    return all;
}

/// At an end of a 24 V supply or a transformer: the largest of the fuses at either end.
std::optional<double> largestAtSupply(const Judge& j, const std::set<int>& region)
{
    std::optional<double> largest;
    const auto look = [&](int one, int other) {
        if (!region.contains(one) && !region.contains(other))
            return;
        std::set<int> both = regionOf(j, one);
        both.merge(regionOf(j, other));
        for (const PlantProtection& p : j.plant.protections)
            if (p.data.law == Protection::Law::Melting)
                for (int pole : p.data.poles)
                    if (both.contains(j.plant.links[at(pole)].p) || both.contains(j.plant.links[at(pole)].q))
                        largest = std::max(largest.value_or(0.0), p.data.ratedA);
    };
    for (const PlantConverter* c : j.plant.supplies())
        look(c->plus, c->minus);
    for (const PlantTransformer& t : j.plant.transformers)
        look(t.s1, t.s2);
    return largest;
}

/// The fuse ahead of it; as a short tap in the enclosure what it carries, or the fuse that it leads to.
std::optional<double> mustBear(const Judge& j, const PlantWire& slot, const std::vector<Protected>& fuses)
{
    std::optional<double> ahead;
    const auto take = [&ahead](double rated) { ahead = ahead ? std::min(*ahead, rated) : rated; };
    const Wire& w = *j.circuit.wire(slot.id);
    const bool isShort = w.lengthM <= kTapM && j.circuit.route(w.route)->kind == RouteKind::Enclosure;
    for (const Protected& p : fuses)
        if (p.nodes.contains(slot.p) && !(p.isPower && isShort)) // a tap of the power circuit: clause 7.2.8
            take(p.ratedA);
    const std::set<int> region = regionOf(j, slot.p);
    if (!ahead)
        ahead = largestAtSupply(j, region);
    for (const PlantTerminal& t : j.plant.terminals)
        for (const Protected& p : fuses)
            if (!ahead && !p.isPower && region.contains(t.node) && p.devices.contains(t.device)
                && !isAtSource(j, region))
                take(p.ratedA);
    if (!ahead && isShort) {
        ahead = 0.0;
        for (const RunningLoad& r : j.loads.running)
            ahead = std::max(*ahead, currentOf(slot, r.frame));
    }
    return ahead;
}

void controlWires(Judge& j)
{
    const auto all = protectedBy(j);
    for (const PlantWire& slot : j.plant.wires) {
        const Wire& w = *j.circuit.wire(slot.id);
        if (isPowerWire(j, slot) || isProtective(w) || !j.circuit.route(w.route))
            continue;
        if (isAtDrive(j, slot.p)) {
            j.notJudged("wire.ampacity", {}, {}, message("sizing.enter.drive_wires"));
            continue;
        }
        const auto needed = mustBear(j, slot, all), carries = ampacityOf(j, w);
        if (needed && carries)
            j.share({"wire.ampacity", {}, w.id, true, *needed, *carries, "A"});
    }
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
            if (!joinedTo(j, r.frame, j.plant.links[at(ahead.pole)].q).contains(near.p))
                continue; // a transformer or supply lies between them
            const double ratio = Judge::fallback(
                ahead.ratedA >= 16 ? "fuse gG" : "fuse gG below 16 A", "selective_ratio");
            Headroom h{
                "fuse.selective", j.deviceOf(behind.device).id, {}, false, behind.ratedA * ratio, ahead.ratedA, "A"};
            h.isMet = h.needed <= h.allowed;
            j.met(std::move(h));
        }
}

void supplies(Judge& j, const RunningLoad& r)
{
    for (const PlantConverter* c : j.plant.supplies()) {
        const Device& d = j.deviceOf(c->device);
        const auto p = j.parameters(d.id);
        if (p)
            j.share({"dc.load", d.id, {}, true, leaving(j, r.frame, c->plus), p->number("rated_current_a"), "A"});
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

bool isAtDrive(const Judge& j, int node)
{
    const std::set<int> region = regionOf(j, node);
    return std::any_of(j.plant.terminals.begin(), j.plant.terminals.end(), [&](const PlantTerminal& t) {
        static constexpr std::array<std::string_view, 6> kPower{"L1", "L2", "L3", "U", "V", "W"};
        return region.contains(t.node) && t.device >= 0 && j.deviceOf(t.device).kind == "drive"
            && std::find(kPower.begin(), kPower.end(), t.marking) != kPower.end();
    });
}

void judgeControl(Judge& j)
{
    for (const char* rule : {"coil.kind", "control.voltage", "contact.load", "short.contact_fuse", "fuse.selective",
             "dc.load", "transformer.inrush"})
        j.here(rule);
    coilKind(j);
    pelvClaims(j);
    contactLoad(j);
    controlWires(j);
    for (const RunningLoad& r : j.loads.running) {
        const auto fuses = fusesAhead(j, r);
        contactFuses(j, r, fuses);
        selective(j, r, fuses);
        supplies(j, r);
    }
}

} // namespace ts::sizing
