// Edits of the circuit: what they add, what they refuse, and that the old file stays as it was.

#include "core/edit/circuit_edits.h"

#include "tests/support/circuits.h"

namespace ts::edit {
namespace {

Device device(const char* tag, const char* kind, ParameterMap parameters = {})
{
    Device d;
    d.tag = tag;
    d.kind = kind;
    d.parameters = std::move(parameters);
    return d;
}

TEST(WithDevice, TakesTheNextFreeTagAndNeverAnIdAgain)
{
    const DossierFile demo = test::demoFile();
    const auto changed = withDevice(demo, device("", "emergency_stop"));
    ASSERT_TRUE(changed);
    const Device& d = changed->dossier.circuit.devices.back();
    EXPECT_EQ(d.tag, nextTag(demo.dossier.circuit, "S"));
    EXPECT_EQ(d.id.value, demo.nextId);
    EXPECT_EQ(changed->nextId, demo.nextId + 1);
    EXPECT_EQ(demo, test::demoFile()) << "the old one is untouched";
}

TEST(WithDevice, RefusesWhatCannotStandThere)
{
    const DossierFile demo = test::demoFile();
    EXPECT_EQ(withDevice(demo, device("Q1", "emergency_stop")).error().message.id, "file.duplicate_tag");
    EXPECT_EQ(withDevice(demo, device("Q 1", "emergency_stop")).error().message.id, "file.bad_tag");
    EXPECT_EQ(withDevice(demo, device("Q7", "teapot")).error().message.id, "kind.unknown");
    EXPECT_EQ(withDevice(demo, device("Q7", "contactor")).error().message.id, "parameter.missing");
}

TEST(WithWire, BearsTheNumberOfTheNetItJoins)
{
    auto file = withDevice(test::demoFile(), device("P9", "lamp", {{"rated_voltage_v", 24.0}}));
    const Circuit& c = file->dossier.circuit;
    const Wire& known = c.wires.back();
    const auto joined = withWire(*file, c.nameOf(known.from), "P9:X1", {});
    ASSERT_TRUE(joined);
    EXPECT_FALSE(joined->dossier.circuit.wires.back().number.empty());
    EXPECT_EQ(compile(joined->dossier.circuit)->nets.size(), compile(c)->nets.size() - 1) << "two nets became one";
    EXPECT_EQ(withWire(*file, "P9:X1", "P9:X3", {}).error().message.id, "edit.no_terminal");
    EXPECT_EQ(withWire(*file, "P9:X1", "P9:X1", {}).error().message.id, "edit.wire_to_itself");
    Wire thin;
    thin.areaMm2 = 0.0;
    EXPECT_EQ(withWire(*file, "P9:X1", "P9:X2", thin).error().message.id, "edit.wire_size");
}

TEST(WithParts, ReplacesByIdAndRefusesWhatDevicesCannotBear)
{
    const Dossier demo = test::demoFile().dossier;
    Part part = *demo.circuit.part("LK-C09-24");
    part.name = "newer";
    const auto changed = withParts(demo, {part});
    ASSERT_TRUE(changed);
    EXPECT_EQ(changed->circuit.parts.size(), demo.circuit.parts.size());
    EXPECT_EQ(changed->circuit.part("LK-C09-24")->name, "newer");
    part.kind = "lamp";
    part.parameters.clear();
    EXPECT_EQ(withParts(demo, {part}).error().message.id, "part.other_kind");
}

TEST(Linkages, NameDevicesThatAreThere)
{
    const DossierFile demo = test::demoFile();
    EXPECT_EQ(withMechanicalInterlock(demo, "Q1", "Q2")->dossier.circuit.interlocks.size(), 1u);
    EXPECT_EQ(withMechanicalInterlock(demo, "Q1", "Q99").error().message.id, "scenario.no_device");
    const auto shaft = withBrakeOnShaft(demo, "Q1", "M1");
    ASSERT_TRUE(shaft);
    EXPECT_EQ(compile(shaft->dossier.circuit).error().message.id, "shaft.no_brake") << "a contactor is no brake";
}

} // namespace
} // namespace ts::edit
