// The runs that a starter brings along: what an electrician tries first, with what should follow if all is wired well.

#include "core/patterns/sheet.h"

namespace ts::patterns {
namespace {

/// Steps and expectations in the words of one starter.
class Script {
public:
    Script(const StarterSheet& sheet, const std::string& name, double lengthS)
        : m_s(&sheet)
    {
        m_scenario.name = sheet.before() + name;
        m_scenario.lengthS = lengthS;
        if (sheet.shared.needsReset)
            operate(0.5, "S4", 0.3);
    }
    /// What follows is said of another starter.
    Script& of(const StarterSheet& other)
    {
        m_s = &other;
        other.shared.begin(other);
        return *this;
    }
    Script& act(double at, const char* action, const std::string& target, double value = 0.0)
    {
        m_scenario.steps.push_back({at, action, m_s->tag(target), value});
        return *this;
    }
    Script& operate(double at, const std::string& button, double heldS) { return act(at, "operate", button, heldS); }
    Script& expect(double at, const std::string& subject, const char* state)
    {
        m_scenario.expectations.push_back({at, m_s->tag(subject), state});
        return *this;
    }
    /// Whatever starts direction 1, at a moment; keeps it running.
    Script& start(double at)
    {
        const Plan& plan = m_s->plan;
        if (plan.is("operation", "hand_off_auto"))
            return act(at, "turn_to_hand", "S7");
        if (plan.is("operation", "run_inch_selector"))
            act(at - 0.2, "turn_to_run", "S7");
        if (plan.is("operation", "called_relay"))
            return act(at, "call", "B5");
        if (plan.is("operation", "switched"))
            return act(at, "turn_to_on", "S7");
        if (plan.is("operation", "enabling"))
            act(at - 0.2, "hold_halfway", "S8");
        if (plan.is("operation", "two_hand"))
            act(at, "press", "S3");
        if (m_s->runsWhileHeld())
            return act(at, "press", "S2");
        return operate(at, "S2", 0.6);
    }
    Script& stop(double at)
    {
        if (m_s->plan.is("operation", "hand_off_auto") || m_s->plan.is("operation", "switched"))
            return act(at, "turn_to_off", "S7");
        if (m_s->plan.is("operation", "called_relay"))
            return act(at, "end_call", "B5");
        if (m_s->plan.is("operation", "two_hand"))
            act(at, "release", "S3");
        if (m_s->plan.is("operation", "enabling"))
            act(at, "release", "S8");
        return m_s->runsWhileHeld() ? act(at, "release", "S2") : operate(at, "S1", 0.5);
    }
    Scenario taken() { return std::move(m_scenario); }

private:
    const StarterSheet* m_s;
    Scenario m_scenario;
};

constexpr double kStart = 2.0, kRunning = 14.0, kStop = 15.0, kLength = 60.0;

/// A drive under a stop ramps before it lets go; everything else lets go at once.
double outBy(const StarterSheet& s, double stop)
{
    return stop + (s.isDrive() ? 6.0 : 0.5);
}

/// How often a scenario happens, where it was said.
void often(StarterSheet& s, ScenarioId scenario, const char* rate)
{
    if (const auto perHour = s.plan.number(rate, 0, 3600); perHour && *perHour)
        s.panel.file().dossier.machine.duty.timesPerHour[scenario] = **perHour;
}

void addRuns(StarterSheet& s)
{
    const std::string& runner = s.runners[0];
    const ScenarioId plain = s.panel.scenario(Script(s, "Start and stop", kLength)
                                                  .expect(kStart - 0.3, "M1", "at_rest")
                                                  .start(kStart)
                                                  .expect(kStart + 1.2, runner, "in")
                                                  .expect(kRunning, "M1", "driven")
                                                  .stop(kStop)
                                                  .expect(outBy(s, kStop), runner, "out")
                                                  .expect(kStop + 8.0, runner, "out")
                                                  .taken());
    often(s, plain, "starts_per_hour");
    s.panel.scenario(Script(s, "Emergency stop while running", kLength)
                         .start(kStart)
                         .expect(kRunning, "M1", "driven")
                         .act(kStop, "press", "S0")
                         .expect(outBy(s, kStop), runner, "out")
                         .stop(kStop + 8.0)
                         .act(kStop + 12.0, "unlatch", "S0")
                         .expect(kStop + 13.0, runner, "out")
                         .taken());
    Script lost(s, "Supply lost and back", kLength);
    lost.start(kStart)
        .expect(kRunning, "M1", "driven")
        .act(kStop, "set", "G0.L1", 0.0)
        .act(kStop, "set", "G0.L2", 0.0)
        .act(kStop, "set", "G0.L3", 0.0);
    if (s.runsWhileHeld() || s.plan.is("operation", "called_relay"))
        lost.stop(kStop + 1.0);
    s.panel.scenario(lost.act(kStop + 4.0, "set", "G0.L1", 1.0)
                         .act(kStop + 4.0, "set", "G0.L2", 1.0)
                         .act(kStop + 4.0, "set", "G0.L3", 1.0)
                         .expect(kStop + 6.0, runner, "out")
                         .taken());
}

void addInching(StarterSheet& s)
{
    const bool separate = s.plan.is("operation", "separate_inch");
    const bool byButton = separate || s.plan.is("operation", "run_inch_button")
        || s.plan.is("operation", "run_inch_relay");
    const std::string inched = separate ? "Q5" : s.runners[0];
    if (!byButton && !s.plan.is("operation", "run_inch_selector"))
        return;
    const std::string button = byButton ? "S5" : "S2";
    const ScenarioId inch = s.panel.scenario(Script(s, "Inching", 10.0)
                                                 .act(kStart, "press", button)
                                                 .expect(kStart + 0.9, inched, "in")
                                                 .act(kStart + 1.0, "release", button)
                                                 .expect(kStart + (s.isDrive() ? 6.0 : 1.5), inched, "out")
                                                 .taken());
    often(s, inch, "inches_per_hour");
}

void addReversal(StarterSheet& s)
{
    if (!s.reverses || s.plan.is("operation", "hand_off_auto") || s.plan.is("operation", "called_relay"))
        return;
    s.panel.scenario(Script(s, "Both directions at once", 10.0)
                         .act(kStart, "press", "S2")
                         .act(kStart + 0.02, "press", "S3") // as nearly at once as two thumbs can
                         .act(kStart + 1.0, "release", "S2")
                         .act(kStart + 1.0, "release", "S3")
                         .expect(kStart + 3.0, "F1", "whole")
                         .taken());
    const ScenarioId other = s.panel.scenario(Script(s, "Other direction while running", kLength)
                                                  .start(kStart)
                                                  .expect(kStart + 2.0, s.runners[0], "in")
                                                  .operate(kRunning, "S3", 0.6)
                                                  .expect(kRunning + 3.0, "F1", "whole")
                                                  .taken());
    often(s, other, "reversals_per_hour");
    if (s.isDrive())
        return;
    // What a jam of the contactor's lever does: both armatures are pushed in by hand.
    s.panel.scenario(Script(s, "The other armature pushed in by hand", 12.0)
                         .start(kStart)
                         .expect(kStart + 2.0, s.runners[0], "in")
                         .act(8.0, "push_in", s.runners[1])
                         .act(8.5, "let_go", s.runners[1])
                         .expect(11.0, "F1", "whole")
                         .taken());
}

void addCall(StarterSheet& s)
{
    if (!s.plan.is("operation", "hand_off_auto"))
        return;
    s.panel.scenario(Script(s, "Called from outside", 30.0)
                         .act(kStart, "call", "B5")
                         .expect(kStart + 1.0, s.runners[0], "out")
                         .act(kStart + 2.0, "turn_to_auto", "S7")
                         .expect(kStart + 3.0, s.runners[0], "in")
                         .act(kStart + 8.0, "end_call", "B5")
                         .expect(kStart + 15.0, s.runners[0], "out")
                         .taken());
}

/// A button that is held bridges a contact that only lies in the hold.
void addHeldStart(StarterSheet& s)
{
    if (!hasHold(s.plan) && !s.plan.is("operation", "inching"))
        return;
    Script held(s, "Start held while a line is missing", kStop);
    held.act(kStart - 1.0, "set", "G0.L2", 0.0);
    if (s.plan.is("operation", "run_inch_selector"))
        held.act(kStart - 0.2, "turn_to_run", "S7");
    s.panel.scenario(held.act(kStart, "press", "S2")
                         .expect(kStart + 5.0, s.runners[0], "out")
                         .act(kRunning, "release", "S2")
                         .taken());
}

/// A start that is let go before a monitor has made up its mind must not leave the motor running.
void addTappedStart(StarterSheet& s)
{
    if (!hasHold(s.plan))
        return;
    constexpr double kTapS = 0.15; // longer than a contactor's pull-in, shorter than a monitor's delay
    Script tapped(s, "Start tapped while a line is missing", kStop);
    tapped.act(kStart - 1.0, "set", "G0.L2", 0.0);
    if (s.plan.is("operation", "run_inch_selector"))
        tapped.act(kStart - 0.2, "turn_to_run", "S7");
    s.panel.scenario(tapped.operate(kStart, "S2", kTapS).expect(kStart + 5.0, s.runners[0], "out").taken());
}

/// Both hands, but one a second too late; and one let go and pressed again while the other stays.
void addTwoHand(StarterSheet& s)
{
    if (!s.plan.is("operation", "two_hand"))
        return;
    s.panel.scenario(Script(s, "Second hand a second late", 10.0)
                         .act(kStart, "press", "S2")
                         .act(kStart + 1.0, "press", "S3")
                         .expect(kStart + 3.0, s.runners[0], "out")
                         .taken());
    s.panel.scenario(Script(s, "One hand let go and back", 20.0)
                         .start(kStart)
                         .expect(kStart + 2.0, s.runners[0], "in")
                         .act(kStart + 4.0, "release", "S3")
                         .expect(kStart + 5.0, s.runners[0], "out")
                         .act(kStart + 6.0, "press", "S3")
                         .expect(kStart + 8.0, s.runners[0], "out")
                         .taken());
}

/// What is left on starts again as soon as what stopped it is reset: a start by the reset alone.
void addLeftOn(StarterSheet& s)
{
    if (!s.plan.is("operation", "switched") || !s.shared.needsReset)
        return;
    s.panel.scenario(Script(s, "Left on, and reset", kLength)
                         .start(kStart)
                         .expect(kRunning, "M1", "driven")
                         .act(kStop, "press", "S0")
                         .expect(outBy(s, kStop), s.runners[0], "out")
                         .act(kStop + 4.0, "unlatch", "S0")
                         .expect(kStop + 5.0, s.runners[0], "out")
                         .operate(kStop + 6.0, "S4", 0.3)
                         .expect(kStop + 8.0, s.runners[0], "in")
                         .stop(kStop + 10.0)
                         .taken());
}

void addEnabling(StarterSheet& s)
{
    if (!s.plan.is("operation", "enabling"))
        return;
    s.panel.scenario(Script(s, "Enabling switch clenched", 12.0)
                         .start(kStart)
                         .expect(kStart + 2.0, s.runners[0], "in")
                         .act(kStart + 4.0, "clench", "S8")
                         .expect(kStart + 5.0, s.runners[0], "out")
                         .act(kStart + 6.0, "hold_halfway", "S8")
                         .expect(kStart + 8.0, s.runners[0], "out")
                         .taken());
}

void addPhaseLoss(StarterSheet& s)
{
    for (const char* line : {"L1", "L2", "L3"}) // a monitor that looks at two of three is blind for the last
        s.panel.scenario(Script(s, std::string("Line ") + line + " lost while running", kLength)
                             .start(kStart)
                             .expect(kRunning, "M1", "driven")
                             .act(kStop, "set", std::string("G0.") + line, 0.0)
                             .expect(kStop + 5.0, s.runners[0], "out")
                             .taken());
    addHeldStart(s);
    addTappedStart(s);
    if (s.isDrive() || s.plan.is("base", "solid_state"))
        return;
    s.panel.scenario(
        Script(s, "One pole fails behind the fuses", kLength)
            .start(kStart)
            .expect(kRunning, "M1", "driven")
            .act(kStop, "fault",
                (s.plan.is("base", "star_delta") ? std::string("Q1") : s.runners[0]) + "/3-4:does_not_close")
            .expect(kStop + 5.0, s.runners[0], "out")
            .taken());
}

/// While it runs, and while it runs down, the door stays locked; at rest it opens, and then nothing starts.
void addLockedGuard(StarterSheet& s)
{
    s.panel.scenario(Script(s, "Guard asked to open while running, and while it runs down", kLength)
                         .start(kStart)
                         .expect(kRunning, "M1", "driven")
                         .act(kRunning, "press", "S9")
                         .act(kRunning + 0.2, "open", "B2")
                         .expect(kRunning + 0.6, "B2", "closed")
                         .expect(kRunning + 0.6, "M1", "driven")
                         .stop(kStop)
                         .expect(kStop + 0.3, "B2", "closed")
                         .taken());
    constexpr double kAsked = 3.0; // the monitor has seen that everything stands
    s.panel.scenario(Script(s, "Guard opened at rest, then start pressed", kLength)
                         .act(kAsked, "press", "S9")
                         .act(kAsked + 0.5, "open", "B2")
                         .expect(kAsked + 1.0, "B2", "open")
                         .start(kAsked + 2.0)
                         .expect(kAsked + 4.0, "M1", "at_rest")
                         .taken());
}

void addOfOne(StarterSheet& s)
{
    s.shared.begin(s);
    addRuns(s);
    addInching(s);
    addReversal(s);
    addCall(s);
    addTwoHand(s);
    addEnabling(s);
    addLeftOn(s);
    if (!s.plan.is("monitor", "none"))
        addPhaseLoss(s);
    if (s.shared.locksGuard())
        addLockedGuard(s);
    if (s.plan.is("guard", "yes"))
        s.panel.scenario(Script(s, "Guard opened while running", kLength)
                             .start(kStart)
                             .expect(kRunning, "M1", "driven")
                             .act(kStop, "open", "B2")
                             .expect(outBy(s, kStop), s.runners[0], "out")
                             .taken());
}

/// Everything runs, and one of the stops is used.
void addStopOfAll(MachineSheet& m, const std::string& stop)
{
    constexpr double kApart = 1.0; // between two starts
    const double later = kApart * static_cast<double>(m.starters.size());
    const bool isGuard = stop == "B2";
    Script all(m.starters.front(),
        isGuard ? "Everything runs, and the guard is opened" : "Everything runs, and " + stop + " is pressed", kLength);
    double at = kStart;
    for (const StarterSheet& s : m.starters) {
        all.of(s).start(at).expect(kRunning + later, "M1", "driven");
        at += kApart;
    }
    all.act(kStop + later, isGuard ? "open" : "press", stop);
    for (const StarterSheet& s : m.starters)
        all.of(s).expect(outBy(s, kStop + later), s.runners[0], "out");
    m.panel.beginShared();
    m.panel.scenario(all.taken());
}

} // namespace

void addScenarios(MachineSheet& m)
{
    for (StarterSheet& s : m.starters)
        addOfOne(s);
    m.panel.beginShared();
    const bool guardOpens = !m.locksGuard(); // while anything runs
    for (const std::string& stop : m.stops)
        if (stop == "B2" ? guardOpens && m.starters.size() > 1 : m.starters.size() > 1 || stop != m.stops.front())
            addStopOfAll(m, stop);
}

} // namespace ts::patterns
