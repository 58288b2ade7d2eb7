// What the views are told to show, without a window.

#include "app/places/bench/device_state.h"
#include "app/places/bench/meter_panel.h"
#include "app/places/bench/scene_binding.h"
#include "app/places/bench/trace_view.h"
#include "app/places/levels/knot_sheet.h"
#include "core/diagram/control_layout.h"
#include "core/diagram/power_layout.h"
#include "tests/support/circuits.h"

namespace ts::app {
namespace {

int index(const Plant& p, std::string_view tag)
{
    return p.deviceIndex(tag);
}

QString lines(test::Bench& b, std::string_view tag)
{
    return deviceState(b.plant(), b.frame(), index(b.plant(), tag)).lines.join("; ");
}

TEST(DeviceState, SaysWhatEyesWouldSee)
{
    test::Bench b = test::runningDemo();
    EXPECT_EQ(lines(b, "Q1"), "in; coil 24.0 V");
    EXPECT_TRUE(lines(b, "M1").startsWith("turns right, 145")) << lines(b, "M1").toStdString();
    EXPECT_EQ(lines(b, "G1"), "24.0 V; output voltage there");
    EXPECT_EQ(lines(b, "F1"), "whole");
    EXPECT_EQ(lines(b, "S0"), "not pressed");
    b.act("S0", "press").to(6.0);
    EXPECT_TRUE(lines(b, "M1").startsWith("runs down")) << lines(b, "M1").toStdString();
    b.to(30.0);
    EXPECT_EQ(lines(b, "M1"), "at rest; 0.00  0.00  0.00 A");
}

TEST(DeviceState, SaysFaultsAndTrips)
{
    test::Bench b = test::runningDemo();
    b.fault("Q1/main:welded").act("F2", "test").to(20.0);
    EXPECT_TRUE(lines(b, "Q1").startsWith("fault: main poles: welded; held half way"));
    EXPECT_TRUE(deviceState(b.plant(), b.frame(), index(b.plant(), "Q1")).isAlarm);
    EXPECT_TRUE(lines(b, "F2").startsWith("tripped or off"));
    EXPECT_FALSE(deviceState(b.plant(), b.frame(), index(b.plant(), "Q2")).isAlarm);
}

TEST(DeviceState, SinglePhasingIsSaid)
{
    test::Bench b = test::runningDemo();
    b.fault("Q2/1-2:does_not_close").to(4.5);
    EXPECT_TRUE(lines(b, "M1").contains("only 2 lines are fed")) << lines(b, "M1").toStdString();
}

TEST(SceneBinding, ColoursFollowTheVoltages)
{
    const DossierFile file = test::demoFile();
    test::Bench b = test::runningDemo();
    const auto graph = *diagram::wiredGraph(file.dossier.circuit);
    const auto scene = diagram::controlDrawing(graph).scene;
    const SceneBinding binding(scene, b.plant());
    const auto lookOf = [&](std::string_view tag, std::string_view role) {
        const SceneLook look = binding.look(b.frame(), {}, {});
        for (std::size_t i = 0; i < scene.symbols.size(); ++i)
            if (scene.symbols[i].device == file.dossier.circuit.device(tag)->id && scene.symbols[i].role == role)
                return look.symbols[i];
        ADD_FAILURE() << tag << role;
        return SymbolLook{};
    };
    EXPECT_EQ(lookOf("Q1", "coil").upper, Tone::Live);
    EXPECT_EQ(lookOf("Q1", "coil").lower, Tone::Carrying) << "the return carries current";
    EXPECT_TRUE(lookOf("Q1", "coil").isOn);
    EXPECT_TRUE(lookOf("Q1", "13-14").isClosed);
    EXPECT_FALSE(lookOf("Q1", "21-22").isClosed);
    EXPECT_EQ(lookOf("Q1", "21-22").upper, Tone::Floating) << "the reset loop hangs between two open contacts";
    EXPECT_TRUE(lookOf("K1", "13-14").isClosed) << "two contacts in series inside, both closed";
    EXPECT_FALSE(lookOf("S2", "13-14").isClosed);
    b.act("S0", "press").to(6.0);
    EXPECT_FALSE(lookOf("K1", "13-14").isClosed);
    EXPECT_FALSE(lookOf("Q1", "coil").isOn);
    EXPECT_TRUE(lookOf("Q1", "21-22").isClosed);
    b.fault("Q1/main:welded");
    EXPECT_TRUE(lookOf("Q1", "coil").hasFault);
    EXPECT_FALSE(lookOf("Q2", "coil").hasFault);
}

TEST(SceneBinding, PowerCircuitToo)
{
    const DossierFile file = test::demoFile();
    test::Bench b = test::runningDemo();
    const auto scene = diagram::powerDrawing(*diagram::wiredGraph(file.dossier.circuit));
    const SceneLook look = SceneBinding(scene, b.plant()).look(b.frame(), file.dossier.circuit.device("Q1")->id, {});
    ASSERT_EQ(look.symbols.size(), scene.symbols.size());
    int selected = 0, closedPoles = 0;
    for (std::size_t i = 0; i < scene.symbols.size(); ++i) {
        selected += look.symbols[i].isSelected;
        closedPoles += scene.symbols[i].kind == diagram::SymbolKind::MainContact && look.symbols[i].isClosed;
        if (scene.symbols[i].kind == diagram::SymbolKind::Earth)
            EXPECT_EQ(look.symbols[i].upper, Tone::Dead) << "no current is shown in the protective conductor";
    }
    EXPECT_EQ(selected, 3) << "Q1's three poles";
    EXPECT_EQ(closedPoles, 6);
}

TEST(MeterReading, OfEveryKindOfPlace)
{
    test::Bench b = test::runningDemo();
    const auto read = [&](const char* red, const char* black, MeterMode mode = MeterMode::Volts) {
        const auto terminal = [&](std::string_view name) {
            return b.plant().terminalIndex(name.substr(0, name.find(':')), name.substr(name.find(':') + 1));
        };
        OhmMeter ohms;
        const MeterReading r = meterReading(
            b.plant(), b.state(), b.frame(), mode, {terminal(red), terminal(black)}, ohms);
        return (r.value + " " + r.unit).toStdString();
    };
    EXPECT_EQ(read("Q1:A1", "Q1:A2"), "24.0 V DC");
    EXPECT_EQ(read("Q1:A2", "Q1:A1"), "-24.0 V DC");
    EXPECT_EQ(read("Q1:13", "Q1:14"), "0.00 V DC") << "a closed contact";
    EXPECT_EQ(read("Q1:21", "Q1:22"), "floating ") << "open at both sides";
    // About 2 A through 0.03 + j0.02 ohm of the supply: less than 0.1 V under the open voltage of 400 and 230.9 V.
    EXPECT_EQ(read("G0:L1", "G0:L2").substr(0, 4), "399.");
    EXPECT_EQ(read("G0:L1", "G0:N").substr(0, 4), "230.");
    EXPECT_EQ(read("Q1:A1", "Q1:A1"), "0.00 V DC");
    OhmMeter ohms;
    EXPECT_EQ(meterReading(b.plant(), b.state(), b.frame(), MeterMode::Volts, {-1, 3}, ohms).value, "- - -");
    b.act("S0", "press").to(6.0);
    EXPECT_EQ(read("S0:11", "S0:12"), "24.0 V DC") << "across an open contact stands what it keeps away";
    EXPECT_EQ(read("S0:11", "S0:12", MeterMode::Ohms), "live ") << "no ohms under voltage";
    b.act("Q0", "switch_off").to(30.0);
    EXPECT_EQ(read("S0:11", "S0:12", MeterMode::Ohms).find("live"), std::string::npos);
}

TEST(CauseChain, EndsAtWhatAHandDid)
{
    test::Bench b = test::runningDemo();
    b.act("S0", "press").to(4.2);
    int drop = -1;
    for (std::size_t i = 0; i < b.trace().events.size(); ++i)
        if (b.trace().events[i].why == Why::PowerOff)
            drop = static_cast<int>(i);
    ASSERT_GE(drop, 0);
    const QStringList chain = causeChain(b.plant(), b.trace(), drop);
    EXPECT_EQ(chain.first(), "M1 runs down without power");
    EXPECT_EQ(chain.last(), "S0: pressed");
    EXPECT_TRUE(chain.contains("K1 outputs off")) << chain.join(" | ").toStdString();
}

/// The knot of a claimed part.
PathKnot knotAt(std::size_t subsystem, int channel)
{
    PathKnot knot;
    knot.uses = {{subsystem, channel, 0, false}};
    return knot;
}

TEST(KnotRows, HoldEveryNumberOnceAndMarkTypicalOnes)
{
    const Dossier d = test::demoFile().dossier;
    const auto level = safety::functionLevel(d, d.functions[0]);
    QSet<int> values;
    int typical = 0;
    for (const ValueRow& r : knotRows(level, knotAt(0, 0))) {
        if (r.value >= 0) {
            EXPECT_FALSE(values.contains(r.value)) << r.text.toStdString();
            values.insert(r.value);
        }
        typical += r.text.contains("typical");
    }
    EXPECT_EQ(typical, 2) << "MTTFd and T10d of the contact of the emergency stop";
    EXPECT_TRUE(values.contains(level.subsystems[0].pfhd));
    EXPECT_TRUE(values.contains(level.subsystems[0].channels[0].parts[0].mttfd));
    EXPECT_FALSE(values.contains(level.subsystems[0].channels[1].parts[0].mttfd)) << "that is another knot's";
    EXPECT_TRUE(knotRows(level, knotAt(0, 0)).front().text.contains("category 4 claimed, PL e"));
}

TEST(KnotRows, OfAPartInSeveralSubsystemsStandOneAfterTheOther)
{
    const Dossier d = test::demoFile().dossier;
    const auto level = safety::functionLevel(d, d.functions[0]);
    PathKnot both = knotAt(0, 0);
    both.uses.push_back({2, 0, 0, false});
    const auto rows = knotRows(level, both), first = knotRows(level, knotAt(0, 0)),
               second = knotRows(level, knotAt(2, 0));
    ASSERT_EQ(rows.size(), first.size() + second.size());
    EXPECT_TRUE(std::equal(first.begin(), first.end(), rows.begin()));
    EXPECT_TRUE(std::equal(second.begin(), second.end(), rows.begin() + static_cast<std::ptrdiff_t>(first.size())));
}

TEST(KnotRows, SayWhatIsMissing)
{
    Dossier d = test::demoFile().dossier;
    d.functions[0].claim[2].ccfAnswers.clear();
    const auto level = safety::functionLevel(d, d.functions[0]);
    for (const auto& rows : {knotRows(level, knotAt(2, 1)), functionRows(level)}) {
        EXPECT_TRUE(std::any_of(rows.begin(), rows.end(),
            [](const ValueRow& r) { return r.kind == ValueRow::Kind::Warning && r.text.contains("0 points"); }));
        EXPECT_TRUE(
            std::any_of(rows.begin(), rows.end(), [](const ValueRow& r) { return r.text.contains("no level"); }));
    }
}

} // namespace
} // namespace ts::app
