// What comes from outside is shown as text and does nothing.

#include "core/base/plain_text.h"

#include <gtest/gtest.h>

#include <random>

namespace ts {
namespace {

TEST(PlainText, LeavesWhatIsText)
{
    for (const char* text :
        {"", "Q1", "Entrinder \u00e4\u00f6\u00fc \u20ac \u03a9 \u65e5\u672c \U0001F527", "\u05e9\u05dc\u05d5\u05dd"})
        EXPECT_EQ(plainText(text), text);
}

TEST(PlainText, NothingWorksATerminalOrTurnsTheReading)
{
    EXPECT_EQ(plainText("\x1b[31mred"), "\uFFFD[31mred");
    EXPECT_EQ(plainText("a\x7f\x07"), "a\uFFFD\uFFFD");
    EXPECT_EQ(plainText("a\u009b31m"), "a\uFFFD31m") << "the other way to begin a command";
    EXPECT_EQ(plainText("a\u202Eb\u2066c\u200Fd\u061Ce"), "a\uFFFDb\uFFFDc\uFFFDd\uFFFDe");
    EXPECT_EQ(plainText("\uFEFFa\uFFFE\uFFFF\uFDD0"), "\uFFFDa\uFFFD\uFFFD\uFFFD");
}

TEST(PlainText, LinesAreOneOrMany)
{
    EXPECT_EQ(plainText("stop\n0 findings\tx\r\n"), "stop 0 findings x  ");
    EXPECT_EQ(plainText("a\nb\tc\rd\u2028e", Lines::Many), "a\nb\tc d e");
}

TEST(PlainText, BrokenBytesAreSeen)
{
    EXPECT_EQ(plainText("\xff"), "\uFFFD");
    EXPECT_EQ(plainText("\xc0\xaf"), "\uFFFD\uFFFD") << "longer than it need be";
    EXPECT_EQ(plainText("\xed\xa0\x80"), "\uFFFD\uFFFD\uFFFD") << "half of a pair";
    EXPECT_EQ(plainText("a\xe2\x82"), "a\uFFFD\uFFFD") << "cut off";
}

/// Whatever bytes come: the result is plain, and stays as it is.
TEST(PlainText, OnceIsEnough)
{
    std::mt19937 random(7);
    for (int k = 0; k < 2000; ++k) {
        std::string text(random() % 40, ' ');
        for (char& c : text)
            c = static_cast<char>(random() % 256);
        for (Lines lines : {Lines::One, Lines::Many}) {
            const std::string once = plainText(text, lines);
            EXPECT_EQ(plainText(once, lines), once);
            EXPECT_EQ(once.find('\x1b'), std::string::npos);
        }
    }
}

} // namespace
} // namespace ts
