// What belongs to a contactor: interlock, hold, lamp, feedback, and the whole starter once more.

#include "core/base/check.h"
#include "core/edit/circuit_edits.h"
#include "core/edit/second_contactor.h"
#include "core/library/registry.h"
#include "core/offers/rows.h"

#include <algorithm>
#include <array>

namespace ts::offers {
namespace {

using Questions = std::optional<std::vector<Question>>;
using diagram::SymbolKind;

std::string tagOf(const Sight& s, DeviceId id)
{
    return s.circuit().device(id)->tag;
}

bool isSwitchedByCoil(const Sight& s, DeviceId id)
{
    return s.coil(id).has_value() && deviceKind(s.circuit().device(id)->kind)->symbol == "contactor";
}

/// The first free contact of that kind, else one of an add-on block; empty if there is neither.
std::string someContact(const Sight& s, DeviceId id, ContactKind kind)
{
    const auto choices = contactsOf(s, id, kind);
    return choices.empty() ? std::string() : choices.front().value;
}

Expected<std::string> contactOrRefusal(const Sight& s, DeviceId id, ContactKind kind)
{
    std::string contact = someContact(s, id, kind);
    if (contact.empty())
        return failure(ErrorCode::Refused,
            message("offer.no_contact",
                {tagOf(s, id), kind == ContactKind::NormallyOpen ? "@offer.closing" : "@offer.opening"}));
    return contact;
}

Cuts cutsIn(const Sight& s)
{
    auto structure = structureOf(s.circuit()); // its bodies were made for the sight already
    TS_CHECK(structure.has_value());
    return std::move(structure->cuts);
}

/// Contacts of one device of that kind that cut a load.
std::vector<std::string> cutters(
    const Cuts& cuts, const Sight& s, DeviceId device, SymbolKind kind, const ElementRef& load)
{
    std::vector<std::string> roles;
    for (const Cut& cut : cuts)
        if (cut.contact.device == device && cut.load == load)
            if (const auto e = s.element(device, cut.contact.role); e && e->edge->kind == kind)
                roles.push_back(cut.contact.role);
    return roles;
}

ElementRef coilRef(const Sight& s, DeviceId id)
{
    return {id, s.coil(id)->edge->role};
}

bool isLinked(const Circuit& c, DeviceId a, DeviceId b)
{
    return std::any_of(c.interlocks.begin(), c.interlocks.end(), [&](const MechanicalInterlock& i) {
        return (i.first == a && i.second == b) || (i.first == b && i.second == a);
    });
}

std::vector<Choice> otherContactors(const Sight& s, DeviceId id)
{
    std::vector<Choice> choices;
    for (const Device& d : s.circuit().devices)
        if (d.id != id && d.kind == "contactor" && isSwitchedByCoil(s, d.id))
            choices.push_back({d.tag, message("offer.labelled", {d.tag, d.label})});
    return choices;
}

Questions askInterlock(const Sight& s, const Picked& t)
{
    const auto others = otherContactors(s, t.device);
    if (!isSwitchedByCoil(s, t.device) || s.device(t)->kind != "contactor" || others.empty())
        return std::nullopt;
    return std::vector{question("with", others),
        question("by",
            {{"contacts", message("offer.by_contacts")}, {"mechanical", message("offer.by_mechanical")},
                {"both", message("offer.by_both")}})};
}

/// An opening contact of `by` right before the coil of `of`, between it and all that can feed it.
Expected<DossierFile> interlocked(const DossierFile& file, DeviceId of, DeviceId by)
{
    const auto s = Sight::of(file.dossier);
    if (!s)
        return Unexpected{s.error()};
    const auto contact = contactOrRefusal(*s, by, ContactKind::NormallyClosed);
    if (!contact)
        return Unexpected{contact.error()};
    return inSeriesAt(file, {s->coil(of)->upper}, *contact);
}

Expected<DossierFile> addInterlock(const DossierFile& file, const Sight& s, const Picked& t, const Answers& a)
{
    const DeviceId other = s.circuit().device(answerTo(a, "with"))->id;
    const std::string by = answerTo(a, "by");
    DossierFile changed = file;
    if (by != "contacts") {
        if (isLinked(s.circuit(), t.device, other))
            return failure(ErrorCode::Refused, message("offer.is_linked", {tagOf(s, t.device), tagOf(s, other)}));
        auto linked = edit::withMechanicalInterlock(changed, tagOf(s, t.device), tagOf(s, other));
        if (!linked)
            return linked;
        changed = std::move(*linked);
    }
    if (by == "mechanical")
        return changed;
    const auto first = interlocked(changed, t.device, other);
    return first ? interlocked(*first, other, t.device) : first;
}

Questions askNoInterlock(const Sight& s, const Picked& t)
{
    if (!isSwitchedByCoil(s, t.device))
        return std::nullopt;
    const Cuts cuts = cutsIn(s);
    std::vector<Choice> choices;
    for (const Choice& other : otherContactors(s, t.device)) {
        const DeviceId id = s.circuit().device(other.value)->id;
        if (isLinked(s.circuit(), t.device, id)
            || !cutters(cuts, s, id, SymbolKind::NormallyClosed, coilRef(s, t.device)).empty()
            || !cutters(cuts, s, t.device, SymbolKind::NormallyClosed, coilRef(s, id)).empty())
            choices.push_back(other);
    }
    return choices.empty() ? std::nullopt : Questions(std::vector{question("with", choices)});
}

/// Takes every contact of a device that matches out of its path, one after the other.
template <class Finder> Expected<DossierFile> withoutContacts(DossierFile file, DeviceId device, const Finder& find)
{
    for (;;) {
        const auto s = Sight::of(file.dossier);
        if (!s)
            return Unexpected{s.error()};
        const std::vector<std::string> roles = find(*s);
        if (roles.empty())
            return file;
        const Sighted e = *s->element(device, roles.front());
        auto changed = takenOut(file, e, s->standsInSeries(e));
        if (!changed)
            return changed;
        file = std::move(*changed);
    }
}

Expected<DossierFile> withoutCutters(const DossierFile& file, DeviceId device, SymbolKind kind, const ElementRef& load)
{
    return withoutContacts(file, device, [&](const Sight& s) {
        const Cuts cuts = cutsIn(s);
        return cutters(cuts, s, device, kind, load);
    });
}

Expected<DossierFile> removeInterlock(const DossierFile& file, const Sight& s, const Picked& t, const Answers& a)
{
    const DeviceId other = s.circuit().device(answerTo(a, "with"))->id;
    DossierFile changed = file;
    std::erase_if(changed.dossier.circuit.interlocks, [&](const MechanicalInterlock& i) {
        return (i.first == t.device && i.second == other) || (i.first == other && i.second == t.device);
    });
    const auto first = withoutCutters(changed, other, SymbolKind::NormallyClosed, coilRef(s, t.device));
    return first ? withoutCutters(*first, t.device, SymbolKind::NormallyClosed, coilRef(s, other)) : first;
}

/// Start buttons that hang together with the coil.
std::vector<Sighted> startButtons(const Sight& s, DeviceId id)
{
    std::vector<Sighted> buttons;
    for (const Sighted& e : s.companions(*s.coil(id)))
        if (e.edge->kind == SymbolKind::NormallyOpen && e.edge->operated == diagram::Operated::ByPush)
            buttons.push_back(e);
    return buttons;
}

/// A button and a net behind it, "S2 13-14 > Q2:21".
std::vector<Choice> holdPlaces(const Sight& s, DeviceId id)
{
    std::vector<Choice> choices;
    for (const Sighted& button : startButtons(s, id)) {
        const std::string name = tagOf(s, button.upper.device) + " " + button.edge->role;
        for (const Choice& c : netsBehind(s, button))
            choices.push_back({name + " > " + c.value,
                message("offer.hold_place", {name, c.text.arguments[0], c.text.arguments[1]})});
    }
    return choices;
}

std::vector<std::string> holds(const Sight& s, DeviceId id)
{
    std::vector<std::string> roles;
    const Cuts cuts = cutsIn(s);
    for (const Sighted& e : s.companions(*s.coil(id)))
        if (e.upper.device == id && e.edge->kind == SymbolKind::NormallyOpen
            && !cuts.contains({{id, e.edge->role}, coilRef(s, id)}))
            roles.push_back(e.edge->role);
    return roles;
}

Questions askHold(const Sight& s, const Picked& t)
{
    if (!isSwitchedByCoil(s, t.device) || someContact(s, t.device, ContactKind::NormallyOpen).empty())
        return std::nullopt;
    const auto places = holdPlaces(s, t.device);
    return places.empty() ? std::nullopt : Questions(std::vector{question("hold", places)});
}

Expected<DossierFile> addHold(const DossierFile& file, const Sight& s, const Picked& t, const Answers& a)
{
    const std::string place = answerTo(a, "hold");
    const auto until = edit::terminalNamed(file.dossier.circuit, place.substr(place.find(" > ") + 3));
    if (!until)
        return Unexpected{until.error()};
    for (const Sighted& button : startButtons(s, t.device))
        if (place.starts_with(tagOf(s, button.upper.device) + " " + button.edge->role + " > "))
            return inParallel(file, button.upper, *until, someContact(s, t.device, ContactKind::NormallyOpen));
    return failure(ErrorCode::NotFound, message("offer.no_answer", {place}));
}

Questions askNoHold(const Sight& s, const Picked& t)
{
    if (!isSwitchedByCoil(s, t.device) || holds(s, t.device).empty())
        return std::nullopt;
    return std::vector<Question>{};
}

Expected<DossierFile> removeHold(const DossierFile& file, const Sight&, const Picked& t, const Answers&)
{
    return withoutContacts(file, t.device, [&](const Sight& s) { return holds(s, t.device); });
}

Questions askLamp(const Sight& s, const Picked& t)
{
    if (!isSwitchedByCoil(s, t.device) || !s.liveRailAbove(*s.coil(t.device)))
        return std::nullopt;
    return std::vector{question("lit", {{"in", message("offer.lit_in")}, {"out", message("offer.lit_out")}})};
}

Expected<DossierFile> addLamp(const DossierFile& file, const Sight& s, const Picked& t, const Answers& a)
{
    const auto contact = contactOrRefusal(
        s, t.device, answerTo(a, "lit") == "in" ? ContactKind::NormallyOpen : ContactKind::NormallyClosed);
    if (!contact)
        return Unexpected{contact.error()};
    const Sighted coil = *s.coil(t.device);
    const auto put = putIn(file, *contact);
    const auto parameters = parametersOf(s.circuit(), *s.device(t));
    if (!put || !parameters)
        return Unexpected{put ? parameters.error() : put.error()};
    Device lamp;
    lamp.kind = "lamp";
    lamp.label = s.device(t)->label;
    lamp.parameters["rated_voltage_v"] = parameters->number("coil_voltage_v");
    auto changed = edit::withDevice(put->file, std::move(lamp));
    if (changed)
        changed = edit::withTerminalJoined(*changed, put->ends.a, *s.liveRailAbove(coil));
    if (!changed)
        return changed;
    const DeviceId id = changed->dossier.circuit.devices.back().id;
    changed = edit::withWireAdded(*changed, put->ends.b, {id, "X1"});
    return changed ? edit::withTerminalJoined(*changed, {id, "X2"}, coil.lower) : changed;
}

std::vector<Choice> lampsOf(const Sight& s, DeviceId id)
{
    std::vector<Choice> lamps;
    const Cuts cuts = cutsIn(s);
    for (const Cut& cut : cuts)
        if (const auto load = s.element(cut.load.device, cut.load.role);
            cut.contact.device == id && load && load->edge->kind == SymbolKind::Lamp) {
            const Device& d = *s.circuit().device(cut.load.device);
            if (lamps.empty() || lamps.back().value != d.tag)
                lamps.push_back({d.tag, message("offer.labelled", {d.tag, d.label})});
        }
    return lamps;
}

Questions askNoLamp(const Sight& s, const Picked& t)
{
    if (!isSwitchedByCoil(s, t.device))
        return std::nullopt;
    const auto lamps = lampsOf(s, t.device);
    return lamps.empty() ? std::nullopt : Questions(std::vector{question("lamp", lamps)});
}

Expected<DossierFile> removeLamp(const DossierFile& file, const Sight& s, const Picked& t, const Answers& a)
{
    const Device lamp = *s.circuit().device(answerTo(a, "lamp"));
    std::vector<TerminalRef> freed;
    const Cuts cuts = cutsIn(s);
    for (const Cut& cut : cuts)
        if (cut.contact.device == t.device && cut.load.device == lamp.id)
            if (const auto e = s.element(t.device, cut.contact.role))
                freed.insert(freed.end(), {e->upper, e->lower});
    const auto changed = edit::withoutDevice(file, lamp.id);
    return changed ? edit::withTerminalsFreed(*changed, freed) : changed;
}

/// Inputs in whose circuit contacts stand that watch contactors: what a safety relay calls its reset or feedback
/// circuit.
struct Loop {
    DeviceId device;
    std::string role; ///< of the sense
    TerminalRef input;
};

std::vector<Loop> loops(const Sight& s)
{
    std::vector<Loop> found;
    for (const diagram::GraphDevice& d : s.graph().devices)
        for (const SafetyRelayLogic& relay : d.body.safetyRelays) {
            const Element& sense = d.body.elements[static_cast<std::size_t>(relay.reset)];
            for (int k : {sense.terminals[0], sense.terminals[1]}) {
                const TerminalSpec& terminal = d.body.terminals[static_cast<std::size_t>(k)];
                const TerminalRef ref{d.device->id, terminal.marking};
                if (!terminal.inner && terminal.marking != "A2" && edit::wireCount(s.circuit(), ref) > 0)
                    found.push_back({d.device->id, sense.role, ref});
            }
        }
    return found;
}

Questions askFeedback(const Sight& s, const Picked& t)
{
    if (!isSwitchedByCoil(s, t.device) || someContact(s, t.device, ContactKind::NormallyClosed).empty())
        return std::nullopt;
    std::vector<Choice> choices;
    for (const Loop& loop : loops(s))
        choices.push_back({s.circuit().nameOf(loop.input), message("offer.loop", {tagOf(s, loop.device), loop.role})});
    return choices.empty() ? std::nullopt : Questions(std::vector{question("loop", choices)});
}

Expected<DossierFile> addFeedback(const DossierFile& file, const Sight& s, const Picked& t, const Answers& a)
{
    const auto contact = contactOrRefusal(s, t.device, ContactKind::NormallyClosed);
    const auto input = edit::terminalNamed(file.dossier.circuit, answerTo(a, "loop"));
    if (!contact || !input)
        return Unexpected{contact ? input.error() : contact.error()};
    return inSeriesAt(file, {*input}, *contact);
}

Questions askNoFeedback(const Sight& s, const Picked& t)
{
    if (!isSwitchedByCoil(s, t.device))
        return std::nullopt;
    const Cuts cuts = cutsIn(s);
    std::vector<Choice> choices;
    for (const Loop& loop : loops(s))
        if (!cutters(cuts, s, t.device, SymbolKind::NormallyClosed, {loop.device, loop.role}).empty())
            choices.push_back(
                {s.circuit().nameOf(loop.input), message("offer.loop", {tagOf(s, loop.device), loop.role})});
    return choices.empty() ? std::nullopt : Questions(std::vector{question("loop", choices)});
}

Expected<DossierFile> removeFeedback(const DossierFile& file, const Sight& s, const Picked& t, const Answers& a)
{
    for (const Loop& loop : loops(s))
        if (s.circuit().nameOf(loop.input) == answerTo(a, "loop"))
            return withoutCutters(file, t.device, SymbolKind::NormallyClosed, {loop.device, loop.role});
    return failure(ErrorCode::NotFound, message("offer.no_answer", {answerTo(a, "loop")}));
}

Questions askAgain(const Sight& s, const Picked& t)
{
    const Device* d = s.device(t);
    return d && d->kind == "motor" ? Questions(std::vector<Question>{}) : std::nullopt;
}

Expected<DossierFile> again(const DossierFile& file, const Sight& s, const Picked& t, const Answers&)
{
    return withStarterAgain(file, s, t.device);
}

Questions askSecond(const Sight& s, const Picked& t)
{
    if (!isSwitchedByCoil(s, t.device) || t.role.starts_with("A"))
        return std::nullopt;
    // Tried rather than described: it is offered where it can be done.
    return edit::withContactorInSeries({1'000'000'000, s.dossier(), {}}, t.device) ? Questions(std::vector<Question>{})
                                                                                   : std::nullopt;
}

Expected<DossierFile> addSecond(const DossierFile& file, const Sight&, const Picked& t, const Answers&)
{
    return edit::withContactorInSeries(file, t.device);
}

} // namespace

std::span<const OfferRow> starterOffers()
{
    static constexpr std::array kRows{
        OfferRow{"interlock_add", 'I', askInterlock, addInterlock},
        OfferRow{"interlock_remove", 0, askNoInterlock, removeInterlock},
        OfferRow{"hold_add", 'H', askHold, addHold},
        OfferRow{"hold_remove", 0, askNoHold, removeHold},
        OfferRow{"lamp_add", 'G', askLamp, addLamp},
        OfferRow{"lamp_remove", 0, askNoLamp, removeLamp},
        OfferRow{"feedback_add", 'F', askFeedback, addFeedback},
        OfferRow{"feedback_remove", 0, askNoFeedback, removeFeedback},
        OfferRow{"second_contactor", 0, askSecond, addSecond},
        OfferRow{"starter_again", 'D', askAgain, again, About::Device},
    };
    return kRows;
}

} // namespace ts::offers
