// What leaves the window as a document: report, drawings, prints. Part of MainWindow, kept apart because it changes
// with documents and not with the frame.

#include "app/places/bench/bench_place.h"
#include "app/places/faults/faults_place.h"
#include "app/places/skyline/skyline_place.h"
#include "app/shell/ledge.h"
#include "app/shell/main_window.h"
#include "app/shell/report_writer.h"
#include "core/report/figure_svg.h"
#include "core/report/scene_svg.h"
#include "wording/wording.h"

#include <QDate>
#include <QFileInfo>
#include <QPrinter>

namespace ts::app {
namespace {

print::PageFoot footOf(const Document& document)
{
    const Machine& m = document.dossier().machine;
    return {QString::fromStdString(m.name), QString::fromStdString(m.site), QFileInfo(document.path()).fileName(),
        QDate::currentDate().toString(Qt::ISODate)};
}

} // namespace

void MainWindow::askAndReport()
{
    const QFileInfo file(m_document.path());
    const QString path = m_asker->fileToSave(
        file.absolutePath() + "/" + file.completeBaseName() + ".html", tr("Report (*.html);;Report (*.pdf)"));
    if (!path.isEmpty())
        writeReport(path);
}

void MainWindow::writeReport(const QString& path)
{
    m_ledge->say(tr("Writing the report ..."));
    m_reportWriter->write(path, {m_document.snapshot(), m_faults->tried(), m_settings.habits, footOf(m_document)});
}

void MainWindow::askAndExport()
{
    const QFileInfo file(m_document.path());
    const QString path = m_asker->fileToSave(file.absolutePath() + "/" + file.completeBaseName() + ".pdf",
        tr("Both drawings (*.pdf);;The drawing shown (*.svg)"));
    if (!path.isEmpty())
        exportDrawing(path);
}

void MainWindow::askAndExportSkyline()
{
    const QFileInfo file(m_document.path());
    const QString path = m_asker->fileToSave(
        file.absolutePath() + "/" + file.completeBaseName() + "_skyline.svg", tr("Skyline (*.svg)"));
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
