#include "app/document/sweep_book.h"

#include "core/analysis/kept_sweep.h"

#include <algorithm>

namespace ts::app {
namespace {

constexpr std::size_t kMostKept = 8; ///< of one function in memory
constexpr int kTickMs = 150, kSettleMs = 400;

std::shared_ptr<const Swept> sweptOf(const Snapshot& snapshot, const SafetyFunction& function, faults::Sweep sweep,
    std::shared_ptr<const Plant> plant, std::string key)
{
    if (!plant)
        plant = std::make_shared<const Plant>(*compile(snapshot->circuit));
    return std::make_shared<const Swept>(
        Swept{analysedSweep(*snapshot, function, std::move(sweep)), snapshot, std::move(plant), std::move(key)});
}

/// Of the options, those with second faults first: they say more.
std::optional<faults::Sweep> recalled(
    const io::ResultStore& store, const Dossier& dossier, const SafetyFunction& function)
{
    for (const bool withPairs : {true, false})
        for (const bool withExcluded : {true, false}) {
            faults::SweepOptions options;
            options.withPairs = options.withLimits = withPairs;
            options.withExcluded = withExcluded;
            if (const auto text = store.find(sweepKey(dossier, function, options)))
                if (auto sweep = sweepFrom(*text, dossier, function))
                    return sweep;
        }
    return std::nullopt;
}

/// What is in memory is known by what it depends on, whatever was asked for.
std::string contentKey(const Dossier& dossier, const SafetyFunction& function)
{
    return sweepKey(dossier, function);
}

} // namespace

SweepBook::SweepBook(Document& document, std::string folder, QObject* parent)
    : QObject(parent)
    , m_document(document)
    , m_store(std::move(folder))
    , m_work(this)
    , m_recalling(this)
{
    m_tick.setInterval(kTickMs);
    m_settle.setInterval(kSettleMs);
    m_settle.setSingleShot(true);
    connect(&m_tick, &QTimer::timeout, this, &SweepBook::progressed);
    connect(&m_settle, &QTimer::timeout, this, &SweepBook::recall);
    connect(&document, &Document::changed, &m_settle, qOverload<>(&QTimer::start));
    connect(&document, &Document::loaded, this, [this] {
        cancel();
        m_results.clear();
        m_trouble.reset();
        emit changed();
        recall();
    });
}

std::shared_ptr<const Swept> SweepBook::newest(FunctionId function) const
{
    if (const Found found = fresh(function))
        return found;
    const auto list = m_results.find(function);
    return list == m_results.end() || list->second.empty() ? nullptr : list->second.back();
}

std::shared_ptr<const Swept> SweepBook::fresh(FunctionId id) const
{
    const auto list = m_results.find(id);
    const Snapshot snapshot = m_document.snapshot();
    const SafetyFunction* function = snapshot->function(id);
    if (list == m_results.end() || !function)
        return nullptr;
    std::string key;
    for (Found& found : list->second) {
        if (found->of == snapshot)
            return found;
        if (key.empty())
            key = contentKey(*snapshot, *function);
        if (found->key != key)
            continue;
        if (*found->of != *snapshot) // the circuit is the same, but a claim or an answer is not
            found = sweptOf(snapshot, *function, found->analysis.sweep, nullptr, key);
        return found;
    }
    return nullptr;
}

void SweepBook::start(FunctionId id, Wanted wanted)
{
    const Snapshot snapshot = m_document.snapshot();
    const SafetyFunction* function = snapshot->function(id);
    if (!function)
        return;
    m_trouble.reset();
    m_counters = std::make_shared<Counters>();
    m_stage = -1;
    m_work.run(
        [this, snapshot, function, counters = m_counters, wanted](
            std::stop_token stop) -> std::optional<Expected<Found>> {
            const std::string key = contentKey(*snapshot, *function);
            faults::SweepOptions options;
            options.withPairs = options.withLimits = wanted.withPairs; // a quick look goes without both
            options.withExcluded = wanted.withExcluded;
            options.onSoFar = [&](const faults::Sweep& sweep) {
                const Found early = sweptOf(snapshot, *function, sweep, nullptr, key);
                QMetaObject::invokeMethod(
                    this,
                    [this, id = function->id, early, counters] {
                        if (counters == m_counters && m_work.isBusy())
                            take(id, early);
                    },
                    Qt::QueuedConnection);
            };
            const auto listener = [&](const faults::SweepProgress& p) {
                counters->stage = static_cast<int>(p.stage);
                counters->total = p.total;
                counters->done = p.done;
            };
            auto sweep = faults::sweep(*snapshot, *function, options, listener, stop);
            if (stop.stop_requested())
                return std::nullopt;
            if (!sweep)
                return Unexpected{sweep.error()};
            m_store.keep(sweepKey(*snapshot, *function, options), keptText(*sweep));
            return sweptOf(snapshot, *function, std::move(*sweep), nullptr, key);
        },
        [this, id](std::shared_ptr<const Expected<Found>> found) {
            m_tick.stop();
            if (*found)
                take(id, **found);
            else
                m_trouble = found->error();
            emit finished();
        });
    m_clock.start();
    m_tick.start();
    emit progressed();
}

void SweepBook::cancel()
{
    m_work.drop();
    m_tick.stop();
}

SweepBook::Progress SweepBook::progress()
{
    Progress p;
    if (!m_counters)
        return p;
    if (m_stage != m_counters->stage) {
        m_stage = m_counters->stage;
        m_clock.restart();
    }
    p.stage = static_cast<faults::SweepProgress::Stage>(m_stage);
    p.done = m_counters->done;
    p.total = m_counters->total;
    if (p.done > 0)
        p.secondsLeft = static_cast<double>(m_clock.elapsed()) / 1000.0
            * static_cast<double>(p.total - std::min(p.done, p.total)) / static_cast<double>(p.done);
    return p;
}

/// Takes the place of an earlier one of the same circuit.
void SweepBook::take(FunctionId function, Found found)
{
    std::vector<Found>& list = m_results[function];
    std::erase_if(list, [&found](const Found& other) { return other->key == found->key; });
    list.push_back(std::move(found));
    if (list.size() > kMostKept)
        list.erase(list.begin());
    emit changed();
}

/// Whatever the disk knows of the dossier as it is.
void SweepBook::recall()
{
    std::vector<FunctionId> missing;
    for (const SafetyFunction& f : m_document.dossier().functions)
        if (!fresh(f.id))
            missing.push_back(f.id);
    if (missing.empty())
        return;
    m_recalling.run(
        [this, snapshot = m_document.snapshot(), missing](std::stop_token stop) {
            std::vector<std::pair<FunctionId, Found>> all;
            for (FunctionId id : missing) {
                const SafetyFunction& function = *snapshot->function(id);
                if (stop.stop_requested())
                    break;
                if (auto sweep = recalled(m_store, *snapshot, function))
                    all.emplace_back(
                        id, sweptOf(snapshot, function, std::move(*sweep), nullptr, contentKey(*snapshot, function)));
            }
            return std::optional(std::move(all));
        },
        [this](std::shared_ptr<const std::vector<std::pair<FunctionId, Found>>> all) {
            for (const auto& [id, found] : *all)
                if (!fresh(id))
                    take(id, found);
        });
}

} // namespace ts::app
