#include "core/simulation/frame.h"

#include "core/base/at.h"
#include "core/simulation/circuits.h"
#include "core/simulation/motion.h"

#include <algorithm>
#include <cmath>

namespace ts {
namespace {

/// A live pole of an island: what its conductors are measured against.
struct Pole {
    int galvanic = -1;
    int returnNode = 0;
    double nominalV = 0;
    bool direct = false;
};

std::vector<Pole> polesOf(const Plant& plant, const Electrics& e)
{
    std::vector<Pole> poles;
    const auto ac = [&](int node) { return e.alternating->prepared.galvanic(e.alternating->prepared.superNode(node)); };
    const auto dc = [&](int node) { return e.direct->prepared.galvanic(e.direct->prepared.superNode(node)); };
    for (const PlantSource& s : plant.sources)
        if (s.nominalV > 0.0)
            poles.push_back({s.directV > 0.0 ? dc(s.p) : ac(s.p), s.q, s.nominalV, s.directV > 0.0});
    for (const PlantTransformer& t : plant.transformers)
        for (int node : t.data.nominalSecondaryV > 0.0 ? std::vector{t.s1, t.s2} : std::vector<int>{})
            poles.push_back({ac(node), node == t.s1 ? t.s2 : t.s1, t.data.nominalSecondaryV, false});
    for (const PlantConverter& c : plant.converters)
        poles.push_back({dc(c.plus), c.minus, c.data.outputV, true});
    return poles;
}

std::vector<NetLook> looksOf(const Plant& plant, const Instant& instant, const std::vector<NodeReading>& nodes)
{
    const Electrics& e = instant.electrics;
    const std::vector<Pole> poles = polesOf(plant, e);
    std::vector<NetLook> looks;
    for (const PlantNet& net : plant.nets) {
        NetLook look = NetLook::Dead;
        for (int t : net.terminals) {
            const int node = plant.terminals[at(t)].node;
            const int acIsland = e.alternating->prepared.galvanic(e.alternating->prepared.superNode(node));
            const int dcIsland = e.direct->prepared.galvanic(e.direct->prepared.superNode(node));
            for (const Pole& pole : poles) {
                if (pole.galvanic < 0 || pole.galvanic != (pole.direct ? dcIsland : acIsland))
                    continue;
                const double v = pole.direct ? std::abs(instant.directV(node, pole.returnNode))
                                             : std::abs(instant.alternatingV(node, pole.returnNode));
                if (v >= kLiveShare * pole.nominalV)
                    look = NetLook::Live;
            }
            if (look == NetLook::Dead && nodes[at(node)].floating)
                look = NetLook::Floating;
        }
        looks.push_back(look);
    }
    return looks;
}

void readNetCurrents(const Plant& plant, Frame& frame)
{
    frame.netsA.assign(plant.nets.size(), 0.0);
    const auto brings = [&](int node, double a) {
        if (const int net = plant.netOfNode[at(node)]; net >= 0)
            frame.netsA[at(net)] = std::max(frame.netsA[at(net)], a);
    };
    for (std::size_t l = 0; l < plant.links.size(); ++l)
        for (int node : {plant.links[l].p, plant.links[l].q})
            brings(node, frame.links[l].rmsA());
    for (std::size_t z = 0; z < plant.impedances.size(); ++z)
        for (int node : {plant.impedances[z].p, plant.impedances[z].q})
            brings(node, frame.impedancesA[z]);
}

void readMotors(
    const Plant& plant, const State& state, const network::ElementCurrents& ac, const Electrics& e, Frame& frame)
{
    for (std::size_t k = 0; k < plant.motors.size(); ++k) {
        MotorReading r;
        r.speedRadPerS = flowValue(plant, state, plant.motors[k].flow, state.now);
        for (std::size_t t = 0; t < 3; ++t)
            r.currentA[t] = std::abs(ac.motors[k][t]);
        r.fedTerminals = e.alternating->motorFed[k];
        if (const int drive = e.alternating->driveFeeds[k].drive; drive >= 0)
            r.isFedByDrive = state.levels[at(plant.drives[at(drive)].data.level)].isActive;
        r.mode = state.actuatorMode[k];
        frame.motors.push_back(r);
    }
}

void readLoads(const Plant& plant, const Instant& instant, Frame& frame)
{
    for (const PlantLamp& l : plant.lamps) {
        const PlantImpedance& z = plant.impedances[at(l.impedance)];
        const double v = std::hypot(instant.directV(z.p, z.q), std::abs(instant.alternatingV(z.p, z.q)));
        frame.lampShare.push_back(v / l.data.ohm / l.data.ratedA);
    }
    for (const PlantCoil& c : plant.coils) {
        const PlantImpedance& z = plant.impedances[at(c.impedance)];
        const double v = c.data.direct ? std::abs(instant.directV(z.p, z.q)) : std::abs(instant.alternatingV(z.p, z.q));
        frame.coilShare.push_back(v / c.data.ratedV);
    }
}

} // namespace

Frame observe(const Plant& plant, const State& state)
{
    const Overlay overlay = overlayOf(plant, state.faults);
    const std::vector<double> slips = slipsAt(plant, state, state.now);
    Instant instant{wholeElectrics(plant, state, overlay), nullptr};
    instant.alternating = solveAlternating(*instant.electrics.alternating, slips);
    const Electrics& e = instant.electrics;
    Frame frame;
    frame.now = state.now;
    for (int node = 0; node < plant.nodeCount; ++node) {
        const int acSuper = e.alternating->prepared.superNode(node), dcSuper = e.direct->prepared.superNode(node);
        NodeReading r;
        r.alternatingV = instant.alternating->solution.voltage[at(acSuper)];
        r.directV = e.direct->solution.voltage[at(dcSuper)].real();
        r.floating = e.alternating->prepared.isFloating(acSuper) && e.direct->prepared.isFloating(dcSuper);
        r.alternatingIsland = e.alternating->prepared.galvanic(acSuper);
        r.directIsland = e.direct->prepared.galvanic(dcSuper);
        frame.nodes.push_back(r);
    }
    frame.nets = looksOf(plant, instant, frame.nodes);

    network::ElementCurrents ac;
    network::elementCurrents(e.alternating->network, e.alternating->prepared, instant.alternating->solution, slips, ac);
    const auto acLinks = network::linkCurrents(
        e.alternating->network, e.alternating->prepared, instant.alternating->solution, ac);
    const auto dcLinks = network::linkCurrents(
        e.direct->network, e.direct->prepared, e.direct->solution, e.direct->currents);
    for (std::size_t l = 0; l < plant.links.size(); ++l)
        frame.links.push_back({isClosed(plant.links[l], l, state, overlay), acLinks[l], dcLinks[l].real()});
    for (std::size_t z = 0; z < plant.impedances.size(); ++z)
        frame.impedancesA.push_back(std::hypot(
            std::abs(ac.impedances[z]), std::abs(e.direct->currents.impedances[e.direct->firstImpedance + z])));
    readNetCurrents(plant, frame);
    readMotors(plant, state, ac, e, frame);
    readLoads(plant, instant, frame);

    frame.actuators = state.actuatorMode;
    frame.travel = state.travel;
    frame.lampLit = state.lampLit;
    frame.relays = state.relays;
    frame.logics = state.logics;
    frame.levels = state.levels;
    frame.converters = state.converters;
    frame.faults = state.faults;
    for (const PlantProtection& p : plant.protections) {
        const double limit = p.data.law == Protection::Law::Thermal ? p.data.limit : 1.0;
        frame.heat.push_back(flowValue(plant, state, p.flow, state.now) / limit);
    }
    return frame;
}

} // namespace ts
