#include "report/tested.h"

#include "core/figures/scene_svg.h"
#include "core/measuring/readings.h"
#include "core/results/study_ids.h"
#include "wording/test_words.h"
#include "wording/wording.h"

#include <fmt/format.h>

#include <algorithm>

namespace ts::report {
namespace {

using figures::escaped;

std::string paragraph(const std::string& text)
{
    return "<p>" + escaped(text) + "</p>\n";
}

std::string row(std::initializer_list<std::string> cells)
{
    std::string html = "<tr>";
    for (const std::string& cell : cells)
        html += "<td>" + escaped(cell) + "</td>";
    return html + "</tr>\n";
}

std::string readingsText(const DossierFile& file, const measuring::StepState& state)
{
    std::string text;
    for (const std::size_t e : state.readings) {
        const RecordEntry& entry = file.record[e];
        text += (text.empty() ? "" : "; ") + entry.date + ", " + entry.who + ", " + entry.reading->instrument + ": "
            + entry.text;
    }
    return text;
}

} // namespace

std::string testedHtml(const Dossier& dossier, const Results& results, record::Entries entries)
{
    std::string html = fmt::format("<h2>{}</h2>\n", escaped(wording::word("report.tested")));
    const auto plan = results.find(kTests);
    if (!plan)
        return html + paragraph(wording::word("report.not_planned"));
    const DossierFile file{1, dossier, {entries.begin(), entries.end()}};
    const auto states = measuring::standingOf(*plan, file);
    const auto open = std::count_if(states.begin(), states.end(), [](const auto& s) { return s.open.has_value(); });
    html += paragraph(wording::coverageText(*plan) + ". "
        + wording::said("results.open", {static_cast<long long>(open), static_cast<long long>(plan->steps.size())}));
    html += "<table>";
    for (std::size_t k = 0; k < states.size(); ++k) {
        const measuring::TestStep& step = plan->steps[k];
        const std::string how = wording::joined(wording::situationLines(dossier.circuit, step.in), ", ");
        html += row({wording::word("stage." + std::string(wordOf(step.stage))),
            (how.empty() ? "" : how + ": ") + wording::lookText(step.look),
            wording::readingText(step.expect, step.look.with), readingsText(file, states[k]),
            states[k].open ? wording::word("open." + std::string(wordOf(*states[k].open)))
                           : wording::word("report.as_expected")});
    }
    html += "</table>\n" + fmt::format("<h3>{}</h3>\n<ul>", escaped(wording::word("test.hidden")));
    for (const measuring::Unshown& h : plan->hidden)
        html += "<li>" + escaped(wording::hiddenText(dossier.circuit, h)) + "</li>\n";
    for (const measuring::TestStep& s : plan->leftOut)
        html += "<li>" + escaped(wording::word("test.left_out") + ": " + wording::lookText(s.look)) + "</li>\n";
    return html + "</ul>\n";
}

} // namespace ts::report
