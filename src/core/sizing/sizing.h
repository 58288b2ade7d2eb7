#pragma once
// Sizes as arithmetic: how much of what each device and wire may take it needs, rule by rule. Currents, starts and
// voltages are read from runs of the circuit; limits from plates, wires, routes and the reference tables. Rules and
// their sentences: data/reference/sizing_rules.csv. Sources: EN 60204-1:2018 clauses 7, 9, 12; IEC 60947-4-1; IEC
// 60269-1.

#include "core/base/expected.h"
#include "core/model/dossier.h"
#include "core/model/finding.h"

#include <functional>
#include <stop_token>

namespace ts::sizing {

struct Headroom {
    std::string rule; ///< "contactor.current"
    DeviceId device; ///< or
    WireId wire;
    bool isShare = true; ///< else only met or not: takes no part in the order
    double needed = 0, allowed = 0; ///< in `unit`
    std::string unit;
    Severity severity = Severity::Fix; ///< what it is when it is not met
    bool isMet = true;
    Message note{}; ///< of what is met and still worth saying; empty: nothing
    Message wrong{}; ///< of what is not met, where the figures do not say it; empty: they do
    std::vector<std::string> assumed{}; ///< figures that nobody wrote and the verdict rests on, "Q1
                                        ///< rated_current_ac3_a"
    double used() const { return allowed > 0 ? needed / allowed : 0.0; }
    bool operator==(const Headroom&) const = default;
};

/// What is missing for a verdict, said so that it can be entered.
/// NotJudged::parameter of the enclosure's size, which no device has yet.
constexpr std::string_view kEnclosureSize = "enclosure_w_h_d_m";

struct NotJudged {
    std::string rule;
    DeviceId device;
    WireId wire;
    Message enter;
    std::string parameter{}; ///< of the device that lacks it; empty: it is no parameter
    RouteId route{}; ///< of which nobody has said how many loaded circuits lie in it
    bool operator==(const NotJudged&) const = default;
};

/// A part on a way, and what flows there in the situations that were run. 0: nothing, or not known.
struct Station {
    DeviceId device; ///< or
    WireId wire;
    double runA = 0; ///< at the plate's load; of a control circuit: held
    double startA = 0; ///< the largest at the start; of a control circuit: while its coil pulls in
    double shortA = 0; ///< with the far end shorted, before anything opens
    double volts = 0; ///< of a control circuit, behind this part and against the coil's other end, while it pulls in
    bool operator==(const Station&) const = default;
};

/// From where power comes to a motor, or to the coil of a control circuit that is the worst off.
struct Walk {
    DeviceId load, motor; ///< load: the motor itself, or the coil's device
    bool isControl = false;
    double ratedV = 0, volts = 0; ///< of the load: what its plate says, and what is there at that moment
    std::string said; ///< what hands did: "S2 press"
    std::vector<Station> stations; ///< from the supply on
    bool operator==(const Walk&) const = default;
};

struct Sized {
    std::vector<Headroom> all; ///< shares first, the worst first; then what is only met or not
    std::vector<NotJudged> notJudged;
    std::vector<Walk> walks; ///< by motor, its power circuit first
    std::vector<std::string> notHere; ///< rules of the table that this edition does not judge
    bool operator==(const Sized&) const = default;
};

/// The clause of a rule with its standard: "EN 60204-1 clause 12.4 table 6". The rule must be in the table.
std::string clauseOf(const std::string& rule);

/// Same result whatever the machine. Fails as compile() does, and with Cancelled.
Expected<Sized> sizesOf(const Dossier& dossier,
    const std::function<void(std::size_t done, std::size_t total)>& listener = {}, std::stop_token stop = {});

} // namespace ts::sizing
