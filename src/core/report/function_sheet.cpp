#include "core/report/function_sheet.h"

#include "core/report/figure_svg.h"
#include "core/report/scene_svg.h"

#include <fmt/format.h>

namespace ts::report {
namespace {

class Sheet {
public:
    Sheet(const Dossier& dossier, const SafetyFunction& function, const FunctionResult& result, const Speech& say)
        : m_dossier(dossier)
        , m_function(function)
        , m_result(result)
        , m_say(say)
    {
    }

    std::string written()
    {
        paragraph(m_say.function(m_function, m_dossier.circuit));
        if (!m_function.resetRule.empty())
            paragraph(m_say.word("report.reset") + ": " + m_function.resetRule);
        paragraph(m_say.risk(m_function));
        if (!m_function.requiredLevel.empty())
            paragraph(
                m_say.sentence(message("report.required", {m_function.requiredLevel, m_function.requiredLevelReason})));
        response();
        conditions();
        answers();
        if (m_result.level.pfhd >= 0)
            m_out += "<p>" + figureSvg(m_say.shares(m_result.level), m_say.word("shares.heading")) + "</p>\n<p>"
                + figureSvg(m_say.curves(m_result.level), m_say.word("curves.heading")) + "</p>\n";
        return std::move(m_out);
    }

private:
    void heading(std::string_view id) { m_out += fmt::format("<h3>{}</h3>\n", escaped(m_say.word(id))); }
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
        const auto budget = responseOf(m_function, worstStops(m_result));
        if (!budget)
            return;
        heading("report.response");
        m_out += "<table>";
        for (const auto& [what, value] : m_say.response(m_function, *budget))
            row({what, value});
        m_out += "</table>\n";
        if (!m_function.approach.measuredOn.empty())
            paragraph(m_say.sentence(
                message("report.measured", {m_function.approach.measuredOn, m_function.approach.measureAgainOn})));
    }

    void conditions()
    {
        heading("report.conditions");
        m_out += "<table>";
        for (const safety::SubsystemLevel& s : m_result.level.subsystems)
            for (const safety::Condition& c : s.conditions)
                row({s.name + ", " + m_say.word("report.category") + " " + s.category, m_say.sentence(c.wanted),
                    m_say.sentence(c.found), m_say.word("met." + std::string(safety::nameOf(c.met)))});
        m_out += "</table>\n";
    }

    /// Answers with where they can be seen; those without evidence say so.
    void answers()
    {
        heading("report.answers");
        m_out += "<table>";
        const auto seen = [this](const std::map<std::string, std::string>& all, const std::string& about) {
            const auto found = all.find(about);
            return found == all.end() ? m_say.word("report.no_evidence") : found->second;
        };
        for (const ClaimedSubsystem& s : m_function.claim)
            for (const std::string& id : s.ccfAnswers)
                row({s.name, m_say.sentence(message("report.ccf", {id})), seen(s.ccfEvidence, id)});
        const Conditions& c = m_function.conditions;
        for (const auto& [id, is] :
            {std::pair{"basic_principles", c.basicPrinciples}, {"well_tried_principles", c.wellTriedPrinciples},
                {"systematic_failures", c.systematicFailures}, {"environment", c.environment}})
            row({m_say.word("condition." + std::string(id)), m_say.word(is ? "found.confirmed" : "found.not_confirmed"),
                seen(c.evidence, id)});
        if (safety::hasApplicationSoftware(m_dossier.circuit, m_function))
            row({m_say.word("condition.software"), m_say.word(c.software ? "found.confirmed" : "found.not_confirmed"),
                c.softwareVersion + " " + c.softwareChecksum});
        m_out += "</table>\n";
    }

    const Dossier& m_dossier;
    const SafetyFunction& m_function;
    const FunctionResult& m_result;
    const Speech& m_say;
    std::string m_out;
};

} // namespace

std::string functionSheet(
    const Dossier& dossier, const SafetyFunction& function, const FunctionResult& result, const Speech& say)
{
    return Sheet(dossier, function, result, say).written();
}

} // namespace ts::report
