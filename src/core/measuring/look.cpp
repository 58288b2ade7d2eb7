#include "core/measuring/look.h"

#include "core/base/check.h"
#include "core/library/table.h"

#include <array>

namespace ts::measuring {
namespace {

struct Words {
    std::string_view word, unit;
};
constexpr std::array<Words, 9> kWords{Words{"ohms", "ohm"}, Words{"low_ohms", "ohm"}, Words{"volts", "V"},
    Words{"amperes", "A"}, Words{"sequence", ""}, Words{"stopwatch", "s"}, Words{"eye", ""}, Words{"tester", ""},
    Words{"person", ""}};

} // namespace

std::string_view wordOf(Instrument i)
{
    return kWords[static_cast<std::size_t>(i)].word;
}

std::string_view unitOf(Instrument i)
{
    return kWords[static_cast<std::size_t>(i)].unit;
}

Band bandOf(std::string_view id)
{
    const Table& table = measuringTable();
    const auto row = rowOf(table, id);
    TS_CHECK(row.has_value());
    return {table.number(*row, "low").value_or(0.0), table.number(*row, "high").value_or(kEndless)};
}

} // namespace ts::measuring
