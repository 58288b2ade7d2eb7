// What would mend a fault is found by running the changed circuit.

#include "core/improving/mend.h"
#include "tests/core/faults/stop_circuits.h"

namespace ts {
namespace {

DossierFile fileOf(const test::CircuitBuilder& builder)
{
    DossierFile file;
    file.nextId = 20'000;
    test::CircuitBuilder b = builder;
    file.dossier = test::stopping(b.circuit());
    return file;
}

improving::Tried tried(const DossierFile& file, const char* fault)
{
    auto t = improving::mendsOf(file, file.dossier.functions.front(), fault);
    EXPECT_TRUE(t) << t.error().message.id;
    return t ? *t : improving::Tried{};
}

TEST(Mend, AMissingFeedbackContactIsFound)
{
    // Q2's opening contact is not in the reset loop: welded, nobody notices.
    const DossierFile file = fileOf(test::twoChannels(false));
    const improving::Tried t = tried(file, "Q2/main:welded");
    EXPECT_EQ(t.before.overall, faults::Outcome::Hidden);
    ASSERT_FALSE(t.mends.empty()) << t.changeCount;
    EXPECT_EQ(t.mends.front().offer, "feedback_add");
    EXPECT_EQ(t.mends.front().outcome.overall, faults::Outcome::Caught);
    // Carried out, the sweep of the whole changed circuit says the same.
    const faults::Sweep s = test::swept(t.mends.front().changed.dossier);
    EXPECT_EQ(test::outcomeOf(s, "Q2/main:welded").overall, faults::Outcome::Caught);
}

TEST(Mend, AContactBlockThatComesOffIsMonitored)
{
    const DossierFile file = fileOf(test::twoChannels());
    const improving::Tried t = tried(file, "S0/block:fallen_off");
    EXPECT_EQ(t.before.overall, faults::Outcome::Lost);
    ASSERT_FALSE(t.mends.empty());
    EXPECT_EQ(t.mends.front().offer, "monitored_block");
    EXPECT_EQ(t.mends.front().outcome.overall, faults::Outcome::Caught);
}

TEST(Mend, NothingIsOfferedThatStopsTheMachineFromStarting)
{
    const DossierFile file = fileOf(test::twoChannels(false));
    for (const improving::Mend& m : tried(file, "Q2/main:welded").mends) {
        const auto again = faults::tryFault(m.changed.dossier, m.changed.dossier.functions.front(), "Q2/main:welded");
        ASSERT_TRUE(again);
        EXPECT_TRUE(again->notRunning.empty()) << m.offer;
    }
}

TEST(Mend, AFaultThatIsNotThereIsRefused)
{
    const DossierFile file = fileOf(test::twoChannels());
    const auto t = improving::mendsOf(file, file.dossier.functions.front(), "Q7/main:welded");
    ASSERT_FALSE(t);
    EXPECT_EQ(t.error().code, ErrorCode::NotFound);
}

} // namespace
} // namespace ts
