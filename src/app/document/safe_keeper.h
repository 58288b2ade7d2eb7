#pragma once
// Work is never lost: after each edit a copy of what is not saved lies in a folder of the person's own, written in the
// background; what a program that is gone has left there is offered at the next start. One window at a time has a
// file: another one reads. The last saves of each file are kept.

#include "app/document/document.h"
#include "core/io/recovery.h"

#include <QDateTime>
#include <QTimer>

#include <future>
#include <memory>
#include <string>
#include <vector>

class QLockFile;

namespace ts::app {

/// Work of a program that is gone.
struct Leftover {
    QString place; ///< the copy's path
    io::RecoveryCopy copy;
};

/// A save that is kept.
struct KeptSave {
    QString place;
    QDateTime when;
};

class SafeKeeper : public QObject {
    Q_OBJECT
public:
    static constexpr int kKeptSaves = 10;

    /// Folder: empty, and nothing is kept or locked.
    SafeKeeper(Document& document, io::FileOps& files, QString folder, QObject* parent = nullptr);
    ~SafeKeeper() override; ///< the person has left: what is not saved was meant to go

    /// Newest first. What cannot be read stays where it is and is not among them.
    std::vector<Leftover> leftovers();
    /// It is open now, or not wanted.
    void forget(const Leftover& leftover);
    /// Saves of the open file, newest first.
    std::vector<KeptSave> keptSaves() const;
    /// What lies under the open file's name now is kept among the saves before something else takes its place.
    void keepWhatIsThere();
    /// The copy of the last edit is on the disk.
    void finish();
    /// The copy before the last takes so long that the last edits are in none yet.
    bool isBehind() const;

signals:
    /// The copy could not be written: said once until it can be again.
    void troubled(const ts::Error& error);
    /// The file that another window had is this one's now.
    void takenOver();

private:
    void takeChange();
    void takeSaved();
    void claim();
    void retryClaim();
    void keepSave(const QString& path);
    void writeCopy();
    void takeWritten();
    void removeCopy();
    QString copyPath() const;
    QString foldersOfSaves(const QString& path) const;

    Document& m_document;
    io::FileOps& m_files;
    QString m_folder, m_name; ///< of this program's copy, unlike any other's
    std::unique_ptr<QLockFile> m_owner; ///< says that the copy's program lives
    std::unique_ptr<QLockFile> m_claim; ///< on the open file
    std::string m_claimed; ///< where it really lies
    std::future<Expected<void>> m_write;
    QTimer m_again, m_retry;
    int m_edits = 0;
    bool m_hasCopy = false, m_isTroubled = false;
};

} // namespace ts::app
