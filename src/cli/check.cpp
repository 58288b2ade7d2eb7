// check FILE: the verdict on each function, the findings of all design checks, and what was not looked at.

#include "cli/standing.h"
#include "wording/bridge_words.h"
#include "wording/record_words.h"
#include "wording/wording.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace ts::cli {
namespace {

using Json = nlohmann::ordered_json;

std::string word(const std::string& id)
{
    return wording::word(id);
}

void printMissing(const Dossier& d, const CheckMade& c, Session& s)
{
    for (const NotLookedAt& n : c.missing) {
        const SafetyFunction* f = d.function(n.subject.function());
        const Device* motor = d.circuit.device(n.subject.motor());
        s.out << "  " << word("study." + n.study)
              << (f              ? ": " + f->name
                         : motor ? ": " + motor->tag
                                 : std::string())
              << ": " << (n.why.id.empty() ? word("check.not_run") : wording::sentence(n.why)) << '\n';
    }
}

void printText(const DossierFile& file, const Standing& standing, const std::string& group, Session& s)
{
    const Dossier& d = file.dossier;
    for (const FunctionVerdict& v : standing.verdicts) {
        s.out << d.function(v.function)->name << '\n';
        printVerdict(v, "  ", s);
    }
    s.out << '\n';
    for (const CheckMade& c : standing.checked.checks) {
        s.out << word(c.isAboutNothing() ? "check.nothing"
                : c.isWhole()            ? "check.made"
                : c.isNotMade()          ? "check.not_made"
                                         : "check.in_part")
              << ": " << word("check." + c.id) << " (" << c.clause << ")\n";
        printMissing(d, c, s);
    }
    const std::vector<Finding>& findings = standing.checked.findings;
    for (const Finding& f : findings) {
        s.out << '\n'
              << word("severity." + std::string(nameOf(f.severity))) << ": " << wording::sentence(f.what) << '\n';
        for (const auto& [label, text] :
            {std::pair{"what may happen", wording::sentence(f.consequence)}, {"what to do", wording::sentence(f.mend)},
                {"rests on", wording::sentence(f.evidence)}, {"look up", f.clause}})
            s.out << "  " << label << ": " << text << '\n';
        if (const std::string accepted = wording::acceptedText(file.record, f); !accepted.empty())
            s.out << "  " << accepted << '\n';
    }
    s.out << '\n' << findings.size() << (findings.size() == 1 ? " finding" : " findings");
    if (!standing.checked.isWhole())
        s.out << "; not everything was looked at (see above; --all runs what takes its time)";
    if (!group.empty())
        s.out << '\n' << wording::said("check.only_group", {word("group." + group)});
    if (const std::string broken = wording::brokenText(file.record); !broken.empty())
        s.out << '\n' << broken;
    for (const RecordEntry& e : record::bypassesInForce(file.record))
        s.out << '\n' << wording::bypassText(e, "");
    s.out << '\n' << word("caution.text") << '\n';
}

/// Null where nobody has.
Json acceptedOf(const std::vector<RecordEntry>& record, const Finding& f)
{
    const auto accepted = record::acceptanceOf(record, f, wording::sentence(f.what));
    return accepted ? Json{{"who", accepted->entry.who}, {"role", accepted->entry.role}, {"date", accepted->entry.date},
               {"why", accepted->entry.text}, {"reads_the_same", accepted->readsTheSame}}
                    : Json();
}

void printJson(const DossierFile& file, const Standing& standing, Session& s)
{
    const Dossier& d = file.dossier;
    Json list = Json::array(), checks = Json::array(), verdicts = Json::array();
    for (const Finding& f : standing.checked.findings)
        list.push_back(
            {{"id", f.id}, {"severity", nameOf(f.severity)}, {"devices", f.devices}, {"what", jsonOf(f.what)},
                {"consequence", jsonOf(f.consequence)}, {"mend", jsonOf(f.mend)}, {"evidence", jsonOf(f.evidence)},
                {"clause", f.clause}, {"next", nameOf(f.remedy)}, {"accepted", acceptedOf(file.record, f)}});
    for (const CheckMade& c : standing.checked.checks)
        checks.push_back(jsonOf(c));
    for (const FunctionVerdict& v : standing.verdicts)
        verdicts.push_back(
            {{"function", v.function.value}, {"name", d.function(v.function)->name}, {"verdict", jsonOf(v)}});
    Json bridged = Json::array();
    for (const RecordEntry& e : record::bypassesInForce(file.record))
        bridged.push_back(
            {{"from", e.bypass->from}, {"to", e.bypass->to}, {"owner", e.bypass->owner}, {"until", e.bypass->until}});
    print({{"format", "check-2"}, {"verdicts", verdicts}, {"checks", checks}, {"findings", list}, {"bridged", bridged}},
        s);
}

std::string examplesOf(const Check& c)
{
    return word("example." + std::string(c.id));
}

/// All there are, in their groups.
int listChecks(Session& s)
{
    for (const Check& c : allChecks())
        s.out << fmt::format("{:<20} {:<26} {} ({})\n", c.id, word("group." + std::string(c.group)),
            word("check." + std::string(c.id)), c.clause);
    return kInOrder;
}

int explain(const Request& r, Session& s)
{
    const Check* c = checkNamed(r.explain);
    if (!c) {
        std::string known;
        for (const Check& each : allChecks())
            known += (known.empty() ? "" : ", ") + std::string(each.id);
        return fail({ErrorCode::NotFound, message("check.unknown", {r.explain, known})}, s);
    }
    s.out << word("check." + std::string(c->id)) << " (" << c->clause << ")\n"
          << "  group: " << word("group." + std::string(c->group)) << '\n'
          << "  reads: " << (c->needs.empty() ? word("check.reads_file") : word("study." + std::string(c->needs)))
          << '\n'
          << "  finds, for example: " << examplesOf(*c) << '\n';
    return kInOrder;
}

/// What the checks of one group read; with `withLong` also what takes its time.
std::vector<std::string_view> studiesOf(const std::string& group, bool withLong)
{
    std::vector<std::string_view> studies{kLevels.id};
    for (const Check& c : allChecks())
        if (const Study* s = c.group == group ? studyNamed(c.needs) : nullptr; s && (withLong || s->cost != Cost::Long))
            studies.push_back(s->id);
    return studies;
}

/// Of a group no verdict on a function is given: it rests on all of them.
int exitCodeOf(const Checked& group)
{
    return group.hasFaultFound() ? kFindings : group.isWhole() ? kInOrder : kNotLookedAt;
}

/// Only what belongs to one group.
void keepGroup(const std::string& group, Standing& standing)
{
    standing.verdicts.clear();
    Checked& checked = standing.checked;
    const auto isOther = [&group](const auto& entry) {
        const Check* c = checkNamed(entry.id);
        return !c || c->group != group;
    };
    std::erase_if(checked.findings, isOther);
    std::erase_if(checked.checks, isOther);
}

} // namespace

int check(const Request& r, Session& s)
{
    if (r.lists)
        return listChecks(s);
    if (!r.explain.empty())
        return explain(r, s);
    if (r.file.empty())
        return fail({ErrorCode::Syntax, message("check.no_file")}, s);
    WorkOptions options;
    if (!r.group.empty())
        options.only = studiesOf(r.group, r.all);
    const auto w = worked(r, s, options);
    if (!w)
        return fail(w.error(), s);
    Standing standing = standingOf(w->file.dossier, w->results);
    if (!r.group.empty())
        keepGroup(r.group, standing);
    r.json ? printJson(w->file, standing, s) : printText(w->file, standing, r.group, s);
    return record::bypassesInForce(w->file.record).empty()
        ? r.group.empty() ? exitCodeOf(standing) : exitCodeOf(standing.checked)
        : kFindings;
}

} // namespace ts::cli
