// What leaves the window as a document: report, drawings, prints. Part of MainWindow, kept apart because it changes with
// documents and not with the frame.

#include "app/places/bench/bench_place.h"
#include "app/places/bench/habit_looks.h"
#include "app/places/faults/faults_place.h"
#include "app/shell/ledge.h"
#include "app/places/skyline/skyline_place.h"
#include "app/shell/main_window.h"
#include "core/diagram/control_layout.h"
#include "core/diagram/power_layout.h"
#include "core/report/figure_svg.h"
#include "core/report/report.h"
#include "core/report/scene_svg.h"
#include "print/report_pages.h"
#include "wording/speech.h"
#include "wording/wording.h"

#include <QDate>
#include <QFileInfo>
#include <QPrinter>

namespace ts::app {
namespace {

/// Paper is light, whatever the window is.
const Theme& paperTheme()
{
    static const Theme theme;
    return theme;
}

Expected<std::vector<print::Drawing>> drawingsOf(const Circuit& circuit, const wording::Habits& habits)
{
    const auto graph = diagram::wiredGraph(circuit);
    if (!graph)
        return Unexpected{graph.error()};
    return std::vector<print::Drawing>{{wording::word("report.power"), withPhaseNames(diagram::powerDrawing(*graph), habits)},
        {wording::word("report.control"), diagram::controlDrawing(*graph, habits.school).scene}};
}

print::PageFoot footOf(const Document& document)
{
    const Machine& m = document.dossier().machine;
    return {QString::fromStdString(m.name), QString::fromStdString(m.site), QFileInfo(document.path()).fileName(), QDate::currentDate().toString(Qt::ISODate)};
}

} // namespace

void MainWindow::askAndReport()
{
    const QFileInfo file(m_document.path());
    const QString path = m_asker->fileToSave(file.absolutePath() + "/" + file.completeBaseName() + ".html", tr("Report (*.html);;Report (*.pdf)"));
    if (!path.isEmpty())
        writeReport(path);
}

bool MainWindow::writeReport(const QString& path)
{
    // The newest snapshot is analysed here and now: a report must not carry an older result.
    const auto analysis = analyse(m_document.dossier());
    const auto html = analysis ? report::reportHtml(m_document.dossier(), *analysis, wording::speech(), m_faults->tried()) : Expected<std::string>(Unexpected{analysis.error()});
    const bool isPdf = path.endsWith(QStringLiteral(".pdf"), Qt::CaseInsensitive);
    const auto saved = !html ? Expected<void>(Unexpected{html.error()}) : isPdf ? savedPdf(path, *analysis, QString::fromStdString(*html)) : io::saveText(path.toStdString(), *html);
    if (!saved) {
        m_asker->tell(wording::sentence(saved.error()));
        return false;
    }
    m_ledge->say(tr("Report written to %1").arg(path));
    return true;
}

/// Skyline, shares and curves of every function, and both drawings, after the text.
Expected<void> MainWindow::savedPdf(const QString& path, const Analysis& analysis, const QString& html) const
{
    const Dossier& dossier = m_document.dossier();
    const auto drawings = drawingsOf(dossier.circuit, m_settings.habits);
    if (!drawings)
        return Unexpected{drawings.error()};
    const Speech say = wording::speech();
    std::vector<print::TitledFigure> figures{{wording::word("report.skyline"), m_skyline->picture()}};
    for (std::size_t k = 0; k < dossier.functions.size(); ++k) {
        const QString name = QString::fromStdString(dossier.functions[k].name) + QStringLiteral(": ");
        figures.push_back({name + wording::word("shares.heading"), say.shares(analysis.functions[k].level)});
        figures.push_back({name + wording::word("curves.heading"), say.curves(analysis.functions[k].level)});
    }
    if (!print::writeReportPdf(path, html, figures, *drawings, footOf(m_document), paperTheme()))
        return failure(ErrorCode::File, message("file.cannot_write", {path.toStdString(), std::string("PDF")}));
    return {};
}

void MainWindow::askAndExport()
{
    const QFileInfo file(m_document.path());
    const QString path = m_asker->fileToSave(file.absolutePath() + "/" + file.completeBaseName() + ".pdf", tr("Both drawings (*.pdf);;The drawing shown (*.svg)"));
    if (!path.isEmpty())
        exportDrawing(path);
}

void MainWindow::askAndExportSkyline()
{
    const QFileInfo file(m_document.path());
    const QString path = m_asker->fileToSave(file.absolutePath() + "/" + file.completeBaseName() + "_skyline.svg", tr("Skyline (*.svg)"));
    if (path.isEmpty())
        return;
    const std::string title = m_document.dossier().machine.name + ": " + wording::word("report.skyline").toStdString();
    const auto saved = io::saveText(path.toStdString(), report::figureSvgFile(m_skyline->picture(), title));
    saved ? m_ledge->say(tr("Skyline written to %1").arg(path)) : m_asker->tell(wording::sentence(saved.error()));
}

bool MainWindow::exportDrawing(const QString& path)
{
    const auto drawings = drawingsOf(m_document.dossier().circuit, m_settings.habits);
    if (!drawings) {
        m_asker->tell(wording::sentence(drawings.error()));
        return false;
    }
    if (path.endsWith(QStringLiteral(".svg"), Qt::CaseInsensitive)) {
        const print::Drawing& shown = (*drawings)[m_bench->showsPower() ? 0 : 1];
        const std::string title = m_document.dossier().machine.name + ": " + shown.title.toStdString();
        if (const auto saved = io::saveText(path.toStdString(), report::sceneSvgFile(shown.scene, title)); !saved) {
            m_asker->tell(wording::sentence(saved.error()));
            return false;
        }
    } else if (!print::writePdf(path, *drawings, footOf(m_document), paperTheme())) {
        m_asker->tell(tr("%1 cannot be written").arg(path));
        return false;
    }
    m_ledge->say(tr("Drawing written to %1").arg(path));
    return true;
}

void MainWindow::askAndPrint()
{
    const auto drawings = drawingsOf(m_document.dossier().circuit, m_settings.habits);
    if (!drawings)
        return m_asker->tell(wording::sentence(drawings.error()));
    QPrinter printer(QPrinter::HighResolution);
    printer.setPageOrientation(QPageLayout::Landscape);
    if (!m_asker->choosePrinter(printer))
        return;
    if (!print::paintDrawings(printer, *drawings, footOf(m_document), paperTheme()))
        m_asker->tell(tr("The printer takes nothing"));
}

} // namespace ts::app
