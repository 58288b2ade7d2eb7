// check FILE: the findings of all design checks.

#include "cli/commands.h"
#include "wording/wording.h"

#include <nlohmann/json.hpp>

namespace ts::cli {
namespace {

constexpr std::string_view nameOf(Severity s)
{
    return s == Severity::Stop ? "stop" : s == Severity::Fix ? "fix" : "note";
}

std::string said(const Message& m)
{
    return wording::sentence(m).toStdString();
}

nlohmann::ordered_json jsonOf(const Message& m);

nlohmann::ordered_json jsonOf(const Phrases& phrases)
{
    nlohmann::ordered_json list = nlohmann::ordered_json::array();
    for (const Message& m : phrases)
        list.push_back(jsonOf(m));
    return list;
}

nlohmann::ordered_json jsonOf(const Message& m)
{
    nlohmann::ordered_json arguments = nlohmann::ordered_json::array();
    for (const Argument& a : m.arguments) {
        if (const auto* measured = std::get_if<Measured>(&a))
            arguments.push_back({{"si", measured->si}, {"unit", measured->unit}});
        else if (const auto* whole = std::get_if<long long>(&a))
            arguments.push_back(*whole);
        else if (const auto* phrases = std::get_if<Phrases>(&a))
            arguments.push_back(jsonOf(*phrases));
        else
            arguments.push_back(std::get<std::string>(a));
    }
    return {{"id", m.id}, {"arguments", arguments}};
}

void printText(const std::vector<Finding>& findings, Session& s)
{
    for (const Check& c : allChecks())
        s.out << "checked: " << wording::word("check." + std::string(c.id)).toStdString() << " (" << c.clause << ")\n";
    for (const Finding& f : findings) {
        s.out << '\n'
              << wording::word("severity." + std::string(nameOf(f.severity))).toStdString() << ": " << said(f.what)
              << '\n';
        for (const auto& [label, text] : {std::pair{"what may happen", said(f.consequence)},
                 {"what to do", said(f.mend)}, {"rests on", said(f.evidence)}, {"look up", f.clause}})
            s.out << "  " << label << ": " << text << '\n';
    }
    s.out << '\n'
          << findings.size() << (findings.size() == 1 ? " finding\n" : " findings\n")
          << wording::word("caution.text").toStdString() << '\n';
}

void printJson(const std::vector<Finding>& findings, Session& s)
{
    nlohmann::ordered_json list = nlohmann::ordered_json::array();
    for (const Finding& f : findings)
        list.push_back({{"id", f.id}, {"severity", nameOf(f.severity)}, {"devices", f.devices},
            {"what", jsonOf(f.what)}, {"consequence", jsonOf(f.consequence)}, {"mend", jsonOf(f.mend)},
            {"evidence", jsonOf(f.evidence)}, {"clause", f.clause}});
    nlohmann::ordered_json checks = nlohmann::ordered_json::array();
    for (const Check& c : allChecks())
        checks.push_back(c.id);
    print({{"format", "check-1"}, {"checks", checks}, {"findings", list}}, s);
}

} // namespace

int check(const Request& r, Session& s)
{
    const auto all = analysed(r, s);
    if (!all)
        return fail(all.error(), s);
    r.json ? printJson(all->analysis.findings, s) : printText(all->analysis.findings, s);
    return all->analysis.findings.empty() ? kInOrder : kFindings;
}

} // namespace ts::cli
