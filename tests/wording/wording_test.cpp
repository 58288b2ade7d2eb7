// Every id that core uses has a sentence, and sentences come out as people write them.

#include "wording/wording.h"

#include "core/checks/check.h"
#include "core/library/registry.h"
#include "core/library/table.h"
#include "core/offers/offer.h"
#include "core/patterns/choices.h"
#include "core/simulation/logic.h"
#include "core/studies/study.h"
#include "tests/support/circuits.h"
#include "wording/event_text.h"

#include <filesystem>
#include <fstream>
#include <regex>
#include <set>
#include <sstream>

namespace ts {
namespace {

/// All ids in quotes in core's and the window's sources that look like the catalogue's.
std::set<std::string> usedIds()
{
    static const std::regex id(
        "\"((?:file|json|csv|list|pattern|interlock|shaft|kind|motor|network|parameter|part|wire|fault|run|scenario|"
        "event|converter|pause|expect|formula|"
        "value|basis|arithmetic|level|assume|condition|stop|finding|consequence|mend|evidence|edit|offer|means|report|"
        "method|caution|study|verdict|unknown|answer|check|note|test|results|mistake|finder|symptom|drill|sheet)\\.[a-"
        "z0-9_.]+)\"");
    std::set<std::string> ids;
    for (const auto& entry : std::filesystem::recursive_directory_iterator(test::sourcePath("src"))) {
        const std::string path = entry.path();
        if ((!path.ends_with(".cpp") && !path.ends_with(".h")) || path.ends_with("catalogue.cpp")
            || path.ends_with("_texts.cpp") || path.find("/app/shell/") != std::string::npos
            || path.find("/app/frame/") != std::string::npos)
            continue;
        std::ifstream file(path);
        std::stringstream text;
        text << file.rdbuf();
        const std::string source = text.str();
        for (std::sregex_iterator it(source.begin(), source.end(), id), end; it != end; ++it)
            ids.insert((*it)[1]);
    }
    return ids;
}

TEST(Catalogue, HasASentenceForEveryIdThatIsUsed)
{
    const auto ids = usedIds();
    EXPECT_GT(ids.size(), 150u) << "the search itself must find something";
    for (const std::string& id : ids)
        EXPECT_TRUE(wording::knows(rowOf(sizingRulesTable(), id) ? "sizing." + id : id)) << id;
}

/// Whatever a rule of sizing can say is said in words.
TEST(Catalogue, KnowsEveryRuleOfSizingThatIsJudged)
{
    for (const char* rule : {"motor.current", "overload.setting", "contactor.current", "short.coordination",
             "fuse.start", "wire.minimum", "wire.ampacity", "wire.drop", "wire.earth", "coil.kind", "control.voltage",
             "contact.load", "short.contact_fuse", "fuse.selective", "dc.load", "transformer.inrush"}) {
        EXPECT_TRUE(wording::knows(std::string("sizing.") + rule)) << rule;
        EXPECT_TRUE(rowOf(sizingRulesTable(), rule)) << rule;
    }
}

/// Every offer that a whole starter brings forth, its questions and answers.
TEST(Catalogue, HasWordsForWhatCanBeMeant)
{
    const DossierFile demo = test::demoFile();
    std::vector<offers::Picked> targets{{}, {{}, {}, demo.dossier.circuit.wires.front().id}};
    for (const Device& d : demo.dossier.circuit.devices) {
        targets.push_back({d.id, "", {}});
        targets.push_back({d.id, "13-14", {}});
    }
    std::set<std::string> seen;
    for (const offers::Picked& t : targets)
        for (const offers::Offer& o : offers::offersFor(demo.dossier, t)) {
            seen.insert(o.id);
            EXPECT_TRUE(wording::knows("do." + o.id)) << o.id;
            for (const offers::Question& q : o.questions) {
                EXPECT_TRUE(wording::knows("question." + q.id)) << q.id;
                for (const offers::Choice& c : q.choices)
                    EXPECT_FALSE(std::regex_search(wording::sentence(c.text), std::regex("%[0-9]"))) << c.text.id;
            }
        }
    EXPECT_GT(seen.size(), 15u);
}

TEST(Catalogue, IsSortedAndHoldsNothingTwice)
{
    const auto all = wording::catalogue();
    for (std::size_t i = 1; i < all.size(); ++i)
        EXPECT_LT(std::string_view(all[i - 1].id), std::string_view(all[i].id));
}

TEST(Catalogue, KnowsEveryKindCheckFaultAndAction)
{
    for (const DeviceKind* kind : deviceKinds()) {
        EXPECT_TRUE(wording::knows("kind." + std::string(kind->id))) << kind->id;
        for (const ParameterSpec& p : kind->parameters)
            EXPECT_TRUE(wording::knows("parameter." + std::string(p.name))) << p.name;
        for (const FailureModeSpec& m : kind->failureModes)
            EXPECT_TRUE(wording::knows("mode." + std::string(m.mode))) << m.mode;
    }
    for (const Check& c : allChecks())
        EXPECT_TRUE(wording::knows("check." + std::string(c.id)));
    for (const Study& s : allStudies())
        EXPECT_TRUE(wording::knows("study." + std::string(s.id))) << s.id;
    for (const char* action : {"press", "release", "unlatch", "reset", "test", "switch_on", "switch_off", "replace",
             "push_in", "let_go", "open", "close", "call", "end_call", "interrupt", "clear"}) {
        EXPECT_TRUE(wording::knows("action." + std::string(action))) << action;
        EXPECT_TRUE(wording::knows("do." + std::string(action))) << action;
    }
    EXPECT_EQ(wording::actionWord("turn_to_hand"), "turned to hand");
    EXPECT_EQ(wording::doWord("turn_to_hand"), "Turn to hand");
}

TEST(Catalogue, KnowsEveryChoiceOfAPattern)
{
    for (const patterns::PlanChoice& c : patterns::choices()) {
        EXPECT_TRUE(wording::knows("choice." + std::string(c.name))) << c.name;
        for (std::string_view w : patterns::wordsOf(c))
            EXPECT_TRUE(wording::knows("choice." + std::string(c.name) + "." + std::string(w))) << c.name << " " << w;
    }
}

TEST(Catalogue, KnowsEveryModeAndReasonOfALogic)
{
    for (const DeviceLogic& logic : {DeviceLogic(TimerLogic{}), DeviceLogic(PhaseMonitorLogic{}),
             DeviceLogic(GateLogic{}), DeviceLogic(SoftStarterLogic{}), DeviceLogic(DriveLogic{})})
        for (std::uint8_t mode = 0; mode < modeCount(logic); ++mode)
            EXPECT_TRUE(wording::knows(std::string("logic.") + modeName(logic, mode))) << modeName(logic, mode);
    for (std::uint8_t reason :
        {monitor::kUnder, monitor::kOver, monitor::kUnbalance, monitor::kLoss, monitor::kSequence})
        for (double burden : {0.0, 0.1}) {
            PhaseMonitorLogic m;
            m.burdenOhm = burden;
            EXPECT_TRUE(wording::knows(std::string("reason.") + monitorReason(m, reason)));
        }
}

TEST(Number, ReadsAsPeopleWriteIt)
{
    const auto said = [](double si, const char* unit) { return wording::number(si, unit); };
    EXPECT_EQ(said(0.0215, "s"), "21.5 ms");
    EXPECT_EQ(said(10.68, "s"), "10.7 s");
    EXPECT_EQ(said(24.0, "V"), "24.0 V");
    EXPECT_EQ(said(1e-7, "V"), "0 V");
    EXPECT_EQ(said(0.015, "A"), "15.0 mA");
    EXPECT_EQ(said(5548, "A"), "5548 A");
    EXPECT_EQ(said(4.312e-9, "1/h"), "4.31e-9 /h");
    EXPECT_EQ(said(0.99, "%"), "99.0 %");
    EXPECT_EQ(said(660, "1/y"), "660 /y");
    EXPECT_EQ(said(1300000, ""), "1300000");
    EXPECT_EQ(said(19696.97, "y"), "19697 y");
}

TEST(Sentence, FillsArgumentsOnceAndPutsWordIdsIntoWords)
{
    EXPECT_EQ(wording::sentence(message("event.trips", {std::string("Q0"), std::string("x"), Measured{16, "A"}})),
        "Q0 trips at 16.0 A");
    EXPECT_EQ(
        wording::sentence(message("event.operated", {std::string("%2"), std::string("@action.press")})), "%2: pressed");
    EXPECT_EQ(wording::sentence(message("no.such.id")), "no.such.id") << "never an empty line";
}

TEST(Sentence, ErrorsSayWhere)
{
    const Error e{ErrorCode::Refused, message("file.missing", {std::string("tag")}), {"a.sentry", 3, 7, "/dossier"}};
    EXPECT_EQ(wording::sentence(e), "a.sentry:3:7: /dossier: \"tag\" is missing");
}

TEST(EventText, EveryEventOfTheDemoHasALineOrIsHalfWay)
{
    test::Bench b = test::runningDemo();
    b.fault("Q1/main:welded").act("S0", "press").to(20.0).act("S0", "unlatch").set("G0.L1", 0.5).to(22.0);
    for (const Event& e : b.trace().events) {
        const std::string text = wording::eventText(b.plant(), e);
        EXPECT_TRUE(!text.empty() || (e.why == Why::Moved && e.to == 1));
        EXPECT_FALSE(text.find('%') != text.npos && text.find(" %") == text.npos) << text;
    }
}

/// A motor that dips when another one starts has not run up again in the sense of anybody who reads the trace.
TEST(EventText, ARunUpIsNewsOnceUntilThePowerChanges)
{
    const auto event = [](Why why, int slot) {
        Event e;
        e.why = why;
        e.device = slot;
        e.slot = slot;
        return e;
    };
    Trace t;
    t.events = {event(Why::Turning, 0), event(Why::RanUp, 0), event(Why::RanUp, 1), event(Why::RanUp, 0),
        event(Why::PathChanged, 0), event(Why::RanUp, 0), event(Why::Lit, 0)};
    const std::array<bool, 7> isNews{true, true, true, false, true, true, true};
    for (std::size_t k = 0; k < isNews.size(); ++k)
        EXPECT_EQ(wording::isNews(t, k), isNews[k]) << k;
}

/// A valve does not turn, and nobody would look for its speed.
TEST(EventText, WhatIsNoMotorHasItsOwnWords)
{
    test::CircuitBuilder b;
    b.device("G1", "supply_external_24v")
        .device("S1", "push_button", {{"contacts", std::vector<std::string>{"13-14"}}});
    b.device("Y1", "solenoid",
        {{"coil_voltage_v", 24.0}, {"coil_current", test::word("dc")}, {"coil_power_w", 8.0}, {"acts_in_s", 0.05},
            {"rests_in_s", 0.08}});
    b.wire("G1:+", "S1:13").wire("S1:14", "Y1:A1").wire("Y1:A2", "G1:-");
    test::Bench bench(b.plant());
    bench.to(0.5).act("S1", "press").to(1.0).act("S1", "release").to(2.0);
    std::string all;
    for (const Event& e : bench.trace().events)
        all += wording::eventText(bench.plant(), e) + "\n";
    for (const char* said : {"Y1 gets its power", "Y1 begins to act", "Y1 has no power any more", "Y1 is at rest"})
        EXPECT_NE(all.find(said), std::string::npos) << said << " in " << all;
    EXPECT_EQ(all.find("turn"), std::string::npos) << all;
}

/// A small motor is known by its times: it comes up to speed, and pulls nothing in.
TEST(EventText, ASmallMotorComesUpToSpeed)
{
    test::CircuitBuilder b;
    b.device("G1", "supply_external_24v")
        .device("S1", "push_button", {{"contacts", std::vector<std::string>{"13-14"}}})
        .device("M1", "motor_dc",
            {{"voltage_v", 24.0}, {"current_a", 2.0}, {"runs_up_in_s", 0.4}, {"runs_down_in_s", 1.0}});
    b.wire("G1:+", "S1:13").wire("S1:14", "M1:A1").wire("M1:A2", "G1:-");
    test::Bench bench(b.plant());
    bench.to(0.5).act("S1", "press").to(2.0).act("S1", "release").to(5.0);
    std::string all;
    for (const Event& e : bench.trace().events)
        all += wording::eventText(bench.plant(), e) + "\n";
    for (const char* said : {"M1 gets its power", "M1 is up to speed", "M1 has no power any more", "M1 is at rest"})
        EXPECT_NE(all.find(said), std::string::npos) << said << " in " << all;
    EXPECT_EQ(all.find("pulls in"), std::string::npos) << all;
    EXPECT_EQ(all.find("drops out"), std::string::npos) << all;
}

TEST(FaultText, SaysWhatIsBroken)
{
    const Plant plant = *compile(test::demoFile().dossier.circuit);
    const auto said = [&](const char* id) { return wording::faultText(plant, faultFrom(plant, id)->fault); };
    EXPECT_EQ(said("Q1/main:welded"), "Q1 main poles: welded");
    EXPECT_EQ(said("wire/70:open"), "wire 35 between K1:14 and Q1:A1: open");
    EXPECT_EQ(said("K1:S12+K1:S22:short"), "K1:S12 touches K1:S22");
    EXPECT_EQ(said("Q1:A1:to_earth"), "Q1:A1 touches earth");
}

} // namespace
} // namespace ts
