#include "core/measuring/live_steps.h"

#include "core/base/at.h"
#include "core/library/registry.h"
#include "core/measuring/interlock_tries.h"
#include "core/simulation/frame.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace ts::measuring {
namespace {

using exploration::Behaviour;
using exploration::Deed;
using Texts = std::vector<std::string>;

constexpr std::string_view kVoltages = "EN 60204-1 clause 4.3", kFunctions = "EN 60204-1 clause 18.6",
                           kStopClause = "EN 60204-1 clause 9.2", kEmergency = "ISO 13850 clause 4.1",
                           kOverload = "EN 60204-1 clause 7.3", kChannels = "ISO 13849-2 clause 9",
                           kDistance = "ISO 13855 clause 5", kUnasked = "EN 60204-1 clause 7.5",
                           kDischarge = "EN 60204-1 clause 6.2.4", kRatio = "EN 60204-1 clause 18.6",
                           kLoop = "EN 60204-1 clause 18.2.2", kInterlock = "EN 60204-1 clause 9.3.3";

constexpr double kNoVolts = 5.0;

class Stepper {
public:
    Stepper(std::shared_ptr<const Plant> plant, const Behaviour& behaviour, std::shared_ptr<CircuitMemory> memory,
        std::stop_token stop)
        : m_plant(*plant)
        , m_behaviour(behaviour)
        , m_right(std::move(plant), {}, std::move(memory), stop)
        , m_stop(std::move(stop))
    {
    }

    Expected<LiveSteps> all()
    {
        m_ways = waysOn(m_plant, m_behaviour);
        m_all.stops = stopsOn(m_plant, m_behaviour);
        findIsolated();
        incoming();
        breakers();
        control();
        interlocks();
        lostLines(m_off, Stage::Control);
        directions();
        stops();
        channels();
        lostLines({Power::On, {}, {}, {}}, Stage::Faults);
        times();
        if (m_stop.stop_requested())
            return cancelled();
        return std::move(m_all);
    }

private:
    const PlantDevice* device(DeviceId id) const { return deviceIn(m_plant, id); }

    /// Fuses, breakers and switches whose poles lead to something that moves, and without which the control circuit
    /// stays fed; where these leave a motor fed, its leads.
    void findIsolated()
    {
        m_off.power = Power::MotorOff;
        if (!m_right.bring({Power::On, {}, {}, {}}))
            return;
        const Frame fed = observe(m_plant, m_right.trail().back());
        for (const PlantDevice& d : m_plant.devices) {
            if (!canBeTakenOut(d) || !cutsSomethingThatMoves(d))
                continue;
            Situation without = m_off;
            without.isolated.push_back(d.tag);
            if (m_right.bring(without) && isControlFed(fed, observe(m_plant, m_right.trail().back())))
                m_off.isolated.push_back(d.tag);
        }
        for (const Way& w : m_ways)
            if (const PlantDevice* moved = device(w.actuator); moved && !moved->motors.empty() && isFedIn(w, m_off))
                for (const int node : m_plant.motors[at(moved->motors.front())].nodes)
                    liftLeadsAt(node);
        std::sort(m_off.lifted.begin(), m_off.lifted.end());
    }

    /// Its poles open: an overload relay's do not.
    bool canBeTakenOut(const PlantDevice& d) const
    {
        return std::any_of(d.protections.begin(), d.protections.end(), [&](int p) {
            const auto& poles = m_plant.protections[at(p)].data.poles;
            return std::any_of(
                poles.begin(), poles.end(), [&](int l) { return m_plant.links[at(l)].contact.mover >= 0; });
        });
    }

    bool isFedIn(const Way& w, Situation in)
    {
        in.bring = w.bring;
        const PlantDevice* moved = device(w.actuator);
        return moved && moved->actuator >= 0 && m_right.bring(in)
            && m_right.trail().back().actuatorFed[at(moved->actuator)] != 0;
    }

    bool cutsSomethingThatMoves(const PlantDevice& d)
    {
        return std::any_of(m_ways.begin(), m_ways.end(), [&](const Way& w) {
            return isFedIn(w, {Power::On, {}, {}, {}}) && !isFedIn(w, {Power::MotorOff, {}, {d.tag}, {}});
        });
    }

    /// Everything at rest stands and is fed as it was.
    static bool isControlFed(const Frame& fed, const Frame& now)
    {
        return fed.relays == now.relays && fed.lampLit == now.lampLit && fed.travel == now.travel
            && fed.converters == now.converters;
    }

    void liftLeadsAt(int node)
    {
        for (const PlantWire& w : m_plant.wires)
            if (node > 0 && (w.p == node || w.q == node)
                && std::find(m_off.lifted.begin(), m_off.lifted.end(), w.id) == m_off.lifted.end())
                m_off.lifted.push_back(w.id);
    }

    /// Expected is what it reads, with bands; or what a clause allows, where the right circuit keeps it.
    void add(Stage stage, Situation in, Look look, std::string_view clause, std::optional<Reading> allowed = {})
    {
        if (m_stop.stop_requested() || !m_right.bring(in))
            return;
        const auto reading = m_right.look(look);
        if (!reading || (look.with == Instrument::Eye && look.at.empty()))
            return;
        if (allowed && differ(*allowed, *reading))
            return;
        TestStep step;
        step.stage = stage;
        step.in = std::move(in);
        step.look = std::move(look);
        step.expect = allowed.value_or(expectedBy(step.look.with, *reading));
        step.serves = {std::string(clause)};
        step.id = stepId(step.in, step.look);
        step.seconds = secondsOf(step);
        if (std::none_of(m_all.steps.begin(), m_all.steps.end(), [&](const TestStep& s) { return s.id == step.id; })) {
            m_all.steps.push_back(std::move(step));
            m_all.trails.push_back(m_right.trail());
            m_all.right.push_back(*reading);
        }
    }

    static double secondsOf(const TestStep& s)
    {
        static const double read = bandOf("read").low, see = bandOf("see").low, operate = bandOf("operate").low,
                            lift = bandOf("lift").low;
        return (s.look.with == Instrument::Eye ? see : read) + static_cast<double>(s.in.bring.size()) * operate
            + static_cast<double>(s.in.lifted.size()) * lift;
    }

    std::string nameOf(int node) const { return m_plant.nameOfNode(node); }

    /// Main switches opened by hand: the lines stand at them.
    Texts switchedOff() const
    {
        Texts off;
        for (const PlantDevice& d : m_plant.devices)
            for (const auto& [word, what] : d.actions)
                if (word == "switch_off" && m_plant.movers[at(what.first)].spec.driver == MoverSpec::Driver::Operator)
                    off.push_back(d.tag + " " + word);
        return off;
    }

    void incoming()
    {
        Situation in = m_off;
        in.bring = switchedOff();
        std::vector<const PlantSource*> lines;
        for (const PlantSource& s : m_plant.sources)
            if (s.nominalV > 0 && s.directV == 0)
                lines.push_back(&s);
        for (std::size_t a = 0; a < lines.size(); ++a) {
            for (std::size_t b = a + 1; b < lines.size(); ++b)
                if (lines[a]->device == lines[b]->device)
                    volts(Stage::Incoming, in, nameOf(lines[a]->p), nameOf(lines[b]->p));
            const std::string& tag = m_plant.devices[at(lines[a]->device)].tag;
            for (const char* marking : {"N", "PE"})
                if (m_plant.terminalIndex(tag, marking) >= 0)
                    volts(Stage::Incoming, in, nameOf(lines[a]->p), tag + ":" + marking);
        }
        if (lines.size() >= 3 && lines[0]->device == lines[2]->device)
            add(Stage::Incoming, in,
                {Instrument::Sequence, {nameOf(lines[0]->p), nameOf(lines[1]->p), nameOf(lines[2]->p)}}, kVoltages);
    }

    /// One fuse or breaker after the other, from the supply on: what gives way then lies behind the last one. What
    /// feeds motors stays out.
    void breakers()
    {
        std::vector<const PlantDevice*> open;
        for (const PlantDevice& d : m_plant.devices)
            if (canBeTakenOut(d)
                && std::find(m_off.isolated.begin(), m_off.isolated.end(), d.tag) == m_off.isolated.end())
                open.push_back(&d);
        loops(offBut(open));
        while (!open.empty()) {
            const auto next = std::find_if(
                open.begin(), open.end(), [&](const PlantDevice* d) { return isFedNow(*d, open); });
            if (next == open.end())
                return; // nothing comes to the rest while motors are off
            const PlantDevice& d = **next;
            open.erase(next);
            lookBehind(d, offBut(open));
        }
    }

    /// Of a fault from each line to the protective conductor, behind the main switch and ahead of all fuses.
    void loops(const Situation& in)
    {
        for (const PlantDevice& d : m_plant.devices) {
            const bool isMainSwitch = std::any_of(d.actions.begin(), d.actions.end(), [&](const auto& action) {
                return action.first == "switch_off"
                    && m_plant.movers[at(action.second.first)].spec.driver == MoverSpec::Driver::Operator;
            });
            for (const int l : d.links) {
                const PlantLink& pole = m_plant.links[at(l)];
                for (const PlantSource& s : m_plant.sources)
                    if (const std::string& tag = m_plant.devices[at(s.device)].tag; isMainSwitch && s.nominalV > 0
                        && s.directV == 0 && m_plant.terminalIndex(tag, "PE") >= 0 && areWired(s.p, pole.p)
                        && pole.contact.kind == ContactKind::Pole)
                        add(Stage::Incoming, in, {Instrument::LoopOhms, {nameOf(pole.q), tag + ":PE"}}, kLoop);
            }
        }
    }

    Situation offBut(const std::vector<const PlantDevice*>& open) const
    {
        Situation in = m_off;
        for (const PlantDevice* d : open)
            in.isolated.push_back(d->tag);
        std::sort(in.isolated.begin(), in.isolated.end());
        return in;
    }

    /// Voltage at one side of a pole, with all of them open.
    bool isFedNow(const PlantDevice& d, const std::vector<const PlantDevice*>& open)
    {
        return m_right.bring(offBut(open)) && std::any_of(d.links.begin(), d.links.end(), [&](int l) {
            const PlantLink& pole = m_plant.links[at(l)];
            return isOpeningPole(pole) && (voltsTo(pole.p).second > kNoVolts || voltsTo(pole.q).second > kNoVolts);
        });
    }

    static bool isOpeningPole(const PlantLink& l)
    {
        return l.contact.kind == ContactKind::Pole && l.contact.mover >= 0;
    }

    /// From where a terminal is measured, and what it has against that: neutral, earth, or the minus of a supply.
    std::pair<std::string, double> voltsTo(int node)
    {
        std::pair<std::string, double> best;
        const auto offer = [&](const std::string& reference) {
            const auto reading = m_right.look({Instrument::Volts, {nameOf(node), reference}});
            if (reading && reading->low > best.second)
                best = {reference, reading->low};
        };
        const NodeReading now = observe(m_plant, m_right.trail().back()).nodes[at(node)];
        if (std::abs(now.directV) > std::abs(now.alternatingV))
            for (const PlantConverter* c : m_plant.supplies())
                offer(nameOf(c->minus));
        for (const PlantSource& s : m_plant.sources)
            for (const char* marking : {"N", "PE"})
                if (const std::string& tag = m_plant.devices[at(s.device)].tag;
                    m_plant.terminalIndex(tag, marking) >= 0)
                    offer(tag + ":" + marking);
        for (const PlantTransformer& t : m_plant.transformers)
            offer(nameOf(t.s2));
        return best;
    }

    /// At whichever side of its poles is not fed from the other devices.
    void lookBehind(const PlantDevice& d, const Situation& in)
    {
        for (const int l : d.links) {
            const PlantLink& pole = m_plant.links[at(l)];
            if (!isOpeningPole(pole))
                continue;
            Situation before = in;
            before.isolated.push_back(d.tag);
            if (!m_right.bring(before))
                return;
            const int behind = voltsTo(pole.p).second > kNoVolts ? pole.q : pole.p;
            if (!m_right.bring(in))
                return;
            if (const auto [reference, reading] = voltsTo(behind); reading > kNoVolts)
                volts(Stage::Incoming, in, nameOf(behind), reference);
        }
    }

    void volts(Stage stage, const Situation& in, const std::string& a, const std::string& b)
    {
        add(stage, in, {Instrument::Volts, {a, b}}, kVoltages);
    }

    /// Devices that show something, in the order of the plant.
    Texts watched(const std::function<bool(int)>& wanted) const
    {
        Texts tags;
        for (std::size_t d = 0; d < m_plant.devices.size(); ++d)
            if (wanted(static_cast<int>(d)))
                tags.push_back(m_plant.devices[d].tag);
        return tags;
    }
    Texts everything() const
    {
        const State rest = initialState(m_plant);
        return watched([&](int d) { return !lookOf(m_plant, rest, d).empty(); });
    }
    /// Those that look otherwise than before.
    Texts changedBy(const Situation& in)
    {
        if (!m_right.bring(in) || m_right.trail().size() < 2)
            return {};
        const Trail& trail = m_right.trail();
        return watched([&](int d) {
            return std::any_of(trail.begin(), trail.end(),
                [&](const State& s) { return lookOf(m_plant, s, d) != lookOf(m_plant, trail.back(), d); });
        });
    }

    /// Its ratio without a load first: what hangs on it can pull a wrong one to where it looks right.
    void transformer(const PlantTransformer& t)
    {
        for (const PlantDevice& d : m_plant.devices) {
            const auto isBehind = [&](int l) {
                const PlantLink& pole = m_plant.links[at(l)];
                return pole.contact.kind == ContactKind::Pole && pole.contact.mover >= 0
                    && (areWired(pole.p, t.s1) || areWired(pole.q, t.s1));
            };
            if (t.data.nominalSecondaryV <= 0 || !canBeTakenOut(d)
                || std::none_of(d.links.begin(), d.links.end(), isBehind))
                continue;
            Situation unloaded = m_off;
            if (std::find(unloaded.isolated.begin(), unloaded.isolated.end(), d.tag) == unloaded.isolated.end())
                unloaded.isolated.push_back(d.tag);
            for (const auto& [a, b] : {std::pair{t.p1, t.p2}, {t.s1, t.s2}})
                add(Stage::Control, unloaded, {Instrument::Volts, {nameOf(a), nameOf(b)}}, kRatio);
            break;
        }
        volts(Stage::Control, m_off, nameOf(t.s1), nameOf(t.s2));
    }

    bool areWired(int a, int b) const
    {
        return a == b || std::any_of(m_plant.wires.begin(), m_plant.wires.end(), [a, b](const PlantWire& w) {
            return (w.p == a && w.q == b) || (w.p == b && w.q == a);
        });
    }

    void control()
    {
        const Situation& rest = m_off;
        for (const PlantTransformer& t : m_plant.transformers)
            transformer(t);
        for (const PlantConverter* c : m_plant.supplies())
            volts(Stage::Control, rest, nameOf(c->plus), nameOf(c->minus));
        add(Stage::Control, rest, {Instrument::Eye, everything()}, kUnasked);
        std::vector<const Deed*> deeds;
        for (const Deed& d : m_behaviour.deeds)
            deeds.push_back(&d);
        std::stable_sort(
            deeds.begin(), deeds.end(), [](const Deed* a, const Deed* b) { return a->way.size() < b->way.size(); });
        for (const Deed* d : deeds) {
            const Texts bring = bringOf(m_plant, d->way);
            for (std::size_t n = 1; n <= bring.size(); ++n) {
                Situation in = m_off;
                in.bring.assign(bring.begin(), bring.begin() + static_cast<std::ptrdiff_t>(n));
                add(Stage::Control, in, {Instrument::Eye, changedBy(in)}, kFunctions);
            }
        }
    }

    void directions()
    {
        for (const Way& w : m_ways) {
            const PlantDevice* d = device(w.actuator);
            const Situation in{Power::On, w.bring, {}, {}};
            if (!d)
                continue;
            add(Stage::Direction, in, {Instrument::Eye, changedBy(in)}, kFunctions);
            if (d->motors.empty() || !m_right.bring(in))
                continue;
            const PlantMotor& motor = m_plant.motors[at(d->motors.front())];
            if (!observe(m_plant, m_right.trail().back()).motors[at(d->motors.front())].isFedByDrive)
                for (int k = 0; k < 3; ++k)
                    add(Stage::Direction, in, {Instrument::Amperes, {nameOf(motor.nodes[at(k)])}}, kOverload);
        }
    }

    bool isProtective(const PlantDevice& d) const
    {
        return deviceKind(d.kind)->traits.protects != KindTraits::Protects::Nothing;
    }

    void stops()
    {
        std::set<DeviceId> seen;
        for (const Way& w : m_ways) {
            const PlantDevice* moved = device(w.actuator);
            if (w.isHeld && !w.let.empty())
                step(w, {w.let}, kStopClause);
            if (!moved || !seen.insert(w.actuator).second)
                continue; // the other direction stops by the same
            for (const Deed& s : m_behaviour.deeds)
                if (s.effect == Deed::Effect::Stops && s.actuator == w.actuator)
                    if (const PlantDevice* hand = device(s.hand))
                        stopBy(w, *hand, s.action);
            for (const PlantProtection& p : m_plant.protections)
                if (p.data.law == Protection::Law::Thermal)
                    trip(w, m_plant.devices[at(p.device)]);
        }
    }

    void step(const Way& w, const Texts& then, std::string_view clause, Stage stage = Stage::Stops)
    {
        Situation in{Power::On, w.bring, {}, {}};
        in.bring.insert(in.bring.end(), then.begin(), then.end());
        add(stage, in, {Instrument::Eye, changedBy(in)}, clause);
    }

    /// Pressed, let go again, and what else a hand does to it.
    void stopBy(const Way& w, const PlantDevice& hand, const std::string& action)
    {
        const std::string press = hand.tag + " " + action;
        step(w, {press}, isProtective(hand) ? kEmergency : kStopClause);
        const auto pressed = stimulusFor(m_plant, hand.tag, action, 0);
        if (!pressed)
            return;
        for (const auto& [word, what] : hand.actions)
            if (what.first == pressed->slot && what.second != pressed->target)
                step(w, {press, hand.tag + " " + word}, kUnasked);
    }

    void trip(const Way& w, const PlantDevice& relay)
    {
        for (const auto& [word, what] : relay.actions)
            if (word == "test") {
                const Situation in{Power::On, w.bring, {}, {}};
                if (m_right.bring(in) && carries(relay))
                    step(w, {relay.tag + " " + word}, kOverload);
            }
    }

    bool carries(const PlantDevice& relay)
    {
        const Frame frame = observe(m_plant, m_right.trail().back());
        return std::any_of(relay.links.begin(), relay.links.end(), [&](int l) {
            return m_plant.links[at(l)].contact.kind == ContactKind::Pole && frame.links[at(l)].rmsA() > 0.1;
        });
    }

    /// Each input of a safety relay opened alone: nothing may start.
    void channels()
    {
        if (m_ways.empty())
            return;
        for (const PlantRelay& relay : m_plant.relays)
            for (const int sense : {relay.data.channel1, relay.data.channel2, relay.data.reset}) {
                const WireId wire = sense >= 0 ? wireAt(m_plant.impedances[at(sense)], relay.device) : WireId{};
                for (const Way& w : m_ways)
                    if (wire) {
                        const Situation in{Power::On, w.bring, {}, {wire}};
                        Situation whole = in;
                        whole.lifted.clear();
                        if (const Texts seen = changedBy(whole); !seen.empty())
                            add(Stage::Faults, in, {Instrument::Eye, seen}, kChannels);
                        break;
                    }
            }
    }

    WireId wireAt(const PlantImpedance& sense, int device) const
    {
        for (const int node : {sense.p, sense.q})
            for (const PlantWire& w : m_plant.wires)
                if ((w.p == node || w.q == node) && isTerminalOf(node, device))
                    return w.id;
        return {};
    }
    bool isTerminalOf(int node, int device) const
    {
        return std::any_of(m_plant.terminals.begin(), m_plant.terminals.end(),
            [&](const PlantTerminal& t) { return !t.inner && t.node == node && t.device == device; });
    }

    /// Where something watches the lines: each of them lost by a test switch that was fitted dead.
    void lostLines(const Situation& from, Stage stage)
    {
        const bool isWatched = std::any_of(m_plant.logics.begin(), m_plant.logics.end(),
            [](const PlantLogic& l) { return std::holds_alternative<PhaseMonitorLogic>(l.data); });
        if (!isWatched || m_ways.empty())
            return;
        for (const PlantDevice& d : m_plant.devices)
            for (const std::string& loss : losses(m_plant, d.tag))
                if (loss.starts_with("lose_")) {
                    Situation in = from;
                    in.bring = m_ways.front().bring;
                    in.bring.push_back(d.tag + " " + loss);
                    add(stage, in, {Instrument::Eye, changedBy(in)}, kOverload);
                }
    }

    void interlocks()
    {
        for (const InterlockTry& t : interlockTries(m_right, m_plant, m_ways, m_off))
            add(Stage::Control, t.in, t.look.value_or(Look{Instrument::Eye, changedBy(t.in)}), kInterlock);
    }

    void times()
    {
        std::set<int> discharged; // of each motor once: it is the same field, whatever way it was started
        for (const Way& w : m_ways)
            for (const exploration::StopOfMany& s : m_behaviour.stops) {
                const PlantDevice *hand = device(s.hand), *moved = device(w.actuator);
                if (!hand || !moved || moved->motors.empty() || !isProtective(*hand)
                    || std::find(s.stopped.begin(), s.stopped.end(), w.actuator) == s.stopped.end())
                    continue;
                Situation in{Power::On, w.bring, {}, {}};
                in.bring.push_back(hand->tag + " " + s.action);
                add(Stage::Times, in, {Instrument::Stopwatch, {moved->tag}}, kDistance);
                const PlantMotor& motor = m_plant.motors[at(moved->motors.front())];
                if (discharged.insert(moved->motors.front()).second)
                    add(Stage::Times, in, {Instrument::VoltsLater, {nameOf(motor.nodes[0]), nameOf(motor.nodes[1])}},
                        kDischarge, Reading{0, bandOf("discharged").high, {}});
                break; // one of them: the run-down is the same
            }
    }

    const Plant& m_plant;
    const Behaviour& m_behaviour;
    StandIn m_right;
    std::stop_token m_stop;
    std::vector<Way> m_ways;
    Situation m_off; ///< fed, with everything out that feeds motors
    LiveSteps m_all;
};

} // namespace

Expected<LiveSteps> liveStepsOf(std::shared_ptr<const Plant> plant, const Behaviour& behaviour,
    std::shared_ptr<CircuitMemory> memory, std::stop_token stop)
{
    return Stepper(std::move(plant), behaviour, std::move(memory), std::move(stop)).all();
}

} // namespace ts::measuring
