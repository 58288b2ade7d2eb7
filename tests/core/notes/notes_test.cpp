#include "core/io/dossier_text.h"
#include "core/library/registry.h"
#include "core/notes/taking.h"
#include "core/patterns/machine.h"
#include "core/simulation/scenario_run.h"
#include "tests/support/circuits.h"
#include "wording/wording.h"

#include <algorithm>
#include <random>

namespace ts::notes {
namespace {

/// Lines one after the other, as in the window.
class Typing {
public:
    Outcome operator()(std::string_view line)
    {
        Outcome outcome = take(file, pad, line);
        if (auto* taken = std::get_if<Taken>(&outcome)) {
            file = taken->file;
            pad = taken->pad;
        }
        return outcome;
    }
    bool takes(std::string_view line) { return std::holds_alternative<Taken>((*this)(line)); }
    const Circuit& circuit() const { return file.dossier.circuit; }

    DossierFile file;
    Pad pad;
};

std::string saidOf(const Outcome& outcome)
{
    const auto* error = std::get_if<Error>(&outcome);
    return error ? wording::sentence(*error) : "";
}

TEST(Note, ReadsAWireAsItIsReadAloud)
{
    const WireNote plain{{{"Q1", "13"}, {"S2", "14"}}, {}, {}, {}, {}};
    for (const char* line : {"Q1 13 > S2 14", "Q1:13 > S2:14", "  Q1 13>S2 14  # seen twice", "Q1:13>S2:14"}) {
        const auto note = noteFrom(line);
        ASSERT_TRUE(note) << line;
        EXPECT_EQ(std::get<WireNote>(*note), plain) << line;
    }
    const auto row = noteFrom("Q1 13 > S2 14 > S3 13 =17 1,5mm2 2m red");
    ASSERT_TRUE(row);
    const auto& wire = std::get<WireNote>(*row);
    EXPECT_EQ(wire.ends.size(), 3u);
    EXPECT_EQ(wire.number, "17");
    EXPECT_EQ(wire.areaMm2, 1.5);
    EXPECT_EQ(wire.lengthM, 2.0);
    EXPECT_EQ(wire.colour, "red");
}

TEST(Note, ReadsWhatElseAWireIs)
{
    const auto note = noteFrom("Q1 13 > S2 14 =17 1.5mm2 insulation=xlpe_90 conductor_class=2 red");
    ASSERT_TRUE(note) << note.error().message.id;
    const auto& wire = std::get<WireNote>(*note);
    EXPECT_EQ(wire.colour, "red");
    EXPECT_EQ(wire.values,
        (std::vector<std::pair<std::string, std::string>>{{"insulation", "xlpe_90"}, {"conductor_class", "2"}}));
    for (const char* wrong : {"Q1 13 > S2 14 insulation=wool", "Q1 13 > S2 14 woven=yes"}) {
        const auto refused = noteFrom(wrong);
        ASSERT_FALSE(refused) << wrong;
        EXPECT_EQ(refused.error().place.column, 15) << wrong;
    }
}

TEST(Note, EveryBeginningOfALineIsAStateWithAPlaceAndNotATrap)
{
    for (const std::string_view line : {"Q1 13 > S2 14 > S3 13 =17 1.5mm2 2m red", "K1 5-6 nc",
             "Q1 = contactor coil_voltage_v=24 13-14 @plate \"main pump\"", "in door duct: protected_cable",
             "control 24 dc", "Q1 locks Q2"})
        for (std::size_t length = 0; length < line.size(); ++length) {
            const auto note = noteFrom(line.substr(0, length));
            if (note)
                continue;
            EXPECT_GE(note.error().place.column, 1) << line.substr(0, length);
            EXPECT_LE(note.error().place.column, static_cast<int>(length) + 1) << line.substr(0, length);
            EXPECT_NE(wording::sentence(note.error()), note.error().message.id) << "a sentence for it";
        }
}

TEST(Taking, AsksOnceWhatADeviceIsAndRemembersItsTerminals)
{
    Typing type;
    const Outcome first = type("Q1 13 > S2 14");
    ASSERT_TRUE(std::holds_alternative<Asked>(first));
    Asked asked = std::get<Asked>(first);
    EXPECT_EQ(asked.what, Asked::What::Kind);
    EXPECT_EQ(asked.tag, "Q1");
    EXPECT_EQ(answerLine(asked, {"contactor"}), "Q1 = contactor 13-14");
    const Outcome values = type(answerLine(asked, {"contactor"}));
    ASSERT_TRUE(std::holds_alternative<Asked>(values)) << "its coil is not known";
    asked = std::get<Asked>(values);
    EXPECT_EQ(asked.parameters, (std::vector<std::string>{"coil_voltage_v", "coil_current"}));
    EXPECT_TRUE(type.takes(answerLine(asked, {"24", "dc"})));
    const Outcome second = type("Q1 13 > S2 14");
    ASSERT_TRUE(std::holds_alternative<Asked>(second));
    EXPECT_EQ(std::get<Asked>(second).tag, "S2");
    EXPECT_TRUE(type.takes(answerLine(std::get<Asked>(second), {"push_button"})));
    EXPECT_TRUE(type.takes("Q1 13 > S2 14"));
    EXPECT_TRUE(type.takes("Q1 14 > Q1 A1"));
    EXPECT_TRUE(type.takes("Q1 21 > S2 13")) << "a contact that its number tells is found by itself";
    ASSERT_EQ(type.circuit().wires.size(), 3u);
    EXPECT_EQ(type.circuit().nameOf(type.circuit().wires[0].from), "Q1:13");
    EXPECT_TRUE(type.takes("Q2 = contactor")) << "its coil is like the last one's";
    EXPECT_EQ(std::get<double>(type.circuit().device("Q2")->parameters.at("coil_voltage_v")), 24.0);
}

TEST(Taking, TheControlVoltageAnswersForCoilsAndLamps)
{
    Typing type;
    EXPECT_TRUE(type.takes("control 230 ac"));
    EXPECT_TRUE(type.takes("Q1 = contactor"));
    EXPECT_TRUE(type.takes("P1 = lamp"));
    EXPECT_EQ(std::get<std::string>(type.circuit().device("Q1")->parameters.at("coil_current")), "ac");
    EXPECT_EQ(std::get<double>(type.circuit().device("P1")->parameters.at("rated_voltage_v")), 230.0);
    EXPECT_TRUE(type.takes("F1 = fuse rated_current_a=2"));
    const Outcome fuse = type("F2 = fuse");
    ASSERT_TRUE(std::holds_alternative<Asked>(fuse)) << "a rating is the device's own, however many fuses there are";
    EXPECT_EQ(std::get<Asked>(fuse).parameters, std::vector<std::string>{"rated_current_a"});
    const Outcome brake = type("Y1 = brake");
    ASSERT_TRUE(std::holds_alternative<Asked>(brake)) << "a brake's coil need not be of the control voltage";
    EXPECT_EQ(std::get<Asked>(brake).parameters.size(), 3u);
    const Outcome motor = type("M1 = motor");
    ASSERT_TRUE(std::holds_alternative<Asked>(motor)) << "each motor has a plate of its own";
}

TEST(Taking, AContactIsToldByWhatItDoesAndNotByItsDigits)
{
    Typing type;
    ASSERT_TRUE(type.takes("control 24 dc") && type.takes("K1 = contactor_relay"));
    const Outcome asked = type("K1 5 > K1 A1");
    ASSERT_TRUE(std::holds_alternative<Asked>(asked));
    EXPECT_EQ(std::get<Asked>(asked).what, Asked::What::Contact);
    EXPECT_TRUE(type.takes(answerLine(std::get<Asked>(asked), {"5-6", "nc"})));
    EXPECT_TRUE(type.takes("K1 5 > K1 A1"));
    const auto kindOf = [&type](std::string_view role) {
        const auto body = bodyOf(type.circuit(), *type.circuit().device("K1"));
        for (const Element& e : body->elements)
            if (e.role == role)
                return std::get<ContactElement>(e.what).kind;
        ADD_FAILURE() << role;
        return ContactKind::Pole;
    };
    EXPECT_EQ(kindOf("5-6"), ContactKind::NormallyClosed);
    EXPECT_TRUE(type.takes("K1 5-6 no")) << "found to be the other way round";
    EXPECT_EQ(kindOf("5-6"), ContactKind::NormallyOpen);
    EXPECT_TRUE(type.takes("K1 31-32 ?"));
    EXPECT_EQ(kindOf("31-32"), ContactKind::NormallyClosed) << "by its digits, until somebody has measured";
}

TEST(Taking, WiresAreLaidWhereTheLastLineSaidSo)
{
    Typing type;
    ASSERT_TRUE(type.takes("S1 = push_button 11-12 21-22") && type.takes("S2 = push_button 13-14"));
    EXPECT_TRUE(type.takes("S1 12 > S2 13"));
    EXPECT_TRUE(type.takes("in door duct: protected_cable"));
    EXPECT_TRUE(type.takes("S1 11 > S2 14"));
    EXPECT_TRUE(type.takes("in:"));
    EXPECT_TRUE(type.takes("S1 21 > S2 14"));
    const Circuit& c = type.circuit();
    EXPECT_EQ(c.route(c.wires[0].route), nullptr);
    ASSERT_NE(c.route(c.wires[1].route), nullptr);
    EXPECT_EQ(c.route(c.wires[1].route)->name, "door duct");
    EXPECT_EQ(c.route(c.wires[1].route)->kind, RouteKind::ProtectedCable);
    EXPECT_EQ(c.route(c.wires[2].route), nullptr);
}

TEST(Taking, SaysWhatIsWrongAndChangesNothing)
{
    Typing type;
    ASSERT_TRUE(type.takes("control 24 dc") && type.takes("Q1 = contactor 13-14") && type.takes("Q1 14 > Q1 A1"));
    const DossierFile before = type.file;
    for (const auto& [line, part] : std::vector<std::pair<const char*, const char*>>{
             {"Q1 14 > Q1 A1", "wire 1 already"}, {"Q1 = lamp", "is a contactor"}, {"Q9 = contraption", "contraption"},
             {"Q1 13 > Q1 13", "to itself"}, {"M1 = motor 13-14", "no contacts"}, {"Q1 locks Q7", "Q7"},
             {"Q1 14 > Q1 A1 >", "missing"}, {"control many dc", "control 24 dc"}, {"in duct", "colon"},
             {"Q1 13 > Q1 A2 0mm2", "above zero"}, {"Q1 coil", "not finished"}}) {
        const std::string said = saidOf(type(line));
        EXPECT_NE(said.find(part), said.npos) << line << ": " << said;
    }
    EXPECT_EQ(type.file, before);
}

TEST(Taking, ReadsAWholeTextAndTellsEverythingThatIsWrongAtOnce)
{
    const TakenText taken = takeAll({},
        "control 24 dc\n"
        "Q1 = contactor 13-14\n"
        "Q2 = contraption\n"
        "Q2 13 > Q1 14\n" // no second error
        "Q1 13 >\n"
        "S9 13 > Q1 13\n"
        "S9 14 > Q1 13\n", // nor is this
        "panel.notes");
    EXPECT_FALSE(taken.file);
    ASSERT_EQ(taken.errors.size(), 3u);
    EXPECT_EQ(taken.errors[0].place.line, 3);
    EXPECT_EQ(taken.errors[1].place.line, 5);
    EXPECT_EQ(taken.errors[2].place.line, 6);
    EXPECT_EQ(taken.errors[2].place.file, "panel.notes");
}

/// What two circuits have in common if they are the same panel: devices by tag, wires by their ends.
void expectSamePanel(const Circuit& a, const Circuit& b)
{
    ASSERT_EQ(a.devices.size(), b.devices.size());
    for (const Device& d : a.devices) {
        const Device* other = b.device(d.tag);
        ASSERT_NE(other, nullptr) << d.tag;
        EXPECT_EQ(d.kind, other->kind);
        EXPECT_EQ(d.label, other->label);
        EXPECT_EQ(d.place, other->place);
        const auto values = parametersOf(a, d), others = parametersOf(b, *other);
        ASSERT_TRUE(values && others) << d.tag;
        const auto body = bodyOf(a, d), otherBody = bodyOf(b, *other);
        ASSERT_EQ(body->elements.size(), otherBody->elements.size()) << d.tag;
        for (std::size_t k = 0; k < body->elements.size(); ++k)
            EXPECT_EQ(body->elements[k].role, otherBody->elements[k].role) << d.tag;
    }
    const auto lines = [](const Circuit& c) {
        std::vector<std::string> all;
        for (const Wire& w : c.wires) {
            const Route* route = c.route(w.route);
            all.push_back(c.nameOf(w.from) + " " + c.nameOf(w.to) + " " + w.number + " " + w.colour + " " + w.insulation
                + " " + w.conductorClass + " " + std::to_string(w.areaMm2) + " " + std::to_string(w.lengthM) + " "
                + (route ? route->name : "-"));
        }
        std::sort(all.begin(), all.end());
        return all;
    };
    EXPECT_EQ(lines(a), lines(b));
    EXPECT_EQ(a.interlocks.size(), b.interlocks.size());
    EXPECT_EQ(a.shafts.size(), b.shafts.size());
}

TEST(Notes, WrittenOutAndReadInAreTheSamePanel)
{
    std::vector<DossierFile> files{
        test::demoFile(), *io::loadDossier(test::sourcePath("data/demo/larkspur_db2.sentry"))};
    files.front().dossier.circuit.wires.front().insulation = "rubber_60";
    files.front().dossier.circuit.wires.front().conductorClass = "2";
    for (const char* base : {"direct", "reversing", "star_delta", "soft_starter", "drive"})
        for (const char* stop : {"straight", "two_channel_relay", "controller"})
            files.push_back(*patterns::machine(*patterns::MachinePlan::from(
                std::vector<std::string>{std::string("base=") + base, std::string("stop=") + stop})));
    using Words = std::vector<std::string>; // of the rest of the trade: small motors, printed marks, any supply
    for (const Words& words : {Words{"base=single_phase", "motor=0.37kW", "operation=called_relay"},
             Words{"base=dc_motor", "motor=0.1kW"}, Words{"base=solid_state", "operation=enabling"},
             Words{"operation=two_hand", "marks=north_american", "control=transformer_bonded"},
             Words{"stop=two_channel_relay", "control=phase_neutral", "relay_supply=control", "reset_from=channel"}})
        files.push_back(*patterns::machine(*patterns::MachinePlan::from(words)));
    for (const DossierFile& file : files) {
        const Circuit& circuit = file.dossier.circuit;
        const TakenText taken = takeAll({}, notesOf(circuit), "notes");
        for (const Error& e : taken.errors)
            ADD_FAILURE() << file.dossier.machine.name << ": " << wording::sentence(e);
        if (taken.file)
            expectSamePanel(circuit, taken.file->dossier.circuit);
    }
}

/// Slips of the finger: whatever comes of it is a dossier that loads again, a question, or an error with its place.
TEST(Notes, NoSlipOfTheFingerBreaksAnything)
{
    const DossierFile file = *patterns::machine(*patterns::MachinePlan::from({}));
    const std::string text = notesOf(file.dossier.circuit);
    std::mt19937 random(11);
    int taken = 0, refused = 0;
    for (int round = 0; round < 300; ++round) {
        std::string slipped = text;
        for (int slip = 0; slip < 1 + round % 3; ++slip) {
            const std::size_t at = random() % slipped.size();
            switch (random() % 4) {
            case 0:
                slipped.erase(at, 1 + random() % 3);
                break;
            case 1:
                slipped.insert(at, 1, static_cast<char>(' ' + random() % 95));
                break;
            case 2:
                std::swap(slipped[at], slipped[random() % slipped.size()]);
                break;
            default:
                slipped.insert(at, slipped.substr(random() % slipped.size(), random() % 12));
            }
        }
        const TakenText result = takeAll({}, slipped, "slips");
        ASSERT_TRUE(result.file || !result.errors.empty());
        for (const Error& e : result.errors)
            EXPECT_GE(e.place.line, 1) << wording::sentence(e);
        if (result.file)
            EXPECT_TRUE(io::parseDossier(io::printDossier(*result.file))) << "what is typed in loads again";
        ++(result.file ? taken : refused);
    }
    EXPECT_GT(taken, 10) << "some slips mean something else";
    EXPECT_GT(refused, 100);
}

TEST(Notes, ATypedPanelRunsAsItWouldRun)
{
    // A pump with its own hold, read off in half a page: it starts, holds, and stops.
    const TakenText taken = takeAll({},
        "G0 = supply_three_phase voltage_v=400\ncontrol 24 dc\nG1 = supply_24v_dc input_voltage_v=400 "
        "rated_current_a=5\nQ1 = contactor\nM1 = motor rated_power_w=1500 voltage_v=400 current_a=3.4 cos_phi=0.79 "
        "speed_per_min=1430\nin plate: enclosure\nG0 L1 > Q1 1\nG0 L2 > Q1 3\nG0 L3 > Q1 5\nQ1 2 > M1 U1\nQ1 4 > M1 "
        "V1\nQ1 6 > M1 W1\nG0 L1 > G1 L\nG0 L2 > G1 N\nS0 = emergency_stop 11-12\nS2 = push_button 13-14\nG1 + > S0 "
        "11\nS0 12 > S2 13 > Q1 13\nS2 14 > Q1 14 > Q1 A1\nQ1 A2 > G1 -\n",
        "pump");
    for (const Error& e : taken.errors)
        ADD_FAILURE() << wording::sentence(e);
    ASSERT_TRUE(taken.file);
    test::Bench bench(*compile(taken.file->dossier.circuit));
    bench.to(1.0).tap("S2").to(2.0);
    EXPECT_TRUE(bench.is("Q1", "in"));
    bench.act("S0", "press").to(3.0);
    EXPECT_FALSE(bench.is("Q1", "in"));
}

TEST(Completions, OfferTagsThenFreeTerminals)
{
    Typing type;
    ASSERT_TRUE(type.takes("control 24 dc") && type.takes("Q1 = contactor 13-14") && type.takes("Q10 = contactor")
        && type.takes("S1 = push_button 13-14") && type.takes("Q1 13 > S1 13"));
    EXPECT_EQ(completions(type.circuit(), "", 3), (std::vector<std::string>{"Q1", "S1", "Q10"}));
    EXPECT_EQ(completions(type.circuit(), "Q", 9), (std::vector<std::string>{"Q1", "Q10"}));
    const auto ends = completions(type.circuit(), "S1 ", 9);
    EXPECT_EQ(ends, (std::vector<std::string>{"14", "13"})) << "those without a wire first";
    EXPECT_EQ(completions(type.circuit(), "S1 14 ", 9), (std::vector<std::string>{">"}));
    EXPECT_EQ(completions(type.circuit(), "S1 14 >", 2), (std::vector<std::string>{"Q1", "S1"}));
    EXPECT_EQ(
        completions(type.circuit(), "Q1 = contact", 9), (std::vector<std::string>{"contactor", "contactor_relay"}));
}

} // namespace
} // namespace ts::notes
