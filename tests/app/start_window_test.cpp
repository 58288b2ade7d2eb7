// What stands there before anything is open.

#include "app/places/machine/plan_drawing.h"
#include "app/shell/start_page.h"
#include "tests/support/window_rig.h"

#include <QFile>
#include <QListWidget>
#include <QMimeData>
#include <QPushButton>

namespace ts {
namespace {

class StartWindow : public test::WindowTest {
protected:
    void SetUp() override
    {
        test::WindowTest::SetUp();
        window.showStart();
        ASSERT_TRUE(find("start")->isVisible());
    }
    void waitForFile()
    {
        ASSERT_TRUE(QTest::qWaitFor([this] { return !find<app::StartPage>("start")->isBusy(); }, 30000));
    }
};

/// One that is gone is left out; one that is damaged says where and why, and is not lost from the list.
TEST_F(StartWindow, AFileThatCannotBeReadSaysWhy)
{
    QTemporaryDir folder;
    const QString broken = folder.filePath("broken.sentry"), gone = folder.filePath("gone.sentry");
    for (const QString& path : {broken, gone}) {
        ASSERT_TRUE(io::saveDossier(path.toStdString(), test::demoFile()));
        ASSERT_TRUE(window.open(path));
    }
    ASSERT_TRUE(io::saveText(broken.toStdString(), "{\"format\": \"draft-2\", "));
    ASSERT_TRUE(QFile::remove(gone));
    window.showStart();
    auto* last = find<QListWidget>("start.last");
    ASSERT_EQ(last->count(), 2) << "the broken one and the demo";
    waitForFile();
    EXPECT_TRUE(text("start.holds").contains("broken.sentry:1:")) << text("start.holds").toStdString();
    EXPECT_TRUE(find<app::PlanDrawing>("start.drawing")->scene().symbols.empty());
}

/// Before it is opened: verdicts and findings as `check` says them, and that not everything was looked at.
TEST_F(StartWindow, SaysHowTheFileStands)
{
    waitForFile();
    auto* page = find<app::StartPage>("start");
    ASSERT_TRUE(QTest::qWaitFor([page] { return !page->isTrying(); }, 90000));
    const QString standing = text("start.standing");
    const SafetyFunction& f = test::demoFile().dossier.functions.front();
    EXPECT_TRUE(standing.contains(QString::fromStdString(f.name) + ": At most PL b")) << standing.toStdString();
    EXPECT_TRUE(standing.contains("forbid operation")) << standing.toStdString();
    EXPECT_TRUE(standing.contains("Not everything was looked at")) << standing.toStdString();
}

TEST_F(StartWindow, ShowsWhatWasOpenLastAndOpensIt)
{
    waitForFile();
    auto* last = find<QListWidget>("start.last");
    ASSERT_EQ(last->count(), 1);
    EXPECT_TRUE(last->item(0)->text().startsWith("larkspur_db2_chip_blower.sentry"));
    const auto devices = test::demoFile().dossier.circuit.devices.size();
    EXPECT_TRUE(text("start.holds").startsWith(QString::number(devices) + " devices, "))
        << text("start.holds").toStdString();
    const QString other = QString::fromStdString(test::sourcePath("data/demo/larkspur_db2.sentry"));
    ASSERT_TRUE(window.open(other));
    EXPECT_FALSE(find("start")->isVisible()) << "a dossier is there";
    window.showStart();
    ASSERT_EQ(last->count(), 2);
    EXPECT_TRUE(last->item(0)->text().startsWith("larkspur_db2.sentry")) << "the latest first";
    last->setFocus();
    QTest::keyClick(last, Qt::Key_Down);
    click("start.open");
    EXPECT_TRUE(window.document().path().endsWith("larkspur_db2_chip_blower.sentry"));
}

TEST_F(StartWindow, EachWayToBeginLeadsThere)
{
    click("start.machine.take_in");
    EXPECT_TRUE(find("notes.typed")->isVisible());
    window.showStart();
    click("start.file.new");
    EXPECT_TRUE(find("place.machine")->isVisible());
    window.showStart();
    QTest::keyClick(&window, Qt::Key_0, Qt::ControlModifier);
    EXPECT_TRUE(find("place.skyline")->isVisible()) << "the course works here, too";
    ASSERT_FALSE(app::demoPath().isEmpty());
    window.showStart();
    click("start.demo");
    EXPECT_EQ(window.document().dossier().machine.name, "Debarker DB-2");
}

TEST_F(StartWindow, ADroppedDossierIsOpened)
{
    QMimeData data;
    data.setUrls({QUrl::fromLocalFile(QString::fromStdString(test::sourcePath("data/demo/larkspur_db2.sentry")))});
    QDragEnterEvent enter(QPoint(200, 200), Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
    QCoreApplication::sendEvent(&window, &enter);
    EXPECT_TRUE(enter.isAccepted());
    QDropEvent drop(QPointF(200, 200), Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
    QCoreApplication::sendEvent(&window, &drop);
    EXPECT_EQ(window.document().dossier().machine.name, "Debarker DB-2");
    data.setUrls({QUrl::fromLocalFile("/etc/hostname")});
    QDragEnterEvent other(QPoint(200, 200), Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
    other.ignore();
    QCoreApplication::sendEvent(&window, &other);
    EXPECT_FALSE(other.isAccepted());
}

TEST_F(StartWindow, DoorsToTheFaultAndToPractice)
{
    waitForFile();
    QTest::mouseClick(find("start.find"), Qt::LeftButton);
    QApplication::processEvents();
    EXPECT_FALSE(find("start")->isVisible());
    EXPECT_TRUE(find("find.said")->isVisible()) << "the file is open, and what was seen is asked";
    window.showStart();
    QTest::mouseClick(find("start.practice"), Qt::LeftButton);
    QApplication::processEvents();
    EXPECT_TRUE(find("practice.hide")->isVisible());
}

} // namespace
} // namespace ts
