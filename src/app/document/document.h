#pragma once
// The open dossier: newest snapshot, undo history, file. Places ask for edits and redraw from the snapshot.
// The record (log) and the id counter stand beside the history and are never undone.

#include "core/io/dossier_file.h"

#include <QObject>
#include <QUndoStack>

#include <functional>

namespace ts::app {

class Document : public QObject {
    Q_OBJECT
public:
    explicit Document(io::FileOps& files, QObject* parent = nullptr);

    const Dossier& dossier() const { return *m_snapshot; }
    Snapshot snapshot() const { return m_snapshot; }
    QUndoStack& history() { return m_history; }
    const QString& path() const { return m_path; }
    bool isModified() const { return !m_history.isClean(); }

    /// Replaces everything by a file's content; on failure nothing changes.
    Expected<void> load(const QString& path);
    /// Replaces everything by a new file that has not been saved yet.
    void startWith(DossierFile file);
    /// Safe replacement; on failure the document stays modified.
    Expected<void> save(const QString& path);

    /// Writes what is open to another file without becoming that file.
    Expected<void> writeCopy(const QString& path) const;

    using Edit = std::function<Expected<Dossier>(const Dossier&)>;
    /// Applies an edit as one step of undo; steps with the same non-empty gesture merge into one. A refused edit
    /// changes nothing and is reported by `refused`.
    bool edit(const QString& label, const Edit& change, const QString& gesture = {});

    using FileEdit = std::function<Expected<DossierFile>(const DossierFile&)>;
    /// The same for edits that give out ids. The record does not follow them.
    bool editFile(const QString& label, const FileEdit& change, const QString& gesture = {});
    /// What such an edit would be given: the newest dossier with the counter that keeps ids from being reused.
    DossierFile file() const;

signals:
    void changed(); ///< another snapshot
    void loaded(); ///< another file: forget runs, selections, probes
    void refused(const ts::Error& error);

private:
    friend class SnapshotCommand;
    void setSnapshot(Snapshot snapshot);
    void take(DossierFile file, const QString& path);
    void push(Dossier after, const QString& label, const QString& gesture);

    io::FileOps& m_files;
    Snapshot m_snapshot = std::make_shared<Dossier>();
    DossierFile m_rest; ///< record and next id; its dossier is not used
    QUndoStack m_history;
    QString m_path;
};

} // namespace ts::app
