// What is meant with a device as a whole: phases, part, values, names, add-on blocks, away with it, one more.

#include "core/edit/circuit_edits.h"
#include "core/library/registry.h"
#include "core/offers/rows.h"

#include <algorithm>
#include <array>

namespace ts::offers {
namespace {

using Questions = std::optional<std::vector<Question>>;

/// Terminals that stand side by side: upper ends of poles, lower ends, the leads of a motor or of a monitor.
std::vector<std::vector<TerminalRef>> sides(const Sight& s, DeviceId id)
{
    std::vector<TerminalRef> upper, lower, leads, far;
    for (const diagram::GraphDevice& d : s.graph().devices) {
        if (d.device->id != id)
            continue;
        const auto ref = [&](int t) { return TerminalRef{id, d.body.terminals[static_cast<std::size_t>(t)].marking}; };
        const auto add = [](std::vector<TerminalRef>& side, const TerminalRef& t) {
            if (std::find(side.begin(), side.end(), t) == side.end())
                side.push_back(t);
        };
        for (const Element& e : d.body.elements) {
            const auto* contact = std::get_if<ContactElement>(&e.what);
            const auto* sense = std::get_if<SenseElement>(&e.what);
            if (contact && (contact->kind == ContactKind::Main || contact->kind == ContactKind::Pole)) {
                add(upper, ref(e.terminals[0]));
                add(lower, ref(e.terminals[1]));
            } else if (std::holds_alternative<MotorElement>(e.what)) {
                for (int k = 0; k < 6 && e.terminals[static_cast<std::size_t>(k)] >= 0; ++k)
                    add(k < 3 ? leads : far, ref(e.terminals[static_cast<std::size_t>(k)]));
            } else if (sense && sense->use == SenseElement::Use::Tap) {
                add(leads, ref(e.terminals[0]));
                add(leads, ref(e.terminals[1]));
            } else if (std::holds_alternative<DriveElement>(e.what)) {
                for (int k = 0; k < 6; ++k)
                    add(k < 3 ? leads : far, ref(e.terminals[static_cast<std::size_t>(k)]));
            }
        }
    }
    std::vector<std::vector<TerminalRef>> all{upper, lower, leads, far};
    for (auto& side : all)
        std::erase_if(side, [&](const TerminalRef& t) {
            const auto it = std::find_if(
                s.graph().terminals.begin(), s.graph().terminals.end(), [&](const auto& g) { return g.ref == t; });
            return it == s.graph().terminals.end() || !it->isWired;
        });
    return all;
}

Questions askExchange(const Sight& s, const Picked& t)
{
    std::vector<Choice> pairs;
    for (const auto& side : sides(s, t.device))
        for (std::size_t i = 0; i < side.size(); ++i)
            for (std::size_t j = i + 1; j < side.size(); ++j) {
                const std::string a = s.circuit().nameOf(side[i]), b = s.circuit().nameOf(side[j]);
                pairs.push_back({a + " " + b, message("offer.pair", {a, b})});
            }
    return pairs.empty() ? std::nullopt : Questions(std::vector{question("pair", pairs)});
}

Expected<DossierFile> exchange(const DossierFile& file, const Sight&, const Picked&, const Answers& a)
{
    const std::string pair = answerTo(a, "pair");
    const auto first = edit::terminalNamed(file.dossier.circuit, pair.substr(0, pair.find(' '))),
               second = edit::terminalNamed(file.dossier.circuit, pair.substr(pair.find(' ') + 1));
    if (!first || !second)
        return Unexpected{first ? second.error() : first.error()};
    return edit::withTerminalsExchanged(file, *first, *second);
}

Questions askPart(const Sight& s, const Picked& t)
{
    const Device* d = s.device(t);
    if (!d)
        return std::nullopt;
    std::vector<Choice> parts;
    for (const Part& part : s.circuit().parts)
        if (part.kind == d->kind && part.id != d->part)
            parts.push_back({part.id, message("offer.labelled", {part.id, part.name})});
    if (!d->part.empty())
        parts.push_back({"", message("offer.no_part")});
    return parts.empty() ? std::nullopt : Questions(std::vector{question("part", parts)});
}

Expected<DossierFile> part(const DossierFile& file, const Sight&, const Picked& t, const Answers& a)
{
    return edit::withPartOf(file, t.device, answerTo(a, "part"));
}

/// A block that may come off its actuator and leave its contacts closed.
Questions askMonitoredBlock(const Sight& s, const Picked& t)
{
    const Device* d = s.device(t);
    if (!d)
        return std::nullopt;
    const std::vector<ParameterSpec> specs(
        deviceKind(d->kind)->parameters.begin(), deviceKind(d->kind)->parameters.end());
    const bool hasValue = std::any_of(
        specs.begin(), specs.end(), [](const ParameterSpec& p) { return p.name == "monitored_block"; });
    const bool isMonitored = std::any_of(
        s.graph().devices.begin(), s.graph().devices.end(), [d](const diagram::GraphDevice& g) {
            return g.device->id == d->id
                && std::any_of(g.body.elements.begin(), g.body.elements.end(), [](const Element& e) {
                       const auto* contact = std::get_if<ContactElement>(&e.what);
                       return contact && contact->opensWhenOff;
                   });
        });
    return hasValue && !isMonitored ? Questions(std::vector<Question>{}) : std::nullopt;
}

Expected<DossierFile> monitoredBlock(const DossierFile& file, const Sight&, const Picked& t, const Answers&)
{
    return edit::withValue(file, t.device, "monitored_block", "true");
}

Questions askBlock(const Sight& s, const Picked& t)
{
    const Device* d = s.device(t);
    if (!d || deviceKind(d->kind)->blocks.empty())
        return std::nullopt;
    return std::vector{question("block",
        {{"closing", message("offer.block_closing")}, {"opening", message("offer.block_opening")},
            {"closing opening", message("offer.block_both")},
            {"closing closing opening opening", message("offer.block_four")}})};
}

Expected<DossierFile> block(const DossierFile& file, const Sight&, const Picked& t, const Answers& a)
{
    DossierFile changed = file;
    const std::string words = answerTo(a, "block") + " ";
    for (std::size_t from = 0; from < words.size(); from = words.find(' ', from) + 1) {
        const bool closes = words.compare(from, 7, "closing") == 0;
        auto added = edit::withContactAdded(
            changed, t.device, closes ? ContactKind::NormallyOpen : ContactKind::NormallyClosed);
        if (!added)
            return Unexpected{added.error()};
        changed = std::move(added->file);
    }
    return changed;
}

std::string textOf(const ParameterMap& parameters, std::string_view name)
{
    const auto it = parameters.find(name);
    if (it == parameters.end())
        return {};
    const std::string text = textOfParameters({{std::string(name), it->second}});
    return text.substr(text.find('=') + 1);
}

Questions askValue(const Sight& s, const Picked& t)
{
    const Device* d = s.device(t);
    if (!d || deviceKind(d->kind)->parameters.empty())
        return std::nullopt;
    const Part* part = s.circuit().part(d->part);
    std::vector<Choice> names;
    for (const ParameterSpec& spec : deviceKind(d->kind)->parameters) {
        const std::string own = textOf(d->parameters, spec.name),
                          ofPart = part ? textOf(part->parameters, spec.name) : std::string();
        const char* text = !own.empty() ? "offer.value_own"
            : !ofPart.empty()           ? "offer.value_of_part"
                                        : "offer.value_of_kind";
        names.push_back({std::string(spec.name),
            message(text, {"@parameter." + std::string(spec.name), own.empty() ? ofPart : own})});
    }
    return std::vector{question("parameter", names), Question{"text", {}, {}}};
}

Expected<DossierFile> value(const DossierFile& file, const Sight&, const Picked& t, const Answers& a)
{
    return edit::withValue(file, t.device, answerTo(a, "parameter"), answerTo(a, "text"));
}

Questions askTag(const Sight& s, const Picked& t)
{
    const Device* d = s.device(t);
    return d ? Questions(std::vector{Question{"tag", {}, d->tag}}) : std::nullopt;
}

Expected<DossierFile> tag(const DossierFile& file, const Sight&, const Picked& t, const Answers& a)
{
    return edit::withTag(file, t.device, answerTo(a, "tag"));
}

Questions askLabel(const Sight& s, const Picked& t)
{
    const Device* d = s.device(t);
    return d ? Questions(std::vector{Question{"label", {}, d->label}, Question{"remark", {}, d->remark}})
             : std::nullopt;
}

Expected<DossierFile> label(const DossierFile& file, const Sight&, const Picked& t, const Answers& a)
{
    const auto labelled = edit::withLabel(file, t.device, answerTo(a, "label"));
    const bool isSaid = labelled && a.contains("remark");
    return isSaid ? edit::withRemark(*labelled, t.device, answerTo(a, "remark")) : labelled;
}

Questions askAway(const Sight& s, const Picked& t)
{
    return s.device(t) ? Questions(std::vector<Question>{}) : std::nullopt;
}

/// Contacts that stand in series leave their paths closed, the others leave them open.
Expected<DossierFile> away(const DossierFile& file, const Sight& s, const Picked& t, const Answers&)
{
    DossierFile changed = file;
    for (const Sighted& e : s.elements()) {
        if (e.upper.device != t.device || e.edge->isLoad())
            continue;
        const auto now = Sight::of(changed.dossier);
        if (!now)
            return Unexpected{now.error()};
        if (const auto there = now->element(t.device, e.edge->role)) {
            auto without = takenOut(changed, *there, now->standsInSeries(*there));
            if (!without)
                return without;
            changed = std::move(*without);
        }
    }
    return edit::withoutDevice(changed, t.device);
}

Questions askNew(const Sight& s, const Picked& t)
{
    if (t.device || t.wire)
        return std::nullopt;
    std::vector<Choice> kinds;
    for (const DeviceKind* k : deviceKinds())
        kinds.push_back({std::string(k->id),
            message("offer.new_kind", {"@kind." + std::string(k->id), edit::nextTag(s.circuit(), k->letter)})});
    return std::vector{question("kind", kinds), Question{"values", {}, {}}, Question{"label", {}, {}}};
}

/// What a kind cannot do without is taken from the first device of that kind, unless it was written.
Expected<DossierFile> add(const DossierFile& file, const Sight& s, const Picked&, const Answers& a)
{
    Device d;
    d.kind = answerTo(a, "kind");
    d.label = answerTo(a, "label");
    const auto written = parametersFromText(deviceKind(d.kind)->parameters, answerTo(a, "values"));
    if (!written)
        return Unexpected{written.error()};
    d.parameters = *written;
    for (const ParameterSpec& spec : deviceKind(d.kind)->parameters)
        if (spec.required && !d.parameters.contains(spec.name))
            for (const Device& other : s.circuit().devices) {
                const Part* part = s.circuit().part(other.part);
                const ParameterMap* from = other.parameters.contains(spec.name) ? &other.parameters
                    : part && part->parameters.contains(spec.name)              ? &part->parameters
                                                                                : nullptr;
                if (other.kind == d.kind && from) {
                    d.parameters[std::string(spec.name)] = from->at(std::string(spec.name));
                    break;
                }
            }
    return edit::withDevice(file, std::move(d));
}

} // namespace

std::span<const OfferRow> deviceOffers()
{
    static constexpr std::array kRows{
        OfferRow{"exchange", 'E', askExchange, exchange, About::Device},
        OfferRow{"block", 'K', askBlock, block, About::Device},
        OfferRow{"monitored_block", 0, askMonitoredBlock, monitoredBlock, About::Device},
        OfferRow{"part", 'R', askPart, part, About::Device},
        OfferRow{"value", 'V', askValue, value, About::Device},
        OfferRow{"label", 0, askLabel, label, About::Device},
        OfferRow{"tag", 0, askTag, tag, About::Device},
        OfferRow{"take_away", 0, askAway, away, About::Device, true},
        OfferRow{"new_device", 'C', askNew, add, About::Device},
    };
    return kRows;
}

} // namespace ts::offers
