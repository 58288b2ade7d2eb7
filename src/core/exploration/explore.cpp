#include "core/exploration/explore.h"

#include "core/base/at.h"
#include "core/faults/cycle.h"
#include "core/faults/fault_list.h"

#include <algorithm>
#include <set>

namespace ts::exploration {
namespace {

/// What is asked of one motor.
struct Task {
    DeviceId device;
    Cone cone;
    SearchQuestion question;
    std::vector<const faults::SweptFault*> faults;
};

/// The operation by which the function's demand scenario starts the first motor.
std::optional<Stimulus> declaredStart(
    const Plant& plant, const Dossier& dossier, const SafetyFunction& function, std::stop_token stop)
{
    Workspace workspace;
    const auto cycle = faults::cycleOf(plant, dossier, function, function.demandScenario, workspace, std::move(stop));
    if (!cycle)
        return {};
    for (const Stimulus& s : cycle->stimuli)
        if (s.at == cycle->firstStart && s.kind == Stimulus::Kind::Drive)
            return s;
    return {};
}

Task taskOf(const Plant& plant, const Dossier& dossier, int motor, const std::vector<faults::SweptFault>& list,
    const std::stop_token& stop)
{
    Task task{plant.deviceOfActuator(motor).id, coneOfMotor(plant, motor), {}, {}};
    task.question.motor = motor;
    for (const SafetyFunction& f : dossier.functions) {
        if (std::find(f.mustRest.begin(), f.mustRest.end(), task.device) == f.mustRest.end())
            continue;
        if (const auto start = declaredStart(plant, dossier, f, stop))
            task.question.starts.push_back(*start);
        const Device* trigger = dossier.circuit.device(f.trigger.device);
        const auto operate = trigger ? stimuliFor(plant, trigger->tag, f.trigger.action, 0)
                                     : failure(ErrorCode::NotFound, message("stop.no_demand"));
        if (operate && operate->front().kind == Stimulus::Kind::Drive) // the supply's loss is an operation by itself
            task.question.demands.push_back({f.id, operate->front().slot, operate->front().target});
    }
    std::set<DeviceId> devices{task.device};
    for (int m : task.cone.movers)
        devices.insert(plant.devices[at(plant.movers[at(m)].device)].id);
    for (const faults::SweptFault& f : list)
        if (!f.isExcluded && f.family != faults::Family::CommonCause
            && std::any_of(f.devices.begin(), f.devices.end(), [&](DeviceId d) { return devices.contains(d); }))
            task.faults.push_back(&f);
    return task;
}

Operations operationsFor(const Plant& plant, const Task& task)
{
    std::vector<int> triggers;
    for (const Demand& d : task.question.demands)
        triggers.push_back(d.mover);
    return Operations(plant, task.cone, triggers);
}

int answersLost(const Searched& s)
{
    return static_cast<int>(std::count_if(
        s.proofs.begin(), s.proofs.end(), [](const Proof& p) { return p.answer == Answer::CounterExample; }));
}

/// An interlock and how to put it out of action.
struct Interlock {
    InterlockKind kind = InterlockKind::Mechanical;
    std::vector<int> links; ///< bridged; none: the mechanical one
};

std::vector<Interlock> interlocksOf(const Plant& plant, const Opposed& pair)
{
    std::array<std::vector<int>, 2> paths;
    for (const PlantCoil& c : plant.coils)
        for (std::size_t k = 0; k < 2; ++k)
            if (c.mover == pair[k]) {
                const PlantImpedance& z = plant.impedances[at(c.impedance)];
                paths[k] = linksOnPaths(plant, {z.p, z.q});
            }
    const auto contact = [&](int l) -> const ContactElement& { return plant.links[at(l)].contact; };
    const auto closesInOther = [&](int mover, std::size_t other) {
        return std::any_of(paths[other].begin(), paths[other].end(),
            [&](int l) { return contact(l).mover == mover && contact(l).kind == ContactKind::NormallyOpen; });
    };
    Interlock contactors{InterlockKind::ContactorContacts, {}}, buttons{InterlockKind::ButtonContacts, {}};
    for (std::size_t k = 0; k < 2; ++k)
        for (int l : paths[k]) {
            if (contact(l).kind != ContactKind::NormallyClosed || contact(l).mover < 0)
                continue;
            if (contact(l).mover == pair[1 - k])
                contactors.links.push_back(l);
            else if (plant.movers[at(contact(l).mover)].spec.driver == MoverSpec::Driver::Operator
                && closesInOther(contact(l).mover, 1 - k))
                buttons.links.push_back(l);
        }
    std::vector<Interlock> result;
    const auto& partners = plant.movers[at(pair[0])].partners;
    if (std::find(partners.begin(), partners.end(), pair[1]) != partners.end())
        result.push_back({InterlockKind::Mechanical, {}});
    for (Interlock* i : {&contactors, &buttons})
        if (!i->links.empty())
            result.push_back(*i);
    return result;
}

std::vector<Fault> bridges(const Plant& plant, const std::vector<int>& links)
{
    std::vector<Fault> result;
    for (int l : links)
        result.push_back({FaultMode::Short, plant.links[at(l)].p, plant.links[at(l)].q});
    return result;
}

void unlink(Plant& plant, const Opposed& pair)
{
    for (std::size_t k = 0; k < 2; ++k)
        std::erase(plant.movers[at(pair[k])].partners, pair[1 - k]);
}

class Exploring {
public:
    Exploring(const Machines& machines, const Request& request, const Listener& listener, std::stop_token stop)
        : m_machines(machines)
        , m_request(request)
        , m_listener(listener)
        , m_stop(std::move(stop))
        , m_pairs(opposedContactors(machines.nominal))
    {
    }

    Expected<Explored> run(const std::vector<Task>& tasks)
    {
        m_total = 0;
        for (const Task& t : tasks) {
            m_total += 1 + (pairsOf(t).empty() ? 0 : 1) + (m_request.withFaults ? t.faults.size() : 0);
            for (const Opposed& pair : pairsOf(t))
                m_total += m_request.withInterlocks ? 2 * interlocksOf(m_machines.nominal, pair).size() : 0;
        }
        Explored result;
        for (const Task& t : tasks) {
            auto motor = motorExplored(t);
            if (!motor)
                return Unexpected{motor.error()};
            result.motors.push_back(std::move(*motor));
            for (const Opposed& pair : m_request.withInterlocks ? pairsOf(t) : std::vector<Opposed>{})
                if (auto ok = judgeInterlocks(t, pair, result.interlocks); !ok)
                    return Unexpected{ok.error()};
        }
        return result;
    }

private:
    /// Opposed contactors that both feed this motor.
    std::vector<Opposed> pairsOf(const Task& t) const
    {
        std::vector<Opposed> result;
        for (const Opposed& pair : m_pairs)
            if (std::all_of(pair.begin(), pair.end(),
                    [&](int m) { return std::binary_search(t.cone.contactors.begin(), t.cone.contactors.end(), m); }))
                result.push_back(pair);
        return result;
    }

    Expected<Searched> searched(const Machines& machines, const SearchQuestion& question, const Operations& operations)
    {
        const auto tell = [this](std::size_t states) {
            if (m_listener)
                m_listener({m_done, m_total, states});
        };
        auto s = search(machines, question, operations, m_request.options, m_stop, tell);
        ++m_done;
        tell(0);
        return s;
    }

    Expected<MotorExplored> motorExplored(const Task& t)
    {
        const Operations operations = operationsFor(m_machines.nominal, t);
        MotorExplored result{t.device, operations.tags(), operations.leftAlone(), {}, {}, {}};
        auto healthy = searched(m_machines, t.question, operations);
        if (!healthy)
            return Unexpected{healthy.error()};
        result.healthy = std::move(*healthy);
        if (const auto pairs = pairsOf(t); !pairs.empty()) {
            SearchQuestion question = t.question;
            question.scope = SearchQuestion::Scope::Armatures;
            question.opposed = pairs;
            auto byHand = searched(m_machines, question, operations);
            if (!byHand)
                return Unexpected{byHand.error()};
            result.byHand = std::move(*byHand);
        }
        if (!m_request.withFaults)
            return result;
        for (const faults::SweptFault* f : t.faults) {
            std::optional<FaultExplored> worst;
            for (std::size_t v = 0; v < f->variants.size(); ++v) {
                SearchQuestion question = t.question;
                question.faults = f->variants[v];
                if (v > 0)
                    --m_done; // the fault is one search for whoever waits
                auto s = searched(m_machines, question, operations);
                if (!s)
                    return Unexpected{s.error()};
                if (!worst || answersLost(*s) > answersLost(worst->searched))
                    worst = FaultExplored{f->id, f->variants[v], std::move(*s)};
            }
            if (worst)
                result.faults.push_back(std::move(*worst));
        }
        return result;
    }

    Expected<void> judgeInterlocks(const Task& t, const Opposed& pair, std::vector<InterlockJudged>& into)
    {
        const Plant& plant = m_machines.nominal;
        const std::vector<Interlock> all = interlocksOf(plant, pair);
        const Operations operations = operationsFor(plant, t);
        Machines loose = m_machines;
        loose.memory = std::make_shared<CircuitMemory>();
        unlink(loose.nominal, pair);
        for (Plant& p : loose.limits)
            unlink(p, pair);
        for (const Interlock& one : all) {
            InterlockJudged judged;
            judged.kind = one.kind;
            for (std::size_t k = 0; k < 2; ++k)
                judged.contactors[k] = plant.devices[at(plant.movers[at(pair[k])].device)].id;
            for (int l : one.links)
                judged.contacts.push_back(
                    plant.devices[at(plant.links[at(l)].device)].tag + ":" + plant.links[at(l)].role);
            judged.bridgedWithout = bridges(plant, one.links);
            for (const Interlock& other : all)
                if (other.kind != one.kind)
                    for (const Fault& f : bridges(plant, other.links))
                        judged.bridged.push_back(f);
            const bool isMechanical = one.kind == InterlockKind::Mechanical;
            SearchQuestion question = t.question;
            question.scope = SearchQuestion::Scope::Joins;
            question.faults = judged.bridged;
            auto alone = searched(isMechanical ? m_machines : loose, question, operations);
            question.faults = judged.bridgedWithout;
            auto without = alone ? searched(isMechanical ? loose : m_machines, question, operations) : alone;
            if (!without)
                return Unexpected{without.error()};
            judged.alone = std::move(*alone);
            judged.without = std::move(*without);
            into.push_back(std::move(judged));
        }
        return {};
    }

    const Machines& m_machines;
    const Request& m_request;
    const Listener& m_listener;
    std::stop_token m_stop;
    std::vector<Opposed> m_pairs;
    std::size_t m_done = 0, m_total = 0;
};

} // namespace

std::string_view nameOf(InterlockKind kind)
{
    constexpr std::array<std::string_view, 3> names{"mechanical", "contactor_contacts", "button_contacts"};
    return names[static_cast<std::size_t>(kind)];
}

Expected<Explored> explore(
    const Dossier& dossier, const Request& request, const Listener& listener, std::stop_token stop)
{
    const auto machines = machinesOf(dossier.circuit);
    if (!machines)
        return Unexpected{machines.error()};
    const Plant& plant = machines->nominal;
    const std::vector<faults::SweptFault> list = request.withFaults ? faults::faultList(plant, dossier)
                                                                    : std::vector<faults::SweptFault>{};
    std::vector<Task> tasks;
    for (int m = 0; m < static_cast<int>(plant.actuators.size()); ++m)
        if (request.motor.empty() || plant.deviceOfActuator(m).tag == request.motor)
            tasks.push_back(taskOf(plant, dossier, m, list, stop));
    if (tasks.empty())
        return failure(ErrorCode::NotFound, message("explore.no_motor", {request.motor}));
    return Exploring(*machines, request, listener, std::move(stop)).run(tasks);
}

} // namespace ts::exploration
