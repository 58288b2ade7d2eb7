#include "app/shell/report_writer.h"

#include "app/places/bench/habit_looks.h"
#include "app/words/words.h"
#include "core/analysis/analysis.h"
#include "core/checks/check.h"
#include "core/diagram/control_layout.h"
#include "core/diagram/power_layout.h"
#include "core/io/dossier_file.h"
#include "core/studies/working_out.h"
#include "print/report_pages.h"
#include "report/report.h"
#include "wording/path_words.h"

namespace ts::app {
namespace {

/// Skyline, shares and curves of every function, and both drawings, after the text.
Expected<void> savedPdf(
    const QString& path, const ReportSources& sources, const Results& results, const std::string& html)
{
    const Dossier& dossier = *sources.of;
    const auto drawings = drawingsOf(dossier.circuit, sources.habits);
    if (!drawings)
        return Unexpected{drawings.error()};
    std::vector<print::TitledFigure> figures{
        {words::word("report.skyline"), wording::skylineFigure(dossier, results, 900, 560)}};
    const auto levels = results.find(kLevels);
    for (std::size_t k = 0; k < dossier.functions.size(); ++k) {
        const SafetyFunction& f = dossier.functions[k];
        const QString name = QString::fromStdString(f.name) + QStringLiteral(": ");
        if (const auto way = results.find(kPath, about(f.id)))
            figures.push_back({name + words::word("path.heading"),
                wording::pathFigure(dossier, f, levels->functions[k], *way, results.find(kBuilt, about(f.id)).get())});
        figures.push_back({name + words::word("shares.heading"), wording::sharesFigure(levels->functions[k].level)});
        figures.push_back({name + words::word("curves.heading"), wording::curvesFigure(levels->functions[k].level)});
    }
    if (!print::writeReportPdf(path, QString::fromStdString(html), figures, *drawings, sources.foot, paperTheme()))
        return failure(ErrorCode::File, message("file.cannot_write", {path.toStdString(), std::string("PDF")}));
    return {};
}

/// What is not known of the dossier as it is, is worked out before if it is quick: a report must not carry an older
/// result.
Expected<void> saved(const QString& path, const ReportSources& sources, const std::stop_token& stop)
{
    Results results = sources.known;
    if (auto done = workOut(*sources.of, {}, results, stop); !done)
        return done;
    results.put(kChecks.id, {}, Value::of(checked(*sources.of, results)));
    const auto html = report::reportHtml(*sources.of, results, sources.record);
    if (!html)
        return Unexpected{html.error()};
    return path.endsWith(QStringLiteral(".pdf"), Qt::CaseInsensitive) ? savedPdf(path, sources, results, *html)
                                                                      : io::saveText(path.toStdString(), *html);
}

} // namespace

Expected<std::vector<print::Drawing>> drawingsOf(const Circuit& circuit, const wording::Habits& habits)
{
    const auto graph = diagram::wiredGraph(circuit);
    if (!graph)
        return Unexpected{graph.error()};
    return std::vector<print::Drawing>{
        {words::word("report.power"), withPhaseNames(diagram::powerDrawing(*graph), habits)},
        {words::word("report.control"), diagram::controlDrawing(*graph, habits.school).scene}};
}

const Theme& paperTheme()
{
    static const Theme theme;
    return theme;
}

ReportWriter::ReportWriter(QObject* parent)
    : QObject(parent)
    , m_work(this)
{
}

void ReportWriter::write(const QString& path, ReportSources sources)
{
    paperTheme(); // its fonts are made in the window's thread
    const auto shared = std::make_shared<const ReportSources>(std::move(sources));
    m_work.run([path, shared](std::stop_token stop) { return std::optional(saved(path, *shared, stop)); },
        [this, path](const std::shared_ptr<const Expected<void>>& done) {
            if (*done)
                emit written(path);
            else
                emit failed(done->error());
        });
}

} // namespace ts::app
