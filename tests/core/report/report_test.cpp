// The report holds what it must, says what it rests on, and lets nothing of the file through unescaped.

#include "core/analysis/response.h"
#include "core/report/fonts.h"
#include "core/report/report.h"
#include "core/report/scene_svg.h"
#include "tests/support/circuits.h"

namespace ts::report {
namespace {

Speech plain()
{
    return {[](const Message& m) { return m.id; }, [](std::string_view id) { return std::string(id); },
        [](double si, std::string_view unit) { return std::to_string(si) + std::string(unit); },
        [](const Plant& p, const Event& e) {
            return e.device < 0 ? std::string() : p.devices[static_cast<std::size_t>(e.device)].tag;
        },
        {}, {}, {}, {}, {}, {}, {},
        [](const SafetyFunction& f, const Circuit&) { return "function.sentence " + f.name; },
        [](const SafetyFunction& f) { return "risk.text " + f.requiredLevel; },
        [](const SafetyFunction&, const ResponseBudget& b) {
            return std::vector<std::pair<std::string, std::string>>{{"response.whole", std::to_string(b.wholeS())}};
        },
        [](const safety::FunctionLevel&) {
            return figures::Figure{100, 50, {}, {}, {}};
        },
        [](const safety::FunctionLevel&) {
            return figures::Figure{100, 50, {}, {}, {}};
        },
        [](const Dossier&, const Analysis&, const std::vector<const FaultAnalysis*>&) {
            return figures::Figure{100, 50, {}, {}, {}};
        }};
}

std::string reportOf(const Dossier& d)
{
    return *reportHtml(d, *analyse(d), plain());
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
    for (const char* id : {"report.duty", "report.method", "function.sentence Emergency stop", "risk.text d",
             "response.whole", "report.conditions", "wanted.dc_high", "report.ccf", "report.no_evidence",
             "report.required", "level.reached", "report.stop", "report.trace", "report.findings", "report.control",
             "report.power", "report.wires", "report.assumptions", "assume.typical", "assume.quasi_steady",
             "assume.claim", "basis.typical"})
        EXPECT_NE(html.find(id), std::string::npos) << id;
    EXPECT_EQ(count(html, "caution.text"), 2u) << "at the beginning and at the end";
    EXPECT_EQ(count(html, "<svg"), 5u) << "skyline, shares, curves, two drawings";
    EXPECT_EQ(count(html, "@font-face"), 4u);
    EXPECT_EQ(count(html, "</html>"), 1u);
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
    EXPECT_NE(html.find("level.in_range"), std::string::npos);
    EXPECT_EQ(html.find("level.reached"), std::string::npos) << "a figure alone is no level";
    EXPECT_NE(html.find("assume.conditions"), std::string::npos);
    EXPECT_NE(html.find("finding.stop.differs"), std::string::npos);
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

TEST(Escaped, TakesControlCharactersOut)
{
    EXPECT_EQ(escaped("a<b>&\"'\x01\x02\n"), "a&lt;b&gt;&amp;&quot;&#39;\n");
    EXPECT_EQ(escaped("\xc3\xa4"), "\xc3\xa4") << "letters beyond ASCII stay";
}

TEST(Base64, IsTheStandards)
{
    EXPECT_EQ(base64(""), "");
    EXPECT_EQ(base64("f"), "Zg=="); // RFC 4648 section 10
    EXPECT_EQ(base64("fo"), "Zm8=");
    EXPECT_EQ(base64("foobar"), "Zm9vYmFy");
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
