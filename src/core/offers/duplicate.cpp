// A starter once more: the motor, what feeds it alone, and what works for it alone. Copies join the same nets; contacts
// that the original lends to other circuits are lent by the copy in the same manner, in series or in parallel.

#include "core/base/at.h"
#include "core/base/check.h"
#include "core/edit/circuit_edits.h"
#include "core/library/registry.h"
#include "core/offers/rows.h"

#include <algorithm>
#include <deque>
#include <map>

namespace ts::offers {
namespace {

using diagram::GraphDevice;
using diagram::GraphEdge;

class Members {
public:
    Members(const Sight& sight, DeviceId motor)
        : m_sight(sight)
        , m_graph(sight.graph())
    {
        m_members.insert(motor);
        measureDepth();
        for (const GraphDevice& d : m_graph.devices)
            if (feedsOnly(d, motor))
                m_members.insert(d.device->id);
        for (bool grows = true; grows;) {
            grows = false;
            for (const GraphDevice& d : m_graph.devices)
                if (!m_members.contains(d.device->id) && worksForMembers(d))
                    grows = m_members.insert(d.device->id).second;
        }
    }

    const std::set<DeviceId>& found() const { return m_members; }

    /// Lent to a circuit that is not the starter's own.
    bool isLent(const Sighted& contact) const
    {
        const auto served = servedBy(contact);
        return !contact.edge->isLoad()
            && (served.empty()
                || std::any_of(served.begin(), served.end(), [this](DeviceId d) { return !m_members.contains(d); }));
    }

private:
    /// Poles from the supplies outwards.
    void measureDepth()
    {
        m_depth.assign(m_graph.nets.size(), -1);
        std::deque<int> queue;
        for (const GraphDevice& d : m_graph.devices)
            for (const Element& e : d.body.elements)
                if (std::holds_alternative<SourceElement>(e.what))
                    for (int t : d.terminals)
                        if (m_depth[at(m_graph.netOf(t))] < 0) {
                            m_depth[at(m_graph.netOf(t))] = 0;
                            queue.push_back(m_graph.netOf(t));
                        }
        while (!queue.empty()) {
            const int net = queue.front();
            queue.pop_front();
            for (const GraphEdge& e : m_graph.edges)
                if (e.isPole)
                    for (const auto& [from, to] :
                        {std::pair{m_graph.netOf(e.a), m_graph.netOf(e.b)}, {m_graph.netOf(e.b), m_graph.netOf(e.a)}})
                        if (from == net && m_depth[at(to)] < 0) {
                            m_depth[at(to)] = m_depth[at(net)] + 1;
                            queue.push_back(to);
                        }
        }
    }

    /// Devices that take power from a net or from what lies further out.
    void sinksFrom(int net, std::set<DeviceId>& sinks, std::set<int>& seen) const
    {
        if (!seen.insert(net).second)
            return;
        for (int t : m_graph.nets[at(net)].terminals) {
            const GraphDevice& d = m_graph.devices[at(m_graph.terminals[at(t)].device)];
            const bool hasPole = std::any_of(m_graph.edges.begin(), m_graph.edges.end(),
                [&](const GraphEdge& e) { return e.isPole && (e.a == t || e.b == t); });
            const bool takes = std::any_of(d.body.elements.begin(), d.body.elements.end(), [](const Element& e) {
                return std::holds_alternative<MotorElement>(e.what) || isConverter(e)
                    || std::holds_alternative<TransformerElement>(e.what)
                    || std::holds_alternative<DriveElement>(e.what) || std::holds_alternative<CoilElement>(e.what)
                    || std::holds_alternative<SenseElement>(e.what) || std::holds_alternative<LampElement>(e.what);
            });
            if (!hasPole && takes)
                sinks.insert(d.device->id);
        }
        for (const GraphEdge& e : m_graph.edges)
            if (e.isPole)
                for (const auto& [from, to] :
                    {std::pair{m_graph.netOf(e.a), m_graph.netOf(e.b)}, {m_graph.netOf(e.b), m_graph.netOf(e.a)}})
                    if (from == net && m_depth[at(to)] > m_depth[at(net)])
                        sinksFrom(to, sinks, seen);
    }

    bool feedsOnly(const GraphDevice& d, DeviceId motor) const
    {
        std::set<DeviceId> outer, inner;
        bool hasPole = false;
        for (const GraphEdge& e : m_graph.edges)
            if (e.isPole && m_graph.devices[at(e.device)].device == d.device) {
                hasPole = true;
                const int a = m_graph.netOf(e.a), b = m_graph.netOf(e.b);
                std::set<int> seenOuter, seenInner;
                sinksFrom(m_depth[at(a)] > m_depth[at(b)] ? a : b, outer, seenOuter);
                sinksFrom(m_depth[at(a)] > m_depth[at(b)] ? b : a, inner, seenInner);
            }
        const std::set<DeviceId>& sinks = outer.empty() ? inner : outer; // a star point feeds nothing further
        return hasPole && sinks == std::set<DeviceId>{motor};
    }

    /// Devices of the loads that current reaches through the element as it is drawn.
    std::set<DeviceId> servedBy(const Sighted& element) const
    {
        std::set<DeviceId> served;
        for (const Sighted& e : m_sight.behind(element))
            if (e.edge->isLoad())
                served.insert(e.upper.device);
        return served;
    }

    /// Devices with contacts through which current reaches the element.
    std::set<DeviceId> feeders(const Sighted& element) const
    {
        std::set<DeviceId> found;
        for (const Sighted& e : m_sight.ahead(element))
            found.insert(e.upper.device);
        return found;
    }

    bool areMembers(const std::set<DeviceId>& devices) const
    {
        return !devices.empty() && std::includes(m_members.begin(), m_members.end(), devices.begin(), devices.end());
    }

    /// What protects persons or watches the whole supply belongs to the machine, whatever hangs behind it.
    static bool belongsToTheMachine(const GraphDevice& d)
    {
        return !d.body.safetyRelays.empty() || d.device->kind == "emergency_stop" || d.device->kind == "guard_switch"
            || d.isPower;
    }

    bool worksForMembers(const GraphDevice& d) const
    {
        if (belongsToTheMachine(d))
            return false;
        bool any = false, hasContact = false;
        for (const Sighted& e : m_sight.elements()) {
            if (e.upper.device != d.device->id)
                continue;
            any = true;
            hasContact |= !e.edge->isLoad();
            if (!e.edge->isLoad() && !areMembers(servedBy(e)))
                return false;
        }
        if (!any || hasContact)
            return any;
        for (const Sighted& e : m_sight.elements())
            if (e.upper.device == d.device->id && !areMembers(feeders(e)))
                return false;
        return true;
    }

    const Sight& m_sight;
    const diagram::WiredGraph& m_graph;
    std::vector<int> m_depth;
    std::set<DeviceId> m_members;
};

/// "Q" of "Q12".
std::string lettersOf(const std::string& tag)
{
    return tag.substr(0, std::min(tag.find_first_of("0123456789"), tag.size()));
}

class Copy {
public:
    Copy(DossierFile file, const Sight& sight, DeviceId motor)
        : m_file(std::move(file))
        , m_sight(sight)
        , m_members(sight, motor)
    {
        for (const Sighted& e : sight.elements())
            if (m_members.found().contains(e.upper.device) && m_members.isLent(e)) {
                m_lent.push_back(e);
                m_lentEnds.insert({e.upper, e.lower});
            }
    }

    Expected<DossierFile> made()
    {
        addDevices();
        addLinks();
        addInnerWires();
        for (const Wire& w : m_sight.circuit().wires)
            if (auto ok = joinOuter(w); !ok)
                return Unexpected{ok.error()};
        for (const Sighted& e : m_lent)
            if (auto ok = lend(e); !ok)
                return Unexpected{ok.error()};
        return std::move(m_file);
    }

private:
    bool isMember(DeviceId id) const { return m_members.found().contains(id); }
    TerminalRef copyOf(const TerminalRef& t) const { return {m_copyOf.at(t.device), t.marking}; }
    bool isCopied(const TerminalRef& t) const { return isMember(t.device) && !m_lentEnds.contains(t); }

    void addDevices()
    {
        Circuit& c = m_file.dossier.circuit;
        for (DeviceId id : m_members.found()) {
            Device d = *m_sight.circuit().device(id);
            d.id = {m_file.nextId++};
            d.tag = edit::nextTag(c, lettersOf(d.tag));
            m_copyOf[id] = d.id;
            c.devices.push_back(std::move(d));
        }
    }

    void addLinks()
    {
        Circuit& c = m_file.dossier.circuit;
        for (const MechanicalInterlock& i : m_sight.circuit().interlocks)
            if (isMember(i.first) && isMember(i.second))
                c.interlocks.push_back({m_copyOf.at(i.first), m_copyOf.at(i.second)});
        for (const Shaft& s : m_sight.circuit().shafts)
            if (isMember(s.brake) && isMember(s.motor))
                c.shafts.push_back({m_copyOf.at(s.brake), m_copyOf.at(s.motor)});
    }

    void addInnerWires()
    {
        std::map<std::string, std::string> numbers;
        for (Wire w : m_sight.circuit().wires) {
            if (!isCopied(w.from) || !isCopied(w.to))
                continue;
            std::string& number = numbers[w.number];
            if (number.empty())
                number = isOuter(w.from) ? w.number : edit::nextNumber(m_file.dossier.circuit);
            w.id = {m_file.nextId++};
            w.number = number;
            w.from = copyOf(w.from);
            w.to = copyOf(w.to);
            m_file.dossier.circuit.wires.push_back(std::move(w));
        }
    }

    /// The net goes on outside the starter.
    bool isOuter(const TerminalRef& t) const
    {
        const auto net = edit::netOf(m_sight.circuit(), t);
        return std::any_of(net.begin(), net.end(), [this](const TerminalRef& other) { return !isCopied(other); });
    }

    /// A wire from a member to the outside: its copy's piece joins the same net, once.
    Expected<void> joinOuter(const Wire& w)
    {
        if (isCopied(w.from) == isCopied(w.to))
            return {};
        const TerminalRef inner = copyOf(isCopied(w.from) ? w.from : w.to), outer = isCopied(w.from) ? w.to : w.from;
        TerminalRef target = outer;
        if (isMember(outer.device)) { // a lent contact of the starter itself: what it is joined to outside
            const auto net = edit::netOf(m_sight.circuit(), outer);
            const auto it = std::find_if(
                net.begin(), net.end(), [this](const TerminalRef& t) { return !isMember(t.device); });
            if (it == net.end())
                return {};
            target = *it;
        }
        if (edit::netOf(m_file.dossier.circuit, target).contains(inner))
            return {};
        auto joined = edit::withTerminalJoined(m_file, inner, target);
        if (!joined)
            return Unexpected{joined.error()};
        m_file = std::move(*joined);
        m_file.dossier.circuit.wires.back().areaMm2 = w.areaMm2;
        return {};
    }

    Expected<void> lend(const Sighted& e)
    {
        const edit::Ends ends{copyOf(e.upper), copyOf(e.lower)};
        if (!m_sight.standsInSeries(e)) {
            auto bridged = edit::withBridge(m_file, e.upper, e.lower, ends);
            if (!bridged)
                return Unexpected{bridged.error()};
            m_file = std::move(*bridged);
            return {};
        }
        std::vector<TerminalRef> behind;
        for (const TerminalRef& t : edit::netOf(m_file.dossier.circuit, e.lower))
            if (t != e.lower)
                behind.push_back(t);
        auto parted = edit::withNetParted(m_file, behind, ends);
        if (!parted)
            return Unexpected{parted.error()};
        m_file = std::move(*parted);
        return {};
    }

    DossierFile m_file;
    const Sight& m_sight;
    Members m_members;
    std::vector<Sighted> m_lent;
    std::set<TerminalRef> m_lentEnds;
    std::map<DeviceId, DeviceId> m_copyOf;
};

} // namespace

Expected<DossierFile> withStarterAgain(const DossierFile& file, const Sight& sight, DeviceId device)
{
    return Copy(file, sight, device).made();
}

} // namespace ts::offers
