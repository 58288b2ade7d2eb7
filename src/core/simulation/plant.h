#pragma once
// The circuit made ready to run: everything in flat arrays by slot, in order of id. Immutable, shared by threads.
// Values that change are in state.h; voltages are computed in electrics.h.

#include "core/library/kind.h"
#include "core/model/circuit.h"

#include <string>
#include <string_view>
#include <vector>

namespace ts {

struct PlantDevice {
    DeviceId id;
    std::string tag;
    std::string kind;
    std::vector<std::pair<std::string, std::pair<int, std::uint8_t>>> actions; ///< word -> mover, target
    std::vector<int> movers, lamps, motors, converters, relays, links, protections, logics;
    int actuator = -1; ///< -1: nothing that a function brings to rest
};

struct PlantTerminal {
    int device = 0;
    std::string marking;
    bool inner = false;
    int node = 0;
    int net = -1; ///< -1: inner
};

/// Terminals joined by wires. Derived, never stored.
struct PlantNet {
    std::string name; ///< smallest wire number in it, else its first terminal
    std::vector<int> terminals;
};

/// An ideal connection that can be open or closed: a contact, a pole, or a short wire.
struct PlantLink {
    int p = 0, q = 0;
    int device = -1; ///< -1: a wire
    int wire = -1; ///< index into Plant::wires
    std::string role;
    ContactElement contact; ///< mover is a plant slot
};

/// A two-pole with impedance. What it is decides which value counts.
struct PlantImpedance {
    enum class Kind { Load, Coil, Lamp, Sense, Wire, CableCapacitance };
    Kind kind = Kind::Load;
    int p = 0, q = 0;
    int device = -1;
    int wire = -1;
    std::string role;
    Complex alternatingOhm; ///< coil: armature out
    Complex sealedOhm; ///< coil: armature in
    double directOhm = 0;
    double sealedDirectOhm = 0; ///< coil: armature in; 0: the same
    int mover = -1; ///< coil
    int burnt = -1; ///< coil: mover of its burnt winding
};

struct PlantCoil {
    int impedance = 0;
    int mover = 0;
    CoilElement data;
};
struct PlantLamp {
    int impedance = 0;
    int device = 0;
    LampElement data;
};
struct PlantSource {
    int p = 0, q = 0;
    int device = 0;
    std::string role;
    Complex emf, ohm;
    int knob = -1;
    double nominalV = 0;
    double directV = 0;
};
struct PlantTransformer {
    int p1 = 0, p2 = 0, s1 = 0, s2 = 0;
    int device = 0;
    TransformerElement data;
};
struct PlantMotor {
    std::array<int, 6> nodes{};
    int device = 0;
    MotorElement data;
    int flow = 0; ///< speed in rad/s
    std::vector<int> brakes; ///< movers on its shaft
};
/// What a function brings to rest: a motor, or what a coil moves or heats.
struct PlantActuator {
    int device = 0;
    std::vector<int> coils; ///< each moves or heats by itself; none: a motor
    std::vector<int> nodes; ///< where its power comes in
    bool holds = false; ///< must not let go when something else is stopped
};
struct PlantConverter {
    int inputP = 0, inputQ = 0, plus = 0, minus = 0;
    int device = 0;
    ConverterElement data;
};
struct PlantProtection {
    Protection data; ///< mover and poles are plant slots (poles: links)
    int device = 0;
    int flow = 0; ///< heat, damage, or how far a magnetic latch is pulled
};
struct PlantRelay {
    SafetyRelayLogic data; ///< senses are impedance slots, movers plant slots
    int device = 0;
};
struct PlantLogic {
    DeviceLogic data; ///< senses are impedance slots, poles link slots, movers and levels plant slots
    int device = 0;
};
/// A soft starter's pole.
struct PlantVariable {
    int p = 0, q = 0;
    int device = 0;
    VariableElement data;
};
struct PlantDrive {
    std::array<int, 3> inputs{}, outputs{};
    int device = 0;
    DriveElement data;
};
struct PlantMover {
    int device = 0;
    MoverSpec spec;
    std::vector<int> partners; ///< mechanical interlock: sum of travels stays at 2
    std::vector<int> frees; ///< movers that can leave rest only while this one is actuated
};
struct PlantWire {
    WireId id;
    std::string number;
    int p = 0, q = 0; ///< nodes
    int link = -1, impedance = -1; ///< one of the two
};
struct PlantKnob {
    std::string name; ///< "G0.L1"
    double initial = 1.0;
};

struct Plant {
    double frequencyHz = 50;
    int nodeCount = 1; ///< node 0 is protective earth
    std::vector<PlantDevice> devices;
    std::vector<PlantTerminal> terminals;
    std::vector<PlantNet> nets;
    std::vector<PlantWire> wires;
    std::vector<PlantLink> links;
    std::vector<PlantImpedance> impedances;
    std::vector<PlantCoil> coils;
    std::vector<PlantLamp> lamps;
    std::vector<PlantSource> sources;
    std::vector<PlantTransformer> transformers;
    std::vector<PlantMotor> motors;
    std::vector<PlantActuator> actuators; ///< motors first, each in its own slot
    std::vector<PlantConverter> converters;
    std::vector<PlantProtection> protections;
    std::vector<PlantRelay> relays;
    std::vector<PlantLogic> logics;
    std::vector<PlantVariable> variables;
    std::vector<PlantDrive> drives;
    std::vector<PlantMover> movers;
    std::vector<PlantKnob> knobs;
    int flowCount = 0, levelCount = 0;
    std::vector<int> netOfNode; ///< -1: inner node
    double largestNeglectedOhm = 0; ///< of a wire taken as ideal
    std::uint64_t circuitNumber = 0; ///< the same for plants of one circuit, at whatever timing; never 0 once compiled

    const PlantDevice& deviceOfActuator(int slot) const;
    std::vector<int> actuatorsOf(const std::vector<DeviceId>& ids) const; ///< slots, in the order of the ids
    std::vector<const PlantConverter*> supplies() const; ///< converters that feed other devices
    int deviceIndex(std::string_view tag) const; ///< -1 if there is none
    int terminalIndex(std::string_view tag, std::string_view marking) const; ///< -1 if there is none
    std::string nameOfNode(int node) const; ///< "Q1:13" of its first terminal
};

/// Wires longer than this, or in a cable, are resistances; the others are ideal.
constexpr double kIdealWireLengthM = 10.0;

/// In cables longer than this the capacitance between cores counts.
constexpr double kCapacitiveLengthM = 50.0;

enum class Wires : std::uint8_t {
    AsTheyMatter, ///< short ones in an enclosure are ideal
    EachAResistance ///< what sizing asks for: slower, and nothing is neglected
};

/// Fails with what the device kinds refuse, and with NotFound for a wire that ends nowhere. Pure.
Expected<Plant> compile(const Circuit& circuit, Timing timing = Timing::Nominal, Wires wires = Wires::AsTheyMatter);

/// Every coil at that end of its band. Voltages of the network do not depend on it.
void setCoilBand(Plant& plant, CoilBand band);

/// Of which motors: those where somebody entered the least load, or all, where it is none at all by default.
enum class LeastLoads : std::uint8_t { Entered, Any };
/// Motors with the least load that they may have. It counts as another circuit: what moves, moves otherwise.
void setLowestLoad(Plant& plant, LeastLoads which);

/// Resistance of a copper wire at 20 degrees. Source: resistivity row of device_defaults.csv.
double wireOhm(const Wire& wire);

} // namespace ts
