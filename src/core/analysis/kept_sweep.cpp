#include "core/analysis/kept_sweep.h"

#include "core/io/dossier_text.h"
#include "core/io/result_store.h"

#include <nlohmann/json.hpp>

namespace ts {

extern const std::string_view kEngineVersion; // written at build time over the sources a sweep depends on

namespace {

using namespace faults;
using Json = nlohmann::json;

/// Only what a sweep depends on.
DossierFile reduced(const Dossier& dossier, const SafetyFunction& function)
{
    DossierFile file;
    Dossier& d = file.dossier;
    d.circuit = dossier.circuit;
    for (Device& device : d.circuit.devices) {
        device.label.clear();
        device.rank = 0;
        device.reliability.reset();
    }
    for (Part& part : d.circuit.parts)
        part.reliability.reset();
    for (Wire& wire : d.circuit.wires)
        wire.colour.clear();
    d.exclusions = dossier.exclusions;
    SafetyFunction f;
    f.id = function.id;
    f.trigger = function.trigger;
    f.mustRest = function.mustRest;
    f.allowedTimeS = function.allowedTimeS;
    f.demandScenario = function.demandScenario;
    d.functions = {f};
    if (const Scenario* s = dossier.scenario(std::to_string(function.demandScenario.value)))
        d.scenarios = {*s};
    return file;
}

template <class Enum> int number(Enum e)
{
    return static_cast<int>(e);
}

Json jsonOf(const RunResult& r)
{
    return Json::array({number(r.loss), r.lostMotor, r.lostAt, number(r.notice.grade), number(r.notice.when),
        r.notice.device, r.blocks, r.isUndecided, r.longestRest});
}

Json jsonOf(const FaultOutcome& o)
{
    Json runs = Json::array(), outcomes = Json::array(), limits = Json::array();
    for (std::size_t m = 0; m < kMoments.size(); ++m) {
        runs.push_back(jsonOf(o.runs[m]));
        outcomes.push_back(number(o.outcomes[m]));
        limits.push_back(number(o.limits[m]));
    }
    return Json::array({o.isRun, runs, outcomes, number(o.overall), o.variant, limits, o.mate, o.hides, o.forgottenBy});
}

/// Takes numbers out of foreign JSON; anything that does not fit is thrown as the library's own error and caught at the
/// edge.
class Reading {
public:
    Reading(std::size_t faultCount, std::size_t deviceCount)
        : m_faults(static_cast<long long>(faultCount))
        , m_devices(static_cast<long long>(deviceCount))
    {
    }

    template <class Enum> static Enum word(const Json& j, Enum last)
    {
        return static_cast<Enum>(within(j, 0, number(last)));
    }
    int fault(const Json& j, int lowest = -1) const { return static_cast<int>(within(j, lowest, m_faults - 1)); }

    RunResult run(const Json& j) const
    {
        RunResult r;
        r.loss = word(j.at(0), Loss::StartsAlone);
        r.lostMotor = static_cast<int>(within(j.at(1), -1, m_devices - 1));
        r.lostAt = j.at(2).get<TimeNs>();
        r.notice.grade = word(j.at(3), Grade::LampOnly);
        r.notice.when = word(j.at(4), NoticedWhen::OnNextRestart);
        r.notice.device = static_cast<int>(within(j.at(5), -1, m_devices - 1));
        r.blocks = j.at(6).get<bool>();
        r.isUndecided = j.at(7).get<bool>();
        r.longestRest = j.at(8).get<TimeNs>();
        return r;
    }

    FaultOutcome outcome(const Json& j, const SweptFault& of) const
    {
        FaultOutcome o;
        o.isRun = j.at(0).get<bool>();
        for (std::size_t m = 0; m < kMoments.size(); ++m) {
            o.runs[m] = run(j.at(1).at(m));
            o.outcomes[m] = word(j.at(2).at(m), Outcome::Undecided);
            o.variant[m] = static_cast<std::uint8_t>(
                within(j.at(4).at(m), 0, static_cast<long long>(of.variants.size()) - 1));
            o.limits[m] = word(j.at(5).at(m), Limit::HighVoltage);
        }
        o.overall = word(j.at(3), Outcome::Undecided);
        o.mate = fault(j.at(6));
        o.hides = fault(j.at(7));
        o.forgottenBy = j.at(8).get<std::string>();
        return o;
    }

    static long long within(const Json& j, long long low, long long high)
    {
        const long long n = j.get<long long>();
        if (n < low || n > high)
            throw Json::out_of_range::create(401, "outside", nullptr);
        return n;
    }

private:
    long long m_faults, m_devices;
};

} // namespace

std::string sweepKey(const Dossier& dossier, const SafetyFunction& function, const SweepOptions& o)
{
    const std::string extent{o.withPairs ? 'p' : '-', o.withLimits ? 'l' : '-', o.withExcluded ? 'x' : '-'};
    return io::contentHash(io::printDossier(reduced(dossier, function)) + std::string(kEngineVersion) + extent);
}

std::string keptText(const Sweep& s)
{
    Json outcomes = Json::array(), pairs = Json::array(), trouble = Json::array(), welds = Json::array();
    for (const FaultOutcome& o : s.outcomes)
        outcomes.push_back(jsonOf(o));
    for (const FaultPair& p : s.pairs)
        pairs.push_back(Json::array({p.first, p.second, number(p.moment), p.firstIsHidden, jsonOf(p.run)}));
    for (std::size_t k = 0; k < s.faults.size(); ++k)
        if (!s.faults[k].welds.empty())
            welds.push_back(Json::array({k, s.faults[k].welds}));
    for (const auto& [limit, why] : s.limitTrouble)
        trouble.push_back(Json::array({number(limit), why.id}));
    const Json json{{"outcomes", outcomes}, {"pairs", pairs}, {"has_pairs", s.hasPairs},
        {"counts", {s.runCount, s.pairRunCount, s.limitRunCount}}, {"skipped", {s.skippedCount, s.checkedCount}},
        {"times", {s.runDownS, s.watchS, s.worstRestS}}, {"trouble", trouble}, {"not_running", s.notRunning},
        {"welds", welds}};
    return json.dump();
}

std::optional<Sweep> sweepFrom(std::string_view text, const Dossier& dossier, const SafetyFunction& function)
{
    const auto plant = compile(dossier.circuit);
    if (!plant)
        return std::nullopt;
    Sweep s;
    s.function = function.id;
    s.faults = faultList(*plant, dossier);
    const Reading reading(s.faults.size(), plant->devices.size());
    try {
        const Json json = Json::parse(text);
        if (json.at("outcomes").size() != s.faults.size())
            return std::nullopt;
        for (const Json& w : json.at("welds")) {
            SweptFault& fault = s.faults[static_cast<std::size_t>(reading.fault(w.at(0), 0))];
            if (fault.variants.empty())
                return std::nullopt;
            fault.variants.push_back(fault.variants.front());
            for (const Json& l : w.at(1)) {
                fault.welds.push_back(
                    static_cast<int>(Reading::within(l, 0, static_cast<long long>(plant->links.size()) - 1)));
                fault.variants.back().push_back({FaultMode::LinkHeldClosed, fault.welds.back()});
            }
        }
        for (std::size_t k = 0; k < s.faults.size(); ++k)
            s.outcomes.push_back(reading.outcome(json.at("outcomes").at(k), s.faults[k]));
        for (const Json& p : json.at("pairs"))
            s.pairs.push_back({reading.fault(p.at(0), 0), reading.fault(p.at(1), 0),
                Reading::word(p.at(2), Moment::AtReset), p.at(3).get<bool>(), reading.run(p.at(4))});
        s.hasPairs = json.at("has_pairs").get<bool>();
        s.runCount = json.at("counts").at(0).get<std::size_t>();
        s.pairRunCount = json.at("counts").at(1).get<std::size_t>();
        s.limitRunCount = json.at("counts").at(2).get<std::size_t>();
        s.skippedCount = json.at("skipped").at(0).get<int>();
        s.checkedCount = json.at("skipped").at(1).get<int>();
        s.runDownS = json.at("times").at(0).get<double>();
        s.watchS = json.at("times").at(1).get<double>();
        s.worstRestS = json.at("times").at(2).get<double>();
        for (const Json& t : json.at("trouble"))
            s.limitTrouble.emplace_back(
                Reading::word(t.at(0), Limit::HighVoltage), message(t.at(1).get<std::string>()));
        s.notRunning = json.at("not_running").get<std::vector<std::string>>();
    } catch (const Json::exception&) {
        return std::nullopt;
    }
    return s;
}

} // namespace ts
