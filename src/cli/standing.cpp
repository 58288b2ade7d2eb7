#include "cli/standing.h"

#include "core/io/dossier_file.h"
#include "core/results/on_record.h"
#include "host/process.h"
#include "wording/verdict_texts.h"
#include "wording/wording.h"

#include <nlohmann/json.hpp>

namespace ts::cli {
namespace {

using Json = nlohmann::ordered_json;

Json jsonOf(const std::optional<safety::Level>& level)
{
    return level ? Json(safety::nameOf(*level)) : Json();
}

/// "unknown.condition environment", "unknown.routes 3": the id, and what it is of.
std::string unknownName(const Message& m)
{
    std::string name = m.id;
    for (const Argument& a : m.arguments)
        if (const auto* count = std::get_if<long long>(&a))
            name += " " + std::to_string(*count);
        else if (const auto* text = std::get_if<std::string>(&a))
            name += " " + (text->starts_with('@') ? text->substr(1) : *text);
    return name;
}

} // namespace

Expected<Worked> worked(const Request& r, Session& s, WorkOptions options)
{
    auto file = io::loadDossier(r.file);
    if (!file)
        return Unexpected{file.error()};
    Worked w{std::move(*file), {}};
    options.withLong = options.withLong || r.all;
    options.memoryInUse = host::memoryInUse;
    const io::ResultStore store(r.keptIn());
    options.kept = &store;
    options.onBegin = [&s, &w](const Study& study, const Subject& subject, const WorkProgress&) {
        if (study.cost != Cost::Long)
            return;
        const SafetyFunction* f = w.file.dossier.function(subject.function());
        const Device* motor = w.file.dossier.circuit.device(subject.motor());
        s.err << wording::word("study." + std::string(study.id))
              << (f              ? ": " + f->name
                         : motor ? ": " + motor->tag
                                 : std::string())
              << '\n';
    };
    w.results.put(kOnRecord.id, {}, Value::of(OnRecord{w.file.record, r.day.empty() ? host::today() : r.day}));
    if (auto done = workOut(w.file.dossier, options, w.results, s.stop); !done)
        return Unexpected{done.error()};
    if (const Error* trouble = w.results.trouble(kLevels.id, {}))
        return Unexpected{*trouble};
    return w;
}

Json jsonOf(const FunctionVerdict& v)
{
    Json unknown = Json::array();
    for (const Message& m : v.notKnown)
        unknown.push_back(unknownName(m));
    return {{"answer", nameOf(v.answer)}, {"tried", nameOf(v.extent)}, {"level", jsonOf(v.counting())},
        {"claimed", jsonOf(v.claimed)}, {"built", jsonOf(v.built)}, {"at_most", jsonOf(v.atMost)},
        {"required", jsonOf(v.required)}, {"not_known", std::move(unknown)}};
}

Json jsonOf(const Message& m)
{
    Json arguments = Json::array();
    for (const Argument& a : m.arguments) {
        if (const auto* measured = std::get_if<Measured>(&a)) {
            arguments.push_back({{"si", measured->si}, {"unit", measured->unit}});
        } else if (const auto* whole = std::get_if<long long>(&a)) {
            arguments.push_back(*whole);
        } else if (const auto* phrases = std::get_if<Phrases>(&a)) {
            Json list = Json::array();
            for (const Message& phrase : *phrases)
                list.push_back(jsonOf(phrase));
            arguments.push_back(std::move(list));
        } else {
            arguments.push_back(std::get<std::string>(a));
        }
    }
    return {{"id", m.id}, {"arguments", arguments}};
}

Json jsonOf(const CheckMade& c)
{
    Json missing = Json::array();
    for (const NotLookedAt& n : c.missing)
        missing.push_back(
            {{"study", n.study}, {"subject", n.subject.id}, {"why", n.why.id.empty() ? Json() : Json(n.why.id)}});
    return {{"id", c.id},
        {"made",
            c.isAboutNothing()  ? "nothing"
                : c.isWhole()   ? "whole"
                : c.isNotMade() ? "not"
                                : "in_part"},
        {"missing", std::move(missing)}};
}

void printVerdict(const FunctionVerdict& v, std::string_view indent, Session& s)
{
    s.out << indent << wording::verdictText(v) << '\n';
    for (const Message& m : v.notKnown)
        s.out << indent << "  " << wording::sentence(message("unknown.line", {Phrases{m}})) << '\n';
}

int exitCodeOf(const Standing& standing)
{
    switch (standing.word()) {
    case Standing::Word::InOrder:
        return kInOrder;
    case Standing::Word::Findings:
        return kFindings;
    case Standing::Word::NotLookedAt:
        return kNotLookedAt;
    }
    return kUnusable;
}

} // namespace ts::cli
