#pragma once
// One run of advance(): the state at hand, the network solved for it, and the devices reacting to what they see.
// Internal to simulation/. advance.cpp: time and instants; movers.cpp: what travels; reactions.cpp: devices that
// look at their voltages; drives.cpp: motors and heat between events.

#include "core/simulation/advance.h"
#include "core/simulation/circuits.h"
#include "core/simulation/logic.h"
#include "core/simulation/motion.h"
#include "core/simulation/stiff_step.h"

#include <functional>

namespace ts {

class Run {
public:
    Run(const Plant& plant, State& state, Trace& trace, Workspace& workspace);
    Pause run(std::span<const Stimulus> stimuli, const Limits& limits);

private:
    using StimulusIt = std::span<const Stimulus>::iterator;

    // one instant
    bool settleWith(StimulusIt& next, StimulusIt end);
    bool settle();
    /// One look of all devices; false if a supply or a semiconductor changed and the network is to be solved again.
    bool look();
    /// Moves of several devices are due, and together they were undone by what they brought about: equal parts would
    /// chatter or stand half-way for ever. Back to before, to take one after the other.
    bool isUndone() const;
    void solve();
    /// Only speeds have changed: the topology is the one at hand.
    void solveSpeeds();
    void readProtections();
    std::span<const double> polesOf(std::size_t protection) const;
    int record(Why why, int device, int slot, int from, int to, int cause, int net = -1, double si = 0.0);
    void apply(const Stimulus& s);
    /// A replaced fuse is new; a reset overload relay stays warm.
    void resetFlowsOf(int mover, int target);

    // movers
    std::pair<int, int> boundsOf(int mover) const;
    /// Which of the moves since the last solution brought something about: the first one without which it would not be
    /// so, else the first one that would have done it alone. With one move, or if neither is found, the last event.
    int causeOf(const std::function<bool(const Instant&)>& isSo) const;
    int causeOfMove(int mover) const;
    void reconcileMovers();
    void scheduleMove(int m, int target);
    void schedule(Pending p, TimeNs when, int to);
    /// Which net and value made the mover move: its coil's voltage, or the current that tripped it.
    void describeCause(int m, Pending& p) const;
    /// Of several devices at once?
    bool isTieDue() const;
    /// Puts what is due into effect: all of it, or with m_oneByOne what is due of one device. True if anything moved.
    bool applyDue();
    /// The device whose moves are taken first; -1: none is due.
    int firstDue() const;
    void recordRace(int winner, int loser);
    bool applyMove(const Pending& p);
    void countArrival(int mover);

    // devices look at their voltages
    double voltageAt(const Instant& instant, const PlantCoil& coil) const;
    double coilVoltage(const PlantCoil& c) const;
    bool attracts(const PlantCoil& c, double volts) const; ///< by its limits, as its armature stands
    void reactCoils();
    /// Input there or not, voltage or current limit. True if a mode or the power taken changed: solve again.
    bool reactSupplies();
    bool hasInput(const PlantConverter& c) const;
    void enterMode(int k, ConverterMode before, ConverterMode after, double outputA);
    void endHoldUp(const Pending& p);
    void reactProtections();
    double senseV(int impedance) const;
    void reactRelays();
    LogicInputs inputsOf(std::size_t k) const;
    void seeStandstill(const StandstillLogic& l, LogicInputs& in) const;
    std::uint16_t sightOfLogic(std::size_t k) const;
    /// True if semiconductors changed what they do: solve again.
    bool reactLogics();
    double anyV(int impedance) const;
    void recordRelay(int k, int device, const RelayWord& before, const RelayWord& after);
    void markLamps();
    double lampCurrentA(const PlantLamp& lamp) const;

    // motors and heat
    TimeNs drivenSince() const;
    bool isAnyDriven() const;
    double airGapNm(const PlantMotor& m, const network::Solution& solution, double slip) const;
    /// Decides each motor's law and writes heat and damage forward to now with the new currents.
    void rebaseFlows();
    Flow lawOf(std::size_t motor, double speedRadPerS) const;
    const PlantDrive* activeDrive(std::size_t motor) const;
    bool exceedsMagnetic(std::size_t k) const;
    void rebaseProtections();
    /// What decides about a step of speed, gathered once for it.
    struct Start {
        std::vector<double> speed; ///< rad/s, by motor
        std::vector<double> slip;
        std::vector<bool> moves; ///< driven and not steady
        std::vector<std::size_t> moving; ///< those that do
        std::vector<ShaftTorque> shaft;
    };
    void gatherStart();
    /// The small system that the moving motors see, if it is not the one at hand.
    void seeFromMotors();
    double accelerationOf(std::size_t motor, double speed, double slip, const network::Solution& solution) const;
    /// Of the motors that move; only they are integrated.
    StiffStep stepFromStart();
    Integrated integrate(const StiffStep& from, double h);
    /// What decides about a step from here, as a key: the circuit and the slips held in it, or what the moving motors
    /// see of it.
    enum class Decides { Circuit, View };
    void gatherStepKey(Decides what, TimeNs phase, TimeNs length);
    /// Remembered, or worked out.
    template <class Work> void recallStep(TimeNs phase, TimeNs length, Work workOut);
    /// A step from now: to an event, or to the next instant of the grid that it can reach accurately.
    void stepTowards(TimeNs event);
    /// From the same start, no longer than the last one.
    void shortenStep(TimeNs length);
    /// What would make a device react, as one comparable value: it must not change within a step of speed.
    void readZones(std::vector<std::uint8_t>& zones) const;
    /// Integrates driven motors towards the next event, one step at most; steps end on a fixed grid of time. A pause
    /// within a step leaves the speeds behind and changes nothing. True if only speeds and heat moved on; false if a
    /// device must react: the step then ends at the first instant of the time grid at which one must.
    bool moveBy(TimeNs event, TimeNs until);
    /// True if no driven motor changed its speed any more.
    bool takeSpeeds(TimeNs now, const std::vector<double>& speeds);
    void markMotors();
    void markOutputs();

    const Plant& m_plant;
    State& m_state;
    Trace& m_trace;
    Workspace& m_workspace;
    Overlay m_overlay;
    Instant m_instant;
    std::vector<double> m_slips;
    std::vector<double> m_protectionsA; ///< RMS of both kinds of current, by protection, by pole or winding
    std::vector<std::size_t> m_firstPole; ///< by protection, and one more
    Start m_start;
    std::vector<std::uint8_t> m_headed; ///< by mover: these four, their memory is used again
    std::vector<Flow> m_flowsBefore;
    std::vector<std::uint8_t> m_zonesBefore, m_zones;
    MemoryKey m_stepKey;
    SpeedStep m_step;
    network::MotorView m_view; ///< what the driven motors see; kept while the topology and the others' speeds stay
    std::shared_ptr<const AlternatingCircuit> m_viewOf;
    std::uint64_t m_viewNumber = 0;
    network::Solution m_seen; ///< voltages of that view: its memory is used again
    /// A move since the last solution.
    struct Applied {
        int event = 0, mover = 0;
        std::uint8_t from = 0;
    };
    std::vector<Applied> m_applied;
    std::vector<int> m_reasonOf; ///< by mover: the event of its own logic that drives it, in this round; -1: none
    bool m_chatter = false;
    Limits::Ties m_ties = Limits::Ties::FirstIdFirst;
    bool m_oneByOne = false; ///< within this instant
    bool m_findsCauses = true;
};

} // namespace ts
