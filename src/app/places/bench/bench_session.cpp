#include "app/places/bench/bench_session.h"

#include "app/words/words.h"
#include "core/base/check.h"

namespace ts::app {
namespace {
constexpr int kTickMs = 16;
constexpr qint64 kBudgetNs = 6'000'000; ///< of the window's thread per tick
constexpr TimeNs kStepHorizon = 30'000'000'000;
} // namespace

BenchSession::BenchSession(QObject* parent)
    : QObject(parent)
{
    m_timer.setInterval(kTickMs);
    connect(&m_timer, &QTimer::timeout, this, &BenchSession::tick);
}

void BenchSession::setPlant(std::shared_ptr<const Plant> plant)
{
    take(plant ? std::make_unique<BenchRun>(std::move(plant)) : nullptr);
}

void BenchSession::changePlant(std::shared_ptr<const Plant> plant)
{
    if (!plant || !m_run)
        return setPlant(std::move(plant));
    take(std::make_unique<BenchRun>(std::move(plant), *m_run));
}

void BenchSession::take(std::unique_ptr<BenchRun> run)
{
    m_run = std::move(run);
    m_chatters = m_slow = false;
    m_clock.restart();
    if (m_run) {
        m_frame = m_run->frame();
        if (m_clockEnabled && m_running)
            m_timer.start();
    } else {
        m_timer.stop();
    }
    emit runChanged();
    emit frameChanged();
}

void BenchSession::look()
{
    m_frame = m_run->frame();
    emit frameChanged();
}

Pause BenchSession::advanceTo(TimeNs until, const std::function<bool()>& outOfBudget)
{
    const Pause pause = m_run->advanceTo(until, outOfBudget);
    m_chatters = pause == Pause::Chatter;
    return pause;
}

void BenchSession::tick()
{
    if (!m_run)
        return;
    const qint64 elapsedNs = std::min<qint64>(m_clock.nsecsElapsed(), 100'000'000); // never catch up by jumping
    m_clock.restart();
    QElapsedTimer budget;
    budget.start();
    m_owedNs += elapsedNs / m_pace;
    const TimeNs goes = m_owedNs / kGridNs * kGridNs;
    m_owedNs -= goes;
    const Pause pause = advanceTo(m_run->now() + goes, [&budget] { return budget.nsecsElapsed() > kBudgetNs; });
    m_slow = pause == Pause::OutOfBudget;
    if (m_chatters)
        setRunning(false);
    look();
}

void BenchSession::act(const std::string& tag, const std::string& word)
{
    if (!m_run)
        return;
    const auto stimulus = stimulusFor(m_run->plant(), tag, word, m_run->now());
    TS_CHECK(stimulus.has_value());
    m_run->act(*stimulus);
    look();
}

void BenchSession::setFault(const Fault& fault, bool on)
{
    Stimulus s;
    s.kind = on ? Stimulus::Kind::PutFault : Stimulus::Kind::ClearFault;
    s.fault = fault;
    m_run->act(s);
    look();
}

void BenchSession::clearFaults()
{
    if (!m_run)
        return;
    for (const Fault& f : std::vector<Fault>(m_run->state().faults))
        setFault(f, false);
}

void BenchSession::setKnob(int knob, double value)
{
    Stimulus s;
    s.kind = Stimulus::Kind::SetKnob;
    s.slot = knob;
    s.value = value;
    m_run->act(s);
    look();
}

void BenchSession::setPace(int slower)
{
    TS_CHECK(slower >= 1);
    m_pace = slower;
    m_owedNs = 0;
    if (m_run)
        look();
}

void BenchSession::setRunning(bool running)
{
    if (running == m_running)
        return;
    m_running = running;
    m_clock.restart();
    if (running && m_clockEnabled && m_run)
        m_timer.start();
    else
        m_timer.stop();
    emit runningChanged();
}

void BenchSession::stepForward()
{
    if (!m_run)
        return;
    setRunning(false);
    m_run->stepForward(kStepHorizon);
    look();
}

void BenchSession::stepBack()
{
    if (!m_run)
        return;
    setRunning(false);
    if (m_run->stepBack())
        emit runChanged();
    look();
}

void BenchSession::restart()
{
    if (!m_run)
        return;
    m_run->restart();
    m_chatters = false;
    emit runChanged();
    look();
}

void BenchSession::play(const std::vector<Stimulus>& script, TimeNs until)
{
    if (!m_run)
        return;
    setRunning(false);
    restart();
    for (const Stimulus& s : script) {
        if (s.at > until)
            break;
        advanceTo(s.at, {});
        m_run->act(s);
    }
    advanceTo(until, {});
    look();
}

void BenchSession::advanceBy(double s)
{
    if (!m_run)
        return;
    advanceTo(m_run->now() + timeNs(seconds(s)), {});
    look();
}

void BenchSession::drive(const std::function<void(BenchRun&)>& how)
{
    if (!m_run)
        return;
    how(*m_run);
    look();
}

void BenchSession::setClockEnabled(bool enabled)
{
    m_clockEnabled = enabled;
    m_clock.restart();
    if (enabled && m_running && m_run)
        m_timer.start();
    else
        m_timer.stop();
}

QString BenchSession::faultsSaid() const
{
    QStringList said;
    if (hasRun())
        for (const Fault& f : m_run->state().faults)
            said << words::faultText(plant(), f);
    return said.isEmpty()
        ? QString()
        : tr("ON THE BENCH, TO TRY: %1. What stands below is without it").arg(said.join(QStringLiteral(", ")));
}

} // namespace ts::app
