#include "core/simulation/bench_run.h"

#include "core/simulation/transplant.h"

#include <algorithm>

namespace ts {

BenchRun::BenchRun(std::shared_ptr<const Plant> plant)
    : m_plant(std::move(plant))
    , m_workspace(std::make_shared<Workspace>())
{
    restart();
}

BenchRun::BenchRun(std::shared_ptr<const Plant> plant, const BenchRun& before)
    : m_plant(std::move(plant))
    , m_state(transplant(*before.m_plant, before.m_state, *m_plant))
    , m_workspace(std::make_shared<Workspace>())
{
    keep();
    advanceOnce({m_state.now});
    sampleSpeeds();
}

void BenchRun::restart()
{
    m_state = initialState(*m_plant);
    m_trace = {};
    m_script.clear();
    m_applied = 0;
    m_keyframes.clear();
    m_speeds.clear();
    keep();
    advanceTo(0);
}

void BenchRun::keep()
{
    m_keyframes.push_back({m_state, m_trace.events.size(), m_applied, m_speeds.size()});
}

void BenchRun::act(Stimulus s)
{
    keep();
    s.at = m_state.now;
    m_script.resize(m_applied);
    m_script.push_back(s);
    advanceOnce({m_state.now});
}

Pause BenchRun::advanceOnce(const Limits& limits)
{
    const Pause pause = advance(
        *m_plant, m_state, std::span(m_script).subspan(m_applied), limits, m_trace, *m_workspace);
    while (m_applied < m_script.size() && m_script[m_applied].at <= m_state.now)
        ++m_applied;
    return pause;
}

Pause BenchRun::advanceTo(TimeNs until, const std::function<bool()>& outOfBudget)
{
    Pause pause = Pause::Reached;
    do {
        // Pieces end on a fixed grid: pausing and going on is the same as not pausing.
        Limits limits;
        limits.until = std::min(until, (m_state.now / kSpeedSampleNs + 1) * kSpeedSampleNs);
        limits.outOfBudget = outOfBudget;
        pause = advanceOnce(limits);
        sampleSpeeds();
        // Where nothing happened there is nothing to replay: a bench that idles for a day stays small.
        const bool isNew = m_trace.events.size() != m_keyframes.back().events
            || m_applied != m_keyframes.back().stimuli;
        if (isNew && m_state.now - m_keyframes.back().state.now >= kKeyframeNs)
            keep();
    } while (pause == Pause::Reached && m_state.now < until);
    return pause;
}

void BenchRun::sampleSpeeds()
{
    if (m_state.now % kSpeedSampleNs != 0 || (!m_speeds.empty() && m_speeds.back().at >= m_state.now))
        return;
    SpeedSample sample{m_state.now, {}};
    for (const PlantMotor& m : m_plant->motors)
        sample.radPerS.push_back(flowValue(*m_plant, m_state, m.flow, m_state.now));
    const std::size_t n = m_speeds.size();
    if (n >= 2 && m_speeds[n - 1].radPerS == sample.radPerS && m_speeds[n - 2].radPerS == sample.radPerS)
        m_speeds.back().at = m_state.now; // a straight line needs its ends only
    else
        m_speeds.push_back(std::move(sample));
}

bool BenchRun::stepForward(TimeNs horizon)
{
    const std::size_t before = m_trace.events.size();
    const TimeNs end = m_state.now + horizon;
    while (m_trace.events.size() == before && m_state.now < end)
        if (advanceTo(std::min(end, m_state.now + kGridNs * 100)) != Pause::Reached)
            break;
    return m_trace.events.size() > before;
}

bool BenchRun::stepBack()
{
    const auto earlier = std::find_if(
        m_trace.events.rbegin(), m_trace.events.rend(), [this](const Event& e) { return e.at < m_state.now; });
    if (earlier == m_trace.events.rend() || earlier->at <= 0)
        return false;
    const TimeNs until = earlier->at - kGridNs;
    while (m_keyframes.size() > 1 && m_keyframes.back().state.now > until)
        m_keyframes.pop_back();
    const Keyframe from = m_keyframes.back();
    m_state = from.state;
    m_trace.events.resize(from.events);
    m_applied = from.stimuli;
    m_speeds.resize(from.speeds);
    if (!m_speeds.empty())
        m_speeds.back().at = std::min(m_speeds.back().at, m_state.now); // it may have been drawn out since
    advanceTo(until);
    return true;
}

} // namespace ts
