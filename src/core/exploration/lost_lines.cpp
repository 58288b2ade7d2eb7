#include "core/exploration/lost_lines.h"

#include "core/base/at.h"

#include <algorithm>

namespace ts::exploration {
namespace {

constexpr double kContactorsS = 1.0; ///< relays and contactors have dropped long before

/// The slowest monitor's times, and the contactors'; none without a monitor.
std::optional<TimeNs> watchOf(const Plant& plant)
{
    std::optional<double> longest;
    for (const PlantLogic& l : plant.logics)
        if (const auto* monitor = std::get_if<PhaseMonitorLogic>(&l.data))
            longest = std::max(longest.value_or(0.0), monitor->delayS + monitor->lossS + monitor->startUpS);
    return longest ? std::optional(timeNs(seconds(*longest + kContactorsS))) : std::nullopt;
}

class Losing {
public:
    Losing(const Plant& plant, TimeNs watch, Limits::Ties ties, Workspace& workspace, const std::stop_token& stop)
        : m_plant(plant)
        , m_watch(watch)
        , m_ties(ties)
        , m_workspace(workspace)
        , m_stop(stop)
    {
    }

    void whileRunning(const State& running, const Operation& loss)
    {
        const auto after = done(running, loss.stimuli);
        for (std::size_t m = 0; after && m < m_plant.motors.size(); ++m)
            if (isFed(running, m) && isFed(*after, m))
                note(m, loss, false, {});
    }

    void beforeAStart(const State& rest, const Operation& loss, const Stimulus& start)
    {
        const auto without = done(rest, loss.stimuli);
        const auto after = without ? done(*without, {start}) : std::nullopt;
        for (std::size_t m = 0; after && m < m_plant.motors.size(); ++m)
            if (!isFed(*without, m) && isFed(*after, m))
                note(m, loss, true, wordsOf(m_plant, Operation{Operation::Kind::Hand, {start}}));
    }

    LostLines result;

private:
    /// One that stands has no torque on two lines and stays where it is, with its current of a start.
    static bool isFed(const State& s, std::size_t motor) { return s.actuatorFed[motor] >= 2; }

    /// So long after it; none if it chatters or is stopped.
    std::optional<State> done(const State& before, std::vector<Stimulus> stimuli)
    {
        State state = before;
        for (Stimulus& s : stimuli)
            s.at = state.now;
        Trace trace;
        const Pause pause = advance(
            m_plant, state, stimuli, {before.now + m_watch, m_stop, {}, false, m_ties}, trace, m_workspace);
        ++result.runs;
        result.undecided += pause == Pause::Chatter;
        return pause == Pause::Reached ? std::optional(state) : std::nullopt;
    }

    void note(std::size_t motor, const Operation& loss, bool isHeld, std::string start)
    {
        RunsWithoutLine r{m_plant.deviceOfActuator(static_cast<int>(motor)).id,
            m_plant.knobs[at(loss.stimuli.front().slot)].name, isHeld, std::move(start), secondsOf(m_watch)};
        auto& seen = result.seen;
        const bool isKnown = std::any_of(seen.begin(), seen.end(), [&r](const RunsWithoutLine& o) {
            return o.motor == r.motor && o.line == r.line && o.isStartHeld == r.isStartHeld;
        });
        if (!isKnown)
            seen.push_back(std::move(r));
    }

    const Plant& m_plant;
    TimeNs m_watch;
    Limits::Ties m_ties;
    Workspace& m_workspace;
    const std::stop_token& m_stop;
};

} // namespace

LostLines lostLines(const Plant& plant, const Operations& operations, const std::vector<State>& states,
    const std::vector<Stimulus>& starts, Limits::Ties ties, Workspace& workspace, const std::stop_token& stop)
{
    const auto watch = watchOf(plant);
    if (!watch)
        return {};
    Losing losing(plant, *watch, ties, workspace, stop);
    for (const State& state : states)
        for (const Operation& loss : operations.all()) {
            if (stop.stop_requested() || loss.kind != Operation::Kind::PhaseLost
                || !operations.isPossible(state, loss, {}))
                continue;
            const bool isRunning = std::any_of(state.actuatorMode.begin(), state.actuatorMode.end(),
                [](MotorMode mode) { return mode == MotorMode::Driven; });
            if (isRunning)
                losing.whileRunning(state, loss);
            else
                for (const Stimulus& start : starts)
                    losing.beforeAStart(state, loss, start);
        }
    return losing.result;
}

} // namespace ts::exploration
