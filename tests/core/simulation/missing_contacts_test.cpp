// What keeps a reset from its voltage, named contact by contact.

#include "core/simulation/missing_contacts.h"
#include "tests/support/circuits.h"

namespace ts {
namespace {

std::vector<std::string> names(const Plant& plant, const std::vector<int>& links)
{
    std::vector<std::string> list;
    for (int l : links) {
        const PlantLink& link = plant.links[static_cast<std::size_t>(l)];
        list.push_back(
            (link.device < 0 ? "wire" : plant.devices[static_cast<std::size_t>(link.device)].tag) + " " + link.role);
    }
    return list;
}

TEST(MissingContacts, TheResetButtonIsMissingBeforeTheReset)
{
    test::Bench b(*compile(test::demoFile().dossier.circuit));
    b.to(0.2);
    EXPECT_EQ(names(b.plant(), missingForReset(b.plant(), b.frame(), 0)), (std::vector<std::string>{"S3 13-14"}));
}

TEST(MissingContacts, NothingIsMissingForARelayThatDoesNotWait)
{
    test::Bench b = test::runningDemo();
    EXPECT_TRUE(missingForReset(b.plant(), b.frame(), 0).empty());
}

TEST(MissingContacts, AWeldedContactorShowsInTheResetLoop)
{
    test::Bench b = test::runningDemo();
    b.fault("Q2/main:welded").act("S0", "press").to(20.0).act("S0", "unlatch").to(21.0);
    EXPECT_EQ(
        names(b.plant(), missingForReset(b.plant(), b.frame(), 0)), (std::vector<std::string>{"Q2 21-22", "S3 13-14"}));
}

} // namespace
} // namespace ts
