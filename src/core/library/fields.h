#pragma once
// The fields of flat records, once: name (with its unit), what may stand in it, where it is kept. The reader and the
// printer of files, the lists, edits and what is offered on the Bench read these tables; a test holds the schemas of
// docs/formats against them. A field that is none of `isRequired` may be left out: then its default stands.

#include "core/base/expected.h"
#include "core/model/circuit.h"

#include <array>
#include <optional>
#include <string>
#include <string_view>
#include <variant>
#include <vector>

namespace ts {

template <class Record> struct Field {
    std::string_view name; ///< in files
    std::string_view column; ///< in lists
    std::variant<double Record::*, int Record::*, std::string Record::*> value;
    double low = 0, high = 0; ///< of numbers
    std::string_view words{}; ///< of a word: those there are, separated by blanks; none: any text
    bool isRequired = false;
    bool isSection = false; ///< mm2, for which a gauge may be written: "16 AWG"
};

inline constexpr std::array kWireFields{
    Field<Wire>{"area_mm2", "area_mm2", &Wire::areaMm2, 0.05, 1000, {}, true, true},
    Field<Wire>{"length_m", "length_m", &Wire::lengthM, 0, 10000, {}, true},
    Field<Wire>{"colour", "colour", &Wire::colour},
    Field<Wire>{"conductor_class", "conductor_class", &Wire::conductorClass, 0, 0, "1 2 5 6"},
    Field<Wire>{"insulation", "insulation", &Wire::insulation, 0, 0, "pvc_70 rubber_60 xlpe_90 silicone_180"},
    Field<Wire>{"remark", "remark", &Wire::remark},
};
inline constexpr std::array kRouteFields{
    Field<Route>{"loaded_circuits", "route_circuits", &Route::loadedCircuits, 0, 30},
    Field<Route>{"ambient_c", "route_ambient_c", &Route::ambientC, -20, 70},
    Field<Route>{"method", "route_method", &Route::method, 0, 0, "b1 b2 c e"},
    Field<Route>{"cores", "route_cores", &Route::cores, 0, 60},
    Field<Route>{"construction", "route_construction", &Route::construction, 0, 0,
        "single_flexible single_stiff two_core_shielded two_core multicore"},
};

/// Section of a gauge by its number, 0 for 1/0 and less for larger ones, exact. Source: ASTM B258, diameter
/// 0.127 mm x 92^((36 - n) / 39).
double gaugeAreaMm2(int number);

namespace fields {

std::vector<std::string_view> wordsIn(std::string_view words);
/// "b1, b2, c, e"
template <class Record> std::string listed(const Field<Record>& field)
{
    std::string all;
    for (const std::string_view word : wordsIn(field.words))
        all += (all.empty() ? "" : ", ") + std::string(word);
    return all;
}
/// Section of "16 AWG", "2/0 awg"; none if it is no gauge.
std::optional<double> gaugeFrom(std::string_view text);
template <class Record> bool isGauge(const Field<Record>& field, std::string_view text)
{
    return field.isSection && gaugeFrom(text);
}
/// As it is written in a cell: empty for a word or a count that nobody has said.
template <class Record> std::string textOf(const Field<Record>& field, const Record& record);
/// Sets it from a cell. Fails with OutOfRange for what is no such number, and Refused for an unknown word, saying what
/// may be there.
template <class Record> Expected<void> take(const Field<Record>& field, std::string_view text, Record& record);

} // namespace fields
} // namespace ts
