#include "core/edit/second_contactor.h"

#include "core/edit/circuit_edits.h"
#include "core/edit/wiring_edits.h"
#include "core/library/registry.h"

namespace ts::edit {
namespace {

/// Markings of the main poles (line side, load side) and of the coil.
struct Places {
    std::vector<std::pair<std::string, std::string>> poles;
    std::pair<std::string, std::string> coil;
};

Places placesOf(const Body& body)
{
    Places p;
    const auto marking = [&](const Element& e, int end) {
        return body.terminals[static_cast<std::size_t>(e.terminals[static_cast<std::size_t>(end)])].marking;
    };
    for (const Element& e : body.elements) {
        const auto* contact = std::get_if<ContactElement>(&e.what);
        if (contact && contact->kind == ContactKind::Main)
            p.poles.emplace_back(marking(e, 0), marking(e, 1));
        if (std::holds_alternative<CoilElement>(e.what) && p.coil.first.empty())
            p.coil = {marking(e, 0), marking(e, 1)};
    }
    return p;
}

Unexpected refused(const std::string& tag)
{
    return failure(ErrorCode::Refused, message("edit.no_second_contactor", {tag}));
}

} // namespace

Expected<DossierFile> withContactorInSeries(const DossierFile& file, DeviceId id)
{
    const Device* first = file.dossier.circuit.device(id);
    if (!first)
        return failure(ErrorCode::NotFound, message("edit.no_device"));
    const auto body = bodyOf(file.dossier.circuit, *first);
    if (!body)
        return Unexpected{body.error()};
    const Places places = placesOf(*body);
    if (places.poles.empty() || places.coil.first.empty()
        || wireCount(file.dossier.circuit, {id, places.coil.first}) == 0
        || wireCount(file.dossier.circuit, {id, places.coil.second}) == 0)
        return refused(first->tag);
    Device second = *first;
    second.id = {};
    second.tag.clear();
    auto changed = withDevice(file, second);
    if (!changed)
        return changed;
    const DeviceId added = changed->dossier.circuit.devices.back().id;
    int joined = 0;
    for (const auto& [line, load] : places.poles) {
        Net behind = netOf(changed->dossier.circuit, {id, load});
        behind.erase({id, load});
        if (behind.empty())
            continue; // a pole that is not used
        changed = withNetParted(
            *changed, std::vector<TerminalRef>(behind.begin(), behind.end()), {{added, line}, {added, load}});
        if (!changed)
            return changed;
        ++joined;
    }
    if (joined == 0)
        return refused(first->tag);
    for (const std::string& end : {places.coil.first, places.coil.second})
        if (changed)
            changed = withWireAdded(*changed, {added, end}, {id, end});
    return changed;
}

} // namespace ts::edit
