// Why a coil is off, asked at the Bench: the open contacts one by one, whether it would come, and on to what must
// close.

#include "tests/support/window_rig.h"

#include <QPushButton>

namespace ts {
namespace {

class FeedingShown : public test::WindowTest {
protected:
    void SetUp() override
    {
        test::WindowTest::SetUp();
        push("S3"); // reset
        session().advanceBy(1.0);
    }
    void select(const char* tag, const char* role)
    {
        window.bench().find({session().plant().devices[at(session().plant().deviceIndex(tag))].id, role, {}});
        QApplication::processEvents();
    }
    /// The row that says so behind its number; the first one of several.
    QPushButton* row(const QString& words)
    {
        for (int k = 1; k < 12; ++k)
            if (auto* button = window.findChild<QPushButton*>(QStringLiteral("feeding.gap.%1").arg(k)))
                if (button->text().contains(words))
                    return button;
        return nullptr;
    }
    static std::size_t at(int k) { return static_cast<std::size_t>(k); }
};

TEST_F(FeedingShown, OpenContactsAreNamedTriedAndLeadOn)
{
    select("Q1", "coil");
    EXPECT_EQ(text("feeding.heading"), "One open contact keeps it off");
    EXPECT_TRUE(text("feeding.way").contains("S2 13-14")) << text("feeding.way").toStdString();
    ASSERT_TRUE(row("S2 13-14: Press and hold"));
    click("feeding.try");
    EXPECT_TRUE(QTest::qWaitFor([this] { return text("feeding.tried").contains("it comes"); }, 20000))
        << text("feeding.tried").toStdString();
    EXPECT_TRUE(is("Q1", "out")) << "what is tried is a copy";
    QTest::mouseClick(row("S2 13-14"), Qt::LeftButton);
    EXPECT_TRUE(QTest::qWaitFor([this] { return text("inspector.title").startsWith("S2"); }));
}

TEST_F(FeedingShown, WhatRunsShowsItsWay)
{
    select("Q1", "coil");
    startMachine();
    EXPECT_EQ(text("feeding.heading"), "What feeds it");
    EXPECT_TRUE(QTest::qWaitFor([this] { return !row("S2"); })) << "rows of the time before go";
    EXPECT_TRUE(find<QPushButton>("feeding.try")->isHidden());
    select("M1", "");
    EXPECT_EQ(text("feeding.heading"), "What feeds it");
    EXPECT_TRUE(text("feeding.way").contains("F1")) << text("feeding.way").toStdString();
}

TEST_F(FeedingShown, ABrokenContactIsNotSomethingToPress)
{
    select("Q1", "coil");
    const auto site = faultFrom(session().plant(), "S1/11-12:does_not_close");
    ASSERT_TRUE(site);
    session().setFault(site->fault, true);
    session().advanceBy(0.2);
    EXPECT_EQ(text("feeding.heading"), "2 open contacts keep it off");
    QApplication::processEvents();
    ASSERT_TRUE(row("S1 11-12: broken"));
    click("feeding.try");
    EXPECT_TRUE(QTest::qWaitFor([this] { return text("feeding.tried").contains("does not come"); }, 20000));
}

TEST_F(FeedingShown, TheDrawingIsMarkedWhileItIsSelectedOnly)
{
    const auto pixels = [this] { return window.bench().paths().grab().toImage(); };
    select("S2", "13-14");
    const QImage plain = pixels();
    select("Q1", "coil");
    const QImage marked = pixels();
    EXPECT_NE(marked, plain);
    select("S2", "13-14");
    EXPECT_EQ(pixels(), plain) << "another thing selected: no mark is left";
}

} // namespace
} // namespace ts
