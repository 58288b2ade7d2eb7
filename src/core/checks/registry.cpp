#include "core/checks/groups.h"
#include "core/checks/trials.h"
#include "core/results/subjects.h"

#include <algorithm>
#include <array>

namespace ts {

std::span<const Check> allChecks()
{
    using Kind = Subject::Kind;
    using Trial = exploration::TrialSeen::What;
    static constexpr std::array kRegistry{
        Check{"level", "level", Remedy::Claim, "ISO 13849-1 clause 4.5.1", Kind::Machine, kLevels.id,
            checks::levelReached, checks::hasFunctions},
        Check{"stop", "stop", Remedy::Claim, "EN 60204-1 clause 9.2", Kind::Machine, kLevels.id,
            checks::stopCategoryAllowed, checks::hasFunctions},
        Check{"distance", "stop", Remedy::Claim, "ISO 13855:2010 clauses 5, 6.2", Kind::Function, kSingleFaults.id,
            checks::distanceKept},
        Check{"duty", "power", Remedy::Part, "IEC 60947-4-1 table 1", Kind::Machine, kLevels.id, checks::contactorDuty},
        Check{"claim", "level", Remedy::Claim, "ISO 13849-2 clause 4", Kind::Machine, {}, checks::claimRefersToParts,
            checks::hasFunctions},
        Check{"claim_data", "level", Remedy::Claim, "ISO 13849-1 clause 4.5", Kind::Machine, kLevels.id,
            checks::claimAgreesWithData, checks::hasFunctions},
        Check{"motors", "complete", Remedy::Claim, "ISO 12100 clause 5.4, EN 60204-1 clause 9.2", Kind::Machine, {},
            checks::everyMotorStops},
        Check{"wires", "complete", Remedy::Entry, "ISO 13849-2 table D.4", Kind::Machine, {}, checks::everyWireIsLaid},
        Check{"contacts", "complete", Remedy::Entry, "ISO 13849-2 clause 5", Kind::Machine, {},
            checks::everyContactIsKnown},
        Check{"contact_budget", "complete", Remedy::Part, "ISO 13849-2 clause 5", Kind::Machine, {},
            checks::contactsAreOnTheirPart},
        Check{"exclusions", "complete", Remedy::Claim, "ISO 13849-1 clause 7.3, ISO 13849-2 clause 4.3", Kind::Machine,
            {}, checks::exclusionsHaveReasons, checks::hasExclusions},
        Check{"scenarios", "complete", Remedy::Trial, "ISO 13849-2 clauses 6, 8", Kind::Machine, kScenarios.id,
            checks::scenariosEndAsExpected, checks::hasScenarios},
        Check{"protective_devices", "stop", Remedy::Wiring, "ISO 13850 clause 4.1, EN 60204-1 clause 10.7",
            Kind::Machine, kDirected.id, checks::protectiveDevicesStop},
        Check{"emergency_stops", "stop", Remedy::Wiring, "ISO 13850 clause 4.1, EN 60204-1 clauses 9.2.3.4.2, 10.7",
            Kind::Machine, {}, checks::emergencyStopsLatch},
        Check{"held", "stop", Remedy::Wiring, "ISO 13850 clause 4.1, EN 60204-1 clauses 7.5, 9.2.3.4.2", Kind::Machine,
            kDirected.id, checks::whatHoldsGoesOn},
        Check{"starts", "stop", Remedy::Wiring, "EN 60204-1 clauses 7.3, 7.5, 9.2.3", Kind::Machine, kDirected.id,
            checks::startsOnlyWhenAsked},
        Check{"lines", "power", Remedy::Wiring, "EN 60204-1 clause 7.3", Kind::Machine, kDirected.id,
            checks::linesAreWatched},
        Check{"tried", "complete", Remedy::Trial, "EN 60204-1 clause 18.6", Kind::Machine, kTrials.id,
            checks::everythingWasTried},
        Check{"overloads", "power", Remedy::Wiring, "EN 60204-1 clause 7.3", Kind::Machine, kTrials.id,
            checks::tried<Trial::NoOverload, Trial::OverloadKept>, nullptr, checks::leftOutOfTrials},
        Check{"trip_shown", "indication", Remedy::Wiring, "EN 60204-1 clause 10.3", Kind::Machine, kTrials.id,
            checks::tried<Trial::TripUnseen>, nullptr, checks::leftOutOfTrials},
        Check{"stop_wires", "stop", Remedy::Wiring, "EN 60204-1 clauses 9.2, 9.4", Kind::Machine, kTrials.id,
            checks::tried<Trial::StopWireDead>, nullptr, checks::leftOutOfTrials},
        Check{"stop_wins", "stop", Remedy::Wiring, "EN 60204-1 clause 9.2.3", Kind::Machine, kTrials.id,
            checks::tried<Trial::StartWins>, nullptr, checks::leftOutOfTrials},
        Check{"inching", "stop", Remedy::Wiring, "EN 60204-1 clause 9.2.3", Kind::Machine, kTrials.id,
            checks::tried<Trial::TapCaught>, nullptr, checks::leftOutOfTrials},
        Check{"earth_faults", "control", Remedy::Wiring, "EN 60204-1 clause 9.4.3", Kind::Machine, kTrials.id,
            checks::tried<Trial::EarthKept, Trial::TwoEarthsKept>, nullptr, checks::leftOutOfTrials},
        Check{"frames", "power", Remedy::Wiring, "EN 60204-1 clauses 6.3, 8.2, 18.2", Kind::Machine, kTrials.id,
            checks::tried<Trial::FrameLive>, nullptr, checks::leftOutOfTrials},
        Check{"monitors", "power", Remedy::Wiring, "EN 60204-1 clauses 7.3, 9.4", Kind::Machine, kTrials.id,
            checks::tried<Trial::MonitorDead>, nullptr, checks::leftOutOfTrials},
        Check{"disconnector", "power", Remedy::Wiring, "EN 60204-1 clause 5.3", Kind::Machine, kTrials.id,
            checks::tried<Trial::NoDisconnector>, nullptr, checks::leftOutOfTrials},
        Check{"electronics", "stop", Remedy::Wiring, "EN 60204-1 clauses 5.4, 9.2.3.4.2", Kind::Machine, kTrials.id,
            checks::tried<Trial::OnlyElectronics>, nullptr, checks::leftOutOfTrials},
        Check{"returns", "control", Remedy::Wiring, "EN 60204-1 clauses 7.2.4, 9.4.3", Kind::Machine, kTrials.id,
            checks::tried<Trial::ReturnLive>, nullptr, checks::leftOutOfTrials},
        Check{"earthed_lines", "control", Remedy::Wiring, "EN 60204-1 clauses 7.2.4, 7.2.7", Kind::Machine, kTrials.id,
            checks::tried<Trial::EarthStays>, nullptr, checks::leftOutOfTrials},
        Check{"trips_apart", "indication", Remedy::Wiring, "EN 60204-1 clause 10.3", Kind::Machine, kTrials.id,
            checks::tried<Trial::TripsAlike>, nullptr, checks::leftOutOfTrials},
        Check{"unwatched", "power", Remedy::Wiring, "EN 60204-1 clauses 7.3, 7.8", Kind::Machine, kTrials.id,
            checks::linesAreDecidedAbout, nullptr, checks::leftOutOfTrials},
        Check{"signals", "stop", Remedy::Wiring, "EN 60204-1 clause 9.4.2, ISO 13849-2 clause 9", Kind::Machine,
            kTrials.id, checks::tried<Trial::SignalStops, Trial::OnlyRead>, nullptr, checks::leftOutOfTrials},
        Check{"resets", "stop", Remedy::Wiring, "ISO 13849-1 clause 5.2.2", Kind::Machine, kTrials.id,
            checks::tried<Trial::ResetBeside>, nullptr, checks::leftOutOfTrials},
        Check{"locks", "stop", Remedy::Wiring, "EN 60204-1 clauses 7.3, 9.2.3, ISO 13850 clause 4.1", Kind::Machine,
            kTrials.id, checks::tried<Trial::LockLifted>, nullptr, checks::leftOutOfTrials},
        Check{"turning", "power", Remedy::Wiring, "EN 60204-1 clause 9.3.4", Kind::Machine, kTrials.id,
            checks::tried<Trial::TurnedOver>, nullptr, checks::leftOutOfTrials},
        Check{"lamps", "indication", Remedy::Wiring, "EN 60204-1 clause 10.3", Kind::Machine, kTrials.id,
            checks::tried<Trial::LampLies>, nullptr, checks::leftOutOfTrials},
        Check{"control_shorts", "control", Remedy::Part, "EN 60204-1 clause 7.2", Kind::Machine, kTrials.id,
            checks::tried<Trial::ShortStays>, nullptr, checks::leftOutOfTrials},
        Check{"armatures", "shape", Remedy::Wiring, "EN 60204-1 clause 9.3.4", Kind::Machine, kTrials.id,
            checks::tried<Trial::HeldOut, Trial::NeverPulls>, nullptr, checks::leftOutOfTrials},
        Check{"directions", "shape", Remedy::Wiring, "EN 60204-1 clauses 7.8, 18.6", Kind::Machine, kTrials.id,
            checks::tried<Trial::SameDirection>, nullptr, checks::leftOutOfTrials},
        Check{"voltages", "power", Remedy::Part, "IEC 60034-1 clause 7.3", Kind::Machine, kTrials.id,
            checks::tried<Trial::MotorVoltage>, nullptr, checks::leftOutOfTrials},
        Check{"colours", "indication", Remedy::Part, "EN 60204-1 clause 10", Kind::Machine, kTrials.id,
            checks::coloursFit, nullptr, checks::leftOutOfTrials},
        Check{"stuck", "shape", Remedy::Wiring, "EN 60204-1 clause 9.4", Kind::Machine, kTrials.id,
            checks::tried<Trial::StuckRestarts>, nullptr, checks::leftOutOfTrials},
        Check{"shown", "indication", Remedy::Wiring, "EN 60204-1 clause 10.3", Kind::Machine, kTrials.id,
            checks::tried<Trial::NeverLit>, nullptr, checks::leftOutOfTrials},
        Check{"separation", "control", Remedy::Part, "EN 60204-1 clause 9.1.1", Kind::Machine, kTrials.id,
            checks::tried<Trial::Unseparated>, nullptr, checks::leftOutOfTrials},
        Check{"sizes", "sizing", Remedy::Part, "EN 60204-1 clauses 7, 9, 12", Kind::Machine, kSizing.id,
            checks::sizesSuffice, nullptr, checks::leftOutOfSizes},
        Check{"single_faults", "faults", Remedy::Claim, "ISO 13849-1 clause 6.2, ISO 13849-2 clause 9", Kind::Function,
            kBuilt.id, checks::singleFaults},
        Check{"other_triggers", "faults", Remedy::Claim, "ISO 13849-1 clause 6.2, ISO 13849-2 clause 9", Kind::Function,
            kOtherTriggers.id, checks::otherTriggersTried, checks::hasOtherTriggers},
        Check{"second_faults", "faults", Remedy::Claim, "ISO 13849-1 clause 6.2, ISO 13849-2 clause 9", Kind::Function,
            kSecondFaults.id, checks::secondFaults},
        Check{"limits", "faults", Remedy::Part, "EN 60204-1 clause 4.3.2", Kind::Function, kSecondFaults.id,
            checks::limits},
        Check{"worst_stop", "stop", Remedy::Claim, "EN 60204-1 clause 9.2.2", Kind::Function, kWorstStop.id,
            checks::worstStop},
        Check{"record", "record", Remedy::Trial, "ISO 13849-2 clause 4, EN 60204-1 clause 18.1", Kind::Machine,
            kLevels.id, checks::recordCovers, nullptr, checks::leftOutOfRecord},
        Check{"orders", "shape", Remedy::Wiring, "EN 60204-1 clauses 7.5, 9.2.3, 9.3.3", Kind::Motor, kOrders.id,
            checks::everyOrder},
    };
    return kRegistry;
}

const Check* checkNamed(std::string_view id)
{
    const auto checks = allChecks();
    const auto it = std::find_if(checks.begin(), checks.end(), [id](const Check& c) { return c.id == id; });
    return it == checks.end() ? nullptr : &*it;
}

CheckMade madeBy(const Check& check, const CheckInput& input, std::vector<Finding>& findings)
{
    CheckMade made{std::string(check.id), std::string(check.clause), 0, {}};
    for (const Subject& subject : subjectsOf(check.about, input.dossier)) {
        if (check.concerns && !check.concerns(input.dossier, subject))
            continue;
        ++made.wanted;
        const Error* trouble = input.results.trouble(check.needs, subject);
        if (!check.needs.empty() && (trouble || !input.results.wasTried(check.needs, subject)))
            made.missing.push_back({std::string(check.needs), subject, trouble ? trouble->message : Message{}});
    }
    if (check.leftOut)
        for (NotLookedAt& n : check.leftOut(input)) {
            ++made.wanted;
            made.missing.push_back(std::move(n));
        }
    const std::size_t before = findings.size();
    check.run(input, findings);
    for (std::size_t i = before; i < findings.size(); ++i) {
        findings[i].id = check.id;
        if (findings[i].clause.empty())
            findings[i].clause = check.clause;
        if (findings[i].remedy == Remedy::Unsaid)
            findings[i].remedy = check.remedy;
    }
    return made;
}

bool Checked::isWhole() const
{
    return std::all_of(checks.begin(), checks.end(), [](const CheckMade& c) { return c.isWhole(); });
}

bool Checked::hasFaultFound() const
{
    return std::any_of(findings.begin(), findings.end(), [](const Finding& f) { return f.severity != Severity::Note; });
}

Checked checked(const Dossier& dossier, const Results& results)
{
    Checked all;
    for (const Check& check : allChecks())
        all.checks.push_back(madeBy(check, {dossier, results}, all.findings));
    std::stable_sort(all.findings.begin(), all.findings.end(),
        [](const Finding& a, const Finding& b) { return a.severity < b.severity; });
    return all;
}

} // namespace ts
