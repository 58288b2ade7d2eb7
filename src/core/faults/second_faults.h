#pragma once
// What the sweep does beyond one fault: second faults, what hides what, and how a noticed fault is forgotten.
// Internal to faults/; the results are in sweep.h.

#include "core/faults/sweep.h"

#include <mutex>

namespace ts::faults {

/// Everything that all runs of one sweep share. Not copied: the course points into it.
struct Context {
    Context(Plant plant, Cycle cycle);
    Context(const Context&) = delete;
    Plant plant;
    Cycle cycle;
    std::vector<FrameTime> times;
    Course course;
    ForkedRun base;
    Healthy healthy;
    std::shared_ptr<CircuitMemory> memory; ///< of the circuit, at whatever limit
};

/// Compiled, with the cycle run once without any fault. Fails as sweep() does.
Expected<std::unique_ptr<Context>> contextOf(
    const Dossier& dossier, const SafetyFunction& function, std::stop_token stop, Limit limit = Limit::None);

/// Counts runs and tells the listener, one thread at a time.
class Ticker {
public:
    Ticker(const SweepListener& listener, SweepProgress::Stage stage, std::size_t total);
    void add(std::size_t runs);

private:
    const SweepListener& m_listener;
    SweepProgress m_progress;
    std::mutex m_mutex;
};

/// Actions on other devices than the trigger that stop all the function's motors and leave the safety relays their
/// supply, as found by trying each on the healthy running circuit. The times are not set.
std::vector<Stimulus> otherDemands(const Context& c);

/// The first way by which a noticed fault is forgotten, so that the machine starts again: another such device operated
/// and brought back, or the supply off and on. Empty if none does, or the fault was not noticed.
std::string forgottenBy(const Context& c, const std::vector<Stimulus>& ways, const SweptFault& fault,
    const FaultOutcome& outcome, Workspace& workspace, std::stop_token stop);

/// All pairs of faults that are neither excluded nor lost alone. If both are noticed: together before they can be (at
/// rest until something is started, just before the demand until the reset). If one goes unnoticed: it is there from
/// the beginning, and the other one comes just before the demand; it is hidden by the first one if a device notices it
/// alone, by the restart, and not then. A fault that stops the machine for good at every moment and only opens
/// something, or is a short, is skipped, and one in twenty of those is run as a check. False if cancelled.
bool addSecondFaults(
    const Context& c, Sweep& s, const SweepOptions& options, const SweepListener& listener, std::stop_token stop);

/// Outcomes from runs and pairs. Without pairs what is noticed counts as caught and what is not as hidden.
void decide(Sweep& s);

} // namespace ts::faults
