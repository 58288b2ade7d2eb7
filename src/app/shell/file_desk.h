#pragma once
// Everything that goes to files and comes from them: dossier, parts list, report, drawings, prints. Asks a person where
// it must (asker.h).

#include "app/document/document.h"
#include "app/document/safe_keeper.h"
#include "app/document/study_book.h"
#include "app/frame/place.h"
#include "app/settings/settings.h"
#include "app/shell/asker.h"

namespace ts::app {

class ReportWriter;

class FileDesk : public QObject {
    Q_OBJECT
public:
    /// `drawingShown`: which drawing stands on the place in view, or was last on one.
    FileDesk(Document& document, SafeKeeper& keeper, StudyBook& book, Settings& settings,
        std::function<Place::Drawing()> drawingShown, QObject* parent);
    void setAsker(Asker& asker) { m_asker = &asker; }
    std::vector<ActionSpec> actions();

    /// False with a message if the file cannot be used; then nothing changes.
    bool open(const QString& path);
    bool saveTo(const QString& path);
    /// Work that a program left that is gone, one after the other; what is opened belongs to its file and is not saved.
    void offerLeftovers();
    /// What is not saved may be lost, or was saved just now.
    bool mayLeave();
    /// In the background; `said` tells when it is done.
    void writeReport(const QString& path);
    const ReportWriter& reportWriter() const { return *m_reportWriter; }
    /// The drawing that is shown as SVG, or both drawings as PDF, by the name's end.
    bool exportDrawing(const QString& path);

signals:
    /// Another file's circuit is to run beside the one that is open.
    void besideWanted(const ts::Circuit& circuit, const QString& name);
    void said(const QString& text);

private:
    void askAndOpen();
    bool askAndSave();
    bool mayReplace(const QString& path);
    void remember(const QString& path);
    void askForEarlierSave();
    void askAndAddParts();
    void askAndReport();
    void askAndExport();
    void askAndExportSkyline();
    void askAndWriteSheet();
    void askAndPutBeside();
    void askAndPrint();
    QString suggestion(const QString& ending) const;
    bool tell(const Error& error);

    Document& m_document;
    SafeKeeper& m_keeper;
    StudyBook& m_book;
    Settings& m_settings;
    std::function<Place::Drawing()> m_drawingShown;
    Asker* m_asker = nullptr;
    ReportWriter* m_reportWriter;
};

} // namespace ts::app
