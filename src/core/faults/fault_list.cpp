#include "core/faults/fault_list.h"

#include "core/base/at.h"
#include "core/base/check.h"
#include "core/faults/common_cause.h"
#include "core/faults/exclusion.h"
#include "core/library/exclusion_rule.h"
#include "core/simulation/fault.h"

#include <algorithm>
#include <map>
#include <set>

namespace ts::faults {
namespace {

/// Main poles: any number of them can weld. All at once, and every one and two of three.
std::vector<std::vector<Fault>> weldedPoles(const Plant& plant, int mover)
{
    std::vector<int> poles;
    for (std::size_t l = 0; l < plant.links.size(); ++l)
        if (plant.links[l].contact.mover == mover && plant.links[l].contact.kind == ContactKind::Main)
            poles.push_back(static_cast<int>(l));
    std::vector<std::vector<Fault>> variants{{{FaultMode::PolesWelded, mover}}};
    for (std::size_t a = 0; a < poles.size(); ++a) {
        variants.push_back({{FaultMode::LinkHeldClosed, poles[a]}});
        for (std::size_t b = a + 1; b < poles.size(); ++b)
            variants.push_back({{FaultMode::LinkHeldClosed, poles[a]}, {FaultMode::LinkHeldClosed, poles[b]}});
    }
    return variants;
}

std::vector<std::vector<Fault>> openPoles(const Plant& plant, int mover)
{
    std::vector<std::vector<Fault>> variants{{{FaultMode::PolesOpen, mover}}};
    for (std::size_t l = 0; l < plant.links.size(); ++l)
        if (plant.links[l].contact.mover == mover && plant.links[l].contact.kind == ContactKind::Main)
            variants.push_back({{FaultMode::LinkHeldOpen, static_cast<int>(l)}});
    return variants;
}

class Lister {
public:
    Lister(const Plant& plant, const Dossier& dossier)
        : m_plant(plant)
        , m_circuit(dossier.circuit)
    {
    }

    std::vector<SweptFault> listed()
    {
        for (const FaultSite& site : faultSites(m_plant))
            if (site.site.starts_with("wire/"))
                addWire(site);
            else
                addPart(site);
        addShorts();
        for (SweptFault& fault : commonCauses(m_plant, m_circuit))
            m_list.push_back(std::move(fault));
        return std::move(m_list);
    }

private:
    bool isMainPole(const Fault& f) const
    {
        return (f.mode == FaultMode::LinkHeldClosed || f.mode == FaultMode::LinkHeldOpen)
            && m_plant.links[at(f.at)].contact.kind == ContactKind::Main;
    }

    void addPart(const FaultSite& site)
    {
        if (isMainPole(site.fault))
            return; // a variant of all poles together
        SweptFault fault;
        fault.id = site.text();
        const std::size_t slash = site.site.find('/');
        fault.group = site.site.substr(0, slash);
        fault.element = site.site.substr(slash + 1);
        fault.mode = site.mode;
        fault.variants = {{site.fault}};
        if (site.fault.mode == FaultMode::PolesWelded)
            fault.variants = weldedPoles(m_plant, site.fault.at);
        if (site.fault.mode == FaultMode::PolesOpen)
            fault.variants = openPoles(m_plant, site.fault.at);
        if (site.fault.mode == FaultMode::SupplyLevel && fault.mode == "low")
            fault.variants.push_back({{FaultMode::SupplyLevel, site.fault.at, failedOutputPercent()[1]}});
        const PlantDevice& device = m_plant.devices[at(m_plant.deviceIndex(fault.group))];
        fault.devices = {device.id};
        const bool opens = site.fault.mode == FaultMode::LinkHeldClosed
            && m_plant.links[at(site.fault.at)].contact.kind == ContactKind::NormallyClosed;
        if (opens)
            fault.mode = "does_not_open";
        const ExclusionRule rule = exclusionRule(
            m_circuit, *m_circuit.device(device.id), fault.element, fault.mode, opens);
        fault.table = rule.table;
        fault.condition = rule.condition;
        if (opens && isMirrored(m_plant.links[at(site.fault.at)].contact.mover)) {
            fault.isExcluded = true;
            fault.reason = "mirror or linked contact by the part's sheet";
        }
        m_list.push_back(std::move(fault));
    }

    /// Its closing contacts or main poles, welded, hold the armature: then an opening contact cannot stay closed with
    /// them.
    bool isMirrored(int mover) const
    {
        return mover >= 0 && std::any_of(m_plant.links.begin(), m_plant.links.end(), [mover](const PlantLink& l) {
            return l.contact.mover == mover && l.contact.boundsMover;
        });
    }

    void addWire(const FaultSite& site)
    {
        const Wire* wire = m_circuit.wire({std::stoi(site.site.substr(5))});
        SweptFault fault;
        fault.id = site.text();
        fault.group = m_circuit.device(wire->from.device)->tag;
        fault.element = m_circuit.nameOf(wire->from) + " " + m_circuit.nameOf(wire->to);
        fault.mode = "open";
        fault.family = Family::Wire;
        fault.devices = {wire->from.device, wire->to.device};
        fault.variants = {{site.fault}};
        m_list.push_back(std::move(fault));
    }

    struct Core {
        int node = 0; ///< of a terminal of the net on this route
        std::set<DeviceId> devices;
    };

    void addShorts()
    {
        std::map<std::pair<int, int>, std::size_t> known; // nets -> place in the list; -1: earth
        for (const Route& route : m_circuit.routes) {
            const std::map<int, Core> cores = coresOf(route.id);
            for (auto a = cores.begin(); a != cores.end(); ++a) {
                const bool isEarth = a->second.node == network::kReference || isOnEarth(a->first);
                if (!isEarth)
                    addShort(route, *a, nullptr, known);
                for (auto b = std::next(a); b != cores.end(); ++b)
                    if (!isEarth && !isOnEarth(b->first))
                        addShort(route, *a, &*b, known);
            }
        }
    }

    bool isOnEarth(int net) const
    {
        const auto& terminals = m_plant.nets[at(net)].terminals;
        return std::any_of(terminals.begin(), terminals.end(),
            [this](int t) { return m_plant.terminals[at(t)].node == network::kReference; });
    }

    std::map<int, Core> coresOf(RouteId route) const
    {
        std::map<int, Core> cores;
        for (const PlantWire& w : m_plant.wires) {
            const Wire& wire = *m_circuit.wire(w.id);
            if (wire.route != route)
                continue;
            const int net = m_plant.netOfNode[at(w.p)];
            auto [core, isNew] = cores.try_emplace(net, Core{w.p, {}});
            core->second.devices.insert({wire.from.device, wire.to.device});
        }
        return cores;
    }

    void addShort(const Route& route, const std::pair<const int, Core>& a, const std::pair<const int, Core>* b,
        std::map<std::pair<int, int>, std::size_t>& known)
    {
        const auto [place, isNew] = known.try_emplace({a.first, b ? b->first : -1}, m_list.size());
        if (!isNew) {
            m_list[place->second].routes.push_back(route.id);
            return;
        }
        SweptFault fault;
        fault.element = m_plant.nameOfNode(a.second.node) + (b ? "+" + m_plant.nameOfNode(b->second.node) : "");
        fault.mode = b ? "short" : "to_earth";
        fault.id = fault.element + ":" + fault.mode;
        fault.group = route.name;
        fault.family = Family::Short;
        std::set<DeviceId> devices = a.second.devices;
        if (b)
            devices.insert(b->second.devices.begin(), b->second.devices.end());
        fault.devices.assign(devices.begin(), devices.end());
        fault.variants = {{{FaultMode::Short, a.second.node, b ? b->second.node : network::kReference}}};
        fault.routes = {route.id};
        m_list.push_back(std::move(fault));
    }

    const Plant& m_plant;
    const Circuit& m_circuit;
    std::vector<SweptFault> m_list;
};

} // namespace

std::vector<SweptFault> faultList(const Plant& plant, const Dossier& dossier)
{
    std::vector<SweptFault> list = Lister(plant, dossier).listed();
    for (SweptFault& fault : list)
        applyExclusions(fault, dossier);
    return list;
}

std::vector<Stimulus> supplyCourse(const Plant& plant, const SweptFault& fault, TimeNs moment)
{
    std::vector<Stimulus> course;
    for (const SupplyStep& step : fault.supply)
        for (std::size_t k = 0; k < plant.knobs.size(); ++k) {
            Stimulus s;
            s.at = moment + timeNs(seconds(step.afterS));
            s.kind = Stimulus::Kind::SetKnob;
            s.slot = static_cast<int>(k);
            s.value = plant.knobs[k].initial * step.share;
            course.push_back(s);
        }
    return course;
}

const SweptFault* faultNamed(const std::vector<SweptFault>& list, std::string_view id)
{
    const auto found = std::find_if(list.begin(), list.end(), [id](const SweptFault& f) { return f.id == id; });
    return found == list.end() ? nullptr : &*found;
}

std::vector<std::string> emptyExclusions(const std::vector<SweptFault>& list, const Dossier& dossier)
{
    std::vector<std::string> empty;
    for (const FaultExclusion& e : dossier.exclusions)
        if (!faultNamed(list, e.fault) && !routeOfExclusion(dossier.circuit, e.fault))
            empty.push_back(e.fault);
    return empty;
}

Message labelOf(const SweptFault& fault, const Circuit& circuit)
{
    if (fault.family == Family::Wire) {
        const Wire* wire = circuit.wire({std::stoi(fault.id.substr(5))});
        TS_CHECK(wire != nullptr);
        return message(
            "fault.wire", {wire->number, circuit.nameOf(wire->from), circuit.nameOf(wire->to), "@mode." + fault.mode});
    }
    if (fault.family == Family::CommonCause)
        return message("fault." + fault.mode, {fault.mode == "welded_together" ? fault.element : fault.group});
    if (fault.family == Family::Short) {
        const std::size_t plus = fault.element.find('+');
        return plus == std::string::npos
            ? message("fault.to_earth", {fault.element})
            : message("fault.touch", {fault.element.substr(0, plus), fault.element.substr(plus + 1)});
    }
    return message("fault.mode", {"@element." + fault.element, "@mode." + fault.mode});
}

Message messageOf(const SweptFault& fault, const Circuit& circuit)
{
    if (fault.family == Family::Part)
        return message("fault.device", {fault.group, "@element." + fault.element, "@mode." + fault.mode});
    return labelOf(fault, circuit);
}

} // namespace ts::faults
