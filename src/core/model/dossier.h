#pragma once
// The dossier: everything a person decides about one machine, as plain values.
// Results are absent on purpose: they are always computed from this (analysis/).

#include "core/model/circuit.h"
#include "core/model/function.h"
#include "core/model/planned.h"
#include "core/model/readings.h"
#include "core/model/scenario.h"

#include <array>
#include <map>
#include <memory>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace ts {

/// How much the machine is used. Source: ISO 13849-1 annex C.4 (dop, hop, tcycle).
struct Duty {
    double daysPerYear = 220;
    double hoursPerDay = 16;
    std::map<ScenarioId, double> timesPerHour; ///< how often a scenario happens while the machine works: operations are
                                               ///< counted from it
    bool isEntered = false; ///< false: nobody has said so, days and hours are assumed
    bool operator==(const Duty&) const = default;
};

struct Machine {
    std::string name;
    std::string site;
    std::string inUseSince; ///< ISO 8601 date; empty: not said, then parts that wear have no due date
    Duty duty;
    PlannedMachine plan;
    bool operator==(const Machine&) const = default;
};

/// A fault that is not reckoned with, and why. Source: ISO 13849-2 tables D.1 to D.8.
struct FaultExclusion {
    std::string fault; ///< "S0/latch:does_not_hold", or "route/44:short" for all shorts between wires of one route
    std::string reason; ///< in the verifier's words; the table is that of the failure mode
    bool operator==(const FaultExclusion&) const = default;
};

struct Dossier {
    Machine machine;
    ArithmeticChoice arithmetic;
    Circuit circuit;
    std::vector<SafetyFunction> functions;
    std::vector<Scenario> scenarios;
    std::vector<FaultExclusion> exclusions;

    const SafetyFunction* function(FunctionId id) const;
    const Scenario* scenario(std::string_view idOrName) const;
    const Scenario* scenario(ScenarioId id) const;
    bool operator==(const Dossier&) const = default;
};

using Snapshot = std::shared_ptr<const Dossier>;

inline constexpr std::array<std::string_view, 6> kRecordKinds{
    "note", "finding_accepted", "acceptance_withdrawn", "reading", "bypass_opened", "bypass_closed"};
inline constexpr std::array<std::string_view, 5> kRecordRoles{"designed", "wired", "tested", "verified", "maintains"};

/// What an instrument or an eye said at a step of the test plan, and what was expected of it. The verdict is never
/// kept: it is made anew from these.
struct TakenReading {
    std::optional<double> value; ///< in `unit`; none: a word
    std::string word; ///< "in", "lit", "right"
    std::string unit; ///< "ohm", "V", "A", "s"; empty with a word
    std::optional<double> low, high; ///< expected, in `unit`; no high: without end
    std::string expected; ///< the word that was expected
    std::string instrument;
    std::string calibratedUntil; ///< ISO 8601 date; empty: not said
    double uncertainty = 0; ///< share of the value
    std::vector<std::string> covers; ///< what it rests on: "wire/12:1a2b3c4d", several in one text, spaces between
    bool operator==(const TakenReading&) const = default;
};

/// Two terminals that somebody has joined for a while.
struct Bypass {
    std::string from, to; ///< "S10:21"
    std::string owner; ///< who answers for it and takes it off
    std::string until; ///< ISO 8601 date: off by then
    bool operator==(const Bypass&) const = default;
};

/// One line of the append-only record. Never undone, only added to. How they hang together: core/record.
struct RecordEntry {
    std::string date; ///< ISO 8601, an argument, never read from a clock in core; with time and zone where it is
                      ///< chained
    std::string who;
    std::string text; ///< in that person's words
    std::string kind; ///< one of kRecordKinds; empty: an older entry, in no chain
    std::string role; ///< one of kRecordRoles
    std::string subject; ///< what it is about: the key of a finding, the id of a step
    std::string said; ///< what that read like at the moment
    std::string state; ///< hash of the dossier at that moment
    std::vector<std::string> before; ///< hashes of the entries it follows, in order; none: the first of all
    std::optional<TakenReading> reading{}; ///< of kind "reading"
    std::optional<Bypass> bypass{}; ///< of kind "bypass_opened", and what "bypass_closed" ends
    bool isChained() const { return !kind.empty(); }
    bool operator==(const RecordEntry&) const = default;
};

/// What a file holds: the dossier, the record beside it, and the counter that keeps ids from being reused.
struct DossierFile {
    int nextId = 1;
    Dossier dossier;
    std::vector<RecordEntry> record;
    bool operator==(const DossierFile&) const = default;
};

} // namespace ts
