// From an empty desk to a report with the keyboard alone: a starter is chosen, its stop is claimed, broken, mended and
// written down.

#include "app/places/faults/faults_place.h"
#include "app/places/faults/sweep_page.h"
#include "app/places/levels/reach_page.h"
#include "app/places/machine/machine_place.h"
#include "app/shell/report_writer.h"
#include "core/analysis/fault_analysis.h"
#include "core/edit/exclusion_edits.h"
#include "tests/support/window_rig.h"

#include <QComboBox>
#include <QDoubleSpinBox>
#include <QFile>
#include <QLineEdit>
#include <QPushButton>
#include <QTreeWidget>

namespace ts {
namespace {

using namespace app;

class Journey : public test::WindowTest {
protected:
    void key(Qt::Key k, Qt::KeyboardModifiers modifiers = Qt::ControlModifier)
    {
        QTest::keyClick(&window, k, modifiers);
    }
    const SafetyFunction& function() { return window.document().dossier().functions.front(); }
    /// Goes to a choice with the arrow keys, as somebody would who sees the list.
    void choose(const QString& name, int k)
    {
        auto* box = find<QComboBox>(name);
        box->setFocus();
        QTest::keyClick(box, Qt::Key_Home);
        for (int n = 0; n < k; ++n)
            QTest::keyClick(box, Qt::Key_Down);
        ASSERT_EQ(box->currentIndex(), k) << name.toStdString();
    }
    void choose(const QString& name, const QString& data)
    {
        const int k = find<QComboBox>(name)->findData(data);
        ASSERT_GE(k, 0) << data.toStdString();
        choose(name, k);
    }
    void press(const QString& name)
    {
        auto* button = find<QAbstractButton>(name);
        ASSERT_TRUE(button->isEnabled()) << name.toStdString();
        button->setFocus();
        QTest::keyClick(button, Qt::Key_Space);
    }
    void type(const QString& name, const QString& words)
    {
        auto* box = find<QWidget>(name);
        box->setFocus();
        QTest::keyClick(box, Qt::Key_A, Qt::ControlModifier);
        QTest::keyClicks(box, words);
        QTest::keyClick(box, Qt::Key_Return);
    }
    void claimPair(const char* measure, const char* secondsPerCycle)
    {
        for (const char* part : {"0.0", "1.0"}) {
            choose(QStringLiteral("claim.measure.%1").arg(part), QString::fromLatin1(measure));
            type(QStringLiteral("claim.use.%1").arg(part), QString::fromLatin1(secondsPerCycle));
        }
    }
    void breakEverything()
    {
        key(Qt::Key_6);
        key(Qt::Key_F9, {});
        ASSERT_TRUE(QTest::qWaitFor([this] { return built() && built()->sweep.hasPairs; }, 120000));
    }
    std::shared_ptr<const FaultAnalysis> built() { return window.book().fresh(kBuilt, about(function().id)); }
    QTemporaryDir folder;
};

TEST_F(Journey, FromAnEmptyDeskToAReport)
{
    // 1. A direct starter behind a two-channel safety relay.
    key(Qt::Key_N);
    choose("choice.stop", QString("two_channel_relay"));
    ASSERT_TRUE(QTest::qWaitFor([this] { return !window.machine().preview().isBusy(); }, 20000));
    asker->unsaved = Asker::Unsaved::Discard;
    press("machine.build");
    ASSERT_TRUE(QTest::qWaitFor([this] { return !window.document().dossier().functions.empty(); }, 20000))
        << "its functions come with it";

    // 2. What is needed: S2 F1 P2 asks for PL d.
    key(Qt::Key_2);
    const auto answer = [this](const char* word, std::initializer_list<Qt::Key> keys) {
        find<QComboBox>(word)->setFocus();
        for (Qt::Key k : keys)
            QTest::keyClick(find<QComboBox>(word), k);
    };
    answer("risk.injury", {Qt::Key_Down, Qt::Key_Down}); // nothing, slightly, seriously
    answer("risk.exposure", {Qt::Key_Up}); // until then the gravest was taken
    EXPECT_TRUE(text("risk.path").startsWith("S2 F1 P2")) << text("risk.path").toStdString();
    EXPECT_EQ(function().requiredLevel, safety::Level::D);
    EXPECT_TRUE(text("functions.sentence").contains("reset")) << text("functions.sentence").toStdString();

    // 3. What is claimed: three subsystems, read from the wiring.
    key(Qt::Key_7);
    press("levels.tab.claim");
    ASSERT_EQ(function().claim.size(), 3u);
    claimPair("input.cross_intermediate", "57600");
    for (const char* answer : {"separation", "overload_protection", "emc_contamination", "other_environment"}) // 15 +
                                                                                                               // 15 +
                                                                                                               // 25 +
                                                                                                               // 10 =
                                                                                                               // 65
        press(QStringLiteral("claim.ccf.%1").arg(answer));
    press("claim.ccf_all");
    choose("claim.subsystems", 1);
    choose("reliability.kind", 7);
    type("reliability.value", "2.5e-9");
    find<QComboBox>("reliability.level")->setCurrentText("e");
    find<QComboBox>("reliability.category")->setCurrentText("4");
    press("reliability.take");
    choose("claim.subsystems", 2);
    claimPair("output.direct", "600");
    // Category 3, DC medium (99 % reads as 90 % there), MTTFd capped at 100 y: 4.29e-8, twice, and the relay's 2.5e-9.
    ASSERT_GE(window.levels().level().pfhd, 0) << text("levels.verdict").toStdString();
    EXPECT_NEAR(window.levels().level().explanation[window.levels().level().pfhd].si, 2 * 4.29e-8 + 2.5e-9, 1e-12);
    EXPECT_TRUE(text("levels.verdict").contains("PL e")) << text("levels.verdict").toStdString();

    // 4. What the wiring really does: the contact block comes off and both channels stay closed. Shorts inside the
    // enclosure are excluded first.
    window.document().edit("Exclude", [](const Dossier& d) {
        Expected<Dossier> changed = d;
        for (const Route& r : d.circuit.routes)
            if (changed && r.kind == RouteKind::Enclosure)
                changed = edit::withExclusion(
                    *changed, {"route/" + std::to_string(r.id.value) + ":short", "enclosure to EN 60204-1"});
        return changed;
    });
    breakEverything();
    EXPECT_EQ(built()->built.subsystems[0].verdict.structure, faults::Structure::OneChannel);
    EXPECT_EQ(built()->built.subsystems[2].verdict.structure, faults::Structure::AccumulationTolerated);
    ASSERT_TRUE(built()->level);
    EXPECT_LT(built()->level->level, safety::Level::D);

    // 5. What would reach it, carried out with Enter; then everything is broken again.
    key(Qt::Key_7);
    press("levels.tab.reach");
    press("reach.start");
    ASSERT_TRUE(QTest::qWaitFor([this] { return !window.levels().reach().isBusy(); }, 120000));
    auto* list = find<QTreeWidget>("reach.list");
    ASSERT_GT(list->topLevelItemCount(), 0);
    EXPECT_TRUE(list->topLevelItem(0)->text(0).contains("monitored contact block"))
        << list->topLevelItem(0)->text(0).toStdString();
    list->setFocus();
    list->setCurrentItem(list->topLevelItem(0));
    press("reach.do");
    breakEverything();
    ASSERT_TRUE(built()->level);
    EXPECT_GE(built()->level->level, safety::Level::D);

    // 6. The report says all of it.
    asker->save = folder.filePath("report.html");
    key(Qt::Key_R);
    ASSERT_TRUE(QTest::qWaitFor([this] { return !window.desk().reportWriter().isBusy(); }, 60000));
    QFile f(asker->save);
    ASSERT_TRUE(f.open(QIODevice::ReadOnly));
    const QString html = QString::fromUtf8(f.readAll());
    for (const char* said : {"S2 F1 P2", "PL d", "2.50e-9", "monitored", "accumulation tolerated", "typical value"})
        EXPECT_TRUE(html.contains(QLatin1String(said))) << said;
}

} // namespace
} // namespace ts
