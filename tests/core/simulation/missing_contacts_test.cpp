// What keeps a coil or a reset from its voltage, named contact by contact.

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

int coilOf(const Plant& plant, std::string_view tag)
{
    for (std::size_t c = 0; c < plant.coils.size(); ++c)
        if (plant.devices[static_cast<std::size_t>(plant.movers[static_cast<std::size_t>(plant.coils[c].mover)].device)]
                .tag
            == tag)
            return static_cast<int>(c);
    return -1;
}

TEST(MissingContacts, BeforeTheResetRelayAndStartAreMissing)
{
    test::Bench b(*compile(test::demoFile().dossier.circuit));
    b.to(0.2);
    // Two contacts in series inside the relay stand for its one output.
    EXPECT_EQ(names(b.plant(), missingForCoil(b.plant(), b.frame(), coilOf(b.plant(), "Q1"))),
        (std::vector<std::string>{"K1 13-14", "K1 13-14", "S2 13-14"}));
    EXPECT_EQ(names(b.plant(), missingForReset(b.plant(), b.frame(), 0)), (std::vector<std::string>{"S3 13-14"}));
}

TEST(MissingContacts, NothingIsMissingForACoilThatIsIn)
{
    test::Bench b = test::runningDemo();
    EXPECT_TRUE(missingForCoil(b.plant(), b.frame(), coilOf(b.plant(), "Q1")).empty());
    EXPECT_TRUE(missingForReset(b.plant(), b.frame(), 0).empty()) << "it does not wait";
}

TEST(MissingContacts, AWeldedContactorShowsInTheResetLoop)
{
    test::Bench b = test::runningDemo();
    b.fault("Q2/main:welded").act("S0", "press").to(20.0).act("S0", "unlatch").to(21.0);
    EXPECT_EQ(
        names(b.plant(), missingForReset(b.plant(), b.frame(), 0)), (std::vector<std::string>{"Q2 21-22", "S3 13-14"}));
}

TEST(MissingContacts, ABrokenWireCounts)
{
    test::Bench b(*compile(test::demoFile().dossier.circuit));
    b.fault("wire/70:open").to(0.2);
    const auto missing = names(b.plant(), missingForCoil(b.plant(), b.frame(), coilOf(b.plant(), "Q1")));
    ASSERT_FALSE(missing.empty());
    EXPECT_EQ(missing.front(), "wire 35");
}

} // namespace
} // namespace ts
