#include "core/mending/candidates.h"

#include "core/edit/device_edits.h"
#include "core/library/registry.h"
#include "core/library/table.h"
#include "core/offers/offer.h"

#include <algorithm>
#include <array>
#include <sstream>

namespace ts::mending {
namespace {

constexpr std::ptrdiff_t kUp = 3, kDown = 2; ///< steps of a ladder that are tried
constexpr std::size_t kMostAnswers = 8; ///< of one question

/// What is chosen by size: a parameter of a kind, and the row of standard_sizes.csv with its ladder.
struct Sizable {
    std::string_view kind, parameter, ladder;
};
constexpr std::array kSizable{Sizable{"fuse", "rated_current_a", "fuse gG A"},
    Sizable{"breaker", "rated_current_a", "miniature breaker A"},
    Sizable{"contactor", "rated_current_ac3_a", "contactor AC-3 A"},
    Sizable{"control_transformer", "rated_va", "control transformer VA"},
    Sizable{"supply_24v_dc", "rated_current_a", "24 V supply A"}};
/// What a part of the program's list must have in common with what it takes the place of.
constexpr std::array<std::string_view, 8> kSame{"coil_voltage_v", "coil_current", "poles", "characteristic",
    "primary_v", "secondary_v", "input_voltage_v", "trip_class"};
/// What the machine or a sheet is, not what somebody chooses: to write otherwise mends nothing.
constexpr std::array<std::string_view, 5> kDeclared{
    "hazard_when", "contact_rating_ac", "contact_rating_dc", "mounting", "load"};
/// By what such parts are told apart in size.
constexpr std::array<std::string_view, 4> kSizes{"rated_current_ac3_a", "range_high_a", "rated_current_a", "rated_va"};
constexpr std::string_view kSections = "section mm2";

/// Offers that could change what a run shows; the others rename or remove.
constexpr std::array<std::string_view, 7> kMeant{
    "feedback_add", "interlock_add", "hold_add", "series_before", "series_after", "parallel", "move_end"};

std::vector<double> ladderOf(std::string_view what)
{
    const Table& t = standardSizesTable();
    std::vector<double> values;
    for (std::size_t row = 0; row < t.rowCount(); ++row) {
        if (t.cell(row, "what") != what)
            continue;
        std::istringstream words{std::string(t.cell(row, "values"))};
        for (std::string word; words >> word;)
            if (const auto n = numberFrom(word))
                values.push_back(*n);
    }
    return values;
}

/// The next ones up and down, the nearest first, up before down.
std::vector<double> nearBy(std::string_view ladder, double now)
{
    const std::vector<double> all = ladderOf(ladder);
    const auto above = std::upper_bound(all.begin(), all.end(), now * 1.0001) - all.begin();
    const auto below = std::lower_bound(all.begin(), all.end(), now * 0.9999) - all.begin();
    std::vector<double> near;
    for (std::ptrdiff_t k = 0; k < std::max(kUp, kDown); ++k) {
        if (k < kUp && above + k < std::ssize(all))
            near.push_back(all[static_cast<std::size_t>(above + k)]);
        if (k < kDown && below - 1 - k >= 0)
            near.push_back(all[static_cast<std::size_t>(below - 1 - k)]);
    }
    return near;
}

bool concerns(const Finding& finding, const Device& d)
{
    return std::find(finding.devices.begin(), finding.devices.end(), d.tag) != finding.devices.end();
}

Candidate otherValue(const Device& d, std::string_view parameter, const std::string& was, const std::string& value)
{
    return {message("mending.value", {d.tag, "@parameter." + std::string(parameter), value, was}),
        [id = d.id, parameter = std::string(parameter), value](
            const DossierFile& file) { return edit::withValue(file, id, parameter, value); }};
}

void addRatings(const DossierFile& file, const Device& d, std::vector<Candidate>& out)
{
    for (const Sizable& s : kSizable) {
        const auto p = d.kind == s.kind ? parametersOf(file.dossier.circuit, d)
                                        : Expected<Parameters>(failure(ErrorCode::NotFound, {}));
        if (!p)
            continue;
        const double now = p->number(s.parameter);
        for (double value : nearBy(s.ladder, now))
            out.push_back(otherValue(d, s.parameter, shortestText(now), shortestText(value)));
    }
}

/// What the part's sheet says is not overridden by what was written of the old one.
Candidate otherPart(const Device& d, const Part& part, const char* said = "mending.part")
{
    return {message(said, {d.tag, part.id, d.part.empty() ? std::string("-") : d.part}),
        [id = d.id, part](const DossierFile& f) {
            DossierFile changed = f;
            auto& parts = changed.dossier.circuit.parts;
            if (std::none_of(parts.begin(), parts.end(), [&part](const Part& p) { return p.id == part.id; }))
                parts.push_back(part);
            for (Device& device : changed.dossier.circuit.devices)
                if (device.id == id)
                    std::erase_if(
                        device.parameters, [&part](const auto& p) { return part.parameters.contains(p.first); });
            return edit::withPartOf(changed, id, part.id);
        }};
}

/// The program's parts of a kind, as they stand in its table.
std::vector<Part> programParts(const std::string& kind)
{
    std::vector<Part> parts;
    const Table& t = switchgearTable();
    for (std::size_t row = 0; row < t.rowCount(); ++row)
        if (t.cell(row, "kind") == kind)
            if (auto p = parametersFromText(deviceKind(kind)->parameters, t.cell(row, "parameters")))
                parts.push_back({std::string(t.cell(row, "id")), std::string(t.cell(row, "name")), kind, *p, {}});
    return parts;
}

/// Its size in figures, by whichever parameter that is.
std::optional<double> sizeOf(const ParameterMap& values)
{
    for (std::string_view name : kSizes)
        if (const auto v = values.find(std::string(name)); v != values.end())
            if (const double* n = std::get_if<double>(&v->second))
                return *n;
    return std::nullopt;
}

/// Of the dossier's own parts all; of the program's the next ones in size that otherwise are the same.
void addParts(const DossierFile& file, const Device& d, std::vector<Candidate>& out)
{
    const auto& own = file.dossier.circuit.parts;
    for (const Part& part : own)
        if (part.kind == d.kind && part.id != d.part)
            out.push_back(otherPart(d, part));
    ParameterMap now = writtenValues(file.dossier.circuit, d);
    if (const auto p = parametersOf(file.dossier.circuit, d); p && d.kind == "contactor")
        now["rated_current_ac3_a"] = p->number("rated_current_ac3_a");
    if (d.kind == "overload_relay" && !now.contains("range_high_a") && now.contains("setting_a"))
        now["range_high_a"] = now["setting_a"];
    const auto size = sizeOf(now);
    std::vector<Part> alike = programParts(d.kind);
    std::erase_if(alike, [&](const Part& part) {
        const bool isOwn = std::any_of(own.begin(), own.end(), [&](const Part& p) { return p.id == part.id; });
        return isOwn || !sizeOf(part.parameters) || std::any_of(kSame.begin(), kSame.end(), [&](std::string_view name) {
            const auto mine = now.find(std::string(name));
            const auto its = part.parameters.find(std::string(name));
            return mine != now.end() && its != part.parameters.end() && mine->second != its->second;
        });
    });
    const Part* worn = file.dossier.circuit.part(d.part);
    if (!size || (worn && worn->reliability)) // an invented part says nothing of how long it lasts
        return;
    std::stable_sort(alike.begin(), alike.end(),
        [](const Part& a, const Part& b) { return *sizeOf(a.parameters) < *sizeOf(b.parameters); });
    const auto above = std::find_if(
        alike.begin(), alike.end(), [&](const Part& p) { return *sizeOf(p.parameters) >= *size * 0.9999; });
    for (auto part = above; part != alike.end() && part - above < kUp; ++part)
        out.push_back(otherPart(d, *part, "mending.sample_part"));
    for (auto part = above; part != alike.begin() && above - part < kDown; --part)
        out.push_back(otherPart(d, *std::prev(part), "mending.sample_part"));
}

/// Its setting, from the current that it must let flow: what was allowed, less the tolerance.
void addSetting(const DossierFile& file, const Device& d, const Finding& finding, std::vector<Candidate>& out)
{
    const auto p = d.kind == "overload_relay" || d.kind == "motor_protection_switch"
        ? parametersOf(file.dossier.circuit, d)
        : Expected<Parameters>(failure(ErrorCode::NotFound, {}));
    if (!p)
        return;
    for (const Argument& a : finding.what.arguments)
        if (const auto* m = std::get_if<Measured>(&a); m && m->unit == "A")
            out.push_back(otherValue(d, "setting_a", shortestText(p->number("setting_a")),
                shortestText(std::floor(m->si / 1.05 * 10) / 10)));
    for (const char* word : {"10", "20", "30"})
        if (p->word("trip_class") != word)
            out.push_back(otherValue(d, "trip_class", p->word("trip_class"), word));
}

/// All of its wires of one section together: three lines are one choice.
void addSections(const DossierFile& file, const Finding& finding, std::vector<Candidate>& out)
{
    const Circuit& c = file.dossier.circuit;
    const Wire* own = c.wire(finding.target.wire);
    std::vector<double> sections;
    const auto isMeant = [&](const Wire& w) {
        if (own) // those between the same two parts
            return w.from.device == own->from.device && w.to.device == own->to.device && w.areaMm2 == own->areaMm2
                && (w.from.marking == "PE") == (own->from.marking == "PE");
        const Device *from = c.device(w.from.device), *to = c.device(w.to.device);
        return (from && concerns(finding, *from)) || (to && concerns(finding, *to));
    };
    for (const Wire& w : c.wires)
        if (isMeant(w) && std::find(sections.begin(), sections.end(), w.areaMm2) == sections.end())
            sections.push_back(w.areaMm2);
    for (double was : sections) {
        std::vector<WireId> meant;
        for (const Wire& w : c.wires)
            if (isMeant(w) && w.areaMm2 == was)
                meant.push_back(w.id);
        for (double area : nearBy(kSections, was))
            if (area > was)
                out.push_back({message("mending.section",
                                   {static_cast<long long>(meant.size()), Measured{area, "mm2"}, Measured{was, "mm2"}}),
                    [meant, area](const DossierFile& f) -> Expected<DossierFile> {
                        DossierFile changed = f;
                        for (Wire& w : changed.dossier.circuit.wires)
                            if (std::find(meant.begin(), meant.end(), w.id) != meant.end())
                                w.areaMm2 = area;
                        return changed;
                    }});
    }
}

void addWords(const DossierFile& file, const Device& d, std::vector<Candidate>& out)
{
    const DeviceKind* kind = deviceKind(d.kind);
    const auto p = parametersOf(file.dossier.circuit, d);
    for (const ParameterSpec& spec : kind&& p ? kind->parameters : std::span<const ParameterSpec>{}) {
        if (spec.type != ParameterSpec::Type::Word || spec.allowed.empty()
            || std::find(kDeclared.begin(), kDeclared.end(), spec.name) != kDeclared.end())
            continue;
        std::istringstream words{std::string(spec.allowed)};
        for (std::string word; words >> word;)
            if (word != p->word(spec.name))
                out.push_back(otherValue(d, spec.name, p->word(spec.name), word));
    }
}

Message meantText(const Device& d, const offers::Picked& target, const offers::Offer& o, const offers::Answers& answers)
{
    Phrases given;
    for (const offers::Question& q : o.questions)
        for (const offers::Choice& c : q.choices)
            if (const auto a = answers.find(q.id); a != answers.end() && a->second == c.value)
                given.push_back(c.text);
    return message(
        "mending.meant", {d.tag + (target.role.empty() ? "" : " " + target.role), "@do." + o.id, std::move(given)});
}

/// The offer's own first answers, and each other answer of each question by itself.
void addMeant(const Device& d, const offers::Picked& target, const offers::Offer& o, std::vector<Candidate>& out)
{
    const auto add = [&](offers::Answers answers) {
        Message what = meantText(d, target, o, answers);
        out.push_back({std::move(what), [target, id = o.id, answers = std::move(answers)](const DossierFile& f) {
                           return offers::carriedOut(f, target, id, answers);
                       }});
    };
    const offers::Answers preset = offers::presetsOf(o);
    add(preset);
    for (const offers::Question& q : o.questions)
        for (std::size_t k = 0; k < std::min(kMostAnswers, q.choices.size()); ++k)
            if (q.choices[k].value != q.preset) {
                offers::Answers answers = preset;
                answers[q.id] = q.choices[k].value;
                add(std::move(answers));
            }
}

std::vector<offers::Picked> targetsAt(const Circuit& circuit, const Device& d)
{
    std::vector<offers::Picked> targets{{d.id, {}, {}}};
    if (const auto body = bodyOf(circuit, d); body)
        for (const Element& e : body->elements)
            targets.push_back({d.id, e.role, {}});
    return targets;
}

} // namespace

std::vector<Candidate> otherSizes(const DossierFile& file, const Finding& finding)
{
    std::vector<Candidate> out;
    const auto& devices = file.dossier.circuit.devices;
    for (const Device& d : devices)
        if (concerns(finding, d)) {
            addSetting(file, d, finding, out);
            addRatings(file, d, out);
            addParts(file, d, out);
        }
    addSections(file, finding, out);
    for (const Device& d : devices) // those that are sized together with it
        if (!concerns(finding, d) && d.kind != "contactor")
            addRatings(file, d, out);
    return out;
}

std::vector<Candidate> otherWirings(const DossierFile& file, const Finding& finding)
{
    std::vector<Candidate> out;
    for (const Device& d : file.dossier.circuit.devices)
        if (concerns(finding, d))
            addWords(file, d, out);
    for (const Device& d : file.dossier.circuit.devices) {
        if (!concerns(finding, d))
            continue;
        for (const offers::Picked& t : targetsAt(file.dossier.circuit, d))
            for (const offers::Offer& o : offers::offersFor(file.dossier, t))
                if (!o.removes && std::find(kMeant.begin(), kMeant.end(), o.id) != kMeant.end())
                    addMeant(d, t, o, out);
    }
    return out;
}

} // namespace ts::mending
