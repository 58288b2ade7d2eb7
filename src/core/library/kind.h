#pragma once
// What a device kind is: parameters, terminals, elements, movers, at most one logic, failure modes.
// A kind is a description; simulation/ knows elements and movers, never kinds. Registry: registry.h.

#include "core/base/expected.h"
#include "core/library/logic.h"
#include "core/library/melting.h"
#include "core/library/parameters.h"
#include "core/model/function.h"
#include "core/network/network.h"

#include <array>
#include <cstdint>
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <variant>
#include <vector>

namespace ts {

using network::Complex;

/// A point of the device that a wire can reach, or an inner node.
struct TerminalSpec {
    std::string marking;
    bool inner = false; ///< no wire reaches it
    bool protectiveEarth = false; ///< the supply's own earth: the reference of all voltages
};

/// Anything that travels and carries contacts: armature, button, latch, trip mechanism, blown fuse element.
/// Travel goes 0 (rest), 1 (on the way: opening contacts open, closing ones not yet closed), 2 (actuated). A selector
/// of three positions goes on to 3 (on the way) and 4.
struct MoverSpec {
    enum class Driver { Operator, Coil, Protection, Logic };
    std::string role;
    Driver driver = Driver::Operator;
    std::uint8_t initial = 0;
    double toActuatedS = 0.0; ///< from cause to travel 2
    double toRestS = 0.0; ///< from cause to leaving travel 2
    double gapS = 0.0; ///< between travel 1 and the end positions
    bool latches = false; ///< stays actuated when let go
    std::uint8_t last = 2; ///< the furthest travel
    int freedBy = -1; ///< mover that must be actuated before this one can leave rest, and cannot return before it
    double brakesNm = 0; ///< holds the shaft it is linked to unless actuated
    bool isOutput = false; ///< what it does when actuated is a hazard: a valve's spool, an element that is hot
    bool holds = false; ///< of an output: the hazard is that it lets go, as of a clamp or a magnet that carries
    bool turnsAtOnce = false; ///< a motor: on the way from the first moment, and let go on the way it runs down as long
                              ///< as from full speed
    bool opensOnReturn = false; ///< once beyond travel 2 it closes nothing there again before it has been at rest
};

constexpr std::uint8_t kAtRest = 0b00001;
constexpr std::uint8_t kOnTheWay = 0b00010;
constexpr std::uint8_t kActuated = 0b00100;
constexpr std::uint8_t kFar = 0b10000; ///< the third position of a selector
constexpr std::uint8_t kAlways = 0b11111;

enum class ContactKind { Main, NormallyOpen, NormallyClosed, Pole };

/// Closed by travel. A Pole is a protective pole's current path.
struct ContactElement {
    ContactKind kind = ContactKind::NormallyOpen;
    int mover = -1; ///< -1: closed unless a fault opens it
    std::uint8_t closedAt = kAlways; ///< set of travels
    bool boundsMover = false; ///< welded, it keeps its mover from returning to rest (mirror or linked contacts)
    bool opensWhenOff = false; ///< its block is monitored: come off the actuator, it opens
};

/// Attracts a mover. Reads direct or alternating voltage, as it is made for.
struct CoilElement {
    int mover = 0;
    bool direct = false;
    double ratedV = 0;
    Complex openOhm, sealedOhm; ///< alternating current, armature out / in
    double resistanceOhm = 0; ///< direct current
    double sealedResistanceOhm = 0; ///< direct current, actuated; 0: the same
    double pickUpV = 0, dropOutV = 0;
    bool hasBand = true; ///< false: no magnet, it acts at these voltages whatever the part
    int burnt = -1; ///< mover: actuated, the winding is open for good
};

/// A plain load.
struct LoadElement {
    Complex alternatingOhm;
    double directOhm = 0;
};

/// What answers by light or sound, or the input that a controller reads.
struct LampElement {
    enum class Shows { Light, Sound, Input };
    double ohm = 0;
    double ratedA = 0;
    double visibleFrom = 0; ///< share of the rated current
    Shows shows = Shows::Light;
};

/// One phase of the supply, or a direct voltage from elsewhere.
struct SourceElement {
    double emfV = 0;
    double angleDeg = 0;
    Complex ohm;
    std::string knob; ///< name of the factor that an operator can set: "L1"
    double nominalV = 0; ///< 0: not a live pole
    double directV = 0; ///< direct source: then emfV is 0
};

struct TransformerElement {
    double ratio = 1;
    Complex shortCircuitOhm, magnetisingOhm;
    double primaryOhm = 0, secondaryOhm = 0; ///< direct current resistances
    double nominalSecondaryV = 0; ///< 0: a current transformer, its secondary feeds nothing
};

struct MotorElement {
    network::MotorCircuit circuit;
    bool sixTerminal = false;
    bool starWindings = true; ///< six terminals: the plate's values are those of the star connection, else of delta
    double synchronousRadPerS = 0;
    double inertiaKgm2 = 0; ///< rotor and load
    double frictionNm = 0; ///< constant part that opposes motion
    double fanNms2 = 0; ///< load torque = fan * speed^2
    double hangingNm = 0; ///< a weight that pulls backwards, also at rest
    double ownFrictionNm = 0; ///< of frictionNm: what is there without any load
    double lowestLoad = 1; ///< the least load, as a share of the one above
    bool isLowestLoadEntered = false; ///< else it is assumed: none
    double standstillRadPerS = 0;
    double ratedA = 0;
    double voltageV = 0; ///< between two lines
    double remanentShare = 0; ///< of it: what its iron's own magnetism induces at synchronous speed once it is off
};

/// 24 V supply: voltage source with current limit and hold-up.
struct ConverterElement {
    double inputV = 0, lowestInputV = 0;
    double outputV = 0, limitA = 0, outputOhm = 0;
    double holdUpS = 0, efficiency = 1, standbyW = 0;
    bool isInner = false; ///< feeds nothing but the device it is in; takes direct or alternating current
};

/// What a logic looks at: the voltage between two terminals.
struct SenseElement {
    enum class Use { Input, Supply, Tap }; ///< where it is drawn: as a port, as a load, in the power circuit
    double ohm = 0;
    Use use = Use::Input;
};

/// A pole whose impedance a logic sets by its level: open while inactive, nothing left at 1.
struct VariableElement {
    int level = 0;
    double fullOhm = 0; ///< reactance left at a level of one half
};

/// A drive's power part: three lines in, three out.
struct DriveElement {
    int level = 0;
    double inputOhm = 0; ///< what its rectifier and fans take at rest
    double rampUpS = 0, rampDownS = 0;
};

struct Element {
    std::string role; ///< "13-14", "coil", "lamp": part of the site name of a fault
    std::array<int, 6> terminals{-1, -1, -1, -1, -1, -1}; ///< index into Body::terminals
    std::variant<ContactElement, CoilElement, LoadElement, LampElement, SourceElement, TransformerElement, MotorElement,
        ConverterElement, SenseElement, VariableElement, DriveElement>
        what;
};

/// True if other devices are fed by it.
inline bool isConverter(const Element& e)
{
    const auto* converter = std::get_if<ConverterElement>(&e.what);
    return converter && !converter->isInner;
}

/// When the current through poles moves a mover to the tripped position.
struct Protection {
    enum class Law {
        Melting, ///< one pole, by its curve
        Magnetic, ///< instantaneous release, if the current lasts for latchS
        Thermal ///< heating of all poles; see Run for how it grows
    };
    Law law = Law::Melting;
    int mover = 0;
    std::uint8_t trippedTravel = 2;
    std::vector<int> poles; ///< indices into Body::elements
    int winding = -1; ///< element index of a coil: its own current counts instead
    double ratedA = 0;
    double limit = 0; ///< magnetic: multiple; thermal: heat at which it trips, (I/rated)^2
    double timeConstantS = 0; ///< thermal and cooling
    double latchS = 0; ///< how long the latch must be pulled; a current that is gone sooner leaves it closed
    double unbalanceWeight = 0; ///< thermal: what the difference to the coolest pole adds to the hottest one's heat
    double resetBelow = 0; ///< thermal: closes by itself when it has cooled to this; 0: by hand
    MeltingCurve melting{};
};

/// What a person can do to the device.
struct ActionSpec {
    std::string word; ///< "press"
    int mover = 0;
    std::uint8_t target = 0;
};

struct Body {
    std::vector<TerminalSpec> terminals;
    std::vector<Element> elements;
    std::vector<MoverSpec> movers;
    std::vector<Protection> protections;
    std::vector<SafetyRelayLogic> safetyRelays;
    std::vector<DeviceLogic> logics;
    int levelCount = 0; ///< of soft starters and drives
    double frequencyHz = 0; ///< of a supply that sets it
    std::vector<ActionSpec> actions;
};

/// How a fault is written to the circuit; see simulation/fault.h for what each one does.
struct FailureModeSpec {
    std::string_view element; ///< "contact", "main", "coil", "armature", "lamp", "fuse" ...
    std::string_view mode; ///< "welded"
};

inline constexpr double kUsualDirectControlV = 24.0; ///< IEC 60204-1: what kinds without a voltage of their own are
                                                     ///< made for

/// What others need to know of a kind, so that nobody asks which kind it is.
struct KindTraits {
    /// What a person relies on when it is operated; nothing: it only serves.
    enum class Protects : std::uint8_t { Nothing, EmergencyStop, Guard };
    Protects protects = Protects::Nothing;
    Safeguard safeguard = Safeguard::Unsaid; ///< what it is if nobody says more of it: the worst of what it may be
    bool isOutputPart = false; ///< a mechanical or fluid part that power is taken from: a brake, a valve
    bool isFromElsewhere = false; ///< a signal of another machine or controller: that it goes may demand a stop
    bool isActuator = false; ///< moves, heats or holds: something a function brings to rest
    bool isProgrammed = false; ///< holds a program or configuration that somebody writes
    bool hasExternalActuator = false; ///< works through an actuator that can break off or be removed (ISO 13849-2 table
                                      ///< D.8)
};

struct DeviceKind {
    std::string_view id; ///< the word in the file and the wording key
    std::string_view letter; ///< IEC 81346 letter for new tags
    std::span<const ParameterSpec> parameters;
    Expected<Body> (*body)(const Parameters&, Timing);
    std::span<const FailureModeSpec> failureModes;
    std::string_view symbol; ///< geometry in diagram/symbols
    std::string_view look; ///< how it appears on the door or plate
    std::string_view blocks{}; ///< parameter that lists the contacts an add-on block can extend; empty: takes none
    KindTraits traits{};
};

} // namespace ts
