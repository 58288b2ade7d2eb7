#pragma once
// A circuit that runs while somebody works on it: plant, state, trace and the script of everything that was done.
// Replaying the script gives the same bytes. Knows no clock: the caller says how far to go.

#include "core/simulation/advance.h"
#include "core/simulation/frame.h"

#include <memory>

namespace ts {

class BenchRun {
public:
    /// Starts at rest with the supply coming on at t = 0.
    explicit BenchRun(std::shared_ptr<const Plant> plant);
    /// A changed circuit goes on from where the other run is; its trace begins at that moment.
    BenchRun(std::shared_ptr<const Plant> plant, const BenchRun& before);

    /// Does something now. Its time is set to the present moment; it takes effect at once.
    void act(Stimulus stimulus);
    /// Runs on to `until`. Stops early when outOfBudget answers true (may be empty) or the circuit chatters; after
    /// chatter it goes on from there the next time.
    Pause advanceTo(TimeNs until, const std::function<bool()>& outOfBudget = {});
    /// Runs to just after the next event of the trace, at most `horizon` ahead. False if nothing happened.
    bool stepForward(TimeNs horizon);
    /// Back to just before the latest event earlier than now. False at the beginning. What was done later happens again
    /// when time comes to it, unless something else is done first.
    bool stepBack();
    /// From the beginning again, with nothing done.
    void restart();

    TimeNs now() const { return m_state.now; }
    const Plant& plant() const { return *m_plant; }
    std::shared_ptr<const Plant> sharedPlant() const { return m_plant; }
    const State& state() const { return m_state; }
    const Trace& trace() const { return m_trace; }
    /// Everything that was done, also what lies ahead after stepping back.
    const std::vector<Stimulus>& script() const { return m_script; }
    /// What can be seen now.
    Frame frame() { return observe(*m_plant, m_state); }

    /// One recorded speed of every motor, for drawing: each 20 ms while speeds change, else the ends of the line.
    struct SpeedSample {
        TimeNs at = 0;
        std::vector<double> radPerS;
    };
    const std::vector<SpeedSample>& speeds() const { return m_speeds; }

private:
    struct Keyframe {
        State state;
        std::size_t events = 0, stimuli = 0, speeds = 0;
    };
    void keep();
    void sampleSpeeds();
    Pause advanceOnce(const Limits& limits);

    std::shared_ptr<const Plant> m_plant;
    State m_state;
    Trace m_trace;
    std::vector<Stimulus> m_script;
    std::size_t m_applied = 0; ///< of the script
    std::vector<Keyframe> m_keyframes;
    std::vector<SpeedSample> m_speeds;
    std::shared_ptr<Workspace> m_workspace;
};

constexpr TimeNs kKeyframeNs = 500'000'000;
constexpr TimeNs kSpeedSampleNs = 20'000'000;

} // namespace ts
