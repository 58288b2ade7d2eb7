// The report holds what it must, says what it rests on, and lets nothing of the file through unescaped.

#include "core/analysis/function_verdict.h"
#include "core/analysis/response.h"
#include "core/figures/fonts.h"
#include "core/figures/scene_svg.h"
#include "core/io/dossier_file.h"
#include "core/studies/working_out.h"
#include "report/report.h"
#include "tests/support/circuits.h"
#include "wording/wording.h"

namespace ts::report {
namespace {

using figures::escaped;
using figures::sceneSvg;

/// The longest piece of a text between its arguments: what stands in the report wherever the text does.
std::string pieceOf(std::string_view id)
{
    std::string longest;
    for (const wording::Entry& e : wording::catalogue()) {
        if (e.id != id)
            continue;
        std::string piece;
        for (const char* c = e.text; *c; ++c)
            if (*c == '%' && c[1] >= '1' && c[1] <= '9') {
                longest = std::max(longest, piece, [](const auto& x, const auto& y) { return x.size() < y.size(); });
                piece.clear();
                ++c;
            } else {
                piece += *c;
            }
        longest = std::max(longest, piece, [](const auto& x, const auto& y) { return x.size() < y.size(); });
    }
    EXPECT_FALSE(longest.empty()) << id;
    return figures::escaped(longest);
}

bool has(const std::string& html, std::string_view id)
{
    return html.find(pieceOf(id)) != html.npos;
}

std::string reportOf(const Dossier& d)
{
    Results results;
    EXPECT_TRUE(workOut(d, {.only = {kLevels.id, kChecks.id}}, results));
    return *reportHtml(d, results);
}

std::size_t count(const std::string& text, std::string_view what)
{
    std::size_t n = 0;
    for (std::size_t at = text.find(what); at != text.npos; at = text.find(what, at + 1))
        ++n;
    return n;
}

TEST(Report, HoldsEveryPart)
{
    const std::string html = reportOf(test::demoFile().dossier);
    for (const char* id :
        {"report.duty", "report.method", "function.when", "risk.path", "response.whole", "report.conditions",
            "wanted.dc_high", "report.ccf", "report.no_evidence", "report.required", "level.reached", "report.stop",
            "report.trace", "report.findings", "report.control", "report.power", "report.wires", "report.assumptions",
            "assume.typical", "assume.quasi_steady", "assume.claim", "basis.typical"})
        EXPECT_TRUE(has(html, id)) << id;
    EXPECT_EQ(count(html, pieceOf("caution.text")), 2u) << "at the beginning and at the end";
    EXPECT_EQ(count(html, "<svg"), 5u) << "skyline, shares, curves, two drawings";
    EXPECT_EQ(count(html, "@font-face"), 4u);
    EXPECT_EQ(count(html, "</html>"), 1u);
}

TEST(Report, TheFirstPageSaysWhatCountsAndWhatIsNotKnown)
{
    const std::string html = reportOf(test::demoFile().dossier);
    const std::size_t verdict = html.find(pieceOf("answer.not_known")), skyline = html.find("<svg");
    ASSERT_NE(verdict, std::string::npos);
    EXPECT_LT(verdict, skyline) << "before anything else";
    EXPECT_TRUE(has(html, "report.not_looked_at")) << "no fault was tried";
    EXPECT_TRUE(has(html, "report.no_findings_in_part"));
    EXPECT_FALSE(has(html, "report.no_findings")) << "a partial look never reads as a whole one";
}

/// The caution stands at each function, and its path is drawn once it was read from a run.
TEST(Report, EachFunctionHasItsCautionAndItsPath)
{
    EXPECT_TRUE(has(reportOf(test::demoFile().dossier), "caution.isolation_unknown")) << "before anything was run";
    const Dossier d = io::loadDossier(std::string(TS_SOURCE_DIR) + "/data/demo/larkspur_db2.sentry")->dossier;
    Results results;
    ASSERT_TRUE(workOut(d, {.only = {kLevels.id, kPath.id, kChecks.id}}, results));
    const std::string html = *reportHtml(d, results);
    EXPECT_EQ(count(html, "more than 25 V AC"), 3u) << "three functions";
    EXPECT_TRUE(has(html, "path.heading"));
    EXPECT_EQ(count(html, "<svg"), 3u + 5u + 2u) << "paths, shares and curves of two with a level, skyline, drawings";
}

/// No id of ours is a word of the reader's.
TEST(Report, SaysMeasuresInWordsAndARunUpOnce)
{
    const std::string html = reportOf(test::demoFile().dossier);
    for (const char* id : {"emc_contamination", "overload_protection", "other_environment", "well_tried"})
        EXPECT_EQ(html.find(id), std::string::npos) << id;
    EXPECT_NE(html.find("EMC immunity checked"), std::string::npos);
    EXPECT_LE(count(html, "has run up"), 2u) << "one motor, started twice in the scenario";
    EXPECT_GE(count(html, "has run up"), 1u);
}

TEST(Report, EveryWireIsListed)
{
    const Dossier d = test::demoFile().dossier;
    const std::string html = reportOf(d);
    for (const Wire& w : d.circuit.wires)
        EXPECT_NE(html.find("<td>" + d.circuit.nameOf(w.from) + "</td><td>" + d.circuit.nameOf(w.to) + "</td>"),
            std::string::npos)
            << w.number;
}

TEST(Report, OpenConditionsAndFindingsAreSaid)
{
    Dossier d = test::demoFile().dossier;
    d.functions[0].conditions.environment = false;
    d.functions[0].stopCategory = 1;
    const std::string html = reportOf(d);
    EXPECT_TRUE(has(html, "level.in_range"));
    EXPECT_TRUE(has(html, "assume.conditions"));
    EXPECT_TRUE(has(html, "finding.stop.differs"));
}

TEST(Report, EscapesEveryText)
{
    Dossier d = test::demoFile().dossier;
    const std::string evil = "<img src=x onerror=alert(1)> & \"quoted\"";
    d.machine.name = d.machine.site = evil;
    d.functions[0].name = d.functions[0].resetRule = d.functions[0].requiredLevelReason = evil;
    for (auto& s : d.functions[0].claim)
        s.name = evil;
    for (Wire& w : d.circuit.wires)
        w.number = evil;
    for (Device& v : d.circuit.devices)
        v.label = evil;
    EXPECT_EQ(reportOf(d).find("<img"), std::string::npos);
}

TEST(Escaped, ShowsControlCharactersAsNone)
{
    EXPECT_EQ(escaped("a<b>&\"'\x01\x02\n"), "a&lt;b&gt;&amp;&quot;&#39;\uFFFD\uFFFD\n");
    EXPECT_EQ(escaped("\xc3\xa4"), "\xc3\xa4") << "letters beyond ASCII stay";
}

TEST(Base64, IsTheStandards)
{
    EXPECT_EQ(figures::base64(""), "");
    EXPECT_EQ(figures::base64("f"), "Zg=="); // RFC 4648 section 10
    EXPECT_EQ(figures::base64("fo"), "Zm8=");
    EXPECT_EQ(figures::base64("foobar"), "Zm9vYmFy");
}

TEST(SceneSvg, IsWellFormedAndNamed)
{
    diagram::Scene scene;
    scene.width = 10;
    scene.height = 20;
    scene.texts.push_back({{1, 2}, "a<b", diagram::TextStyle::Tag, diagram::Anchor::Middle});
    const std::string svg = sceneSvg(scene, "x & y");
    EXPECT_NE(svg.find("<title>x &amp; y</title>"), std::string::npos);
    EXPECT_NE(svg.find("a&lt;b"), std::string::npos);
    EXPECT_EQ(count(svg, "<text"), count(svg, "</text>"));
}

} // namespace
} // namespace ts::report
