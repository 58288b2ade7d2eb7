#include "core/faults/parallel.h"

#include "core/simulation/electrics.h"

#include <tbb/blocked_range.h>
#include <tbb/enumerable_thread_specific.h>
#include <tbb/parallel_for.h>
#include <tbb/partitioner.h>
#include <tbb/task_arena.h>

namespace ts::faults {

bool forEachIndex(std::size_t count, int threads, const std::function<void(std::size_t, Workspace&)>& job,
    std::stop_token stop, std::shared_ptr<CircuitMemory> memory)
{
    if (!memory)
        memory = std::make_shared<CircuitMemory>();
    tbb::enumerable_thread_specific<Workspace> workspaces([&memory] { return Workspace(memory); });
    tbb::task_arena arena(threads > 0 ? threads : tbb::task_arena::automatic);
    const auto some = [&](const tbb::blocked_range<std::size_t>& range) {
        for (std::size_t k = range.begin(); k != range.end() && !stop.stop_requested(); ++k)
            job(k, workspaces.local());
    };
    arena.execute([&] {
        tbb::parallel_for(tbb::blocked_range<std::size_t>(0, count, 1), some, tbb::simple_partitioner{});
    }); // jobs are long and unlike
    return !stop.stop_requested();
}

} // namespace ts::faults
