#include "core/io/lists.h"

#include "core/base/csv.h"
#include "core/edit/circuit_edits.h"
#include "core/edit/reliability_edits.h"
#include "core/io/dossier_text.h"
#include "core/io/fields.h"
#include "core/io/migration.h"
#include "core/library/registry.h"
#include "core/library/table.h"

#include <algorithm>
#include <map>
#include <set>

namespace ts::io {
namespace {

ErrorPlace placeOf(int line, int column)
{
    return {{}, line, column, {}};
}

Unexpected at(Error error, int line, int column)
{
    error.place.line = line;
    error.place.column = column;
    return Unexpected{std::move(error)};
}

/// A list whose columns are known by name.
class List {
public:
    static Expected<List> from(std::string_view text, const std::vector<std::string_view>& required,
        const std::vector<std::string_view>& optional)
    {
        constexpr std::size_t kMostBytes = 20'000'000;
        if (text.size() > kMostBytes)
            return failure(ErrorCode::Refused, message("json.too_large", {20LL}));
        auto rows = csvRows(text);
        if (!rows)
            return Unexpected{rows.error()};
        if (rows->empty())
            return failure(ErrorCode::Syntax, message("list.empty"), placeOf(1, 1));
        List list;
        list.m_rows = std::move(*rows);
        const CsvRow& header = list.m_rows.front();
        for (std::size_t k = 0; k < header.cells.size(); ++k) {
            const CsvCell& cell = header.cells[k];
            const auto isIn = [&](const auto& names) {
                return std::find(names.begin(), names.end(), cell.text) != names.end();
            };
            if (!isIn(required) && !isIn(optional))
                return failure(ErrorCode::NotFound, message("list.unknown_column", {cell.text}),
                    placeOf(header.line, cell.column));
            if (!list.m_columnOf.emplace(cell.text, k).second)
                return failure(
                    ErrorCode::Refused, message("list.column_twice", {cell.text}), placeOf(header.line, cell.column));
        }
        for (std::string_view name : required)
            if (!list.m_columnOf.contains(std::string(name)))
                return failure(
                    ErrorCode::Syntax, message("list.missing_column", {std::string(name)}), placeOf(header.line, 1));
        for (std::size_t r = 1; r < list.m_rows.size(); ++r)
            if (list.m_rows[r].cells.size() > header.cells.size())
                return failure(ErrorCode::Syntax, message("list.too_many_cells"),
                    placeOf(list.m_rows[r].line, list.m_rows[r].cells[header.cells.size()].column));
        return list;
    }

    std::size_t count() const { return m_rows.size() - 1; }
    const std::string& text(std::size_t row, std::string_view column) const
    {
        static const std::string kNone;
        const CsvCell* cell = cellAt(row, column);
        return cell ? cell->text : kNone;
    }
    /// The cell's place; of a cell that is not there, its row's beginning.
    ErrorPlace place(std::size_t row, std::string_view column) const
    {
        const CsvCell* cell = cellAt(row, column);
        return placeOf(m_rows[row + 1].line, cell ? cell->column : 1);
    }
    Expected<std::optional<double>> number(std::size_t row, std::string_view column, double low, double high) const
    {
        const std::string& cell = text(row, column);
        if (cell.empty())
            return std::optional<double>{};
        const auto value = numberFrom(cell);
        if (!value)
            return failure(
                ErrorCode::OutOfRange, message("file.not_a_number", {std::string(column)}), place(row, column));
        if (!(*value >= low && *value <= high))
            return failure(ErrorCode::OutOfRange,
                message(
                    "file.outside", {std::string(column), Measured{*value, ""}, Measured{low, ""}, Measured{high, ""}}),
                place(row, column));
        return value;
    }

private:
    const CsvCell* cellAt(std::size_t row, std::string_view column) const
    {
        const auto it = m_columnOf.find(column);
        const CsvRow& r = m_rows[row + 1];
        return it == m_columnOf.end() || it->second >= r.cells.size() ? nullptr : &r.cells[it->second];
    }
    std::vector<CsvRow> m_rows;
    std::map<std::string, std::size_t, std::less<>> m_columnOf;
};

const std::vector<std::string_view> kDeviceRequired{"tag", "kind"},
    kDeviceOptional{"part", "label", "place", "parameters", "interlocked_with", "on_shaft_of"};
const std::vector<std::string_view> kWireRequired{"from", "to"},
    kWireOptional{"number", "area_mm2", "length_m", "route", "route_kind", "colour"};
const std::vector<std::string_view> kPartRequired{"id", "name", "kind"},
    kPartOptional{"parameters", "b10d_cycles", "b10_cycles", "mttfd_years", "mttf_years", "fit_dangerous",
        "pfhd_per_hour", "performance_level", "category", "typical_part", "dangerous_share", "source"};

Expected<DossierFile> withDevices(DossierFile file, const List& list)
{
    if (list.count() > kMostDevices)
        return failure(ErrorCode::Refused,
            message("file.too_many", {std::string("devices"), static_cast<long long>(kMostDevices)}));
    for (std::size_t row = 0; row < list.count(); ++row) {
        Device d;
        d.tag = list.text(row, "tag");
        d.kind = list.text(row, "kind");
        d.part = list.text(row, "part");
        d.label = list.text(row, "label");
        d.place = list.text(row, "place");
        const ErrorPlace tagPlace = list.place(row, "tag"), place = list.place(row, "parameters");
        if (d.tag.empty())
            return failure(ErrorCode::Refused, message("file.bad_tag", {d.tag}), tagPlace);
        if (!d.place.empty() && d.place != "door" && d.place != "plate" && d.place != "field")
            return failure(ErrorCode::Refused,
                message("file.unknown_word", {std::string("place"), d.place, std::string("door, plate, field")}),
                list.place(row, "place"));
        const DeviceKind* kind = deviceKind(d.kind);
        if (!kind)
            return failure(ErrorCode::NotFound, message("kind.unknown", {d.tag, d.kind}), list.place(row, "kind"));
        auto parameters = parametersFromText(kind->parameters, list.text(row, "parameters"));
        if (!parameters)
            return at(parameters.error(), place.line, place.column);
        d.parameters = std::move(*parameters);
        auto changed = edit::withDevice(file, std::move(d));
        if (!changed) {
            const std::string& id = changed.error().message.id;
            const ErrorPlace where = id.starts_with("file.") ? tagPlace
                : id.starts_with("part.")                    ? list.place(row, "part")
                                                             : place;
            return at(changed.error(), where.line, where.column);
        }
        file = std::move(*changed);
    }
    for (std::size_t row = 0; row < list.count(); ++row)
        for (const auto& [column, join] :
            {std::pair{"interlocked_with", &edit::withMechanicalInterlock}, {"on_shaft_of", &edit::withBrakeOnShaft}})
            if (const std::string& other = list.text(row, column); !other.empty()) {
                auto changed = join(file, list.text(row, "tag"), other);
                const ErrorPlace place = list.place(row, column);
                if (!changed)
                    return at(changed.error(), place.line, place.column);
                file = std::move(*changed);
            }
    return file;
}

Expected<DossierFile> withWires(DossierFile file, const List& list)
{
    if (list.count() > kMostWires)
        return failure(
            ErrorCode::Refused, message("file.too_many", {std::string("wires"), static_cast<long long>(kMostWires)}));
    for (std::size_t row = 0; row < list.count(); ++row) {
        Wire w;
        w.number = list.text(row, "number");
        for (const auto& field : kWireNumbers) {
            const auto value = list.number(row, field.name, field.low, field.high);
            if (!value)
                return Unexpected{value.error()};
            w.*field.value = value->value_or(w.*field.value);
        }
        w.colour = list.text(row, "colour");
        const std::string &route = list.text(row, "route"), &routeKind = list.text(row, "route_kind");
        if (!routeKind.empty() && routeWord(routeNamed(routeKind)) != routeKind)
            return failure(ErrorCode::Refused,
                message("file.unknown_word",
                    {std::string("route_kind"), routeKind,
                        std::string("enclosure, cable, protected_cable, shielded_cable, moving_cable")}),
                list.place(row, "route_kind"));
        if (!route.empty()) {
            file = edit::withRoute(file, route, routeNamed(routeKind));
            w.route = edit::routeNamed(file.dossier.circuit, route);
        }
        auto changed = edit::withWire(file, list.text(row, "from"), list.text(row, "to"), std::move(w));
        if (!changed) {
            const bool isFrom = !changed.error().message.arguments.empty()
                && std::get<std::string>(changed.error().message.arguments.front()) == list.text(row, "from");
            const ErrorPlace place = list.place(row, isFrom ? "from" : "to");
            return at(changed.error(), place.line, place.column);
        }
        file = std::move(*changed);
    }
    return file;
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

Expected<std::optional<Reliability>> reliabilityOf(const List& list, std::size_t row)
{
    Reliability r;
    for (const auto& field : kReliabilityNumbers) {
        const auto value = list.number(row, field.name, field.low, field.high);
        if (!value)
            return Unexpected{value.error()};
        r.*field.value = *value;
    }
    const auto share = list.number(row, kDangerousShare.name, kDangerousShare.low, kDangerousShare.high);
    if (!share)
        return Unexpected{share.error()};
    r.dangerousShare = *share;
    r.typicalPart = typicalIdFrom(list.text(row, "typical_part"));
    if (const std::string& level = list.text(row, "performance_level");
        !level.empty() && !(r.performanceLevel = safety::levelNamed(level)))
        return failure(ErrorCode::OutOfRange,
            message("file.unknown_word", {std::string("performance_level"), level, std::string("a, b, c, d, e")}),
            list.place(row, "performance_level"));
    if (const std::string& category = list.text(row, "category");
        !category.empty() && !(r.category = safety::categoryNamed(category)))
        return failure(ErrorCode::OutOfRange,
            message("file.unknown_word", {std::string("category"), category, std::string("B, 1, 2, 3, 4")}),
            list.place(row, "category"));
    r.source = list.text(row, "source");
    if (edit::waysOf(r) == 0 && !r.performanceLevel)
        return std::optional<Reliability>{};
    if (const char* trouble = edit::troubleOf(r))
        return failure(ErrorCode::Refused, message(trouble),
            list.place(row, r.pfhdPerHour && edit::waysOf(r) == 1 ? "pfhd_per_hour" : "b10d_cycles"));
    return std::optional{r};
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

/// What a list brings must load again once it is written: the same reader decides.
Expected<DossierFile> loadable(Expected<DossierFile> file)
{
    if (file)
        if (const auto again = parseDossier(printDossier(*file)); !again)
            return failure(again.error().code, message("list.would_not_load", {Phrases{again.error().message}}),
                again.error().place);
    return file;
}

} // namespace

Expected<DossierFile> circuitFromLists(
    std::string_view devicesCsv, std::string_view wiresCsv, const std::vector<Part>& parts)
{
    const auto devices = List::from(devicesCsv, kDeviceRequired, kDeviceOptional);
    if (!devices)
        return Unexpected{devices.error()};
    DossierFile file;
    file.dossier.circuit.parts = parts;
    auto built = withDevices(std::move(file), *devices);
    if (!built)
        return built;
    const auto wires = List::from(wiresCsv, kWireRequired, kWireOptional);
    if (!wires)
        return Unexpected{wires.error()};
    return loadable(withWires(std::move(*built), *wires));
}

std::string deviceListCsv(const Circuit& circuit)
{
    std::string text = "tag,kind,part,label,place,parameters,interlocked_with,on_shaft_of\n";
    for (const Device* d : sorted(circuit.devices)) {
        std::string lock, shaft;
        for (const MechanicalInterlock& i : circuit.interlocks)
            if (i.first == d->id)
                lock = circuit.device(i.second)->tag;
        for (const Shaft& s : circuit.shafts)
            if (s.brake == d->id)
                shaft = circuit.device(s.motor)->tag;
        text += line({d->tag, d->kind, d->part, d->label, d->place, textOfParameters(d->parameters), lock, shaft});
    }
    return text;
}

std::string wireListCsv(const Circuit& circuit)
{
    std::string text = "from,to,number,area_mm2,length_m,route,route_kind,colour\n";
    for (const Wire* w : sorted(circuit.wires)) {
        const Route* route = circuit.route(w->route);
        text += line({circuit.nameOf(w->from), circuit.nameOf(w->to), w->number, shortestText(w->areaMm2),
            shortestText(w->lengthM), route ? route->name : "", route ? std::string(routeWord(route->kind)) : "",
            w->colour});
    }
    return text;
}

Expected<std::vector<Part>> partsFromCsv(std::string_view text)
{
    const auto list = List::from(text, kPartRequired, kPartOptional);
    if (!list)
        return Unexpected{list.error()};
    if (list->count() > kMostParts)
        return failure(
            ErrorCode::Refused, message("file.too_many", {std::string("parts"), static_cast<long long>(kMostParts)}));
    std::vector<Part> parts;
    std::set<std::string> seen;
    for (std::size_t row = 0; row < list->count(); ++row) {
        Part part{list->text(row, "id"), list->text(row, "name"), list->text(row, "kind"), {}, {}};
        if (part.id.empty() || !seen.insert(part.id).second)
            return failure(ErrorCode::Refused, message("file.duplicate_part", {part.id}), list->place(row, "id"));
        const ErrorPlace place = list->place(row, "parameters"), kindPlace = list->place(row, "kind");
        const DeviceKind* kind = deviceKind(part.kind);
        if (!kind)
            return failure(ErrorCode::NotFound, message("kind.unknown", {part.id, part.kind}), kindPlace);
        auto parameters = parametersFromText(kind->parameters, list->text(row, "parameters"));
        if (!parameters)
            return at(parameters.error(), place.line, place.column);
        part.parameters = std::move(*parameters);
        if (auto ok = checkPart(part); !ok)
            return at(ok.error(), place.line, place.column);
        auto reliability = reliabilityOf(*list, row);
        if (!reliability)
            return Unexpected{reliability.error()};
        part.reliability = std::move(*reliability);
        parts.push_back(std::move(part));
    }
    return parts;
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

Expected<std::vector<Part>> loadParts(const std::string& path, FileOps& files)
{
    const auto text = files.read(path);
    if (!text)
        return Unexpected{text.error()};
    auto parts = path.ends_with(".json") ? partsFromJson(*text) : partsFromCsv(*text);
    if (parts)
        return parts;
    Error error = parts.error();
    error.place.file = path;
    return Unexpected{error};
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
