#include "wording/bridge_words.h"

#include "wording/wording.h"

namespace ts::wording {
namespace {

constexpr std::size_t kMostNamed = 6;
constexpr double kNoVolts = 1.0;

std::string tagOf(const Dossier& dossier, DeviceId id)
{
    const Device* d = dossier.circuit.device(id);
    return d ? d->tag : "?";
}

/// The first of many, and how many more.
std::string listed(std::vector<std::string> all)
{
    const std::size_t count = all.size();
    all.resize(std::min(count, kMostNamed));
    const std::string text = joined(all, "; ");
    return count > kMostNamed ? said("bridge.and_more", {text, static_cast<long long>(count - kMostNamed)}) : text;
}

std::string levelOf(const std::optional<safety::Level>& level)
{
    return level ? "PL " + std::string(safety::nameOf(*level)) : word("bridge.no_level");
}

std::string functionLine(const Dossier& dossier, const BridgedFunction& b)
{
    const SafetyFunction* f = dossier.function(b.function);
    const std::string name = f ? f->name : "?";
    if (b.isLost)
        return said("bridge.lost", {name, sentence(*b.why)});
    if (b.why)
        return said("bridge.not_tried", {name, sentence(*b.why)});
    std::vector<std::string> losing;
    for (const BridgedFunction::Losing& l : b.losing)
        losing.push_back(sentence(l.what));
    return said("bridge.weaker",
        {name, levelOf(b.before), levelOf(b.after), static_cast<long long>(b.losing.size()),
            listed(std::move(losing))});
}

std::string protectionLine(const Dossier& dossier, const BridgedProtection& p)
{
    std::vector<std::string> wires, devices;
    for (const WireId w : p.wires)
        if (const Wire* wire = dossier.circuit.wire(w))
            wires.push_back(wire->number.empty() ? dossier.circuit.nameOf(wire->from) : wire->number);
    for (const DeviceId d : p.devices)
        devices.push_back(tagOf(dossier, d));
    return said("bridge.protection",
        {tagOf(dossier, p.device), p.element, listed(std::move(wires)), Measured{p.thinnestMm2, "mm2"},
            listed(std::move(devices))});
}

} // namespace

std::vector<std::string> bridgeLines(
    const Dossier& dossier, const BridgeCost& cost, const std::string& from, const std::string& to)
{
    if (cost.isJoined)
        return {said("bridge.joined", {from, to})};
    std::vector<std::string> lines, between, trips;
    for (const BridgedFunction& b : cost.functions)
        if (b.isLost)
            lines.push_back(functionLine(dossier, b));
    for (const DeviceId d : cost.givesWay)
        trips.push_back(tagOf(dossier, d));
    if (!trips.empty())
        lines.push_back(said("bridge.gives_way", {joined(trips, ", ")}));
    for (const BridgedProtection& p : cost.protections)
        lines.push_back(protectionLine(dossier, p));
    for (const BridgedFunction& b : cost.functions)
        if (!b.isLost)
            lines.push_back(functionLine(dossier, b));
    for (const auto& [device, element] : cost.contacts)
        between.push_back(tagOf(dossier, device) + " " + element);
    lines.push_back(
        between.empty() ? said("bridge.no_contact", {from, to}) : said("bridge.contacts", {joined(between, ", ")}));
    if (cost.volts > kNoVolts)
        lines.push_back(said("bridge.volts", {Measured{cost.volts, "V"}}));
    if (cost.held > 0)
        lines.push_back(said("bridge.held", {static_cast<long long>(cost.held)}));
    if (dossier.functions.empty())
        lines.push_back(said("bridge.no_function"));
    lines.push_back(said("bridge.not_looked_at"));
    return lines;
}

std::string bypassText(const RecordEntry& e, std::string_view today)
{
    const bool isOver = !today.empty() && e.bypass->until < today;
    return said(isOver ? "bypass.overdue" : "bypass.in_force",
        {e.bypass->from, e.bypass->to, e.bypass->until, e.bypass->owner, e.text});
}

} // namespace ts::wording
