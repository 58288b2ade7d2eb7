#pragma once
// What was worked out before, found again by everything that decides about it: remembering changes speed only, never a
// result. Each thread looks into its own map first and then into the one that all of them fill.

#include <cstdint>
#include <memory>
#include <mutex>
#include <optional>
#include <shared_mutex>
#include <unordered_map>
#include <vector>

namespace ts {

/// All numbers that decide about a result.
using MemoryKey = std::vector<std::uint64_t>;

struct MemoryHash {
    std::size_t operator()(const MemoryKey& key) const
    {
        std::uint64_t h = 0x9E3779B97F4A7C15ull;
        for (std::uint64_t k : key) {
            h ^= k;
            h *= 0xBF58476D1CE4E5B9ull;
            h ^= h >> 29;
        }
        return static_cast<std::size_t>(h);
    }
};

/// Filled by several threads. Bounded: when it is full it begins anew.
template <class Value> class SharedMap {
public:
    explicit SharedMap(std::size_t most)
        : m_most(most)
    {
    }
    std::size_t most() const { return m_most; }
    std::optional<Value> find(const MemoryKey& key) const
    {
        const std::shared_lock lock(m_mutex);
        const auto it = m_map.find(key);
        return it == m_map.end() ? std::nullopt : std::optional(it->second);
    }
    /// What is there afterwards: another thread may have been first.
    Value keep(const MemoryKey& key, Value value)
    {
        const std::unique_lock lock(m_mutex);
        if (m_map.size() >= m_most)
            m_map.clear();
        return m_map.try_emplace(key, std::move(value)).first->second;
    }

private:
    mutable std::shared_mutex m_mutex;
    std::unordered_map<MemoryKey, Value, MemoryHash> m_map;
    std::size_t m_most;
};

/// One thread's way to it.
template <class Value> class OwnMap {
public:
    /// Null if nobody remembers it. Good until the next call of either.
    const Value* find(const MemoryKey& key, const SharedMap<Value>& shared)
    {
        if (const auto own = m_map.find(key); own != m_map.end())
            return &own->second;
        auto others = shared.find(key);
        return others ? take(key, std::move(*others), shared.most()) : nullptr;
    }
    const Value& keep(const MemoryKey& key, Value value, SharedMap<Value>& shared)
    {
        return *take(key, shared.keep(key, std::move(value)), shared.most());
    }

private:
    const Value* take(const MemoryKey& key, Value value, std::size_t most)
    {
        if (m_map.size() >= most)
            m_map.clear();
        return &m_map.insert_or_assign(key, std::move(value)).first->second;
    }
    std::unordered_map<MemoryKey, Value, MemoryHash> m_map;
};

} // namespace ts
