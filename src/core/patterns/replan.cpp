#include "core/patterns/replan.h"

#include "core/edit/circuit_edits.h"
#include "core/edit/wiring.h"
#include "core/patterns/machine.h"

#include <algorithm>
#include <set>

namespace ts::patterns {
namespace {

using WireEnds = std::pair<std::string, std::string>; ///< "Q1:13", the lesser one first

WireEnds endsOf(const Circuit& c, const Wire& w)
{
    std::string a = c.nameOf(w.from), b = c.nameOf(w.to);
    return a < b ? WireEnds{a, b} : WireEnds{b, a};
}

std::map<WireEnds, const Wire*> wiresOf(const Circuit& c)
{
    std::map<WireEnds, const Wire*> wires;
    for (const Wire& w : c.wires)
        wires.emplace(endsOf(c, w), &w);
    return wires;
}

const Scenario* scenarioNamed(const Dossier& d, const std::string& name)
{
    const auto it = std::find_if(
        d.scenarios.begin(), d.scenarios.end(), [&](const Scenario& s) { return s.name == name; });
    return it == d.scenarios.end() ? nullptr : &*it;
}

bool sameRun(Scenario a, const Scenario& b)
{
    a.id = b.id;
    return a == b;
}

/// True if a step or an expectation is about this device.
bool speaksOf(const Scenario& s, const std::string& tag)
{
    const auto isOf = [&tag](const std::string& name) {
        return name.substr(0, std::min(name.find_first_of(".:/"), name.size())) == tag;
    };
    return std::any_of(s.steps.begin(), s.steps.end(), [&](const Step& step) { return isOf(step.target); })
        || std::any_of(
            s.expectations.begin(), s.expectations.end(), [&](const Expectation& e) { return isOf(e.subject); });
}

/// Three values of one thing: as it was planned, as it is, as it is planned now.
template <class Value> bool takes(Value& mine, const Value& base, const Value& target)
{
    if (base == target || mine == target)
        return true;
    if (mine != base)
        return false;
    mine = target;
    return true;
}

class Replanner {
public:
    Replanner(const DossierFile& mine, const DossierFile& base, const DossierFile& target)
        : m_file(mine)
        , m_base(base.dossier)
        , m_target(target.dossier)
    {
    }

    Expected<Replanned> result()
    {
        takeRoutesAndParts();
        dropDevices();
        changeDevices();
        if (auto ok = addDevices(); !ok)
            return Unexpected{ok.error()};
        if (auto ok = rewire(); !ok)
            return Unexpected{ok.error()};
        takeLinks();
        takeScenarios();
        growFunctions();
        takeMachine();
        return Replanned{std::move(m_file), std::move(m_said)};
    }

private:
    Circuit& circuit() { return m_file.dossier.circuit; }
    void say(std::string id, std::vector<Argument> arguments)
    {
        m_said.push_back({std::move(id), std::move(arguments)});
    }

    void takeRoutesAndParts()
    {
        for (const Route& r : m_target.circuit.routes) {
            m_file = edit::withRoute(m_file, r.name, r.kind);
            const RouteId was = edit::routeNamed(m_base.circuit, r.name), is = edit::routeNamed(circuit(), r.name);
            for (Route& mine : circuit().routes)
                if (mine.id == is && m_base.circuit.route(was)
                    && !takes(mine.kind, m_base.circuit.route(was)->kind, r.kind))
                    say("replan.route_stays", {r.name});
        }
        for (const Part& p : m_target.circuit.parts)
            if (!circuit().part(p.id))
                circuit().parts.push_back(p);
    }

    void dropDevices()
    {
        for (const Device& planned : m_base.circuit.devices) {
            const Device* mine = circuit().device(planned.tag);
            if (m_target.circuit.device(planned.tag) || !mine)
                continue;
            m_gone.insert(planned.tag);
            dropWiresOf(mine->id);
            dropFromFunctions(mine->id, planned.tag);
            std::erase_if(m_file.dossier.exclusions, [&](const FaultExclusion& e) {
                const bool isGone = e.fault.starts_with(planned.tag + "/");
                if (isGone)
                    say("replan.exclusion_lost", {e.fault, e.reason});
                return isGone;
            });
            const DeviceId id = mine->id;
            std::erase_if(
                circuit().interlocks, [id](const MechanicalInterlock& i) { return i.first == id || i.second == id; });
            std::erase_if(circuit().shafts, [id](const Shaft& s) { return s.brake == id || s.motor == id; });
            std::erase_if(circuit().devices, [id](const Device& d) { return d.id == id; });
        }
    }

    void dropWiresOf(DeviceId id)
    {
        const auto planned = wiresOf(m_base.circuit);
        std::erase_if(circuit().wires, [&](const Wire& w) {
            if (w.from.device != id && w.to.device != id)
                return false;
            if (const WireEnds ends = endsOf(circuit(), w); !planned.contains(ends))
                say("replan.wire_lost", {ends.first, ends.second});
            return true;
        });
    }

    void dropFromFunctions(DeviceId id, const std::string& tag)
    {
        for (SafetyFunction& f : m_file.dossier.functions) {
            std::erase_if(f.alsoBy, [id](const Trigger& t) { return t.device == id; });
            if (f.trigger.device == id && !f.alsoBy.empty()) {
                f.trigger = f.alsoBy.front();
                f.alsoBy.erase(f.alsoBy.begin());
            }
            std::erase(f.mustRest, id);
            if (f.resetBy == id)
                f.resetBy = {};
            if (dropFromClaim(f.claim, id))
                say("replan.claim_lost", {f.name, tag});
        }
        std::erase_if(m_file.dossier.functions, [&](const SafetyFunction& f) {
            const bool isEmpty = f.trigger.device == id || f.mustRest.empty();
            if (isEmpty)
                say("replan.function_lost", {f.name, tag});
            return isEmpty;
        });
    }

    static bool dropFromClaim(std::vector<ClaimedSubsystem>& claim, DeviceId id)
    {
        const auto isOf = [id](const ClaimedPart& p) { return p.device == id; };
        bool any = false;
        for (ClaimedSubsystem& s : claim) {
            for (ClaimedChannel& c : s.channels)
                any |= std::erase_if(c.parts, isOf) > 0;
            if (s.test)
                any |= std::erase_if(s.test->equipment.parts, isOf) > 0;
            std::erase_if(s.channels, [](const ClaimedChannel& c) { return c.parts.empty(); });
        }
        any |= std::erase_if(claim, [id](const ClaimedSubsystem& s) {
            return s.encapsulated == id || (!s.encapsulated && s.channels.empty());
        }) > 0;
        return any;
    }

    void changeDevices()
    {
        for (Device& mine : circuit().devices) {
            const Device* base = m_base.circuit.device(mine.tag);
            const Device* target = m_target.circuit.device(mine.tag);
            if (!base || !target)
                continue;
            if (!takes(mine.label, base->label, target->label))
                say("replan.value_stays", {mine.tag, "@replan.label", mine.label});
            takes(mine.place, base->place, target->place);
            if (base->kind != target->kind) {
                if (mine.kind != base->kind || mine.parameters != base->parameters)
                    say("replan.values_lost", {mine.tag});
                mine.kind = target->kind;
                mine.part = target->part;
                mine.parameters = target->parameters;
                mine.reliability = target->reliability;
                continue;
            }
            if (!takes(mine.part, base->part, target->part))
                say("replan.value_stays", {mine.tag, "@replan.part", mine.part});
            changeParameters(mine, base->parameters, target->parameters);
        }
    }

    void changeParameters(Device& mine, const ParameterMap& base, const ParameterMap& target)
    {
        std::set<std::string> names;
        for (const ParameterMap* map : {&base, &target})
            for (const auto& [name, value] : *map)
                names.insert(name);
        const auto in = [](const ParameterMap& map, const std::string& name) {
            const auto it = map.find(name);
            return it == map.end() ? std::optional<ParameterValue>{} : it->second;
        };
        for (const std::string& name : names) {
            std::optional<ParameterValue> value = in(mine.parameters, name);
            if (!takes(value, in(base, name), in(target, name)) && !mergeList(value, in(base, name), in(target, name)))
                say("replan.value_stays", {mine.tag, "@parameter." + name, std::string()});
            else if (value)
                mine.parameters[name] = *value;
            else
                mine.parameters.erase(name);
        }
    }

    /// Contacts that somebody added stay beside those that the plan now needs.
    static bool mergeList(std::optional<ParameterValue>& mine, const std::optional<ParameterValue>& base,
        const std::optional<ParameterValue>& target)
    {
        using List = std::vector<std::string>;
        if (!mine || !std::holds_alternative<List>(*mine))
            return false;
        const auto list = [](const std::optional<ParameterValue>& v) {
            return v && std::holds_alternative<List>(*v) ? std::get<List>(*v) : List{};
        };
        const List was = list(base), is = list(target);
        List& merged = std::get<List>(*mine);
        const auto has = [](const List& l, const std::string& item) {
            return std::find(l.begin(), l.end(), item) != l.end();
        };
        std::erase_if(merged, [&](const std::string& item) { return has(was, item) && !has(is, item); });
        for (const std::string& item : is)
            if (!has(merged, item))
                merged.push_back(item);
        return true;
    }

    Expected<void> addDevices()
    {
        for (const Device& target : m_target.circuit.devices) {
            if (m_base.circuit.device(target.tag))
                continue;
            if (circuit().device(target.tag))
                return failure(ErrorCode::Refused, message("replan.tag_taken", {target.tag}));
            auto changed = edit::withDevice(m_file, target);
            if (!changed)
                return Unexpected{changed.error()};
            m_file = std::move(*changed);
        }
        return {};
    }

    Expected<void> rewire()
    {
        const auto base = wiresOf(m_base.circuit), target = wiresOf(m_target.circuit);
        std::map<std::string, WireEnds> changedByHand; ///< ends of planned wires that somebody took away
        for (const auto& [ends, wire] : base) {
            if (target.contains(ends) || m_gone.contains(tagOf(ends.first)) || m_gone.contains(tagOf(ends.second)))
                continue;
            const bool isThere = std::erase_if(circuit().wires, [&, &ends = ends](const Wire& w) {
                return endsOf(circuit(), w) == ends;
            }) > 0;
            if (!isThere)
                for (const std::string& end : {ends.first, ends.second})
                    changedByHand.emplace(end, ends);
        }
        dropWiresWithoutTerminal();
        for (const auto& [ends, wire] : target) {
            if (base.contains(ends) || hasWire(ends))
                continue;
            for (const std::string& end : {ends.first, ends.second})
                if (const auto past = changedByHand.find(end); past != changedByHand.end()) {
                    say("replan.not_wired", {past->second.first, past->second.second, ends.first, ends.second});
                    break;
                }
            if (changedByHand.contains(ends.first) || changedByHand.contains(ends.second))
                continue;
            Wire laid = *wire;
            laid.number.clear(); // that of the net it joins
            laid.route = edit::routeNamed(circuit(), m_target.circuit.route(wire->route)->name);
            auto changed = edit::withWire(m_file, ends.first, ends.second, laid);
            if (!changed)
                return Unexpected{changed.error()};
            m_file = std::move(*changed);
        }
        for (Wire& mine : circuit().wires) {
            const WireEnds ends = endsOf(circuit(), mine);
            const auto was = base.find(ends), is = target.find(ends);
            if (was == base.end() || is == target.end())
                continue;
            if (!takes(mine.areaMm2, was->second->areaMm2, is->second->areaMm2)
                || !takes(mine.lengthM, was->second->lengthM, is->second->lengthM))
                say("replan.wire_stays", {ends.first, ends.second});
        }
        return {};
    }

    static std::string tagOf(const std::string& terminal) { return terminal.substr(0, terminal.find(':')); }

    bool hasWire(const WireEnds& ends)
    {
        return std::any_of(circuit().wires.begin(), circuit().wires.end(),
            [&](const Wire& w) { return endsOf(circuit(), w) == ends; });
    }

    /// Where a device is of another kind now.
    void dropWiresWithoutTerminal()
    {
        std::erase_if(circuit().wires, [&](const Wire& w) {
            const bool isThere = edit::mustBeThere(circuit(), w.from) && edit::mustBeThere(circuit(), w.to);
            if (!isThere)
                say("replan.wire_lost", {circuit().nameOf(w.from), circuit().nameOf(w.to)});
            return !isThere;
        });
    }

    void takeLinks()
    {
        const auto interlocks = [](const Circuit& c) {
            std::set<WireEnds> all;
            for (const MechanicalInterlock& i : c.interlocks)
                all.insert({c.device(i.first)->tag, c.device(i.second)->tag});
            return all;
        };
        const auto base = interlocks(m_base.circuit), target = interlocks(m_target.circuit);
        std::erase_if(circuit().interlocks, [&](const MechanicalInterlock& i) {
            const WireEnds ends{circuit().device(i.first)->tag, circuit().device(i.second)->tag};
            return base.contains(ends) && !target.contains(ends);
        });
        for (const WireEnds& ends : target)
            if (!base.contains(ends))
                if (auto changed = edit::withMechanicalInterlock(m_file, ends.first, ends.second))
                    m_file = std::move(*changed);
        for (const Shaft& s : m_target.circuit.shafts) {
            const std::string brake = m_target.circuit.device(s.brake)->tag,
                              motor = m_target.circuit.device(s.motor)->tag;
            if (m_base.circuit.device(brake))
                continue;
            if (auto changed = edit::withBrakeOnShaft(m_file, brake, motor))
                m_file = std::move(*changed);
        }
    }

    void takeScenarios()
    {
        Dossier& d = m_file.dossier;
        std::erase_if(d.scenarios, [&](const Scenario& s) {
            const Scenario* base = scenarioNamed(m_base, s.name);
            const bool isPlanned = base && !scenarioNamed(m_target, s.name);
            const bool isGone = isPlanned || (!base && std::any_of(m_gone.begin(), m_gone.end(), [&](const auto& tag) {
                return speaksOf(s, tag);
            }));
            if (isGone && !(base && sameRun(s, *base)))
                say("replan.scenario_lost", {s.name});
            if (isGone)
                d.machine.duty.timesPerHour.erase(s.id);
            return isGone;
        });
        for (SafetyFunction& f : d.functions)
            if (f.demandScenario && !d.scenario(f.demandScenario)) {
                say("replan.demand_lost", {f.name});
                f.demandScenario = {};
            }
        for (const Scenario& target : m_target.scenarios) {
            const Scenario* base = scenarioNamed(m_base, target.name);
            const auto mine = std::find_if(
                d.scenarios.begin(), d.scenarios.end(), [&](const Scenario& s) { return s.name == target.name; });
            if (mine == d.scenarios.end()) {
                if (!base)
                    m_file = edit::withScenario(m_file, target);
            } else if (!base || !sameRun(target, *base)) {
                if (base && !sameRun(*mine, *base)) {
                    say("replan.scenario_stays", {mine->name});
                } else {
                    const ScenarioId id = mine->id;
                    *mine = target;
                    mine->id = id;
                }
            }
        }
        takeRates();
    }

    void takeRates()
    {
        auto& mine = m_file.dossier.machine.duty.timesPerHour;
        const auto rate = [](const Dossier& d, const std::string& name) -> std::optional<double> {
            const Scenario* s = scenarioNamed(d, name);
            const auto it = s ? d.machine.duty.timesPerHour.find(s->id) : d.machine.duty.timesPerHour.end();
            return it == d.machine.duty.timesPerHour.end() ? std::optional<double>{} : it->second;
        };
        for (const Scenario& s : m_file.dossier.scenarios) {
            std::optional<double> value = rate(m_file.dossier, s.name);
            if (!scenarioNamed(m_target, s.name) || !takes(value, rate(m_base, s.name), rate(m_target, s.name)))
                continue;
            if (value)
                mine[s.id] = *value;
            else
                mine.erase(s.id);
        }
    }

    /// An emergency stop that stopped all motors stops the new ones, too: it must be said of it.
    void growFunctions()
    {
        const auto isMotor = [](const Device& d) { return d.kind == "motor"; };
        std::vector<DeviceId> fresh, old;
        for (const Device& d : circuit().devices)
            if (isMotor(d) && m_target.circuit.device(d.tag))
                (m_base.circuit.device(d.tag) ? old : fresh).push_back(d.id);
        for (SafetyFunction& f : m_file.dossier.functions) {
            const bool stopsAll = std::all_of(old.begin(), old.end(),
                [&f](DeviceId id) { return std::find(f.mustRest.begin(), f.mustRest.end(), id) != f.mustRest.end(); });
            if (fresh.empty() || !stopsAll)
                continue;
            f.mustRest.insert(f.mustRest.end(), fresh.begin(), fresh.end());
            say("replan.function_grows", {f.name});
        }
    }

    void takeMachine()
    {
        Machine& mine = m_file.dossier.machine;
        takes(mine.name, m_base.machine.name, m_target.machine.name);
        takes(mine.site, m_base.machine.site, m_target.machine.site);
        takes(mine.duty.isEntered, m_base.machine.duty.isEntered, m_target.machine.duty.isEntered);
        takes(mine.duty.daysPerYear, m_base.machine.duty.daysPerYear, m_target.machine.duty.daysPerYear);
        takes(mine.duty.hoursPerDay, m_base.machine.duty.hoursPerDay, m_target.machine.duty.hoursPerDay);
        ChosenWords reasons = std::move(mine.plan.reasons);
        mine.plan = m_target.machine.plan;
        std::erase_if(reasons, [&](const auto& r) {
            const auto name = choiceName(r.first);
            return !name
                || (name->starter > 0
                    && std::none_of(mine.plan.starters.begin(), mine.plan.starters.end(),
                        [&](const PlannedStarter& s) { return s.number == name->starter; }));
        });
        mine.plan.reasons = std::move(reasons);
    }

    DossierFile m_file;
    const Dossier& m_base;
    const Dossier& m_target;
    std::set<std::string> m_gone; ///< tags of devices that were taken out
    std::vector<Message> m_said;
};

} // namespace

Expected<Replanned> replanned(const DossierFile& file, const MachinePlan& plan)
{
    const PlannedMachine& kept = file.dossier.machine.plan;
    if (kept.starters.empty())
        return failure(ErrorCode::NotFound, message("replan.not_planned"));
    const auto was = MachinePlan::of(kept);
    if (!was)
        return Unexpected{was.error()};
    const auto base = machine(*was);
    if (!base)
        return Unexpected{base.error()};
    const auto target = machine(plan);
    if (!target)
        return Unexpected{target.error()};
    return Replanner(file, *base, *target).result();
}

} // namespace ts::patterns
