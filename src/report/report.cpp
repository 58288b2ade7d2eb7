#include "report/report.h"

#include "core/diagram/control_layout.h"
#include "core/diagram/power_layout.h"
#include "core/figures/figure_svg.h"
#include "core/figures/scene_svg.h"
#include "core/studies/standing.h"
#include "report/function_sheet.h"
#include "report/tested.h"
#include "report/tried.h"
#include "wording/bridge_words.h"
#include "wording/cautions.h"
#include "wording/event_text.h"
#include "wording/level_pictures.h"
#include "wording/path_words.h"
#include "wording/record_words.h"
#include "wording/skyline_words.h"
#include "wording/verdict_texts.h"

#include <fmt/format.h>

#include <algorithm>
#include <set>

namespace ts::report {
namespace {

using figures::escaped;

using safety::ExplainedValue;
using safety::FunctionLevel;
using safety::SubsystemLevel;

constexpr std::string_view kStyle = R"(
body{font-family:"Sentry Sans","DejaVu Sans",sans-serif;font-size:13px;color:#17232A;background:#fff;
max-width:1000px;margin:32px auto;padding:0 24px;line-height:1.45}
h1{font-size:24px;margin:0 0 4px} h3{font-size:14px;margin:20px 0 4px}
h2{font-size:18px;margin:36px 0 8px;border-bottom:1px solid #B9C0BC;padding-bottom:4px}
table{border-collapse:collapse;width:100%}
th,td{text-align:left;vertical-align:top;padding:3px 12px 3px 0;border-bottom:1px solid #e2e5e2}
td.n{white-space:nowrap;font-family:"Sentry Mono","DejaVu Sans Mono",monospace}
.chain{table-layout:fixed} .chain td:nth-child(1){width:14%}
.chain td:nth-child(2){width:20%} .chain td:nth-child(3){width:13%}
.quiet{color:#5b676c} .caution{border:2px solid #17232A;padding:8px 12px;margin:16px 0}
.verdict{font-size:20px;font-weight:bold}
svg{max-width:100%;height:auto;margin:8px 0}
@media print{body{margin:0}h2{page-break-after:avoid}svg,table{page-break-inside:avoid}}
)";

class Writer {
public:
    Writer(const Dossier& d, const Analysis& a, const Results& results, record::Entries entries)
        : m_dossier(d)
        , m_record(entries)
        , m_analysis(a)
        , m_results(results)
        , m_standing(standingOf(d, results))
    {
    }

    Expected<std::string> written()
    {
        const auto graph = diagram::wiredGraph(m_dossier.circuit);
        if (!graph)
            return Unexpected{graph.error()};
        head();
        verdicts();
        skyline();
        for (std::size_t i = 0; i < m_dossier.functions.size(); ++i)
            function(m_dossier.functions[i], m_analysis.functions[i]);
        findings();
        const auto tried = triedHtml(m_dossier, m_results);
        if (!tried)
            return Unexpected{tried.error()};
        m_out += *tried;
        m_out += testedHtml(m_dossier, m_results, m_record);
        const auto control = diagram::controlDrawing(*graph);
        heading("report.control");
        m_out += figures::sceneSvg(control.scene, word("report.control"));
        if (!control.unwired.empty()) {
            std::string list;
            for (const std::string& u : control.unwired)
                list += (list.empty() ? "" : ", ") + u;
            paragraph(word("report.unwired") + ": " + list, "quiet");
        }
        heading("report.power");
        m_out += figures::sceneSvg(diagram::powerDrawing(*graph), word("report.power"));
        wires();
        choices();
        assumptions();
        m_out += "</body></html>\n";
        return std::move(m_out);
    }

private:
    std::string word(std::string_view id) const { return wording::word(id); }
    std::string said(const Message& m) const { return wording::sentence(m); }
    void heading(std::string_view id) { m_out += fmt::format("<h2>{}</h2>\n", escaped(word(id))); }
    void paragraph(std::string_view text, std::string_view style = {})
    {
        m_out += style.empty() ? fmt::format("<p>{}</p>\n", escaped(text))
                               : fmt::format("<p class=\"{}\">{}</p>\n", style, escaped(text));
    }
    void row(const std::vector<std::string>& cells, std::size_t numeric = 99)
    {
        m_out += "<tr>";
        for (std::size_t i = 0; i < cells.size(); ++i)
            m_out += fmt::format("<td{}>{}</td>", i == numeric ? " class=\"n\"" : "", escaped(cells[i]));
        m_out += "</tr>\n";
    }

    void head()
    {
        const Machine& m = m_dossier.machine;
        m_out = fmt::format(
            "<!DOCTYPE html>\n<html lang=\"en\"><head><meta charset=\"utf-8\"><title>{}</title>\n<style>",
            escaped(m.name));
        m_out += figures::fontRules();
        m_out += kStyle;
        m_out += figures::kDrawingStyle;
        m_out += fmt::format("</style></head><body>\n<h1>{}</h1>\n", escaped(m.name));
        paragraph(m.site, "quiet");
        m_out += "<div class=\"caution\">" + escaped(word("caution.text")) + "</div>\n";
        for (const RecordEntry& e : record::bypassesInForce(m_record))
            m_out += "<div class=\"caution\">" + escaped(wording::bypassText(e, "")) + "</div>\n";
        paragraph(said(message("report.duty", {Measured{m.duty.daysPerYear, ""}, Measured{m.duty.hoursPerDay, ""}})));
        paragraph(said(message("report.method", {"@method." + std::string(kMethod.wordIn(m_dossier.arithmetic))})));
    }

    /// What counts, first: the worse of claimed and built, and what is not known.
    void verdicts()
    {
        if (m_dossier.functions.empty())
            return paragraph(word("report.no_function"));
        m_out += fmt::format("<h2>{}</h2>\n<table>", escaped(word("report.built_against_claimed")));
        for (const FunctionVerdict& v : m_standing.verdicts) {
            std::string unknown;
            for (const Message& m : v.notKnown)
                unknown += (unknown.empty() ? "" : ", ") + said(m);
            row({m_dossier.function(v.function)->name, wording::verdictText(v),
                unknown.empty() ? "" : said(message("unknown.line", {unknown}))});
        }
        m_out += "</table>\n";
    }

    void skyline()
    {
        if (m_dossier.functions.empty())
            return;
        m_out += figures::figureSvg(wording::skylineFigure(m_dossier, m_results, 900, 560), word("report.skyline"));
    }

    void function(const SafetyFunction& f, const FunctionResult& r)
    {
        m_out += fmt::format("<h2>{}</h2>\n", escaped(f.name));
        const auto path = m_results.find(kPath, about(f.id));
        if (path)
            m_out += "<p>"
                + figures::figureSvg(
                    wording::pathFigure(m_dossier, f, r, *path, m_results.find(kBuilt, about(f.id)).get()),
                    word("path.heading"))
                + "</p>\n";
        for (const std::string& caution : wording::stopCautions(m_dossier, path.get(), &r))
            m_out += fmt::format("<div class=\"caution\">{}</div>\n", escaped(caution));
        const auto single = m_results.find(kSingleFaults, about(f.id)),
                   second = m_results.find(kSecondFaults, about(f.id));
        m_out += functionSheet(m_dossier, f, r, widerOf(single.get(), second.get()));
        for (const FunctionVerdict& v : m_standing.verdicts)
            if (v.function == f.id)
                m_out += fmt::format("<p class=\"verdict\">{}</p>\n", escaped(wording::verdictText(v)));
        paragraph(said(message("report.claim_says", {verdict(r.level)})));
        m_printed.clear();
        levelTables(r.level);
        stop(r);
    }

    std::string verdict(const FunctionLevel& f) const
    {
        if (!f.level)
            return said(message("level.none"));
        const std::string level(safety::nameOf(*f.level));
        const std::string reached = said(message(f.conditionsAnswered ? "level.reached" : "level.in_range", {level}));
        return f.pfhd < 0 ? reached : reached + ", PFHd " + wording::number(f.explanation[f.pfhd].si, "1/h");
    }

    void levelTables(const FunctionLevel& f)
    {
        for (const Message& m : f.unmet)
            paragraph(said(m));
        for (const SubsystemLevel& s : f.subsystems) {
            m_out += fmt::format("<h3>{}{}</h3>\n<table class=\"chain\">", escaped(s.name),
                escaped(s.category.empty() ? "" : ", " + word("report.category") + " " + s.category));
            for (const auto& c : s.channels) {
                for (const auto& p : c.parts)
                    for (int i : {p.operations, p.mttfd, p.t10d, p.coverage})
                        value(f, i);
                value(f, c.mttfd);
                if (c.capped != c.mttfd)
                    value(f, c.capped);
            }
            for (int i : {s.channels.size() > 1 ? s.mttfd : -1, s.coverage, s.commonCause, s.pfhd})
                value(f, i);
            m_out += "</table>\n";
            for (const Message& m : s.unmet)
                paragraph(said(m));
        }
        m_out += "<h3>" + escaped(word("report.total")) + "</h3>\n<table class=\"chain\">";
        value(f, f.pfhd);
        m_out += "</table>\n";
    }

    void value(const FunctionLevel& f, int index)
    {
        if (index < 0)
            return;
        const ExplainedValue& v = f.explanation[index];
        for (int i : v.inputs) // what was entered or looked up stands with its own source, once
            if (f.explanation[i].inputs.empty() && m_printed.insert(i).second)
                value(f, i);
        m_printed.insert(index);
        std::string inputs;
        for (int i : v.inputs)
            inputs += fmt::format("{}{} {}", inputs.empty() ? ": " : ", ", word(f.explanation[i].what),
                wording::number(f.explanation[i].si, f.explanation[i].unit));
        row({v.subject, word(v.what), wording::number(v.si, v.unit), word(v.formula) + inputs,
                word(std::string("basis.") + basisName(v.basis)) + "; " + v.source},
            2);
    }

    static const char* basisName(Basis b)
    {
        static constexpr const char* kNames[] = {"entered", "part", "clause", "textbook", "assumed", "typical"};
        return kNames[static_cast<int>(b)];
    }

    void stop(const FunctionResult& r)
    {
        m_out += fmt::format("<h3>{}</h3>\n", escaped(word("report.stop")));
        if (!r.nominal || !r.slow)
            return paragraph(said(r.stopTrouble));
        m_out += "<table>";
        for (const auto& [label, run] : {std::pair{"report.nominal", &r.nominal}, {"report.slow", &r.slow}})
            for (const auto& a : (*run)->actuators) {
                const std::string what = a.category ? said(message("stop.category", {std::to_string(*a.category)}))
                                                    : word("stop.none");
                std::string times;
                if (a.removedAfter && a.restAfter)
                    times = said(message(
                        "evidence.stop", {Measured{a.removedAfter->si(), "s"}, Measured{a.restAfter->si(), "s"}}));
                row({a.tag, word(label), what, said(a.why), times});
            }
        m_out += "</table>\n<h3>" + escaped(word("report.trace")) + "</h3>\n<table>";
        const Trace& trace = r.nominal->run.trace;
        for (std::size_t i = 0; i < trace.events.size(); ++i)
            if (const std::string text = wording::eventText(*m_analysis.plant, trace.events[i]);
                !text.empty() && wording::isNews(trace, i))
                row({fmt::format("{:.5f} s", secondsOf(trace.events[i].at).si()), text}, 0);
        m_out += "</table>\n";
        for (const ExpectationResult& x : r.nominal->run.expectations)
            if (!x.isMet)
                paragraph(said(message("expect.not_met",
                    {Measured{x.expectation.atS, "s"}, x.expectation.subject, "@state." + x.expectation.state})));
    }

    void findings()
    {
        heading("report.findings");
        if (const std::string broken = wording::brokenText(m_record); !broken.empty())
            paragraph(broken);
        m_out += "<p>";
        for (const CheckMade& c : m_standing.checked.checks)
            if (c.isWhole())
                m_out += (c.isAboutNothing() ? escaped(word("check.nothing")) + ": " : "")
                    + escaped(word("check." + c.id)) + " (" + escaped(c.clause) + ")<br>";
        m_out += "</p>\n";
        notLookedAt();
        if (m_standing.checked.findings.empty())
            paragraph(word(m_standing.checked.isWhole() ? "report.no_findings" : "report.no_findings_in_part"));
        m_out += "<table>";
        for (const Finding& f : m_standing.checked.findings)
            row({word("severity." + std::string(nameOf(f.severity))), said(f.what), said(f.consequence), said(f.mend),
                said(f.evidence), f.clause, wording::acceptedText(m_record, f)});
        m_out += "</table>\n";
    }

    void notLookedAt()
    {
        if (m_standing.checked.isWhole())
            return;
        m_out += "<h3>" + escaped(word("report.not_looked_at")) + "</h3>\n<ul>";
        for (const CheckMade& c : m_standing.checked.checks)
            for (const NotLookedAt& n : c.missing)
                m_out += "<li>"
                    + escaped(word("check." + c.id) + ": " + subject(n) + ": "
                        + (n.why.id.empty() ? word("check.not_run") : said(n.why)))
                    + "</li>\n";
        m_out += "</ul>\n";
    }

    std::string subject(const NotLookedAt& n) const
    {
        const SafetyFunction* f = m_dossier.function(n.subject.function());
        const Device* motor = m_dossier.circuit.device(n.subject.motor());
        return word("study." + n.study) + (f ? ", " + f->name : motor ? ", " + motor->tag : std::string());
    }

    void wires()
    {
        heading("report.wires");
        m_out += "<table>";
        for (const Wire& w : m_dossier.circuit.wires) {
            const Route* route = m_dossier.circuit.route(w.route);
            row({w.number, m_dossier.circuit.nameOf(w.from), m_dossier.circuit.nameOf(w.to),
                    wording::number(w.areaMm2, "mm2"), wording::number(w.lengthM, "m"), route ? route->name : ""},
                0);
        }
        m_out += "</table>\n";
    }

    /// A row for each choice of a machine that was made from patterns, with its reason where there is one.
    void choices()
    {
        const PlannedMachine& plan = m_dossier.machine.plan;
        if (plan.starters.empty())
            return;
        heading("report.choices");
        m_out += "<table>";
        row({word("report.of"), word("report.choice"), word("report.chosen"), word("report.reason")});
        choiceRows(m_dossier.machine.name, plan.words, "", plan.reasons);
        for (const PlannedStarter& s : plan.starters) {
            const std::string number = std::to_string(s.number);
            choiceRows("M" + number, s.words, number + ".", plan.reasons);
        }
        m_out += "</table>\n";
    }

    void choiceRows(
        const std::string& of, const ChosenWords& words, const std::string& prefix, const ChosenWords& reasons)
    {
        for (const auto& [choice, text] : words) {
            if (text.empty())
                continue;
            const std::string id = "choice." + choice, wordId = id + "." + text;
            const auto reason = reasons.find(prefix + choice);
            row({of, wording::knows(id) ? word(id) : choice, wording::knows(wordId) ? word(wordId) : text,
                reason == reasons.end() ? std::string() : reason->second});
        }
    }

    void assumptions()
    {
        heading("report.assumptions");
        m_out += "<ul>";
        std::vector<Message> all = m_analysis.assumptions;
        for (const FunctionResult& f : m_analysis.functions)
            for (const Message& m : f.level.assumptions)
                if (std::find(all.begin(), all.end(), m) == all.end())
                    all.push_back(m);
        for (const Message& m : all)
            m_out += "<li>" + escaped(said(m)) + "</li>\n";
        for (const SafetyFunction& f : m_dossier.functions)
            for (const std::string& open : safety::unansweredConditions(m_dossier.circuit, f))
                m_out += "<li>" + escaped(f.name + ": " + said(message("assume.conditions", {"@" + open}))) + "</li>\n";
        m_out += "</ul>\n<div class=\"caution\">" + escaped(word("caution.text")) + "</div>\n";
    }

    const Dossier& m_dossier;
    record::Entries m_record;
    const Analysis& m_analysis;
    const Results& m_results;
    const Standing m_standing;

    std::string m_out;
    std::set<int> m_printed; ///< values of the function at hand
};

} // namespace

Expected<std::string> reportHtml(const Dossier& dossier, const Results& results, record::Entries record)
{
    if (const Error* trouble = results.trouble(kLevels.id, {}))
        return Unexpected{*trouble};
    const auto levels = results.find(kLevels);
    if (!levels)
        return failure(ErrorCode::Refused, message("report.no_levels"));
    return Writer(dossier, *levels, results, record).written();
}

} // namespace ts::report
