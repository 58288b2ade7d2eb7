#pragma once
// The running circuit behind the Bench: one BenchRun, a clock that drives it, and the newest frame. Views listen to
// frameChanged and read; gestures become stimuli here and nowhere else.

#include "core/simulation/bench_run.h"

#include <QElapsedTimer>
#include <QObject>
#include <QTimer>

#include <memory>

namespace ts::app {

class BenchSession : public QObject {
    Q_OBJECT
public:
    explicit BenchSession(QObject* parent = nullptr);

    /// Another circuit: starts at rest, running. Null: nothing to run.
    void setPlant(std::shared_ptr<const Plant> plant);
    /// The same circuit, changed: what runs goes on running. Null is a circuit with nothing to run.
    void changePlant(std::shared_ptr<const Plant> plant);
    bool hasRun() const { return m_run != nullptr; }
    BenchRun& run() { return *m_run; }
    const BenchRun& run() const { return *m_run; }
    const Plant& plant() const { return m_run->plant(); }
    const Frame& frame() const { return m_frame; }

    /// An action word of a device ("press"). Unknown ones are our mistake.
    void act(const std::string& tag, const std::string& word);
    void setFault(const Fault& fault, bool on);
    void clearFaults();
    void setKnob(int knob, double value);

    bool isRunning() const { return m_running; }
    void setRunning(bool running);
    /// From rest through a script of actions and faults to a time, and pauses there.
    void play(const std::vector<Stimulus>& script, TimeNs until);
    void stepForward();
    void stepBack();
    void restart();
    /// Advances by simulated time at once, without a clock; for tests and pictures.
    void advanceBy(double s);
    /// Somebody else says where it goes: what `how` does to the run is looked at then.
    void drive(const std::function<void(BenchRun&)>& how);
    /// Without it the session only moves by advanceBy.
    void setClockEnabled(bool enabled);

    /// So many times slower than the machine, from 1.
    void setPace(int slower);
    int pace() const { return m_pace; }
    /// What faults are on, in one line; empty: none.
    QString faultsSaid() const;
    bool isSlow() const { return m_slow; } ///< the last ticks could not keep up with real time
    bool isChattering() const { return m_chatters; }

signals:
    void frameChanged(); ///< time went on or something was done
    void runChanged(); ///< another run: forget everything cached from traces
    void runningChanged();

private:
    void take(std::unique_ptr<BenchRun> run);
    void tick();
    void look();
    Pause advanceTo(TimeNs until, const std::function<bool()>& outOfBudget);

    std::unique_ptr<BenchRun> m_run;
    Frame m_frame;
    QTimer m_timer;
    QElapsedTimer m_clock;
    int m_pace = 1;
    TimeNs m_owedNs = 0; ///< less than the grid of time
    bool m_running = true, m_slow = false, m_chatters = false, m_clockEnabled = true;
};

} // namespace ts::app
