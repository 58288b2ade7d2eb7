#include "core/simulation/speed_memory.h"

namespace ts {
namespace {

constexpr std::size_t kMostViews = 4096, kMostSteps = 262144; ///< some 60 MB; then it begins anew

} // namespace

std::size_t KeyHash::operator()(const std::vector<std::uint64_t>& key) const
{
    std::uint64_t h = 0x9E3779B97F4A7C15ull;
    for (std::uint64_t k : key) {
        h ^= k;
        h *= 0xBF58476D1CE4E5B9ull;
        h ^= h >> 29;
    }
    return static_cast<std::size_t>(h);
}

std::uint64_t SpeedMemory::numberOf(const network::MotorView& view)
{
    if (m_views.size() >= kMostViews)
        m_views.clear(); // no number is given twice: steps of the old ones are just not found any more
    const auto [it, isNew] = m_views.try_emplace(view.content(), m_lastView + 1);
    m_lastView += isNew;
    return it->second;
}

const Integrated* SpeedMemory::find(const Key& key) const
{
    const auto it = m_steps.find(key);
    return it == m_steps.end() ? nullptr : &it->second;
}

void SpeedMemory::remember(Key key, const Integrated& result)
{
    if (m_steps.size() >= kMostSteps)
        m_steps.clear();
    m_steps.insert_or_assign(std::move(key), result);
}

} // namespace ts
