#include "core/measuring/plan_text.h"

#include <nlohmann/json.hpp>

namespace ts::measuring {
namespace {

using Json = nlohmann::json;

constexpr int kPlanFormat = 2;

Json jsonOf(const Reading& r)
{
    return {r.low < kEndless ? Json(r.low) : Json(nullptr), r.high < kEndless ? Json(r.high) : Json(nullptr), r.word};
}
Reading readingFrom(const Json& j)
{
    const auto number = [](const Json& n) { return n.is_null() ? kEndless : n.get<double>(); };
    return {number(j.at(0)), number(j.at(1)), j.at(2).get<std::string>()};
}

Json jsonOf(const TestStep& s)
{
    Json lifted = Json::array();
    for (const WireId w : s.in.lifted)
        lifted.push_back(w.value);
    return {{"stage", s.stage}, {"power", s.in.power}, {"bring", s.in.bring}, {"isolated", s.in.isolated},
        {"lifted", lifted}, {"with", s.look.with}, {"at", s.look.at}, {"expect", jsonOf(s.expect)},
        {"seconds", s.seconds}, {"covers", s.covers}, {"shows", s.shows}, {"serves", s.serves}};
}

/// Out of what it counts: damaged. Enumerations of this build only, the key has its version.
template <class Enum> Enum within(const Json& j, Enum last)
{
    const auto n = j.get<int>();
    if (n < 0 || n > static_cast<int>(last))
        throw Json::other_error::create(501, "out of range", nullptr);
    return static_cast<Enum>(n);
}

TestStep stepFrom(const Json& j)
{
    TestStep s;
    s.stage = within(j.at("stage"), Stage::Times);
    s.in.power = within(j.at("power"), Power::On);
    j.at("bring").get_to(s.in.bring);
    j.at("isolated").get_to(s.in.isolated);
    for (const Json& w : j.at("lifted"))
        s.in.lifted.push_back(WireId{w.get<int>()});
    s.look.with = within(j.at("with"), Instrument::Person);
    j.at("at").get_to(s.look.at);
    s.expect = readingFrom(j.at("expect"));
    j.at("seconds").get_to(s.seconds);
    j.at("covers").get_to(s.covers);
    j.at("shows").get_to(s.shows);
    j.at("serves").get_to(s.serves);
    s.id = stepId(s.in, s.look);
    return s;
}

Json jsonOf(const Mistake& m)
{
    Json wires = Json::array();
    for (const WireChange& w : m.wires)
        wires.push_back(w.ends ? Json{w.wire.value, w.ends->first.device.value, w.ends->first.marking,
                            w.ends->second.device.value, w.ends->second.marking}
                               : Json{w.wire.value});
    return {{"id", m.id}, {"kind", m.kind}, {"wires", wires}, {"device", m.device.value}, {"contact", m.contact},
        {"coil_v", m.coilV}};
}

Mistake mistakeFrom(const Json& j)
{
    Mistake m;
    j.at("id").get_to(m.id);
    m.kind = within(j.at("kind"), MistakeKind::Inverted);
    for (const Json& w : j.at("wires")) {
        WireChange change{WireId{w.at(0).get<int>()}, {}};
        if (w.size() > 1)
            change.ends = std::pair(TerminalRef{DeviceId{w.at(1).get<int>()}, w.at(2).get<std::string>()},
                TerminalRef{DeviceId{w.at(3).get<int>()}, w.at(4).get<std::string>()});
        m.wires.push_back(std::move(change));
    }
    m.device = DeviceId{j.at("device").get<int>()};
    j.at("contact").get_to(m.contact);
    j.at("coil_v").get_to(m.coilV);
    return m;
}

} // namespace

std::string keptText(const TestPlan& plan)
{
    Json steps = Json::array(), leftOut = Json::array(), hidden = Json::array();
    for (const TestStep& s : plan.steps)
        steps.push_back(jsonOf(s));
    for (const TestStep& s : plan.leftOut)
        leftOut.push_back(jsonOf(s));
    for (const Unshown& h : plan.hidden)
        hidden.push_back({{"id", h.id}, {"reason", h.reason}, {"mistake", h.mistake ? jsonOf(*h.mistake) : Json()}});
    return Json{{"format", kPlanFormat}, {"steps", steps}, {"left_out", leftOut}, {"not_insulated", plan.notInsulated},
        {"stops", plan.stops}, {"mistakes", plan.mistakes}, {"faults", plan.faults}, {"revealed", plan.revealed},
        {"harmless", plan.harmless}, {"hidden", hidden}}
        .dump();
}

std::optional<TestPlan> planFrom(std::string_view text)
{
    const Json j = Json::parse(text, nullptr, false);
    if (j.is_discarded() || !j.is_object() || j.value("format", 0) != kPlanFormat)
        return std::nullopt;
    try { // the one way in which the library says that a value is missing or of another kind
        TestPlan plan;
        for (const Json& s : j.at("steps"))
            plan.steps.push_back(stepFrom(s));
        for (const Json& s : j.at("left_out"))
            plan.leftOut.push_back(stepFrom(s));
        j.at("not_insulated").get_to(plan.notInsulated);
        j.at("stops").get_to(plan.stops);
        j.at("mistakes").get_to(plan.mistakes);
        j.at("faults").get_to(plan.faults);
        j.at("revealed").get_to(plan.revealed);
        j.at("harmless").get_to(plan.harmless);
        for (const Json& h : j.at("hidden")) {
            Unshown u{h.at("id").get<std::string>(), within(h.at("reason"), Hidden::NotModelled), {}};
            if (!h.at("mistake").is_null())
                u.mistake = mistakeFrom(h.at("mistake"));
            plan.hidden.push_back(std::move(u));
        }
        return plan;
    } catch (const Json::exception&) {
        return std::nullopt;
    }
}

} // namespace ts::measuring
