#pragma once
// All that is worked out of the open dossier: by study and subject, the newest and what holds for the dossier as it is.
// Keeps itself up to date: after loading and after each edit what is quick is worked out by itself, what is Long when
// somebody asks or when nothing else is wanted for a while. Never waits: two workers take jobs, one what is quick and
// one what is Long. Which studies there are: core/studies.

#include "app/document/document.h"
#include "app/document/moment.h"
#include "core/keeping/result_store.h"
#include "core/studies/study.h"

#include <QElapsedTimer>
#include <QTimer>

#include <functional>
#include <map>
#include <set>

namespace ts::app {

class StudyWorker;
struct StudyJob;

class StudyBook : public QObject {
    Q_OBJECT
public:
    /// An empty folder: nothing is remembered on disk.
    StudyBook(Document& document, std::string folder, QObject* parent);
    ~StudyBook() override;

    /// What is there, which may be of another dossier, or not whole yet. No value: nothing is.
    template <class T> struct Held {
        std::shared_ptr<const T> value;
        Snapshot of;
        bool isFresh = false; ///< it holds for the dossier as it is, and is whole
        explicit operator bool() const { return value != nullptr; }
    };
    template <class T> Held<T> newest(StudyOf<T> study, const Subject& subject = {}) const
    {
        const Entry* e = newestEntry(study.id, subject);
        return e ? Held<T>{(*e->result)->template as<T>(), e->of, e->isWhole && e->key == keyOf(study.id, subject)}
                 : Held<T>{};
    }
    /// Only if it holds for the dossier as it is.
    template <class T> std::shared_ptr<const T> fresh(StudyOf<T> study, const Subject& subject = {}) const
    {
        const Entry* e = freshEntry(study.id, subject);
        return e && *e->result ? (*e->result)->template as<T>() : nullptr;
    }
    /// Why it came to nothing for the dossier as it is; null if it did not, or was not tried.
    const Error* trouble(std::string_view study, const Subject& subject) const;
    /// Everything that holds for the dossier as it is.
    Results results() const;

    /// What was worked out, of whatever dossiers, to hand to another book: results go by what they depend on, so that
    /// the same machine in another window need not be worked out again.
    class Known;
    Known known() const;
    void adopt(const Known& known);

    /// What day it is (ISO 8601): the clock's, or one that somebody sets.
    void setToday(std::function<std::string()> today);
    void lookAtDay();

    /// Somebody wants it now: before anything else of its kind.
    void ask(std::string_view study, const Subject& subject);
    void cancel(std::string_view study, const Subject& subject);
    /// Asked for or being worked out.
    bool isBusy(std::string_view study, const Subject& subject) const;
    /// Something quick is still to be worked out by itself.
    bool isBehind() const;
    /// Anything at all is being worked out.
    bool isWorking() const;

    struct Progress {
        int stage = 0;
        std::size_t done = 0, total = 0, found = 0;
        double secondsLeft = 0; ///< of this stage; 0: not known yet
    };
    Progress progress(std::string_view study, const Subject& subject) const;

    /// What somebody looks at goes first.
    void setInView(const Subject& subject);
    /// False: nothing is worked out by itself but what is Instant or stands in every place (levels and checks).
    void setLiving(bool living);
    bool isLiving() const { return m_isLiving; }
    /// How long nothing has to happen before Long studies begin by themselves; below zero: never.
    void setPatience(int ms);

signals:
    void changed(); ///< some result came, or holds no more
    void progressed(); ///< now and then while somebody waits
    void ended(const QString& study); ///< one that was asked for, also in vain

private:
    using Name = std::pair<std::string, Subject>;
    struct Entry {
        std::string key; ///< of what it depends on in the dossier
        std::string reads; ///< which other results were there to be read
        std::shared_ptr<const Expected<Value>> result;
        Snapshot of;
        bool isWhole = true;
    };
    const Entry* newestEntry(std::string_view study, const Subject& subject) const;
    const Entry* freshEntry(std::string_view study, const Subject& subject) const;
    const std::string& keyOf(std::string_view study, const Subject& subject) const;
    std::string readsOf(const Study& study, const Subject& subject) const;
    const std::vector<Subject>& subjects(Subject::Kind kind) const;
    bool isDue(const Study& study, const Subject& subject) const;
    bool isReady(const Study& study, const Subject& subject) const;
    bool runsByItself(const Study& study) const;
    bool willCome(const Study& study, const Subject& subject) const; ///< due, and nothing that it waits for is not
    const Value& onRecord() const; ///< record and day
    void takeDocument();
    void takeRecord();
    void consider();
    void dropStale();
    std::shared_ptr<StudyJob> nextPrompt() const;
    std::shared_ptr<StudyJob> nextPatient();
    std::shared_ptr<StudyJob> jobFor(const Study& study, const Subject& subject, bool onlyRecalls = false) const;
    void start(StudyWorker& worker, std::shared_ptr<StudyJob> job);
    void take(const std::shared_ptr<StudyJob>& job, std::shared_ptr<const Expected<Value>> result);
    void takeEarly(const std::shared_ptr<StudyJob>& job, Value value);
    void keepWithinBounds();
    const StudyJob* running(std::string_view study, const Subject& subject) const;

    Document& m_document;
    io::ResultStore m_store;
    std::unique_ptr<StudyWorker> m_prompt, m_patient;
    std::map<Name, std::vector<Entry>> m_entries; ///< the newest last
    std::vector<Name> m_asked; ///< in the order of asking
    std::set<std::pair<Name, std::string>> m_notOnDisk, m_declined; ///< with the key
    Subject m_inView;
    bool m_isLiving = true;
    QTimer m_settle, m_tick, m_idle, m_midnight;
    std::function<std::string()> m_today = dayNow;
    mutable Snapshot m_keysOf;
    mutable Value m_onRecord; ///< none: to be read again
    mutable std::string m_day, m_recordKey; ///< of m_onRecord
    mutable Fingerprint m_fingerprint;
    mutable std::map<Name, std::string> m_keys;
    mutable std::map<Subject::Kind, std::vector<Subject>> m_subjects;
};

class StudyBook::Known {
    friend class StudyBook;
    std::map<Name, std::vector<Entry>> m_entries;
};

} // namespace ts::app
