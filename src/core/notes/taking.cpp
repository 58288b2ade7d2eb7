#include "core/notes/taking.h"

#include "core/edit/circuit_edits.h"
#include "core/edit/device_edits.h"
#include "core/edit/wiring.h"
#include "core/library/fields.h"
#include "core/library/registry.h"

#include <algorithm>
#include <array>
#include <map>
#include <set>

namespace ts::notes {
namespace {

using Type = ParameterSpec::Type;

/// The parameter in which a kind lists its contacts, or a terminal block its terminals; null if it has none.
const ParameterSpec* listOf(const DeviceKind& kind)
{
    for (const ParameterSpec& spec : kind.parameters)
        if (spec.type == Type::WordList
            && (spec.name == "contacts" || spec.name == "auxiliary_contacts" || spec.name == "terminals"))
            return &spec;
    return nullptr;
}

/// "13-14" for 13 or 14: the pair that a marking belongs to where its digits tell what it does without delay. Source:
/// IEC 60947-1 annex L (distinctive numbers 1-2 opening, 3-4 closing).
std::optional<std::string> pairOf(const std::string& marking)
{
    if (marking.size() < 2
        || !std::all_of(marking.begin(), marking.end(), [](unsigned char c) { return std::isdigit(c); }))
        return std::nullopt;
    const std::string stem = marking.substr(0, marking.size() - 1);
    switch (marking.back()) {
    case '1':
    case '2':
        return stem + "1-" + stem + "2";
    case '3':
    case '4':
        return stem + "3-" + stem + "4";
    default:
        return std::nullopt;
    }
}

std::string joined(const std::vector<std::string>& words)
{
    std::string text;
    for (const std::string& w : words)
        text += (text.empty() ? "" : " ") + w;
    return text;
}

std::string valueText(const ParameterValue& value, std::string_view name)
{
    const std::string cell = textOfParameters({{std::string(name), value}});
    return cell.substr(cell.find('=') + 1);
}

/// A value as in a parts list: the words of a list stand between blanks there, and a number may have a comma here.
std::string cellOf(const DeviceKind& kind, std::string_view name, std::string text)
{
    const auto spec = std::find_if(
        kind.parameters.begin(), kind.parameters.end(), [name](const ParameterSpec& s) { return s.name == name; });
    if (spec != kind.parameters.end() && spec->type != Type::Word)
        std::replace(text.begin(), text.end(), ',', spec->type == Type::WordList ? ' ' : '.');
    return text;
}

/// A dossier on which one line works.
class Taking {
public:
    Taking(const DossierFile& file, const Pad& pad)
        : m_taken{file, pad, {}, {}, {}}
    {
    }

    Outcome take(const Note& note)
    {
        const auto trouble = std::visit([this](const auto& n) { return accept(n); }, note);
        if (m_asked)
            return *m_asked;
        if (trouble)
            return *trouble;
        return std::move(m_taken);
    }

private:
    using Trouble = std::optional<Error>; ///< also nothing where something is asked

    const Circuit& circuit() const { return m_taken.file.dossier.circuit; }
    static Trouble refused(const char* id, std::vector<Argument> arguments)
    {
        return Error{ErrorCode::Refused, message(id, std::move(arguments)), {}};
    }
    /// True if it is done; the error is kept.
    bool keep(Expected<DossierFile> changed, Trouble& trouble)
    {
        if (!changed) {
            trouble = changed.error();
            return false;
        }
        m_taken.file = std::move(*changed);
        return true;
    }

    Trouble accept(const Blank&) { return std::nullopt; }

    Trouble accept(const RouteNote& note)
    {
        m_taken.pad.route = note.name;
        m_taken.pad.routeKind = note.kind;
        m_taken.done.push_back(note.name.empty()
                ? message("note.did_no_route")
                : message("note.did_route", {note.name, "@offer.laid." + std::string(routeWord(note.kind))}));
        return std::nullopt;
    }

    Trouble accept(const ControlNote& note)
    {
        m_taken.pad.control = note;
        m_taken.done.push_back(message(
            "note.did_control", {Measured{note.voltageV, "V"}, std::string(note.isDirect ? "@word.dc" : "@word.ac")}));
        return std::nullopt;
    }

    Trouble accept(const DeviceNote& note)
    {
        const DeviceKind* kind = deviceKind(note.kind);
        if (!kind)
            return Error{ErrorCode::NotFound, message("kind.unknown", {note.tag, note.kind}), {}};
        if (const Device* known = circuit().device(note.tag))
            return known->kind == note.kind ? changeValues(*known, note)
                                            : refused("note.other_kind", {note.tag, "@kind." + known->kind});
        Device device;
        device.tag = note.tag;
        device.kind = note.kind;
        device.place = note.place;
        device.label = note.label;
        std::vector<std::string> missing;
        std::map<std::string, std::string> texts;
        for (const auto& [name, text] : note.values)
            texts[name] = cellOf(*kind, name, text);
        if (const ParameterSpec* list = listOf(*kind); list && !note.contacts.empty())
            texts[std::string(list->name)] = joined(note.contacts);
        else if (!note.contacts.empty())
            return refused("note.no_contacts", {note.tag, "@kind." + note.kind});
        std::vector<Message> alike;
        for (const ParameterSpec& spec : kind->parameters)
            if (const std::string name(spec.name); spec.required && !texts.contains(name)) {
                if (const auto guess = guessed(*kind, spec, alike))
                    texts[name] = *guess;
                else
                    missing.push_back(name);
            }
        if (!missing.empty()) {
            m_asked = Asked{Asked::What::Values, note.tag, note.kind, missing, {}, note.contacts};
            return std::nullopt;
        }
        for (const auto& [name, text] : texts) {
            const auto values = parametersFromText(kind->parameters, name + "=" + text);
            if (!values)
                return values.error();
            device.parameters.insert(values->begin(), values->end());
        }
        Trouble trouble;
        if (!keep(edit::withDevice(m_taken.file, std::move(device)), trouble))
            return trouble;
        m_taken.devices.push_back(circuit().devices.back().id);
        m_taken.done.push_back(message("note.did_device", {note.tag, "@kind." + note.kind}));
        m_taken.done.insert(m_taken.done.end(), alike.begin(), alike.end());
        return std::nullopt;
    }

    /// What a value must be that nobody wrote: by the control voltage, or as at the last device of the kind. Only what
    /// a panel has one of: a voltage and its kind of current. Ratings, settings and times are each device's own.
    std::optional<std::string> guessed(const DeviceKind& kind, const ParameterSpec& spec, std::vector<Message>& alike)
    {
        constexpr std::array kOfThePanel{"coil_voltage_v", "coil_current", "rated_voltage_v", "supply_voltage_v",
            "auxiliary_supply_v", "line_voltage_v"};
        if (kind.traits.isActuator || kind.traits.isOutputPart
            || std::find(kOfThePanel.begin(), kOfThePanel.end(), spec.name) == kOfThePanel.end())
            return std::nullopt;
        if (m_taken.pad.control) {
            const ControlNote& control = *m_taken.pad.control;
            if (spec.name == "coil_voltage_v" || spec.name == "rated_voltage_v")
                return valueText(control.voltageV, spec.name);
            if (spec.name == "coil_current" && spec.allowed == "ac dc")
                return std::string(control.isDirect ? "dc" : "ac");
        }
        for (auto d = circuit().devices.rbegin(); d != circuit().devices.rend(); ++d)
            if (d->kind == kind.id)
                if (const auto value = d->parameters.find(spec.name); value != d->parameters.end()) {
                    alike.push_back(message("note.did_alike",
                        {"@parameter." + std::string(spec.name), valueText(value->second, spec.name), d->tag}));
                    return valueText(value->second, spec.name);
                }
        return std::nullopt;
    }

    Trouble changeValues(const Device& device, const DeviceNote& note)
    {
        const DeviceId id = device.id;
        Trouble trouble;
        for (const auto& [name, text] : note.values)
            if (!keep(edit::withValue(m_taken.file, id, name, cellOf(*deviceKind(note.kind), name, text)), trouble))
                return trouble;
        if (!note.label.empty() && !keep(edit::withLabel(m_taken.file, id, note.label), trouble))
            return trouble;
        for (const std::string& contact : note.contacts)
            if (trouble = addContact(id, contact); trouble)
                return trouble;
        m_taken.done.push_back(message("note.did_values", {note.tag}));
        return std::nullopt;
    }

    Trouble accept(const LinkNote& note)
    {
        const bool locks = note.what == LinkNote::What::Locks;
        Trouble trouble;
        if (keep(locks ? edit::withMechanicalInterlock(m_taken.file, note.first, note.second)
                       : edit::withBrakeOnShaft(m_taken.file, note.first, note.second),
                trouble))
            m_taken.done.push_back(message(locks ? "note.did_lock" : "note.did_brake", {note.first, note.second}));
        return trouble;
    }

    Trouble accept(const ContactNote& note)
    {
        const Device* device = circuit().device(note.tag);
        if (!device) {
            m_asked = Asked{Asked::What::Kind, note.tag, {}, {}, {}, {note.contact}};
            return std::nullopt;
        }
        return addContact(device->id, note.contact);
    }

    /// One contact more, or what one that is there does.
    Trouble addContact(DeviceId id, const std::string& contact)
    {
        const Device device = *circuit().device(id);
        const ParameterSpec* list = listOf(*deviceKind(device.kind));
        if (!list)
            return refused("note.no_contacts", {device.tag, "@kind." + device.kind});
        const auto parameters = parametersOf(circuit(), device);
        if (!parameters)
            return parameters.error();
        std::vector<std::string> all = parameters->words(list->name);
        const std::string pair = contact.substr(0, contact.find('/'));
        const auto same = std::find_if(
            all.begin(), all.end(), [&](const std::string& known) { return known.substr(0, known.find('/')) == pair; });
        same == all.end() ? all.push_back(contact) : void(*same = contact);
        Trouble trouble;
        if (!keep(edit::withValue(m_taken.file, id, list->name, joined(all)), trouble))
            return trouble;
        m_taken.devices.push_back(id);
        const bool isTerminal = list->name == "terminals";
        m_taken.done.push_back(contact.ends_with(kUnknownContact)
                ? message("note.did_unknown", {device.tag, pair})
                : message(isTerminal ? "note.did_terminal" : "note.did_contact", {device.tag, contact}));
        return std::nullopt;
    }

    bool hasTerminal(const Device& device, const std::string& marking) const
    {
        return edit::mustBeThere(circuit(), {device.id, marking}).has_value();
    }

    /// Makes sure that the terminal is there, by the contact that its digits tell, or asks.
    Trouble reach(const Place& place, const WireNote& wire)
    {
        const Device* device = circuit().device(place.tag);
        if (!device) {
            m_asked = Asked{Asked::What::Kind, place.tag, {}, {}, {}, contactsIn(wire, place.tag)};
            return std::nullopt;
        }
        if (hasTerminal(*device, place.marking))
            return std::nullopt;
        const ParameterSpec* list = listOf(*deviceKind(device->kind));
        if (list && list->name == "terminals")
            return addContact(device->id, place.marking);
        const auto pair = pairOf(place.marking);
        if (list && pair)
            return addContact(device->id, *pair);
        if (!list)
            return refused("note.no_such_terminal", {place.tag, place.marking, terminalsOf(*device)});
        m_asked = Asked{Asked::What::Contact, place.tag, {}, {}, place.marking, {}};
        return std::nullopt;
    }

    std::string terminalsOf(const Device& device) const
    {
        std::vector<std::string> markings;
        if (const auto body = bodyOf(circuit(), device))
            for (const TerminalSpec& t : body->terminals)
                if (!t.inner)
                    markings.push_back(t.marking);
        return joined(markings);
    }

    /// What the line's markings of a device make of it.
    static std::vector<std::string> contactsIn(const WireNote& wire, const std::string& tag)
    {
        std::vector<std::string> contacts;
        for (const Place& end : wire.ends)
            if (const auto pair = end.tag == tag ? pairOf(end.marking) : std::nullopt;
                pair && std::find(contacts.begin(), contacts.end(), *pair) == contacts.end())
                contacts.push_back(*pair);
        return contacts;
    }

    Trouble accept(const WireNote& note)
    {
        for (const Place& end : note.ends)
            if (Trouble trouble = reach(end, note); trouble || m_asked)
                return trouble;
        for (std::size_t k = 0; k + 1 < note.ends.size(); ++k)
            if (Trouble trouble = lay(note.ends[k], note.ends[k + 1], note))
                return trouble;
        return std::nullopt;
    }

    Trouble lay(const Place& a, const Place& b, const WireNote& note)
    {
        const TerminalRef from{circuit().device(a.tag)->id, a.marking}, to{circuit().device(b.tag)->id, b.marking};
        for (const Wire& w : circuit().wires)
            if (std::minmax(w.from, w.to) == std::minmax(from, to) && note.number.empty())
                return refused("note.wire_twice", {circuit().nameOf(from), circuit().nameOf(to), w.number});
        Wire wire = edit::wireBetween(circuit(), from, to);
        if (!note.number.empty())
            wire.number = note.number;
        wire.conductorClass.clear(); // nobody has said it of this one
        wire.insulation.clear();
        wire.areaMm2 = note.areaMm2.value_or(wire.areaMm2);
        wire.lengthM = note.lengthM.value_or(wire.lengthM);
        if (!note.colour.empty())
            wire.colour = note.colour;
        for (const auto& [name, value] : note.values)
            for (const Field<Wire>& f : kWireFields)
                if (f.name == name)
                    static_cast<void>(fields::take(f, value, wire)); // the line was read: it can be so
        const Pad& pad = m_taken.pad;
        wire.route = {};
        if (!pad.route.empty()) {
            m_taken.file = edit::withRoute(m_taken.file, pad.route, pad.routeKind);
            wire.route = edit::routeNamed(circuit(), pad.route);
        }
        Trouble trouble;
        if (!keep(edit::withWire(m_taken.file, circuit().nameOf(from), circuit().nameOf(to), wire), trouble))
            return trouble;
        const Wire& laid = circuit().wires.back();
        m_taken.wires.push_back(laid.id);
        m_taken.done.push_back(pad.route.empty()
                ? message("note.did_wire", {circuit().nameOf(from), circuit().nameOf(to), laid.number})
                : message("note.did_wire_in", {circuit().nameOf(from), circuit().nameOf(to), laid.number, pad.route}));
        return std::nullopt;
    }

    Taken m_taken;
    std::optional<Asked> m_asked;
};

std::vector<std::string> terminalMarkings(const Circuit& circuit, const Device& device)
{
    std::vector<std::string> free, wired;
    if (const auto body = bodyOf(circuit, device))
        for (const TerminalSpec& t : body->terminals)
            if (!t.inner)
                (edit::wireCount(circuit, {device.id, t.marking}) == 0 ? free : wired).push_back(t.marking);
    free.insert(free.end(), wired.begin(), wired.end());
    return free;
}

/// The error of an unanswered question, for those who read files.
Error errorOf(const Asked& asked)
{
    switch (asked.what) {
    case Asked::What::Kind:
        return {ErrorCode::NotFound, message("note.ask_kind", {asked.tag}), {}};
    case Asked::What::Values: {
        Phrases names;
        for (const std::string& p : asked.parameters)
            names.push_back(message("word.plain", {p}));
        return {ErrorCode::Refused, message("note.ask_values", {asked.tag, "@kind." + asked.kind, names}), {}};
    }
    case Asked::What::Contact:
        return {ErrorCode::Refused, message("note.ask_contact", {asked.tag, asked.marking}), {}};
    }
    return {};
}

} // namespace

Outcome take(const DossierFile& file, const Pad& pad, std::string_view line)
{
    const auto note = noteFrom(line);
    if (!note)
        return note.error();
    return Taking(file, pad).take(*note);
}

std::string answerLine(const Asked& asked, const std::vector<std::string>& answer)
{
    switch (asked.what) {
    case Asked::What::Kind: {
        const DeviceKind* kind = answer.empty() ? nullptr : deviceKind(answer.front());
        const bool takesContacts = kind && listOf(*kind) && listOf(*kind)->name != "terminals";
        return asked.tag + " = " + joined(answer)
            + (takesContacts && !asked.contacts.empty() ? " " + joined(asked.contacts) : "");
    }
    case Asked::What::Values: {
        std::string line = asked.tag + " = " + asked.kind;
        for (std::size_t k = 0; k < asked.parameters.size() && k < answer.size(); ++k)
            line += " " + asked.parameters[k] + "=" + answer[k];
        return line + (asked.contacts.empty() ? "" : " " + joined(asked.contacts));
    }
    case Asked::What::Contact:
        return asked.tag + " " + joined(answer);
    }
    return {};
}

std::vector<std::string> completions(const Circuit& circuit, std::string_view line, std::size_t most)
{
    const std::size_t last = line.find_last_of(" >");
    const std::string begun(last == line.npos ? line : line.substr(last + 1));
    std::string_view before = last == line.npos ? std::string_view() : line.substr(0, last + 1);
    while (!before.empty() && before.back() == ' ')
        before.remove_suffix(1);
    std::vector<std::string> all;
    const std::size_t wordBegin = before.find_last_of(" >");
    const std::string_view ahead = wordBegin == before.npos ? before : before.substr(wordBegin + 1);
    if (before.ends_with('=')) {
        for (const DeviceKind* kind : deviceKinds())
            all.emplace_back(kind->id);
    } else if (const Device* device = ahead.empty() || before.ends_with('>') ? nullptr : circuit.device(ahead)) {
        all = terminalMarkings(circuit, *device);
    } else if (ahead.empty() || before.ends_with('>')) {
        for (const Device& d : circuit.devices)
            all.push_back(d.tag);
        std::sort(all.begin(), all.end(),
            [](const std::string& a, const std::string& b) { return std::pair(a.size(), a) < std::pair(b.size(), b); });
    } else {
        all = {">"};
    }
    std::erase_if(all, [&](const std::string& word) { return !word.starts_with(begun) || word == begun; });
    all.resize(std::min(all.size(), most));
    return all;
}

TakenText takeAll(DossierFile file, std::string_view text, const std::string& name)
{
    TakenText result;
    Pad pad;
    std::set<std::string> missing; // tags of devices that could not be made
    int number = 0;
    while (!text.empty()) {
        ++number;
        const std::size_t end = std::min(text.find('\n'), text.size());
        const std::string_view line = text.substr(0, end);
        text.remove_prefix(std::min(end + 1, text.size()));
        const auto note = noteFrom(line);
        if (note)
            if (const auto* wire = std::get_if<WireNote>(&*note); wire
                && std::any_of(
                    wire->ends.begin(), wire->ends.end(), [&](const Place& p) { return missing.contains(p.tag); }))
                continue;
        Outcome outcome = note ? Taking(file, pad).take(*note) : Outcome(note.error());
        if (auto* taken = std::get_if<Taken>(&outcome)) {
            file = std::move(taken->file);
            pad = std::move(taken->pad);
            for (Message& m : taken->done)
                result.done.emplace_back(number, std::move(m));
            continue;
        }
        const auto* asked = std::get_if<Asked>(&outcome);
        Error error = asked ? errorOf(*asked) : std::get<Error>(outcome);
        if (asked && asked->what != Asked::What::Contact)
            missing.insert(asked->tag);
        else if (note && std::holds_alternative<DeviceNote>(*note))
            missing.insert(std::get<DeviceNote>(*note).tag);
        error.place.file = name;
        error.place.line = number;
        error.place.column = std::max(1, error.place.column);
        result.errors.push_back(std::move(error));
    }
    if (result.errors.empty())
        result.file = std::move(file);
    return result;
}

} // namespace ts::notes
