// The search in the real window: what was seen, looks answered by buttons and figures, one taken back, and what it
// comes to, into the record.

#include "app/places/find/find_place.h"
#include "app/widgets/marked_drawing.h"
#include "core/edit/wiring_edits.h"
#include "core/finding/search.h"
#include "tests/support/window_rig.h"
#include "wording/test_words.h"

#include <QCheckBox>
#include <QComboBox>
#include <QLineEdit>
#include <QPushButton>
#include <QRadioButton>

namespace ts {
namespace {

using namespace app;
using measuring::StandIn;

class Searching : public test::WindowTest {
protected:
    void SetUp() override
    {
        WindowTest::SetUp();
        QTest::keyClick(&window, Qt::Key_F, Qt::ControlModifier);
        ASSERT_TRUE(find("find.said")->isVisible());
    }
    void click(const char* name)
    {
        ASSERT_TRUE(find(name)) << name;
        QWidget* w = find(name);
        const QPoint at = qobject_cast<QCheckBox*>(w) ? QPoint(8, w->height() / 2) : w->rect().center();
        QTest::mouseClick(w, Qt::LeftButton, {}, at);
        QApplication::processEvents();
    }
    bool waitForLook()
    {
        return QTest::qWaitFor([this] { return !find("find.stop")->isVisible(); }, 60000);
    }
    void choose(const char* name, const QString& text)
    {
        auto* box = find<QComboBox>(name);
        const int index = box->findText(text);
        ASSERT_GE(index, 0) << text.toStdString();
        box->setCurrentIndex(index);
    }
    MarkedDrawing& drawing() { return *find<MarkedDrawing>("find.drawing"); }
};

/// A panel with one wire missing answers; a person only presses what it reads.
class Panel {
public:
    explicit Panel(const std::string& id)
        : m_circuit(test::demoFile().dossier.circuit)
    {
        const auto mistakes = *measuring::mistakesOf(m_circuit);
        for (const measuring::Mistake& m : mistakes)
            if (m.id == id)
                m_built = std::make_unique<StandIn>(
                    std::make_shared<const Plant>(*compile(*measuring::builtWith(m_circuit, m))));
    }
    measuring::Reading read(const finding::Proposal& p)
    {
        EXPECT_TRUE(m_built->bring(p.in));
        return *m_built->look(p.look);
    }

private:
    Circuit m_circuit;
    std::unique_ptr<StandIn> m_built;
};

TEST_F(Searching, FromWhatWasSeenToWhatIsTheMatter)
{
    EXPECT_TRUE(text("find.said").startsWith("It stopped")) << text("find.said").toStdString();
    EXPECT_EQ(find<QComboBox>("find.device")->currentText(), "M1") << "what people look at comes first";
    click("find.wired");
    choose("find.hand", "S3 pressed and let go");
    click("find.add_hand");
    choose("find.hand", "S2 pressed and let go");
    click("find.add_hand");
    choose("find.device", "M1");
    choose("find.is_not", "is not");
    choose("find.state", "driven");
    click("find.tell");
    ASSERT_TRUE(waitForLook());
    EXPECT_EQ(text("find.told"), "S3 pressed and let go, S2 pressed and let go: M1 not driven");
    EXPECT_TRUE(text("find.said").endsWith("possibilities are left")) << text("find.said").toStdString();

    Panel panel("missing/64");
    auto finder = *finding::Finder::of(test::demoFile().dossier.circuit, finding::History::Wired);
    ASSERT_TRUE(finder.tell(*finding::symptomsFrom(finder.plant(), "operate S3; operate S2 -> not M1 driven")));
    EXPECT_FALSE(find("find.answer1")->isEnabled()) << "nobody has said that it is dead";
    click("find.safe");
    std::size_t readings = 0;
    for (; readings < 40; ++readings) {
        const auto finding = *finder.think();
        if (!finding.next)
            break;
        EXPECT_EQ(text("find.look"), QString::fromStdString(wording::lookText(finding.next->look)));
        EXPECT_TRUE(find("find.answer1")->isEnabled());
        const auto reading = panel.read(*finding.next);
        int answer = 0;
        for (std::size_t o = 0; o < finding.next->outcomes.size() && answer == 0; ++o)
            if (!differ(finding.next->outcomes[o].reading, reading))
                answer = static_cast<int>(o) + 1;
        ASSERT_GT(answer, 0);
        ASSERT_TRUE(finder.take({finding.next->in, finding.next->look,
            finding.next->outcomes[static_cast<std::size_t>(answer) - 1].reading}));
        click(("find.answer" + std::to_string(answer)).c_str());
        ASSERT_TRUE(waitForLook());
    }
    EXPECT_EQ(text("find.said"), "Found, as far as looks can tell");
    EXPECT_TRUE(text("find.found").contains("wire 32 (S1:12 - S2:13) is missing")) << text("find.found").toStdString();
    EXPECT_EQ(text("find.trail").count('\n') + 1, static_cast<int>(readings));
    EXPECT_FALSE(find("find.look")->isVisible());

    click("find.keep");
    EXPECT_TRUE(window.document().record().empty()) << "nobody is named";
    find<QLineEdit>("find.who")->setText("A. Weller");
    click("find.keep");
    ASSERT_EQ(window.document().record().size(), 1u);
    EXPECT_NE(window.document().record().front().text.find("wire 32"), std::string::npos);
    EXPECT_EQ(window.document().record().front().who, "A. Weller");
}

TEST_F(Searching, AFigureIsEnteredByKeysAndTakenBack)
{
    click("find.start");
    ASSERT_TRUE(waitForLook());
    EXPECT_TRUE(drawing().probesShown() > 0) << "the probes stand in the drawing";
    auto* safe = find<QCheckBox>("find.safe");
    safe->setFocus();
    QTest::keyClick(safe, Qt::Key_Space);
    EXPECT_TRUE(safe->isChecked());
    auto* figure = find<QLineEdit>("find.figure");
    for (int n = 0; n < 20 && !figure->isVisible(); ++n) { // wires are counted first
        click("find.answer1");
        ASSERT_TRUE(waitForLook());
    }
    const QString first = text("find.look"), left = text("find.said"), trail = text("find.trail");
    EXPECT_TRUE(QTest::qWaitFor([&] { return figure->hasFocus(); })) << "the keyboard goes on to the reading";
    QTest::keyClicks(figure, "much");
    QTest::keyClick(figure, Qt::Key_Return);
    EXPECT_TRUE(text("find.card_said").contains("no figure"));
    figure->clear();
    QTest::keyClicks(figure, "OL");
    QTest::keyClick(figure, Qt::Key_Return);
    ASSERT_TRUE(waitForLook());
    EXPECT_NE(text("find.look"), first);
    EXPECT_TRUE(text("find.trail").contains("open (1 Mohm and more)")) << text("find.trail").toStdString();
    click("find.back");
    EXPECT_EQ(text("find.look"), first);
    EXPECT_EQ(text("find.said"), left);
    EXPECT_EQ(text("find.trail"), trail);
    click("find.anew");
    EXPECT_TRUE(text("find.said").startsWith("It stopped"));
    EXPECT_FALSE(find("find.look")->isVisible());
}

/// The wires on a device are counted: what is not as drawn stands on the answers, and there is one for anything else.
TEST_F(Searching, WiresAreCountedAndMayBeOtherwiseThanAnyAnswer)
{
    click("find.start");
    ASSERT_TRUE(waitForLook());
    click("find.safe");
    const auto isCounted = [this] { return window.findChild<QPushButton*>("find.answer_else") != nullptr; };
    for (int n = 0; n < 20 && !isCounted(); ++n) {
        click("find.answer1");
        ASSERT_TRUE(waitForLook());
    }
    ASSERT_TRUE(isCounted());
    EXPECT_TRUE(find("find.answer_else")->isEnabled());
    EXPECT_FALSE(find("find.figure")->isVisible()) << "there is no figure to it";
    const auto answer = [this](const char* name) { return find<QPushButton>(name)->text(); };
    EXPECT_EQ(answer("find.answer1"), "as many on each as drawn");
    EXPECT_TRUE(answer("find.answer2").startsWith("as drawn but ")) << answer("find.answer2").toStdString();
    const QString counted = text("find.look");
    click("find.answer_else");
    ASSERT_TRUE(waitForLook());
    EXPECT_TRUE(text("find.trail").contains("anything else")) << text("find.trail").toStdString();
    EXPECT_EQ(text("find.look"), counted) << "nothing explains it: asked again";
}

TEST_F(Searching, AnotherCircuitIsAnotherSearch)
{
    click("find.start");
    ASSERT_TRUE(waitForLook());
    click("find.safe");
    const WireId wire = window.document().dossier().circuit.wires.front().id;
    ASSERT_TRUE(window.document().editFile(
        QStringLiteral("take a wire out"), [wire](const DossierFile& file) { return edit::withoutWire(file, wire); }));
    QApplication::processEvents();
    EXPECT_TRUE(text("find.said").startsWith("It stopped")) << text("find.said").toStdString();
    click("find.start");
    ASSERT_TRUE(waitForLook());
    EXPECT_FALSE(find<QCheckBox>("find.safe")->isChecked()) << "dead is said anew";
}

/// Edited at the Bench, without a search under way: not drawn there and then, but when somebody comes. A search under
/// way is given up at once.
TEST_F(Searching, WhatChangedElsewhereIsDrawnWhenSomebodyComes)
{
    const auto takeOut = [this] {
        const WireId wire = window.document().dossier().circuit.wires.back().id;
        ASSERT_TRUE(window.document().editFile(QStringLiteral("take a wire out"),
            [wire](const DossierFile& file) { return edit::withoutWire(file, wire); }));
        QApplication::processEvents();
    };
    const diagram::Scene* before = &drawing().scene();
    const std::size_t conductors = before->conductors.size();
    window.goTo(QStringLiteral("bench"));
    const Dossier was = window.document().dossier();
    for (int k = 0; k < 3; ++k)
        takeOut();
    EXPECT_EQ(drawing().scene().conductors.size(), conductors) << "nobody sees it";
    window.goTo(QStringLiteral("find"));
    QApplication::processEvents();
    MarkedDrawing fresh(MarkedDrawing::Sign::Suspected, QStringLiteral("fresh"), QString(), theme, nullptr);
    fresh.resize(drawing().size());
    fresh.setCircuit(window.document().dossier().circuit);
    EXPECT_EQ(drawing().scene().conductors.size(), fresh.scene().conductors.size());
    click("find.start");
    ASSERT_TRUE(waitForLook());
    window.goTo(QStringLiteral("bench"));
    takeOut();
    EXPECT_TRUE(text("find.said").startsWith("It stopped")) << text("find.said").toStdString();
}

TEST_F(Searching, WhatIsWorkedOutCanBeStopped)
{
    click("find.start");
    if (find("find.stop")->isVisible())
        click("find.stop");
    EXPECT_TRUE(QTest::qWaitFor([this] { return !find("find.stop")->isVisible(); }, 5000));
}

} // namespace
} // namespace ts
