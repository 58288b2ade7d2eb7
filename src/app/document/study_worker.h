#pragma once
// A thread that takes one study at a time and gives way to the window. What is to be done when is the book's to say
// (study_book.h).

#include "app/document/document.h"
#include "core/keeping/result_store.h"
#include "core/studies/study.h"

#include <QElapsedTimer>

#include <condition_variable>
#include <functional>
#include <mutex>
#include <thread>

namespace ts::app {

struct StudyJob {
    const Study* study = nullptr;
    Subject subject;
    Snapshot of;
    std::string key, reads;
    Results earlier;
    bool onlyRecalls = false; ///< looks only whether it is kept on disk
    bool isAsked = false; ///< by somebody, not by itself
    std::shared_ptr<WorkProgress> progress = std::make_shared<WorkProgress>();
    std::stop_source stop;
    QElapsedTimer clock; ///< of the stage
    int stage = -1;
};

class StudyWorker {
public:
    /// `done` is called in the owner's thread; null: cancelled, or not on disk.
    using Done = std::function<void(const std::shared_ptr<StudyJob>&, std::shared_ptr<const Expected<Value>>)>;
    StudyWorker(QObject* owner, const io::ResultStore& store, Done done);
    /// Tells what runs to stop and waits for it.
    ~StudyWorker();
    StudyWorker(const StudyWorker&) = delete;

    /// The one that is being worked out; null: free.
    const std::shared_ptr<StudyJob>& job() const { return m_job; }
    /// Only when it is free.
    void start(std::shared_ptr<StudyJob> job);

private:
    void work(const std::stop_token& stop);
    /// Null if it was cancelled or only to be recalled.
    std::shared_ptr<const Expected<Value>> worked(StudyJob& job) const;

    QObject* m_owner;
    const io::ResultStore& m_store;
    Done m_done;
    std::shared_ptr<StudyJob> m_job; ///< as the owner's thread sees it
    std::mutex m_mutex;
    std::condition_variable_any m_wake;
    std::shared_ptr<StudyJob> m_next;
    std::jthread m_thread;
};

} // namespace ts::app
