#include "core/measuring/test_plan.h"

#include "core/faults/parallel.h"
#include "core/measuring/dangers.h"
#include "core/measuring/dead_plan.h"
#include "core/measuring/live_steps.h"

#include <sodium.h>

#include <algorithm>
#include <array>
#include <mutex>

namespace ts::measuring {

std::string_view wordOf(Stage s)
{
    constexpr std::array<std::string_view, 11> words{"isolation", "bonding", "insulation", "windings", "continuity",
        "incoming", "control", "direction", "stops", "faults", "times"};
    return words[static_cast<std::size_t>(s)];
}

std::string_view wordOf(Power p)
{
    constexpr std::array<std::string_view, 3> words{"locked_off", "motor_off", "on"};
    return words[static_cast<std::size_t>(p)];
}

std::string_view wordOf(Hidden h)
{
    constexpr std::array<std::string_view, 4> words{
        "same_in_every_net", "within_bands", "no_safe_step", "not_modelled"};
    return words[static_cast<std::size_t>(h)];
}

std::string stepId(const Situation& in, const Look& look)
{
    std::string text = std::string(wordOf(in.power)) + '\n';
    const auto add = [&text](const std::vector<std::string>& all) {
        for (const std::string& s : all)
            text += s + ';';
        text += '\n';
    };
    add(in.bring);
    add(in.isolated);
    for (const WireId w : in.lifted)
        text += std::to_string(w.value) + ';';
    text += '\n' + std::string(wordOf(look.with)) + '\n';
    add(look.at);
    std::array<unsigned char, crypto_generichash_BYTES_MIN> digest{};
    crypto_generichash(
        digest.data(), digest.size(), reinterpret_cast<const unsigned char*>(text.data()), text.size(), nullptr, 0);
    constexpr std::size_t kShort = 6; // bytes: among some hundred steps two alike are once in a hundred million plans
    std::string hex(2 * kShort + 1, '\0');
    sodium_bin2hex(hex.data(), hex.size(), digest.data(), kShort);
    hex.pop_back();
    return hex;
}

double TestPlan::seconds() const
{
    double sum = 0;
    for (const TestStep& s : steps)
        sum += s.seconds;
    return sum;
}

namespace {

constexpr double kDeadV = 5.0; ///< what induction leaves on a long cable; far below what hurts

/// What each live step shows of what is still hidden, and under which mistakes it is dangerous.
struct LiveSeen {
    std::vector<Shown> shows, endangers; ///< by step
    std::vector<std::uint8_t> isFelt; ///< by deviation: some reading is another one
};

class LiveMeasurer {
public:
    LiveMeasurer(const Circuit& circuit, std::shared_ptr<const Plant> plant, const Deviations& deviations,
        const LiveSteps& live, std::shared_ptr<CircuitMemory> memory)
        : m_circuit(circuit)
        , m_plant(std::move(plant))
        , m_deviations(deviations)
        , m_live(live)
        , m_memory(std::move(memory))
    {
    }

    bool measure(const std::vector<std::size_t>& hidden, LiveSeen& seen, const PlanProgress& progress,
        std::stop_token stop) const
    {
        const std::size_t steps = m_live.steps.size(), count = m_deviations.all.size();
        seen = {std::vector(steps, Shown(count)), std::vector(steps, Shown(count)), std::vector<std::uint8_t>(count)};
        std::mutex writing;
        std::size_t done = 0;
        const auto job = [&](std::size_t h, Workspace&) {
            const Found found = foundWith(hidden[h], stop);
            const std::scoped_lock lock(writing);
            for (std::size_t s = 0; s < steps; ++s) {
                if (found.shows[s])
                    seen.shows[s].add(hidden[h]);
                if (found.endangers[s])
                    seen.endangers[s].add(hidden[h]);
            }
            seen.isFelt[hidden[h]] = found.isFelt;
            if (progress.told)
                progress.told(++done, hidden.size());
        };
        return faults::forEachIndex(hidden.size(), 0, job, stop);
    }

private:
    struct Found {
        std::vector<std::uint8_t> shows, endangers;
        bool isFelt = false;
    };

    Found foundWith(std::size_t d, const std::stop_token& stop) const
    {
        Found found{std::vector<std::uint8_t>(m_live.steps.size()), std::vector<std::uint8_t>(m_live.steps.size())};
        const Deviation& deviation = m_deviations.all[d];
        const auto plant = plantOf(deviation);
        if (!plant)
            return found;
        StandIn panel(plant, deviation.fault ? std::vector{*deviation.fault} : std::vector<Fault>{},
            plant->circuitNumber == m_plant->circuitNumber ? m_memory : nullptr, stop);
        for (std::size_t s = 0; s < m_live.steps.size(); ++s) {
            const TestStep& step = m_live.steps[s];
            if (!panel.bring(step.in))
                break; // cancelled
            const auto reading = panel.look(step.look);
            found.shows[s] = !reading || differ(step.expect, *reading);
            found.isFelt |= !reading || *reading != m_live.right[s];
            if (deviation.isMistake)
                found.endangers[s] = dangerIn(panel, *m_plant, m_live.trails[s], m_live.stops).has_value();
        }
        return found;
    }

    std::shared_ptr<const Plant> plantOf(const Deviation& d) const
    {
        if (d.fault)
            return m_plant;
        if (d.other)
            return d.other;
        auto plant = plantWith(m_circuit, d.mistake);
        return plant ? std::make_shared<const Plant>(*std::move(plant)) : nullptr;
    }

    const Circuit& m_circuit;
    std::shared_ptr<const Plant> m_plant;
    const Deviations& m_deviations;
    const LiveSteps& m_live;
    std::shared_ptr<CircuitMemory> m_memory;
};

TestStep procedure(Stage stage, Power power, Look look, Reading expect, std::string_view clause)
{
    TestStep step;
    step.stage = stage;
    step.in.power = power;
    step.look = std::move(look);
    step.expect = std::move(expect);
    step.serves = {std::string(clause)};
    step.seconds = bandOf(unitOf(step.look.with).empty() ? "see" : "read").low;
    step.id = stepId(step.in, step.look);
    return step;
}

/// Locked off, and proved dead by a tester that was itself proved before and after (EN 50110-1 clause 6.2.3).
std::vector<TestStep> isolationOf(const Plant& plant)
{
    constexpr std::string_view kClause = "EN 50110-1 clause 6.2";
    const Reading shows{0, 0, std::string(kShowsVoltage)}, done{0, 0, std::string(kDone)};
    const auto step = [&](Look look, const Reading& expect) {
        return procedure(Stage::Isolation, Power::LockedOff, std::move(look), expect, kClause);
    };
    std::vector<TestStep> steps{
        step({Instrument::Person, {"locked_off"}}, done), step({Instrument::Tester, {"before"}}, shows)};
    std::vector<std::string> lines;
    for (const PlantSource& s : plant.sources)
        if (s.nominalV > 0)
            lines.push_back(plant.nameOfNode(s.p));
    for (std::size_t a = 0; a < lines.size(); ++a) {
        for (std::size_t b = a + 1; b < lines.size(); ++b)
            steps.push_back(step({Instrument::Volts, {lines[a], lines[b]}}, {0, kDeadV, {}}));
        const std::string earth = lines[a].substr(0, lines[a].find(':')) + ":PE";
        if (plant.terminalIndex(earth.substr(0, earth.find(':')), "PE") >= 0)
            steps.push_back(step({Instrument::Volts, {lines[a], earth}}, {0, kDeadV, {}}));
    }
    steps.push_back(step({Instrument::Tester, {"after"}}, shows));
    return steps;
}

/// What somebody does before the first and after the last of the tests with 500 V.
std::vector<std::string_view> doneBetween(Stage before, Stage next)
{
    if (before != Stage::Insulation && next == Stage::Insulation)
        return {"people_away"};
    if (before == Stage::Insulation && next != Stage::Insulation)
        return {"discharged", "reconnected"};
    return {};
}

TestStep insulationStep(std::string_view done)
{
    return procedure(Stage::Insulation, Power::LockedOff, {Instrument::Person, {std::string(done)}},
        {0, 0, std::string(kDone)}, "EN 60204-1 clause 18.3");
}

/// No meter shows a bar between two armatures: a hand pushes both.
std::vector<TestStep> interlocksOf(const Circuit& circuit)
{
    std::vector<TestStep> steps;
    for (const MechanicalInterlock& i : circuit.interlocks) {
        const Device *first = circuit.device(i.first), *second = circuit.device(i.second);
        if (first && second)
            steps.push_back(procedure(Stage::Continuity, Power::LockedOff,
                {Instrument::Person, {"interlock", first->tag, second->tag}}, {0, 0, std::string(kDone)},
                "EN 60204-1 clause 9.3.3"));
    }
    return steps;
}

/// Steps in their order, each as soon as what would make it dangerous has been shown.
std::vector<std::size_t> orderedSafely(const LiveSeen& seen, Shown& shown, std::vector<std::size_t>& dangerous)
{
    std::vector<std::size_t> order, waiting;
    for (std::size_t s = 0; s < seen.shows.size(); ++s)
        waiting.push_back(s);
    for (bool isAny = true; isAny;) {
        isAny = false;
        std::vector<std::size_t> later;
        for (const std::size_t s : waiting) {
            if (seen.endangers[s].beyond(shown) > 0) {
                later.push_back(s);
                continue;
            }
            order.push_back(s);
            shown.add(seen.shows[s]);
            isAny = true;
        }
        isAny = isAny && !later.empty();
        waiting = std::move(later);
    }
    dangerous = waiting;
    return order;
}

} // namespace

Expected<TestPlan> testPlanOf(const Circuit& circuit, const PlanProgress& progress, std::stop_token stop)
{
    auto compiled = compile(circuit);
    if (!compiled)
        return Unexpected{compiled.error()};
    const auto plant = std::make_shared<const Plant>(*std::move(compiled));
    const auto deviations = deviationsOf(circuit, *plant);
    const auto behaviour = exploration::behaviourOf(circuit, {}, stop);
    if (!deviations || !behaviour)
        return Unexpected{deviations ? behaviour.error() : deviations.error()};
    auto dead = deadPlanOf(circuit, *plant, *deviations, progress, stop);
    if (!dead)
        return Unexpected{dead.error()};
    const auto memory = std::make_shared<CircuitMemory>();
    auto live = liveStepsOf(plant, *behaviour, memory, stop);
    if (!live)
        return Unexpected{live.error()};
    std::vector<std::size_t> hidden; // an element that is only turned round runs as it should
    for (std::size_t d = 0; d < deviations->all.size(); ++d)
        if (deviations->sameAs[d] == d && !dead->shown.has(d) && !deviations->all[d].isHarmless)
            hidden.push_back(d);
    LiveSeen seen;
    if (!LiveMeasurer(circuit, plant, *deviations, *live, memory).measure(hidden, seen, progress, stop))
        return cancelled();

    TestPlan plan;
    plan.stops = live->stops;
    Shown soFar(deviations->all.size());
    const auto take = [&](TestStep step, const Shown& shows) {
        step.shows = coveredBy(shows, *deviations);
        step.covers = coveredBy(shows.without(soFar), *deviations);
        soFar.add(shows);
        plan.steps.push_back(std::move(step));
    };
    plan.steps = isolationOf(*plant);
    plan.notInsulated = dead->notInsulated;
    Stage before = Stage::Isolation;
    for (ChosenStep& c : dead->steps) {
        for (std::string_view done : doneBetween(before, c.step.stage))
            plan.steps.push_back(insulationStep(done));
        before = c.step.stage;
        take(std::move(c.step), c.shows);
    }
    for (std::string_view done : doneBetween(before, Stage::Incoming))
        plan.steps.push_back(insulationStep(done));
    for (TestStep& s : interlocksOf(circuit))
        plan.steps.push_back(std::move(s));
    plan.steps.push_back(procedure(Stage::Incoming, Power::MotorOff, {Instrument::Person, {"ready_for_live"}},
        {0, 0, std::string(kDone)}, "EN 50110-1 clause 6.2"));
    Shown shown = dead->shown;
    std::vector<std::size_t> dangerous;
    for (const std::size_t s : orderedSafely(seen, shown, dangerous))
        take(live->steps[s], seen.shows[s]);
    for (const std::size_t s : dangerous)
        plan.leftOut.push_back(live->steps[s]);
    for (std::size_t d = 0; d < deviations->all.size(); ++d) {
        const Deviation& x = deviations->all[d];
        plan.harmless += x.isHarmless;
        if (x.isHarmless)
            continue;
        ++(x.isMistake ? plan.mistakes : plan.faults);
        const std::size_t same = deviations->sameAs[d];
        if (shown.has(same)) {
            ++plan.revealed;
            continue;
        }
        const bool isUnsafe = std::any_of(
            dangerous.begin(), dangerous.end(), [&](std::size_t s) { return seen.shows[s].has(same); });
        const bool isFelt = dead->isFelt[same] != 0 || seen.isFelt[same] != 0;
        plan.hidden.push_back({x.id,
            isUnsafe              ? Hidden::NoSafeStep
                : isFelt          ? Hidden::WithinBands
                : x.moved.empty() ? Hidden::NotModelled
                                  : Hidden::SameInEveryNet,
            x.isMistake ? std::optional(x.mistake) : std::nullopt});
    }
    return plan;
}

} // namespace ts::measuring
