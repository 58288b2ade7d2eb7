#include "core/faults/verdict.h"

#include "core/base/at.h"
#include "core/simulation/logic.h"

#include <algorithm>
#include <limits>

namespace ts::faults {
namespace {

constexpr TimeNs kNever = std::numeric_limits<TimeNs>::max();

/// Which go a time belongs to: the second begins when the first one's watch ends.
int goAt(const Cycle& cycle, TimeNs t)
{
    return t < cycle.goes[0].released ? 0 : t < cycle.goes[1].released ? 1 : 2;
}

/// The plant device that tells the two situations apart, by who it is.
struct Difference {
    int protection = -1, relay = -1, monitor = -1, motor = -1, input = -1, lamp = -1;
    int automatic() const { return protection >= 0 ? protection : relay >= 0 ? relay : monitor; }
    bool any() const { return automatic() >= 0 || motor >= 0 || input >= 0 || lamp >= 0; }
};

void note(int& into, int device)
{
    if (into < 0)
        into = device;
}

Difference differenceOf(const Plant& plant, const State& a, const State& healthy)
{
    Difference d;
    for (const PlantProtection& p : plant.protections) {
        const std::size_t m = at(p.data.mover);
        if (a.travel[m] != healthy.travel[m] && a.travel[m] == p.data.trippedTravel)
            note(d.protection, p.device);
    }
    for (std::size_t r = 0; r < plant.relays.size(); ++r)
        if (a.relays[r].outputs != healthy.relays[r].outputs || a.relays[r].lockedOut != healthy.relays[r].lockedOut)
            note(d.relay, plant.relays[r].device);
    for (std::size_t l = 0; l < plant.logics.size(); ++l)
        if (std::holds_alternative<PhaseMonitorLogic>(plant.logics[l].data)
            && a.logics[l].mode != healthy.logics[l].mode)
            note(d.monitor, plant.logics[l].device);
    for (std::size_t m = 0; m < plant.actuators.size(); ++m)
        if ((a.actuatorMode[m] == MotorMode::Driven) != (healthy.actuatorMode[m] == MotorMode::Driven))
            note(d.motor, plant.actuators[m].device);
    for (std::size_t l = 0; l < plant.lamps.size(); ++l)
        if (a.lampLit[l] != healthy.lampLit[l])
            note(plant.lamps[l].data.shows == LampElement::Shows::Input ? d.input : d.lamp, plant.lamps[l].device);
    return d;
}

NoticedWhen whenOf(const FrameTime& t)
{
    switch (t.look) {
    case Look::Started:
    case Look::BeforeDemand:
        return t.go == 0 ? NoticedWhen::BeforeDemand : NoticedWhen::OnRestart;
    case Look::Released:
        return t.go == 0 ? NoticedWhen::OnDemand : NoticedWhen::OnNextDemand;
    case Look::BeforeStart:
        return t.go == 0 ? NoticedWhen::BeforeDemand : t.go == 1 ? NoticedWhen::OnReset : NoticedWhen::OnNextRestart;
    case Look::Restart:
        return t.go == 1 ? NoticedWhen::OnDemand : NoticedWhen::OnNextDemand;
    case Look::End:
        return NoticedWhen::OnNextRestart;
    case Look::Between:
    case Look::Compare:
        break;
    }
    return NoticedWhen::Never;
}

} // namespace

std::string_view nameOf(Loss loss)
{
    constexpr std::array<std::string_view, 8> names{"none", "runs_on", "too_late", "moves_again", "lets_go",
        "starts_on_release", "starts_on_reset", "starts_alone"};
    return names[static_cast<std::size_t>(loss)];
}

bool isStopLost(Loss loss)
{
    return loss == Loss::RunsOn || loss == Loss::TooLate || loss == Loss::MovesAgain || loss == Loss::LetsGo;
}

std::string_view nameOf(Grade grade)
{
    constexpr std::array<std::string_view, 5> names{"", "A", "B", "C", "D"};
    return names[static_cast<std::size_t>(grade)];
}

std::string_view nameOf(NoticedWhen when)
{
    constexpr std::array<std::string_view, 7> names{
        "never", "before_demand", "on_demand", "on_reset", "on_restart", "on_next_demand", "on_next_restart"};
    return names[static_cast<std::size_t>(when)];
}

Healthy healthyOf(const Course& course, const ForkedRun& base, double allowedTimeS)
{
    Healthy h;
    h.allowed = timeNs(seconds(allowedTimeS));
    for (auto& list : h.mayMoveFrom)
        list.assign(course.cycle.motors.size(), kNever);
    for (const auto& stretch : base.stretches) {
        if (!stretch)
            continue;
        for (const Event& e : stretch->events)
            for (std::size_t m = 0; m < course.cycle.motors.size(); ++m)
                if (e.why == Why::Turning && e.slot == course.cycle.motors[m]) {
                    TimeNs& from = h.mayMoveFrom[at(goAt(course.cycle, e.at))][m];
                    if (from != kNever)
                        continue;
                    for (const Stimulus& s : course.cycle.stimuli) // the last action before it
                        if (s.at <= e.at)
                            from = s.at;
                }
    }
    return h;
}

Verdict::Verdict(const Course& course, const ForkedRun& base, const Healthy& healthy)
    : m_course(course)
    , m_base(base)
    , m_healthy(healthy)
{
}

void Verdict::lose(Loss loss, int motor, TimeNs when)
{
    if (m_result.loss != Loss::None)
        return;
    m_result.loss = loss;
    m_result.lostMotor = m_course.plant.actuators[at(motor)].device;
    m_result.lostAt = when;
}

bool Verdict::isFirstAfter(const Stimulus& pressed, const Stimulus& s) const
{
    const auto& actions = m_course.cycle.stimuli;
    return std::none_of(actions.begin(), actions.end(), [&](const Stimulus& o) {
        return o.kind == Stimulus::Kind::Drive && o.slot == s.slot && o.at > pressed.at && o.at < s.at;
    });
}

bool Verdict::isUnaskedReturn(const Event& e) const
{
    if (!m_returnsAt || e.at < *m_returnsAt || static_cast<MotorMode>(e.from) == MotorMode::Driven)
        return false;
    const auto& actions = m_course.cycle.stimuli;
    for (auto pressed = actions.begin(); pressed != actions.end(); ++pressed) // a start that is held is another
                                                                              // question
        if (pressed->at <= *m_returnsAt && pressed->kind == Stimulus::Kind::Drive && !pressed->letGo
            && std::any_of(pressed + 1, actions.end(), [&](const Stimulus& s) {
                   return s.kind == Stimulus::Kind::Drive && s.slot == pressed->slot && s.letGo && s.at > *m_returnsAt
                       && isFirstAfter(*pressed, s);
               }))
            return false;
    return std::none_of(
        actions.begin(), actions.end(), [&](const Stimulus& s) { return s.at > *m_returnsAt && s.at <= e.at; });
}

void Verdict::readMotion(const Event& e)
{
    const auto& motors = m_course.cycle.motors;
    const auto found = std::find(motors.begin(), motors.end(), e.slot);
    if (found == motors.end() || (e.why != Why::Turning && e.why != Why::AtRest))
        return;
    if (e.why == Why::Turning && isUnaskedReturn(e))
        return lose(Loss::StartsAlone, e.slot, e.at);
    if (e.why == Why::Turning && static_cast<MotorMode>(e.from) != MotorMode::AtRest)
        return; // it had not stood still: whether it comes to rest is what counts
    const Cycle& cycle = m_course.cycle;
    const int go = goAt(cycle, e.at);
    const bool isAfterDemand = go < 2 && e.at > cycle.goes[at(go)].demand;
    if (e.why == Why::AtRest) {
        if (!isAfterDemand)
            return;
        const TimeNs needed = e.at - cycle.goes[at(go)].demand;
        m_result.longestRest = std::max(m_result.longestRest, needed);
        if (m_healthy.allowed > 0 && needed > m_healthy.allowed)
            lose(Loss::TooLate, e.slot, e.at);
        return;
    }
    const TimeNs mayFrom = m_healthy.mayMoveFrom[at(go)][static_cast<std::size_t>(found - motors.begin())];
    if (isAfterDemand)
        lose(Loss::MovesAgain, e.slot, e.at);
    else if (e.at < mayFrom)
        lose(go == 0 ? (cycle.startUp.empty() || e.at < cycle.startUp.front() ? Loss::StartsAlone : Loss::StartsOnReset)
                : e.at < (go == 1 ? cycle.goes[1].begins : cycle.restarts) ? Loss::StartsOnRelease
                                                                           : Loss::StartsOnReset,
            e.slot, e.at);
}

/// What let go before the demand has its reason elsewhere.
void Verdict::readHolding(const Event& e)
{
    const Cycle& cycle = m_course.cycle;
    if (!m_looksAtHolding || e.why != Why::PowerOff || static_cast<MotorMode>(e.from) != MotorMode::Driven
        || std::find(cycle.held.begin(), cycle.held.end(), e.slot) == cycle.held.end())
        return;
    const int go = goAt(cycle, e.at);
    if (go < 2 && e.at >= cycle.goes[at(go)].demand)
        lose(Loss::LetsGo, e.slot, e.at);
}

void Verdict::look(const FrameTime& time, const State& state, const State& base)
{
    if (time.look == Look::Released)
        for (int m : m_course.cycle.motors)
            if (state.actuatorMode[at(m)] != MotorMode::AtRest)
                lose(state.actuatorMode[at(m)] == MotorMode::Driven ? Loss::RunsOn : Loss::TooLate, m,
                    m_course.cycle.goes[at(time.go)].demand);
    const Difference d = differenceOf(m_course.plant, state, base);
    if (!d.any())
        return;
    for (int m : m_course.cycle.motors)
        if (base.actuatorMode[at(m)] == MotorMode::Driven && state.actuatorMode[at(m)] != MotorMode::Driven)
            m_result.blocks = true;
    Notice& n = m_result.notice;
    const auto improve = [&](Grade grade, int device) {
        if (device >= 0 && (n.grade == Grade::None || grade < n.grade)) {
            n.grade = grade;
            n.device = device;
            n.when = whenOf(time);
        }
    };
    improve(Grade::Automatic, d.automatic());
    improve(Grade::Warning, d.input);
    improve(Grade::Process, d.motor);
    improve(Grade::LampOnly, d.lamp);
}

bool Verdict::operator()(std::size_t frame, const Stretch& stretch, const State& state)
{
    for (const Event& e : stretch.events) {
        readMotion(e);
        readHolding(e);
    }
    if (const Look l = m_course.times[frame].look; l != Look::Between && l != Look::Compare && m_base.frames[frame])
        look(m_course.times[frame], state, *m_base.frames[frame]);
    return m_result.loss == Loss::None;
}

namespace {

/// An open contact does not weld: one of a contactor that is welded at rest welded when it carried its current last,
/// and the motor has run on since.
bool isWeldOfContactor(const Plant& plant, std::span<const Fault> faults)
{
    return !faults.empty() && std::all_of(faults.begin(), faults.end(), [&plant](const Fault& f) {
        if (f.mode == FaultMode::PolesWelded)
            return true;
        if (f.mode != FaultMode::LinkHeldClosed)
            return false;
        const int mover = plant.links[at(f.at)].contact.mover;
        return mover >= 0 && plant.movers[at(mover)].spec.driver == MoverSpec::Driver::Coil;
    });
}

} // namespace

RunResult judged(const Verdict& verdict, const ForkedRun& passage)
{
    RunResult result = verdict.result();
    if (result.loss == Loss::StartsAlone && isWeldOfContactor(verdict.plant(), passage.faults))
        result.loss = Loss::RunsOn;
    result.isUndecided = passage.pause == Pause::Chatter && result.loss == Loss::None;
    // A device that merely shows something else while all that should run runs has warned, no more.
    if (!result.blocks && result.notice.grade == Grade::Automatic)
        result.notice.grade = Grade::Warning;
    return result;
}

RunResult judgedRun(const Course& course, const ForkedRun& base, const Healthy& healthy, const Fork& fork,
    Workspace& workspace, std::stop_token stop, ForkedRun* kept)
{
    Verdict verdict(course, base, healthy);
    constexpr TimeNs kRideThrough = 1'000'000'000;
    const bool isSupply = !fork.more.empty() && fork.more.front().kind == Stimulus::Kind::SetKnob;
    if (isSupply && fork.more.back().at - fork.more.front().at >= kRideThrough && fork.more.front().value == 0.0)
        verdict.watchReturn(fork.more.back().at);
    if (fork.moment == Moment::WithDemand || fork.moment == Moment::JustBefore)
        verdict.leaveHolding();
    // What comes at a reset is looked for at the reset after the next demand; everything else has shown itself before.
    const TimeNs end = fork.moment == Moment::AtReset ? course.cycle.end : course.cycle.goes[1].released;
    const auto watcher = [&](std::size_t frame, const Stretch& stretch, const State& state) {
        return verdict(frame, stretch, state) && course.times[frame].at < end - 1'000'000;
    };
    ForkedRun passage = forkedRun(course, base, fork, watcher, workspace, std::move(stop));
    const RunResult result = judged(verdict, passage);
    if (kept)
        *kept = std::move(passage);
    return result;
}

} // namespace ts::faults
