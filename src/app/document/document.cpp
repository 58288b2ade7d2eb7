#include "app/document/document.h"

#include "core/io/dossier_text.h"
#include "core/keeping/result_store.h"
#include "core/record/record.h"

#include <QUndoCommand>

#include <algorithm>

namespace ts::app {

/// The only command there is: one snapshot before, one after.
class SnapshotCommand : public QUndoCommand {
public:
    SnapshotCommand(Document& document, Snapshot after, const QString& label, QString gesture)
        : QUndoCommand(label)
        , m_document(document)
        , m_before(document.snapshot())
        , m_after(std::move(after))
        , m_gesture(std::move(gesture))
    {
    }
    void undo() override { m_document.setSnapshot(m_before); }
    void redo() override { m_document.setSnapshot(m_after); }
    int id() const override { return m_gesture.isEmpty() ? -1 : 1; }
    bool mergeWith(const QUndoCommand* other) override
    {
        const auto& next = static_cast<const SnapshotCommand&>(*other);
        if (next.m_gesture != m_gesture)
            return false;
        m_after = next.m_after;
        return true;
    }

private:
    Document& m_document;
    Snapshot m_before, m_after;
    QString m_gesture;
};

Document::Document(io::FileOps& files, QObject* parent)
    : QObject(parent)
    , m_files(files)
{
    m_history.setUndoLimit(200);
}

void Document::setSnapshot(Snapshot snapshot)
{
    m_snapshot = std::move(snapshot);
    emit changed();
}

Expected<void> Document::load(const QString& path)
{
    auto onDisk = textOnDisk(path); // before: what is written in between counts as changed
    auto file = io::loadDossier(path.toStdString(), m_files);
    if (!file)
        return Unexpected{file.error()};
    m_onDisk = std::move(onDisk);
    take(std::move(*file), path);
    return {};
}

std::optional<std::string> Document::textOnDisk(const QString& path) const
{
    const auto text = m_files.read(path.toStdString());
    if (!text)
        return std::nullopt;
    return io::contentHash(*text);
}

bool Document::isChangedOnDisk() const
{
    const auto now = m_path.isEmpty() ? std::nullopt : textOnDisk(m_path);
    return now && now != m_onDisk; // one that is gone can be written again
}

void Document::setReadOnly(std::optional<Message> why)
{
    if (why == m_readOnly)
        return;
    m_readOnly = std::move(why);
    emit readOnlyChanged();
}

void Document::recover(DossierFile file, const QString& path, const QString& label)
{
    Dossier work = file.dossier;
    if (path.isEmpty() || !load(path)) {
        m_onDisk.reset();
        take(std::move(file), path);
        m_history.resetClean();
        emit changed();
        return;
    }
    m_rest.nextId = std::max(m_rest.nextId, file.nextId);
    push(std::move(work), label, {});
    if (file.record.size() > m_rest.record.size()) {
        m_rest.record = std::move(file.record);
        emit recorded();
    }
}

void Document::startWith(DossierFile file)
{
    m_onDisk.reset();
    take(std::move(file), {});
    m_history.resetClean();
    emit changed();
}

void Document::take(DossierFile file, const QString& path)
{
    m_history.clear();
    m_snapshot = std::make_shared<const Dossier>(std::move(file.dossier));
    m_rest = {file.nextId, {}, std::move(file.record)};
    m_savedEntries = m_rest.record.size();
    m_path = path;
    emit loaded();
    emit changed();
}

Expected<void> Document::writeCopy(const QString& path) const
{
    return io::saveDossier(path.toStdString(), file(), m_files);
}

Expected<void> Document::save(const QString& path)
{
    if (m_readOnly && path == m_path)
        return failure(ErrorCode::Refused, *m_readOnly);
    if (auto written = writeCopy(path); !written)
        return written;
    m_path = path;
    m_onDisk = io::contentHash(io::printDossier(file())); // not what lies there by now: that may be a stranger's
    m_savedEntries = m_rest.record.size();
    m_history.setClean();
    emit saved();
    return {};
}

bool Document::edit(const QString& label, const Edit& change, const QString& gesture)
{
    Expected<Dossier> after = m_readOnly ? failure(ErrorCode::Refused, *m_readOnly) : change(*m_snapshot);
    if (!after) {
        emit refused(after.error());
        return false;
    }
    push(std::move(*after), label, gesture);
    return true;
}

bool Document::editFile(const QString& label, const FileEdit& change, const QString& gesture)
{
    Expected<DossierFile> after = m_readOnly ? failure(ErrorCode::Refused, *m_readOnly) : change(file());
    if (!after) {
        emit refused(after.error());
        return false;
    }
    m_rest.nextId = std::max(m_rest.nextId, after->nextId); // never back, also not by undo
    push(std::move(after->dossier), label, gesture);
    return true;
}

Expected<void> Document::addToRecord(RecordEntry entry)
{
    if (m_readOnly)
        return failure(ErrorCode::Refused, *m_readOnly);
    auto next = record::nextEntry(std::move(entry), m_rest.record, *m_snapshot);
    if (!next)
        return Unexpected{next.error()};
    m_rest.record.push_back(std::move(*next));
    emit recorded();
    return {};
}

void Document::push(Dossier after, const QString& label, const QString& gesture)
{
    if (after != *m_snapshot)
        m_history.push(new SnapshotCommand(*this, std::make_shared<const Dossier>(std::move(after)), label, gesture));
}

DossierFile Document::file() const
{
    DossierFile file = m_rest;
    file.dossier = *m_snapshot;
    return file;
}

} // namespace ts::app
