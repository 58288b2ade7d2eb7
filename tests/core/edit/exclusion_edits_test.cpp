// Faults left out with a reason, and taken back.

#include "core/edit/exclusion_edits.h"

#include <gtest/gtest.h>

namespace ts::edit {
namespace {

TEST(WithExclusion, NeedsAReasonAndReplacesTheOldOne)
{
    const Dossier d;
    EXPECT_FALSE(withExclusion(d, {"S0/latch:does_not_hold", "  "}));
    const auto once = withExclusion(d, {"S0/latch:does_not_hold", "first"});
    ASSERT_TRUE(once);
    const auto twice = withExclusion(*once, {"S0/latch:does_not_hold", "second"});
    ASSERT_TRUE(twice);
    ASSERT_EQ(twice->exclusions.size(), 1u);
    EXPECT_EQ(twice->exclusions[0].reason, "second");
    EXPECT_TRUE(d.exclusions.empty());
}

TEST(WithoutExclusion, RefusesWhatIsNotExcluded)
{
    EXPECT_EQ(withoutExclusion({}, "S0/latch:does_not_hold").error().code, ErrorCode::NotFound);
    const auto once = withExclusion({}, {"S0/latch:does_not_hold", "why"});
    EXPECT_TRUE(withoutExclusion(*once, "S0/latch:does_not_hold")->exclusions.empty());
}

} // namespace
} // namespace ts::edit
