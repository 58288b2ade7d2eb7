// import, export, parts: lists that people keep in spreadsheets, to and from a dossier.

#include "core/io/lists.h"
#include "cli/commands.h"
#include "core/edit/circuit_edits.h"
#include "core/io/dossier_file.h"

#include <fmt/format.h>

namespace ts::cli {
namespace {

template <class T> Expected<T> inFile(Expected<T> result, const std::string& path)
{
    if (result)
        return result;
    Error error = result.error();
    error.place.file = path;
    return Unexpected{error};
}

Expected<std::vector<Part>> partsFrom(const std::string& path)
{
    return path.empty() ? std::vector<Part>{} : io::loadParts(path);
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
    if (!parts)
        return fail(parts.error(), s);
    // Two calls, so that an error names the list it stands in.
    const auto alone = inFile(io::circuitFromLists(*devices, "from,to\n", *parts), r.devices);
    if (!alone)
        return fail(alone.error(), s);
    const auto file = inFile(io::circuitFromLists(*devices, *wires, *parts), r.wires);
    if (!file)
        return fail(file.error(), s);
    return saved(*file, r, s);
}

int exportLists(const Request& r, Session& s)
{
    const auto file = io::loadDossier(r.file);
    if (!file)
        return fail(file.error(), s);
    const Circuit& c = file->dossier.circuit;
    const bool asJson = r.parts.ends_with(".json");
    for (const auto& [path, text] : {std::pair{r.devices, io::deviceListCsv(c)}, {r.wires, io::wireListCsv(c)},
             {r.parts, asJson ? io::partsJson(c.parts) : io::partsCsv(c.parts)}})
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
    if (!parts)
        return fail(parts.error(), s);
    auto changed = inFile(edit::withParts(file->dossier, *parts), r.parts);
    if (!changed)
        return fail(changed.error(), s);
    file->dossier = std::move(*changed);
    return saved(*file, r, s);
}

} // namespace ts::cli
