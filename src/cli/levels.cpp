// levels FILE: each function's chain with every intermediate value, and its stop as read from the run.

#include "cli/standing.h"
#include "core/library/table.h"
#include "wording/level_pictures.h"
#include "wording/wording.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include <set>

namespace ts::cli {
namespace {

using safety::ExplainedValue;
using safety::FunctionLevel;
using safety::SubsystemLevel;
using Json = nlohmann::ordered_json;

std::string said(const Message& m)
{
    return wording::sentence(m);
}

std::string said(const ExplainedValue& v)
{
    static constexpr const char* kBasis[] = {
        "basis.entered", "basis.part", "basis.clause", "basis.textbook", "basis.assumed", "basis.typical"};
    return fmt::format("{} {} = {}   [{}; {}: {}]", v.subject, wording::word(v.what), wording::number(v.si, v.unit),
        wording::word(v.formula), wording::word(kBasis[static_cast<int>(v.basis)]), v.source);
}

std::string verdict(const FunctionLevel& f)
{
    if (!f.level)
        return said(message("level.none"));
    return said(
        message(f.conditionsAnswered ? "level.reached" : "level.in_range", {std::string(safety::nameOf(*f.level))}));
}

/// A value after the inputs it rests on; what was entered or looked up stands once, with its own source.
void printValue(const FunctionLevel& f, int index, const char* indent, std::set<int>& printed, Session& s)
{
    if (index < 0)
        return;
    for (int i : f.explanation[index].inputs)
        if (f.explanation[i].inputs.empty() && printed.insert(i).second)
            s.out << indent << said(f.explanation[i]) << '\n';
    printed.insert(index);
    s.out << indent << said(f.explanation[index]) << '\n';
}

void printSubsystem(const FunctionLevel& f, const SubsystemLevel& s, std::set<int>& printed, Session& out)
{
    out.out << "  " << s.name << (s.category.empty() ? "" : ", category " + s.category) << '\n';
    for (const auto& c : s.channels) {
        out.out << "    channel " << c.name << '\n';
        for (const auto& p : c.parts)
            for (int i : {p.operations, p.mttfd, p.t10d, p.coverage})
                printValue(f, i, "      ", printed, out);
        for (int i : {c.mttfd, c.capped == c.mttfd ? -1 : c.capped})
            printValue(f, i, "      ", printed, out);
    }
    for (int i : {s.channels.size() > 1 ? s.mttfd : -1, s.coverage, s.commonCause, s.pfhd})
        printValue(f, i, "    ", printed, out);
    for (const safety::Condition& c : s.conditions)
        out.out << fmt::format("    {:<9}{}: {}\n", wording::word("met." + std::string(safety::nameOf(c.met))),
            said(c.wanted), said(c.found));
    for (const Message& m : s.unmet)
        out.out << "    not met: " << said(m) << '\n';
    if (s.best)
        out.out << "    " << said(message("level.best_category", {s.name, std::string(safety::nameOf(*s.best))}))
                << '\n';
}

void printStop(const FunctionResult& r, Session& s)
{
    if (!r.nominal || !r.slow)
        s.out << "  stop: " << said(r.stopTrouble) << '\n';
    for (const auto* run : {&r.nominal, &r.slow})
        if (*run)
            for (const auto& a : (*run)->actuators) {
                s.out << "  " << a.tag << (run == &r.slow ? " (slow limit): " : ": ")
                      << (a.category ? said(message("stop.category", {std::to_string(*a.category)}))
                                     : said(message("stop.none")))
                      << ", " << said(a.why);
                if (a.removedAfter && a.restAfter)
                    s.out << "; "
                          << said(message("evidence.stop",
                                 {Measured{a.removedAfter->si(), "s"}, Measured{a.restAfter->si(), "s"}}));
                s.out << '\n';
            }
}

void printText(const Dossier& d, const Analysis& a, const Standing& standing, Session& s)
{
    for (std::size_t i = 0; i < a.functions.size(); ++i) {
        const FunctionLevel& f = a.functions[i].level;
        s.out << d.functions[i].name << ": as claimed " << verdict(f);
        if (f.required)
            s.out << ", required PL " << safety::nameOf(*f.required);
        if (f.pfhd >= 0)
            s.out << ", PFHd " << wording::number(f.explanation[f.pfhd].si, "1/h");
        s.out << " (edition 2015, method " << kMethod.wordIn(d.arithmetic) << ")\n";
        printVerdict(standing.verdicts[i], "  ", s);
        std::set<int> printed;
        for (const SubsystemLevel& sub : f.subsystems)
            printSubsystem(f, sub, printed, s);
        for (const Message& m : f.unmet)
            s.out << "  not met: " << said(m) << '\n';
        for (const std::string& line : wording::markovLines(f, d.arithmetic))
            s.out << "  " << line << '\n';
        printStop(a.functions[i], s);
        for (const Message& m : f.assumptions)
            s.out << "  assumed: " << said(m) << '\n';
    }
    for (const Message& m : a.assumptions)
        s.out << "assumed: " << said(m) << '\n';
    s.out << said(message("caution.text")) << '\n';
}

Json jsonOf(const std::vector<Message>& messages)
{
    Json list = Json::array();
    for (const Message& m : messages)
        list.push_back(m.id);
    return list;
}

Json jsonOf(const std::vector<safety::Condition>& conditions)
{
    Json list = Json::array();
    for (const safety::Condition& c : conditions)
        list.push_back({{"condition", safety::nameOf(c.demand)}, {"met", safety::nameOf(c.met)}});
    return list;
}

Json jsonOf(const SubsystemLevel& s)
{
    Json channels = Json::array();
    for (const auto& c : s.channels) {
        Json parts = Json::array();
        for (const auto& p : c.parts)
            parts.push_back({{"device", p.tag}, {"role", p.role}, {"operations", p.operations}, {"mttfd", p.mttfd},
                {"t10d", p.t10d}, {"dc", p.coverage}});
        channels.push_back({{"name", c.name}, {"mttfd", c.mttfd}, {"capped", c.capped}, {"parts", parts}});
    }
    return {{"name", s.name}, {"encapsulated", s.isEncapsulated}, {"category", s.category},
        {"level", s.level ? Json(safety::nameOf(*s.level)) : Json()}, {"mttfd", s.mttfd}, {"dc_average", s.coverage},
        {"ccf", s.commonCause}, {"pfhd", s.pfhd}, {"channels", channels}, {"unmet", jsonOf(s.unmet)},
        {"conditions", jsonOf(s.conditions)}, {"best_category", s.best ? Json(safety::nameOf(*s.best)) : Json()}};
}

Json stopJson(const std::optional<StopRun>& run)
{
    Json list = Json::array();
    if (run)
        for (const auto& a : run->actuators)
            list.push_back({{"actuator", a.tag}, {"category", a.category ? Json(*a.category) : Json()},
                {"power_removed_s", a.removedAfter ? Json(a.removedAfter->si()) : Json()},
                {"at_rest_s", a.restAfter ? Json(a.restAfter->si()) : Json()}, {"terminals_live", a.terminalsLive},
                {"why", a.why.id}});
    return list;
}

void printJson(const Dossier& d, const Analysis& a, const Standing& standing, Session& s)
{
    Json functions = Json::array();
    for (std::size_t i = 0; i < a.functions.size(); ++i) {
        const FunctionLevel& f = a.functions[i].level;
        Json values = Json::array();
        for (const ExplainedValue& v : f.explanation.values)
            values.push_back({{"subject", v.subject}, {"what", v.what}, {"si", v.si}, {"unit", v.unit},
                {"formula", v.formula}, {"inputs", v.inputs}, {"source", v.source}});
        Json subsystems = Json::array();
        for (const SubsystemLevel& sub : f.subsystems)
            subsystems.push_back(jsonOf(sub));
        functions.push_back({{"id", d.functions[i].id.value}, {"name", d.functions[i].name},
            {"level", f.level ? Json(safety::nameOf(*f.level)) : Json()},
            {"required", f.required ? Json(safety::nameOf(*f.required)) : Json()},
            {"verdict", cli::jsonOf(standing.verdicts[i])}, {"conditions_answered", f.conditionsAnswered},
            {"pfhd", f.pfhd}, {"values", values}, {"subsystems", subsystems}, {"unmet", jsonOf(f.unmet)},
            {"assumptions", jsonOf(f.assumptions)}, {"stop", stopJson(a.functions[i].nominal)},
            {"stop_slow_limit", stopJson(a.functions[i].slow)}});
    }
    print({{"format", "levels-1"}, {"edition", "2015"}, {"method", kMethod.wordIn(d.arithmetic)},
              {"functions", functions}, {"assumptions", jsonOf(a.assumptions)}},
        s);
}

/// One line a value: everything that is calculated, with its formula and where it comes from.
void printCsv(const Dossier& d, const Analysis& a, Session& s)
{
    s.out << "function,subject,value,number,unit,formula,source\n";
    for (std::size_t i = 0; i < a.functions.size(); ++i)
        for (const ExplainedValue& v : a.functions[i].level.explanation.values)
            s.out << csvCell(d.functions[i].name) << ',' << csvCell(v.subject) << ',' << csvCell(wording::word(v.what))
                  << ',' << shortestText(v.si) << ',' << csvCell(v.unit) << ',' << csvCell(wording::word(v.formula))
                  << ',' << csvCell(v.source) << '\n';
}

} // namespace

int levels(const Request& r, Session& s)
{
    const auto w = worked(r, s);
    if (!w)
        return fail(w.error(), s);
    const Dossier& dossier = w->file.dossier;
    const auto analysis = w->results.find(kLevels);
    const Standing standing = standingOf(dossier, w->results);
    if (r.json)
        printJson(dossier, *analysis, standing, s);
    else if (r.csv)
        printCsv(dossier, *analysis, s);
    else
        printText(dossier, *analysis, standing, s);
    return exitCodeOf(standing);
}

} // namespace ts::cli
