// take: a panel that was read off and typed line by line, into a dossier.

#include "cli/commands.h"
#include "core/io/dossier_file.h"
#include "core/notes/taking.h"
#include "wording/wording.h"

#include <fmt/format.h>

namespace ts::cli {

int takeNotes(const Request& r, Session& s)
{
    DossierFile before;
    if (!r.into.empty()) {
        auto file = io::loadDossier(r.into);
        if (!file)
            return fail(file.error(), s);
        before = std::move(*file);
    }
    const auto text = io::systemFiles().read(r.file);
    if (!text)
        return fail(text.error(), s);
    const notes::TakenText taken = notes::takeAll(std::move(before), *text, r.file);
    for (const Error& error : taken.errors)
        fail(error, s);
    if (!taken.file) {
        s.err << wording::said("note.errors", {static_cast<long long>(taken.errors.size())}) << '\n';
        return kUnusable;
    }
    for (const auto& [line, message] : taken.done)
        s.out << fmt::format("{:>4}  {}\n", line, wording::sentence(message));
    if (auto ok = io::saveDossier(r.output, *taken.file); !ok)
        return fail(ok.error(), s);
    const Circuit& c = taken.file->dossier.circuit;
    s.out << fmt::format("{}: {} devices, {} wires\n", r.output, c.devices.size(), c.wires.size());
    return kInOrder;
}

} // namespace ts::cli
