#pragma once
// The networks behind a plant in one state, one for each kind of current, and the numbers that decide about them. Internal to simulation/.
// What a circuit's builder reads of state and overlay is in its key, in the same file.

#include "core/simulation/electrics.h"

namespace ts {

constexpr double kOpenOhm = 1e9; ///< an element that is broken inside: no more than a leak
constexpr double kShortedOhm = 1e-3;

double sourceFactor(const Plant& plant, const State& state, const Overlay& overlay, std::size_t source);
bool isBurnt(const PlantImpedance& z, const State& state);

/// Writes bit by bit.
class KeyWriter {
public:
    explicit KeyWriter(MemoryKey& key)
        : m_key(key)
    {
        m_key.clear();
    }
    void put(bool b)
    {
        m_word |= static_cast<std::uint64_t>(b) << m_bit;
        if (++m_bit == 64)
            flush();
    }
    void put(unsigned bits, int count)
    {
        for (int k = 0; k < count; ++k)
            put(((bits >> k) & 1u) != 0);
    }
    void flush()
    {
        m_key.push_back(m_word);
        m_word = 0;
        m_bit = 0;
    }

private:
    MemoryKey& m_key;
    std::uint64_t m_word = 0;
    int m_bit = 0;
};
void putShorts(const Overlay& overlay, MemoryKey& key);

/// The links where this kind of current comes, as they are; the others open.
std::vector<network::Link> linksOf(const Plant& plant, const State& state, const Overlay& overlay, const Reach& reach);

/// Of each protection its poles where this kind of current comes, else -1.
std::vector<int> reachedPoles(const Plant& plant, const Reach& reach);

void alternatingKey(const Plant& plant, const State& state, const Overlay& overlay, const Reach& reach, MemoryKey& key);
std::shared_ptr<AlternatingCircuit> alternatingCircuit(
    const Plant& plant, const State& state, const Overlay& overlay, const Reach& reach, network::RowMemory& rows);
std::shared_ptr<const AlternatingState> solveAlternating(const AlternatingCircuit& circuit, std::span<const double> slips);

void directKey(const Plant& plant, const State& state, const Overlay& overlay, const Reach& reach, MemoryKey& key);
std::shared_ptr<const DirectCircuit> directCircuit(
    const Plant& plant, const State& state, const Overlay& overlay, const Reach& reach, network::RowMemory& rows);

} // namespace ts
