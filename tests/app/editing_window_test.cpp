// A person changes the circuit at the Bench: by what is meant, with a look at what it would mean before it is done,
// with keys and with the mouse, and takes it back.

#include "app/places/bench/edit_sheet.h"
#include "app/places/bench/wire_list_view.h"
#include "core/edit/wiring.h"
#include "tests/support/window_rig.h"

#include <QComboBox>
#include <QHelpEvent>
#include <QLineEdit>
#include <QMenu>
#include <QToolTip>

namespace ts {
namespace {

class Editing : public test::WindowTest {
protected:
    const Circuit& circuit() { return window.document().dossier().circuit; }
    app::PathsView& paths() { return window.bench().paths(); }
    void pick(std::string_view tag, std::string_view role)
    {
        QTest::mouseClick(&paths(), Qt::LeftButton, {}, elementAt(tag, role));
    }
    void choose(const char* question, const QString& value)
    {
        auto* box = find<QComboBox>(QStringLiteral("change.") + question);
        const int index = box->findData(value);
        ASSERT_GE(index, 0) << value.toStdString();
        box->setCurrentIndex(index);
    }
    QString sheetText()
    {
        QStringList texts;
        for (QLabel* l : window.bench().sheet().findChildren<QLabel*>())
            texts << l->text();
        return texts.join('\n');
    }
};

TEST_F(Editing, StopButtonBeforeTheWholeBranchByKeysAlone)
{
    startMachine();
    pick("S2", "13-14");
    QTest::keyClick(&paths(), Qt::Key_B);
    ASSERT_TRUE(window.bench().sheet().isOpen());
    EXPECT_EQ(text("change.title"), "Put in series before");
    choose("reach", "all");
    ASSERT_NE(window.bench().sheet().preview(), nullptr);
    EXPECT_TRUE(sheetText().contains("now cuts Q1")) << sheetText().toStdString();
    ASSERT_TRUE(QTest::qWaitFor([this] { return window.bench().sheet().trial().result() != nullptr; }, 20000));
    EXPECT_TRUE(sheetText().contains("run as before")) << sheetText().toStdString();
    const std::size_t devices = circuit().devices.size();
    EXPECT_FALSE(window.document().isModified()) << "only looked at so far";
    QTest::keyClick(find<QComboBox>("change.reach"), Qt::Key_Return);
    EXPECT_FALSE(window.bench().sheet().isOpen());
    ASSERT_EQ(circuit().devices.size(), devices + 1);
    EXPECT_TRUE(is("M1", "driven")) << "the machine went on running";
    const std::string tag = circuit().devices.back().tag;
    push(QString::fromStdString(tag));
    EXPECT_TRUE(is("Q1", "out")) << "and its new button stops it";
    QTest::keyClick(&window, Qt::Key_Z, Qt::ControlModifier);
    EXPECT_EQ(circuit().devices.size(), devices);
    QTest::keyClick(&window, Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    EXPECT_EQ(circuit().devices.size(), devices + 1);
}

TEST_F(Editing, IdsAreNotGivenTwiceAfterUndo)
{
    const auto addButton = [this] {
        pick("S2", "13-14");
        QTest::keyClick(&paths(), Qt::Key_L);
        QTest::mouseClick(find("change.do"), Qt::LeftButton);
        return circuit().devices.back().id;
    };
    const DeviceId first = addButton();
    QTest::keyClick(&window, Qt::Key_Z, Qt::ControlModifier);
    EXPECT_NE(addButton(), first);
}

TEST_F(Editing, EscapeLeavesEverythingAsItWas)
{
    const auto before = window.document().dossier();
    pick("S1", "11-12");
    QTest::keyClick(&paths(), Qt::Key_Delete);
    ASSERT_TRUE(window.bench().sheet().isOpen());
    EXPECT_TRUE(sheetText().contains("the path is closed again"));
    choose("gap", "open");
    EXPECT_TRUE(sheetText().contains("no way leads to Q1")) << sheetText().toStdString();
    QTest::keyClick(find<QComboBox>("change.gap"), Qt::Key_Escape);
    EXPECT_FALSE(window.bench().sheet().isOpen());
    EXPECT_EQ(window.document().dossier(), before);
    EXPECT_FALSE(window.document().isModified());
}

TEST_F(Editing, WhatItMakesAndMendsOfFindingsIsSaidBeforeItIsDone)
{
    pick("F2", "95-96");
    QTest::keyClick(&paths(), Qt::Key_Delete);
    ASSERT_TRUE(window.bench().sheet().isOpen());
    ASSERT_TRUE(QTest::qWaitFor([this] { return window.bench().sheet().trial().findings() != nullptr; }, 60000));
    EXPECT_TRUE(sheetText().contains("would be found: F2 trips, and M1 goes on running")) << sheetText().toStdString();
    EXPECT_FALSE(window.document().isModified());
}

/// A machine that no longer starts has fewer findings, and none of them is mended by that.
TEST_F(Editing, WhatIsOnlyNoLongerSeenIsNotCalledMended)
{
    pick("S2", "13-14");
    QTest::keyClick(&paths(), Qt::Key_Delete);
    choose("gap", "open");
    ASSERT_TRUE(QTest::qWaitFor([this] { return window.bench().sheet().trial().findings() != nullptr; }, 60000));
    EXPECT_TRUE(window.bench().sheet().trial().findings()->seesLess);
    EXPECT_FALSE(sheetText().contains("would be mended")) << sheetText().toStdString();
}

TEST_F(Editing, RefusalIsSaidInTheSheetAndCannotBeDone)
{
    window.bench().find({circuit().device("S1")->id, "", {}});
    for (const auto& offer : std::vector(window.bench().offers()))
        if (offer.id == "tag")
            window.bench().openOffer(offer);
    find<QLineEdit>("change.tag")->setText("S2");
    EXPECT_TRUE(sheetText().contains("two devices with the tag")) << sheetText().toStdString();
    EXPECT_FALSE(find("change.do")->isEnabled());
    QTest::keyClick(find("change.tag"), Qt::Key_Return);
    EXPECT_TRUE(window.bench().sheet().isOpen()) << "nothing was done";
    find<QLineEdit>("change.tag")->setText("S77");
    QTest::keyClick(find("change.tag"), Qt::Key_Return);
    EXPECT_NE(circuit().device("S77"), nullptr);
}

TEST_F(Editing, MenuOnASymbolOffersWhatTheKeysDo)
{
    QContextMenuEvent event(
        QContextMenuEvent::Mouse, elementAt("Q1", "coil"), paths().mapToGlobal(elementAt("Q1", "coil")));
    QApplication::sendEvent(&paths(), &event);
    auto* menu = window.findChild<QMenu*>("bench.menu");
    ASSERT_NE(menu, nullptr);
    QStringList words;
    for (QAction* a : menu->actions())
        words << a->text();
    EXPECT_TRUE(words.join('|').contains("Add a lamp"));
    EXPECT_TRUE(words.join('|').contains("Put in series before ...\tB"));
    menu->close();
}

TEST_F(Editing, WireIsSelectedInListAndDrawingAlike)
{
    click("bench.wires");
    ASSERT_TRUE(window.bench().showsWires());
    auto& wires = window.bench().wires();
    EXPECT_EQ(wires.rows().rowCount(), static_cast<int>(circuit().wires.size()));
    wires.setFocus();
    wires.setCurrentIndex(wires.rows().index(3, 0));
    QTest::keyClick(&wires, Qt::Key_Down);
    const WireId here = wires.rows().wireAt(4);
    EXPECT_EQ(text("inspector.title"), QString("Wire %1").arg(QString::fromStdString(circuit().wire(here)->number)));
    // The other way round: a click on a line of the drawing.
    const auto& scene = paths().scene();
    const auto inner = std::find_if(scene.conductors.begin(), scene.conductors.end(),
        [](const auto& c) { return !c.isRail && std::abs(c.points[0].y - c.points[1].y) < 1; });
    ASSERT_NE(inner, scene.conductors.end());
    const diagram::Point at{inner->points[0].x * 0.7 + inner->points[1].x * 0.3, inner->points[0].y};
    QTest::mouseClick(&paths(), Qt::LeftButton, {}, paths().onWidget(at).toPoint());
    const WireId picked = wires.rows().wireAt(wires.currentIndex().row());
    EXPECT_NE(picked, here);
    const auto net = edit::netOf(circuit(), inner->net);
    EXPECT_TRUE(net.contains(circuit().wire(picked)->from));
    // And a wire can be taken out from here.
    const std::size_t count = circuit().wires.size();
    QTest::keyClick(&paths(), Qt::Key_Delete);
    QTest::mouseClick(find("change.do"), Qt::LeftButton);
    EXPECT_EQ(circuit().wires.size(), count - 1);
    EXPECT_EQ(wires.rows().rowCount(), static_cast<int>(count) - 1);
}

/// The list of wires is made when somebody looks at it; what hangs on its order must not wait for that.
TEST_F(Editing, ANetIsPickedInTheDrawingBeforeTheWireListWasEverSeen)
{
    ASSERT_FALSE(window.bench().showsWires());
    const auto& scene = paths().scene();
    const auto inner = std::find_if(scene.conductors.begin(), scene.conductors.end(),
        [](const auto& c) { return !c.isRail && std::abs(c.points[0].y - c.points[1].y) < 1; });
    ASSERT_NE(inner, scene.conductors.end());
    const auto net = edit::netOf(circuit(), inner->net);
    const diagram::Point at{inner->points[0].x * 0.7 + inner->points[1].x * 0.3, inner->points[0].y};
    QTest::mouseClick(&paths(), Qt::LeftButton, {}, paths().onWidget(at).toPoint());
    ASSERT_TRUE(text("inspector.title").startsWith("Wire ")) << text("inspector.title").toStdString();
    click("bench.wires");
    auto& wires = window.bench().wires();
    const Wire* picked = circuit().wire(wires.rows().wireAt(wires.currentIndex().row()));
    ASSERT_NE(picked, nullptr) << "the list opens where the drawing is";
    EXPECT_TRUE(net.contains(picked->from));
}

TEST_F(Editing, PathIsDraggedByItsNumberToAnotherPlace)
{
    const auto drawing = diagram::controlDrawing(*diagram::wiredGraph(circuit()));
    ASSERT_GT(drawing.paths.size(), 3u);
    paths().showPage(paths().pageCount() - 1); // the whole
    const diagram::DrawnPath& last = drawing.paths.back();
    const auto onNumber = [&](const diagram::DrawnPath& p) {
        return paths().onWidget({p.bottom.x, p.bottom.y + 28}).toPoint();
    };
    QTest::mousePress(&paths(), Qt::LeftButton, {}, onNumber(last));
    const QPoint before = onNumber(drawing.paths.front()) - QPoint(10, 20);
    QMouseEvent move(QEvent::MouseMove, before, paths().mapToGlobal(before), Qt::NoButton, Qt::LeftButton, {});
    QApplication::sendEvent(&paths(), &move);
    QTest::mouseRelease(&paths(), Qt::LeftButton, {}, before);
    const auto moved = diagram::controlDrawing(*diagram::wiredGraph(circuit()));
    EXPECT_EQ(moved.paths.front().lead, last.lead);
    EXPECT_EQ(moved.paths.size(), drawing.paths.size());
    QTest::keyClick(&window, Qt::Key_Z, Qt::ControlModifier);
    EXPECT_EQ(diagram::controlDrawing(*diagram::wiredGraph(circuit())).paths.front().lead, drawing.paths.front().lead);
}

TEST_F(Editing, PathMovesByKeysAndTheOtherElementsAreAKeyAway)
{
    const auto leads = [this] {
        std::vector<DeviceId> all;
        for (const auto& p : diagram::controlDrawing(*diagram::wiredGraph(circuit())).paths)
            all.push_back(p.lead);
        return all;
    };
    const auto before = leads();
    window.bench().find({before.back(), "", {}});
    QTest::keyClick(&paths(), Qt::Key_Left, Qt::ShiftModifier);
    EXPECT_NE(leads(), before);
    QTest::keyClick(&window, Qt::Key_Z, Qt::ControlModifier);
    EXPECT_EQ(leads(), before);

    window.bench().find({circuit().device("Q1")->id, "coil", {}});
    QSet<QString> seen;
    bool power = false;
    for (int k = 0; k < 12; ++k) {
        QTest::keyClick(&paths(), Qt::Key_Q);
        seen.insert(text("inspector.title"));
        power |= window.bench().showsPower();
    }
    EXPECT_GT(seen.size(), 3);
    EXPECT_TRUE(power) << "its main poles are in the other drawing";
}

TEST_F(Editing, ContactsLeftAreTold)
{
    pick("Q1", "coil");
    QStringList texts;
    for (QLabel* l : find("inspector")->findChildren<QLabel*>())
        texts << l->text();
    EXPECT_TRUE(texts.join('\n').contains("contacts, ")) << texts.join('\n').toStdString();
}

/// A lamp that was added lies unwired until somebody says where its terminals go: typed, with Enter at the end.
TEST_F(Editing, DeviceAndWireByTypingAlone)
{
    window.bench().find({});
    paths().setFocus();
    QTest::keyClick(&paths(), Qt::Key_C);
    ASSERT_TRUE(window.bench().sheet().isOpen());
    choose("kind", "lamp");
    QTest::keyClick(find("change.label"), Qt::Key_Return);
    const Device lamp = circuit().devices.back();
    EXPECT_EQ(lamp.kind, "lamp");
    const std::size_t wires = circuit().wires.size();
    QTest::keyClick(&paths(), Qt::Key_W);
    const std::string lead = lamp.tag + ":X1";
    for (const auto& [field, terminal] : {std::pair{"change.from", "Q1:A1"}, {"change.to", lead.c_str()}}) {
        auto* line = find<QComboBox>(field)->lineEdit();
        line->selectAll();
        QTest::keyClicks(line, terminal);
    }
    ASSERT_NE(window.bench().sheet().preview(), nullptr) << sheetText().toStdString();
    find<QComboBox>("change.to")->lineEdit()->selectAll();
    QTest::keyClicks(find<QComboBox>("change.to")->lineEdit(), "nowhere");
    EXPECT_EQ(window.bench().sheet().preview(), nullptr);
    EXPECT_TRUE(sheetText().contains("not among the answers")) << sheetText().toStdString();
    find<QComboBox>("change.to")->lineEdit()->selectAll();
    QTest::keyClicks(find<QComboBox>("change.to")->lineEdit(), lead.c_str());
    QTest::keyClick(find<QComboBox>("change.to")->lineEdit(), Qt::Key_Return);
    EXPECT_EQ(circuit().wires.size(), wires + 1);
}

/// With the last step of the history gone the sheet has nothing to stand on: it closes instead of showing what is not
/// there.
TEST_F(Editing, UndoWhileASheetIsOpenClosesIt)
{
    pick("S2", "13-14");
    QTest::keyClick(&paths(), Qt::Key_L);
    QTest::mouseClick(find("change.do"), Qt::LeftButton);
    const std::string added = circuit().devices.back().tag;
    window.bench().find({circuit().device(added)->id, "13-14", {}});
    QTest::keyClick(&paths(), Qt::Key_X);
    ASSERT_TRUE(window.bench().sheet().isOpen());
    window.document().history().undo();
    EXPECT_FALSE(window.bench().sheet().isOpen());
    EXPECT_EQ(circuit().device(added), nullptr);
    QTest::keyClick(&paths(), Qt::Key_B); // what is selected is gone: nothing happens, nothing breaks
    session().advanceBy(0.1);
}

TEST_F(Editing, LettersInTheWireListAreChanges)
{
    click("bench.wires");
    auto& wires = window.bench().wires();
    wires.setFocus();
    QTest::keyClick(&wires, Qt::Key_Down);
    QTest::keyClick(&wires, Qt::Key_M);
    ASSERT_TRUE(window.bench().sheet().isOpen());
    EXPECT_EQ(text("change.title"), "Move an end to");
    QTest::keyClick(find("change.end"), Qt::Key_Escape);
    EXPECT_FALSE(window.bench().sheet().isOpen());
}

/// Whatever is selected, every line of the inspector opens a sheet that says something and can be left; nothing is
/// changed by looking.
TEST_F(Editing, EverySheetOpensAndIsLeftUnchanged)
{
    const auto before = window.document().dossier();
    int opened = 0;
    for (const auto& [tag, role] : {std::pair{"Q1", "coil"}, {"Q1", ""}, {"S2", "13-14"}, {"M1", ""}, {"K1", ""},
             {"P1", "lamp"}, {"F2", "95-96"}, {"", ""}}) {
        const Device* device = circuit().device(std::string_view(tag));
        window.bench().find({device ? device->id : DeviceId{}, role, {}});
        for (const offers::Offer& offer : std::vector(window.bench().offers())) {
            window.bench().openOffer(offer);
            ASSERT_TRUE(window.bench().sheet().isOpen());
            EXPECT_FALSE(text("change.title").isEmpty()) << offer.id;
            EXPECT_FALSE(text("change.title").startsWith("do.")) << offer.id << " has no words";
            const bool hasPreview = window.bench().sheet().preview() != nullptr;
            EXPECT_EQ(find("change.do")->isEnabled(), hasPreview) << offer.id;
            QTest::mouseClick(find("change.leave"), Qt::LeftButton);
            ASSERT_FALSE(window.bench().sheet().isOpen());
            ++opened;
        }
    }
    EXPECT_GT(opened, 60);
    EXPECT_EQ(window.document().dossier(), before);
    EXPECT_FALSE(window.document().isModified());
}

/// Ten changes made in the window, each with its keys, all taken back and made again: the same circuits each time, and
/// the bench runs on through all of it.
TEST_F(Editing, ChangesUndoneAndRedoneAreTheSame)
{
    startMachine();
    std::vector<Dossier> states{window.document().dossier()};
    const auto change = [&](const char* tag, const char* role, const char* id) {
        window.bench().find({circuit().device(std::string_view(tag))->id, role, {}});
        for (const offers::Offer& offer : std::vector(window.bench().offers()))
            if (offer.id == id) {
                window.bench().openOffer(offer);
                QTest::mouseClick(find("change.do"), Qt::LeftButton);
            }
        session().advanceBy(0.1);
        states.push_back(window.document().dossier());
        EXPECT_NE(states.back(), states[states.size() - 2]) << id << " changed nothing";
    };
    change("S2", "13-14", "parallel");
    change("Q1", "coil", "lamp_add");
    change("Q1", "coil", "series_before");
    change("Q1", "coil", "block");
    change("S1", "11-12", "series_after");
    change("M1", "", "exchange");
    change("Q2", "coil", "hold_remove");
    change("M1", "", "starter_again");
    QUndoStack& history = window.document().history();
    for (std::size_t k = states.size() - 1; k-- > 0;) {
        history.undo();
        EXPECT_EQ(window.document().dossier(), states[k]);
        session().advanceBy(0.05);
    }
    for (std::size_t k = 1; k < states.size(); ++k) {
        history.redo();
        EXPECT_EQ(window.document().dossier(), states[k]);
        session().advanceBy(0.05);
    }
    while (history.canUndo())
        history.undo();
    session().advanceBy(0.5);
    EXPECT_EQ(window.document().dossier(), states.front());
    EXPECT_FALSE(window.document().isModified());
    push("S3");
    push("S2");
    session().advanceBy(2.0);
    EXPECT_TRUE(is("M1", "driven")) << "the bench is as good as new";
}

/// A motor without its protective conductor, and with it again: within what a person waits for, beside the motor.
TEST_F(Editing, WhatTheChecksFindStandsBesideTheThing)
{
    const DeviceId motor = circuit().device("M1")->id;
    const auto markOf = [&] {
        const auto& all = paths().found().all();
        const auto here = all.find(motor);
        return here == all.end() ? app::Mark::Untouched : here->second.mark;
    };
    EXPECT_NE(markOf(), app::Mark::Wrong);
    QTest::keyClick(&window, Qt::Key_F6); // the power circuit
    ASSERT_TRUE(window.document().edit("bare", [](const Dossier& d) -> Expected<Dossier> {
        Dossier changed = d;
        std::erase_if(changed.circuit.wires,
            [&d](const Wire& w) { return d.circuit.nameOf(w.from) == "M1:PE" || d.circuit.nameOf(w.to) == "M1:PE"; });
        return changed;
    }));
    ASSERT_TRUE(QTest::qWaitFor([&] { return markOf() == app::Mark::Wrong; }, 60000));
    elementAt("M1", ""); // turns to its page
    const QPointF mark = paths().found().boxOf(paths().scene(), motor).center();
    const QPoint corner = paths().onWidget({mark.x(), mark.y()}).toPoint();
    QHelpEvent help(QEvent::ToolTip, corner, paths().mapToGlobal(corner));
    QApplication::sendEvent(&paths(), &help);
    EXPECT_TRUE(QToolTip::text().contains("frame of M1")) << QToolTip::text().toStdString();
    QTest::keyClick(&window, Qt::Key_Z, Qt::ControlModifier);
    ASSERT_TRUE(QTest::qWaitFor([&] { return markOf() != app::Mark::Wrong && markOf() != app::Mark::Stale; }, 60000));
}

} // namespace
} // namespace ts
