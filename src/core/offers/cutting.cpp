#include "core/offers/cutting.h"

#include "core/base/at.h"
#include "core/library/registry.h"
#include "core/network/disjoint_sets.h"

#include <algorithm>
#include <cstdint>
#include <map>
#include <vector>

namespace ts::offers {
namespace {

constexpr int kMostPoles = 64;

class Cutting {
public:
    Expected<Structure> found(const Circuit& circuit)
    {
        for (const Device& d : circuit.devices)
            if (auto ok = addDevice(circuit, d); !ok)
                return Unexpected{ok.error()};
        join(circuit);
        Structure structure;
        const std::vector<bool> all = loadsWithAWay(-1, &structure.shorts);
        for (std::size_t l = 0; l < m_loads.size(); ++l)
            if (all[l])
                structure.fed.insert(m_loads[l].what);
        for (std::size_t c = 0; c < m_contacts.size(); ++c) {
            const Link& contact = m_contacts[c];
            if (!contact.isControl || !m_isWired[at(m_net[at(contact.p)])] || !m_isWired[at(m_net[at(contact.q)])])
                continue;
            if (contact.opens)
                structure.openers.insert(contact.what);
            const std::vector<bool> left = loadsWithAWay(static_cast<int>(c));
            for (std::size_t l = 0; l < m_loads.size(); ++l)
                if (all[l] && !left[l])
                    structure.cuts.insert({contact.what, m_loads[l].what});
        }
        return structure;
    }

private:
    struct Link {
        ElementRef what;
        int p = 0, q = 0; ///< nodes
        bool isControl = false, opens = false;
    };

    Expected<void> addDevice(const Circuit& circuit, const Device& d)
    {
        const auto body = bodyOf(circuit, d);
        if (!body)
            return Unexpected{body.error()};
        const int first = static_cast<int>(m_nodeCount);
        m_nodeCount += body->terminals.size();
        for (std::size_t t = 0; t < body->terminals.size(); ++t) {
            if (body->terminals[t].inner)
                m_inner.push_back(first + static_cast<int>(t));
            else
                m_nodeOf[{d.id, body->terminals[t].marking}] = first + static_cast<int>(t);
            if (body->terminals[t].protectiveEarth)
                m_poles.push_back(first + static_cast<int>(t));
        }
        for (const Element& e : body->elements) {
            const Link link{{d.id, e.role}, first + e.terminals[0], first + e.terminals[1]};
            if (const auto* contact = std::get_if<ContactElement>(&e.what)) {
                m_contacts.push_back(link);
                m_contacts.back().opens = contact->kind == ContactKind::NormallyClosed;
                m_contacts.back().isControl = !e.role.empty()
                    && (contact->kind == ContactKind::NormallyOpen || contact->kind == ContactKind::NormallyClosed);
            } else if (std::holds_alternative<LoadElement>(e.what)
                && (body->terminals[at(e.terminals[0])].inner || body->terminals[at(e.terminals[1])].inner)) {
                m_contacts.push_back(link); // a fuse or limiter inside: current goes on through it
            } else if (std::holds_alternative<CoilElement>(e.what) || std::holds_alternative<LampElement>(e.what)
                || std::holds_alternative<SenseElement>(e.what)) {
                m_loads.push_back(link);
            } else if (std::holds_alternative<SourceElement>(e.what)) {
                m_poles.insert(m_poles.end(), {link.p, link.q});
            } else if (isConverter(e) || std::holds_alternative<TransformerElement>(e.what)) {
                m_poles.insert(m_poles.end(), {first + e.terminals[2], first + e.terminals[3]});
            }
        }
        return {};
    }

    void join(const Circuit& circuit)
    {
        network::DisjointSets sets(static_cast<int>(m_nodeCount));
        m_isWired.assign(m_nodeCount, false);
        for (const Wire& w : circuit.wires)
            sets.join(m_nodeOf.at(w.from), m_nodeOf.at(w.to));
        for (std::size_t n = 0; n < m_nodeCount; ++n)
            m_net.push_back(sets.find(static_cast<int>(n)));
        for (const Wire& w : circuit.wires)
            m_isWired[at(m_net[at(m_nodeOf.at(w.from))])] = true;
        for (int n : m_inner) // joined to something by the device itself
            m_isWired[at(m_net[at(n)])] = true;
        m_around.assign(m_nodeCount, {});
        for (std::size_t c = 0; c < m_contacts.size(); ++c) {
            m_around[at(m_net[at(m_contacts[c].p)])].push_back(static_cast<int>(c));
            m_around[at(m_net[at(m_contacts[c].q)])].push_back(static_cast<int>(c));
        }
        std::vector<int> poleNets;
        for (int node : m_poles) {
            poleNets.push_back(m_net[at(node)]);
            for (const auto& [ref, n] : m_nodeOf)
                if (n == node)
                    m_poleName.emplace(m_net[at(node)], ref);
        }
        std::sort(poleNets.begin(), poleNets.end());
        poleNets.erase(std::unique(poleNets.begin(), poleNets.end()), poleNets.end());
        m_poles = std::move(poleNets);
        if (m_poles.size() > kMostPoles)
            m_poles.resize(kMostPoles);
    }

    /// Every load with one contact open (-1: none) and all others closed.
    std::vector<bool> loadsWithAWay(int open, std::set<std::pair<TerminalRef, TerminalRef>>* shorts = nullptr) const
    {
        std::vector<std::uint64_t> reached(m_nodeCount, 0);
        std::vector<int> queue;
        for (std::size_t k = 0; k < m_poles.size(); ++k) {
            const std::uint64_t bit = std::uint64_t(1) << k;
            reached[at(m_poles[k])] |= bit;
            queue.assign(1, m_poles[k]);
            while (!queue.empty()) {
                const int net = queue.back();
                queue.pop_back();
                if (net != m_poles[k] && std::binary_search(m_poles.begin(), m_poles.end(), net)) {
                    if (shorts && m_poleName.contains(m_poles[k]) && m_poleName.contains(net))
                        shorts->insert(std::minmax(m_poleName.at(m_poles[k]), m_poleName.at(net)));
                    continue; // a way ends at the next pole
                }
                for (int c : m_around[at(net)]) {
                    if (open >= 0 && m_contacts[at(c)].isControl && m_contacts[at(c)].what == m_contacts[at(open)].what)
                        continue;
                    const int p = m_net[at(m_contacts[at(c)].p)], q = m_net[at(m_contacts[at(c)].q)],
                              other = p == net ? q : p;
                    if (!(reached[at(other)] & bit)) {
                        reached[at(other)] |= bit;
                        queue.push_back(other);
                    }
                }
            }
        }
        std::vector<bool> hasWay;
        for (const Link& load : m_loads) {
            const std::uint64_t a = reached[at(m_net[at(load.p)])], b = reached[at(m_net[at(load.q)])], both = a | b;
            hasWay.push_back(a && b && (both & (both - 1)));
        }
        return hasWay;
    }

    std::size_t m_nodeCount = 0;
    std::map<TerminalRef, int> m_nodeOf;
    std::vector<int> m_inner;
    std::vector<int> m_net; ///< by node; a net is named by one of its nodes
    std::vector<bool> m_isWired; ///< by net
    std::vector<Link> m_contacts, m_loads;
    std::vector<std::vector<int>> m_around; ///< contacts by net
    std::vector<int> m_poles; ///< nets, sorted
    std::map<int, TerminalRef> m_poleName; ///< by net
};

} // namespace

Expected<Structure> structureOf(const Circuit& circuit)
{
    return Cutting().found(circuit);
}

} // namespace ts::offers
