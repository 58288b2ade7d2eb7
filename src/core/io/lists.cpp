#include "core/io/lists.h"

#include "core/edit/circuit_edits.h"
#include "core/edit/reliability_edits.h"
#include "core/edit/wiring_edits.h"
#include "core/io/dossier_text.h"
#include "core/io/fields.h"
#include "core/io/list_table.h"
#include "core/io/migration.h"
#include "core/library/registry.h"
#include "core/library/table.h"

#include <algorithm>
#include <map>
#include <set>

namespace ts::io {
namespace {

const Columns kDeviceColumns{{"tag", "kind"},
    {"part", "label", "place", "parameters", "interlocked_with", "on_shaft_of", "remark"},
    {{"designation", "tag"}, {"device", "tag"}, {"item", "tag"}, {"reference", "tag"}, {"type", "kind"},
        {"description", "label"}, {"purpose", "label"}, {"values", "parameters"}},
    true};

/// Those that wires and routes have anyway, then each of their fields.
Columns wireColumns()
{
    Columns columns{{"from", "to"}, {"number", "route", "route_kind"},
        {{"source", "from"}, {"start", "from"}, {"target", "to"}, {"destination", "to"}, {"end", "to"},
            {"wire", "number"}, {"wire_number", "number"}, {"wire_no", "number"}, {"section", "area_mm2"},
            {"cross_section", "area_mm2"}, {"area", "area_mm2"}, {"length", "length_m"}, {"color", "colour"},
            {"class", "conductor_class"}, {"duct", "route"}},
        true};
    for (const auto& f : kWireFields)
        columns.optional.push_back(f.column);
    for (const auto& f : kRouteFields)
        columns.optional.push_back(f.column);
    return columns;
}

const Columns kPartColumns{{"id", "name", "kind"},
    {"parameters", "b10d_cycles", "b10_cycles", "mttfd_years", "mttf_years", "fit_dangerous", "pfhd_per_hour",
        "performance_level", "category", "typical_part", "dangerous_share", "source"}};

bool isTooMany(const ListTable& list, std::size_t most, const char* what, ListTrouble& trouble)
{
    if (list.count() <= most)
        return false;
    trouble.add({ErrorCode::Refused, message("file.too_many", {std::string(what), static_cast<long long>(most)})},
        list.place(most, ""));
    return true;
}

/// Tags of devices that are in the list and could not be made: wires to them are no second error.
using Missing = std::set<std::string, std::less<>>;

void addDevice(DossierFile& file, ListTable& list, std::size_t row)
{
    Device d;
    d.tag = list.text(row, "tag");
    d.kind = list.text(row, "kind");
    d.part = list.text(row, "part");
    d.label = list.text(row, "label");
    d.place = list.text(row, "place");
    d.remark = list.remark(row);
    const bool isPlaceKnown = list.isOneOf(row, "place", "door, plate, field");
    if (d.tag.empty())
        return list.fail({ErrorCode::Refused, message("file.bad_tag", {d.tag})}, row, "tag");
    const DeviceKind* kind = deviceKind(d.kind);
    if (!kind)
        return list.fail({ErrorCode::NotFound, message("kind.unknown", {d.tag, d.kind})}, row, "kind");
    auto parameters = list.parameters(row, "parameters", *kind);
    if (!parameters || !isPlaceKnown)
        return;
    d.parameters = std::move(*parameters);
    auto changed = edit::withDevice(file, std::move(d));
    if (changed) {
        file = std::move(*changed);
        return;
    }
    const std::string& id = changed.error().message.id;
    list.fail(changed.error(), row, id.starts_with("file.") ? "tag" : id.starts_with("part.") ? "part" : "parameters");
}

Missing addDevices(DossierFile& file, ListTable& list, ListTrouble& trouble)
{
    Missing missing;
    if (isTooMany(list, kMostDevices, "devices", trouble))
        return missing;
    for (std::size_t row = 0; row < list.count(); ++row) {
        addDevice(file, list, row);
        if (!file.dossier.circuit.device(list.text(row, "tag")))
            missing.insert(list.text(row, "tag"));
    }
    for (std::size_t row = 0; row < list.count(); ++row)
        for (const auto& [column, join] :
            {std::pair{"interlocked_with", &edit::withMechanicalInterlock}, {"on_shaft_of", &edit::withBrakeOnShaft}})
            if (const std::string& other = list.text(row, column);
                !other.empty() && !missing.contains(other) && !missing.contains(list.text(row, "tag"))) {
                auto changed = join(file, list.text(row, "tag"), other);
                if (!changed)
                    list.fail(changed.error(), row, column);
                else
                    file = std::move(*changed);
            }
    return missing;
}

/// What a row says of a record; what it leaves open stays.
template <class Record, std::size_t n>
void takeCells(ListTable& list, std::size_t row, const std::array<Field<Record>, n>& all, Record& record)
{
    for (const Field<Record>& f : all) {
        std::string cell = list.text(row, f.column);
        const bool isText = std::holds_alternative<std::string Record::*>(f.value);
        if (cell.empty() || (isText && !f.words.empty() && !list.isOneOf(row, f.column, fields::listed(f))))
            continue;
        if (!isText && !fields::isGauge(f, cell)) {
            const auto number = list.number(row, f.column, f.low, f.high);
            if (!number)
                continue;
            cell = shortestText(*number); // a decimal comma is read, too
        }
        if (auto taken = fields::take(f, cell, record); !taken)
            list.fail(taken.error(), row, f.column);
    }
}

/// Ends of wires that are there, and the line of each.
using Joined = std::map<std::pair<TerminalRef, TerminalRef>, int>;

void addWire(DossierFile& file, ListTable& list, std::size_t row, Joined& joined, ListTrouble& trouble)
{
    Wire w;
    w.number = list.text(row, "number");
    const std::size_t before = trouble.errors.size();
    takeCells(list, row, kWireFields, w);
    w.remark = list.remark(row);
    const std::string &route = list.text(row, "route"), &routeKind = list.text(row, "route_kind");
    list.isOneOf(row, "route_kind", "enclosure, cable, protected_cable, shielded_cable, moving_cable");
    Route said;
    takeCells(list, row, kRouteFields, said);
    if (trouble.errors.size() > before)
        return;
    if (!route.empty()) {
        file = edit::withRoute(file, route, routeNamed(routeKind));
        w.route = edit::routeNamed(file.dossier.circuit, route);
        for (Route& r : file.dossier.circuit.routes)
            if (r.id == w.route)
                takeCells(list, row, kRouteFields, r);
    }
    auto changed = edit::withWire(file, list.text(row, "from"), list.text(row, "to"), std::move(w));
    if (!changed) {
        const auto& arguments = changed.error().message.arguments;
        const bool isFrom = !arguments.empty() && std::get<std::string>(arguments.front()) == list.text(row, "from");
        const bool isSize = changed.error().message.id == "edit.wire_size";
        return list.fail(changed.error(), row, isSize ? "length_m" : isFrom ? "from" : "to");
    }
    file = std::move(*changed);
    const Wire& added = file.dossier.circuit.wires.back();
    const auto [first, isNew] = joined.try_emplace(std::minmax(added.from, added.to), list.place(row, "from").line);
    if (!isNew)
        trouble.remark(message("list.wire_twice",
                           {list.text(row, "from"), list.text(row, "to"), static_cast<long long>(first->second)}),
            list.place(row, "from"));
}

void addWires(DossierFile& file, ListTable& list, const Missing& missing, ListTrouble& trouble)
{
    if (isTooMany(list, kMostWires, "wires", trouble))
        return;
    Joined joined;
    const auto isMissing = [&missing](const std::string& terminal) {
        return missing.contains(std::string_view(terminal).substr(0, terminal.find(':')));
    };
    for (std::size_t row = 0; row < list.count(); ++row)
        if (!isMissing(list.text(row, "from")) && !isMissing(list.text(row, "to")))
            addWire(file, list, row, joined, trouble);
}

/// What is written must fit the kind; what is not written may still come from the device.
Expected<void> checkPart(const Part& part)
{
    const DeviceKind* kind = deviceKind(part.kind);
    if (!kind)
        return failure(ErrorCode::NotFound, message("kind.unknown", {part.id, part.kind}));
    const auto resolved = Parameters::resolve(kind->parameters, &part.parameters, {}, part.id);
    if (!resolved && resolved.error().message.id != "parameter.missing")
        return Unexpected{resolved.error()};
    return {};
}

std::optional<Reliability> reliabilityOf(ListTable& list, std::size_t row)
{
    Reliability r;
    for (const auto& field : kReliabilityNumbers)
        r.*field.value = list.number(row, field.name, field.low, field.high);
    r.dangerousShare = list.number(row, kDangerousShare.name, kDangerousShare.low, kDangerousShare.high);
    r.typicalPart = typicalIdFrom(list.text(row, "typical_part"));
    if (list.isOneOf(row, "performance_level", "a, b, c, d, e"))
        r.performanceLevel = safety::levelNamed(list.text(row, "performance_level"));
    if (list.isOneOf(row, "category", "B, 1, 2, 3, 4"))
        r.category = safety::categoryNamed(list.text(row, "category"));
    r.source = list.text(row, "source");
    if (edit::waysOf(r) == 0 && !r.performanceLevel)
        return std::nullopt;
    if (const char* trouble = edit::troubleOf(r))
        list.fail({ErrorCode::Refused, message(trouble)}, row,
            r.pfhdPerHour && edit::waysOf(r) == 1 ? "pfhd_per_hour" : "b10d_cycles");
    return r;
}

std::string line(const std::vector<std::string>& cells)
{
    std::string text;
    for (std::size_t k = 0; k < cells.size(); ++k)
        text += (k ? "," : "") + csvCell(cells[k]);
    return text + "\n";
}

template <class T> std::vector<const T*> sorted(const std::vector<T>& list)
{
    std::vector<const T*> result;
    for (const T& item : list)
        result.push_back(&item);
    std::sort(result.begin(), result.end(), [](auto* a, auto* b) { return a->id < b->id; });
    return result;
}

/// Nothing of it if something is wrong; and what it brings must load again once it is written: the same reader decides.
template <class T> Listed<T> listed(T value, ListTrouble trouble)
{
    if (!trouble.errors.empty())
        return {std::nullopt, std::move(trouble.errors), std::move(trouble.remarks)};
    if constexpr (std::is_same_v<T, DossierFile>)
        if (const auto again = parseDossier(printDossier(value)); !again)
            return {std::nullopt,
                {{again.error().code, message("list.would_not_load", {Phrases{again.error().message}}),
                    again.error().place}},
                std::move(trouble.remarks)};
    return {std::move(value), {}, std::move(trouble.remarks)};
}

} // namespace

Listed<DossierFile> circuitFromLists(const ListText& devices, const ListText& wires, const std::vector<Part>& parts)
{
    ListTrouble trouble;
    ListTable deviceList(devices, kDeviceColumns, trouble);
    DossierFile file;
    file.dossier.circuit.parts = parts;
    const Missing missing = addDevices(file, deviceList, trouble);
    const bool areDevicesRead = trouble.errors.empty() || deviceList.count() > 0;
    ListTable wireList(wires, wireColumns(), trouble);
    if (areDevicesRead) // else no wire would find its terminals
        addWires(file, wireList, missing, trouble);
    return listed(std::move(file), std::move(trouble));
}

std::string deviceListCsv(const Circuit& circuit)
{
    std::string text = "tag,kind,part,label,place,parameters,interlocked_with,on_shaft_of,remark\n";
    for (const Device* d : sorted(circuit.devices)) {
        std::string lock, shaft;
        for (const MechanicalInterlock& i : circuit.interlocks)
            if (i.first == d->id)
                lock = circuit.device(i.second)->tag;
        for (const Shaft& s : circuit.shafts)
            if (s.brake == d->id)
                shaft = circuit.device(s.motor)->tag;
        text += line(
            {d->tag, d->kind, d->part, d->label, d->place, textOfParameters(d->parameters), lock, shaft, d->remark});
    }
    return text;
}

std::string wireListCsv(const Circuit& circuit)
{
    std::vector<std::string> header{"from", "to", "number", "route", "route_kind"};
    for (const auto& f : kWireFields)
        header.emplace_back(f.column);
    for (const auto& f : kRouteFields)
        header.emplace_back(f.column);
    std::string text = line(header);
    for (const Wire* w : sorted(circuit.wires)) {
        const Route* route = circuit.route(w->route);
        std::vector<std::string> cells{circuit.nameOf(w->from), circuit.nameOf(w->to), w->number,
            route ? route->name : "", route ? std::string(routeWord(route->kind)) : ""};
        for (const auto& f : kWireFields)
            cells.push_back(fields::textOf(f, *w));
        for (const auto& f : kRouteFields)
            cells.push_back(route ? fields::textOf(f, *route) : std::string());
        text += line(cells);
    }
    return text;
}

namespace {

std::optional<Part> partFrom(ListTable& list, std::size_t row)
{
    Part part{list.text(row, "id"), list.text(row, "name"), list.text(row, "kind"), {}, {}};
    const DeviceKind* kind = deviceKind(part.kind);
    if (!kind) {
        list.fail({ErrorCode::NotFound, message("kind.unknown", {part.id, part.kind})}, row, "kind");
        return std::nullopt;
    }
    auto parameters = list.parameters(row, "parameters", *kind);
    if (!parameters)
        return std::nullopt;
    part.parameters = std::move(*parameters);
    if (auto ok = checkPart(part); !ok)
        list.fail(ok.error(), row, "parameters");
    part.reliability = reliabilityOf(list, row);
    return part;
}

} // namespace

Listed<std::vector<Part>> partsFromCsv(const ListText& text)
{
    ListTrouble trouble;
    ListTable list(text, kPartColumns, trouble);
    std::vector<Part> parts;
    std::set<std::string> seen;
    const bool isRead = !isTooMany(list, kMostParts, "parts", trouble);
    for (std::size_t row = 0; row < list.count() && isRead; ++row) {
        const std::string& id = list.text(row, "id");
        if (id.empty() || !seen.insert(id).second)
            list.fail({ErrorCode::Refused, message("file.duplicate_part", {id})}, row, "id");
        if (auto part = partFrom(list, row))
            parts.push_back(std::move(*part));
    }
    return listed(std::move(parts), std::move(trouble));
}

Expected<std::vector<Part>> partsFromJson(std::string_view text)
{
    auto parts = parseParts(text);
    if (!parts)
        return parts;
    for (const Part& part : *parts)
        if (auto ok = checkPart(part); !ok)
            return Unexpected{ok.error()};
    return parts;
}

Listed<std::vector<Part>> loadParts(const std::string& path, FileOps& files)
{
    const auto text = files.read(path);
    if (!text)
        return {std::nullopt, {text.error()}, {}};
    if (!path.ends_with(".json"))
        return partsFromCsv({*text, path});
    auto parts = partsFromJson(*text);
    if (parts)
        return {std::move(*parts), {}, {}};
    Error error = parts.error();
    error.place.file = path;
    return {std::nullopt, {std::move(error)}, {}};
}

std::string partsCsv(const std::vector<Part>& parts)
{
    std::string text = "id,name,kind,parameters,b10d_cycles,b10_cycles,mttfd_years,mttf_years,fit_dangerous,pfhd_per_"
                       "hour,performance_level,category,typical_part,"
                       "dangerous_share,source\n";
    const auto number = [](const std::optional<double>& value) { return value ? shortestText(*value) : std::string(); };
    for (const Part* p : sorted(parts)) {
        const Reliability r = p->reliability.value_or(Reliability{});
        text += line({p->id, p->name, p->kind, textOfParameters(p->parameters), number(r.b10dCycles),
            number(r.b10Cycles), number(r.mttfdYears), number(r.mttfYears), number(r.fitDangerous),
            number(r.pfhdPerHour), std::string(safety::wordOf(r.performanceLevel)),
            std::string(safety::wordOf(r.category)), r.typicalPart, number(r.dangerousShare), r.source});
    }
    return text;
}

std::string partsJson(const std::vector<Part>& parts)
{
    return printParts(parts);
}

} // namespace ts::io
