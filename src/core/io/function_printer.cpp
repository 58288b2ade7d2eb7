#include "core/io/function_text.h"
#include "core/io/json_cells.h"

namespace ts::io {
namespace {

using Json = nlohmann::ordered_json;

void putEvidence(Json& json, const char* key, const std::map<std::string, std::string>& evidence)
{
    for (const auto& [about, seen] : evidence)
        json[key].push_back({{"about", about}, {"seen", seen}});
}

Json jsonOf(const ClaimedChannel& c)
{
    Json channel{{"name", c.name}, {"parts", Json::array()}};
    for (const ClaimedPart& p : c.parts) {
        Json part{{"device", p.device.value}, {"element", p.element}};
        putNumber(part, "seconds_per_cycle", p.secondsPerCycle);
        putNumber(part, "operations_per_year", p.operationsPerYear);
        putText(part, "measure", p.measure);
        if (p.dc != 0.0)
            part["dc"] = p.dc;
        putText(part, "excluded_because", p.excludedBecause);
        channel["parts"].push_back(part);
    }
    return channel;
}

Json jsonOf(const ClaimedSubsystem& s)
{
    Json json{{"name", s.name}};
    if (s.encapsulated)
        json["encapsulated"] = s.encapsulated.value;
    putText(json, "category", std::string(safety::wordOf(s.category)));
    if (s.wellTried)
        json["well_tried"] = true;
    if (s.estimatedOutput)
        json["estimated_output"] = true;
    for (const ClaimedChannel& c : s.channels)
        json["channels"].push_back(jsonOf(c));
    if (s.test) {
        json["test"] = {{"equipment", jsonOf(s.test->equipment)}};
        putNumber(json["test"], "tests_per_demand", s.test->testsPerDemand);
        if (s.test->onlyWarns)
            json["test"]["only_warns"] = true;
    }
    if (!s.ccfAnswers.empty())
        json["ccf"] = s.ccfAnswers;
    putEvidence(json, "ccf_evidence", s.ccfEvidence);
    return json;
}

Json jsonOf(const Conditions& c)
{
    Json json{{"basic_principles", c.basicPrinciples}, {"well_tried_principles", c.wellTriedPrinciples},
        {"systematic_failures", c.systematicFailures}, {"environment", c.environment}};
    if (c.software)
        json["software"] = true;
    putText(json, "software_version", c.softwareVersion);
    putText(json, "software_checksum", c.softwareChecksum);
    putEvidence(json, "evidence", c.evidence);
    return json;
}

Json jsonOf(const RiskAnswers& a)
{
    Json json{{"serious_injury", a.seriousInjury}, {"frequent_exposure", a.frequentExposure},
        {"scarcely_avoidable", a.scarcelyAvoidable}};
    if (a.lowProbability)
        json["low_probability"] = true;
    putText(json, "low_probability_reason", a.lowProbabilityReason);
    return json;
}

Json jsonOf(const Trigger& t)
{
    return {{"device", t.device.value}, {"action", t.action}};
}

Json jsonOf(const Approach& a)
{
    Json json{{"sensor_s", numberOf(a.sensorS)}};
    putNumber(json, "distance_m", a.distanceM);
    if (a.intrusionM != 0.0)
        json["intrusion_m"] = numberOf(a.intrusionM);
    if (a.safeguard != Safeguard::Unsaid)
        json["safeguard"] = safeguardWord(a.safeguard);
    if (a.resolutionM != 0.0)
        json["resolution_m"] = numberOf(a.resolutionM);
    for (double s : a.measuredStopsS)
        json["measured_stops"].push_back({{"seconds", numberOf(s)}});
    putText(json, "measured_on", a.measuredOn);
    putText(json, "measure_again_on", a.measureAgainOn);
    return json;
}

} // namespace

Json jsonOf(const SafetyFunction& f)
{
    Json json{{"id", f.id.value}, {"name", f.name}, {"relied_on_by_a_person", f.reliedOnByPerson}};
    if (f.trigger.device)
        json["trigger"] = jsonOf(f.trigger);
    for (const Trigger& t : f.alsoBy)
        json["also_by"].push_back(jsonOf(t));
    json["must_rest"] = Json::array();
    for (DeviceId id : f.mustRest)
        json["must_rest"].push_back(id.value);
    json["allowed_time_s"] = numberOf(f.allowedTimeS);
    json["stop_category"] = f.stopCategory;
    json["emergency_stop"] = f.emergencyStop;
    putText(json, "required_level", std::string(safety::wordOf(f.requiredLevel)));
    putText(json, "required_level_reason", f.requiredLevelReason);
    if (f.risk)
        json["risk"] = jsonOf(*f.risk);
    putText(json, "reset_rule", f.resetRule);
    if (f.resetBy)
        json["reset_by"] = f.resetBy.value;
    if (f.restart != RestartRule::StartAction)
        json["restart"] = restartWord(f.restart);
    if (f.manualTest.everyDays) {
        json["manual_test"]["every_days"] = numberOf(*f.manualTest.everyDays);
        putText(json["manual_test"], "last_on", f.manualTest.lastOn);
    }
    if (f.approach != Approach{})
        json["approach"] = jsonOf(f.approach);
    if (f.demandScenario)
        json["demand_scenario"] = f.demandScenario.value;
    json["claim"] = Json::array();
    for (const ClaimedSubsystem& s : f.claim)
        json["claim"].push_back(jsonOf(s));
    json["conditions"] = jsonOf(f.conditions);
    return json;
}

Json jsonOf(const ArithmeticChoice& a)
{
    const ArithmeticChoice usual;
    Json json = Json::object();
    for (const ReadingField& f : kReadings)
        if (f.isAlwaysWritten || f.get(a) != f.get(usual))
            json[f.name] = f.wordIn(a);
    const auto put = [&](const char* key, double value, double isUsual) {
        if (value != isUsual)
            json[key] = numberOf(value);
    };
    if (a.toleranceOnLimits)
        json["tolerance_on_limits"] = true;
    put("mission_years", a.missionYears, usual.missionYears);
    put("common_cause_share", a.commonCauseShare, usual.commonCauseShare);
    put("typical_factor", a.typicalFactor, usual.typicalFactor);
    put("maker_factor", a.makerFactor, usual.makerFactor);
    put("cycles_factor", a.cyclesFactor, usual.cyclesFactor);
    return json;
}

} // namespace ts::io
