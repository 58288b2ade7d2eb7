#pragma once
// The networks behind a plant in one state, one for each kind of current, and the numbers that decide about them.
// Internal to simulation/. What a circuit's builder reads of state and overlay is in its key, in the same file.

#include "core/simulation/joined_terminals.h"

namespace ts {

/// The drive on which a motor's leads hang, and the direction its outputs give.
struct DriveFeed {
    int drive = -1;
    int direction = 1;
};

/// One prepared topology for alternating current, with the sources and loads as they are. Independent of the motors'
/// speeds.
struct AlternatingCircuit {
    std::uint64_t number = 0; ///< no two circuits of one memory have the same
    network::Network network; ///< joined as its elements see it
    network::Prepared prepared;
    std::vector<std::uint8_t> motorFed; ///< terminals of each motor with a path to a source
    std::vector<DriveFeed> driveFeeds; ///< by motor
    std::vector<network::CurrentSum> protections; ///< by protection, by pole or winding
    std::vector<network::CurrentSum> logics; ///< by pole in line of a logic
    std::vector<int> firstOfLogic; ///< by logic, and one more
    std::vector<int> coils, lamps, deviceLogics; ///< those that alternating current can reach
};

/// The same for direct current, solved: no speed changes it.
struct DirectCircuit {
    network::Network network; ///< joined as its elements see it
    network::Prepared prepared;
    network::Solution solution;
    network::ElementCurrents currents;
    std::size_t firstImpedance = 0; ///< where the plant's impedances begin in `network`
    std::vector<double> protectionsA2; ///< squares of currents, as in AlternatingCircuit
};

/// An alternating circuit solved at one speed of each motor.
struct AlternatingState {
    network::Solution solution;
    std::vector<double> protectionsA2; ///< squares of currents
    std::vector<Complex> logicsA;
};

constexpr double kOpenOhm = 1e9; ///< an element that is broken inside: no more than a leak
constexpr double kShortedOhm = 1e-3;

double sourceFactor(const Plant& plant, const State& state, const Overlay& overlay, std::size_t source);
bool isBurnt(const PlantImpedance& z, const State& state);

/// What a number is of: the end of its content.
enum class Content : std::uint64_t { Reach, View, Overlay, Alternating, Direct };
inline void end(MemoryKey& content, Content of)
{
    content.push_back(static_cast<std::uint64_t>(of));
}

/// Writes bit by bit, behind what is there.
class KeyWriter {
public:
    explicit KeyWriter(MemoryKey& key)
        : m_key(key)
    {
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
/// Links of which an alternating, or a direct circuit is asked the current; -1 where this kind does not come.
std::vector<int> alternatingPoles(const Plant& plant, const Reach& reach);
std::vector<int> directPoles(const Plant& plant, const Reach& reach);

/// Of the rows that touch a node that counts, or the reference.
void rowContent(const JoinedTerminals& joints, const std::vector<bool>& counts, MemoryKey& content);

/// What decides about an alternating circuit besides its joints, appended.
void alternatingKey(const Plant& plant, const State& state, const Overlay& overlay, const Reach& reach, MemoryKey& key);
/// Of all in such a circuit that anybody can tell from without: where no source comes, and no device that has a look of
/// its own, it may be anything. Equal content, equal circuit; it ends with what it is of.
MemoryKey alternatingContent(
    const Plant& plant, const State& state, const Overlay& overlay, const Reach& reach, const JoinedTerminals& joints);
std::shared_ptr<AlternatingCircuit> alternatingCircuit(
    const Plant& plant, const State& state, const Overlay& overlay, const Reach& reach, const JoinedTerminals& joints);
std::shared_ptr<const AlternatingState> solveAlternating(
    const AlternatingCircuit& circuit, std::span<const double> slips);

void directKey(const Plant& plant, const State& state, const Overlay& overlay, const Reach& reach, MemoryKey& key);
MemoryKey directContent(
    const Plant& plant, const State& state, const Overlay& overlay, const Reach& reach, const JoinedTerminals& joints);
std::shared_ptr<const DirectCircuit> directCircuit(
    const Plant& plant, const State& state, const Overlay& overlay, const JoinedTerminals& joints);

} // namespace ts
