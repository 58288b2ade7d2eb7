// Course, ledge and settings by themselves.

#include "app/settings/settings.h"
#include "app/shell/course.h"
#include "app/shell/ledge.h"

#include <QLabel>
#include <QSettings>
#include <QSignalSpy>
#include <QTemporaryDir>
#include <QToolButton>
#include <QtTest/QTest>

#include <gtest/gtest.h>

namespace ts::app {
namespace {

Finding finding(const char* tag, const char* text)
{
    return {"stop", Severity::Fix, {tag}, message("evidence.text", {std::string(text)}), message("consequence.stop"),
        message("mend.stop.time"), "EN 60204-1", message("evidence.text", {std::string("seen")})};
}

TEST(Course, ShowsOneCurrentPlaceAndTellsEachState)
{
    Theme theme;
    Course course(theme, nullptr);
    CourseButton* first = course.add("a", "Bench");
    CourseButton* second = course.add("b", "Levels");
    course.setCurrent(1);
    EXPECT_FALSE(first->isChecked());
    EXPECT_TRUE(second->isChecked());
    QSignalSpy chosen(&course, &Course::chosen);
    QTest::mouseClick(first, Qt::LeftButton);
    ASSERT_EQ(chosen.count(), 1);
    EXPECT_EQ(chosen[0][0].toInt(), 0);
    QSet<QString> names;
    for (Mark m :
        {Mark::Untouched, Mark::Working, Mark::Claimed, Mark::InOrder, Mark::Open, Mark::Wrong, Mark::Stale}) {
        first->setMark(m);
        names.insert(first->accessibleName());
    }
    EXPECT_EQ(names.size(), 7) << "each state has a word of its own";
}

TEST(Ledge, SaysFirstWhatConcernsTheSelection)
{
    Theme theme;
    Ledge ledge(theme, nullptr);
    EXPECT_TRUE(ledge.line().contains("nothing is checked"));
    ledge.setState({{}, 9, 0, true, false});
    EXPECT_EQ(ledge.line(), "Checking ...");
    ledge.setState({{finding("Q1", "first"), finding("Q2", "second")}, 9, 0, false, false});
    EXPECT_TRUE(ledge.line().startsWith("first"));
    ledge.setSelectedTag("Q2");
    EXPECT_TRUE(ledge.line().startsWith("second"));
    ledge.say("refused");
    EXPECT_EQ(ledge.line(), "refused");
    ledge.setSelectedTag("");
    EXPECT_TRUE(ledge.line().startsWith("first")) << "a message goes with the next thing that happens";
    ledge.setState({{}, 9, 0, false, false});
    EXPECT_TRUE(ledge.line().contains("nothing else was checked")) << "no finding is not the same as good";
    ledge.setState({{}, 9, 4, false, false});
    EXPECT_TRUE(ledge.line().contains("4 of 9 checks were not made")) << "nor is a look at a part of it";
}

TEST(Ledge, OpensToAllFindingsWithEvidence)
{
    Theme theme;
    Ledge ledge(theme, nullptr);
    ledge.setState({{finding("Q1", "first"), finding("Q2", "second")}, 9, 0, false, false});
    ledge.show();
    auto* list = ledge.findChild<QLabel*>("ledge.list");
    auto* open = ledge.findChild<QToolButton*>("ledge.open");
    EXPECT_FALSE(list->isVisible());
    QTest::mouseClick(open, Qt::LeftButton);
    EXPECT_TRUE(list->isVisible());
    EXPECT_EQ(list->text().split('\n').size(), 2);
    EXPECT_TRUE(list->text().contains("seen; EN 60204-1"));
    QTest::mouseClick(open, Qt::LeftButton);
    EXPECT_FALSE(list->isVisible());
}

TEST(Settings, ComeBackAsTheyWereSaved)
{
    QTemporaryDir folder;
    QSettings::setPath(QSettings::NativeFormat, QSettings::UserScope, folder.path());
    Settings s;
    s.darkTheme = true;
    s.lastFolder = "/somewhere";
    s.verifiesByItself = false;
    s.save();
    EXPECT_TRUE(Settings::load().darkTheme);
    EXPECT_EQ(Settings::load().lastFolder, "/somewhere");
    EXPECT_FALSE(Settings::load().verifiesByItself);
    Settings{}.save();
    EXPECT_FALSE(Settings::load().darkTheme);
}

TEST(Theme, BothFacesCanBeRead)
{
    Theme theme;
    const auto contrast = [](const QColor& a, const QColor& b) { // WCAG 2.1
        const auto linear = [](double c) { return c <= 0.03928 ? c / 12.92 : std::pow((c + 0.055) / 1.055, 2.4); };
        const auto light = [&](const QColor& c) {
            return 0.2126 * linear(c.redF()) + 0.7152 * linear(c.greenF()) + 0.0722 * linear(c.blueF());
        };
        const double la = light(a), lb = light(b);
        return (std::max(la, lb) + 0.05) / (std::min(la, lb) + 0.05);
    };
    for (bool dark : {false, true}) {
        theme.setDark(dark);
        const Colours& c = theme.colours();
        EXPECT_GT(contrast(c.ink, c.paper), 7.0);
        EXPECT_GT(contrast(c.ink, c.panel), 7.0);
        EXPECT_GT(contrast(c.quiet, c.paper), 4.5);
        EXPECT_GT(contrast(c.quiet, c.door), 4.0);
        EXPECT_GT(contrast(c.lost, c.panel), 4.5);
        EXPECT_GT(contrast(c.meterInk, c.meter), 7.0);
    }
}

} // namespace
} // namespace ts::app
