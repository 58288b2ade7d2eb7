#include "core/io/function_text.h"

namespace ts::io {
namespace {

constexpr std::size_t kMostEvidence = 100;

std::optional<double> optionalNumber(ObjectReader& r, const char* key, double low, double high)
{
    if (!r.find(key))
        return std::nullopt;
    return r.number(key, low, high);
}

/// [{"about": "separation", "seen": "two cables"}]: a list, so that no word of ours becomes a key.
std::map<std::string, std::string> readEvidence(ObjectReader& r, const char* key)
{
    std::map<std::string, std::string> evidence;
    r.each(key, kMostEvidence, [&](ObjectReader& e) {
        const std::string about = e.text("about", true);
        evidence[about] = e.text("seen", true);
    });
    return evidence;
}

ClaimedChannel readChannel(ObjectReader& r)
{
    ClaimedChannel channel;
    channel.name = r.text("name");
    r.each("parts", 100, [&](ObjectReader& p) {
        ClaimedPart part;
        part.device = {p.integer("device", 1, kLargestId)};
        part.element = p.text("element");
        part.secondsPerCycle = optionalNumber(p, "seconds_per_cycle", 0, 1e10);
        part.operationsPerYear = optionalNumber(p, "operations_per_year", 0, 1e10);
        part.measure = p.text("measure");
        part.dc = p.number("dc", 0, 1, 0.0);
        part.excludedBecause = p.text("excluded_because");
        channel.parts.push_back(std::move(part));
    });
    return channel;
}

ClaimedSubsystem readSubsystem(ObjectReader& r)
{
    ClaimedSubsystem s;
    s.name = r.text("name", true);
    s.encapsulated = {r.integer("encapsulated", 0, kLargestId, 0)};
    s.category = safety::categoryNamed(r.word("category", {"", "B", "1", "2", "3", "4"}, ""));
    s.wellTried = r.flag("well_tried", false);
    s.estimatedOutput = r.flag("estimated_output", false);
    s.ccfAnswers = r.texts("ccf");
    s.ccfEvidence = readEvidence(r, "ccf_evidence");
    r.each("channels", 2, [&](ObjectReader& c) { s.channels.push_back(readChannel(c)); });
    r.object("test", [&](ObjectReader& t) {
        ClaimedTest test;
        t.object("equipment", [&](ObjectReader& c) { test.equipment = readChannel(c); });
        test.testsPerDemand = optionalNumber(t, "tests_per_demand", 0, 1e9);
        test.onlyWarns = t.flag("only_warns", false);
        s.test = std::move(test);
    });
    return s;
}

void readConditions(ObjectReader& r, Conditions& c)
{
    c.basicPrinciples = r.flag("basic_principles", false);
    c.wellTriedPrinciples = r.flag("well_tried_principles", false);
    c.systematicFailures = r.flag("systematic_failures", false);
    c.environment = r.flag("environment", false);
    c.software = r.flag("software", false);
    c.softwareVersion = r.text("software_version");
    c.softwareChecksum = r.text("software_checksum");
    c.evidence = readEvidence(r, "evidence");
}

Trigger readTrigger(ObjectReader& r)
{
    Trigger t;
    t.device = {r.integer("device", 1, kLargestId)};
    t.action = r.text("action", true);
    return t;
}

RiskAnswers readRisk(ObjectReader& r)
{
    RiskAnswers a;
    a.seriousInjury = r.flag("serious_injury", true);
    a.frequentExposure = r.flag("frequent_exposure", true);
    a.scarcelyAvoidable = r.flag("scarcely_avoidable", true);
    a.lowProbability = r.flag("low_probability", false);
    a.lowProbabilityReason = r.text("low_probability_reason");
    return a;
}

Approach readApproach(ObjectReader& r)
{
    Approach a;
    a.sensorS = r.number("sensor_s", 0, 60, 0.0);
    a.distanceM = optionalNumber(r, "distance_m", 0, 100);
    a.intrusionM = r.number("intrusion_m", 0, 10, 0.0);
    a.safeguard = safeguardNamed(r.word("safeguard", safeguardWords(), "unsaid"));
    a.resolutionM = r.number("resolution_m", 0, 1, 0.0);
    r.each("measured_stops", 1000, [&](ObjectReader& m) { a.measuredStopsS.push_back(m.number("seconds", 0, 3600)); });
    a.measuredOn = r.text("measured_on");
    a.measureAgainOn = r.text("measure_again_on");
    return a;
}

} // namespace

SafetyFunction readFunction(ObjectReader& r, FunctionId id)
{
    SafetyFunction f;
    f.id = id;
    f.name = r.text("name", true);
    if (f.name.find_first_not_of(' ') == std::string::npos)
        r.refuse(ErrorCode::Refused, message("function.no_name"), "name");
    f.reliedOnByPerson = r.flag("relied_on_by_a_person", true);
    r.object("trigger", [&](ObjectReader& t) { f.trigger = readTrigger(t); });
    r.each("also_by", 100, [&](ObjectReader& t) { f.alsoBy.push_back(readTrigger(t)); });
    for (int motor : r.integers("must_rest"))
        f.mustRest.push_back({motor});
    f.allowedTimeS = r.number("allowed_time_s", 0, 3600, 0.0);
    f.stopCategory = r.integer("stop_category", 0, 2, 0);
    f.emergencyStop = r.flag("emergency_stop", false);
    f.requiredLevel = safety::levelNamed(r.word("required_level", {"", "a", "b", "c", "d", "e"}, ""));
    f.requiredLevelReason = r.text("required_level_reason");
    r.object("risk", [&](ObjectReader& a) { f.risk = readRisk(a); });
    f.resetRule = r.text("reset_rule");
    f.resetBy = {r.integer("reset_by", 0, kLargestId, 0)};
    f.restart = restartNamed(r.word("restart", {"start_action", "reset", "release"}, "start_action"));
    r.object("manual_test", [&](ObjectReader& t) {
        f.manualTest.everyDays = t.number("every_days", 1, 3660);
        f.manualTest.lastOn = t.date("last_on");
    });
    r.object("approach", [&](ObjectReader& a) { f.approach = readApproach(a); });
    f.demandScenario = {r.integer("demand_scenario", 0, kLargestId, 0)};
    r.each("claim", 50, [&](ObjectReader& s) { f.claim.push_back(readSubsystem(s)); });
    r.object("conditions", [&](ObjectReader& c) { readConditions(c, f.conditions); });
    return f;
}

ArithmeticChoice readArithmetic(ObjectReader& r)
{
    const ArithmeticChoice usual;
    ArithmeticChoice a;
    for (const ReadingField& f : kReadings)
        f.set(a, r.word(f.name, {f.words[0], f.words[1]}, f.words[0]) == f.words[1]);
    a.toleranceOnLimits = r.flag("tolerance_on_limits", usual.toleranceOnLimits);
    a.missionYears = r.number("mission_years", 1, 100, usual.missionYears);
    a.commonCauseShare = r.number("common_cause_share", 0, 1, usual.commonCauseShare);
    a.typicalFactor = r.number("typical_factor", 1, 100, usual.typicalFactor);
    a.makerFactor = r.number("maker_factor", 1, 100, usual.makerFactor);
    a.cyclesFactor = r.number("cycles_factor", 1, 100, usual.cyclesFactor);
    return a;
}

} // namespace ts::io
