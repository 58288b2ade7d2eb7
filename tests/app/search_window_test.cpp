// The search box: Ctrl+K finds devices, terminals, wires, actions and changes, and goes there.

#include "app/places/bench/edit_sheet.h"
#include "app/shell/search.h"
#include "tests/support/window_rig.h"

#include <QLineEdit>
#include <QListWidget>

namespace ts {
namespace {

TEST(Found, WantsEveryWordAndPutsTheExactOneFirst)
{
    const std::vector<app::SearchItem> items{{"wire", "12", "Q1:13 to S2:14", {}},
        {"device", "Q12", "contactor, fan", {}}, {"device", "Q1", "contactor, deck", {}}};
    EXPECT_EQ(app::found(items, "").size(), 3u);
    EXPECT_EQ(app::found(items, "q1").front(), &items[2]);
    EXPECT_EQ(app::found(items, "fan contactor").size(), 1u);
    EXPECT_TRUE(app::found(items, "pump").empty());
}

class Search : public test::WindowTest {
protected:
    void type(const char* words)
    {
        QTest::keyClick(&window, Qt::Key_K, Qt::ControlModifier);
        ASSERT_TRUE(find("search")->isVisible());
        QTest::keyClicks(find("search.line"), words);
    }
    void enter() { QTest::keyClick(find("search.line"), Qt::Key_Return); }
};

TEST_F(Search, GoesToADeviceAndBringsItIntoView)
{
    window.goTo("levels");
    type("Q1");
    enter();
    EXPECT_FALSE(find("search")->isVisible());
    EXPECT_TRUE(find("place.bench")->isVisible());
    const auto* title = find<QLabel>("inspector.title");
    EXPECT_EQ(title->text(), "Q1");
}

/// The trade's word finds ours, and the ledge says what it means.
TEST_F(Search, SaysWhatAWordMeans)
{
    type("seal-in");
    enter();
    EXPECT_TRUE(
        window.ledge().line().startsWith("hold (seal-in contact, self-holding): the contactor's own NO contact"))
        << window.ledge().line().toStdString();
}

TEST_F(Search, FindsWhatOnlyThePowerCircuitHas)
{
    type("M1");
    enter();
    EXPECT_TRUE(window.bench().showsPower());
}

TEST_F(Search, PlaysAScenarioToItsEnd)
{
    window.goTo("levels");
    type("scenario emergency stop while");
    enter();
    EXPECT_TRUE(find("place.bench")->isVisible());
    EXPECT_EQ(session().run().now(), 30'000'000'000) << "its length";
    EXPECT_TRUE(is("M1", "at_rest"));
    EXPECT_FALSE(session().isRunning()) << "it stands still there";
}

TEST_F(Search, FindsATerminalAWireAnActionAndAChange)
{
    type("terminal S2:13");
    enter();
    EXPECT_EQ(text("inspector.title"), "S2: 13-14");
    type("change in series before");
    enter();
    EXPECT_TRUE(window.bench().sheet().isOpen());
    QTest::keyClick(find("change.what"), Qt::Key_Escape);
    const Wire& wire = window.document().dossier().circuit.wires[5];
    type(qPrintable(QString("wire %1 to %2")
                        .arg(QString::fromStdString(window.document().dossier().circuit.nameOf(wire.from)),
                            QString::fromStdString(window.document().dossier().circuit.nameOf(wire.to)))));
    enter();
    EXPECT_EQ(text("inspector.title"), "Wire " + QString::fromStdString(wire.number));
    EXPECT_TRUE(window.bench().showsWires());
    type("action go to levels");
    enter();
    EXPECT_TRUE(find("place.levels")->isVisible());
}

TEST_F(Search, CoilIsFoundByItsWordAndNothingSelectedIsNoPlaceToGo)
{
    type("Q1 coil");
    enter();
    EXPECT_EQ(text("inspector.title"), "Q1: coil");
    const double zoom = window.bench().paths().onWidget({1, 0}).x() - window.bench().paths().onWidget({0, 0}).x();
    window.bench().find({});
    EXPECT_FALSE(window.bench().showsPower());
    EXPECT_EQ(window.bench().paths().onWidget({1, 0}).x() - window.bench().paths().onWidget({0, 0}).x(), zoom)
        << "the drawing stays";
}

TEST_F(Search, EscapeAndNothingFound)
{
    type("zzzz");
    EXPECT_EQ(find<QListWidget>("search.list")->count(), 1);
    enter();
    EXPECT_TRUE(find("search")->isVisible()) << "there is nothing to choose";
    QTest::keyClick(find("search.line"), Qt::Key_Escape);
    EXPECT_FALSE(find("search")->isVisible());
}

} // namespace
} // namespace ts
