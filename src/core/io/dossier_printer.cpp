#include "core/io/dossier_text.h"
#include "core/io/fields.h"
#include "core/io/function_text.h"
#include "core/io/json_cells.h"

#include <nlohmann/json.hpp>

#include <algorithm>

namespace ts::io {
namespace {

using Json = nlohmann::ordered_json;

template <class T> std::vector<const T*> byId(const std::vector<T>& list)
{
    std::vector<const T*> sorted;
    for (const T& item : list)
        sorted.push_back(&item);
    std::sort(sorted.begin(), sorted.end(), [](auto* a, auto* b) { return a->id < b->id; });
    return sorted;
}

Json parametersOf(const ParameterMap& map)
{
    Json json = Json::object();
    for (const auto& [key, value] : map)
        std::visit(
            [&](const auto& v) {
                if constexpr (std::is_same_v<std::decay_t<decltype(v)>, double>)
                    json[key] = numberOf(v);
                else
                    json[key] = v;
            },
            value);
    return json;
}

void putReliability(Json& json, const std::optional<Reliability>& reliability)
{
    if (!reliability)
        return;
    Json r = Json::object();
    for (const auto& field : kReliabilityNumbers)
        putNumber(r, field.name, (*reliability).*field.value);
    putNumber(r, kDangerousShare.name, reliability->dangerousShare);
    putText(r, "typical_part", reliability->typicalPart);
    putText(r, "performance_level", std::string(safety::wordOf(reliability->performanceLevel)));
    putText(r, "category", std::string(safety::wordOf(reliability->category)));
    putText(r, "source", reliability->source);
    json["reliability"] = r;
}

Json partsOf(const std::vector<Part>& list)
{
    Json json = Json::array();
    for (const Part* p : byId(list)) {
        Json j{{"id", p->id}};
        putText(j, "name", p->name);
        j["kind"] = p->kind;
        j["parameters"] = parametersOf(p->parameters);
        putReliability(j, p->reliability);
        json.push_back(j);
    }
    return json;
}

Json readingOf(const TakenReading& r)
{
    Json j = Json::object();
    const auto put = [&j](const char* key, const std::optional<double>& number) {
        if (number)
            j[key] = *number;
    };
    put("value", r.value);
    putText(j, "word", r.word);
    putText(j, "unit", r.unit);
    put("low", r.low);
    put("high", r.high);
    putText(j, "expected", r.expected);
    putText(j, "instrument", r.instrument);
    putText(j, "calibrated_until", r.calibratedUntil);
    j["uncertainty"] = r.uncertainty;
    j["covers"] = r.covers;
    return j;
}

Json recordOf(const RecordEntry& e)
{
    Json j{{"date", e.date}, {"who", e.who}, {"text", e.text}};
    if (!e.isChained())
        return j;
    j["kind"] = e.kind;
    j["role"] = e.role;
    putText(j, "subject", e.subject);
    putText(j, "said", e.said);
    j["state"] = e.state;
    j["before"] = e.before;
    if (e.reading)
        j["reading"] = readingOf(*e.reading);
    if (e.bypass)
        j["bypass"] = {
            {"from", e.bypass->from}, {"to", e.bypass->to}, {"owner", e.bypass->owner}, {"until", e.bypass->until}};
    return j;
}

Json circuitOf(const Circuit& c)
{
    Json json;
    json["parts"] = partsOf(c.parts);
    json["devices"] = Json::array();
    for (const Device* d : byId(c.devices)) {
        Json j{{"id", d->id.value}, {"tag", d->tag}, {"kind", d->kind}};
        putText(j, "part", d->part);
        putText(j, "label", d->label);
        putText(j, "place", d->place);
        if (d->rank != 0)
            j["rank"] = d->rank;
        if (!d->parameters.empty())
            j["parameters"] = parametersOf(d->parameters);
        putReliability(j, d->reliability);
        putText(j, "remark", d->remark);
        json["devices"].push_back(j);
    }
    json["routes"] = Json::array();
    for (const Route* r : byId(c.routes)) {
        Json j{{"id", r->id.value}, {"name", r->name}, {"kind", routeWord(r->kind)}};
        putFields(j, kRouteFields, *r);
        json["routes"].push_back(std::move(j));
    }
    json["wires"] = Json::array();
    for (const Wire* w : byId(c.wires)) {
        Json j{{"id", w->id.value}, {"number", w->number}, {"from", c.nameOf(w->from)}, {"to", c.nameOf(w->to)}};
        putFields(j, kWireFields, *w);
        if (w->route)
            j["route"] = w->route.value;
        json["wires"].push_back(j);
    }
    if (!c.interlocks.empty()) {
        json["interlocks"] = Json::array();
        for (const MechanicalInterlock& i : c.interlocks)
            json["interlocks"].push_back({{"first", c.device(i.first)->tag}, {"second", c.device(i.second)->tag}});
    }
    if (!c.shafts.empty()) {
        json["shafts"] = Json::array();
        for (const Shaft& s : c.shafts)
            json["shafts"].push_back({{"brake", c.device(s.brake)->tag}, {"motor", c.device(s.motor)->tag}});
    }
    return json;
}

Json scenarioOf(const Scenario& s)
{
    Json json{{"id", s.id.value}, {"name", s.name}, {"length_s", numberOf(s.lengthS)}, {"steps", Json::array()},
        {"expect", Json::array()}};
    for (const Step& t : s.steps) {
        Json step{{"at_s", numberOf(t.atS)}, {"action", t.action}, {"target", t.target}};
        if (t.value != 0.0)
            step["value"] = numberOf(t.value);
        json["steps"].push_back(step);
    }
    for (const Expectation& e : s.expectations)
        json["expect"].push_back({{"at_s", numberOf(e.atS)}, {"subject", e.subject}, {"state", e.state}});
    return json;
}

Json wordsOf(const ChosenWords& words)
{
    Json list = Json::array();
    for (const auto& [choice, text] : words)
        list.push_back({{"choice", choice}, {"text", text}});
    return list;
}

Json planOf(const PlannedMachine& plan)
{
    Json starters = Json::array();
    for (const PlannedStarter& s : plan.starters)
        starters.push_back({{"number", s.number}, {"words", wordsOf(s.words)}});
    Json json{{"words", wordsOf(plan.words)}, {"starters", std::move(starters)}};
    if (!plan.reasons.empty())
        json["reasons"] = wordsOf(plan.reasons);
    return json;
}

} // namespace

std::string printDossier(const DossierFile& file)
{
    const Dossier& d = file.dossier;
    Json dossier;
    Json duty;
    if (d.machine.duty.isEntered)
        duty = {{"days_per_year", numberOf(d.machine.duty.daysPerYear)},
            {"hours_per_day", numberOf(d.machine.duty.hoursPerDay)}};
    for (const auto& [scenario, times] : d.machine.duty.timesPerHour)
        duty["scenarios"].push_back({{"scenario", scenario.value}, {"times_per_hour", numberOf(times)}});
    dossier["machine"] = {{"name", d.machine.name}, {"site", d.machine.site}};
    putText(dossier["machine"], "in_use_since", d.machine.inUseSince);
    if (!d.machine.plan.starters.empty())
        dossier["machine"]["plan"] = planOf(d.machine.plan);
    if (!duty.is_null())
        dossier["machine"]["duty"] = std::move(duty);
    dossier["arithmetic"] = jsonOf(d.arithmetic);
    dossier["circuit"] = circuitOf(d.circuit);
    dossier["functions"] = Json::array();
    for (const SafetyFunction* f : byId(d.functions))
        dossier["functions"].push_back(jsonOf(*f));
    dossier["scenarios"] = Json::array();
    for (const Scenario* s : byId(d.scenarios))
        dossier["scenarios"].push_back(scenarioOf(*s));
    for (const FaultExclusion& e : d.exclusions)
        dossier["exclusions"].push_back({{"fault", e.fault}, {"reason", e.reason}});
    Json json{{"format", kFormat}, {"nextId", file.nextId}, {"dossier", dossier}, {"record", Json::array()}};
    for (const RecordEntry& e : file.record)
        json["record"].push_back(recordOf(e));
    // Text that is not valid UTF-8 is written with replacement signs rather than refused at saving time.
    return json.dump(2, ' ', false, Json::error_handler_t::replace) + "\n";
}

std::string printParts(const std::vector<Part>& parts)
{
    return partsOf(parts).dump(2) + "\n";
}

} // namespace ts::io
