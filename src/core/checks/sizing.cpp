#include "core/sizing/sizing.h"
#include "core/checks/groups.h"
#include "core/library/table.h"

#include <algorithm>

namespace ts::checks {
namespace {

using sizing::Headroom;

/// A sentence of the table of rules; the row must be there.
std::string sentenceOf(const std::string& rule, std::string_view column)
{
    const Table& t = sizingRulesTable();
    return std::string(t.cell(*rowOf(t, rule), column));
}

std::string placeOf(const Circuit& circuit, DeviceId device, WireId wire)
{
    if (const Wire* w = circuit.wire(wire); w && !device)
        return circuit.nameOf(w->from) + " - " + circuit.nameOf(w->to);
    const Device* d = circuit.device(device);
    return d ? d->tag : std::string();
}

Finding findingOf(const Circuit& circuit, const Headroom& h)
{
    Finding f;
    f.severity = h.isMet ? Severity::Note : h.severity;
    const Wire* w = circuit.wire(h.wire);
    for (DeviceId id : {h.device, w ? w->from.device : DeviceId{}, w ? w->to.device : DeviceId{}})
        if (const Device* d = circuit.device(id);
            d && std::find(f.devices.begin(), f.devices.end(), d->tag) == f.devices.end())
            f.devices.push_back(d->tag);
    f.what = h.isMet ? h.note
        : !h.wrong.id.empty()
        ? h.wrong
        : message("sizing." + h.rule,
            {placeOf(circuit, h.device, h.wire), Measured{h.needed, h.unit}, Measured{h.allowed, h.unit}});
    f.consequence = message("sizing.text", {sentenceOf(h.rule, "person")});
    f.mend = message("sizing.text", {sentenceOf(h.rule, "do")});
    f.clause = sizing::clauseOf(h.rule);
    std::string assumed;
    for (const std::string& figure : h.assumed)
        assumed += (assumed.empty() ? "" : ", ") + figure;
    f.evidence = assumed.empty() ? message("evidence.sizing") : message("evidence.sizing.assumed", {assumed});
    f.target = {.device = h.device, .wire = h.device ? WireId{} : h.wire};
    return f;
}

} // namespace

void sizesSuffice(const CheckInput& input, std::vector<Finding>& out)
{
    const auto sized = input.results.find(kSizing);
    if (!sized)
        return;
    const Circuit& circuit = input.dossier.circuit;
    for (const Headroom& h : sized->all)
        if (!h.isMet || !h.note.id.empty())
            out.push_back(findingOf(circuit, h));
    if (sized->notJudged.empty())
        return;
    std::string first;
    for (const sizing::NotJudged& n : sized->notJudged)
        if (std::string place = placeOf(circuit, n.device, n.wire); first.empty())
            first = n.rule + (place.empty() ? "" : " " + place);
    out.push_back({{}, Severity::Note, {},
        message("finding.sizing.not_judged", {static_cast<long long>(sized->notJudged.size()), first}),
        message("consequence.sizing.not_judged"), message("mend.sizing.not_judged"), {}, message("evidence.sizing"), {},
        Remedy::Entry});
}

std::vector<NotLookedAt> leftOutOfSizes(const CheckInput& input)
{
    std::vector<NotLookedAt> out;
    const auto sized = input.results.find(kSizing);
    if (!sized)
        return out;
    const std::string study(kSizing.id);
    if (!sized->notHere.empty())
        out.push_back({study, {},
            message("sizing.rules_missing",
                {static_cast<long long>(sized->notHere.size()),
                    static_cast<long long>(sizingRulesTable().rowCount())})});
    if (!sized->notJudged.empty())
        out.push_back(
            {study, {}, message("sizing.figures_missing", {static_cast<long long>(sized->notJudged.size())})});
    return out;
}

} // namespace ts::checks
