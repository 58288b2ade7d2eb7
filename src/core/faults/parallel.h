#pragma once
// Many independent jobs on all cores, each with a memory of its own; results are written by index, so that their order
// never depends on the threads.

#include <cstddef>
#include <functional>
#include <memory>
#include <stop_token>

namespace ts {
class Workspace;
struct CircuitMemory;
} // namespace ts

namespace ts::faults {

/// Calls job(index, workspace) for every index below count. The workspaces remember together, so they are for one
/// circuit; what is handed in as `memory` they find and add to. False if it was cancelled: then some were not called.
bool forEachIndex(std::size_t count, int threads, const std::function<void(std::size_t, Workspace&)>& job,
    std::stop_token stop, std::shared_ptr<CircuitMemory> memory = nullptr);

} // namespace ts::faults
