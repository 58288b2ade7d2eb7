#include "app/shell/file_desk.h"

#include "app/shell/report_writer.h"
#include "app/words/words.h"
#include "core/edit/circuit_edits.h"
#include "core/figures/figure_svg.h"
#include "core/figures/scene_svg.h"
#include "core/io/dossier_file.h"
#include "core/io/lists.h"
#include "core/measuring/occasions.h"
#include "core/record/record.h"
#include "core/results/study_ids.h"
#include "report/paper_sheet.h"

#include <QDate>
#include <QFileInfo>
#include <QPrinter>

namespace ts::app {
namespace {

print::PageFoot footOf(const Document& document)
{
    const Machine& m = document.dossier().machine;
    QString name = QString::fromStdString(m.name);
    for (const RecordEntry& e : record::bypassesInForce(document.record()))
        name += FileDesk::tr("  BRIDGED: %1 - %2")
                    .arg(QString::fromStdString(e.bypass->from), QString::fromStdString(e.bypass->to));
    return {name, QString::fromStdString(m.site), QFileInfo(document.path()).fileName(),
        QDate::currentDate().toString(Qt::ISODate)};
}

} // namespace

FileDesk::FileDesk(Document& document, SafeKeeper& keeper, StudyBook& book, Settings& settings,
    std::function<Place::Drawing()> drawingShown, QObject* parent)
    : QObject(parent)
    , m_document(document)
    , m_keeper(keeper)
    , m_book(book)
    , m_settings(settings)
    , m_drawingShown(std::move(drawingShown))
    , m_reportWriter(new ReportWriter(this))
{
    connect(m_reportWriter, &ReportWriter::written, this,
        [this](const QString& path) { emit said(tr("Report written to %1").arg(path)); });
    connect(&keeper, &SafeKeeper::troubled, this,
        [this](const Error& e) { emit said(tr("No copy of unsaved work is kept: %1").arg(words::sentence(e))); });
    connect(&keeper, &SafeKeeper::takenOver, this,
        [this] { emit said(tr("The other window has let go of this file: it can be changed here now")); });
    connect(m_reportWriter, &ReportWriter::failed, this, [this](const Error& e) {
        emit said(tr("The report was not written"));
        tell(e);
    });
}

std::vector<ActionSpec> FileDesk::actions()
{
    const auto with = [this] { return !m_document.dossier().circuit.devices.empty(); };
    const auto add = [](const char* id, const QString& text, const QKeySequence& key, std::function<bool()> isPossible,
                         std::function<void()> run) {
        return ActionSpec{QLatin1String(id), text, key, true, std::move(isPossible), std::move(run)};
    };
    return {
        add("file.open", tr("Open ..."), QKeySequence::Open, {}, [this] { askAndOpen(); }),
        add(
            "file.save", tr("Save"), QKeySequence::Save, [this, with] { return with() && m_document.isModified(); },
            [this] { m_document.path().isEmpty() ? askAndSave() : saveTo(m_document.path()); }),
        add("file.save_as", tr("Save as ..."), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_S), with,
            [this] { askAndSave(); }),
        add(
            "file.earlier", tr("Earlier saves ..."), {}, [this] { return !m_keeper.keptSaves().empty(); },
            [this] { askForEarlierSave(); }),
        add("file.parts", tr("Add parts list ..."), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_P), with,
            [this] { askAndAddParts(); }),
        add("file.report", tr("Write report ..."), QKeySequence(Qt::CTRL | Qt::Key_R), with,
            [this] { askAndReport(); }),
        add("file.export", tr("Export drawing ..."), QKeySequence(Qt::CTRL | Qt::Key_E), with,
            [this] { askAndExport(); }),
        add("file.skyline", tr("Export skyline ..."), {}, with, [this] { askAndExportSkyline(); }),
        add("file.sheet", tr("Part of the tests on paper ..."), {}, with, [this] { askAndWriteSheet(); }),
        add("file.beside", tr("Run another circuit beside it ..."), QKeySequence(Qt::SHIFT | Qt::Key_F8), with,
            [this] { askAndPutBeside(); }),
        add("file.print", tr("Print drawings ..."), QKeySequence::Print, with, [this] { askAndPrint(); }),
    };
}

/// Always false, so that who failed can return it.
bool FileDesk::tell(const Error& error)
{
    m_asker->tell(words::sentence(error));
    return false;
}

QString FileDesk::suggestion(const QString& ending) const
{
    const QFileInfo file(m_document.path());
    return file.absolutePath() + "/" + file.completeBaseName() + ending;
}

bool FileDesk::open(const QString& path)
{
    if (const auto loaded = m_document.load(path); !loaded)
        return tell(loaded.error());
    remember(path);
    return true;
}

void FileDesk::remember(const QString& path)
{
    m_settings.lastFolder = QFileInfo(path).absolutePath();
    m_settings.opened(QFileInfo(path).absoluteFilePath());
}

bool FileDesk::saveTo(const QString& path)
{
    if (!mayReplace(path))
        return false;
    const auto saved = m_document.save(path);
    if (!saved)
        return tell(saved.error());
    remember(path);
    return true;
}

/// What somebody else wrote under that name since it was opened is not replaced in silence.
bool FileDesk::mayReplace(const QString& path)
{
    if (path != m_document.path() || !m_document.isChangedOnDisk())
        return true;
    switch (m_asker->aboutForeignChange(QFileInfo(path).fileName())) {
    case Asker::Foreign::Overwrite:
        m_keeper.keepWhatIsThere();
        return true;
    case Asker::Foreign::SaveElsewhere:
        askAndSave();
        return false;
    case Asker::Foreign::Cancel:
        return false;
    }
    return false;
}

void FileDesk::offerLeftovers()
{
    for (const Leftover& found : m_keeper.leftovers()) {
        const io::RecoveryCopy& copy = found.copy;
        const QString count = copy.edits == 1 ? tr("one change was not saved")
                                              : tr("%1 changes were not saved").arg(copy.edits);
        const QString what = tr("%1: %2, the last of them \"%3\", %4.\nFile: %5")
                                 .arg(QString::fromStdString(copy.file.dossier.machine.name), count,
                                     QString::fromStdString(copy.lastEdit), QString::fromStdString(copy.when),
                                     copy.path.empty() ? tr("none yet") : QString::fromStdString(copy.path));
        switch (m_asker->aboutLeftover(what)) {
        case Asker::Found::Open:
            if (!mayLeave())
                return;
            m_document.recover(copy.file, QString::fromStdString(copy.path), tr("Work that was not saved"));
            m_keeper.forget(found);
            return; // one machine at a time: the others are asked for at the next start
        case Asker::Found::Discard:
            m_keeper.forget(found);
            break;
        case Asker::Found::Later:
            break;
        }
    }
}

/// An earlier save becomes what is open, as one step of undo; the file on the disk stays until it is saved.
void FileDesk::askForEarlierSave()
{
    const auto saves = m_keeper.keptSaves();
    QStringList list;
    for (const KeptSave& save : saves)
        list << save.when.toString(QStringLiteral("yyyy-MM-dd HH:mm:ss.zzz"));
    const int k = m_asker->choose(tr("Which save of this file? It becomes what is open here; undo leads back."), list);
    if (k < 0)
        return;
    const KeptSave& save = saves[static_cast<std::size_t>(k)];
    const auto file = io::loadDossier(save.place.toStdString());
    if (!file) {
        tell(file.error());
        return;
    }
    m_document.editFile(
        tr("Back to the save of %1").arg(list[k]), [&](const DossierFile& now) -> Expected<DossierFile> {
            DossierFile back = now;
            back.dossier = file->dossier;
            back.nextId = std::max(now.nextId, file->nextId);
            return back;
        });
}

bool FileDesk::mayLeave()
{
    if (!m_document.isModified())
        return true;
    switch (m_asker->aboutUnsaved(QString::fromStdString(m_document.dossier().machine.name))) {
    case Asker::Unsaved::Save:
        return m_document.path().isEmpty() ? askAndSave() : saveTo(m_document.path());
    case Asker::Unsaved::Discard:
        return true;
    case Asker::Unsaved::Cancel:
        return false;
    }
    return false;
}

void FileDesk::askAndOpen()
{
    if (!mayLeave())
        return;
    const QString path = m_asker->fileToOpen(m_settings.lastFolder, tr("Dossier (*.sentry)"));
    if (!path.isEmpty())
        open(path);
}

bool FileDesk::askAndSave()
{
    const QString path = m_asker->fileToSave(m_document.path(), tr("Dossier (*.sentry)"));
    return !path.isEmpty() && saveTo(path);
}

namespace {

QString howRead(QString done, const std::vector<io::ListRemark>& remarks)
{
    for (const io::ListRemark& r : remarks)
        done += QStringLiteral("; ") + words::sentence(r.message);
    return done;
}

} // namespace

void FileDesk::askAndAddParts()
{
    const QString path = m_asker->fileToOpen(m_settings.lastFolder, tr("Parts list (*.csv *.json)"));
    if (path.isEmpty())
        return;
    const auto parts = io::loadParts(path.toStdString());
    if (!parts.value) {
        constexpr std::size_t kMostTold = 20;
        QStringList all;
        for (std::size_t k = 0; k < std::min(kMostTold, parts.errors.size()); ++k)
            all << words::sentence(parts.errors[k]);
        if (parts.errors.size() > kMostTold)
            all << tr("... and %1 more").arg(parts.errors.size() - kMostTold);
        m_asker->tell(all.join('\n'));
        return;
    }
    if (m_document.edit(tr("Add parts list"), [&](const Dossier& d) { return edit::withParts(d, *parts.value); }))
        emit said(howRead(tr("%1 parts added from %2").arg(parts.value->size()).arg(path), parts.remarks));
}

void FileDesk::askAndReport()
{
    const QString path = m_asker->fileToSave(
        suggestion(QStringLiteral(".html")), tr("Report (*.html);;Report (*.pdf)"));
    if (!path.isEmpty())
        writeReport(path);
}

void FileDesk::writeReport(const QString& path)
{
    emit said(tr("Writing the report ..."));
    m_reportWriter->write(
        path, {m_document.snapshot(), m_document.record(), m_book.results(), m_settings.habits, footOf(m_document)});
}

void FileDesk::askAndExport()
{
    const QString path = m_asker->fileToSave(
        suggestion(QStringLiteral(".pdf")), tr("Both drawings (*.pdf);;The drawing shown (*.svg)"));
    if (!path.isEmpty())
        exportDrawing(path);
}

void FileDesk::askAndExportSkyline()
{
    const QString path = m_asker->fileToSave(suggestion(QStringLiteral("_skyline.svg")), tr("Skyline (*.svg)"));
    if (path.isEmpty())
        return;
    const Dossier& dossier = m_document.dossier();
    const std::string title = dossier.machine.name + ": " + words::word("report.skyline").toStdString();
    const figures::Figure figure = wording::skylineFigure(dossier, m_book.results(), 1000, 640);
    if (const auto saved = io::saveText(path.toStdString(), figures::figureSvgFile(figure, title)))
        emit said(tr("Skyline written to %1").arg(path));
    else
        tell(saved.error());
}

/// What comes up again and again: emergency stops, the feeder, a device that was replaced.
void FileDesk::askAndWriteSheet()
{
    using measuring::Occasion;
    const auto plan = m_book.fresh(kTests);
    if (!plan)
        return emit said(tr("The plan of tests comes first: make it on the page Tests"));
    const Dossier& dossier = m_document.dossier();
    std::vector<std::pair<Occasion, std::string>> pages{{Occasion::EmergencyStops, ""}, {Occasion::Feeder, ""}};
    for (const Device& d : dossier.circuit.devices)
        pages.emplace_back(Occasion::Replaced, d.tag);
    std::erase_if(pages, [&](const auto& p) { return !stepsFor(p.first, *plan, dossier.circuit, p.second); });
    QStringList names;
    for (const auto& [occasion, tag] : pages)
        names << words::sentence(message("sheet." + std::string(wordOf(occasion)), {tag}));
    const int chosen = m_asker->choose(tr("Which part of the tests?"), names);
    if (chosen < 0)
        return;
    const QString path = m_asker->fileToSave(suggestion(QStringLiteral("_sheet.html")), tr("Page (*.html)"));
    if (path.isEmpty())
        return;
    const auto& [occasion, tag] = pages[static_cast<std::size_t>(chosen)];
    const auto places = stepsFor(occasion, *plan, dossier.circuit, tag);
    if (const auto saved = io::saveText(path.toStdString(), report::paperSheet(dossier, *plan, *places, occasion, tag)))
        emit said(tr("%1 steps written to %2").arg(places->size()).arg(path));
    else
        tell(saved.error());
}

void FileDesk::askAndPutBeside()
{
    const QString path = m_asker->fileToOpen(QFileInfo(m_document.path()).absolutePath(), tr("Dossiers (*.sentry)"));
    if (path.isEmpty())
        return;
    const auto file = io::loadDossier(path.toStdString());
    if (file)
        emit besideWanted(file->dossier.circuit, QString::fromStdString(file->dossier.machine.name));
    else
        tell(file.error());
}

bool FileDesk::exportDrawing(const QString& path)
{
    const auto drawings = drawingsOf(m_document.dossier().circuit, m_settings.habits);
    if (!drawings)
        return tell(drawings.error());
    if (path.endsWith(QStringLiteral(".svg"), Qt::CaseInsensitive)) {
        const print::Drawing& shown = (*drawings)[m_drawingShown() == Place::Drawing::Power ? 0 : 1];
        const std::string title = m_document.dossier().machine.name + ": " + shown.title.toStdString();
        if (const auto saved = io::saveText(path.toStdString(), figures::sceneSvgFile(shown.scene, title)); !saved)
            return tell(saved.error());
    } else if (!print::writePdf(path, *drawings, footOf(m_document), paperTheme())) {
        m_asker->tell(tr("%1 cannot be written").arg(path));
        return false;
    }
    emit said(tr("Drawing written to %1").arg(path));
    return true;
}

void FileDesk::askAndPrint()
{
    const auto drawings = drawingsOf(m_document.dossier().circuit, m_settings.habits);
    if (!drawings) {
        tell(drawings.error());
        return;
    }
    QPrinter printer(QPrinter::HighResolution);
    printer.setPageOrientation(QPageLayout::Landscape);
    if (!m_asker->choosePrinter(printer))
        return;
    if (!print::paintDrawings(printer, *drawings, footOf(m_document), paperTheme()))
        m_asker->tell(tr("The printer takes nothing"));
}

} // namespace ts::app
