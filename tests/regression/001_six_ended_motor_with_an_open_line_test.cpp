// A blown fuse in one line of a star-delta motor: between line contactor and star contactor one winding hung on
// nothing. All six ends counted as one galvanic piece, so that winding got no leak, its matrix was singular and the
// speed ran away to 1e221.

#include "tests/support/circuits.h"

namespace ts {
namespace {

TEST(Regression, ASixEndedMotorWithAnOpenLineStandsStill)
{
    const auto file = io::loadDossier(test::sourcePath("data/demo/larkspur_db2.sentry"));
    ASSERT_TRUE(file);
    test::Bench b(*compile(file->dossier.circuit));
    b.fault("F6/3-4:open").to(0.5).tap("S4").to(1.6).tap("S12").to(4.0);
    EXPECT_EQ(b.pause, Pause::Reached);
    EXPECT_TRUE(b.is("Q3", "in"));
    const Frame f = b.frame();
    for (const MotorReading& m : f.motors)
        EXPECT_LT(std::abs(m.speedRadPerS), 200.0);
}

} // namespace
} // namespace ts
