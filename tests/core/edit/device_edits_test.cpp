// Edits of devices: contacts of add-on blocks, parts, values, names, taking one away.

#include "core/edit/device_edits.h"

#include "core/edit/circuit_edits.h"
#include "core/library/registry.h"
#include "tests/support/circuits.h"

namespace ts::edit {
namespace {

DeviceId idOf(const DossierFile& file, const char* tag)
{
    return file.dossier.circuit.device(std::string_view(tag))->id;
}

TEST(ContactBudget, TellsUsedFromFree)
{
    const DossierFile demo = test::demoFile();
    const auto budget = contactBudget(demo.dossier.circuit, idOf(demo, "Q1"));
    ASSERT_TRUE(budget);
    EXPECT_TRUE(budget->takesBlocks);
    ASSERT_FALSE(budget->contacts.empty());
    for (const ContactUse& use : budget->contacts) {
        EXPECT_EQ(use.kind == ContactKind::NormallyClosed, use.role.ends_with("2")) << use.role;
        EXPECT_EQ(
            use.isUsed, wireCount(demo.dossier.circuit, use.ends.a) + wireCount(demo.dossier.circuit, use.ends.b) > 0);
    }
    EXPECT_EQ(contactBudget(demo.dossier.circuit, {999}).error().message.id, "edit.no_device");
}

TEST(ContactAdded, TakesTheNextFreeNumberAndEndsWhenTheKindHasNoMoreRoom)
{
    DossierFile file = test::demoFile();
    const DeviceId q1 = idOf(file, "Q1");
    std::set<std::string> roles;
    const auto budget = contactBudget(file.dossier.circuit, q1);
    for (const ContactUse& use : budget->contacts)
        roles.insert(use.role);
    for (;;) {
        auto added = withContactAdded(
            file, q1, roles.size() % 2 ? ContactKind::NormallyOpen : ContactKind::NormallyClosed);
        if (!added) {
            EXPECT_EQ(added.error().message.id, "kind.contact_count");
            break;
        }
        EXPECT_TRUE(roles.insert(added->contact.role).second) << added->contact.role << " twice";
        EXPECT_FALSE(added->contact.isUsed);
        file = std::move(added->file);
        ASSERT_LT(roles.size(), 30u);
    }
    EXPECT_EQ(withContactAdded(file, idOf(file, "M1"), ContactKind::NormallyOpen).error().message.id, "edit.no_block");
}

TEST(WithPartOf, RefusesAPartThatHasNotTheTerminalsInUse)
{
    DossierFile file = test::demoFile();
    const DeviceId q1 = idOf(file, "Q1");
    Part bare = *file.dossier.circuit.part(file.dossier.circuit.device(q1)->part);
    bare.id = "BARE";
    bare.parameters["auxiliary_contacts"] = std::vector<std::string>{"13-14"};
    file.dossier = *withParts(file.dossier, {bare});
    for (Device& d : file.dossier.circuit.devices)
        if (d.id == q1)
            d.parameters.erase("auxiliary_contacts");
    EXPECT_EQ(withPartOf(file, q1, "BARE").error().message.id, "edit.terminal_goes");
    EXPECT_EQ(withPartOf(file, q1, "NONE").error().message.id, "part.unknown");
    EXPECT_EQ(withPartOf(file, idOf(file, "S1"), "BARE").error().message.id, "part.other_kind");
}

TEST(WithValue, SetsAndTakesBack)
{
    const DossierFile demo = test::demoFile();
    const DeviceId q1 = idOf(demo, "Q1");
    const auto slow = withValue(demo, q1, "release_time_s", "0.2");
    ASSERT_TRUE(slow);
    EXPECT_DOUBLE_EQ(
        parametersOf(slow->dossier.circuit, *slow->dossier.circuit.device(q1))->number("release_time_s"), 0.2);
    EXPECT_EQ(*withValue(*slow, q1, "release_time_s", ""), demo);
    EXPECT_EQ(withValue(demo, q1, "release_time_s", "-3").error().message.id, "parameter.outside");
    EXPECT_EQ(withValue(demo, q1, "release_time_s", "soon").error().message.id, "parameter.not_a_number");
    EXPECT_EQ(withValue(demo, q1, "charm", "3").error().message.id, "parameter.unknown");
}

TEST(WithTag, ScenariosFollow)
{
    const DossierFile demo = test::demoFile();
    const auto changed = withTag(demo, idOf(demo, "S2"), "S99");
    ASSERT_TRUE(changed);
    EXPECT_EQ(changed->dossier.circuit.device("S2"), nullptr);
    int before = 0, after = 0;
    for (const Scenario& s : demo.dossier.scenarios)
        for (const Step& step : s.steps)
            before += step.target == "S2";
    for (const Scenario& s : changed->dossier.scenarios)
        for (const Step& step : s.steps)
            after += step.target == "S99";
    EXPECT_GT(before, 0);
    EXPECT_EQ(after, before);
    EXPECT_EQ(withTag(demo, idOf(demo, "S2"), "S1").error().message.id, "file.duplicate_tag");
    EXPECT_EQ(withTag(demo, idOf(demo, "S2"), "S:1").error().message.id, "file.bad_tag");
}

TEST(WithoutDevice, IsRefusedWhileSomethingSpeaksOfIt)
{
    DossierFile file = test::demoFile();
    EXPECT_EQ(withoutDevice(file, idOf(file, "Q1")).error().message.id, "edit.spoken_of");
    file.dossier.functions.clear();
    file.dossier.scenarios.clear();
    const auto changed = withoutDevice(file, idOf(file, "F2"));
    ASSERT_TRUE(changed);
    EXPECT_EQ(changed->dossier.circuit.device("F2"), nullptr);
    const auto plant = compile(changed->dossier.circuit);
    ASSERT_TRUE(plant) << plant.error().message.id;
    EXPECT_LT(changed->dossier.circuit.wires.size(), file.dossier.circuit.wires.size());
}

TEST(WithDrawingOrder, GivesSpacedRanks)
{
    const DossierFile demo = test::demoFile();
    const DossierFile changed = withDrawingOrder(demo, {idOf(demo, "Q2"), idOf(demo, "Q1")});
    EXPECT_LT(changed.dossier.circuit.device("Q2")->rank, changed.dossier.circuit.device("Q1")->rank);
    EXPECT_EQ(changed.dossier.circuit.device("S1")->rank, 0);
}

} // namespace
} // namespace ts::edit
