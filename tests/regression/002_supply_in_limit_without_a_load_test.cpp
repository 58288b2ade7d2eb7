// A line touched the 24 V side: its fuse blew while the 24 V supply was in current limit, and a constant current was
// left without anything to flow through. The direct current network was singular and the program stopped.

#include "tests/support/circuits.h"

namespace ts {
namespace {

TEST(Regression, ASupplyInLimitWhoseLoadIsGoneGoesBackToItsVoltage)
{
    test::Bench b(*compile(test::demoFile().dossier.circuit));
    b.to(0.25).fault("G0:L1+S1:12:short").to(5.0);
    EXPECT_NE(b.pause, Pause::Cancelled);
    EXPECT_LT(std::abs(b.directVoltage("G1:+", "G1:-")), 30.0);
}

} // namespace
} // namespace ts
