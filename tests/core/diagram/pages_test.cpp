// Pages show together what the whole drawing shows, no more and no less; each fits its sheet; what is cut is named on
// both sides of the cut, with the page where it goes on.

#include "core/diagram/pages.h"
#include "core/diagram/power_layout.h"
#include "core/io/dossier_file.h"
#include "core/patterns/machine.h"
#include "tests/support/circuits.h"

#include <map>
#include <set>
#include <tuple>

namespace ts::diagram {
namespace {

constexpr Sheet kBenchSheet{853, 578}; // 700 x 473 at the smallest size that is read

Circuit debarker()
{
    return io::loadDossier(test::sourcePath("data/demo/larkspur_db2.sentry"))->dossier.circuit;
}

using SymbolKey = std::tuple<DeviceId, std::string, SymbolKind, TerminalRef, TerminalRef>;

std::multiset<SymbolKey> symbolsOf(const std::vector<Page>& pages)
{
    std::multiset<SymbolKey> all;
    for (const Page& page : pages)
        for (const Symbol& s : page.scene.symbols)
            all.insert({s.device, s.role, s.kind, s.upper, s.lower});
    return all;
}

std::multiset<TerminalRef> pinsOf(const std::vector<Page>& pages)
{
    std::multiset<TerminalRef> all;
    for (const Page& page : pages)
        for (const auto& [ref, at] : page.scene.pins)
            all.insert(ref);
    return all;
}

void expectNothingOverlaps(const Page& page)
{
    const auto& texts = page.scene.texts;
    for (std::size_t i = 0; i < texts.size(); ++i)
        for (std::size_t j = i + 1; j < texts.size(); ++j)
            EXPECT_FALSE(texts[i].box().overlaps(texts[j].box())) << texts[i].text << " on " << texts[j].text;
}

void expectWithin(const Page& page, Sheet sheet)
{
    EXPECT_LE(page.scene.width, sheet.width);
    EXPECT_LE(page.scene.height, sheet.height);
    for (const Text& t : page.scene.texts) {
        EXPECT_GE(t.box().x, -0.01) << t.text;
        EXPECT_LE(t.box().x + t.box().width, page.scene.width + 0.01) << t.text;
    }
}

/// "70 →2" on page 1 is answered by "1→ 70" on page 2.
std::size_t expectCutsAnswered(const std::vector<Page>& pages)
{
    std::multiset<std::tuple<std::string, std::string, std::string>> onwards, back; // name, from page, to page
    const std::string arrow = "\u2192";
    for (std::size_t k = 0; k < pages.size(); ++k)
        for (const Text& t : pages[k].scene.texts) {
            const std::size_t where = t.text.find(arrow);
            if (where == std::string::npos)
                continue;
            const std::string here = std::to_string(k + 1), rest = t.text.substr(where + arrow.size());
            if (!rest.empty() && rest.front() == ' ')
                back.insert({rest.substr(1), t.text.substr(0, where), here});
            else
                onwards.insert({t.text.substr(0, where - 1), here, rest});
        }
    EXPECT_EQ(onwards, back);
    return onwards.size();
}

ControlDrawing powerOf(const WiredGraph& graph)
{
    ControlDrawing whole{.scene = powerDrawing(graph)};
    whole.rowEnds = {whole.scene.height};
    return whole;
}

void expectSameAsWhole(const WiredGraph& graph, const ControlDrawing& whole, Sheet sheet)
{
    const auto pages = pagesOf(graph, whole, sheet);
    const std::vector<Page> one{{whole.scene, whole.paths}};
    EXPECT_EQ(symbolsOf(pages), symbolsOf(one));
    EXPECT_EQ(pinsOf(pages), pinsOf(one));
    std::vector<int> numbers;
    for (const Page& page : pages) {
        expectNothingOverlaps(page);
        for (const DrawnPath& path : page.paths)
            numbers.push_back(path.number);
    }
    EXPECT_EQ(numbers.size(), whole.paths.size());
    expectCutsAnswered(pages);
}

TEST(Pages, WhatFitsIsOnePageAsItWas)
{
    const Circuit circuit = debarker();
    const WiredGraph graph = *wiredGraph(circuit);
    const ControlDrawing whole = controlDrawing(graph);
    const auto pages = pagesOf(graph, whole, {whole.scene.width, whole.scene.height});
    ASSERT_EQ(pages.size(), 1u);
    EXPECT_EQ(pages.front().scene.texts.size(), whole.scene.texts.size());
    EXPECT_EQ(pages.front().paths.size(), whole.paths.size());
}

TEST(Pages, DebarkerIsReadAtTheBenchInThreePages)
{
    const Circuit circuit = debarker();
    const WiredGraph graph = *wiredGraph(circuit);
    const auto control = pagesOf(graph, controlDrawing(graph), kBenchSheet);
    EXPECT_EQ(control.size(), 3u);
    for (const Page& page : control)
        expectWithin(page, kBenchSheet);
    EXPECT_GT(expectCutsAnswered(control), 2u);
    const auto power = pagesOf(graph, powerOf(graph), kBenchSheet);
    std::multiset<std::string> motors;
    for (const Page& page : power) {
        expectWithin(page, kBenchSheet);
        for (const std::string& tag : subjectsOf(graph, page))
            motors.insert(tag);
    }
    EXPECT_EQ(subjectsOf(graph, power.front()), std::vector<std::string>{"M1"});
    for (const char* motor : {"M1", "M2", "M3"})
        EXPECT_EQ(motors.count(motor), 1u) << motor;
}

/// The three poles of a contactor are never on two pages.
TEST(Pages, PolesOfADeviceStayTogether)
{
    const Circuit circuit = debarker();
    const WiredGraph graph = *wiredGraph(circuit);
    for (double width : {400.0, 500.0, 600.0, 700.0}) {
        std::map<DeviceId, std::set<std::size_t>> pagesWith;
        const auto pages = pagesOf(graph, powerOf(graph), {width, 578});
        for (std::size_t k = 0; k < pages.size(); ++k)
            for (const Symbol& s : pages[k].scene.symbols)
                if (s.kind == SymbolKind::MainContact || s.kind == SymbolKind::HeatedPole)
                    pagesWith[s.device].insert(k);
        for (const auto& [device, on] : pagesWith)
            EXPECT_EQ(on.size(), 1u) << circuit.device(device)->tag << " at " << width;
    }
}

class PagesOf : public ::testing::TestWithParam<std::vector<std::string>> { };

TEST_P(PagesOf, ShowTogetherWhatTheWholeShows)
{
    const Circuit circuit = GetParam().empty()
        ? debarker()
        : patterns::machine(*patterns::MachinePlan::from(GetParam()))->dossier.circuit;
    const WiredGraph graph = *wiredGraph(circuit);
    for (const Sheet sheet : {kBenchSheet, Sheet{500, 320}, Sheet{300, 300}, Sheet{10, 10}, Sheet{0, 0}})
        for (const ControlDrawing& whole :
            {controlDrawing(graph), controlDrawing(graph, School::Ladder), powerOf(graph)}) {
            expectSameAsWhole(graph, whole, sheet);
            EXPECT_FALSE(HasFailure()) << sheet.width << " x " << sheet.height
                                       << (whole.school == School::Ladder ? ", ladder" : "");
        }
}

INSTANTIATE_TEST_SUITE_P(Circuits, PagesOf,
    ::testing::Values(std::vector<std::string>{}, std::vector<std::string>{"base=direct"},
        std::vector<std::string>{
            "base=reversing", "stop=two_channel_relay", "operation=run_inch_selector", "guard=yes"},
        std::vector<std::string>{"base=star_delta", "stop=controller", "stops=3", "monitor=two_transformers"},
        std::vector<std::string>{"base=soft_starter", "brake=yes", "control=transformer_bonded"}));

} // namespace
} // namespace ts::diagram
