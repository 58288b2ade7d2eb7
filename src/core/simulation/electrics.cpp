#include "core/simulation/electrics.h"

#include "core/base/at.h"
#include "core/simulation/circuits.h"

#include <bit>
#include <cmath>

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

void putShorts(const Overlay& overlay, MemoryKey& key)
{
    for (const auto& [a, b] : overlay.shorts)
        key.push_back(static_cast<std::uint64_t>(a) << 32 | static_cast<std::uint32_t>(b));
}

std::vector<network::Link> linksOf(const Plant& plant, const State& state, const Overlay& overlay, const Reach& reach)
{
    std::vector<network::Link> links;
    links.reserve(plant.links.size() + overlay.shorts.size());
    for (const PlantLink& l : plant.links)
        links.push_back({l.p, l.q, false});
    for (int l : reach.links)
        links[at(l)].closed = isClosed(plant.links[at(l)], at(l), state, overlay);
    for (const auto& [a, b] : overlay.shorts)
        if (reach.isNode[at(a)] || reach.isNode[at(b)])
            links.push_back({a, b, true});
    return links;
}

std::vector<int> reachedPoles(const Plant& plant, const Reach& reach)
{
    std::vector<int> poles;
    for (const PlantProtection& p : plant.protections)
        for (int l : p.data.poles)
            poles.push_back(reach.isNode[at(plant.links[at(l)].p)] || reach.isNode[at(plant.links[at(l)].q)] ? l : -1);
    return poles;
}

Workspace::Workspace(std::shared_ptr<CircuitMemory> shared)
    : m_shared(std::move(shared))
    , m_rows(std::make_unique<network::RowMemory>())
{
}

Workspace::~Workspace() = default;
Workspace::Workspace(Workspace&&) noexcept = default;
Workspace& Workspace::operator=(Workspace&&) noexcept = default;

const Reaches& Workspace::reaches(const Plant& plant, const std::vector<std::pair<int, int>>& shorts)
{
    if (const auto known = m_reaches.find(shorts); known != m_reaches.end())
        return known->second;
    if (m_reaches.size() >= kMostReaches)
        m_reaches.clear();
    return m_reaches.emplace(shorts, reachesOf(plant, shorts)).first->second;
}

Electrics Workspace::electrics(const Plant& plant, const State& state, const Overlay& overlay)
{
    const Reaches& reach = reaches(plant, overlay.shorts);
    alternatingKey(plant, state, overlay, reach.alternating, m_key);
    if (!m_last.alternating || m_key != m_alternatingKey) {
        if (const auto* known = m_alternating.find(m_key, m_shared->alternating)) {
            m_last.alternating = *known;
        } else {
            auto made = alternatingCircuit(plant, state, overlay, reach.alternating, *m_rows);
            made->number = ++m_shared->lastCircuit;
            m_last.alternating = m_alternating.keep(m_key, std::move(made), m_shared->alternating);
        }
        m_alternatingKey.swap(m_key);
    }
    directKey(plant, state, overlay, reach.direct, m_key);
    if (!m_last.direct || m_key != m_directKey) {
        const auto* known = m_direct.find(m_key, m_shared->direct);
        m_last.direct = known ? *known : m_direct.keep(m_key, directCircuit(plant, state, overlay, reach.direct, *m_rows), m_shared->direct);
        m_directKey.swap(m_key);
    }
    return m_last;
}

std::shared_ptr<const AlternatingState> Workspace::solved(const std::shared_ptr<const AlternatingCircuit>& circuit, std::span<const double> slips)
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
    const MemoryKey content = view.content();
    const std::uint64_t* known = m_views.find(content, m_shared->views);
    return known ? *known : m_views.keep(content, ++m_shared->lastView, m_shared->views);
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

Instant solveInstant(const Plant& plant, const State& state, const Overlay& overlay, std::span<const double> slips, Workspace& workspace)
{
    Instant instant;
    instant.electrics = workspace.electrics(plant, state, overlay);
    instant.alternating = workspace.solved(instant.electrics.alternating, slips);
    return instant;
}

} // namespace ts
