#include "app/document/safe_keeper.h"

#include "core/keeping/result_store.h"

#include <QDateTime>
#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QLockFile>
#include <QUuid>

#include <algorithm>
#include <chrono>

namespace ts::app {
namespace {

constexpr int kRetryMs = 2000; ///< until a file that another window has is asked for again
constexpr std::chrono::milliseconds kPatience{250}; ///< for the copy before, so that at most one edit is not in one
const char kCopyEnd[] = ".recovery";

/// One that only a program that is gone can have left behind is broken; age says nothing.
std::unique_ptr<QLockFile> lockAt(const QString& path)
{
    auto lock = std::make_unique<QLockFile>(path);
    lock->setStaleLockTime(0);
    return lock;
}

QString ownerPath(const QString& copy)
{
    return copy.chopped(static_cast<int>(sizeof kCopyEnd) - 1) + QStringLiteral(".lock");
}

/// For its owner only: it may hold what the file's folder shows to nobody else.
bool makeFolder(const QString& path)
{
    return QDir().mkpath(path) && QFile::setPermissions(path, QFile::ReadOwner | QFile::WriteOwner | QFile::ExeOwner);
}

} // namespace

SafeKeeper::SafeKeeper(Document& document, io::FileOps& files, QString folder, QObject* parent)
    : QObject(parent)
    , m_document(document)
    , m_files(files)
    , m_folder(std::move(folder))
    , m_name(QUuid::createUuid().toString(QUuid::WithoutBraces))
{
    m_again.setSingleShot(true);
    connect(&m_again, &QTimer::timeout, this, &SafeKeeper::writeCopy);
    m_retry.setInterval(kRetryMs);
    connect(&m_retry, &QTimer::timeout, this, &SafeKeeper::retryClaim);
    connect(&document, &Document::loaded, this, &SafeKeeper::claim);
    connect(&document.history(), &QUndoStack::indexChanged, this, &SafeKeeper::takeChange); // it knows what is saved
    connect(&document, &Document::changed, this, [this] {
        if (m_document.history().index() == 0 && m_document.isModified())
            takeChange(); // begun anew, never saved
    });
    connect(&document, &Document::recorded, this, &SafeKeeper::takeChange);
    connect(&document, &Document::saved, this, &SafeKeeper::takeSaved);
    if (m_folder.isEmpty())
        return;
    if (!makeFolder(m_folder)) {
        const Message why = message(
            "file.cannot_write", {m_folder.toStdString(), tr("no folder can be made there").toStdString()});
        QMetaObject::invokeMethod(
            this,
            [this, why] {
                emit troubled({ErrorCode::File, why});
            },
            Qt::QueuedConnection);
        m_folder.clear();
        return;
    }
    m_owner = lockAt(ownerPath(copyPath()));
    (void)m_owner->tryLock(0); // a name of its own: nobody else has it
}

SafeKeeper::~SafeKeeper()
{
    removeCopy();
}

QString SafeKeeper::copyPath() const
{
    return m_folder + "/" + m_name + QLatin1String(kCopyEnd);
}

void SafeKeeper::takeChange()
{
    if (!m_document.isModified())
        return removeCopy();
    ++m_edits;
    writeCopy();
}

bool SafeKeeper::isBehind() const
{
    return m_again.isActive();
}

void SafeKeeper::writeCopy()
{
    if (m_folder.isEmpty())
        return;
    if (m_write.valid() && m_write.wait_for(kPatience) != std::future_status::ready) {
        m_again.start(kPatience); // a slow disk: the newest goes there as soon as it takes it
        return;
    }
    takeWritten();
    io::RecoveryCopy copy{m_document.path().toStdString(), m_document.history().undoText().toStdString(), m_edits,
        QDateTime::currentDateTime().toString(Qt::ISODate).toStdString(), m_document.file()};
    m_hasCopy = true;
    m_write = std::async(
        std::launch::async, [&files = m_files, path = copyPath().toStdString(), copy = std::move(copy)] {
            return io::saveText(path, io::printRecovery(copy), files);
        });
}

/// The result of the write before, if there was one.
void SafeKeeper::takeWritten()
{
    if (!m_write.valid())
        return;
    const auto written = m_write.get();
    if (!written && !m_isTroubled)
        emit troubled(written.error());
    m_isTroubled = !written;
}

void SafeKeeper::finish()
{
    takeWritten();
    if (m_again.isActive()) {
        m_again.stop();
        writeCopy();
        takeWritten();
    }
}

void SafeKeeper::removeCopy()
{
    m_edits = 0;
    m_again.stop();
    if (!m_hasCopy)
        return;
    takeWritten();
    m_hasCopy = !QFile::remove(copyPath()) && QFile::exists(copyPath());
}

std::vector<Leftover> SafeKeeper::leftovers()
{
    std::vector<Leftover> found;
    if (m_folder.isEmpty())
        return found;
    const QStringList copies = QDir(m_folder).entryList(
        {QLatin1Char('*') + QLatin1String(kCopyEnd)}, QDir::Files, QDir::Time);
    for (const QString& name : copies) {
        const QString place = m_folder + "/" + name;
        if (place == copyPath() || !lockAt(ownerPath(place))->tryLock(0))
            continue; // its program lives
        const auto text = m_files.read(place.toStdString());
        if (!text)
            continue;
        if (auto copy = io::parseRecovery(*text))
            found.push_back({place, std::move(*copy)});
    }
    return found;
}

void SafeKeeper::forget(const Leftover& leftover)
{
    finish(); // first the new copy, then the old one goes
    QFile::remove(leftover.place);
}

void SafeKeeper::claim()
{
    if (m_folder.isEmpty())
        return;
    const auto place = m_document.path().isEmpty() ? Expected<std::string>()
                                                   : m_files.placeOf(m_document.path().toStdString());
    if (m_claim && place && m_claimed == *place)
        return;
    m_claim.reset();
    m_retry.stop();
    if (!place || place->empty()) // nobody can write it: saving says so
        return m_document.setReadOnly(std::nullopt);
    m_claimed = *place;
    const QFileInfo file(QString::fromStdString(*place));
    auto lock = lockAt(file.absolutePath() + "/." + file.fileName().left(200) + QStringLiteral(".lock"));
    if (lock->tryLock(0)) {
        m_claim = std::move(lock);
        return m_document.setReadOnly(std::nullopt);
    }
    if (lock->error() != QLockFile::LockFailedError) // a folder where no lock can lie: nobody else can have one there
        return m_document.setReadOnly(std::nullopt);
    qint64 pid = 0;
    QString host, program;
    lock->getLockInfo(&pid, &host, &program);
    m_document.setReadOnly(
        message("document.read_only", {file.fileName().toStdString(), program.toStdString(), host.toStdString()}));
    m_retry.start();
}

/// The other one is gone: what it saved last is what is open from now on.
void SafeKeeper::retryClaim()
{
    claim();
    if (m_document.readOnly())
        return;
    if (m_document.isChangedOnDisk() && !m_document.isModified())
        (void)m_document.load(m_document.path()).has_value(); // one that does not load any more stays as it was
    emit takenOver();
}

void SafeKeeper::takeSaved()
{
    removeCopy();
    claim();
    keepSave(m_document.path());
}

QString SafeKeeper::foldersOfSaves(const QString& path) const
{
    const QFileInfo file(path);
    const QString whole = file.canonicalFilePath().isEmpty() ? file.absoluteFilePath() : file.canonicalFilePath();
    const QString key = QString::fromStdString(io::contentHash(whole.toStdString())).left(16);
    return m_folder + "/saves/" + file.completeBaseName().left(60) + "-" + key;
}

void SafeKeeper::keepWhatIsThere()
{
    keepSave(m_document.path());
}

void SafeKeeper::keepSave(const QString& path)
{
    const QString folder = foldersOfSaves(path);
    if (m_folder.isEmpty() || path.isEmpty() || !makeFolder(folder))
        return;
    const QString name = QDateTime::currentDateTimeUtc().toString(QStringLiteral("yyyyMMdd'T'hhmmsszzz"));
    const auto text = m_files.read(path.toStdString());
    if (!text)
        return;
    if (const auto kept = io::saveText((folder + "/" + name + ".sentry").toStdString(), *text, m_files); !kept)
        emit troubled(kept.error());
    QStringList all = QDir(folder).entryList({QStringLiteral("*.sentry")}, QDir::Files, QDir::Name);
    while (all.size() > kKeptSaves)
        QFile::remove(folder + "/" + all.takeFirst());
}

std::vector<KeptSave> SafeKeeper::keptSaves() const
{
    std::vector<KeptSave> saves;
    if (m_folder.isEmpty() || m_document.path().isEmpty())
        return saves;
    const QDir folder(foldersOfSaves(m_document.path()));
    const QStringList names = folder.entryList({QStringLiteral("*.sentry")}, QDir::Files, QDir::Name | QDir::Reversed);
    for (const QString& name : names) {
        QDateTime when = QDateTime::fromString(name.left(18), QStringLiteral("yyyyMMdd'T'hhmmsszzz"));
        when.setTimeSpec(Qt::UTC);
        saves.push_back({folder.filePath(name), when.toLocalTime()});
    }
    return saves;
}

} // namespace ts::app
