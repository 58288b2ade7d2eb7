// Practising in the real window: something hidden, measured and named; what could have hurt is said.

#include "app/places/practice/practice_place.h"
#include "app/widgets/marked_drawing.h"
#include "tests/support/window_rig.h"

#include <QComboBox>
#include <QPushButton>
#include <QSpinBox>

namespace ts {
namespace {

using namespace app;

class Practising : public test::WindowTest {
protected:
    void SetUp() override
    {
        WindowTest::SetUp();
        QTest::keyClick(&window, Qt::Key_T, Qt::ControlModifier);
        find<QComboBox>("practice.difficulty")->setCurrentIndex(2); // drawn soonest
        click("practice.hide");
        ASSERT_TRUE(QTest::qWaitFor([this] { return find("practice.lock_off")->isVisible(); }, 120000));
    }
    void click(const char* name)
    {
        ASSERT_TRUE(find(name)) << name;
        QTest::mouseClick(find(name), Qt::LeftButton);
        QApplication::processEvents();
        EXPECT_TRUE(QTest::qWaitFor([this] { return find("practice.lock_off")->isEnabled(); }, 30000));
    }
    void put(const char* probe, const char* terminal) { find<QComboBox>(probe)->setCurrentText(terminal); }
};

TEST_F(Practising, WhatCouldHurtIsRefusedAndCounted)
{
    EXPECT_TRUE(text("practice.said").startsWith("SIMULATED")) << text("practice.said").toStdString();
    EXPECT_TRUE(text("practice.supply").startsWith("LIVE"));
    put("practice.red", "G0:L1");
    put("practice.black", "G0:L2");
    click("practice.ohms");
    EXPECT_TRUE(text("practice.shown").contains("ohms on live parts")) << text("practice.shown").toStdString();
    click("practice.volts");
    EXPECT_TRUE(text("practice.shown").contains("V")) << text("practice.shown").toStdString();
    click("practice.lock_off");
    EXPECT_TRUE(text("practice.supply").startsWith("Locked off"));
    click("practice.ohms");
    EXPECT_TRUE(text("practice.log").contains("not proved dead")) << text("practice.log").toStdString();
    click("practice.prove_dead");
    EXPECT_EQ(text("practice.shown"), "dead");
    click("practice.ohms");
    EXPECT_TRUE(text("practice.shown").contains("ohm")) << text("practice.shown").toStdString();
    click("practice.name");
    EXPECT_TRUE(text("practice.shown").startsWith("What is meant?")) << "nothing is named";
    click("practice.give_up");
    EXPECT_TRUE(text("practice.shown").startsWith("No. It was: ")) << text("practice.shown").toStdString();
    EXPECT_TRUE(text("practice.shown").contains("lapse: ohms on live parts"));
    click("practice.volts");
    EXPECT_TRUE(text("practice.shown").startsWith("No. It was: ")) << "it is over";
}

TEST_F(Practising, NamedRightlyItIsRight)
{
    const auto drill = practice::drillOf(test::demoFile().dossier.circuit, practice::Difficulty::Masked, 1);
    ASSERT_TRUE(drill);
    auto* named = find<QComboBox>("practice.named");
    const int index = named->findData(QString::fromStdString(drill->hidden.id));
    ASSERT_GE(index, 0);
    named->setCurrentIndex(index);
    click("practice.name");
    EXPECT_TRUE(text("practice.shown").startsWith("Right: ")) << text("practice.shown").toStdString();
    EXPECT_FALSE(text("practice.shown").contains("lapse"));
}

TEST_F(Practising, ATerminalThatIsPressedTakesAProbe)
{
    auto* drawing = find<MarkedDrawing>("practice.drawing");
    ASSERT_FALSE(drawing->scene().pins.empty());
    const auto& [terminal, pin] = *drawing->scene().pins.begin();
    const double zoom = std::min(
        {drawing->width() / drawing->scene().width, drawing->height() / drawing->scene().height, 1.0});
    const auto before = find<QComboBox>("practice.red")->currentText();
    QTest::mouseClick(drawing, Qt::LeftButton, {}, QPoint(qRound(pin.x * zoom), qRound(pin.y * zoom)));
    const QString name = QString::fromStdString(test::demoFile().dossier.circuit.nameOf(terminal));
    EXPECT_EQ(find<QComboBox>("practice.red")->currentText().section(':', 0, 0), name.section(':', 0, 0));
    EXPECT_GE(drawing->probesShown(), 1);
    put("practice.red", before.toStdString().c_str());
}

} // namespace
} // namespace ts
