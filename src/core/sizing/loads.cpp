#include "core/sizing/loads.h"

#include "core/base/at.h"
#include "core/base/check.h"
#include "core/exploration/settling.h"
#include "core/library/registry.h"
#include "core/library/table.h"

#include <algorithm>
#include <cmath>
#include <utility>

namespace ts::sizing {
namespace {

using exploration::Deed;
using exploration::Done;

constexpr TimeNs kSampleNs = 10'000'000; ///< half a period: a current is an RMS value

constexpr TimeNs kLongestSampleNs = 80'000'000; ///< while nothing changes
constexpr double kSteady = 0.005;
constexpr double kDelta = 1.35; ///< between 1 and the root of 3
constexpr TimeNs kPullingStepNs = 2'000'000, kPulledNs = 150'000'000; ///< within that every contactor is in

bool isPowerPole(const PlantLink& l)
{
    return l.device >= 0 && (l.contact.kind == ContactKind::Main || l.contact.kind == ContactKind::Pole);
}

/// The same with other resistances of its wires, and their reactance.
Plant withWires(const Circuit& circuit, Plant plant, std::uint64_t number,
    const std::function<double(const Wire&, double asCompiled)>& ohmOf)
{
    static const double ohmReactive = sizingFallback("copper", "reactance") * 1e-3; // mohm/m
    for (PlantImpedance& z : plant.impedances) {
        if (z.kind != PlantImpedance::Kind::Wire)
            continue;
        const Wire& w = *circuit.wire(plant.wires[at(z.wire)].id);
        z.directOhm = ohmOf(w, z.directOhm);
        z.alternatingOhm = z.sealedOhm = Complex(z.directOhm, ohmReactive * w.lengthM);
    }
    plant.circuitNumber += number; // who remembers solved circuits must not meet the other one
    return plant;
}

class Loader {
public:
    Loader(const Circuit& circuit, Plant plant, std::stop_token stop)
        : m_circuit(circuit)
        , m_stop(std::move(stop))
    {
        m_loads.cold = withWires(circuit, plant, 2, [](const Wire&, double asCompiled) { return asCompiled; });
        m_loads.plant = withWires(
            circuit, plant, 4, [](const Wire& w, double) { return ohmPerM(w) * kHot * w.lengthM; });
        for (const PlantProtection& p : m_loads.plant.protections)
            if (p.data.law != Protection::Law::Magnetic)
                m_watched.insert(m_watched.end(), p.data.poles.begin(), p.data.poles.end());
        for (std::size_t l = 0; l < m_loads.plant.links.size(); ++l)
            if (m_loads.plant.links[l].contact.kind == ContactKind::Main)
                m_watched.push_back(static_cast<int>(l));
    }

    Expected<Loads> run(
        const exploration::Behaviour& behaviour, const std::function<void(std::size_t, std::size_t)>& listener)
    {
        m_loads.neverRan = behaviour.neverRan;
        State rest = initialState(m_loads.plant);
        Trace trace;
        advance(m_loads.plant, rest, {}, {2 * kSecondNs, m_stop, {}, false}, trace, m_workspace);
        m_loads.rest = observe(m_loads.plant, rest);
        const auto chosen = shortest(behaviour);
        for (std::size_t k = 0; k < chosen.size() && !m_stop.stop_requested(); ++k) {
            add(*chosen[k]);
            if (listener)
                listener(k + 1, chosen.size());
        }
        if (m_stop.stop_requested())
            return cancelled();
        return std::move(m_loads);
    }

private:
    /// For each motor and direction; what goes on by itself before what is held.
    static std::vector<const Deed*> shortest(const exploration::Behaviour& behaviour)
    {
        std::map<std::pair<DeviceId, int>, const Deed*> best;
        const auto worth = [](const Deed& d) {
            return std::pair(d.effect == Deed::Effect::RunsWhileHeld, d.way.size());
        };
        for (const Deed& d : behaviour.deeds)
            if (d.effect == Deed::Effect::Starts || d.effect == Deed::Effect::RunsWhileHeld)
                if (const auto [known, isNew] = best.try_emplace({d.actuator, d.direction}, &d);
                    !isNew && worth(d) < worth(*known->second))
                    known->second = &d;
        std::vector<const Deed*> all;
        for (const auto& [key, deed] : best)
            all.push_back(deed);
        return all;
    }

    /// In its lines: where both ends of the windings are led out, more than in a winding if it runs in delta.
    static double lineOf(const Plant& plant, const RunningLoad& r)
    {
        const auto& currents = r.frame.motors[r.slot].currentA;
        const double terminals = *std::max_element(currents.begin(), currents.end());
        double poles = 0;
        for (std::size_t l = 0; l < plant.links.size(); ++l)
            if (isPowerPole(plant.links[l]))
                poles = std::max(poles, r.frame.links[l].rmsA());
        const bool isDelta = plant.motors[r.slot].data.sixTerminal && poles > kDelta * terminals;
        return terminals * (isDelta ? std::sqrt(3.0) : 1.0);
    }

    /// Of the thermal releases that carry its current the lowest, in terms of its lines; else of its fuses.
    static double protectionOf(const Plant& plant, const RunningLoad& r)
    {
        double thermal = 0, melting = 0;
        for (const PlantProtection& p : plant.protections) {
            const double pole = p.data.poles.empty() ? 0.0 : r.frame.links[at(p.data.poles.front())].rmsA();
            if (p.data.law == Protection::Law::Magnetic || pole < kCarries * r.lineA || pole <= 0)
                continue;
            double& least = p.data.law == Protection::Law::Thermal ? thermal : melting;
            const double inLines = p.data.ratedA * r.lineA / pole;
            least = least > 0 ? std::min(least, inLines) : inLines;
        }
        return thermal > 0 ? thermal : melting;
    }

    void add(const Deed& deed)
    {
        const Plant& plant = m_loads.plant;
        RunningLoad r;
        r.motor = deed.actuator;
        r.said = deed.said;
        while (r.slot < plant.actuators.size() && plant.deviceOfActuator(static_cast<int>(r.slot)).id != deed.actuator)
            ++r.slot;
        r.state = stateAfter(plant, deed, m_workspace, m_stop);
        if (r.slot >= plant.actuators.size() || r.state.actuatorMode[r.slot] != MotorMode::Driven)
            return;
        r.frame = observe(plant, r.state);
        if (r.slot >= plant.motors.size())
            return m_loads.others.push_back({r.motor, r.slot, std::move(r.state), std::move(r.frame)});
        r.isFedByDrive = r.frame.motors[r.slot].isFedByDrive;
        const auto parameters = parametersOf(m_circuit, *m_circuit.device(deed.actuator));
        r.ratedA = parameters ? parameters->number("current_a") : 0.0;
        r.lineA = lineOf(plant, r);
        r.protectedA = protectionOf(plant, r);
        readShares(r);
        if (r.isFedByDrive)
            readDrive(r);
        sampleStart(deed, r);
        m_loads.running.push_back(std::move(r));
    }

    /// What a drive takes and gives stands on its sheet; where it flows is found.
    void readDrive(RunningLoad& r) const
    {
        const Plant& plant = m_loads.plant;
        const auto& leads = plant.motors[r.slot].nodes;
        const std::vector<int> motor(leads.begin(), leads.begin() + 3);
        std::vector<int> lines;
        for (const PlantSource& s : plant.sources)
            lines.push_back(s.p);
        const auto near = joinedNodes(plant, r.frame, motor);
        const auto take = [&](Conductors& all, const std::optional<Conductors>& way) {
            if (!way)
                return;
            all.links.insert(all.links.end(), way->links.begin(), way->links.end());
            all.wires.insert(all.wires.end(), way->wires.begin(), way->wires.end());
        };
        for (const PlantDrive& drive : plant.drives) {
            if (near[at(drive.outputs[0])] == 0)
                continue;
            r.drive = plant.devices[at(drive.device)].id;
            const auto p = parametersOf(m_circuit, *m_circuit.device(r.drive));
            r.driveInputA = p && p->isWritten("rated_input_a") ? p->number("rated_input_a") : 0.0;
            r.driveOutputA = p && p->isWritten("rated_output_a") ? p->number("rated_output_a") : 0.0;
            for (std::size_t k = 0; k < 3; ++k) {
                take(r.toDrive, wayBetween(plant, r.frame, drive.inputs[k], lines));
                take(r.fromDrive, wayBetween(plant, r.frame, drive.outputs[k], motor));
            }
        }
    }

    /// Nodes from which its current comes, and the control circuit's does not: over power poles, in whatever state.
    std::vector<std::uint8_t> powerNodes(const RunningLoad& r) const
    {
        const Plant& plant = m_loads.plant;
        std::vector<std::uint8_t> met(at(plant.nodeCount), 0);
        for (int node : plant.motors[r.slot].nodes)
            met[at(node)] = 1;
        const auto spread = [&met](int p, int q) {
            const bool isNew = met[at(p)] != met[at(q)];
            met[at(p)] = met[at(q)] = met[at(p)] | met[at(q)];
            return isNew;
        };
        for (bool isMore = true; isMore;) {
            isMore = false;
            for (std::size_t l = 0; l < plant.links.size(); ++l)
                if (isPowerPole(plant.links[l]) || r.frame.links[l].closed)
                    isMore |= spread(plant.links[l].p, plant.links[l].q);
            for (const PlantImpedance& z : plant.impedances)
                if (z.kind == PlantImpedance::Kind::Wire)
                    isMore |= spread(z.p, z.q);
        }
        return met;
    }

    /// With it open the motor is as near to the lines as before, and what lies behind it is neither: another load's.
    bool isBeside(const RunningLoad& r, std::size_t link) const
    {
        const Plant& plant = m_loads.plant;
        if (r.isFedByDrive)
            return false;
        Frame open = r.frame;
        open.links[link].closed = false;
        const auto has = [&](const std::vector<std::uint8_t>& side, const auto& nodes) {
            return std::any_of(nodes.begin(), nodes.end(), [&](int n) { return side[at(n)] != 0; });
        };
        std::vector<int> lines;
        for (const PlantSource& s : plant.sources)
            lines.push_back(s.p);
        const auto& motor = plant.motors[r.slot].nodes;
        constexpr Joins kAcross{false, true, true};
        const auto near = joinedNodes(plant, open, {plant.links[link].p}, kAcross),
                   far = joinedNodes(plant, open, {plant.links[link].q}, kAcross);
        const auto isNeither = [&](const auto& side) { return !has(side, lines) && !has(side, motor); };
        return isNeither(near) || isNeither(far);
    }

    /// Above what flows there with nothing started: of that the motor has no part.
    void readShares(RunningLoad& r) const
    {
        const Plant& plant = m_loads.plant;
        r.linksA.assign(plant.links.size(), 0.0);
        r.wiresA.assign(plant.wires.size(), 0.0);
        r.wireStartsA.assign(plant.wires.size(), 0.0);
        if (r.lineA <= 0)
            return;
        const auto nodes = powerNodes(r);
        for (std::size_t l = 0; l < plant.links.size(); ++l) {
            const double a = r.frame.links[l].rmsA();
            if (nodes[at(plant.links[l].p)] && a - m_loads.rest.links[l].rmsA() >= kCarries * r.lineA
                && !isBeside(r, l))
                r.linksA[l] = a * r.ratedA / r.lineA;
        }
        for (std::size_t w = 0; w < plant.wires.size(); ++w) {
            const double a = currentOf(plant.wires[w], r.frame);
            if (nodes[at(plant.wires[w].p)] && a - currentOf(plant.wires[w], m_loads.rest) >= kCarries * r.lineA)
                r.wiresA[w] = a * r.ratedA / r.lineA;
        }
    }

    /// The moment after the push at which coils take most: their armatures are still out.
    std::optional<Frame> pullingIn(State state, const Stimulus& push)
    {
        const Plant& plant = m_loads.plant;
        std::optional<Frame> best;
        double most = -1;
        for (bool isDone = false; state.now < push.at + kPulledNs; isDone = true) {
            Trace trace;
            const std::span<const Stimulus> due(&push, isDone ? 0 : 1);
            if (advance(plant, state, due, {state.now + kPullingStepNs, m_stop, {}, false}, trace, m_workspace)
                != Pause::Reached)
                return best;
            Frame frame = observe(plant, state);
            double sum = 0;
            for (const PlantCoil& coil : plant.coils)
                sum += frame.impedancesA[at(coil.impedance)];
            if (sum > most) {
                most = sum;
                best = std::move(frame);
            }
        }
        return best;
    }

    /// What fuses and thermal releases see from the push on.
    void sampleStart(const Deed& deed, RunningLoad& r)
    {
        const Plant& plant = m_loads.plant;
        m_powerNodes.clear();
        const Done* push = pushOf(plant, deed);
        if (!push || deed.effect != Deed::Effect::Starts)
            return;
        const auto before = stimuliOn(std::span(deed.way).first(deed.way.size() - 2));
        State state = initialState(plant);
        Trace trace;
        advance(plant, state, before, {push->at - 1, m_stop, {}, false}, trace, m_workspace);
        const auto rest = stimuliOn(std::span(deed.way).last(2));
        r.pulling = pullingIn(state, rest.front());
        std::size_t applied = 0;
        double last = 0;
        TimeNs step = kSampleNs;
        while (state.now < deed.after && !m_stop.stop_requested()) {
            const TimeNs from = state.now, until = std::min(from + step, deed.after);
            std::size_t due = applied;
            while (due < rest.size() && rest[due].at <= until)
                ++due;
            if (advance(plant, state, std::span(rest).subspan(applied, due - applied), {until, m_stop, {}, false},
                    trace, m_workspace)
                != Pause::Reached)
                return;
            applied = due;
            const double now = sample(state, static_cast<double>(until - from) * 1e-9, r);
            const bool isSteady = trace.events.empty() && std::abs(now - last) <= kSteady * now;
            step = isSteady ? std::min(step * 2, kLongestSampleNs) : kSampleNs;
            last = now;
            trace = {};
        }
    }

    /// Adds what they carry now, for so long; the largest of it.
    double sample(const State& state, double forS, RunningLoad& r)
    {
        const Frame frame = observe(m_loads.plant, state);
        double largest = 0;
        for (int l : m_watched) {
            const double a = frame.links[at(l)].rmsA();
            RunningLoad::Start& start = r.starts[l];
            start.largestA = std::max(start.largestA, a);
            start.heatA2s += a * a * forS;
            start.forS += forS;
            largest = std::max(largest, a);
        }
        if (m_powerNodes.empty())
            m_powerNodes = powerNodes(r);
        for (std::size_t w = 0; w < r.wireStartsA.size(); ++w)
            if (const PlantWire& wire = m_loads.plant.wires[w]; m_powerNodes[at(wire.p)])
                r.wireStartsA[w] = std::max(r.wireStartsA[w], currentOf(wire, frame));
        return largest;
    }

    const Circuit& m_circuit;
    std::stop_token m_stop;
    Workspace m_workspace;
    Loads m_loads;
    std::vector<int> m_watched;
    std::vector<std::uint8_t> m_powerNodes; ///< of the motor whose start is sampled
};

} // namespace

double currentOf(const PlantWire& w, const Frame& frame)
{
    return w.link >= 0 ? frame.links[at(w.link)].rmsA() : frame.impedancesA[at(w.impedance)];
}

double ohmPerM(const Wire& wire)
{
    const double areaMm2 = wire.areaMm2;
    const char* column = isStiff(wire) ? "class_1_2" : "class_5";
    const Table& t = conductorResistanceTable();
    std::size_t row = 1;
    while (row + 1 < t.rowCount() && *t.number(row, "area_mm2") < areaMm2)
        ++row;
    const double a0 = *t.number(row - 1, "area_mm2"), a1 = *t.number(row, "area_mm2");
    const double r0 = *t.number(row - 1, column), r1 = *t.number(row, column);
    return r0 * std::pow(r1 / r0, std::log(areaMm2 / a0) / std::log(a1 / a0)) / 1000.0;
}

double sizingFallback(std::string_view kind, std::string_view parameter, std::string_view column)
{
    const Table& t = sizingDefaultsTable();
    for (std::size_t row = 0; row < t.rowCount(); ++row)
        if (t.cell(row, "kind") == kind && t.cell(row, "parameter") == parameter)
            return t.number(row, column).value();
    TS_CHECK(false);
    return 0;
}

std::optional<Frame> frameWith(const Plant& plant, const State& before, std::span<const Fault> faults)
{
    constexpr TimeNs kBeforeAnythingOpensNs = 100'000;
    std::vector<Stimulus> put;
    for (const Fault& f : faults)
        put.push_back({before.now, Stimulus::Kind::PutFault, 0, 0, false, 0, f});
    State state = before;
    Trace trace;
    Workspace workspace;
    if (advance(plant, state, put, {state.now + kBeforeAnythingOpensNs, {}, {}, false}, trace, workspace)
        != Pause::Reached)
        return std::nullopt;
    return observe(plant, state);
}

State stateAfter(const Plant& plant, const Deed& deed, Workspace& workspace, const std::stop_token& stop)
{
    const auto to = [&](std::span<const Done> way, TimeNs until) {
        State state = initialState(plant);
        Trace trace;
        const auto stimuli = stimuliOn(way);
        advance(plant, state, stimuli, {until, stop, {}, false}, trace, workspace);
        return state;
    };
    const Done* push = pushOf(plant, deed);
    if (deed.effect != Deed::Effect::RunsWhileHeld || !push)
        return to(deed.way, deed.after);
    const State before = to(std::span(deed.way).first(deed.way.size() - 2), push->at - 1);
    return exploration::steadyAfter(plant, before, push->operation, workspace, stop).state;
}

Expected<Loads> loadsOf(
    const Circuit& circuit, const std::function<void(std::size_t, std::size_t)>& listener, std::stop_token stop)
{
    const auto behaviour = exploration::behaviourOf(circuit, {}, stop);
    if (!behaviour)
        return Unexpected{behaviour.error()};
    auto plant = compile(circuit, Timing::Nominal, Wires::EachAResistance);
    if (!plant)
        return Unexpected{plant.error()};
    return Loader(circuit, std::move(*plant), std::move(stop)).run(*behaviour, listener);
}

} // namespace ts::sizing
