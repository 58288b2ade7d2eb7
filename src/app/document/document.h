#pragma once
// The open dossier: newest snapshot, undo history, file. Places ask for edits and redraw from the snapshot.
// The record (log) and the id counter stand beside the history and are never undone.

#include "core/io/dossier_file.h"

#include <QObject>
#include <QUndoStack>

#include <functional>
#include <optional>

namespace ts::app {

class Document : public QObject {
    Q_OBJECT
public:
    explicit Document(io::FileOps& files, QObject* parent = nullptr);

    const Dossier& dossier() const { return *m_snapshot; }
    Snapshot snapshot() const { return m_snapshot; }
    QUndoStack& history() { return m_history; }
    const QString& path() const { return m_path; }
    bool isModified() const { return !m_history.isClean() || m_rest.record.size() != m_savedEntries; }

    /// Replaces everything by a file's content; on failure nothing changes.
    Expected<void> load(const QString& path);
    /// Replaces everything by a new file that has not been saved yet.
    void startWith(DossierFile file);
    /// The same for work that belongs to a file: one step of undo leads back to what the file holds, if it loads.
    void recover(DossierFile file, const QString& path, const QString& label);
    /// Safe replacement; on failure the document stays modified. Refused for the own file while it is read only.
    Expected<void> save(const QString& path);
    /// The file on the disk is not the one that was loaded or saved here last: somebody else wrote it.
    bool isChangedOnDisk() const;
    /// Somebody else has it: every edit is refused with this until it is lifted, saving to another name is not.
    void setReadOnly(std::optional<Message> why);
    const std::optional<Message>& readOnly() const { return m_readOnly; }

    /// Writes what is open to another file without becoming that file.
    Expected<void> writeCopy(const QString& path) const;

    using Edit = std::function<Expected<Dossier>(const Dossier&)>;
    /// Applies an edit as one step of undo; steps with the same non-empty gesture merge into one. A refused edit
    /// changes nothing and is reported by `refused`.
    bool edit(const QString& label, const Edit& change, const QString& gesture = {});

    using FileEdit = std::function<Expected<DossierFile>(const DossierFile&)>;
    /// The same for edits that give out ids. The record does not follow them.
    bool editFile(const QString& label, const FileEdit& change, const QString& gesture = {});
    const std::vector<RecordEntry>& record() const { return m_rest.record; }
    /// Adds an entry, which nothing takes back. Fails with Refused while read only, else as record::nextEntry does.
    Expected<void> addToRecord(RecordEntry entry);
    /// What such an edit would be given: the newest dossier with the counter that keeps ids from being reused.
    DossierFile file() const;

signals:
    void changed(); ///< another snapshot
    void loaded(); ///< another file: forget runs, selections, probes
    void recorded(); ///< the record has another entry
    void saved(); ///< under the path that it has now
    void readOnlyChanged();
    void refused(const ts::Error& error);

private:
    friend class SnapshotCommand;
    void setSnapshot(Snapshot snapshot);
    void take(DossierFile file, const QString& path);
    std::optional<std::string> textOnDisk(const QString& path) const;
    void push(Dossier after, const QString& label, const QString& gesture);

    io::FileOps& m_files;
    Snapshot m_snapshot = std::make_shared<Dossier>();
    DossierFile m_rest; ///< record and next id; its dossier is not used
    std::size_t m_savedEntries = 0; ///< of the record, on the disk
    QUndoStack m_history;
    QString m_path;
    std::optional<std::string> m_onDisk; ///< its text as it was loaded or saved, as a hash; none: nothing was
    std::optional<Message> m_readOnly;
};

} // namespace ts::app
