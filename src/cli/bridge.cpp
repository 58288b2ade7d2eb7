// bridge: what is lost by joining two terminals for a while; entered into the record, and taken out of force again.

#include "core/analysis/bridge.h"
#include "cli/commands.h"
#include "core/base/date.h"
#include "core/io/dossier_file.h"
#include "core/record/record.h"
#include "wording/bridge_words.h"
#include "wording/wording.h"

#include <nlohmann/json.hpp>

namespace ts::cli {
namespace {

using Json = nlohmann::ordered_json;

Json functionJson(const Dossier& dossier, const BridgedFunction& b)
{
    const SafetyFunction* f = dossier.function(b.function);
    const auto level = [](const std::optional<safety::Level>& l) {
        return l ? Json(safety::nameOf(*l)) : Json(nullptr);
    };
    Json losing = Json::array();
    for (const BridgedFunction::Losing& l : b.losing)
        losing.push_back(l.id);
    return {{"id", b.function.value}, {"name", f ? f->name : ""}, {"lost", b.isLost}, {"tried", b.isLost || !b.why},
        {"at_most_before", level(b.before)}, {"at_most", level(b.after)}, {"losing", losing}};
}

Json costJson(const Dossier& dossier, const BridgeCost& cost)
{
    const auto tag = [&dossier](DeviceId id) { return dossier.circuit.device(id)->tag; };
    Json contacts = Json::array(), protections = Json::array(), functions = Json::array(), trips = Json::array();
    for (const auto& [device, element] : cost.contacts)
        contacts.push_back(tag(device) + "/" + element);
    for (const BridgedProtection& p : cost.protections) {
        Json wires = Json::array(), devices = Json::array();
        for (const WireId w : p.wires)
            wires.push_back(w.value);
        for (const DeviceId d : p.devices)
            devices.push_back(tag(d));
        protections.push_back({{"device", tag(p.device)}, {"element", p.element}, {"wires", wires},
            {"devices", devices}, {"thinnest_mm2", p.thinnestMm2}});
    }
    for (const BridgedFunction& b : cost.functions)
        functions.push_back(functionJson(dossier, b));
    for (const DeviceId d : cost.givesWay)
        trips.push_back(tag(d));
    return {{"format", "bridge-1"}, {"joined", cost.isJoined}, {"volts", cost.volts}, {"contacts", contacts},
        {"protections", protections}, {"gives_way", trips}, {"functions", functions}, {"held", cost.held}};
}

/// As an entry: opened with who answers for it and until when, or closed.
int enter(const Request& r, DossierFile file, Session& s)
{
    const auto open = ts::record::bypassesInForce(file.record);
    const auto isIt = [&r](const RecordEntry& e) {
        return (e.bypass->from == r.between && e.bypass->to == r.andEnd)
            || (e.bypass->from == r.andEnd && e.bypass->to == r.between);
    };
    const auto known = std::find_if(open.begin(), open.end(), isIt);
    if (r.closes && known == open.end())
        return fail({ErrorCode::NotFound, message("bridge.not_in_force", {r.between, r.andEnd})}, s);
    if (!r.closes && !isDate(r.until))
        return fail({ErrorCode::OutOfRange, message("bridge.no_date", {r.until})}, s);
    RecordEntry entry;
    entry.date = r.on;
    entry.who = r.who;
    entry.text = r.reason;
    entry.kind = r.closes ? "bypass_closed" : "bypass_opened";
    entry.role = "maintains";
    entry.subject = r.between + "+" + r.andEnd;
    entry.bypass = r.closes ? *known->bypass : Bypass{r.between, r.andEnd, r.owner.empty() ? r.who : r.owner, r.until};
    auto chained = ts::record::nextEntry(std::move(entry), file.record, file.dossier);
    if (!chained)
        return fail(chained.error(), s);
    file.record.push_back(*std::move(chained));
    if (const auto saved = io::saveDossier(r.output, file); !saved)
        return fail(saved.error(), s);
    s.out << wording::said(r.closes ? "bridge.closed" : "bridge.opened", {r.output}) << '\n';
    return kInOrder;
}

} // namespace

int bridge(const Request& r, Session& s)
{
    const auto file = io::loadDossier(r.file);
    if (!file)
        return fail(file.error(), s);
    if (r.closes)
        return enter(r, *file, s);
    const auto cost = bridgeCost(file->dossier, r.between, r.andEnd, s.stop);
    if (!cost)
        return fail(cost.error(), s);
    if (r.json)
        print(costJson(file->dossier, *cost), s);
    else
        for (const std::string& line : wording::bridgeLines(file->dossier, *cost, r.between, r.andEnd))
            s.out << line << '\n';
    if (!r.output.empty())
        return enter(r, *file, s);
    return cost->functions.empty() && cost->protections.empty() && cost->givesWay.empty() ? kInOrder : kFindings;
}

} // namespace ts::cli
