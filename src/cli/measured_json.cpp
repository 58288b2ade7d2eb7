#include "cli/measured_json.h"

namespace ts::cli {

using namespace measuring;
using Json = nlohmann::ordered_json;

namespace {

Json wiresOf(const Circuit& c, const Mistake& m)
{
    Json wires = Json::object();
    for (const WireChange& w : m.wires) {
        const std::string id = std::to_string(w.wire.value);
        if (w.ends)
            wires[id] = {c.nameOf(w.ends->first), c.nameOf(w.ends->second)};
        else
            wires[id] = nullptr;
    }
    return wires;
}

} // namespace

Json mistakeJson(const Circuit& c, const Mistake& m)
{
    Json parameters = Json::object(), faults = Json::array();
    const Device* device = c.device(m.device);
    if (device && m.coilV > 0)
        parameters[device->tag] = {{"coil_voltage_v", m.coilV}};
    if (m.kind == MistakeKind::Inverted)
        faults.push_back(m.id);
    return {{"id", m.id}, {"kind", wordOf(m.kind)}, {"wires", wiresOf(c, m)}, {"parameters", parameters},
        {"faults", faults}, {"harmless", m.isHarmless}};
}

Json suspectJson(const Circuit& c, const Suspect& s)
{
    if (s.mistake)
        return mistakeJson(c, *s.mistake);
    Json faults = Json::array();
    if (!s.id.empty())
        faults.push_back(s.id);
    return {{"id", s.id.empty() ? "as_drawn" : s.id}, {"kind", s.id.empty() ? "as_drawn" : "fault"},
        {"wires", Json::object()}, {"parameters", Json::object()}, {"faults", faults}, {"harmless", s.id.empty()}};
}

Json candidatesJson(const Circuit& c, const finding::Class& found)
{
    Json candidates = Json::array();
    for (std::size_t k = 0; k < found.candidates.size(); ++k) {
        Json one = suspectJson(c, found.candidates[k]);
        one["joins_the_same"] = Json::array();
        for (const Suspect& s : found.alike[k])
            one["joins_the_same"].push_back(suspectJson(c, s));
        candidates.push_back(std::move(one));
    }
    return candidates;
}

Json readingJson(const Reading& r, Instrument with)
{
    if (!r.word.empty() || unitOf(with).empty())
        return {{"word", r.word}};
    Json j{{"low", r.low < kEndless ? Json(r.low) : Json(nullptr)}};
    j["high"] = r.high < kEndless ? Json(r.high) : Json(nullptr);
    j["unit"] = unitOf(with);
    return j;
}

void addLook(Json& json, const Situation& in, const Look& look)
{
    std::vector<int> lifted;
    for (const WireId w : in.lifted)
        lifted.push_back(w.value);
    json["bring"] = in.bring;
    json["isolated"] = in.isolated;
    json["lifted"] = lifted;
    json["look"] = {{"with", wordOf(look.with)}, {"at", look.at}};
    json["power"] = wordOf(in.power);
}

} // namespace ts::cli
