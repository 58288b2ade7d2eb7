#include "core/offers/sight.h"

#include "core/base/at.h"
#include "core/diagram/control_layout.h"
#include "core/edit/circuit_edits.h"
#include "core/library/registry.h"

#include <algorithm>
#include <deque>
#include <sstream>

namespace ts::offers {

using diagram::GraphEdge;

Expected<Sight> Sight::of(const Dossier& dossier)
{
    auto graph = diagram::wiredGraph(dossier.circuit);
    if (!graph)
        return Unexpected{graph.error()};
    Sight sight;
    sight.m_dossier = &dossier;
    sight.m_graph = std::move(*graph);
    for (const diagram::GraphTerminal& t : sight.m_graph.terminals)
        sight.m_netOf[t.ref] = t.net;
    std::map<ElementRef, const GraphEdge*> edges;
    for (const GraphEdge& e : sight.m_graph.edges)
        if (!e.isPole)
            edges[{sight.m_graph.devices[at(e.device)].device->id, e.role}] = &e;
    for (const diagram::Symbol& s : diagram::controlDrawing(sight.m_graph).scene.symbols)
        if (const auto it = edges.find({s.device, s.role}); it != edges.end())
            sight.m_elements.push_back({it->second, s.upper, s.lower});
    return sight;
}

std::optional<Sighted> Sight::element(DeviceId device, const std::string& role) const
{
    for (const Sighted& e : m_elements)
        if (e.upper.device == device && e.edge->role == role)
            return e;
    return std::nullopt;
}

int Sight::netOf(const TerminalRef& terminal) const
{
    const auto it = m_netOf.find(terminal);
    return it == m_netOf.end() ? -1 : it->second;
}

std::vector<Sighted> Sight::below(int net) const
{
    std::vector<Sighted> found;
    for (const Sighted& e : m_elements)
        if (netOf(e.upper) == net)
            found.push_back(e);
    return found;
}

std::vector<TerminalRef> Sight::upperEndsOn(int net) const
{
    std::vector<TerminalRef> ends;
    for (const Sighted& e : below(net))
        if (std::find(ends.begin(), ends.end(), e.upper) == ends.end())
            ends.push_back(e.upper);
    return ends;
}

std::vector<Sighted> Sight::ahead(const Sighted& element) const
{
    std::vector<Sighted> found;
    std::set<int> seen;
    std::deque<int> queue{netOf(element.upper)};
    while (!queue.empty()) {
        const int net = queue.front();
        queue.pop_front();
        if (isRail(net) || !seen.insert(net).second)
            continue;
        for (const Sighted& e : m_elements)
            if (!e.edge->isLoad() && netOf(e.lower) == net) {
                found.push_back(e);
                queue.push_back(netOf(e.upper));
            }
    }
    return found;
}

std::vector<Sighted> Sight::behind(const Sighted& element) const
{
    std::vector<Sighted> found;
    std::set<int> seen;
    std::deque<Sighted> queue{element};
    while (!queue.empty()) {
        const Sighted e = queue.front();
        queue.pop_front();
        const int net = netOf(e.lower);
        if (e.edge->isLoad() || isRail(net) || !seen.insert(net).second)
            continue;
        for (const Sighted& next : below(net)) {
            found.push_back(next);
            queue.push_back(next);
        }
    }
    return found;
}

std::vector<Sighted> Sight::companions(const Sighted& element) const
{
    std::set<int> nets;
    std::deque<int> queue;
    const auto visit = [&](int net) {
        if (net >= 0 && !isRail(net) && nets.insert(net).second)
            queue.push_back(net);
    };
    visit(netOf(element.upper));
    visit(netOf(element.lower));
    while (!queue.empty()) {
        const int net = queue.front();
        queue.pop_front();
        for (const Sighted& e : m_elements)
            if (!e.edge->isLoad() && (netOf(e.upper) == net || netOf(e.lower) == net)) {
                visit(netOf(e.upper));
                visit(netOf(e.lower));
            }
    }
    std::vector<Sighted> found;
    for (const Sighted& e : m_elements)
        if (nets.contains(netOf(e.upper)) || nets.contains(netOf(e.lower)))
            found.push_back(e);
    return found;
}

bool Sight::standsInSeries(const Sighted& element) const
{
    const int upper = netOf(element.upper), lower = netOf(element.lower);
    const auto others = [&](int net) {
        return std::count_if(m_elements.begin(), m_elements.end(), [&](const Sighted& e) {
            return e.edge != element.edge && (netOf(e.upper) == net || netOf(e.lower) == net);
        });
    };
    const bool isBeside = std::any_of(m_elements.begin(), m_elements.end(), [&](const Sighted& e) {
        const int u = netOf(e.upper), l = netOf(e.lower);
        return e.edge != element.edge && !e.edge->isLoad()
            && ((u == upper && l == lower) || (u == lower && l == upper));
    });
    if (isBeside)
        return false;
    if ((!isRail(upper) && others(upper) == 1) || (!isRail(lower) && others(lower) == 1))
        return true;
    // Another way between its ends, over contacts and not over rails.
    std::set<int> seen{upper};
    std::deque<int> queue{upper};
    while (!queue.empty()) {
        const int net = queue.front();
        queue.pop_front();
        for (const Sighted& e : m_elements) {
            if (e.edge == element.edge || e.edge->isLoad())
                continue;
            for (const auto& [from, to] : {std::pair{netOf(e.upper), netOf(e.lower)}, {netOf(e.lower), netOf(e.upper)}})
                if (from == net && !isRail(to) && seen.insert(to).second)
                    queue.push_back(to);
        }
    }
    return !seen.contains(lower);
}

std::optional<Sighted> Sight::coil(DeviceId device) const
{
    for (const Sighted& e : m_elements)
        if (e.upper.device == device && e.edge->kind == diagram::SymbolKind::Coil)
            return e;
    return std::nullopt;
}

std::optional<TerminalRef> Sight::liveRailAbove(const Sighted& element) const
{
    std::set<int> seen;
    std::deque<int> queue{netOf(element.upper)};
    while (!queue.empty()) {
        const int net = queue.front();
        queue.pop_front();
        if (!seen.insert(net).second)
            continue;
        if (isRail(net)) {
            if (!m_graph.nets[at(net)].isReturn)
                return m_graph.terminals[at(m_graph.nets[at(net)].terminals.front())].ref;
            continue;
        }
        for (const Sighted& e : m_elements)
            if (!e.edge->isLoad() && netOf(e.lower) == net)
                queue.push_back(netOf(e.upper));
    }
    return std::nullopt;
}

Message elementName(const Circuit& circuit, DeviceId device, const std::string& role)
{
    const Device* d = circuit.device(device);
    const std::string tag = d ? d->tag : "?";
    if (role.empty())
        return message("offer.device", {tag});
    return role.find('-') == role.npos ? message("offer.element", {tag, "@element." + role})
                                       : message("offer.contact", {tag, role});
}

namespace {

const char* kindWord(ContactKind kind)
{
    return kind == ContactKind::NormallyOpen ? "closing" : "opening";
}

/// Devices that bring a contact with them, as a hand or the plant works them.
struct NewDevice {
    const char* kind;
    const char* contact; ///< "opening", "closing"
    ParameterMap parameters;
};

std::vector<NewDevice> newDevices()
{
    const auto words = [](const char* text) { return std::vector<std::string>{text}; };
    return {
        {"push_button", "opening",
            {{"contacts", words("11-12")}, {"colour", std::string("black")}, {"purpose", std::string("stop")}}},
        {"push_button", "closing",
            {{"contacts", words("13-14")}, {"colour", std::string("white")}, {"purpose", std::string("start")}}},
        {"emergency_stop", "opening", {{"contacts", words("11-12")}}},
        {"guard_switch", "opening", {{"contacts", words("11-12")}}},
        {"selector", "closing", {{"contacts", words("13-14/on")}}},
        {"external_call", "closing", {{"contacts", words("13-14")}}},
        {"external_call", "opening", {{"contacts", words("11-12")}}},
    };
}

Expected<PutIn> withNewDevice(const DossierFile& file, const std::string& kind, const std::string& contact)
{
    for (NewDevice& made : newDevices()) {
        if (made.kind != kind || made.contact != contact)
            continue;
        Device d;
        d.kind = kind;
        d.parameters = std::move(made.parameters);
        auto changed = edit::withDevice(file, std::move(d));
        if (!changed)
            return Unexpected{changed.error()};
        const DeviceId id = changed->dossier.circuit.devices.back().id;
        const auto budget = edit::contactBudget(changed->dossier.circuit, id);
        if (!budget)
            return Unexpected{budget.error()};
        const edit::ContactUse& use = budget->contacts.front();
        return PutIn{std::move(*changed), use.ends, {id, use.role}};
    }
    return failure(ErrorCode::NotFound, message("offer.no_answer", {kind + " " + contact}));
}

} // namespace

std::vector<Choice> contactsOf(const Sight& sight, DeviceId id, ContactKind kind)
{
    std::vector<Choice> choices;
    const auto budget = edit::contactBudget(sight.circuit(), id);
    const std::string tag = sight.circuit().device(id)->tag;
    if (!budget)
        return choices;
    for (const edit::ContactUse& use : budget->contacts)
        if (!use.isUsed && use.kind == kind)
            choices.push_back({"contact " + tag + " " + use.role,
                message("offer.free_contact", {tag, use.role, "@offer." + std::string(kindWord(kind))})});
    if (budget->takesBlocks)
        choices.push_back({"block " + tag + " " + kindWord(kind),
            message("offer.block", {tag, "@offer." + std::string(kindWord(kind))})});
    return choices;
}

std::vector<Choice> whatToPutIn(const Sight& sight, DeviceId without)
{
    std::vector<Choice> choices;
    for (const NewDevice& d : newDevices()) {
        const std::string tag = edit::nextTag(sight.circuit(), deviceKind(d.kind)->letter);
        choices.push_back({std::string("new ") + d.kind + " " + d.contact,
            message("offer.new", {tag, std::string("@kind.") + d.kind, std::string("@offer.") + d.contact})});
    }
    for (const Device& d : sight.circuit().devices)
        if (d.id != without)
            for (ContactKind kind : {ContactKind::NormallyClosed, ContactKind::NormallyOpen})
                for (Choice& c : contactsOf(sight, d.id, kind))
                    choices.push_back(std::move(c));
    std::stable_sort(choices.begin(), choices.end(), [](const Choice& a, const Choice& b) {
        return a.value.starts_with("contact") > b.value.starts_with("contact");
    });
    return choices;
}

Expected<PutIn> putIn(const DossierFile& file, const std::string& answer)
{
    std::istringstream words(answer);
    std::string how, tag, which;
    words >> how >> tag >> which;
    if (how == "new")
        return withNewDevice(file, tag, which);
    const Device* device = file.dossier.circuit.device(tag);
    if (!device || (how != "contact" && how != "block"))
        return failure(ErrorCode::NotFound, message("offer.no_answer", {answer}));
    if (how == "block") {
        auto added = edit::withContactAdded(
            file, device->id, which == "closing" ? ContactKind::NormallyOpen : ContactKind::NormallyClosed);
        if (!added)
            return Unexpected{added.error()};
        return PutIn{std::move(added->file), added->contact.ends, {device->id, added->contact.role}};
    }
    const auto budget = edit::contactBudget(file.dossier.circuit, device->id);
    if (!budget)
        return Unexpected{budget.error()};
    for (const edit::ContactUse& use : budget->contacts)
        if (use.role == which)
            return PutIn{file, use.ends, {device->id, use.role}};
    return failure(ErrorCode::NotFound, message("offer.no_answer", {answer}));
}

Expected<DossierFile> inSeriesAt(
    const DossierFile& file, const std::vector<TerminalRef>& behind, const std::string& what)
{
    const auto put = putIn(file, what);
    if (!put)
        return Unexpected{put.error()};
    return edit::withNetParted(put->file, behind, put->ends);
}

Expected<DossierFile> inParallel(
    const DossierFile& file, const TerminalRef& from, const TerminalRef& to, const std::string& what)
{
    const auto put = putIn(file, what);
    if (!put)
        return Unexpected{put.error()};
    return edit::withBridge(put->file, from, to, put->ends);
}

Expected<DossierFile> takenOut(const DossierFile& file, const Sighted& element, bool closesGap)
{
    return closesGap ? edit::withGapClosed(file, {element.upper, element.lower})
                     : edit::withTerminalsFreed(file, {element.upper, element.lower});
}

std::string answerTo(const Answers& answers, const std::string& question)
{
    const auto it = answers.find(question);
    return it == answers.end() ? std::string() : it->second;
}

Answers presetsOf(const Offer& offer)
{
    Answers answers;
    for (const Question& q : offer.questions)
        answers[q.id] = q.preset;
    return answers;
}

} // namespace ts::offers
