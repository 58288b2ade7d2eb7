#include "core/studies/study.h"

#include <chrono>
#include <condition_variable>
#include <mutex>
#include <thread>

namespace ts {
namespace {

constexpr std::size_t kGigabyte = 1024ull * 1024ull * 1024ull;
constexpr std::chrono::milliseconds kLookEvery{100};

/// Stops a work that takes more than it may.
class Watchdog {
public:
    Watchdog(const Budget& budget, std::size_t (*memoryInUse)(), std::stop_source& work)
        : m_thread([this, budget, memoryInUse, &work](const std::stop_token& stop) {
            const auto end = std::chrono::steady_clock::now()
                + std::chrono::duration_cast<std::chrono::steady_clock::duration>(
                    std::chrono::duration<double>(budget.seconds));
            std::unique_lock lock(m_mutex);
            while (!m_wake.wait_for(lock, stop, kLookEvery, [&stop] { return stop.stop_requested(); })) {
                if (stop.stop_requested())
                    return;
                m_isLate = std::chrono::steady_clock::now() >= end;
                m_isLarge = memoryInUse && memoryInUse() > budget.bytes;
                if (m_isLate || m_isLarge) {
                    work.request_stop();
                    return;
                }
            }
        })
    {
    }
    bool isLate() const { return m_isLate; }
    bool isLarge() const { return m_isLarge; }

private:
    std::atomic<bool> m_isLate{false}, m_isLarge{false};
    std::mutex m_mutex;
    std::condition_variable_any m_wake;
    std::jthread m_thread; ///< last: it uses the others
};

} // namespace

bool bearsOn(const Subject& read, const Subject& reader)
{
    return read.kind != reader.kind || read == reader;
}

Budget budgetOf(Cost cost)
{
    switch (cost) {
    case Cost::Instant:
        return {10.0, 4 * kGigabyte};
    case Cost::Soon:
        return {60.0, 6 * kGigabyte};
    case Cost::Long:
        return {1800.0, 12 * kGigabyte};
    }
    return {};
}

Expected<Value> workedOut(const Study& study, const Dossier& dossier, const Subject& subject, const Results& earlier,
    WorkProgress& progress, std::stop_token stop, const Budget& budget, std::size_t (*memoryInUse)())
{
    std::stop_source work;
    const std::stop_callback passOn(stop, [&work] { work.request_stop(); });
    Watchdog watchdog(budget, memoryInUse, work);
    auto value = study.run(dossier, subject, earlier, progress, work.get_token());
    if (stop.stop_requested())
        return cancelled();
    if (watchdog.isLate())
        return failure(ErrorCode::Refused,
            message("study.too_long", {"@study." + std::string(study.id), Measured{budget.seconds, "s"}}));
    if (watchdog.isLarge())
        return failure(ErrorCode::Refused,
            message("study.too_large",
                {"@study." + std::string(study.id),
                    Measured{static_cast<double>(budget.bytes) / static_cast<double>(kGigabyte), "GiB"}}));
    return value;
}

} // namespace ts
