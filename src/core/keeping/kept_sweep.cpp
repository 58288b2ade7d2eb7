#include "core/keeping/kept_sweep.h"

#include "core/io/dossier_text.h"
#include "core/keeping/result_store.h"
#include "core/model/decor.h"

#include <nlohmann/json.hpp>

#include <utility>

namespace ts {

extern const std::string_view kEngineVersion; // written at build time over the sources a sweep depends on

namespace {

using namespace faults;
using Json = nlohmann::json;

/// Of a function, what a run of its demand depends on.
SafetyFunction demandOf(const SafetyFunction& function)
{
    SafetyFunction f;
    f.id = function.id;
    f.trigger = function.trigger;
    f.mustRest = function.mustRest;
    f.allowedTimeS = function.allowedTimeS;
    f.demandScenario = function.demandScenario;
    return f;
}

std::string hashOf(std::string_view circuit, Dossier rest, std::string_view more = {})
{
    DossierFile file;
    file.dossier = std::move(rest);
    return io::contentHash(std::string(circuit) + io::printDossier(file) + std::string(more));
}

template <class Enum> int number(Enum e)
{
    return static_cast<int>(e);
}

Json jsonOf(const RunResult& r)
{
    return {{"loss", number(r.loss)}, {"lost_motor", r.lostMotor}, {"lost_at", r.lostAt},
        {"grade", number(r.notice.grade)}, {"when", number(r.notice.when)}, {"told_by", r.notice.device},
        {"blocks", r.blocks}, {"undecided", r.isUndecided}, {"longest_rest", r.longestRest}};
}

Json jsonOf(const FaultOutcome& o)
{
    Json moments = Json::array();
    for (std::size_t m = 0; m < kMoments.size(); ++m)
        moments.push_back({{"run", jsonOf(o.runs[m])}, {"outcome", number(o.outcomes[m])}, {"variant", o.variant[m]},
            {"limit", number(o.limits[m])}});
    return {{"is_run", o.isRun}, {"moments", moments}, {"overall", number(o.overall)}, {"mate", o.mate},
        {"hides", o.hides}, {"forgotten_by", o.forgottenBy}};
}

/// Messages of the core have texts and numbers only.
Json jsonOf(const Message& m)
{
    Json arguments = Json::array();
    for (const Argument& a : m.arguments) {
        if (const auto* text = std::get_if<std::string>(&a))
            arguments.push_back(*text);
        else if (const auto* whole = std::get_if<long long>(&a))
            arguments.push_back(*whole);
        else if (const auto* measured = std::get_if<Measured>(&a))
            arguments.push_back({{"si", measured->si}, {"unit", measured->unit}});
        else
            arguments.push_back({{"phrases", Json::array()}});
    }
    for (std::size_t k = 0; k < m.arguments.size(); ++k)
        if (const auto* phrases = std::get_if<Phrases>(&m.arguments[k]))
            for (const Message& phrase : *phrases)
                arguments[k]["phrases"].push_back(jsonOf(phrase));
    return {{"id", m.id}, {"arguments", arguments}};
}

Message messageFrom(const Json& j, int depth = 0)
{
    if (depth > 4)
        throw Json::out_of_range::create(401, "too deep", nullptr);
    Message m = message(j.at("id").get<std::string>());
    for (const Json& a : j.at("arguments")) {
        if (a.is_string()) {
            m.arguments.emplace_back(a.get<std::string>());
        } else if (a.is_number_integer()) {
            m.arguments.emplace_back(a.get<long long>());
        } else if (a.contains("phrases")) {
            Phrases phrases;
            for (const Json& phrase : a.at("phrases"))
                phrases.push_back(messageFrom(phrase, depth + 1));
            m.arguments.emplace_back(std::move(phrases));
        } else {
            m.arguments.emplace_back(Measured{a.at("si").get<double>(), a.at("unit").get<std::string>()});
        }
    }
    return m;
}

/// Takes numbers out of foreign JSON; anything that does not fit is thrown as the library's own error and caught at the
/// edge.
class Reading {
public:
    Reading(std::size_t faultCount, const Plant& plant)
        : m_faults(static_cast<long long>(faultCount))
        , m_devices(static_cast<long long>(plant.devices.size()))
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
        r.loss = word(j.at("loss"), Loss::StartsAlone);
        r.lostMotor = static_cast<int>(within(j.at("lost_motor"), r.loss == Loss::None ? -1 : 0, m_devices - 1));
        r.lostAt = j.at("lost_at").get<TimeNs>();
        r.notice.grade = word(j.at("grade"), Grade::LampOnly);
        r.notice.when = word(j.at("when"), NoticedWhen::OnNextRestart);
        r.notice.device = static_cast<int>(within(j.at("told_by"), -1, m_devices - 1));
        r.blocks = j.at("blocks").get<bool>();
        r.isUndecided = j.at("undecided").get<bool>();
        r.longestRest = j.at("longest_rest").get<TimeNs>();
        return r;
    }

    FaultOutcome outcome(const Json& j, const SweptFault& of) const
    {
        FaultOutcome o;
        o.isRun = j.at("is_run").get<bool>();
        const Json& moments = j.at("moments");
        for (std::size_t m = 0; m < kMoments.size(); ++m) {
            const Json& moment = moments.at(m);
            o.runs[m] = run(moment.at("run"));
            o.outcomes[m] = word(moment.at("outcome"), Outcome::Undecided);
            o.variant[m] = static_cast<std::uint8_t>(within(
                moment.at("variant"), 0, std::max<long long>(1, static_cast<long long>(of.variants.size())) - 1));
            o.limits[m] = word(moment.at("limit"), Limit::LeastLoad);
        }
        o.overall = word(j.at("overall"), Outcome::Undecided);
        o.mate = fault(j.at("mate"));
        o.hides = fault(j.at("hides"));
        o.forgottenBy = j.at("forgotten_by").get<std::string>();
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

std::string circuitKey(const Dossier& dossier)
{
    Dossier d;
    d.circuit = dossier.circuit;
    takeDecor(d.circuit);
    d.exclusions = dossier.exclusions;
    return hashOf({}, std::move(d));
}

std::string sweepKey(
    std::string_view circuit, const Dossier& dossier, const SafetyFunction& function, const SweepOptions& o)
{
    Dossier d;
    d.functions = {demandOf(function)};
    if (const Scenario* s = dossier.scenario(std::to_string(function.demandScenario.value)))
        d.scenarios = {*s};
    const std::string extent{o.withPairs ? 'p' : '-', o.withLimits ? 'l' : '-', o.withExcluded ? 'x' : '-'};
    return hashOf(circuit, std::move(d), extent);
}

std::string sweepKey(const Dossier& dossier, const SafetyFunction& function, const SweepOptions& options)
{
    return sweepKey(circuitKey(dossier), dossier, function, options);
}

std::string demandKey(std::string_view circuit, const Dossier& dossier, const SafetyFunction& function)
{
    Dossier d;
    d.functions = {demandOf(function)};
    d.scenarios = dossier.scenarios;
    return hashOf(circuit, std::move(d));
}

std::string demandKey(std::string_view circuit, const Dossier& dossier)
{
    Dossier d;
    for (const SafetyFunction& f : dossier.functions)
        d.functions.push_back(demandOf(f));
    d.scenarios = dossier.scenarios;
    return hashOf(circuit, std::move(d));
}

std::string keptName(std::string_view study, std::string_view key)
{
    return io::contentHash(std::string(study) + ' ' + std::string(key) + ' ' + std::string(kEngineVersion));
}

std::string keptText(const Sweep& s)
{
    Json outcomes = Json::array(), pairs = Json::array(), trouble = Json::array(), welds = Json::array();
    for (const FaultOutcome& o : s.outcomes)
        outcomes.push_back(jsonOf(o));
    for (const FaultPair& p : s.pairs)
        pairs.push_back({{"first", p.first}, {"second", p.second}, {"moment", number(p.moment)},
            {"first_is_hidden", p.firstIsHidden}, {"run", jsonOf(p.run)}});
    for (std::size_t k = 0; k < s.faults.size(); ++k)
        if (!s.faults[k].welds.empty())
            welds.push_back({{"fault", k}, {"links", s.faults[k].welds}});
    for (const auto& [limit, why] : s.limitTrouble)
        trouble.push_back({{"limit", number(limit)}, {"why", jsonOf(why)}});
    const Json json{{"outcomes", outcomes}, {"pairs", pairs}, {"has_pairs", s.hasPairs}, {"runs", s.runCount},
        {"pair_runs", s.pairRunCount}, {"limit_runs", s.limitRunCount}, {"skipped", s.skippedCount},
        {"checked", s.checkedCount}, {"run_down_s", s.runDownS}, {"watch_s", s.watchS}, {"worst_rest_s", s.worstRestS},
        {"limit_trouble", trouble}, {"not_running", s.notRunning}, {"welds", welds}};
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
    const Reading reading(s.faults.size(), *plant);
    try {
        const Json json = Json::parse(text);
        if (json.at("outcomes").size() != s.faults.size())
            return std::nullopt;
        for (const Json& w : json.at("welds")) {
            SweptFault& fault = s.faults[static_cast<std::size_t>(reading.fault(w.at("fault"), 0))];
            if (fault.variants.empty() || !fault.welds.empty())
                return std::nullopt;
            fault.variants.push_back(fault.variants.front());
            for (const Json& l : w.at("links")) {
                fault.welds.push_back(
                    static_cast<int>(Reading::within(l, 0, static_cast<long long>(plant->links.size()) - 1)));
                fault.variants.back().push_back({FaultMode::LinkHeldClosed, fault.welds.back()});
            }
        }
        for (std::size_t k = 0; k < s.faults.size(); ++k)
            s.outcomes.push_back(reading.outcome(json.at("outcomes").at(k), s.faults[k]));
        for (const Json& p : json.at("pairs"))
            s.pairs.push_back({reading.fault(p.at("first"), 0), reading.fault(p.at("second"), 0),
                Reading::word(p.at("moment"), Moment::AtReset), p.at("first_is_hidden").get<bool>(),
                reading.run(p.at("run"))});
        s.hasPairs = json.at("has_pairs").get<bool>();
        s.runCount = json.at("runs").get<std::size_t>();
        s.pairRunCount = json.at("pair_runs").get<std::size_t>();
        s.limitRunCount = json.at("limit_runs").get<std::size_t>();
        s.skippedCount = json.at("skipped").get<int>();
        s.checkedCount = json.at("checked").get<int>();
        s.runDownS = json.at("run_down_s").get<double>();
        s.watchS = json.at("watch_s").get<double>();
        s.worstRestS = json.at("worst_rest_s").get<double>();
        for (const Json& t : json.at("limit_trouble"))
            s.limitTrouble.emplace_back(Reading::word(t.at("limit"), Limit::LeastLoad), messageFrom(t.at("why")));
        s.notRunning = json.at("not_running").get<std::vector<std::string>>();
    } catch (const Json::exception&) {
        return std::nullopt;
    }
    return s;
}

std::string keptText(const OtherTriggers& tried)
{
    Json triggers = Json::array();
    for (const TriedTrigger& t : tried.tried)
        triggers.push_back(
            t.analysis ? Json{{"sweep", keptText(t.analysis->sweep)}} : Json{{"trouble", jsonOf(t.trouble)}});
    return triggers.dump();
}

std::optional<OtherTriggers> otherTriggersFrom(
    std::string_view text, const Dossier& dossier, const SafetyFunction& function)
{
    OtherTriggers all{function.id, {}};
    try {
        const Json triggers = Json::parse(text);
        if (!triggers.is_array() || triggers.size() != function.alsoBy.size())
            return std::nullopt;
        for (std::size_t k = 0; k < triggers.size(); ++k) {
            TriedTrigger t{function.alsoBy[k], nameOf(dossier.circuit, function.alsoBy[k]), {}};
            if (triggers[k].contains("trouble")) {
                t.trouble = messageFrom(triggers[k].at("trouble"));
            } else {
                const Dossier asked = dossierDemandedBy(dossier, function, k);
                const SafetyFunction& demanded = *asked.function(function.id);
                auto sweep = sweepFrom(triggers[k].at("sweep").get<std::string>(), asked, demanded);
                if (!sweep)
                    return std::nullopt;
                t.analysis = analysedSweep(asked, demanded, std::move(*sweep));
            }
            all.tried.push_back(std::move(t));
        }
    } catch (const Json::exception&) {
        return std::nullopt;
    }
    return all;
}

} // namespace ts
