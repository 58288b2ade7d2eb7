// Work that was not saved comes back as it was; what is no such text is refused with its place.

#include "core/io/recovery.h"
#include "tests/support/circuits.h"

namespace ts::io {
namespace {

TEST(Recovery, ComesBackAsItWas)
{
    const RecoveryCopy copy{"/home/x/m \"1\".sentry", "Move path 3", 7, "2026-11-30T02:01:00", test::demoFile()};
    EXPECT_EQ(*parseRecovery(printRecovery(copy)), copy);
    RecoveryCopy unnamed{"", "", 0, "", test::demoFile()};
    EXPECT_EQ(*parseRecovery(printRecovery(unnamed)), unnamed);
}

TEST(Recovery, APathThatNoReaderTakesDoesNotCostTheWork)
{
    RecoveryCopy copy{std::string(4000, 'x'), "a", 1, "", test::demoFile()};
    const auto back = parseRecovery(printRecovery(copy));
    ASSERT_TRUE(back);
    EXPECT_TRUE(back->path.empty());
    copy.path = "/tmp/\xff\xfe.sentry"; // no UTF-8
    EXPECT_TRUE(parseRecovery(printRecovery(copy)));
}

/// Cut off anywhere it is refused, never half a dossier.
TEST(Recovery, WhatIsCutOffIsRefused)
{
    const std::string whole = printRecovery({"/m.sentry", "a", 1, "", test::demoFile()});
    for (std::size_t length = 0; length + 2 < whole.size(); length += 97)
        EXPECT_FALSE(parseRecovery(std::string_view(whole).substr(0, length))) << length;
    EXPECT_FALSE(parseRecovery(""));
    EXPECT_FALSE(parseRecovery("[]\n{}"));
    EXPECT_FALSE(parseRecovery("{\"edits\":-1}\n" + whole.substr(whole.find('\n') + 1)));
    EXPECT_FALSE(parseRecovery("{\"unknown\":1}\n" + whole.substr(whole.find('\n') + 1)));
}

} // namespace
} // namespace ts::io
