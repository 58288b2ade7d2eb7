// size: what each device and wire needs of what it may take, the worst first; and what is not judged.

#include "cli/commands.h"
#include "core/base/csv.h"
#include "core/io/dossier_file.h"
#include "core/sizing/sizing.h"
#include "wording/wording.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace ts::cli {
namespace {

using sizing::Headroom;
using sizing::Sized;

std::string placeOf(const Circuit& c, DeviceId device, WireId wire)
{
    const Device* d = c.device(device);
    const Wire* w = c.wire(wire);
    return d ? d->tag : w ? c.nameOf(w->from) + " - " + c.nameOf(w->to) : std::string();
}

void printText(const Circuit& c, const Sized& sized, Session& s)
{
    for (const Headroom& h : sized.all) {
        s.out << fmt::format("{:<20} {:<22} ", h.rule, placeOf(c, h.device, h.wire))
              << (h.isShare        ? fmt::format("{:3.0f} %", 100.0 * h.used())
                         : h.isMet ? " met "
                                   : "NOT met")
              << fmt::format("  {} of {}", wording::number(h.needed, h.unit), wording::number(h.allowed, h.unit))
              << (h.isShare && !h.isMet                ? "  NOT enough"
                         : h.isShare && h.used() > 0.9 ? "  tight"
                                                       : "")
              << (h.assumed.empty() ? "" : "  (assumed: " + h.assumed.front() + ")") << '\n';
        if (!h.note.id.empty())
            s.out << "    " << wording::sentence(h.note) << '\n';
    }
    for (const sizing::NotJudged& n : sized.notJudged)
        s.out << "not judged: " << n.rule << ' ' << placeOf(c, n.device, n.wire) << ": " << wording::sentence(n.enter)
              << '\n';
    for (const std::string& rule : sized.notHere)
        s.out << "this edition does not judge: " << rule << '\n';
    s.out << wording::word("caution.text") << '\n';
}

void printJson(const Circuit& c, const Sized& sized, Session& s)
{
    nlohmann::ordered_json all = nlohmann::ordered_json::array(), not_judged = nlohmann::ordered_json::array();
    for (const Headroom& h : sized.all)
        all.push_back({{"rule", h.rule}, {"at", placeOf(c, h.device, h.wire)}, {"share", h.isShare}, {"met", h.isMet},
            {"needed", h.needed}, {"allowed", h.allowed}, {"unit", h.unit}, {"assumed", h.assumed}});
    for (const sizing::NotJudged& n : sized.notJudged)
        not_judged.push_back({{"rule", n.rule}, {"at", placeOf(c, n.device, n.wire)}, {"enter", n.enter.id}});
    print({{"format", "size-1"}, {"headroom", all}, {"not_judged", not_judged}, {"not_here", sized.notHere}}, s);
}

void printCsv(const Circuit& c, const Sized& sized, Session& s)
{
    s.out << "rule,at,needed,allowed,unit,used,met\n";
    for (const Headroom& h : sized.all)
        s.out << h.rule << ',' << csvCell(placeOf(c, h.device, h.wire)) << ',' << h.needed << ',' << h.allowed << ','
              << h.unit << ',' << (h.isShare ? fmt::format("{:.4g}", h.used()) : std::string()) << ','
              << (h.isMet ? "yes" : "no") << '\n';
}

} // namespace

int size(const Request& r, Session& s)
{
    const auto file = io::loadDossier(r.file);
    if (!file)
        return fail(file.error(), s);
    const Circuit& c = file->dossier.circuit;
    const auto sized = sizing::sizesOf(file->dossier, {}, s.stop);
    if (!sized)
        return fail(sized.error(), s);
    r.json ? printJson(c, *sized, s) : r.csv ? printCsv(c, *sized, s) : printText(c, *sized, s);
    const bool isAllMet = std::all_of(sized->all.begin(), sized->all.end(),
        [](const Headroom& h) { return h.isMet || h.severity == Severity::Note; });
    return isAllMet ? kNotLookedAt : kFindings;
}

} // namespace ts::cli
