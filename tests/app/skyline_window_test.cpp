// The skyline in the real window: towers by mouse and arrow keys, what holds it back, and the way there.

#include "app/places/faults/faults_place.h"
#include "app/places/faults/sweep_page.h"
#include "app/places/skyline/skyline_place.h"
#include "tests/core/faults/stop_circuits.h"
#include "tests/support/window_rig.h"

#include <QPushButton>

namespace ts {
namespace {

using namespace app;

class Skyline : public test::WindowTest {
protected:
    void SetUp() override
    {
        WindowTest::SetUp();
        QTest::keyClick(&window, Qt::Key_0, Qt::ControlModifier);
    }
    FigureView& view() { return window.skyline().view(); }
    void twoFunctions()
    {
        window.document().editFile("x", [](const DossierFile& file) -> Expected<DossierFile> {
            DossierFile changed = file;
            SafetyFunction f = changed.dossier.functions[0];
            f.id = {changed.nextId++};
            f.name = "Equipment only";
            f.reliedOnByPerson = false;
            changed.dossier.functions.push_back(f);
            return changed;
        });
        waitForResults();
    }
};

TEST_F(Skyline, OneTowerAFunctionThatSaysEverythingInWords)
{
    ASSERT_EQ(view().figure().spots.size(), 1u);
    const std::string& words = view().figure().spots[0].words;
    EXPECT_NE(words.find("Emergency stop: S0 stops M1. PL e claimed, needs PL d"), std::string::npos) << words;
    EXPECT_NE(words.find("No faults were tried."), std::string::npos);
}

TEST_F(Skyline, ArrowsGoFromTowerToTowerAndEnterToItsLevel)
{
    twoFunctions();
    ASSERT_EQ(view().figure().spots.size(), 2u);
    EXPECT_NE(view().figure().spots[1].words.find("equipment"), std::string::npos);
    view().setFocus();
    QTest::keyClick(&view(), Qt::Key_Right);
    EXPECT_EQ(view().chosen(), 0);
    QTest::keyClick(&view(), Qt::Key_Right);
    EXPECT_EQ(view().chosen(), 1);
    QTest::keyClick(&view(), Qt::Key_Left);
    const figures::Area& second = view().figure().spots[1].area;
    QTest::mouseClick(
        &view(), Qt::LeftButton, {}, QPoint(static_cast<int>(second.x + 20), static_cast<int>(second.y + 200)));
    EXPECT_EQ(view().chosen(), 1);
    QTest::keyClick(&view(), Qt::Key_Return);
    EXPECT_TRUE(window.findChild<QWidget*>("place.levels")->isVisible());
}

TEST_F(Skyline, WhatHoldsItBackLeadsThere)
{
    EXPECT_TRUE(text("skyline.none").contains("6 of 53 checks were not made, or in part only"))
        << text("skyline.none").toStdString();
    window.document().edit("x", [](const Dossier& d) -> Expected<Dossier> {
        Dossier changed = d;
        changed.functions[0].claim[2].ccfAnswers.clear();
        return changed;
    });
    waitForResults();
    EXPECT_NE(view().figure().spots[0].words.find("no level"), std::string::npos);
    QTest::mouseClick(find<QPushButton>("skyline.go.0"), Qt::LeftButton);
    EXPECT_TRUE(window.findChild<QWidget*>("place.levels")->isVisible());
}

TEST_F(Skyline, ShowsWhatTheFaultsSaid)
{
    Dossier d = test::stopping(test::twoChannels().circuit()); // small: second faults are tried in a moment
    window.document().startWith({10000, d, {}});
    waitForResults();
    const FunctionId function = d.functions.front().id;
    const auto said = [this](
                          const char* what) { return view().figure().spots[0].words.find(what) != std::string::npos; };
    window.book().ask(kSingleFaults.id, about(function));
    ASSERT_TRUE(QTest::qWaitFor([&said] { return said("second ones not tried"); }, 60000));
    window.book().ask(kSecondFaults.id, about(function));
    ASSERT_TRUE(QTest::qWaitFor(
        [this, function] {
            const auto built = window.book().fresh(kBuilt, about(function));
            return built && built->sweep.hasPairs;
        },
        200000));
    EXPECT_FALSE(said("No faults were tried."));
    EXPECT_FALSE(said("second ones not tried"));
    EXPECT_TRUE(said("caught"));
    EXPECT_FALSE(said("claimed")) << "it stands as built";
}

TEST_F(Skyline, IsEmptyWithoutFunctions)
{
    window.document().edit("x", [](const Dossier& d) -> Expected<Dossier> {
        Dossier changed = d;
        changed.functions.clear();
        return changed;
    });
    waitForResults();
    EXPECT_TRUE(view().figure().spots.empty());
    EXPECT_TRUE(find<QLabel>("skyline.empty")->isVisible());
}

} // namespace
} // namespace ts
