#include "core/simulation/electrics.h"

#include "core/base/at.h"
#include "core/base/check.h"
#include "core/simulation/circuits.h"

#include <bit>
#include <cmath>
#include <cstring>

namespace ts {
namespace {

constexpr std::size_t kMostReaches = 64; ///< then they are found anew

} // namespace

double sourceFactor(const Plant& plant, const State& state, const Overlay& overlay, std::size_t s)
{
    const PlantSource& source = plant.sources[s];
    if (overlay.sourceLost[s])
        return 0.0;
    return source.knob < 0 ? 1.0 : state.knobs[at(source.knob)];
}

bool isBurnt(const PlantImpedance& z, const State& state)
{
    return z.burnt >= 0 && state.travel[at(z.burnt)] == 2;
}

bool isClosed(const PlantLink& link, std::size_t index, const State& state, const Overlay& overlay)
{
    if (overlay.link[index] != 0)
        return overlay.link[index] > 0;
    return link.contact.mover < 0 || ((link.contact.closedAt >> state.travel[at(link.contact.mover)]) & 1u);
}

Workspace::Workspace(std::shared_ptr<CircuitMemory> shared)
    : m_shared(std::move(shared))
    , m_positions(m_shared->positions)
    , m_joints(m_shared->joints)
    , m_alternating(m_shared->alternating)
    , m_direct(m_shared->direct)
    , m_solved(m_shared->solved)
    , m_numbers(m_shared->numbers)
    , m_steps(m_shared->steps)
    , m_rows(std::make_unique<network::RowMemory>())
{
}

Workspace::~Workspace() = default;
Workspace::Workspace(Workspace&&) noexcept = default;
Workspace& Workspace::operator=(Workspace&&) noexcept = default;

std::uint64_t Workspace::numberOf(MemoryKey content)
{
    const std::uint64_t* known = m_numbers.find(content, m_shared->numbers);
    return known ? *known : m_numbers.keep(content, ++m_shared->lastNumber, m_shared->numbers);
}

const Workspace::Reached& Workspace::reached(const Plant& plant, const std::vector<std::pair<int, int>>& shorts)
{
    if (const auto known = m_reached.find(shorts); known != m_reached.end())
        return known->second;
    if (m_reached.size() >= kMostReaches)
        m_reached.clear();
    Reached made{reachesOf(plant, shorts), {}, {}};
    for (Reach* r : {&made.reaches.alternating, &made.reaches.direct}) {
        MemoryKey content(r->isNode.begin(), r->isNode.end());
        end(content, Content::Reach);
        r->number = numberOf(std::move(content));
    }
    made.alternatingPoles = alternatingPoles(plant, made.reaches.alternating);
    made.directPoles = directPoles(plant, made.reaches.direct);
    return m_reached.emplace(shorts, std::move(made)).first->second;
}

std::uint64_t Workspace::numberOf(const Overlay& overlay)
{
    if (m_overlayNumber != 0 && overlay.link == m_overlay.link && overlay.shorts == m_overlay.shorts)
        return m_overlayNumber;
    m_overlay = overlay;
    MemoryKey content;
    for (std::size_t l = 0; l < overlay.link.size(); ++l)
        if (overlay.link[l] != 0)
            content.push_back(2 * l + (overlay.link[l] > 0));
    content.push_back(content.size());
    for (const auto& [a, b] : overlay.shorts)
        content.push_back(static_cast<std::uint64_t>(a) << 32 | static_cast<std::uint32_t>(b));
    end(content, Content::Overlay);
    return m_overlayNumber = numberOf(std::move(content));
}

const BothJoined& Workspace::joints(const Plant& plant, const State& state, const Overlay& overlay)
{
    m_key.assign(1, numberOf(overlay));
    const std::size_t count = state.travel.size();
    m_key.resize(1 + (count + 7) / 8, 0);
    if (count > 0) // a circuit in which nothing moves has no array
        std::memcpy(m_key.data() + 1, state.travel.data(), count);
    if (m_lastJoints.alternating && m_key == m_positionKey)
        return m_lastJoints;
    m_positionKey.swap(m_key);
    if (const auto* known = m_positions.find(m_positionKey, m_shared->positions))
        return m_lastJoints = *known;
    const Reached& reached = this->reached(plant, overlay.shorts);
    m_lastJoints = {joints(plant, state, overlay, reached.reaches.alternating, reached.alternatingPoles),
        joints(plant, state, overlay, reached.reaches.direct, reached.directPoles)};
    m_positions.keep(m_positionKey, m_lastJoints, m_shared->positions);
    return m_lastJoints;
}

std::shared_ptr<const JoinedTerminals> Workspace::joints(
    const Plant& plant, const State& state, const Overlay& overlay, const Reach& reach, const std::vector<int>& poles)
{
    m_key.clear();
    jointsKey(plant, state, overlay, reach, m_key);
    if (const auto* known = m_joints.find(m_key, m_shared->joints))
        return *known;
    auto made = std::make_shared<JoinedTerminals>(seenJoints(plant, state, overlay, reach, poles, *m_rows));
    made->number = ++m_shared->lastNumber;
    return m_joints.keep(m_key, std::move(made), m_shared->joints);
}

void CircuitMemory::fit(const Plant& plant)
{
    constexpr std::size_t kNodesOfVoltages = 4'000'000, kNodesOfCircuits = 750'000; // of all that are kept, together
    positions.limit(kNodesOfVoltages / at(plant.nodeCount));
    joints.limit(kNodesOfVoltages / at(plant.nodeCount));
    solved.limit(kNodesOfVoltages / at(plant.nodeCount));
    numbers.limit(kNodesOfVoltages / at(plant.nodeCount));
    const auto fitCircuits = [&plant](auto& circuits) {
        circuits.numbers.limit(kNodesOfVoltages / at(plant.nodeCount));
        circuits.made.limit(kNodesOfCircuits / at(plant.nodeCount));
    };
    fitCircuits(alternating);
    fitCircuits(direct);
}

void Workspace::claim(const Plant& plant)
{
    TS_CHECK(m_circuit == 0); // another circuit's slots have the same numbers and mean other things
    m_circuit = plant.circuitNumber;
    std::uint64_t nobody = 0;
    TS_CHECK(m_shared->circuit.compare_exchange_strong(nobody, m_circuit) || nobody == m_circuit);
    m_shared->fit(plant);
    m_positions.limitAs(m_shared->positions);
    m_joints.limitAs(m_shared->joints);
    m_solved.limitAs(m_shared->solved);
    m_numbers.limitAs(m_shared->numbers);
    m_alternating.limitAs(m_shared->alternating);
    m_direct.limitAs(m_shared->direct);
}

template <class Circuit, class ContentOf, class Make>
std::shared_ptr<const Circuit> Workspace::found(
    OwnCircuits<Circuit>& mine, CircuitsOf<Circuit>& all, ContentOf contentOf, Make make)
{
    const std::uint64_t* known = mine.numbers.find(m_key, all.numbers);
    const std::uint64_t number = known ? *known : mine.numbers.keep(m_key, numberOf(contentOf()), all.numbers);
    if (const auto* made = mine.made.find({number}, all.made))
        return *made;
    return mine.made.keep({number}, make(), all.made);
}

Electrics Workspace::electrics(const Plant& plant, const State& state, const Overlay& overlay)
{
    if (m_circuit != plant.circuitNumber)
        claim(plant);
    const auto& [alternatingJoints, directJoints] = joints(plant, state, overlay);
    const auto& [alternating, direct] = reached(plant, overlay.shorts).reaches;
    m_key.assign(1, alternatingJoints->number);
    alternatingKey(plant, state, overlay, alternating, m_key);
    if (!m_last.alternating || m_key != m_alternatingKey) {
        m_last.alternating = found(
            m_alternating, m_shared->alternating,
            [&] { return alternatingContent(plant, state, overlay, alternating, *alternatingJoints); },
            [&] {
                auto made = alternatingCircuit(plant, state, overlay, alternating, *alternatingJoints);
                made->number = ++m_shared->lastNumber; // of this one: what is solved goes by its super-nodes
                return made;
            });
        m_alternatingKey.swap(m_key);
    }
    m_key.assign(1, directJoints->number);
    directKey(plant, state, overlay, direct, m_key);
    if (!m_last.direct || m_key != m_directKey) {
        m_last.direct = found(
            m_direct, m_shared->direct, [&] { return directContent(plant, state, overlay, direct, *directJoints); },
            [&] { return directCircuit(plant, state, overlay, *directJoints); });
        m_directKey.swap(m_key);
    }
    return m_last;
}

Electrics wholeElectrics(const Plant& plant, const State& state, const Overlay& overlay)
{
    const auto [alternating, direct] = reachesOf(plant, overlay.shorts);
    return {alternatingCircuit(plant, state, overlay, alternating,
                wholeJoints(plant, state, overlay, alternating, alternatingPoles(plant, alternating))),
        directCircuit(plant, state, overlay, wholeJoints(plant, state, overlay, direct, directPoles(plant, direct)))};
}

std::shared_ptr<const AlternatingState> Workspace::solved(
    const std::shared_ptr<const AlternatingCircuit>& circuit, std::span<const double> slips)
{
    m_key.assign(1, circuit->number);
    for (std::size_t m = 0; m < slips.size(); ++m)
        if (circuit->prepared.isDriven(m))
            m_key.push_back(std::bit_cast<std::uint64_t>(slips[m]));
    if (const auto* known = m_solved.find(m_key, m_shared->solved))
        return *known;
    return m_solved.keep(m_key, solveAlternating(*circuit, slips), m_shared->solved);
}

std::uint64_t Workspace::numberOf(const network::MotorView& view)
{
    MemoryKey content = view.content();
    end(content, Content::View);
    return numberOf(std::move(content));
}

int driveOf(const Electrics& electrics, int motor)
{
    return electrics.alternating->driveFeeds[at(motor)].drive;
}

Complex Instant::alternatingV(int p, int q) const
{
    const auto& prepared = electrics.alternating->prepared;
    const auto& v = alternating->solution.voltage;
    return v[at(prepared.superNode(p))] - v[at(prepared.superNode(q))];
}

double Instant::directV(int p, int q) const
{
    const auto& prepared = electrics.direct->prepared;
    const auto& v = electrics.direct->solution.voltage;
    return (v[at(prepared.superNode(p))] - v[at(prepared.superNode(q))]).real();
}

Instant solveInstant(
    const Plant& plant, const State& state, const Overlay& overlay, std::span<const double> slips, Workspace& workspace)
{
    Instant instant;
    instant.electrics = workspace.electrics(plant, state, overlay);
    instant.alternating = workspace.solved(instant.electrics.alternating, slips);
    return instant;
}

} // namespace ts
