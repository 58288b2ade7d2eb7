#pragma once
// What the Bench's meter shows, in words and figures: volts, the current in a wire, ohms with nothing fed, the phase
// sequence.

#include "core/measuring/ohms.h"
#include "core/simulation/frame.h"

#include <QString>

#include <optional>

namespace ts::app {

enum class MeterMode { Volts, Amperes, Ohms, Sequence };

struct MeterReading {
    QString value; ///< "24.0", "floating", "- - -"
    QString unit; ///< "V DC", "V AC"
    QString detail;
    bool operator==(const MeterReading&) const = default;
};

/// Terminals by plant slot, -1: the probe is on nothing.
struct Probes {
    int red = -1, black = -1, third = -1;
    bool operator==(const Probes&) const = default;
};

/// The resistances of one circuit as long as nothing moves in it and no fault comes or goes.
class OhmMeter {
public:
    /// Another circuit.
    void forget() { m_ohms.reset(); }
    measuring::Reading between(const Plant& plant, const State& state, int nodeA, int nodeB);

private:
    std::optional<measuring::Ohms> m_ohms;
    std::vector<std::uint8_t> m_travel;
    std::vector<Fault> m_faults;
};

MeterReading meterReading(
    const Plant& plant, const State& state, const Frame& frame, MeterMode mode, Probes probes, OhmMeter& ohmMeter);

} // namespace ts::app
