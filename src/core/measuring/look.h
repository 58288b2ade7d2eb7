#pragma once
// What can be looked at or measured on a panel, and what it says. A reading is a range: two circuits are told apart
// only by ranges that do not touch, or by different words.

#include <cstdint>
#include <limits>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace ts::measuring {

constexpr double kEndless = std::numeric_limits<double>::infinity();

enum class Instrument : std::uint8_t {
    Ohms, ///< between two terminals, nothing fed
    LowOhms, ///< the same with a bonding tester or four wires: tells a cable from a winding
    Insulation, ///< the same with 500 V DC
    Volts, ///< between two terminals
    VoltsLater, ///< between two terminals, so long after the last thing done as the clause gives for the discharge
    LoopOhms, ///< of a fault from a live terminal to the protective conductor
    Amperes, ///< clamp around the conductor at one terminal
    Sequence, ///< of three lines at three terminals: "right" or "left"
    Stopwatch, ///< from the last thing done until a motor stands
    Eye, ///< devices: "Q1 in, P1 lit"
    Tester, ///< a voltage tester on a source that is known to be live: "shows voltage"
    Person ///< something done that no instrument shows: "done"
};
inline constexpr std::string_view kShowsVoltage = "shows voltage", kDone = "done";
std::string_view wordOf(Instrument); ///< "ohms", "low_ohms", "volts" ...
std::string_view unitOf(Instrument); ///< "ohm", "V", "A", "s"; empty where the answer is a word

/// Between terminals of which the one that reads least counts: "P6:X1 or P6:X2".
inline constexpr std::string_view kOr = " or ";

std::vector<std::string> alternativesOf(std::string_view terminals);

struct Look {
    Instrument with = Instrument::Ohms;
    std::vector<std::string> at; ///< "Q1:13", "P6:X1 or P6:X2"; tags of devices that are watched; what a person does
    bool operator==(const Look&) const = default;
};

constexpr bool isOhms(Instrument i)
{
    return i == Instrument::Ohms || i == Instrument::LowOhms || i == Instrument::Insulation;
}
constexpr bool isVolts(Instrument i)
{
    return i == Instrument::Volts || i == Instrument::VoltsLater;
}

struct Reading {
    double low = 0, high = kEndless;
    std::string word; ///< empty: the range counts
    bool operator==(const Reading&) const = default;
};

/// A single figure.
inline Reading figure(double value)
{
    return {value, value, {}};
}
/// True if one cannot be the other.
inline bool differ(const Reading& a, const Reading& b)
{
    if (!a.word.empty() || !b.word.empty())
        return a.word != b.word;
    return a.high < b.low || b.high < a.low;
}

/// A row of measuring.csv; an empty cell is 0, or endless. A missing row is our mistake.
struct Band {
    double low = 0, high = kEndless;
};
Band bandOf(std::string_view id);

/// What instruments may show of a reading that was worked out for parts, copper and supply as they are rated: with the
/// bands of meter, leads, supply and running machines.
Reading expectedBy(Instrument with, const Reading& exact);

} // namespace ts::measuring
