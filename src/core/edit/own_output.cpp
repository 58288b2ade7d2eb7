#include "core/edit/own_output.h"

#include "core/edit/wiring_edits.h"
#include "core/library/registry.h"

#include <algorithm>

namespace ts::edit {
namespace {

using Pair = std::pair<std::string, std::string>;

std::vector<Pair> coilsOf(const Circuit& circuit, const Device& device)
{
    std::vector<Pair> ends;
    if (const auto body = bodyOf(circuit, device))
        for (const Element& e : body->elements)
            if (std::holds_alternative<CoilElement>(e.what))
                ends.emplace_back(body->terminals[static_cast<std::size_t>(e.terminals[0])].marking,
                    body->terminals[static_cast<std::size_t>(e.terminals[1])].marking);
    return ends;
}

/// Terminals of the normally open contacts that a logic moves; two in series inside the device are one output.
std::vector<Pair> outputsOf(const Circuit& circuit, const Device& device)
{
    std::vector<Pair> outputs;
    const auto body = bodyOf(circuit, device);
    if (!body)
        return outputs;
    std::vector<std::pair<int, int>> rows;
    for (const Element& e : body->elements) {
        const auto* c = std::get_if<ContactElement>(&e.what);
        if (c && c->kind == ContactKind::NormallyOpen && c->mover >= 0
            && body->movers[static_cast<std::size_t>(c->mover)].driver == MoverSpec::Driver::Logic)
            rows.emplace_back(e.terminals[0], e.terminals[1]);
    }
    const auto isInner = [&body](int t) { return body->terminals[static_cast<std::size_t>(t)].inner; };
    for (const auto& [from, first] : rows) {
        int to = first;
        for (const auto& [a, b] : rows)
            if (isInner(to) && a == to)
                to = b;
        if (!isInner(from) && !isInner(to))
            outputs.emplace_back(body->terminals[static_cast<std::size_t>(from)].marking,
                body->terminals[static_cast<std::size_t>(to)].marking);
    }
    return outputs;
}

struct Move {
    TerminalRef coil; ///< to be moved
    TerminalRef feed; ///< of the shared output
    TerminalRef freeFeed, freeOut; ///< of the one that is not used
};

std::optional<Move> moveOf(const Circuit& circuit, const Device& contactor)
{
    const auto isWired = [&circuit](DeviceId device, const std::string& marking) {
        return wireCount(circuit, {device, marking}) > 0;
    };
    for (const Pair& coil : coilsOf(circuit, contactor))
        for (const std::string& end : {coil.first, coil.second}) {
            const Net net = netOf(circuit, {contactor.id, end});
            const bool isShared = std::any_of(circuit.devices.begin(), circuit.devices.end(), [&](const Device& other) {
                const auto coils = coilsOf(circuit, other);
                return other.id != contactor.id && std::any_of(coils.begin(), coils.end(), [&](const Pair& p) {
                    return net.contains({other.id, p.first}) || net.contains({other.id, p.second});
                });
            });
            for (const Device& relay : circuit.devices) {
                const auto outputs = outputsOf(circuit, relay);
                for (const auto& [in, out] : outputs)
                    for (const auto& [used, feed] : {Pair{out, in}, Pair{in, out}})
                        if (isShared && net.contains({relay.id, used}))
                            for (const auto& [freeIn, freeOut] : outputs)
                                if (!isWired(relay.id, freeIn) && !isWired(relay.id, freeOut))
                                    return Move{
                                        {contactor.id, end}, {relay.id, feed}, {relay.id, freeIn}, {relay.id, freeOut}};
            }
        }
    return {};
}

} // namespace

Expected<DossierFile> withOwnOutput(const DossierFile& file, DeviceId id)
{
    const Device* contactor = file.dossier.circuit.device(id);
    if (!contactor)
        return failure(ErrorCode::NotFound, message("edit.no_device"));
    const auto move = moveOf(file.dossier.circuit, *contactor);
    if (!move)
        return failure(ErrorCode::Refused, message("edit.no_own_output", {contactor->tag}));
    auto changed = withTerminalJoined(file, move->freeFeed, move->feed);
    if (changed)
        changed = withTerminalsFreed(*changed, {move->coil});
    if (changed)
        changed = withWireAdded(*changed, move->coil, move->freeOut);
    return changed;
}

} // namespace ts::edit
