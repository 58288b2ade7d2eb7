// Practising: the panel that is worked by lines, its meter, and drills.

#include "core/patterns/advice.h"
#include "core/patterns/machine.h"
#include "core/practice/drill.h"
#include "core/practice/scpi.h"
#include "tests/support/circuits.h"

namespace ts::practice {
namespace {

using measuring::Instrument;
using measuring::StandIn;
using Texts = std::vector<std::string>;

Circuit pattern()
{
    return patterns::machine(*patterns::advised(Texts{}))->dossier.circuit;
}

PracticePanel rightPanel(unsigned seed = 1)
{
    const auto plant = std::make_shared<const Plant>(*compile(pattern()));
    return PracticePanel(plant, std::make_unique<StandIn>(plant), {"S0 press"}, seed);
}

void probe(PracticePanel& panel, const std::string& red, const std::string& black)
{
    ASSERT_TRUE(panel.operate("probe red " + red)) << red;
    ASSERT_TRUE(panel.operate("probe black " + black)) << black;
}

TEST(PracticePanel, ReadsWhatAMeterWouldReadAndTheSameAgain)
{
    PracticePanel panel = rightPanel();
    probe(panel, "G0:L1", "G0:L2");
    const double volts = *panel.measure(Instrument::Volts);
    EXPECT_NEAR(volts, 400, 20);
    ASSERT_TRUE(panel.operate("lock_off"));
    ASSERT_EQ(*panel.operate("prove_dead"), "dead");
    probe(panel, "F2:95", "F2:96");
    const double closed = *panel.measure(Instrument::Ohms);
    EXPECT_LT(closed, 2);
    EXPECT_GT(closed, 0) << "leads and contacts have something";
    probe(panel, "F2:96", "F2:95");
    EXPECT_EQ(*panel.measure(Instrument::Ohms), closed) << "the same place, the other way round";
    probe(panel, "Q1:A1", "Q1:A2");
    const double coil = *panel.measure(Instrument::Ohms);
    probe(panel, "Q1:1", "Q1:2");
    EXPECT_EQ(*panel.measure(Instrument::Ohms), kOverload) << "a contact that is open";
    EXPECT_GT(coil, 20);
    EXPECT_EQ(panel.measurements(), 5u);
    EXPECT_TRUE(panel.lapses().empty());
    PracticePanel other = rightPanel(2);
    ASSERT_TRUE(other.operate("lock_off"));
    ASSERT_TRUE(other.operate("prove_dead"));
    probe(other, "Q1:A1", "Q1:A2");
    const double another = *other.measure(Instrument::Ohms);
    EXPECT_NE(another, coil) << "another part of the same kind";
    EXPECT_NEAR(another, coil, 0.3 * coil);
}

TEST(PracticePanel, KeepsWhatCanHurt)
{
    PracticePanel panel = rightPanel();
    probe(panel, "Q1:A1", "Q1:A2");
    EXPECT_FALSE(panel.measure(Instrument::Ohms));
    ASSERT_EQ(panel.lapses().size(), 1u);
    EXPECT_EQ(panel.lapses().back().kind, Lapse::Kind::OhmsOnLive);
    EXPECT_EQ(*panel.operate("prove_dead"), "live") << "the tester says so";
    for (const char* line : {"press S4", "release S4", "press S2", "release S2"})
        ASSERT_TRUE(panel.operate(line)) << line;
    EXPECT_EQ(*panel.operate("look Q1"), "Q1 in");
    EXPECT_FALSE(panel.operate("pull F1"));
    EXPECT_EQ(panel.lapses().back().kind, Lapse::Kind::FuseUnderLoad);
    ASSERT_TRUE(panel.operate("lock_off"));
    EXPECT_FALSE(panel.operate("probe red Q1:A1"));
    EXPECT_EQ(panel.lapses().back().kind, Lapse::Kind::NotProvedDead);
    EXPECT_EQ(panel.lapses().size(), 3u);
    for (const char* wrong :
        {"", "dance", "probe green Q1:A1", "press", "fly S2", "press S99", "probe red Q1:777", "lift 1", "a b c d"})
        EXPECT_FALSE(panel.operate(wrong)) << wrong;
    EXPECT_EQ(panel.lapses().size(), 3u) << "what is no line is no lapse";
}

TEST(PracticePanel, EachReadingWantsFreshProbes)
{
    PracticePanel panel = rightPanel();
    EXPECT_FALSE(panel.measure(Instrument::Volts));
    probe(panel, "G0:L1", "G0:N");
    EXPECT_NEAR(*panel.measure(Instrument::Volts), 230, 12);
    EXPECT_FALSE(panel.measure(Instrument::Volts));
    EXPECT_EQ(panel.measurements(), 1u);
}

TEST(ScpiMeter, AnswersAsSuchMetersDo)
{
    PracticePanel panel = rightPanel();
    ScpiMeter meter(panel);
    const std::string idn = meter.answer("*IDN?");
    EXPECT_EQ(std::count(idn.begin(), idn.end(), ','), 3);
    EXPECT_EQ(meter.answer("*opc?;*OPC?"), "1;1");
    EXPECT_EQ(meter.answer("*RST"), "");
    EXPECT_EQ(meter.answer("syst:err?"), "0,\"No error\"");
    EXPECT_EQ(std::stod(meter.answer("MEAS:VOLT:AC?")), kOverload) << "no probes";
    EXPECT_EQ(meter.answer("SYSTEM:ERROR?").substr(0, 4), "-230");
    for (const char* form : {"MEASure:VOLTage:AC?", "meas:volt:ac?", ":MEAS:VOLT:AC?", "  MEASURE:VOLT:AC? "}) {
        probe(panel, "G0:L1", "G0:L2");
        EXPECT_NEAR(std::stod(meter.answer(form)), 400, 20) << form;
    }
    for (const char* wrong : {"MEASU:VOLT:AC?", "MEAS:VOLT:AC", "VOLT?", "?", ":", "*IDN"})
        EXPECT_EQ(meter.answer(wrong), "") << wrong;
    for (int n = 0; n < 100; ++n)
        meter.answer("nonsense");
    std::string error, last;
    int errors = 0;
    while ((error = meter.answer("SYST:ERR?")).front() != '0') {
        last = error;
        ASSERT_LT(++errors, 50) << "the queue has an end";
    }
    EXPECT_EQ(last.substr(0, 4), "-350");
}

TEST(Drill, IsTheSameForItsSeedAndCanBeSolvedAsTheFinderDoes)
{
    const Circuit circuit = pattern();
    const auto first = drillOf(circuit, Difficulty::Easy, 3), same = drillOf(circuit, Difficulty::Easy, 3);
    ASSERT_TRUE(first);
    EXPECT_EQ(first->hidden, same->hidden);
    EXPECT_FALSE(first->told.empty());
    EXPECT_LT(first->bitsLeft, 3);
    EXPECT_GT(first->finderMeasurements, 0u);
    const auto isIt = [&](const measuring::Suspect& s) { return s.id == first->hidden.id; };
    EXPECT_TRUE(std::any_of(first->sameClass.begin(), first->sameClass.end(), isIt)) << "the finder finds it";
    const auto panel = panelOf(*first);
    ASSERT_TRUE(panel);
    EXPECT_TRUE(scoreOf(*first, *panel, first->hidden.id).isRight);
    EXPECT_FALSE(scoreOf(*first, *panel, "missing/9999").isRight);
    const auto masked = drillOf(circuit, Difficulty::Masked, 3);
    ASSERT_TRUE(masked);
    EXPECT_TRUE(masked->told.empty() || masked->bitsLeft >= 5);
    EXPECT_FALSE(drillWith(circuit, "missing/9999", 1));
}

TEST(Course, EachLessonHidesWhatItIsAbout)
{
    using measuring::MistakeKind;
    const Circuit circuit = pattern();
    const auto kindOf = [&](int lesson) {
        const auto d = lessonOf(circuit, lesson, 2);
        return d && d->hidden.mistake ? std::optional(d->hidden.mistake->kind) : std::nullopt;
    };
    EXPECT_EQ(kindOf(1), MistakeKind::Missing);
    EXPECT_EQ(kindOf(2), MistakeKind::Beside);
    EXPECT_EQ(kindOf(3), MistakeKind::Exchanged);
    EXPECT_EQ(kindOf(5), MistakeKind::Inverted);
    EXPECT_EQ(kindOf(9), MistakeKind::LeftOut);
    const auto welded = lessonOf(circuit, 10, 2);
    ASSERT_TRUE(welded);
    EXPECT_TRUE(welded->hidden.id.ends_with(":welded")) << welded->hidden.id;
    const auto earth = lessonOf(circuit, 11, 2);
    ASSERT_TRUE(earth);
    EXPECT_TRUE(earth->told.empty()) << "nothing is seen of a protective conductor that is missing";
    for (const int wrong : {0, -1, kLessons + 1})
        EXPECT_EQ(lessonOf(circuit, wrong, 1).error().code, ErrorCode::OutOfRange);
}

} // namespace
} // namespace ts::practice
