// A reversing starter for 10 s, timed here and written as a netlist for a general circuit simulator: same network,
// motor frozen at its rated slip, contacts moved at the instants of our own trace. compare_ngspice runs both and prints
// the ratio.

#include "core/network/disjoint_sets.h"
#include "core/network/motor_circuit.h"
#include "core/patterns/machine.h"
#include "core/simulation/scenario_run.h"

#include <algorithm>
#include <chrono>
#include <cmath>
#include <fstream>
#include <iomanip>
#include <iostream>
#include <numbers>

namespace {

using namespace ts;

std::size_t at(int i)
{
    return static_cast<std::size_t>(i);
}

Scenario bothWays()
{
    Scenario s;
    s.name = "both ways";
    s.lengthS = 10.0;
    s.steps = {{0.5, "operate", "S2", 0.3}, {4.0, "operate", "S1", 0.3}, {6.0, "operate", "S3", 0.3},
        {9.0, "operate", "S1", 0.3}};
    return s;
}

/// Best of twenty runs, in seconds.
double bestTimeS(const Plant& plant, ScenarioRun& run)
{
    double best = 1e9;
    for (int k = 0; k < 20; ++k) {
        Workspace workspace;
        const auto begin = std::chrono::steady_clock::now();
        run = *runScenario(plant, bothWays(), {}, 0.0, workspace);
        best = std::min(best, std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count());
    }
    return best;
}

class Netlist {
public:
    Netlist(const Plant& plant, const Trace& trace, std::ostream& out)
        : m_plant(plant)
        , m_trace(trace)
        , m_out(out)
        , m_sets(plant.nodeCount)
        , m_moves(plant.movers.size())
    {
        out << std::setprecision(9);
        for (const Event& e : trace.events)
            if (e.why == Why::Moved)
                m_moves[at(e.slot)].push_back(&e);
    }

    void write()
    {
        m_out << "reversing starter\n.model contact sw vt=0.5 vh=0.1 ron=1m roff=1g\n";
        mergeWhatStaysClosed();
        for (const PlantLink& l : m_plant.links)
            writeContact(l);
        for (const PlantSource& s : m_plant.sources)
            writeSource(s);
        for (const PlantImpedance& z : m_plant.impedances)
            writeImpedance(z.p, z.q, z.mover >= 0 ? z.sealedOhm : z.alternatingOhm);
        for (const PlantMotor& m : m_plant.motors)
            writeMotor(m);
        m_out << ".tran 0.2m 10 0 0.2m\n.control\nrun\nrusage traniter time\nquit\n.endc\n.end\n";
    }

private:
    bool isClosedAt(const PlantLink& l, int travel) const
    {
        return l.contact.mover < 0 || ((l.contact.closedAt >> travel) & 1);
    }
    bool moves(const PlantLink& l) const { return l.contact.mover >= 0 && !m_moves[at(l.contact.mover)].empty(); }
    int initial(const PlantLink& l) const { return m_plant.movers[at(l.contact.mover)].spec.initial; }
    std::string node(int n)
    {
        const int root = m_sets.find(n);
        return root == m_sets.find(0) ? "0" : "n" + std::to_string(root);
    }
    void mergeWhatStaysClosed()
    {
        for (const PlantLink& l : m_plant.links)
            if (!moves(l) && (l.contact.mover < 0 || isClosedAt(l, initial(l))))
                m_sets.join(l.p, l.q);
    }
    void writeContact(const PlantLink& l)
    {
        if (!moves(l))
            return;
        const std::string name = std::to_string(++m_count);
        m_out << "S" << name << " " << node(l.p) << " " << node(l.q) << " c" << name << " 0 contact\nVc" << name << " c"
              << name << " 0 PWL(0 " << isClosedAt(l, initial(l));
        bool was = isClosedAt(l, initial(l));
        for (const Event* e : m_moves[at(l.contact.mover)]) {
            const double t = secondsOf(e->at).si();
            m_out << " " << t << " " << was << " " << t + 1e-5 << " " << isClosedAt(l, e->to);
            was = isClosedAt(l, e->to);
        }
        m_out << ")\n";
    }
    void writeSource(const PlantSource& s)
    {
        const std::string name = std::to_string(++m_count);
        m_out << "V" << name << " s" << name << " " << node(s.q) << " SIN(0 " << std::abs(s.emf) * std::numbers::sqrt2
              << " " << m_plant.frequencyHz << " 0 0 " << std::arg(s.emf) * 180.0 / std::numbers::pi << ")\n";
        writeSeries("s" + name, node(s.p), s.ohm);
    }
    void writeImpedance(int p, int q, Complex ohm)
    {
        if (node(p) != node(q))
            writeSeries(node(p), node(q), ohm);
    }
    void writeSeries(const std::string& p, const std::string& q, Complex ohm)
    {
        const std::string name = std::to_string(++m_count);
        const double w = 2.0 * std::numbers::pi * m_plant.frequencyHz;
        m_out << "R" << name << " " << p << " " << (ohm.imag() == 0.0 ? q : "m" + name) << " "
              << std::max(ohm.real(), 1e-6) << "\n";
        if (ohm.imag() > 0.0)
            m_out << "L" << name << " m" << name << " " << q << " " << ohm.imag() / w << "\n";
        else if (ohm.imag() < 0.0)
            m_out << "C" << name << " m" << name << " " << q << " " << -1.0 / (w * ohm.imag()) << "\n";
    }
    void writeMotor(const PlantMotor& m)
    {
        constexpr double kRatedSlip = 0.03; // the sample motor of 5.5 kW: 1455 of 1500 /min
        const Complex ohm = network::sequenceImpedance(m.data.circuit, kRatedSlip);
        for (int k = 0; k < 3; ++k)
            writeSeries(node(m.nodes[at(k)]), "star" + std::to_string(m.device), ohm);
        m_out << "Rleak" << m.device << " star" << m.device << " 0 1g\n";
    }

    const Plant& m_plant;
    const Trace& m_trace;
    std::ostream& m_out;
    network::DisjointSets m_sets;
    std::vector<std::vector<const Event*>> m_moves;
    int m_count = 0;
};

} // namespace

int main(int argc, char** argv)
{
    if (argc != 2) {
        std::cerr << "usage: spice_export NETLIST\n";
        return 2;
    }
    const std::vector<std::string> with{"base=reversing", "control=phase_neutral"};
    const DossierFile file = *patterns::machine(*patterns::MachinePlan::from(with));
    const Plant plant = *compile(file.dossier.circuit);
    ScenarioRun run;
    const double ours = bestTimeS(plant, run);
    std::ofstream netlist(argv[1]);
    Netlist(plant, run.trace, netlist).write();
    std::cout << ours << "\n";
    return netlist ? 0 : 1;
}
