#include "report/paper_sheet.h"

#include "core/figures/scene_svg.h"
#include "core/measuring/rehearsal.h"
#include "wording/cautions.h"
#include "wording/test_words.h"
#include "wording/wording.h"

#include <fmt/format.h>

#include <set>

namespace ts::report {
namespace {

using figures::escaped;

constexpr std::string_view kSheetStyle = R"(
@page{size:A4;margin:12mm}
body{font-family:sans-serif;font-size:10.5pt;color:#000;margin:12px}
h1{font-size:15pt;margin:0 0 2mm}
table{border-collapse:collapse;width:100%}
th,td{border:0.4pt solid #444;padding:1.2mm 1.6mm;text-align:left;vertical-align:top}
thead{display:table-header-group}
tr{page-break-inside:avoid}
td.n{width:7mm;text-align:right}
td.w{width:34mm}
td.o{width:14mm}
.live td{background:#eee}
.fill{display:inline-block;border-bottom:0.6pt solid #000;min-width:46mm;height:5mm}
.small{font-size:9pt}
)";

std::string rowOf(const Circuit& circuit, const measuring::TestStep& s, std::size_t number)
{
    const std::string how = wording::joined(wording::situationLines(circuit, s.in), "; ");
    const bool isDead = measuring::isDead(s.stage);
    return fmt::format("<tr{}><td class=\"n\">{}</td><td>{}</td><td>{}{}</td><td>{}</td><td class=\"w\"></td>"
                       "<td class=\"o\"></td></tr>\n",
        isDead ? "" : " class=\"live\"", number,
        escaped(isDead ? wording::word("sheet.dead") : wording::word("sheet.live")),
        escaped(how.empty() ? how : how + ": "), escaped(wording::lookText(s.look)),
        escaped(wording::readingText(s.expect, s.look.with)));
}

} // namespace

std::string paperSheet(const Dossier& dossier, const measuring::TestPlan& plan, const std::vector<std::size_t>& places,
    measuring::Occasion occasion, const std::string& tag)
{
    const std::string title = wording::said(occasion == measuring::Occasion::Replaced ? "sheet.replaced"
            : occasion == measuring::Occasion::Feeder                                 ? "sheet.feeder"
                                                                                      : "sheet.emergency_stops",
        {tag});
    std::string html = fmt::format("<!doctype html>\n<html lang=\"en\"><head><meta charset=\"utf-8\"><title>{0}: {1}"
                                   "</title><style>{2}</style></head><body>\n<h1>{0}</h1>\n<p>{1}</p>\n",
        escaped(title), escaped(dossier.machine.name), kSheetStyle);
    html += "<p>";
    for (const char* field : {"sheet.day", "sheet.who", "sheet.instrument", "sheet.calibrated"})
        html += escaped(wording::word(field)) + " <span class=\"fill\"></span> &nbsp; ";
    html += "</p>\n<table><thead><tr>";
    for (const char* column : {"sheet.number", "sheet.state", "sheet.step", "sheet.expected", "sheet.read", "sheet.ok"})
        html += "<th>" + escaped(wording::word(column)) + "</th>";
    html += "</tr></thead><tbody>\n";
    std::set<std::string> cautions;
    std::size_t number = 0;
    for (const std::size_t k : places) {
        html += rowOf(dossier.circuit, plan.steps[k], ++number);
        for (std::string& caution : wording::testCautions(plan.steps[k], dossier.circuit))
            cautions.insert(std::move(caution));
    }
    html += "</tbody></table>\n<p class=\"small\">"
        + escaped(wording::said(
            "sheet.part_of", {static_cast<long long>(places.size()), static_cast<long long>(plan.steps.size())}))
        + "</p>\n<ul class=\"small\">";
    for (const std::string& caution : cautions)
        html += "<li>" + escaped(caution) + "</li>";
    html += "</ul>\n<p class=\"small\">" + escaped(wording::word("caution.text")) + "</p>\n<p class=\"small\">"
        + escaped(wording::said("sheet.circuit", {measuring::circuitHash(dossier.circuit).substr(0, 12)}))
        + "</p>\n</body></html>\n";
    return html;
}

} // namespace ts::report
