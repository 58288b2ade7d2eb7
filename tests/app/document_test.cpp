// Snapshots as content, one undo stack as the shelf.

#include "app/document/document.h"
#include "app/document/selection.h"
#include "tests/support/circuits.h"

#include <QSignalSpy>
#include <QTemporaryDir>

namespace ts::app {
namespace {

Document::Edit withDays(double days)
{
    return [days](const Dossier& d) {
        Dossier changed = d;
        changed.machine.duty.daysPerYear = days;
        return Expected<Dossier>(changed);
    };
}

class DocumentTest : public ::testing::Test {
protected:
    void SetUp() override { ASSERT_TRUE(document.load(QString::fromStdString(test::demoPath()))); }
    double days() const { return document.dossier().machine.duty.daysPerYear; }
    Document document{io::systemFiles()};
};

TEST_F(DocumentTest, UndoAndRedoSwapWholeSnapshots)
{
    const Snapshot first = document.snapshot();
    document.edit("a", withDays(100));
    const Snapshot second = document.snapshot();
    document.edit("b", withDays(50));
    document.history().undo();
    EXPECT_EQ(document.snapshot(), second) << "the very same value, not one like it";
    document.history().undo();
    EXPECT_EQ(document.snapshot(), first);
    document.history().redo();
    EXPECT_EQ(document.snapshot(), second);
}

TEST_F(DocumentTest, OneGestureIsOneStepAndAnotherIsAnother)
{
    for (double d : {100.0, 101.0, 102.0})
        document.edit("drag", withDays(d), "g1");
    EXPECT_EQ(document.history().count(), 1);
    document.edit("drag", withDays(110), "g2");
    EXPECT_EQ(document.history().count(), 2);
    document.history().undo();
    EXPECT_EQ(days(), 102.0);
    document.history().undo();
    EXPECT_EQ(days(), 220.0);
}

TEST_F(DocumentTest, AnEditThatChangesNothingLeavesNoStep)
{
    QSignalSpy changed(&document, &Document::changed);
    EXPECT_TRUE(document.edit("none", withDays(220)));
    EXPECT_EQ(document.history().count(), 0);
    EXPECT_EQ(changed.count(), 0);
}

TEST_F(DocumentTest, AFileThatCannotBeReadChangesNothing)
{
    const Snapshot before = document.snapshot();
    QSignalSpy loaded(&document, &Document::loaded);
    EXPECT_FALSE(document.load("/no/such/file"));
    EXPECT_EQ(document.snapshot(), before);
    EXPECT_EQ(loaded.count(), 0);
    EXPECT_EQ(document.path(), QString::fromStdString(test::demoPath()));
}

TEST_F(DocumentTest, SavingMarksCleanAndFailingDoesNot)
{
    QTemporaryDir folder;
    document.edit("a", withDays(100));
    EXPECT_FALSE(document.save(folder.filePath("no/such/folder/x.sentry")));
    EXPECT_TRUE(document.isModified());
    EXPECT_TRUE(document.save(folder.filePath("x.sentry")));
    EXPECT_FALSE(document.isModified());
    document.history().undo();
    EXPECT_TRUE(document.isModified()) << "undone past the saved state";
    EXPECT_TRUE(document.writeCopy(folder.filePath("y.sentry")));
    EXPECT_EQ(document.path(), folder.filePath("x.sentry")) << "a copy does not become the file";
}

TEST_F(DocumentTest, OldSnapshotsStayForWhoeverHoldsThem)
{
    const Snapshot held = document.snapshot();
    document.edit("a", withDays(1));
    EXPECT_EQ(held->machine.duty.daysPerYear, 220.0);
}

TEST(Selection, TellsOnlyRealChanges)
{
    Selection s;
    QSignalSpy changed(&s, &Selection::changed);
    s.select({4}, "coil");
    s.select({4}, "coil");
    EXPECT_EQ(changed.count(), 1);
    s.select({4}, "13-14");
    s.clear();
    EXPECT_EQ(changed.count(), 3);
    EXPECT_FALSE(s.device());
}

} // namespace
} // namespace ts::app
