#pragma once
// What was done by hand on the Bench, kept as a scenario.

#include "app/document/document.h"
#include "core/simulation/bench_run.h"

namespace ts::app {

/// Up to now, with what it showed of motors and lamps as what is expected; one step of undo. Says what came of it.
QString keptRun(const BenchRun& run, Document& document);

} // namespace ts::app
