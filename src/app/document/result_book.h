#pragma once
// Results that take their time, by what they are about: one is worked out at a time, in the background, with its
// progress told and a way to cancel; each is kept with the dossier it holds for. Places show the newest one and say if
// it is of another dossier.

#include "app/document/document.h"
#include "app/document/latest.h"
#include "core/base/expected.h"

#include <QTimer>

#include <atomic>
#include <functional>
#include <map>

namespace ts::app {

/// How far a work is; written by its thread, read by the window's.
struct WorkProgress {
    std::atomic<std::size_t> done{0}, total{0}, found{0};
};

template <class Key, class Value> class ResultBook {
public:
    struct Result {
        Expected<Value> value;
        Snapshot of;
    };
    using Work = std::function<Expected<Value>(const Dossier&, WorkProgress&, std::stop_token)>;
    struct Telling {
        std::function<void()> onProgress; ///< now and then while it works
        std::function<void()> onChange; ///< something came, or nothing holds any more
        std::function<void()> onFinish; ///< what was started, also in vain
    };

    ResultBook(QObject* owner, Document& document, Telling telling)
        : m_document(document)
        , m_telling(std::move(telling))
        , m_work(owner)
    {
        m_tick.setInterval(kTickMs);
        QObject::connect(&m_tick, &QTimer::timeout, owner, [this] { m_telling.onProgress(); });
        QObject::connect(&document, &Document::loaded, owner, [this] {
            cancel();
            m_results.clear();
            m_trouble.reset();
            m_telling.onChange();
        });
    }

    void start(Key key, Work work)
    {
        m_trouble.reset();
        m_progress = std::make_shared<WorkProgress>();
        m_work.run(
            [snapshot = m_document.snapshot(), work = std::move(work), progress = m_progress](
                std::stop_token stop) -> std::optional<Result> {
                Result result{work(*snapshot, *progress, stop), snapshot};
                if (stop.stop_requested())
                    return std::nullopt;
                return result;
            },
            [this, key](std::shared_ptr<const Result> result) {
                m_tick.stop();
                if (result->value)
                    m_results[key] = std::move(result);
                else
                    m_trouble = result->value.error();
                m_telling.onChange();
                m_telling.onFinish();
            });
        m_tick.start();
        m_telling.onProgress();
    }
    void cancel()
    {
        m_work.drop();
        m_tick.stop();
    }
    bool isBusy() const { return m_work.isBusy(); }
    bool isEmpty() const { return m_results.empty(); }
    const WorkProgress& progress() const { return *m_progress; }
    /// Why the last one came to nothing; empty if it did not.
    const std::optional<Error>& trouble() const { return m_trouble; }

    /// The newest one, which may be of another dossier; null before the first. Its value is there.
    std::shared_ptr<const Result> newest(const Key& key) const
    {
        const auto found = m_results.find(key);
        return found == m_results.end() ? nullptr : found->second;
    }
    bool isFresh(const Result& result) const { return *result.of == m_document.dossier(); }
    /// Of all keys, what holds for the dossier as it is.
    std::vector<std::shared_ptr<const Value>> fresh() const
    {
        std::vector<std::shared_ptr<const Value>> all;
        for (const auto& [key, result] : m_results)
            if (isFresh(*result))
                all.emplace_back(result, &*result->value);
        return all;
    }

private:
    static constexpr int kTickMs = 150;
    Document& m_document;
    Telling m_telling;
    Latest<Result> m_work;
    std::map<Key, std::shared_ptr<const Result>> m_results;
    std::shared_ptr<WorkProgress> m_progress = std::make_shared<WorkProgress>();
    std::optional<Error> m_trouble;
    QTimer m_tick;
};

} // namespace ts::app
