#pragma once
// The wired circuit as a person describes it: devices, wires, routes, mechanical links.
// Plain values; the only behaviour is looking things up. What a device does is in library/.
// Nets are absent on purpose: they follow from the wires (simulation/plant.h).

#include "core/base/ids.h"
#include "core/model/level.h"

#include <map>
#include <optional>
#include <string>
#include <string_view>
#include <variant>
#include <vector>

namespace ts {

/// A parameter as written: a number (unit in the parameter's name), a word or a list of words, or yes/no.
using ParameterValue = std::variant<bool, double, std::string, std::vector<std::string>>;
using ParameterMap = std::map<std::string, ParameterValue, std::less<>>;

/// Where a number comes from.
enum class Basis { Entered, Part, Clause, Textbook, Assumed, Typical };

/// Reliability data of a part. Written by the maker or taken from a table; exactly one of those up to typicalPart is
/// set.
struct Reliability {
    std::optional<double> b10dCycles;
    std::optional<double> b10Cycles; ///< all failures; B10d = B10 / dangerousShare
    std::optional<double> mttfdYears;
    std::optional<double> mttfYears; ///< all failures; MTTFd = MTTF / dangerousShare
    std::optional<double> fitDangerous; ///< dangerous failures in 1e9 hours
    std::optional<double> pfhdPerHour; ///< encapsulated subsystem; then performanceLevel and category are set too
    std::string typicalPart; ///< row of typical_reliability.csv, "part|load"
    std::optional<safety::Level> performanceLevel;
    std::optional<safety::Category> category;
    std::optional<double> dangerousShare; ///< ratio of dangerous failures, above 0 to 1; not known: one half
    std::string source; ///< sheet or table, in words
    bool operator==(const Reliability&) const = default;
};

/// A part of the parts list: what several devices have in common.
struct Part {
    std::string id;
    std::string name;
    std::string kind;
    ParameterMap parameters;
    std::optional<Reliability> reliability;
    bool operator==(const Part&) const = default;
};

struct Device {
    DeviceId id;
    std::string tag; ///< "Q1"
    std::string kind; ///< word of the registry in library/
    std::string part; ///< id of a Part, may be empty
    std::string label; ///< what it is for, in the machine's words
    std::string place; ///< "door", "plate" or "field"; empty: where its kind usually stands
    int rank = 0; ///< order among its neighbours in drawings
    ParameterMap parameters;
    std::optional<Reliability> reliability;
    std::string remark; ///< what else somebody wrote of it: for people, nothing rests on it
    bool operator==(const Device&) const = default;
};

/// "Q1:13": a terminal by its device and its marking, never by index.
struct TerminalRef {
    DeviceId device;
    std::string marking;
    auto operator<=>(const TerminalRef&) const = default;
};

enum class WireEnd { From, To };

struct Wire {
    WireId id;
    std::string number; ///< as printed on the wire; may repeat
    TerminalRef from;
    TerminalRef to;
    double areaMm2 = 1.0;
    double lengthM = 1.0;
    std::string colour;
    RouteId route; ///< none: unknown
    std::string conductorClass; ///< IEC 60228: "1", "2", "5" or "6"; empty: nobody has said, 5 (flexible) is assumed
    std::string insulation; ///< "pvc_70" and others of library/fields.h; empty: nobody has said, that is assumed
    std::string remark; ///< for people, as a device's
    bool operator==(const Wire&) const = default;
};

/// Where wires run beside each other: decides whether a short between them may be excluded (ISO 13849-2 table D.4).
enum class RouteKind {
    Enclosure, ///< "enclosure": to EN 60204-1
    Cable, ///< "cable": open to damage
    ProtectedCable, ///< "protected_cable": laid fixed and protected, in a duct or armoured
    ShieldedCable, ///< "shielded_cable": each core with an earthed shield of its own
    MovingCable ///< "moving_cable": trailing or drag chain
};

struct Route {
    RouteId id;
    std::string name;
    RouteKind kind = RouteKind::Enclosure;
    int loadedCircuits = 0; ///< that lie together in it and are loaded at the same time; 0: nobody has said
    double ambientC = 40.0; ///< around it at the most; 40: EN 60204-1 clause 4.4.3
    std::string method; ///< "b1", "b2", "c", "e": EN 60204-1 annex D; empty: b1 in an enclosure, else c
    int cores = 0; ///< of the cable; 0: as many as there are wires in it
    std::string construction; ///< column of min_sections.csv, "multicore"; empty: by the cores
    bool operator==(const Route&) const = default;
};

/// The word of a route's kind in files, and back; an unknown word is an enclosure.
std::string_view routeWord(RouteKind kind);
RouteKind routeNamed(std::string_view word);

/// Two armatures of which only one can be in: a bound on the sum of their travels.
struct MechanicalInterlock {
    DeviceId first;
    DeviceId second;
    bool operator==(const MechanicalInterlock&) const = default;
};

/// A brake on a motor's shaft.
struct Shaft {
    DeviceId brake;
    DeviceId motor;
    bool operator==(const Shaft&) const = default;
};

struct Circuit {
    std::vector<Part> parts;
    std::vector<Device> devices;
    std::vector<Wire> wires;
    std::vector<Route> routes;
    std::vector<MechanicalInterlock> interlocks;
    std::vector<Shaft> shafts;

    const Device* device(DeviceId id) const;
    const Device* device(std::string_view tag) const;
    const Wire* wire(WireId id) const;
    const Route* route(RouteId id) const;
    const Part* part(std::string_view id) const;
    /// "Q1:13", or "?:13" if the device is not there.
    std::string nameOf(const TerminalRef& terminal) const;
    /// The device's own reliability, else its part's, else none.
    const Reliability* reliabilityOf(const Device& device) const;
    bool operator==(const Circuit&) const = default;
};

} // namespace ts
