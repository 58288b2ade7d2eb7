#include "core/network/tearing.h"

#include "core/base/at.h"

#include <algorithm>

namespace ts::network {
namespace {

constexpr std::size_t kWhole = 16; ///< nodes of an island that is not worth tearing
constexpr std::size_t kGroup = 12; ///< nodes of a group that is small enough
constexpr std::ptrdiff_t kLeastOfHub = 5; ///< neighbours; less, and little falls apart

/// Takes an island apart; nodes bear the number of the part in which they are.
class Tearing {
public:
    Tearing(const std::vector<int>& island, const std::vector<std::vector<int>>& neighbours)
        : m_neighbours(neighbours)
        , m_part(neighbours.size(), -1)
    {
        m_parts.push_back(island);
        mark(0);
    }

    Torn apart()
    {
        for (std::size_t k = 0; k < m_parts.size(); ++k) { // grows as it goes
            const int hub = m_parts[k].size() > kGroup ? hubOf(k) : -1;
            if (hub < 0) {
                std::sort(m_parts[k].begin(), m_parts[k].end());
                m_torn.groups.push_back(std::move(m_parts[k]));
            } else {
                m_torn.hubs.push_back(hub);
                m_part[at(hub)] = -1;
                split(k);
            }
        }
        std::sort(m_torn.hubs.begin(), m_torn.hubs.end());
        std::sort(m_torn.groups.begin(), m_torn.groups.end());
        return std::move(m_torn);
    }

private:
    void mark(std::size_t part)
    {
        for (int node : m_parts[part])
            m_part[at(node)] = static_cast<int>(part);
    }

    /// The node with most neighbours in the part; -1 if none has many.
    int hubOf(std::size_t part) const
    {
        int best = -1;
        std::ptrdiff_t most = kLeastOfHub - 1;
        for (int node : m_parts[part]) {
            const auto& around = m_neighbours[at(node)];
            const auto count = std::count_if(
                around.begin(), around.end(), [&](int other) { return m_part[at(other)] == static_cast<int>(part); });
            if (count > most || (count == most && best >= 0 && node < best)) {
                best = node;
                most = count;
            }
        }
        return best;
    }

    /// Into what hangs together without the hub.
    void split(std::size_t part)
    {
        const std::vector<int> nodes = std::move(m_parts[part]);
        for (int first : nodes) {
            if (m_part[at(first)] != static_cast<int>(part))
                continue;
            const auto number = static_cast<int>(m_parts.size());
            std::vector<int> found{first};
            m_part[at(first)] = number;
            for (std::size_t k = 0; k < found.size(); ++k)
                for (int other : m_neighbours[at(found[k])])
                    if (m_part[at(other)] == static_cast<int>(part)) {
                        m_part[at(other)] = number;
                        found.push_back(other);
                    }
            m_parts.push_back(std::move(found));
        }
    }

    const std::vector<std::vector<int>>& m_neighbours;
    std::vector<int> m_part; ///< by node; -1: a hub, or not of the island
    std::vector<std::vector<int>> m_parts;
    Torn m_torn;
};

} // namespace

Torn torn(const std::vector<int>& island, const std::vector<std::vector<int>>& neighbours)
{
    if (island.size() <= kWhole)
        return {{}, {island}};
    return Tearing(island, neighbours).apart();
}

} // namespace ts::network
