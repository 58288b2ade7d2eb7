#pragma once

#include <cstdint>

namespace ts {

/// Times at the fast or slow limit of their bands.
enum class Timing { Fast, Nominal, Slow };

/// Voltages at which a coil attracts and lets go. Source: IEC 60947-4-1 clause 8.2.1.2 (must attract from 0.85, lets go
/// between 0.75 and 0.2 with alternating, 0.1 with direct current); that it may attract from 0.5 is assumed.
enum class CoilBand : std::uint8_t {
    Nominal,
    Holds, ///< attracts as soon and lets go as late as it may
    LetsGo ///< attracts as late and lets go as soon as it may
};

} // namespace ts
