// Steps, readings and mistakes as an electrician reads them: by the numbers on the wires, never by ids.

#include "core/measuring/panel.h"
#include "wording/test_words.h"

#include "core/measuring/readings.h"
#include "core/patterns/advice.h"
#include "core/patterns/machine.h"
#include "tests/support/circuits.h"
#include "wording/cautions.h"
#include "wording/wording.h"

#include <set>

namespace ts {
namespace {

using namespace measuring;

const Circuit& blower()
{
    static const Circuit c = test::demoFile().dossier.circuit;
    return c;
}

std::string mistakeNamed(const std::string& id)
{
    static const auto all = *mistakesOf(blower());
    for (const Mistake& m : all)
        if (m.id == id)
            return wording::mistakeText(blower(), m);
    ADD_FAILURE() << id;
    return {};
}

TEST(TestWords, SayEachMistakeByTheWiresNumberAndItsEnds)
{
    EXPECT_EQ(mistakeNamed("missing/63"), "wire 31 (F2:96 - S1:11) is missing");
    EXPECT_EQ(mistakeNamed("beside/63/to/S1:12"), "wire 31 (F2:96 - S1:11) goes from F2:96 to S1:12");
    EXPECT_EQ(mistakeNamed("left_out/Q1/21-22"), "contact Q1/21-22 is left out");
    EXPECT_EQ(mistakeNamed("inverted/S1/11-12"), "contact 11-12 of S1 is of the other sense");
    EXPECT_EQ(mistakeNamed("coil/Q1/230"), "the coil of Q1 is one for 230 V");
    EXPECT_NE(mistakeNamed("exchanged/63/to/64/from").find("are exchanged"), std::string::npos);
}

/// Those that only a search knows: what is said of them holds whatever became of the end, and a broken wire is not
/// to be put on.
TEST(TestWords, SayWhatAnEyeTellsOfAnOpenWire)
{
    Mistake m;
    m.wires = {{WireId{63}, {}}};
    m.kind = MistakeKind::OffOneEnd;
    m.id = "off/63/from";
    EXPECT_EQ(wording::mistakeText(blower(), m),
        "wire 31 (F2:96 - S1:11) is not on F2:96: loose, or where nobody expects it");
    m.id = "off/63/to";
    EXPECT_EQ(wording::mistakeText(blower(), m),
        "wire 31 (F2:96 - S1:11) is not on S1:11: loose, or where nobody expects it");
    EXPECT_EQ(wording::mendText(blower(), m), "wire 31 put on, F2:96 to S1:11");
    m.kind = MistakeKind::Broken;
    EXPECT_EQ(wording::mistakeText(blower(), m), "wire 31 (F2:96 - S1:11) is open, with both ends on");
    EXPECT_EQ(wording::mendText(blower(), m).find("put on"), std::string::npos) << "it is on";
}

/// None shows a placeholder, or an id where people read a number.
TEST(TestWords, HaveASentenceForEveryMistake)
{
    const auto all = mistakesOf(blower());
    for (const Mistake& m : *all) {
        const std::string text = wording::mistakeText(blower(), m);
        EXPECT_EQ(text.find('%'), std::string::npos) << text;
        EXPECT_EQ(text.find("mistake."), std::string::npos) << text;
    }
}

TEST(TestWords, SayWhatIsDoneMeanwhileByTheNumbersOnTheWires)
{
    const Situation dead{Power::LockedOff, {"Q1 push_in"}, {}, {WireId{43}, WireId{44}}};
    EXPECT_EQ(wording::situationLines(blower(), dead),
        (std::vector<std::string>{
            "wires lifted: " + blower().wire(WireId{43})->number + ", " + blower().wire(WireId{44})->number,
            "meanwhile Q1 push in"}));
    const Situation live{Power::MotorOff, {"S3 press", "S3 release"}, {"F1"}, {}};
    EXPECT_EQ(
        wording::situationLines(blower(), live), (std::vector<std::string>{"taken out: F1", "S3 press", "S3 release"}));
    EXPECT_TRUE(wording::situationLines(blower(), {}).empty());
    EXPECT_EQ(wording::situationLines(blower(), {Power::On, {joinedAtOnce({"S2 press", "S3 press"})}, {}, {}}),
        (std::vector<std::string>{"both at once: S2 press + S3 press"}));
}

TEST(TestWords, SayWhereTheProbesGo)
{
    EXPECT_EQ(
        wording::lookText({Instrument::Ohms, {"Q1:13", "P6:X1 or P6:X2"}}), "Ohms: (1) Q1:13   [2] P6:X1 or P6:X2");
    EXPECT_EQ(wording::lookText({Instrument::Volts, {"G0:L1", "G0:L2"}}), "Volts: (1) G0:L1   [2] G0:L2");
    EXPECT_EQ(wording::lookText({Instrument::Eye, {"Q1", "P1"}}), "Look at Q1, P1");
    EXPECT_EQ(wording::lookText({Instrument::Eye, {"F2:1", "F2:2"}}), "Count the wires on F2:1, F2:2");
    EXPECT_EQ(wording::lookText({Instrument::Person, {"locked_off"}}), "locked off and tagged");
    EXPECT_NE(wording::lookText({Instrument::Tester, {"before"}}), wording::lookText({Instrument::Tester, {"after"}}));
}

TEST(TestWords, SayReadingsAsMetersShowThem)
{
    EXPECT_EQ(wording::lookText({Instrument::Person, {"interlock", "Q1", "Q2"}}),
        "with Q1 pushed in by hand Q2 cannot be pushed in, and the other way round");
    EXPECT_EQ(
        wording::lookText({Instrument::VoltsLater, {"M1:U1", "M1:V1"}}), "Volts, 5 s after: (1) M1:U1   [2] M1:V1");
    EXPECT_EQ(wording::readingText({1e6, kEndless, {}}, Instrument::Insulation), "1.00 Mohm and more");
    EXPECT_EQ(wording::readingText({0, 1, {}}, Instrument::Ohms), "closed (at most 1.00 ohm)");
    EXPECT_EQ(wording::readingText({1e6, kEndless, {}}, Instrument::Ohms), "open (1 Mohm and more)");
    EXPECT_EQ(wording::readingText({20, kEndless, {}}, Instrument::Ohms), "20.0 ohm and more");
    EXPECT_EQ(wording::readingText({360, 440, {}}, Instrument::Volts), "360 V to 440 V");
    EXPECT_EQ(wording::readingText({0, 0, "Q1 in"}, Instrument::Eye), "Q1 in");
}

TEST(TestWords, SayHowLongADayIs)
{
    EXPECT_EQ(wording::durationText(20), "1 min");
    EXPECT_EQ(wording::durationText(600), "10 min");
    EXPECT_EQ(wording::durationText(3660), "1 h 1 min");
    EXPECT_EQ(wording::durationText(13000), "3 h 37 min");
}

TEST(TestWords, SayPartsByTheNumbersOnTheWires)
{
    EXPECT_EQ(wording::partsText(blower(), {"Q1/13-14", "wire/63", "wire/64"}), "wires 31, 32; Q1 13-14");
    EXPECT_EQ(wording::partsText(blower(), {}), "");
}

TEST(TestWords, SaySuspectsAndThatThereAreNone)
{
    EXPECT_NE(wording::suspectsText(blower(), {}).find("two things at once"), std::string::npos);
    const auto all = *mistakesOf(blower());
    std::vector<Suspect> many;
    for (std::size_t k = 0; k < 20; ++k)
        many.push_back({all[k].id, all[k]});
    many.push_back({"Q1/coil:open", {}});
    const std::string few = wording::suspectsText(blower(), many, 3);
    EXPECT_EQ(std::count(few.begin(), few.end(), '\n'), 4) << "three, and that there are more";
    EXPECT_NE(few.find("(21)"), std::string::npos) << "all are counted";
    EXPECT_NE(wording::suspectsText(blower(), {many.back()}).find("Q1/coil:open"), std::string::npos);
}

TEST(TestWords, EveryWordOfAPlanIsKnown)
{
    for (int k = 0; k <= static_cast<int>(Stage::Times); ++k)
        EXPECT_TRUE(wording::knows("stage." + std::string(wordOf(static_cast<Stage>(k))))) << k;
    for (const Power p : {Power::LockedOff, Power::MotorOff, Power::On})
        EXPECT_TRUE(wording::knows("power." + std::string(wordOf(p))));
    for (int k = 0; k <= static_cast<int>(Hidden::NotModelled); ++k)
        EXPECT_TRUE(wording::knows("hidden." + std::string(wordOf(static_cast<Hidden>(k))))) << k;
    for (int k = 0; k <= static_cast<int>(Open::ExpectationChanged); ++k)
        EXPECT_TRUE(wording::knows("open." + std::string(wordOf(static_cast<Open>(k))))) << k;
}

/// What holds a charge, what can fall, and the primary behind a secondary are named from the circuit.
TEST(TestCautions, NameWhatTheCircuitHasInStore)
{
    const auto circuitOf = [](const std::vector<std::string>& words) {
        const auto file = patterns::machine(*patterns::advised(words));
        EXPECT_TRUE(file) << (file ? "" : file.error().message.id);
        return file ? file->dossier.circuit : Circuit{};
    };
    Circuit circuit = circuitOf({"base=drive", "load=hanging", "brake=yes"});
    TestStep step;
    step.stage = Stage::Isolation;
    const auto has = [&](const char* id, const std::string& what) {
        for (const std::string& line : wording::testCautions(step, circuit))
            if (line.find(what) != line.npos && line.find(wording::word(id).substr(0, 8)) != line.npos)
                return true;
        return false;
    };
    EXPECT_TRUE(has("caution.discharge", "as long as its sheet says"));
    EXPECT_TRUE(has("caution.hanging", "M1"));
    circuit = circuitOf({"control=transformer_bonded"});
    std::string transformer;
    for (const Device& d : circuit.devices)
        if (d.kind == "control_transformer")
            transformer = d.tag;
    ASSERT_FALSE(transformer.empty());
    step.stage = Stage::Control;
    step.look.at = {transformer + ":1", transformer + ":2"};
    EXPECT_EQ(wording::testCautions(step, circuit).size(), 1u) << "its primary is live anyway";
    step.look.at = {transformer + ":3", "G0:PE"};
    const auto lines = wording::testCautions(step, circuit);
    ASSERT_EQ(lines.size(), 2u);
    EXPECT_NE(lines[1].find(transformer + ":1 - " + transformer + ":2"), std::string::npos) << lines[1];
    step.stage = Stage::Continuity;
    EXPECT_EQ(wording::testCautions(step, circuit).size(), 2u) << "dead, too";
}

/// Live steps say so, each with its own; dead ones say what dead rests on.
TEST(TestCautions, AreThoseOfTheStage)
{
    TestStep step;
    step.stage = Stage::Insulation;
    EXPECT_EQ(wording::testCautions(step, {}), std::vector<std::string>{wording::word("caution.insulation")});
    step.stage = Stage::Continuity;
    EXPECT_EQ(wording::testCautions(step, {}), std::vector<std::string>{wording::word("caution.dead_work")});
    step.stage = Stage::Direction;
    step.in.power = Power::On;
    EXPECT_EQ(wording::testCautions(step, {}),
        (std::vector<std::string>{wording::word("caution.live"), wording::word("caution.uncoupled")}));
    step.stage = Stage::Control;
    step.in.power = Power::MotorOff;
    EXPECT_EQ(wording::testCautions(step, {}).back(), wording::word("caution.control_only"));
    step.in.bring = {"Q1 push_in", "S3 press"};
    EXPECT_EQ(wording::testCautions(step, {}).back(), wording::word("caution.push_in")) << "beside live parts";
}

} // namespace
} // namespace ts
