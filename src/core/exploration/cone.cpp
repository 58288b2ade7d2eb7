#include "core/exploration/cone.h"

#include "core/base/at.h"

#include <boost/graph/adjacency_list.hpp>
#include <boost/graph/biconnected_components.hpp>

#include <algorithm>
#include <deque>
#include <set>

namespace ts::exploration {
namespace {

using Graph = boost::adjacency_list<boost::vecS, boost::vecS, boost::undirectedS, boost::no_property,
    boost::property<boost::edge_index_t, std::size_t>>;

/// Nodes that are fed by something: of sources, of what supplies and transformers give, of drives' outputs.
std::set<int> fedNodes(const Plant& plant)
{
    std::set<int> fed{0};
    for (const PlantSource& s : plant.sources)
        fed.insert({s.p, s.q});
    for (const PlantConverter& c : plant.converters)
        fed.insert({c.plus, c.minus});
    for (const PlantTransformer& t : plant.transformers)
        fed.insert({t.s1, t.s2});
    for (const PlantDrive& d : plant.drives)
        fed.insert(d.outputs.begin(), d.outputs.end());
    return fed;
}

/// The breadth-first gathering of a cone: nodes whose feeding is in question, each device's once.
class Gathering {
public:
    explicit Gathering(const Plant& plant)
        : m_plant(plant)
    {
    }

    Cone of(int motor)
    {
        follow(m_plant.actuators[at(motor)].nodes, true);
        for (; !m_open.empty(); m_open.pop_front())
            follow(m_open.front(), false);
        Cone cone;
        cone.links.assign(m_links.begin(), m_links.end());
        cone.movers.assign(m_movers.begin(), m_movers.end());
        cone.contactors.assign(m_contactors.begin(), m_contactors.end());
        cone.knobs.assign(m_knobs.begin(), m_knobs.end());
        return cone;
    }

private:
    void follow(const std::vector<int>& nodes, bool isMotor)
    {
        std::set<int> touched(nodes.begin(), nodes.end());
        for (int l : linksOnPaths(m_plant, nodes)) {
            const PlantLink& link = m_plant.links[at(l)];
            touched.insert({link.p, link.q});
            m_links.insert(l);
            if (link.contact.mover < 0)
                continue;
            if (isMotor && link.contact.kind == ContactKind::Main
                && m_plant.movers[at(link.contact.mover)].spec.driver == MoverSpec::Driver::Coil)
                m_contactors.insert(link.contact.mover);
            addMover(link.contact.mover);
        }
        for (const PlantVariable& v : m_plant.variables)
            if (touched.contains(v.p) || touched.contains(v.q)) {
                touched.insert({v.p, v.q});
                addInputs(v.device);
            }
        addWhatFeeds(touched);
    }

    void addWhatFeeds(const std::set<int>& touched)
    {
        for (const PlantSource& s : m_plant.sources)
            if (s.knob >= 0 && touched.contains(s.p))
                m_knobs.insert(s.knob);
        for (const PlantConverter& c : m_plant.converters)
            if (touched.contains(c.plus) || touched.contains(c.minus))
                open(c.device, {c.inputP, c.inputQ});
        for (const PlantTransformer& t : m_plant.transformers)
            if (touched.contains(t.s1) || touched.contains(t.s2))
                open(t.device, {t.p1, t.p2});
        for (const PlantDrive& d : m_plant.drives)
            if (std::any_of(d.outputs.begin(), d.outputs.end(), [&](int n) { return touched.contains(n); })) {
                open(d.device, {d.inputs.begin(), d.inputs.end()});
                addInputs(d.device);
            }
    }

    void addMover(int mover)
    {
        if (!m_movers.insert(mover).second)
            return;
        const PlantMover& m = m_plant.movers[at(mover)];
        for (const PlantCoil& c : m_plant.coils)
            if (c.mover == mover) {
                const PlantImpedance& z = m_plant.impedances[at(c.impedance)];
                m_open.push_back({z.p, z.q});
            }
        if (m.spec.driver == MoverSpec::Driver::Logic)
            addInputs(m.device);
        if (m.spec.freedBy >= 0)
            addMover(m.spec.freedBy);
        for (int partner : m.partners)
            addMover(partner);
    }

    /// All that a device with electronics looks at: which input does what is its own affair.
    void addInputs(int device)
    {
        if (!m_devices.insert(device).second)
            return;
        for (const PlantImpedance& z : m_plant.impedances)
            if (z.device == device && z.kind == PlantImpedance::Kind::Sense)
                m_open.push_back({z.p, z.q});
        for (int m : m_plant.devices[at(device)].movers)
            addMover(m);
    }

    void open(int device, std::vector<int> nodes)
    {
        if (m_feeders.insert(device).second)
            m_open.push_back(std::move(nodes));
    }

    const Plant& m_plant;
    std::deque<std::vector<int>> m_open;
    std::set<int> m_links, m_movers, m_contactors, m_knobs, m_devices, m_feeders;
};

} // namespace

bool Cone::has(int mover) const
{
    return std::binary_search(movers.begin(), movers.end(), mover);
}

Cone coneOfMotor(const Plant& plant, int motor)
{
    return Gathering(plant).of(motor);
}

std::vector<int> linksOnPaths(const Plant& plant, const std::vector<int>& nodes)
{
    // A contact is on a path between two points exactly if it shares a biconnected component with an edge laid between
    // them.
    const std::set<int> fed = fedNodes(plant);
    const int supply = plant.nodeCount;
    const auto vertex = [&](int node) { return fed.contains(node) ? at(supply) : at(node); };
    Graph graph(at(supply) + 1);
    std::size_t edges = 0;
    const auto add = [&](std::size_t a, std::size_t b) {
        boost::add_edge(a, b, edges, graph);
        return edges++;
    };
    for (const PlantLink& l : plant.links)
        add(vertex(l.p), vertex(l.q));
    for (const PlantImpedance& z : plant.impedances)
        if (z.kind == PlantImpedance::Kind::Wire || z.kind == PlantImpedance::Kind::Load
            || z.kind == PlantImpedance::Kind::Lamp)
            add(vertex(z.p), vertex(z.q));
    for (const PlantVariable& v : plant.variables)
        add(vertex(v.p), vertex(v.q));
    std::vector<std::size_t> asked;
    for (std::size_t k = 0; k < nodes.size(); ++k) {
        if (vertex(nodes[k]) != at(supply))
            asked.push_back(add(vertex(nodes[k]), at(supply)));
        if (k > 0 && vertex(nodes[k]) != vertex(nodes[k - 1]))
            asked.push_back(add(vertex(nodes[k - 1]), vertex(nodes[k])));
    }
    std::vector<std::size_t> component(edges);
    boost::biconnected_components(
        graph, boost::make_iterator_property_map(component.begin(), boost::get(boost::edge_index, graph)));
    std::vector<int> result;
    for (std::size_t l = 0; l < plant.links.size(); ++l) {
        const bool isLoop = vertex(plant.links[l].p) == vertex(plant.links[l].q);
        if (!isLoop
            && std::any_of(asked.begin(), asked.end(), [&](std::size_t e) { return component[e] == component[l]; }))
            result.push_back(static_cast<int>(l));
    }
    return result;
}

} // namespace ts::exploration
