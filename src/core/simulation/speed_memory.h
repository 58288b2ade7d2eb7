#pragma once
// Steps of speed that were worked out before. The runs of a sweep start the same motors again and again: almost nine steps in ten were there
// already. Exact: a step is found by everything that decides about it, so remembering changes speed only, never a result.

#include "core/network/solver.h"

#include <unordered_map>

namespace ts {

/// Of a key made of whole words.
struct KeyHash {
    std::size_t operator()(const std::vector<std::uint64_t>& key) const;
};

/// Speeds of all motors after a step by RK4.
struct Integrated {
    std::vector<double> speed; ///< rad/s
    bool isAccurate = true;
};

/// Of one plant.
class SpeedMemory {
public:
    using Key = std::vector<std::uint64_t>;

    /// Equal for views that give equal voltages at equal slips, and for no others.
    std::uint64_t numberOf(const network::MotorView& view);
    /// Null if it was not remembered. Good until the next call of remember.
    const Integrated* find(const Key& key) const;
    void remember(Key key, const Integrated& result);

private:
    std::unordered_map<Key, std::uint64_t, KeyHash> m_views;
    std::unordered_map<Key, Integrated, KeyHash> m_steps;
    std::uint64_t m_lastView = 0;
};

} // namespace ts
