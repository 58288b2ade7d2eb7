// What the exploration shows wrong becomes a finding; what it proves does not.

#include "core/checks/explored.h"
#include "tests/core/faults/stop_circuits.h"

namespace ts {
namespace {

std::vector<Finding> found(const Dossier& d)
{
    exploration::Request request;
    request.withFaults = request.withInterlocks = false;
    const auto explored = exploration::explore(d, request);
    EXPECT_TRUE(explored);
    return explored ? checks::exploredFindings(d, *explored) : std::vector<Finding>{};
}

TEST(Explored, TwoChannelsWithResetAreInOrder)
{
    EXPECT_TRUE(found(test::stopping(test::twoChannels().circuit())).empty());
}

TEST(Explored, AHoldAheadOfTheStopIsAFinding)
{
    test::CircuitBuilder b = test::motorBehind({"Q1"});
    b.device("S0", "emergency_stop", {{"contacts", test::Words{"11-12"}}})
        .device("S3", "push_button", {{"contacts", test::Words{"13-14"}}});
    b.wire("G1:+", "S0:11")
        .wire("S0:12", "S3:13")
        .wire("S3:14", "Q1:A1")
        .wire("Q1:A2", "G1:-")
        .wire("G1:+", "Q1:13")
        .wire("Q1:14", "Q1:A1");
    const auto findings = found(test::stopping(b.circuit()));
    ASSERT_EQ(findings.size(), 2u);
    EXPECT_EQ(findings[0].what.id, "finding.explored.stays_stopped");
    EXPECT_EQ(findings[0].severity, Severity::Stop);
    EXPECT_EQ(findings[0].devices, (std::vector<std::string>{"M1"}));
    EXPECT_EQ(findings[1].what.id, "finding.explored.no_start_held") << "no reset stands between";
    EXPECT_EQ(findings[1].severity, Severity::Note);
}

} // namespace
} // namespace ts
