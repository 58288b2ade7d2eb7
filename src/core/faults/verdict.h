#pragma once
// What one run with a fault says, read against the run without it: whether the function was lost, who noticed, and
// whether the machine could be started again. Reads passages only.

#include "core/base/quantity.h"
#include "core/faults/forked_run.h"

namespace ts::faults {

/// How the function failed. Source: EN 60204-1 clauses 9.2.3 (stop) and 9.2.3.4.2 (no restart by unlatching or reset).
enum class Loss : std::uint8_t {
    None,
    RunsOn, ///< still driven at the end of the watch
    TooLate, ///< at rest later than allowed, or still coasting at the end of the watch
    MovesAgain, ///< came to rest and was driven again
    LetsGo, ///< the demand released what must hold
    StartsOnRelease, ///< when the trigger was brought back
    StartsOnReset, ///< before the action that starts it
    StartsAlone ///< before anything was operated
};
std::string_view nameOf(Loss);
/// The stop is lost. A start when the demand ends, at the reset before its start action, or before anything is operated
/// is a loss of the prevention of restart, which is judged by itself: whether such a fault loses the stop too, the
/// moments say at which the machine runs.
bool isStopLost(Loss loss);

/// Who noticed decides the credit (A counts, B warns only, C and D count nothing).
enum class Grade : std::uint8_t { None, Automatic, Warning, Process, LampOnly };
std::string_view nameOf(Grade); ///< "A" .. "D", "" for none

/// At which look the run first differed from the healthy one.
enum class NoticedWhen : std::uint8_t {
    Never,
    BeforeDemand,
    OnDemand,
    OnReset,
    OnRestart,
    OnNextDemand,
    OnNextRestart
};
std::string_view nameOf(NoticedWhen);

struct Notice {
    Grade grade = Grade::None;
    NoticedWhen when = NoticedWhen::Never;
    int device = -1; ///< plant device that tells: the relay that refuses, the fuse that blew, the lamp
    bool operator==(const Notice&) const = default;
};

struct RunResult {
    Loss loss = Loss::None;
    int lostMotor = -1; ///< plant device
    TimeNs lostAt = 0; ///< from switching on
    Notice notice;
    bool blocks = false; ///< something that the healthy machine runs does not run any more
    bool isUndecided = false; ///< the run chattered
    TimeNs longestRest = 0; ///< latest rest after a demand, of all motors
    bool operator==(const RunResult&) const = default;
};

/// What the base run allows: when motors may move, and what is seen at each look.
struct Healthy {
    std::array<std::vector<TimeNs>, 3> mayMoveFrom; ///< by go, by motor of the cycle: the action that starts it
    TimeNs allowed = 0; ///< from demand to rest; 0: to the end of the watch
};
Healthy healthyOf(const Course& course, const ForkedRun& base, double allowedTimeS);

/// Reads a passage as it is made. `base` is the same circuit without the faults in question.
class Verdict {
public:
    Verdict(const Course& course, const ForkedRun& base, const Healthy& healthy);
    /// The supply was away for longer than a ride-through: what drives a motor after its return, without an action
    /// after the return, is a start that nobody asked for (EN 60204-1 clause 7.5).
    void watchReturn(TimeNs returnsAt) { m_returnsAt = returnsAt; }
    /// False as soon as the function is lost.
    bool operator()(std::size_t frame, const Stretch& stretch, const State& state);
    const Plant& plant() const { return m_course.plant; }
    /// What a fault releases that comes with the demand, or so shortly before it, is not told apart from what the
    /// demand does.
    void leaveHolding() { m_looksAtHolding = false; }
    RunResult result() const { return m_result; }

private:
    void readMotion(const Event& e);
    void readHolding(const Event& e);
    /// No other action on the same thing between the two.
    bool isFirstAfter(const Stimulus& pressed, const Stimulus& s) const;
    bool isUnaskedReturn(const Event& e) const;
    void lose(Loss loss, int motor, TimeNs when);
    void look(const FrameTime& time, const State& state, const State& base);

    const Course& m_course;
    const ForkedRun& m_base;
    const Healthy& m_healthy;
    RunResult m_result;
    std::optional<TimeNs> m_returnsAt;
    bool m_looksAtHolding = true;
};

/// The verdict on a whole passage, and on one that is made on the way; the second stops as soon as the function is
/// lost, or after the next demand (a fault that came at the reset: after the restart that follows it).
RunResult judged(const Verdict& verdict, const ForkedRun& passage);
RunResult judgedRun(const Course& course, const ForkedRun& base, const Healthy& healthy, const Fork& fork,
    Workspace& workspace, std::stop_token stop = {}, ForkedRun* kept = nullptr);

} // namespace ts::faults
