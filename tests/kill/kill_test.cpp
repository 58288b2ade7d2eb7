// A program that edits and saves is killed at any moment, again and again: of what it had acknowledged at most one edit
// is lost, and the file under its name is always whole. TS_KILLS: how often, 20 if it is not set.

#include "app/document/safe_keeper.h"
#include "core/io/dossier_file.h"
#include "tests/support/circuits.h"

#include <QCoreApplication>
#include <QDir>
#include <QFile>
#include <QProcess>
#include <QTemporaryDir>

#include <gtest/gtest.h>

#include <chrono>
#include <cstdio>
#include <random>
#include <thread>

namespace ts {
namespace {

constexpr int kEditsFromSaveToSave = 7;

/// The program that is killed. Each line on its output is said after the thing is done.
int edit(const QString& path, const QString& kept, unsigned seed)
{
    app::Document document(io::systemFiles());
    app::SafeKeeper keeper(document, io::systemFiles(), kept);
    if (!document.load(path))
        return 3;
    std::mt19937 random(seed);
    for (int n = 1; n < 100000; ++n) {
        document.edit(QStringLiteral("edit %1").arg(n), [n](const Dossier& d) -> Expected<Dossier> {
            Dossier after = d;
            after.machine.name = std::to_string(n);
            return after;
        });
        while (keeper.isBehind()) // a slow disk; nobody is quicker than that by hand
            QCoreApplication::processEvents(QEventLoop::AllEvents, 20);
        std::printf("e %d\n", n);
        std::fflush(stdout);
        if (n % kEditsFromSaveToSave == 0) {
            if (!document.save(path))
                return 4;
            std::printf("s %d\n", n);
            std::fflush(stdout);
        }
        std::this_thread::sleep_for(std::chrono::microseconds(random() % 4000));
    }
    return 0;
}

int numberOf(const DossierFile& file)
{
    return std::atoi(file.dossier.machine.name.c_str());
}

struct Said {
    int edited = 0, saved = 0;
};

/// Runs it, kills it after a while, and gives what it had said until then.
Said killedAfter(const QStringList& arguments, std::chrono::milliseconds delay)
{
    QProcess child;
    child.start(QCoreApplication::applicationFilePath(), arguments);
    EXPECT_TRUE(child.waitForReadyRead(20000));
    std::this_thread::sleep_for(delay);
    child.kill(); // SIGKILL
    EXPECT_TRUE(child.waitForFinished(20000));
    EXPECT_EQ(child.exitStatus(), QProcess::CrashExit) << "it ended by itself, " << child.exitCode();
    Said said;
    const QList<QByteArray> lines = child.readAllStandardOutput().split('\n');
    for (qsizetype k = 0; k + 1 < lines.size(); ++k) // the last one has no end
        (lines[k].startsWith("s ") ? said.saved : said.edited) = lines[k].mid(2).toInt();
    return said;
}

TEST(Kill, LosesAtMostOneEditAndNeverTheFile)
{
    const int kills = qEnvironmentVariableIntValue("TS_KILLS") > 0 ? qEnvironmentVariableIntValue("TS_KILLS") : 20;
    std::mt19937 random(20261130);
    int edits = 0, inACopy = 0;
    for (int k = 0; k < kills; ++k) {
        QTemporaryDir folder;
        const QString path = folder.filePath("m.sentry"), kept = folder.filePath("kept");
        ASSERT_TRUE(io::saveDossier(path.toStdString(), test::demoFile()));
        const Said said = killedAfter(
            {"--child", path, kept, QString::number(random())}, std::chrono::milliseconds(random() % 250));
        const auto onDisk = io::loadDossier(path.toStdString());
        ASSERT_TRUE(onDisk) << "kill " << k;
        const int saved = numberOf(*onDisk);
        EXPECT_GE(saved, said.saved) << "kill " << k;
        app::Document next(io::systemFiles());
        app::SafeKeeper keeper(next, io::systemFiles(), kept);
        const auto found = keeper.leftovers();
        ASSERT_LE(found.size(), 1u);
        EXPECT_EQ(found.size(), static_cast<std::size_t>(QDir(kept).entryList({"*.recovery"}).size()))
            << "a copy that cannot be read";
        const int copied = found.empty() ? 0 : numberOf(found.front().copy.file);
        EXPECT_GE(std::max(saved, copied), said.edited - 1) << "kill " << k << ", saved " << saved;
        ASSERT_TRUE(next.load(path));
        EXPECT_FALSE(next.readOnly()) << "a lock of one that is gone is taken over";
        edits += said.edited;
        inACopy += copied > saved;
    }
    EXPECT_GT(edits, kills) << "it did something before it was killed";
    if (kills >= 20)
        EXPECT_GT(inACopy, 0) << "no kill hit work that was not saved: this shows nothing";
    std::printf("%d kills, %d edits, %d times the copy was what was left\n", kills, edits, inACopy);
}

} // namespace
} // namespace ts

int main(int argc, char** argv)
{
    const QCoreApplication application(argc, argv);
    const QStringList arguments = QCoreApplication::arguments();
    if (arguments.size() == 5 && arguments[1] == QLatin1String("--child"))
        return ts::edit(arguments[2], arguments[3], arguments[4].toUInt());
    ::testing::InitGoogleTest(&argc, argv);
    return RUN_ALL_TESTS();
}
