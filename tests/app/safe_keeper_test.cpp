// What a person would lose: by a program that is killed, a second window, somebody else on the disk, a disk that
// refuses. Two windows' worth of documents in one program stand for two programs: a lock knows its file, not its owner.

#include "app/document/safe_keeper.h"
#include "core/edit/circuit_edits.h"
#include "tests/support/window_rig.h"

#include <QFile>
#include <QFileInfo>
#include <QPushButton>
#include <QSignalSpy>

namespace ts {
namespace {

class Keeping : public ::testing::Test {
protected:
    void SetUp() override
    {
        ASSERT_TRUE(QFile::copy(QString::fromStdString(test::demoPath()), path));
        QFile::setPermissions(path, QFile::ReadOwner | QFile::WriteOwner);
    }
    /// One that the document is not told about.
    void writeBehind(const QString& name)
    {
        auto file = *io::loadDossier(path.toStdString());
        file.dossier.machine.name = name.toStdString();
        ASSERT_TRUE(io::saveDossier(path.toStdString(), file));
    }
    static bool rename(app::Document& document, const std::string& name)
    {
        return document.edit("Name " + QString::fromStdString(name), [&](const Dossier& d) -> Expected<Dossier> {
            Dossier after = d;
            after.machine.name = name;
            return after;
        });
    }
    QTemporaryDir folder;
    QString path = folder.filePath("m.sentry"), kept = folder.filePath("kept");
};

/// A program that is gone leaves its copy; here it is one whose lock is taken away, as a kill does.
TEST_F(Keeping, WorkOfAProgramThatIsGoneIsFoundWithWhatItHolds)
{
    app::Document gone(io::systemFiles());
    auto keeper = std::make_unique<app::SafeKeeper>(gone, io::systemFiles(), kept);
    ASSERT_TRUE(gone.load(path));
    rename(gone, "first");
    rename(gone, "second");
    keeper->finish();
    app::Document next(io::systemFiles());
    app::SafeKeeper other(next, io::systemFiles(), kept);
    EXPECT_TRUE(other.leftovers().empty()) << "its program lives";
    const QStringList locks = QDir(kept).entryList({"*.lock"});
    for (const QString& lock : locks)
        QFile::remove(kept + "/" + lock);
    const auto found = other.leftovers();
    ASSERT_EQ(found.size(), 1u);
    EXPECT_EQ(found.front().copy.path, path.toStdString());
    EXPECT_EQ(found.front().copy.lastEdit, "Name second");
    EXPECT_EQ(found.front().copy.edits, 2);
    EXPECT_EQ(found.front().copy.file.dossier.machine.name, "second");
    // Opened: belongs to its file, is not saved, and one undo leads to what the file holds.
    next.recover(found.front().copy.file, path, "back");
    EXPECT_TRUE(next.isModified());
    EXPECT_EQ(next.path(), path);
    other.forget(found.front());
    EXPECT_FALSE(QFile::exists(found.front().place));
    next.history().undo();
    EXPECT_EQ(next.dossier().machine.name, test::demoFile().dossier.machine.name);
    EXPECT_FALSE(next.isModified());
}

TEST_F(Keeping, NothingIsLeftOfWorkThatIsSavedUndoneOrGivenUp)
{
    const auto copies = [this] { return QDir(kept).entryList({"*.recovery"}).size(); };
    {
        app::Document document(io::systemFiles());
        app::SafeKeeper keeper(document, io::systemFiles(), kept);
        ASSERT_TRUE(document.load(path));
        EXPECT_EQ(copies(), 0);
        rename(document, "a");
        keeper.finish();
        EXPECT_EQ(copies(), 1);
        document.history().undo();
        EXPECT_EQ(copies(), 0);
        document.history().redo();
        keeper.finish();
        EXPECT_EQ(copies(), 1);
        ASSERT_TRUE(document.save(path));
        EXPECT_EQ(copies(), 0);
        rename(document, "b");
        keeper.finish();
        EXPECT_EQ(copies(), 1);
    }
    EXPECT_EQ(copies(), 0) << "the person has left without it";
}

TEST_F(Keeping, SecondWindowReadsUntilTheFirstOneLetsGo)
{
    app::Document first(io::systemFiles()), second(io::systemFiles());
    auto one = std::make_unique<app::SafeKeeper>(first, io::systemFiles(), kept);
    app::SafeKeeper two(second, io::systemFiles(), kept);
    ASSERT_TRUE(first.load(path));
    ASSERT_TRUE(second.load(path));
    EXPECT_FALSE(first.readOnly());
    ASSERT_TRUE(second.readOnly());
    EXPECT_TRUE(app::words::sentence(*second.readOnly()).contains("m.sentry is open in another window"));
    QSignalSpy refused(&second, &app::Document::refused);
    EXPECT_FALSE(rename(second, "mine"));
    EXPECT_EQ(refused.count(), 1);
    EXPECT_FALSE(second.save(path)) << "and it is not written over";
    rename(first, "of the first");
    ASSERT_TRUE(first.save(path));
    QSignalSpy taken(&two, &app::SafeKeeper::takenOver);
    one.reset(); // its window is closed
    ASSERT_TRUE(QTest::qWaitFor([&] { return taken.count() > 0; }, 10000));
    EXPECT_FALSE(second.readOnly());
    EXPECT_EQ(second.dossier().machine.name, "of the first") << "what was saved there is what is open here";
    EXPECT_TRUE(rename(second, "mine"));
    EXPECT_TRUE(second.save(path));
}

TEST_F(Keeping, ReadOnlyWorkGoesUnderAnotherName)
{
    app::Document first(io::systemFiles()), second(io::systemFiles());
    app::SafeKeeper one(first, io::systemFiles(), kept), two(second, io::systemFiles(), kept);
    ASSERT_TRUE(first.load(path));
    ASSERT_TRUE(second.load(path));
    ASSERT_TRUE(second.readOnly());
    ASSERT_TRUE(second.save(folder.filePath("other.sentry")));
    EXPECT_FALSE(second.readOnly());
    EXPECT_TRUE(rename(second, "mine"));
}

/// A link and its file are one file.
TEST_F(Keeping, ALinkIsTheFileItNames)
{
    const QString link = folder.filePath("link.sentry");
    ASSERT_TRUE(QFile::link(path, link));
    app::Document first(io::systemFiles()), second(io::systemFiles());
    app::SafeKeeper one(first, io::systemFiles(), kept), two(second, io::systemFiles(), kept);
    ASSERT_TRUE(first.load(path));
    ASSERT_TRUE(second.load(link));
    EXPECT_TRUE(second.readOnly());
}

TEST_F(Keeping, TenSavesAreKeptAndTheNewestIsFirst)
{
    app::Document document(io::systemFiles());
    app::SafeKeeper keeper(document, io::systemFiles(), kept);
    ASSERT_TRUE(document.load(path));
    for (int k = 0; k < 13; ++k) {
        rename(document, "save " + std::to_string(k));
        ASSERT_TRUE(document.save(path));
        QTest::qSleep(2);
    }
    const auto saves = keeper.keptSaves();
    ASSERT_EQ(saves.size(), 10u);
    EXPECT_EQ(io::loadDossier(saves.front().place.toStdString())->dossier.machine.name, "save 12");
    EXPECT_EQ(io::loadDossier(saves.back().place.toStdString())->dossier.machine.name, "save 3");
}

/// Every step of what is done to files fails once: the work stays, and the file is the old or the new one.
class FailingFiles : public io::FileOps {
public:
    int left = 1000000; ///< steps until one fails
    bool failsOn = false; ///< all later ones, too: a full disk
    Expected<std::string> read(const std::string& p) override
    {
        return step() ? io::systemFiles().read(p) : Expected<std::string>(trouble());
    }
    Expected<std::string> placeOf(const std::string& p) override
    {
        return step() ? io::systemFiles().placeOf(p) : Expected<std::string>(trouble());
    }
    Expected<std::string> writeBeside(const std::string& p, std::string_view t) override
    {
        return step() ? io::systemFiles().writeBeside(p, t) : Expected<std::string>(trouble());
    }
    Expected<void> rename(const std::string& a, const std::string& b) override
    {
        return step() ? io::systemFiles().rename(a, b) : Expected<void>(trouble());
    }
    Expected<void> syncFolderOf(const std::string& p) override
    {
        return step() ? io::systemFiles().syncFolderOf(p) : Expected<void>(trouble());
    }
    Expected<void> remove(const std::string& p) override { return io::systemFiles().remove(p); }

private:
    static Unexpected trouble()
    {
        return failure(ErrorCode::File, message("file.cannot_write", {std::string("m.sentry"), std::string("full")}));
    }
    bool step()
    {
        --left;
        return left != 0 && !(failsOn && left < 0);
    }
};

TEST_F(Keeping, EveryStepThatFailsKeepsTheWork)
{
    const std::string before = test::demoFile().dossier.machine.name;
    for (bool failsOn : {false, true})
        for (int step = 1; step < 16; ++step) {
            FailingFiles files;
            app::Document document(files);
            app::SafeKeeper keeper(document, io::systemFiles(), kept);
            ASSERT_TRUE(io::saveDossier(path.toStdString(), test::demoFile()));
            ASSERT_TRUE(document.load(path));
            ASSERT_TRUE(rename(document, "new"));
            files.left = step;
            files.failsOn = failsOn;
            const auto saved = document.save(path);
            files.left = 1000000;
            EXPECT_EQ(document.dossier().machine.name, "new");
            const auto onDisk = io::loadDossier(path.toStdString());
            ASSERT_TRUE(onDisk) << "step " << step;
            EXPECT_TRUE(onDisk->dossier.machine.name == before || onDisk->dossier.machine.name == "new");
            if (saved)
                EXPECT_EQ(onDisk->dossier.machine.name, "new") << "step " << step;
            else
                EXPECT_TRUE(document.isModified()) << "it can be saved again";
            EXPECT_TRUE(QDir(folder.path()).entryList({".tall-sentry-*"}, QDir::Hidden | QDir::Files).isEmpty());
        }
}

TEST_F(Keeping, ACopyThatCannotBeWrittenIsSaidOnce)
{
    FailingFiles files;
    app::Document document(io::systemFiles());
    app::SafeKeeper keeper(document, files, kept);
    QSignalSpy troubled(&keeper, &app::SafeKeeper::troubled);
    ASSERT_TRUE(document.load(path));
    files.left = 1;
    files.failsOn = true;
    for (const char* name : {"a", "b", "c"}) {
        rename(document, name);
        keeper.finish();
    }
    EXPECT_EQ(troubled.count(), 1);
    EXPECT_EQ(document.dossier().machine.name, "c");
}

/// Where nothing can be kept, that is said, and work goes on.
TEST_F(Keeping, AFolderThatCannotBeMadeIsSaid)
{
    app::Document document(io::systemFiles());
    app::SafeKeeper keeper(document, io::systemFiles(), path + "/inside a file");
    QSignalSpy troubled(&keeper, &app::SafeKeeper::troubled);
    ASSERT_TRUE(QTest::qWaitFor([&] { return troubled.count() == 1; }, 1000));
    ASSERT_TRUE(document.load(path));
    EXPECT_TRUE(rename(document, "a"));
    EXPECT_TRUE(document.save(path));
}

/// What a stranger writes the moment after a save is a stranger's all the same.
TEST_F(Keeping, AStrangersWriteRightAfterOurSaveIsNoticed)
{
    app::Document document(io::systemFiles());
    ASSERT_TRUE(document.load(path));
    rename(document, "mine");
    ASSERT_TRUE(document.save(path));
    EXPECT_FALSE(document.isChangedOnDisk());
    writeBehind("theirs");
    EXPECT_TRUE(document.isChangedOnDisk());
}

/// The same at the window, as a person meets it.
class KeepingWindow : public Keeping {
protected:
    void SetUp() override
    {
        Keeping::SetUp();
        auto fake = std::make_unique<test::FakeAsker>();
        asker = fake.get();
        window.setAsker(std::move(fake));
        window.show();
        ASSERT_TRUE(QTest::qWaitForWindowExposed(&window));
    }
    void TearDown() override
    {
        asker->unsaved = app::Asker::Unsaved::Discard;
        window.close();
    }
    test::FakeAsker* asker = nullptr;
    app::Theme theme;
    test::TestWindow window{theme, {}, false, kept};
};

TEST_F(KeepingWindow, WhatSomebodyElseWroteIsNotReplacedInSilence)
{
    ASSERT_TRUE(window.open(path));
    rename(window.document(), "mine");
    writeBehind("theirs");
    QTest::keyClick(&window, Qt::Key_S, Qt::ControlModifier);
    EXPECT_EQ(asker->foreignAsked, 1);
    EXPECT_EQ(io::loadDossier(path.toStdString())->dossier.machine.name, "theirs");
    EXPECT_TRUE(window.document().isModified());
    asker->foreign = app::Asker::Foreign::Overwrite;
    QTest::keyClick(&window, Qt::Key_S, Qt::ControlModifier);
    EXPECT_EQ(io::loadDossier(path.toStdString())->dossier.machine.name, "mine");
    QTest::keyClick(&window, Qt::Key_S, Qt::ControlModifier);
    EXPECT_EQ(asker->foreignAsked, 2) << "our own save is no stranger's";
    // Theirs is among the earlier saves; to take it is one step of undo.
    ASSERT_EQ(window.keeper().keptSaves().size(), 2u);
    asker->chosen = 1;
    window.actionTable().action("file.earlier")->trigger();
    EXPECT_EQ(asker->choices.size(), 2);
    EXPECT_EQ(window.document().dossier().machine.name, "theirs");
    QTest::keyClick(&window, Qt::Key_Z, Qt::ControlModifier);
    EXPECT_EQ(window.document().dossier().machine.name, "mine");
}

TEST_F(KeepingWindow, WorkThatWasLeftIsOfferedInWords)
{
    {
        app::Document gone(io::systemFiles());
        app::SafeKeeper keeper(gone, io::systemFiles(), kept);
        ASSERT_TRUE(gone.load(path));
        rename(gone, "left behind");
        keeper.finish();
        for (const QString& name : QDir(kept).entryList({"*.recovery"}))
            ASSERT_TRUE(QFile::copy(kept + "/" + name, kept + "/killed.recovery"));
    }
    window.desk().offerLeftovers();
    ASSERT_EQ(asker->leftovers.size(), 1);
    EXPECT_TRUE(asker->leftovers.front().contains("left behind: one change was not saved"))
        << asker->leftovers.front().toStdString();
    EXPECT_TRUE(asker->leftovers.front().contains("Name left behind"));
    EXPECT_TRUE(asker->leftovers.front().contains(path));
    EXPECT_TRUE(window.document().path().isEmpty()) << "later";
    asker->found = app::Asker::Found::Open;
    window.desk().offerLeftovers();
    EXPECT_EQ(window.document().dossier().machine.name, "left behind");
    EXPECT_TRUE(window.document().isModified());
    EXPECT_FALSE(QFile::exists(kept + "/killed.recovery"));
    asker->leftovers.clear();
    window.desk().offerLeftovers();
    EXPECT_TRUE(asker->leftovers.isEmpty());
}

TEST_F(KeepingWindow, ReadOnlyIsSeenAndSaid)
{
    app::Document other(io::systemFiles());
    app::SafeKeeper keeper(other, io::systemFiles(), kept);
    ASSERT_TRUE(other.load(path));
    ASSERT_TRUE(window.open(path));
    EXPECT_TRUE(window.ledge().line().contains("is open in another window")) << window.ledge().line().toStdString();
    bool isSeen = false;
    for (const QPushButton* b : window.findChildren<QPushButton*>())
        isSeen |= b->text().contains("read only");
    EXPECT_TRUE(isSeen);
}

} // namespace
} // namespace ts
