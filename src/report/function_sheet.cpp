#include "report/function_sheet.h"

#include "core/figures/figure_svg.h"
#include "core/figures/scene_svg.h"
#include "core/safety/part_sheet.h"
#include "wording/function_words.h"
#include "wording/level_pictures.h"
#include "wording/wording.h"

#include <fmt/format.h>

namespace ts::report {
namespace {

using figures::escaped;

class FunctionSheet {
public:
    FunctionSheet(const Dossier& dossier, const SafetyFunction& function, const FunctionResult& result,
        const faults::Sweep* single)
        : m_dossier(dossier)
        , m_function(function)
        , m_result(result)
        , m_single(single)
    {
    }

    std::string written()
    {
        paragraph(wording::functionSentence(m_function, m_dossier.circuit));
        if (!m_function.resetRule.empty())
            paragraph(wording::word("report.reset") + ": " + m_function.resetRule);
        paragraph(wording::riskText(m_function));
        if (m_function.requiredLevel)
            paragraph(wording::sentence(message("report.required",
                {std::string(safety::nameOf(*m_function.requiredLevel)), m_function.requiredLevelReason})));
        response();
        conditions();
        answers();
        if (m_result.level.pfhd >= 0)
            m_out += "<p>" + figures::figureSvg(wording::sharesFigure(m_result.level), wording::word("shares.heading"))
                + "</p>\n<p>"
                + figures::figureSvg(wording::curvesFigure(m_result.level), wording::word("curves.heading")) + "</p>\n";
        return std::move(m_out);
    }

private:
    void heading(std::string_view id) { m_out += fmt::format("<h3>{}</h3>\n", escaped(wording::word(id))); }
    void paragraph(std::string_view text) { m_out += fmt::format("<p>{}</p>\n", escaped(text)); }
    void row(const std::vector<std::string>& cells)
    {
        m_out += "<tr>";
        for (const std::string& c : cells)
            m_out += fmt::format("<td>{}</td>", escaped(c));
        m_out += "</tr>\n";
    }

    void response()
    {
        const auto budget = responseOf(m_dossier.circuit, m_function, worstStops(m_result), m_single);
        if (!budget)
            return;
        heading("report.response");
        m_out += "<table>";
        for (const auto& [what, value] : wording::responseLines(m_function, *budget))
            row({what, value});
        m_out += "</table>\n";
        if (!m_function.approach.measuredOn.empty())
            paragraph(wording::sentence(
                message("report.measured", {m_function.approach.measuredOn, m_function.approach.measureAgainOn})));
    }

    void conditions()
    {
        heading("report.conditions");
        m_out += "<table>";
        for (const safety::SubsystemLevel& s : m_result.level.subsystems)
            for (const safety::Condition& c : s.conditions)
                row({s.name + ", " + wording::word("report.category") + " " + s.category, wording::sentence(c.wanted),
                    wording::sentence(c.found), wording::word("met." + std::string(safety::nameOf(c.met)))});
        m_out += "</table>\n";
    }

    /// Answers with where they can be seen; those without evidence say so.
    void answers()
    {
        heading("report.answers");
        m_out += "<table>";
        const auto seen = [this](const std::map<std::string, std::string>& all, const std::string& about) {
            const auto found = all.find(about);
            return found == all.end() ? wording::word("report.no_evidence") : found->second;
        };
        for (const ClaimedSubsystem& s : m_function.claim)
            for (const std::string& id : s.ccfAnswers)
                row({s.name, wording::sentence(message("report.ccf", {safety::ccfMeasureText(id)})),
                    seen(s.ccfEvidence, id)});
        const Conditions& c = m_function.conditions;
        for (const auto& [id, is] :
            {std::pair{"basic_principles", c.basicPrinciples}, {"well_tried_principles", c.wellTriedPrinciples},
                {"systematic_failures", c.systematicFailures}, {"environment", c.environment}})
            row({wording::word("condition." + std::string(id)),
                wording::word(is ? "found.confirmed" : "found.not_confirmed"), seen(c.evidence, id)});
        if (safety::hasApplicationSoftware(m_dossier.circuit, m_function))
            row({wording::word("condition.software"),
                wording::word(c.software ? "found.confirmed" : "found.not_confirmed"),
                c.softwareVersion + " " + c.softwareChecksum});
        m_out += "</table>\n";
    }

    const Dossier& m_dossier;
    const SafetyFunction& m_function;
    const FunctionResult& m_result;
    const faults::Sweep* m_single;

    std::string m_out;
};

} // namespace

std::string functionSheet(
    const Dossier& dossier, const SafetyFunction& function, const FunctionResult& result, const faults::Sweep* single)
{
    return FunctionSheet(dossier, function, result, single).written();
}

} // namespace ts::report
