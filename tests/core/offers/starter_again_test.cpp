// A starter built again: what comes along, what it shares with the first, and that both run.

#include "core/offers/offer.h"

#include "core/io/dossier_file.h"
#include "core/offers/cutting.h"
#include "core/patterns/machine.h"
#include "tests/support/circuits.h"

namespace ts::offers {
namespace {

std::string newTags(const DossierFile& before, const DossierFile& after)
{
    std::string tags;
    for (const Device& d : after.dossier.circuit.devices)
        if (!before.dossier.circuit.device(d.id))
            tags += (tags.empty() ? "" : " ") + d.tag + "=" + d.kind;
    return tags;
}

DossierFile again(const DossierFile& file, const char* motor)
{
    auto changed = carriedOut(
        file, {file.dossier.circuit.device(std::string_view(motor))->id, "", {}}, "starter_again", {});
    EXPECT_TRUE(changed) << changed.error().message.id;
    return *changed;
}

TEST(StarterAgain, TakesAlongWhatWorksForTheMotorAlone)
{
    const DossierFile file = *patterns::machine(*patterns::MachinePlan::from(
        std::vector<std::string>{"base=direct", "stop=two_channel_relay", "second_contactor=no"}));
    const DossierFile twice = again(file, "M1");
    const std::string tags = newTags(file, twice);
    for (const char* kind : {"=contactor", "=motor", "=overload_relay", "=push_button"})
        EXPECT_NE(tags.find(kind), std::string::npos) << tags;
    for (const char* kind : {"=safety_relay", "=emergency_stop", "=supply"})
        EXPECT_EQ(tags.find(kind), std::string::npos) << "stays one for all: " << tags;
}

/// The whole demo with its chip blower built again: both blowers start by their own buttons, one emergency stop stops
/// both, and the second contactor is watched like the first.
TEST(StarterAgain, RunsBesideTheFirstUnderOneEmergencyStop)
{
    const DossierFile file = *io::loadDossier(test::sourcePath("data/demo/larkspur_db2.sentry"));
    const DossierFile twice = again(file, "M3");
    const Circuit& c = twice.dossier.circuit;
    std::string start, contactor, motor;
    for (const Device& d : c.devices)
        if (!file.dossier.circuit.device(d.id)) {
            if (d.kind == "push_button"
                && std::get<std::vector<std::string>>(d.parameters.at("contacts")).front().ends_with("4"))
                start = d.tag;
            if (d.kind == "contactor")
                contactor = d.tag;
            if (d.kind == "motor")
                motor = d.tag;
        }
    ASSERT_FALSE(start.empty() || contactor.empty() || motor.empty()) << newTags(file, twice);
    test::Bench b(*compile(c));
    b.to(0.5).tap("S4").to(1.5).tap("S22").to(2.5);
    EXPECT_TRUE(b.is("M3", "driven"));
    EXPECT_TRUE(b.is(contactor, "out"));
    b.tap(start).to(4.0);
    EXPECT_TRUE(b.is(contactor, "in"));
    EXPECT_TRUE(b.is(motor, "driven"));
    b.act("S0", "press").to(4.5);
    EXPECT_TRUE(b.is("Q6", "out"));
    EXPECT_TRUE(b.is(contactor, "out"));

    const auto structure = structureOf(c);
    const auto watched = [&](const std::string& tag) {
        for (const Cut& cut : structure->cuts)
            if (cut.contact.device == c.device(tag)->id && c.device(cut.load.device)->tag == "K0")
                return true;
        return false;
    };
    EXPECT_TRUE(watched("Q6"));
    EXPECT_TRUE(watched(contactor)) << "its opening contact stands in the reset circuit too";
}

} // namespace
} // namespace ts::offers
