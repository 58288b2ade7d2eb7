// What control transformers, 24 V supplies and long ways leave for coils and safety relays, and what opens at a short
// of theirs. Source: EN 60204-1 clauses 4.3, 4.4.2, 6.2.4, 7.2, 9.1, 12.5; IEC 60947-4-1; IEC 60269-1.

#include "core/base/at.h"
#include "core/library/melting.h"
#include "core/library/table.h"
#include "core/simulation/conductors.h"
#include "core/sizing/judge.h"

#include <algorithm>
#include <cmath>

namespace ts::sizing {
namespace {

constexpr double kLowSupply = 0.9; ///< EN 60204-1 clause 4.3.2
constexpr double kLeadNfPerM = 0.3; ///< sizing page: assumed of cables
constexpr double kHighSupply = 1.1; ///< EN 60204-1 clause 4.3.2
constexpr double kRushS = 0.005; ///< a half sine of 10 ms has half the heat of its peak for that long
constexpr double kGoneS = 5.0; ///< EN 60204-1 annex A
constexpr double kDischargedS = 5.0; ///< to 60 V: EN 60204-1 clause 6.2.4
constexpr double kHeldByCable = 0.2; ///< of its voltage: less lets every coil drop out
constexpr double kMeant = 0.3; ///< of its voltage: a coil that is meant to be in

double across(const Frame& f, int p, int q)
{
    return std::max(std::abs(f.nodes[at(p)].alternatingV - f.nodes[at(q)].alternatingV),
        std::abs(f.nodes[at(p)].directV - f.nodes[at(q)].directV));
}

/// Fuses that are joined to a node, the smallest.
const PlantProtection* smallestFuseAt(const Judge& j, const std::set<int>& nodes)
{
    const PlantProtection* least = nullptr;
    for (const PlantProtection& p : j.plant.protections) {
        if (p.data.law != Protection::Law::Melting || p.data.poles.empty())
            continue;
        const PlantLink& pole = j.plant.links[at(p.data.poles.front())];
        if ((nodes.contains(pole.p) || nodes.contains(pole.q)) && (!least || p.data.ratedA < least->data.ratedA))
            least = &p;
    }
    return least;
}

/// What is joined without passing a fuse.
std::set<int> joinedAheadOfFuses(const Judge& j, Frame frame, int from)
{
    for (const PlantProtection& p : j.plant.protections)
        if (p.data.law == Protection::Law::Melting)
            for (int pole : p.data.poles)
                frame.links[at(pole)].closed = false;
    return joinedTo(j, frame, from);
}

void primary(Judge& j, const Device& d, double in1, const PlantProtection* fuse, double shortA)
{
    if (!fuse)
        return j.notJudged("transformer.primary", d.id, {}, message("sizing.enter.primary_fuse", {d.tag}));
    const MeltingCurve fast = ggCurve(fuse->data.ratedA, Timing::Fast);
    const auto& half = fast.points.back();
    Headroom holds{"transformer.primary", d.id, {}, true, 0, half.first * half.first * half.second, "A2s"};
    const double rush = j.sheetOr(d, "switch_on_x", Judge::fallback("control transformer", "switch_on_rush"), holds)
        * in1;
    holds.needed = rush * rush * kRushS;
    j.share(std::move(holds));
    j.share({"transformer.primary", d.id, {}, true, in1, fuse->data.ratedA, "A"});
    if (shortA > 0)
        j.share({"transformer.primary", d.id, {}, true, opensWithin(fuse->data.ratedA, kGoneS), shortA, "A"});
}

/// Which of the two opens first at a short behind the second one.
void selectiveOverTransformer(
    Judge& j, const Device& d, const PlantProtection& ahead, const PlantProtection& behind, double i1, double i2)
{
    const auto latest = clearingTimeS(ggCurve(behind.data.ratedA, Timing::Slow), i2),
               usual = clearingTimeS(ggCurve(behind.data.ratedA, Timing::Nominal), i2),
               earliest = clearingTimeS(ggCurve(ahead.data.ratedA, Timing::Fast), i1),
               usualAhead = clearingTimeS(ggCurve(ahead.data.ratedA, Timing::Nominal), i1);
    Headroom h{"transformer.selective", d.id, {}, false, latest.value_or(0), earliest.value_or(0), "s"};
    const bool isBehindFirst = usual && (!usualAhead || *usual < *usualAhead);
    h.isMet = isBehindFirst;
    if (isBehindFirst && earliest && latest && *latest >= *earliest)
        h.note = message("sizing.selective.overlap",
            {j.deviceOf(behind.device).tag, j.deviceOf(ahead.device).tag, Measured{i2, "A"}});
    if (!latest && !earliest)
        return; // nothing opens: control_shorts says so
    j.met(std::move(h));
}

void transformers(Judge& j, const RunningLoad& r)
{
    for (const PlantTransformer& t : j.plant.transformers) {
        const Device& d = j.deviceOf(t.device);
        const auto p = d.kind == "control_transformer" ? j.parameters(d.id) : std::nullopt;
        if (!p)
            continue;
        const double va = p->number("rated_va");
        const double in1 = va / p->number("primary_v"), in2 = va / p->number("secondary_v");
        std::set<int> ahead = joinedAheadOfFuses(j, r.frame, t.p1), behind = joinedAheadOfFuses(j, r.frame, t.s1);
        ahead.merge(joinedAheadOfFuses(j, r.frame, t.p2));
        behind.merge(joinedAheadOfFuses(j, r.frame, t.s2));
        const PlantProtection *first = smallestFuseAt(j, ahead), *second = smallestFuseAt(j, behind);
        const std::array fault{Fault{FaultMode::Short, t.s1, t.s2}};
        const auto shorted = frameWith(j.plant, r.state, fault);
        const double i1 = shorted && first ? shorted->links[at(first->data.poles.front())].rmsA() : 0.0;
        primary(j, d, in1, first, i1);
        if (!second) {
            j.notJudged("transformer.secondary", d.id, {}, message("sizing.enter.secondary_fuse", {d.tag}));
            continue;
        }
        j.share({"transformer.secondary", d.id, {}, true, second->data.ratedA, in2, "A"});
        if (first && i1 > 0)
            selectiveOverTransformer(j, d, *first, *second, i1, i1 * p->number("primary_v") / p->number("secondary_v"));
    }
}

} // namespace

std::set<int> joinedTo(const Judge& j, const Frame& frame, int from)
{
    const auto met = joinedNodes(j.plant, frame, {from});
    std::set<int> nodes;
    for (std::size_t node = 0; node < met.size(); ++node)
        if (met[node] != 0)
            nodes.insert(static_cast<int>(node));
    return nodes;
}

double pullsInFrom(const Judge& j, const Device& d)
{
    return hasParameter(d, "coil_low_x") ? j.parameters(d.id)->number("coil_low_x") : kPullsIn;
}

double lowestShare(const Judge& j, const Frame& frame, const PlantImpedance& load, Headroom& h)
{
    if (const PlantConverter* c = converterOf(j, frame, load))
        return j.sheetOr(j.deviceOf(c->device), "output_low_x", Judge::fallback("supply 24 V DC", "low_output"), h);
    for (const PlantSource& s : j.plant.sources) {
        if (s.directV <= 0)
            continue;
        if (const auto joined = joinedTo(j, frame, s.p); joined.contains(load.p) || joined.contains(load.q))
            return j.sheetOr(
                j.deviceOf(s.device), "output_low_x", Judge::fallback("supply external 24 V", "low_output"), h);
    }
    const Device* supply = j.supplyDevice();
    return supply && hasParameter(*supply, "low_x") ? j.parameters(supply->id)->number("low_x") : kLowSupply;
}

const PlantConverter* converterOf(const Judge& j, const Frame& frame, const PlantImpedance& load)
{
    for (const PlantConverter& c : j.plant.converters)
        if (const auto joined = joinedTo(j, frame, c.plus); joined.contains(load.p) || joined.contains(load.q))
            return &c;
    return nullptr;
}

namespace {

/// What is left of the supply at each coil while it pulls in, all wires warm.
void coils(Judge& j, const RunningLoad& r)
{
    if (!r.pulling)
        return;
    for (std::size_t c = 0; c < j.plant.coils.size(); ++c) {
        const PlantCoil& coil = j.plant.coils[c];
        const PlantImpedance& winding = j.plant.impedances[at(coil.impedance)];
        const double u = across(*r.pulling, winding.p, winding.q) / coil.data.ratedV;
        if (u < kMeant || !coil.data.hasBand)
            continue;
        const Device& d = j.deviceOf(winding.device);
        Headroom h{coil.data.direct ? "dc.coil" : "transformer.coil", d.id, {}, true, 0, 0, "x Us"};
        const double low = lowestShare(j, *r.pulling, winding, h);
        h.needed = low * std::max(0.0, 1 - u);
        h.allowed = std::max(low - pullsInFrom(j, d), 1e-6);
        j.share(std::move(h));
    }
}

/// What cold filaments take besides, of the lamps that are fed from there.
double filamentsA(const Judge& j, const Frame& frame, const std::set<int>& fed)
{
    const double times = Judge::fallback("indicator lamp", "filament_inrush");
    double sum = 0;
    for (const PlantLamp& lamp : j.plant.lamps) {
        const Device& d = j.deviceOf(lamp.device);
        const PlantImpedance& z = j.plant.impedances[at(lamp.impedance)];
        if (hasParameter(d, "filament") && j.parameters(d.id)->flag("filament")
            && (fed.contains(z.p) || fed.contains(z.q)))
            sum += (times - 1) * frame.impedancesA[at(lamp.impedance)];
    }
    return sum;
}

void directSupplies(Judge& j, const RunningLoad& r)
{
    for (const PlantConverter* converter : j.plant.supplies()) {
        const PlantConverter& c = *converter;
        const Device& d = j.deviceOf(c.device);
        const auto p = j.parameters(d.id);
        if (!p)
            continue;
        const std::set<int> fed = joinedTo(j, r.frame, c.plus);
        if (r.pulling) {
            Headroom h{"dc.inrush", d.id, {}, true, 0, 0, "A"};
            h.needed = leaving(j, *r.pulling, c.plus) + filamentsA(j, *r.pulling, fed);
            h.allowed = j.number(*p, "current_limit_low_x", h) * p->number("rated_current_a");
            j.share(std::move(h));
        }
        double noisy = 0;
        for (const PlantActuator& a : j.plant.actuators)
            for (int coil : a.coils) {
                const int load = j.plant.coils[at(coil)].impedance;
                if (fed.contains(j.plant.impedances[at(load)].p) || fed.contains(j.plant.impedances[at(load)].q))
                    noisy += r.frame.impedancesA[at(load)];
            }
        const bool feedsRelay = std::any_of(j.plant.relays.begin(), j.plant.relays.end(),
            [&](const PlantRelay& relay) { return fed.contains(j.plant.impedances[at(relay.data.supply)].p); });
        Headroom shared{"dc.shared", d.id, {}, false, feedsRelay ? noisy : 0.0, 0, "A"};
        shared.isMet = shared.needed <= 0;
        j.met(std::move(shared));
    }
}

/// What the thinnest wire at a load carries for long.
double thinnestAt(const Judge& j, const PlantImpedance& load)
{
    double least = HUGE_VAL;
    for (const PlantWire& w : j.plant.wires)
        if (w.p == load.p || w.q == load.p || w.p == load.q || w.q == load.q)
            if (const auto carries = ampacityOf(j, *j.circuit.wire(w.id)))
                least = std::min(least, *carries);
    return least;
}

/// What feeds direct current: a 24 V supply, or one from elsewhere.
struct DirectFeed {
    int plus, minus, device;
    bool isLimited; ///< by itself
};
std::vector<DirectFeed> directFeeds(const Judge& j)
{
    std::vector<DirectFeed> all;
    for (const PlantConverter* c : j.plant.supplies())
        all.push_back({c->plus, c->minus, c->device, true});
    for (const PlantSource& s : j.plant.sources)
        if (s.directV > 0 && hasParameter(j.deviceOf(s.device), "fuse_a"))
            all.push_back({s.p, s.q, s.device, false});
    return all;
}

/// The fuse that opens soonest with that short: what flows through it over what it must.
struct Opener {
    double flowsA = 0, needsA = 0; ///< needsA 0: there is none on its way
    DeviceId fuse;
};
Opener openerOf(const Judge& j, const DirectFeed& feed, const Frame& shorted)
{
    Opener best;
    for (const PlantProtection& f : j.plant.protections)
        if (f.data.law == Protection::Law::Melting && f.data.poles.size() == 1) {
            const double a = std::abs(shorted.links[at(f.data.poles.front())].directA);
            const double opens = opensWithin(f.data.ratedA, kGoneS);
            if (a > f.data.ratedA * 0.5 && (best.needsA <= 0 || a / opens > best.flowsA / best.needsA))
                best = {a, opens, j.deviceOf(f.device).id};
        }
    const auto p = j.parameters(j.deviceOf(feed.device).id);
    if (best.needsA <= 0 && !feed.isLimited && p->isWritten("fuse_a"))
        best = {leaving(j, shorted, feed.plus), opensWithin(p->number("fuse_a"), kGoneS), j.deviceOf(feed.device).id};
    return best;
}

void farShort(Judge& j, const RunningLoad& r, const DirectFeed& feed, const PlantImpedance& load)
{
    const std::array fault{Fault{FaultMode::Short, load.p, load.q}};
    const auto shorted = frameWith(j.plant, r.state, fault);
    if (!shorted)
        return;
    const Device& d = j.deviceOf(feed.device);
    const Opener opener = openerOf(j, feed, *shorted);
    if (opener.needsA <= 0 && !feed.isLimited)
        return j.lacks("dc.far_short", d, "fuse_a");
    if (opener.needsA <= 0)
        return; // no fuse on its way: control_shorts says so
    Headroom h{"dc.far_short", opener.fuse, {}, true, opener.needsA, opener.flowsA, "A"};
    double stays = opener.flowsA;
    if (feed.isLimited) {
        const auto p = j.parameters(d.id);
        const double rated = p->number("rated_current_a");
        h.allowed = std::min(opener.flowsA, j.number(*p, "current_limit_low_x", h) * rated);
        stays = std::min(opener.flowsA,
            j.sheetOr(d, "current_limit_high_x", deviceDefault("supply 24 V DC", "current_limit").high, h) * rated);
    }
    h.severity = stays <= thinnestAt(j, load) ? Severity::Note : Severity::Fix;
    j.share(std::move(h));
}

/// A short at each load of a 24 V supply: what opens there.
void farShorts(Judge& j, const RunningLoad& r)
{
    for (const DirectFeed& feed : directFeeds(j)) {
        const std::set<int> fed = joinedTo(j, r.frame, feed.plus), back = joinedTo(j, r.frame, feed.minus);
        for (const PlantImpedance& load : j.plant.impedances) {
            const bool isLoad = load.device >= 0
                && (load.kind == PlantImpedance::Kind::Coil || load.kind == PlantImpedance::Kind::Lamp);
            if (isLoad
                && ((fed.contains(load.p) && back.contains(load.q)) || (fed.contains(load.q) && back.contains(load.p))))
                farShort(j, r, feed, load);
        }
    }
}

/// Resistance of the closed way between two terminals; nothing if there is none.
std::optional<double> ohmBetween(const Judge& j, const Frame& frame, int from, int to)
{
    std::map<int, double> best{{from, 0.0}};
    for (bool isBetter = true; isBetter;) {
        isBetter = false;
        const auto take = [&](int p, int q, double ohm) {
            for (const auto& [a, b] : {std::pair{p, q}, {q, p}})
                if (const auto known = best.find(a); known != best.end())
                    if (const auto there = best.find(b);
                        there == best.end() || there->second > known->second + ohm + 1e-12) {
                        best[b] = known->second + ohm;
                        isBetter = true;
                    }
        };
        for (std::size_t l = 0; l < j.plant.links.size(); ++l)
            if (frame.links[l].closed)
                take(j.plant.links[l].p, j.plant.links[l].q, 0.0);
        for (const PlantImpedance& i : j.plant.impedances)
            if (i.kind == PlantImpedance::Kind::Wire)
                take(i.p, i.q, i.directOhm);
    }
    const auto found = best.find(to);
    return found == best.end() ? std::nullopt : std::optional(found->second);
}

/// The input loops, closed as they are while the machine runs.
/// Terminals between which an input circuit lies, "S11-S12"; of a controller by module, "2.S11-2.S12".
std::vector<std::string> channelsOf(const Device& d, const Parameters& p)
{
    if (hasParameter(d, "channels"))
        return p.words("channels");
    std::vector<std::string> all;
    for (int k = 1; k <= static_cast<int>(p.number("input_modules")); ++k)
        for (const auto& [out, in] : {std::pair{".S11", ".S12"}, {".S21", ".S22"}})
            all.push_back(std::to_string(k) + out + "-" + std::to_string(k) + in);
    return all;
}

void loops(Judge& j, const RunningLoad& r, const Device& d, const Parameters& p)
{
    Headroom h{"relay.loop", d.id, {}, true, 0, 0, "ohm"};
    if (p.isWritten("input_loop_resistance_ohm")) {
        h.allowed = p.number("input_loop_resistance_ohm");
    } else {
        h.allowed = deviceDefault("safety relay", "input_loop_resistance").nominal;
        h.assumed = {d.tag + " input_loop_resistance_ohm"};
    }
    bool isAny = false;
    for (const std::string& channel : channelsOf(d, p)) {
        const auto dash = channel.find('-');
        if (dash == channel.npos)
            continue;
        const int out = j.plant.terminalIndex(d.tag, channel.substr(0, dash)),
                  in = j.plant.terminalIndex(d.tag, channel.substr(dash + 1));
        if (out < 0 || in < 0)
            continue;
        if (const auto ohm = ohmBetween(j, r.frame, j.plant.terminals[at(out)].node, j.plant.terminals[at(in)].node)) {
            h.needed = std::max(h.needed, *ohm);
            isAny = true;
        }
    }
    if (!isAny)
        return;
    j.share(std::move(h));
    if (!p.isWritten("loop_capacitance_nf"))
        return;
    double metres = 0; // of all channels together
    for (const std::string& channel : channelsOf(d, p)) {
        const int out = j.plant.terminalIndex(d.tag, channel.substr(0, channel.find('-')));
        const auto joined = out < 0 ? std::set<int>{} : joinedTo(j, r.frame, j.plant.terminals[at(out)].node);
        for (const PlantWire& w : j.plant.wires)
            if (joined.contains(w.p) || joined.contains(w.q))
                metres += j.circuit.wire(w.id)->lengthM;
    }
    Headroom capacitance{"relay.loop", d.id, {}, true, kLeadNfPerM * metres, p.number("loop_capacitance_nf"), "nF"};
    capacitance.assumed = {"0.3 nF of capacitance a metre"};
    j.share(std::move(capacitance));
}

void relays(Judge& j, const RunningLoad& r)
{
    std::set<int> seen; // a controller has a stage for each module
    for (const PlantRelay& relay : j.plant.relays) {
        const Device& d = j.deviceOf(relay.device);
        const auto p = hasParameter(d, "supply_low_x") ? j.parameters(d.id) : std::nullopt;
        if (!p || !seen.insert(relay.device).second)
            continue;
        const PlantImpedance& supply = j.plant.impedances[at(relay.data.supply)];
        Headroom h{"relay.supply", d.id, {}, true, 0, 0, "x Us"};
        const double low = lowestShare(j, r.frame, supply, h);
        const double u = across(r.frame, supply.p, supply.q)
            / (hasParameter(d, "supply_voltage_v") ? p->number("supply_voltage_v") : kUsualDirectControlV);
        const double least = j.number(*p, "supply_low_x", h);
        h.needed = std::max(0.0, 1 - low * u);
        h.allowed = 1 - least;
        Headroom over{"relay.supply", d.id, {}, true, 0, 0, "x Us"};
        over.allowed = j.number(*p, "supply_high_x", over) - 1;
        const bool isRegulated = converterOf(j, r.frame, supply) != nullptr;
        over.needed = std::max(0.0, u * (isRegulated ? 1.0 : kHighSupply) - 1);
        if (u > kMeant) {
            j.share(std::move(h));
            if (over.allowed > 0)
                j.share(std::move(over));
        }
        loops(j, r, d, *p);
    }
}

/// Of a long cable what it passes on to a coil whose contact is open.
void heldByCable(Judge& j)
{
    if (std::none_of(j.plant.impedances.begin(), j.plant.impedances.end(),
            [](const PlantImpedance& i) { return i.kind == PlantImpedance::Kind::CableCapacitance; }))
        return;
    for (std::size_t c = 0; c < j.plant.coils.size(); ++c) {
        const PlantCoil& coil = j.plant.coils[c];
        const double share = j.loads.rest.coilShare[c];
        if (coil.data.direct || share >= kMeant || share <= 0)
            continue;
        j.share({"cable.capacitance", j.deviceOf(j.plant.impedances[at(coil.impedance)].device).id, {}, true, share,
            kHeldByCable, "x Us"});
    }
}

void drives(Judge& j)
{
    for (const Device& d : j.circuit.devices) {
        const auto p = d.kind == "drive" ? j.parameters(d.id) : std::nullopt;
        if (p && p->isWritten("dc_link_uf")
            && 1e-6 * p->number("dc_link_uf") * std::sqrt(2.0) * kHighSupply * p->number("line_voltage_v")
                <= 1e-6 * Judge::fallback("live parts", "exempt_charge"))
            continue; // so little that nobody is hurt
        if (p && !p->isWritten("discharge_time_s"))
            j.lacks("residual.voltage", d, "discharge_time_s");
        else if (p) // with a label it may take longer: clause 6.2.4
            j.share(
                {"residual.voltage", d.id, {}, true, p->number("discharge_time_s"), kDischargedS, "s", Severity::Note});
    }
}

/// The unbalance that is left when a line is lost while the motor runs: what the monitor must tell from a healthy one.
void monitors(Judge& j, const RunningLoad& r)
{
    if (r.isFedByDrive || r.lineA <= 0)
        return;
    constexpr double kPermitted = 0.02; ///< EN 60204-1 clause 4.3.2: negative sequence of a healthy supply
    const double margin = Judge::fallback("phase monitor", "window_margin") / 100;
    for (std::size_t m = 0; m < j.plant.logics.size(); ++m) {
        const auto* logic = std::get_if<PhaseMonitorLogic>(&j.plant.logics[m].data);
        if (!logic || logic->readsCurrent() || logic->unbalance <= 0 || logic->taps.size() != 3)
            continue;
        double kept = 1;
        for (std::size_t s = 0; s < j.plant.sources.size(); ++s) {
            if (j.plant.sources[s].knob < 0)
                continue;
            const std::array fault{Fault{FaultMode::SourceLost, static_cast<int>(s)}};
            const auto frame = frameWith(j.plant, r.state, fault);
            if (!frame)
                continue;
            std::array<Complex, 3> v;
            for (std::size_t k = 0; k < 3; ++k) {
                const PlantImpedance& tap = j.plant.impedances[at(logic->taps[k])];
                v[k] = frame->nodes[at(tap.p)].alternatingV - frame->nodes[at(tap.q)].alternatingV;
            }
            const Complex a = std::polar(1.0, 2 * M_PI / 3);
            const double positive = std::abs(v[0] + a * v[1] + a * a * v[2]),
                         negative = std::abs(v[0] + a * a * v[1] + a * v[2]);
            if (std::max(positive, negative) > 0)
                kept = std::min(kept, std::min(positive, negative) / std::max(positive, negative));
        }
        if (const auto motor = j.parameters(r.motor); motor && motor->isWritten("no_load_current_x"))
            kept = std::min(kept, motor->number("no_load_current_x") / lockedRotorRatio(*motor)); // without any load
        const Device& d = j.deviceOf(j.plant.logics[m].device);
        Headroom h{"monitor.window", d.id, {}, true, logic->unbalance, kept - margin, ""};
        if (h.allowed <= 0)
            h.allowed = 1e-6;
        if (logic->unbalance < kPermitted + margin)
            h.note = message("sizing.monitor.narrow", {d.tag, Measured{100 * logic->unbalance, "%"}});
        j.share(std::move(h));
    }
}

} // namespace

void judgeSupplies(Judge& j)
{
    for (const char* rule : {"transformer.primary", "transformer.secondary", "transformer.selective",
             "transformer.coil", "dc.coil", "dc.inrush", "dc.shared", "dc.far_short", "relay.supply", "relay.loop",
             "cable.capacitance", "residual.voltage", "monitor.window"})
        j.here(rule);
    for (const RunningLoad& r : j.loads.running) {
        transformers(j, r);
        coils(j, r);
        directSupplies(j, r);
        farShorts(j, r);
        relays(j, r);
        monitors(j, r);
    }
    heldByCable(j);
    drives(j);
}

} // namespace ts::sizing
