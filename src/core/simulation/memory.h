#pragma once
// What was worked out before, found again by everything that decides about it: remembering changes speed only, never a
// result. Each thread looks into its own map first and then into the one that all of them fill.

#include <algorithm>
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

/// As many as are wanted, and those of them that were asked for lately: what is new fills a young half; when that is
/// full it becomes the old one, and what nobody asked for since is forgotten.
template <class Value> class TwoAges {
public:
    explicit TwoAges(std::size_t most)
        : m_half(most / 2)
    {
    }
    /// From the next one on.
    void setMost(std::size_t most) { m_half = most / 2; }
    /// Null if it is not there. Good until the next call of grown() or refreshed().
    const Value* find(const MemoryKey& key) const
    {
        if (const auto young = m_young.find(key); young != m_young.end())
            return &young->second;
        const auto old = m_old.find(key);
        return old == m_old.end() ? nullptr : &old->second;
    }
    /// The same, and it counts as young from now on.
    const Value* refreshed(const MemoryKey& key)
    {
        if (const auto young = m_young.find(key); young != m_young.end())
            return &young->second;
        const auto old = m_old.find(key);
        return old == m_old.end() ? nullptr : &grown(key, Value(old->second));
    }
    /// What is there afterwards.
    const Value& grown(const MemoryKey& key, Value value)
    {
        if (m_young.size() >= m_half) {
            m_old = std::move(m_young);
            m_young.clear();
        }
        return m_young.try_emplace(key, std::move(value)).first->second;
    }

private:
    using Map = std::unordered_map<MemoryKey, Value, MemoryHash>;
    Map m_young, m_old;
    std::size_t m_half;
};

/// Filled by several threads.
template <class Value> class SharedMap {
public:
    explicit SharedMap(std::size_t most)
        : m_most(most)
        , m_map(most)
    {
    }
    /// No more than so many from the next one on.
    void limit(std::size_t most)
    {
        const std::unique_lock lock(m_mutex);
        m_most = std::min(m_most, most);
        m_map.setMost(m_most);
    }
    std::size_t most() const
    {
        const std::shared_lock lock(m_mutex);
        return m_most;
    }
    std::optional<Value> find(const MemoryKey& key) const
    {
        const std::shared_lock lock(m_mutex);
        const Value* known = m_map.find(key);
        return known ? std::optional(*known) : std::nullopt;
    }
    /// What is there afterwards: another thread may have been first.
    Value keep(const MemoryKey& key, Value value)
    {
        const std::unique_lock lock(m_mutex);
        const Value* known = m_map.refreshed(key);
        return known ? *known : m_map.grown(key, std::move(value));
    }

private:
    std::size_t m_most;
    mutable std::shared_mutex m_mutex;
    TwoAges<Value> m_map;
};

/// One thread's way to it.
template <class Value> class OwnMap {
public:
    explicit OwnMap(const SharedMap<Value>& shared)
        : m_map(shared.most())
    {
    }
    void limitAs(const SharedMap<Value>& shared) { m_map.setMost(shared.most()); }
    /// Null if nobody remembers it. Good until the next call of either.
    const Value* find(const MemoryKey& key, const SharedMap<Value>& shared)
    {
        if (const Value* own = m_map.refreshed(key))
            return own;
        auto others = shared.find(key);
        return others ? &m_map.grown(key, std::move(*others)) : nullptr;
    }
    const Value& keep(const MemoryKey& key, Value value, SharedMap<Value>& shared)
    {
        return m_map.grown(key, shared.keep(key, std::move(value)));
    }

private:
    TwoAges<Value> m_map;
};

} // namespace ts
