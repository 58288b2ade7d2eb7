#pragma once
// Which looks to take: those that are required, then whatever shows most that is not yet shown for its time, and none
// that the others make needless. Greedy set cover (Chvatal 1979), with a last pass that drops what is needless.
// Internal to measuring/.

#include <cstddef>
#include <cstdint>
#include <span>
#include <vector>

namespace ts::measuring {

/// A set of deviations by number.
class Shown {
public:
    explicit Shown(std::size_t count = 0)
        : m_words((count + 63) / 64)
    {
    }
    void add(std::size_t k) { m_words[k / 64] |= std::uint64_t{1} << (k % 64); }
    bool has(std::size_t k) const { return ((m_words[k / 64] >> (k % 64)) & 1u) != 0; }
    void add(const Shown& other);
    /// How many it has that the other one has not.
    std::size_t beyond(const Shown& other) const;
    std::size_t count() const;
    Shown without(const Shown& other) const;

private:
    std::vector<std::uint64_t> m_words;
};

struct Option {
    Shown shows;
    double seconds = 0;
    bool isRequired = false;
};

/// Numbers of those to take, the required ones first. `shown`: what is shown before; what these show is added.
std::vector<std::size_t> chosenOf(std::span<const Option> options, Shown& shown);

} // namespace ts::measuring
