// import, export, parts: lists that people keep in spreadsheets, to and from a dossier.

#include "core/io/lists.h"
#include "cli/commands.h"
#include "core/edit/circuit_edits.h"
#include "core/io/dossier_file.h"
#include "core/notes/taking.h"
#include "wording/wording.h"

#include <fmt/format.h>

namespace ts::cli {
namespace {

/// All errors, or nothing; the remarks in any case.
template <class T> bool isListed(const io::Listed<T>& list, Session& s)
{
    for (const Error& error : list.errors)
        fail(error, s);
    if (list.errors.size() > 1)
        s.err << wording::said("list.errors", {static_cast<long long>(list.errors.size())}) << '\n';
    for (const io::ListRemark& remark : list.remarks)
        s.err << wording::sentence(Error{ErrorCode::Refused, remark.message, remark.place}) << '\n';
    return list.value.has_value();
}

io::Listed<std::vector<Part>> partsFrom(const std::string& path)
{
    return path.empty() ? io::Listed<std::vector<Part>>{std::vector<Part>{}, {}, {}} : io::loadParts(path);
}

int saved(const DossierFile& file, const Request& r, Session& s)
{
    if (auto ok = io::saveDossier(r.output, file); !ok)
        return fail(ok.error(), s);
    const Circuit& c = file.dossier.circuit;
    s.out << fmt::format(
        "{}: {} devices, {} wires, {} parts\n", r.output, c.devices.size(), c.wires.size(), c.parts.size());
    return kInOrder;
}

} // namespace

int importLists(const Request& r, Session& s)
{
    const auto devices = io::systemFiles().read(r.devices), wires = io::systemFiles().read(r.wires);
    if (!devices || !wires)
        return fail(devices ? wires.error() : devices.error(), s);
    const auto parts = partsFrom(r.parts);
    if (!isListed(parts, s))
        return kUnusable;
    const auto file = io::circuitFromLists({*devices, r.devices}, {*wires, r.wires}, *parts.value);
    return isListed(file, s) ? saved(*file.value, r, s) : kUnusable;
}

int exportLists(const Request& r, Session& s)
{
    const auto file = io::loadDossier(r.file);
    if (!file)
        return fail(file.error(), s);
    const Circuit& c = file->dossier.circuit;
    const bool asJson = r.parts.ends_with(".json");
    for (const auto& [path, text] : {std::pair{r.devices, io::deviceListCsv(c)}, {r.wires, io::wireListCsv(c)},
             {r.parts, asJson ? io::partsJson(c.parts) : io::partsCsv(c.parts)}, {r.notes, notes::notesOf(c)}})
        if (!path.empty())
            if (auto ok = io::saveText(path, text); !ok)
                return fail(ok.error(), s);
    return kInOrder;
}

int addParts(const Request& r, Session& s)
{
    auto file = io::loadDossier(r.file);
    if (!file)
        return fail(file.error(), s);
    const auto parts = partsFrom(r.parts);
    if (!isListed(parts, s))
        return kUnusable;
    auto changed = edit::withParts(file->dossier, *parts.value);
    if (!changed) {
        Error error = changed.error();
        error.place.file = r.parts;
        return fail(error, s);
    }
    file->dossier = std::move(*changed);
    return saved(*file, r, s);
}

} // namespace ts::cli
