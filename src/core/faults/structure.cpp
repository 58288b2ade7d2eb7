#include "core/faults/structure.h"

#include "core/library/table.h"

#include <algorithm>
#include <array>
#include <set>

namespace ts::faults {
namespace {

constexpr std::array kTestedMoments{Moment::AtRest, Moment::Running};
constexpr double kBestCoverage = 0.99; ///< ISO 13849-1 annex E: no measure has more

bool losesStopAlone(const FaultOutcome& o)
{
    return std::any_of(o.runs.begin(), o.runs.end(), [](const RunResult& r) { return isStopLost(r.loss); });
}

/// Had it happened while the machine rests or runs, it would have been noticed before the demand, and then the stop is
/// not lost. Only what happens at the very end escapes the test. Source: ISO 13849-1 clause 6.2.5.
bool isTestedFor(const FaultOutcome& o)
{
    return losesStopAlone(o) && std::all_of(kTestedMoments.begin(), kTestedMoments.end(), [&o](Moment m) {
        const RunResult& r = o.runs[static_cast<std::size_t>(m)];
        const bool tells = r.notice.grade == Grade::Automatic || r.notice.grade == Grade::Warning;
        return !isStopLost(r.loss) && tells && r.notice.when == NoticedWhen::BeforeDemand;
    });
}

bool isOnlyWarned(const FaultOutcome& o)
{
    return std::any_of(kTestedMoments.begin(), kTestedMoments.end(),
        [&o](Moment m) { return o.runs[static_cast<std::size_t>(m)].notice.grade == Grade::Warning; });
}

bool isUndecided(const FaultOutcome& o)
{
    return std::any_of(o.runs.begin(), o.runs.end(), [](const RunResult& r) { return r.isUndecided; });
}

/// Faults that make a loss of the stop together with another one.
std::set<int> stopMates(const Sweep& s)
{
    std::set<int> mates;
    for (const FaultPair& p : s.pairs)
        if (isStopLost(p.run.loss))
            mates.insert({p.first, p.second});
    for (std::size_t k = 0; k < s.outcomes.size(); ++k)
        if (const int other = s.outcomes[k].hides; other >= 0 && mates.contains(other))
            mates.insert(static_cast<int>(k));
    return mates;
}

/// Only the prevention of restart is defeated: it starts at the reset, and nothing keeps it from that.
bool losesRestartOnly(const FaultOutcome& o)
{
    return o.overall == Outcome::Lost && !losesStopAlone(o);
}

/// At no moment anything that blocks, or it can be forgotten.
bool staysHidden(const FaultOutcome& o)
{
    return o.overall == Outcome::Hidden || losesRestartOnly(o);
}

template <class Belongs>
StructureVerdict verdictOf(const Sweep& s, const std::set<int>& mates, bool withExcluded, const Belongs& belongs)
{
    StructureVerdict v;
    bool isUnknown = !s.hasPairs;
    for (std::size_t k = 0; k < s.faults.size(); ++k) {
        const FaultOutcome& o = s.outcomes[k];
        const bool excluded = s.faults[k].isExcluded;
        if ((excluded && !withExcluded) || s.faults[k].family == Family::CommonCause || !belongs(s.faults[k]))
            continue;
        const int place = static_cast<int>(k);
        if (!o.isRun || isUndecided(o))
            isUnknown = true;
        else if (losesStopAlone(o))
            v.alone.push_back(place);
        else if (staysHidden(o) && (excluded || mates.contains(place))) // what is excluded is not tried in pairs: the
                                                                        // worst is taken
            v.hidden.push_back(place);
    }
    const auto isTested = [&s](int k) { return isTestedFor(s.outcomes[static_cast<std::size_t>(k)]); };
    const bool allTested = !v.alone.empty() && std::all_of(v.alone.begin(), v.alone.end(), isTested);
    v.testOnlyWarns = allTested && std::any_of(v.alone.begin(), v.alone.end(), [&s](int k) {
        return isOnlyWarned(s.outcomes[static_cast<std::size_t>(k)]);
    });
    v.structure = allTested ? Structure::Tested
        : !v.alone.empty()  ? Structure::OneChannel
        : !v.hidden.empty() ? Structure::SingleFaultTolerated
        : isUnknown         ? Structure::Unknown
                            : Structure::AccumulationTolerated;
    return v;
}

/// A contact's own faults are its part's alone; what moves all contacts counts for each. A part that is the whole
/// device has all of them.
bool isOfElement(const SweptFault& fault, const std::string& element)
{
    const bool isContact = fault.element.find('-') != std::string::npos;
    return !isContact || element.empty() || fault.element == element;
}

double annexLimit(const std::string& measure)
{
    const Table& t = dcMeasuresTable();
    const auto row = rowOf(t, measure);
    return row ? std::min(kBestCoverage, t.number(*row, "dc_max").value_or(0.0)) : kBestCoverage;
}

PartCoverage coverageOf(const Sweep& s, const std::set<int>& mates, const ClaimedPart& part)
{
    PartCoverage c{part.device, elementWords(part.element), part.dc, {}, {}};
    bool isDangerous = false;
    for (std::size_t k = 0; k < s.faults.size(); ++k) {
        const SweptFault& f = s.faults[k];
        if (f.isExcluded || !isOfPart(f, part))
            continue;
        const FaultOutcome& o = s.outcomes[k];
        const bool lost = losesStopAlone(o);
        if (!lost && !mates.contains(static_cast<int>(k)))
            continue;
        isDangerous = true;
        // Forgotten with the supply only, it is noticed anew at every demand: that is what coverage counts.
        const bool isNoticedAgain = o.forgottenBy.empty() || o.forgottenBy == kForgottenBySupply;
        const bool covered = isTestedFor(o)
            || (!lost && isNoticedAgain
                && std::all_of(o.runs.begin(), o.runs.end(), [](const RunResult& r) { return r.blocks; })
                && std::all_of(o.runs.begin(), o.runs.end(),
                    [](const RunResult& r) { return r.notice.grade == Grade::Automatic; }));
        if (!covered)
            c.uncovered.push_back(static_cast<int>(k));
    }
    // Shares of the modes have no source (failure_modes.csv): one dangerous mode that is not covered counts as all of
    // them.
    if (isDangerous && s.hasPairs)
        c.built = c.uncovered.empty() ? annexLimit(part.measure) : 0.0;
    return c;
}

std::set<DeviceId> devicesOf(const ClaimedSubsystem& subsystem)
{
    std::set<DeviceId> devices;
    if (subsystem.encapsulated)
        devices.insert(subsystem.encapsulated);
    for (const ClaimedChannel& channel : subsystem.channels)
        for (const ClaimedPart& part : channel.parts)
            devices.insert(part.device);
    return devices;
}

bool touches(const SweptFault& fault, const std::set<DeviceId>& devices)
{
    return std::any_of(fault.devices.begin(), fault.devices.end(), [&](DeviceId d) { return devices.contains(d); });
}

} // namespace

std::string_view nameOf(Structure structure)
{
    constexpr std::array<std::string_view, 5> names{
        "unknown", "one_channel", "tested", "single_fault_tolerated", "accumulation_tolerated"};
    return names[static_cast<std::size_t>(structure)];
}

bool isOfPart(const SweptFault& fault, const ClaimedPart& part)
{
    return fault.family == Family::Part && fault.devices.front() == part.device && isOfElement(fault, part.element);
}

AsBuilt asBuilt(const Sweep& sweep, const SafetyFunction& function)
{
    AsBuilt built;
    const std::set<int> mates = stopMates(sweep);
    std::set<DeviceId> claimed, encapsulated;
    for (const ClaimedSubsystem& subsystem : function.claim)
        for (DeviceId d : devicesOf(subsystem))
            (subsystem.encapsulated ? encapsulated : claimed).insert(d);
    for (const ClaimedSubsystem& subsystem : function.claim) {
        SubsystemBuilt b;
        b.name = subsystem.name;
        const std::set<DeviceId> devices = devicesOf(subsystem);
        // A wire between an encapsulated device and a part of another subsystem is that one's.
        const auto belongs = [&](const SweptFault& f) {
            return touches(f, devices) && (!subsystem.encapsulated || !touches(f, claimed));
        };
        b.verdict = verdictOf(sweep, mates, false, belongs);
        b.withoutExclusions = verdictOf(sweep, mates, true, belongs).structure;
        for (const ClaimedChannel& channel : subsystem.channels) {
            b.channels.emplace_back();
            for (const ClaimedPart& part : channel.parts)
                b.channels.back().push_back(coverageOf(sweep, mates, part));
        }
        built.subsystems.push_back(std::move(b));
    }
    const auto isOutside = [&](const SweptFault& f) { return !touches(f, claimed) && !touches(f, encapsulated); };
    const auto any = [](const SweptFault&) { return true; };
    built.outside = verdictOf(sweep, mates, false, isOutside);
    built.whole = verdictOf(sweep, mates, false, any);
    built.wholeWithoutExclusions = verdictOf(sweep, mates, true, any).structure;
    for (std::size_t k = 0; k < sweep.faults.size(); ++k) {
        const FaultOutcome& o = sweep.outcomes[k];
        if (sweep.faults[k].family == Family::CommonCause) {
            if (o.overall == Outcome::Lost && !sweep.faults[k].isExcluded)
                built.commonCauses.push_back(static_cast<int>(k));
        } else if (sweep.faults[k].isExcluded) {
            if (o.overall == Outcome::Lost || o.overall == Outcome::Hidden)
                built.exclusionsUsed.push_back(static_cast<int>(k));
        } else if (losesRestartOnly(o)) {
            built.restarts.push_back(static_cast<int>(k));
        }
    }
    return built;
}

} // namespace ts::faults
