// What leaves the window on paper: SVG, PDF, print; and the habits that redraw the window.

#include "app/places/bench/wire_list_view.h"
#include "app/shell/report_writer.h"
#include "print/drawing_pages.h"
#include "tests/support/window_rig.h"

#include <QFile>
#include <QProcess>
#include <QXmlStreamReader>

namespace ts {
namespace {

class Paper : public test::WindowTest {
protected:
    QTemporaryDir folder;
    QByteArray written(const QString& name)
    {
        QFile file(folder.filePath(name));
        EXPECT_TRUE(file.open(QIODevice::ReadOnly)) << name.toStdString();
        return file.readAll();
    }
};

/// Every tag that is drawn can be read back from the file, which is well-formed.
TEST_F(Paper, SvgHoldsWhatIsShown)
{
    asker->save = folder.filePath("a.svg");
    QTest::keyClick(&window, Qt::Key_E, Qt::ControlModifier);
    const QByteArray svg = written("a.svg");
    QXmlStreamReader xml(svg);
    QSet<QString> texts;
    while (!xml.atEnd())
        if (xml.readNext() == QXmlStreamReader::StartElement && xml.name() == QLatin1String("text"))
            texts.insert(xml.readElementText());
    EXPECT_FALSE(xml.hasError()) << xml.errorString().toStdString();
    for (const auto& s : window.bench().paths().scene().symbols)
        if (s.device && s.kind != diagram::SymbolKind::Port)
            EXPECT_TRUE(
                texts.contains(QString::fromStdString(window.document().dossier().circuit.device(s.device)->tag)));
    window.bench().showPower(true);
    asker->save = folder.filePath("b.svg");
    QTest::keyClick(&window, Qt::Key_E, Qt::ControlModifier);
    EXPECT_NE(written("b.svg"), svg);
}

TEST_F(Paper, PdfAndPrintHaveAPageForEachDrawing)
{
    asker->save = folder.filePath("a.pdf");
    QTest::keyClick(&window, Qt::Key_E, Qt::ControlModifier);
    const QByteArray pdf = written("a.pdf");
    EXPECT_TRUE(pdf.startsWith("%PDF"));
    EXPECT_EQ(pdf.count("/Type /Page\n") + pdf.count("/Type /Page "), 2);
    asker->printTo = folder.filePath("printed.pdf");
    QTest::keyClick(&window, Qt::Key_P, Qt::ControlModifier);
    EXPECT_TRUE(written("printed.pdf").startsWith("%PDF"));
}

/// The text of a PDF as another program reads it.
QString textOf(const QString& pdf)
{
    QProcess reader;
    reader.start("pdftotext", {"-layout", pdf, "-"});
    EXPECT_TRUE(reader.waitForFinished(20000)) << "poppler-utils are missing";
    return QString::fromUtf8(reader.readAllStandardOutput());
}

TEST_F(Paper, TheReportIsAPdfWithTextFiguresAndDrawings)
{
    const QString path = folder.filePath("report.pdf");
    window.desk().writeReport(path);
    ASSERT_TRUE(QTest::qWaitFor([this] { return !window.desk().reportWriter().isBusy(); }, 60000));
    const QString all = textOf(path);
    const QString words = all.simplified();
    for (const char* expected : {"What the categories demand", "From the demand to rest", "S2 F1 P2", "MTTFd",
             "dangerous failures per hour", "page 1", "neither the text of the standards"})
        EXPECT_TRUE(words.contains(QLatin1String(expected))) << expected;
    EXPECT_FALSE(words.contains("<svg")) << "no markup is left in the text";
    EXPECT_GE(all.count(QChar::fromLatin1('\f')), 6) << "pages";
}

TEST_F(Paper, WhatCannotBeWrittenIsSaid)
{
    asker->save = folder.filePath("no/such/folder/a.svg");
    QTest::keyClick(&window, Qt::Key_E, Qt::ControlModifier);
    ASSERT_EQ(asker->told.size(), 1);
    EXPECT_TRUE(asker->told.front().contains("no/such/folder"));
    asker->save = folder.filePath("no/such/folder/a.pdf");
    QTest::keyClick(&window, Qt::Key_E, Qt::ControlModifier);
    EXPECT_EQ(asker->told.size(), 2);
}

TEST(Pages, LargeDrawingsGoOnOverSeveralSmallOnesTakeOne)
{
    diagram::Scene scene;
    scene.width = 700;
    scene.height = 400;
    EXPECT_EQ(print::pagesFor(scene, 420, 297), 1);
    scene.width = 6000; // at 0.65: 1032 mm, 400 mm a page
    EXPECT_EQ(print::pagesFor(scene, 420, 297), 3);
    scene.height = 3000; // 516 mm, 265 mm a page
    EXPECT_EQ(print::pagesFor(scene, 420, 297), 6);
}

TEST_F(Paper, HabitsRedrawDrawingListAndDoor)
{
    const auto scene = [this]() -> const diagram::Scene& { return window.bench().paths().scene(); };
    const double width = scene().width;
    window.actionTable().action("habit.ladder")->trigger();
    EXPECT_NE(scene().width, width);
    for (const auto& s : scene().symbols)
        EXPECT_EQ(s.top.y, s.bottom.y) << "rungs lie";
    EXPECT_TRUE(window.actionTable().action("habit.ladder")->isChecked());
    EXPECT_FALSE(window.actionTable().action("habit.current_paths")->isChecked());
    auto& wires = window.bench().wires();
    const auto size = [&] { return wires.rows().index(0, app::WireModel::Area).data().toString(); };
    EXPECT_TRUE(size().contains("mm")) << size().toStdString();
    window.actionTable().action("habit.awg")->trigger();
    EXPECT_TRUE(size().contains("AWG")) << size().toStdString();
    window.bench().showPower(true);
    const auto marked = [&](const char* text) {
        return std::any_of(scene().texts.begin(), scene().texts.end(),
            [&](const auto& t) { return t.text == text && t.style == diagram::TextStyle::Marking; });
    };
    EXPECT_TRUE(marked("L1"));
    window.actionTable().action("habit.ryb")->trigger();
    EXPECT_TRUE(marked("R"));
    EXPECT_FALSE(marked("L1"));
    window.bench().find({window.document().dossier().circuit.device("M1")->id, "", {}});
    window.actionTable().action("habit.hp")->trigger();
    QStringList texts;
    for (QLabel* l : find("inspector")->findChildren<QLabel*>())
        texts << l->text();
    EXPECT_TRUE(texts.join('\n').contains(" hp")) << texts.join('\n').toStdString();
    window.actionTable().action("habit.lamps_red")->trigger();
    startMachine();
    EXPECT_TRUE(isLit("P1")) << "lamps go on working";
    for (const char* id : {"habit.current_paths", "habit.mm2", "habit.l123", "habit.kw", "habit.lamps_written"})
        window.actionTable().action(id)->trigger();
}

} // namespace
} // namespace ts
