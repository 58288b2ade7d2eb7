#pragma once
// Who tries: running states, what is done to them, and what is kept of it. Internal to trials_*.cpp; what is tried is
// said in trials.h.

#include "core/base/at.h"
#include "core/exploration/trials.h"
#include "core/simulation/frame.h"

#include <set>

namespace ts::exploration {

constexpr TimeNs kNextNs = 1'000'000'000, kLookNs = 3'000'000'000; ///< in a script that is to be watched
constexpr double kPulledShare = 0.8; ///< of its rated voltage a coil is meant to pull in

struct Running {
    const Deed* deed;
    std::size_t actuator;
    State state;
};

class Trier {
public:
    using What = TrialSeen::What;
    using Effect = Deed::Effect;

    Trier(const Circuit& circuit, Plant plant, Behaviour behaviour, std::stop_token stop)
        : m_circuit(circuit)
        , m_plant(std::move(plant))
        , m_behaviour(std::move(behaviour))
        , m_stop(std::move(stop))
    {
    }

    Expected<Trials> run(const std::function<void(std::size_t, std::size_t)>& listener);

private:
    // trials.cpp: states, and what is kept
    bool isDriven(const State& s, std::size_t actuator) const { return s.actuatorMode[actuator] == MotorMode::Driven; }
    DeviceId idOf(int device) const { return m_plant.devices[at(device)].id; }

    std::size_t slotOf(DeviceId actuator) const;

    /// A way from switching on, to a moment.
    State replayed(std::span<const Done> way, TimeNs until, std::vector<Stimulus> before = {});

    /// With the machine running: what runs only while it is held is held on.
    State stateOf(const Deed& d, std::vector<Stimulus> before = {});

    /// Done, and everything that follows; none if the circuit chatters.
    std::optional<State> after(const State& before, std::vector<Stimulus> stimuli);
    std::optional<State> with(const State& before, const Fault& fault);
    std::optional<State> with(const State& before, DeviceId hand, const std::string& action);

    std::optional<Stimulus> handOf(DeviceId hand, const std::string& action) const;

    void noteMoved(const Trace& trace);

    /// What goes on by itself before what is held, then the shortest.
    static std::pair<bool, std::size_t> worth(const Deed& d);

    /// One running state of each motor and direction.
    void gather();

    /// Its script leads to that state.
    TrialSeen seenIn(const Running& r, What what) const;
    struct Push;
    /// The same up to where that push begins.
    TrialSeen seenBefore(const Push& p, What what) const;
    /// Next in its script, with time to look at what comes of it.
    static void then(TrialSeen& t, Stimulus s);
    static void then(TrialSeen& t, const Fault& fault);

    /// Once for the same parts.
    void keep(TrialSeen t);

    void tryRunning(const Running& r);

    // trials_power.cpp and trials_control.cpp: what is tried
    struct Stop {
        DeviceId device;
        Stimulus stimulus;
    };
    /// What a hand or a trip stops this with, from this state.
    std::vector<Stop> stopsOf(const Running& r);
    bool staysDriven(const State& before, const Stimulus& s, std::size_t actuator);

    Stimulus tripOf(int protection) const;

    /// Thermal protections through which its current flows, one of each device.
    std::vector<int> carriersOf(const Running& r) const;

    void tryOverloads(const Running& r);
    /// Overloads whose trips nobody can tell apart by the lamps.
    void compareTrips();

    Fault broken(const PlantWire& w) const;
    bool touches(const PlantWire& w, int device) const;
    int deviceSlot(DeviceId id) const;

    /// A wire that breaks should stop: else nobody sees that the button is dead.
    void tryStopWires(const Running& r);

    /// A coil's terminals on the frame, and then whatever stops.
    void tryEarth(const Running& r);

    /// Where one earth fault changes nothing, nobody knows of it: the second one, then.
    void tryTwoEarths(const Running& r);

    /// Monitors that stop it by their contact: each of their wires off.
    void tryMonitors(const Running& r);

    /// A lost line at which nothing stops it any more, though it would without the cut.
    std::optional<Stimulus> blindTo(const Running& r, const State& cut) const;

    void tryDisconnectors(const Running& r);

    void tryFrame(const Running& r);

    /// What it runs on against its plate; at a drive's own frequency it cannot be read.
    void readVoltage(const Running& r);

    /// Coils that are in and lamps that are lit, each shorted at its own terminals.
    void tryShorts(const Running& r);

    void tryShort(const Running& r, int impedance, double ratedA);

    /// A supply that limits its current drops by it; what lies ahead of the load may hold it down, too.
    bool staysShorted(const State& before, const State& then, const PlantImpedance& load, double ratedA) const;
    void keepShort(const Running& r, const PlantImpedance& load, const State& then);
    double largestInto(const Frame& frame, const PlantImpedance& load) const;

    /// Lamps that go with it, though one of its contactors does not.
    void tryLamps(const Running& r);

    /// A contactor that does not pull in and of which the lamp knows nothing, as of no other: none if it goes dark
    /// without one of them.
    std::optional<Stimulus> firstUnseen(const Running& r, const State& rest, std::size_t lamp);

    // trials_shape.cpp
    /// A contactor that stays in: what stops it nevertheless must still hold it when let go.
    void tryStuck(const Running& r);
    std::vector<int> contactorsIn(const State& s) const; ///< movers of main contacts that are pulled in
    enum class Through { Contacts, Electronics };
    /// What is joined with the lines by closed contacts and wires, no winding between; or by semiconductors, too, which
    /// hold off no more than they are healthy.
    std::vector<std::uint8_t> onTheLines(const State& s, Through through = Through::Contacts) const;
    void readSeparation(const Running& r);
    std::size_t controlDevicesAmong(const std::vector<std::uint8_t>& nodes) const;

    // trials_lines.cpp
    /// A fuse on the bonded side: blown, it leaves what it fed on full voltage.
    void tryReturns(const Running& r);
    /// Each line into the control supply on earth.
    void tryEarthedLines(const Running& r);
    /// Stops by an emergency stop or guard that leave the lines on semiconductors.
    void tryElectronics(const Running& r);

    /// A line lost where no monitor is, and two exchanged.
    void tryUnwatched(const Running& r);
    void tryLosses(const Running& r, const PlantDevice& supply);
    void tryExchange(const Running& r, const PlantDevice& supply);
    /// Stops by an emergency stop or guard, with each relay's signalling contacts as they were.
    void trySignals(const Running& r);

    /// Emergency stops and guards that a controller reads, and that stop nothing.
    void tryReadings(const Running& r);

    // trials_hands.cpp
    /// Whatever else a hand can do to a relay that waits for its reset.
    void tryResets();
    bool isWaiting(const PlantRelay& relay, const State& s) const;
    bool isReset(const PlantRelay& relay, const State& s) const;
    /// Hands that reset it from there, and one state that comes of it.
    std::vector<std::pair<DeviceId, Stimulus>> resetHands(
        const PlantRelay& relay, const State& waiting, std::optional<State>& reset);
    std::vector<Stimulus> tapOf(const Stimulus& push, TimeNs when) const; ///< pushed, and let go as a hand does
    std::optional<State> tapped(const State& before, const Stimulus& push); ///< and what follows within a second
    std::string whatElse(DeviceId hand) const;
    /// What stopped it stays operated, and every start is tried.
    void tryLocks(const Running& r);
    bool startsLocked(const Running& r, const State& locked, const Stimulus& first, const Stimulus& own);
    /// Until it stands by itself, stopped by that; none if it goes on.
    std::optional<double> runDownS(const Running& r, const Stimulus& stop);
    double speedOf(const State& s, std::size_t motor) const; ///< rad/s
    /// From one direction at once into the other.
    void tryTurning(const Running& a, const Running& b);

    /// The push of a start that is let go again, and the state before it.
    struct Push {
        const Deed* deed;
        std::size_t actuator;
        Stimulus push;
        State before;
    };
    std::vector<Push> pushes(Effect effect);

    void tryHands();

    /// Not a selector: with that a person only says how it shall run.
    static bool isStopCommand(const Deed& d) { return !d.action.starts_with("turn_to_"); }

    /// Start held, then the stop.
    void tryBoth(const Push& p, const Deed& stop);

    bool tryTap(const Push& p, TimeNs heldNs);

    std::set<int> pulledIn(const State& s) const;
    DeviceId firstBeyond(const std::set<int>& a, const std::set<int>& b) const;

    void tryDirections();

    void compareDirections(const Running& a, const Running& b);

    /// Both starts held, one after the other.
    void tryTogether(const Running& a, const Running& b);

    /// Only where everything that hands can do was tried.
    void lookForIdle();

    void sayWhatServes();

    const Circuit& m_circuit;
    Plant m_plant;
    Behaviour m_behaviour;
    std::stop_token m_stop;
    Workspace m_workspace;
    Trials m_found;
    std::vector<Running> m_running;
    std::vector<const Deed*> m_stops;
    std::vector<std::uint8_t> m_moved; ///< by mover: it has left its position of rest
    std::vector<std::uint8_t> m_lit; ///< by lamp: something made it show
    std::set<int> m_shorted;
    struct Trip {
        std::set<std::size_t> lamps; ///< other than after an ordinary stop
        TrialSeen seen;
    };
    std::vector<Trip> m_trips;
    std::set<std::tuple<What, DeviceId, DeviceId, DeviceId, WireId, std::string>> m_kept;
};

} // namespace ts::exploration
