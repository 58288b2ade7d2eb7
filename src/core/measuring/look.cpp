#include "core/measuring/look.h"

#include "core/base/check.h"
#include "core/library/table.h"

#include <array>

namespace ts::measuring {
namespace {

struct Words {
    std::string_view word, unit;
};
constexpr std::array<Words, 12> kWords{Words{"ohms", "ohm"}, Words{"low_ohms", "ohm"}, Words{"insulation", "ohm"},
    Words{"volts", "V"}, Words{"volts_later", "V"}, Words{"loop_ohms", "ohm"}, Words{"amperes", "A"},
    Words{"sequence", ""}, Words{"stopwatch", "s"}, Words{"eye", ""}, Words{"tester", ""}, Words{"person", ""}};

} // namespace

std::string_view wordOf(Instrument i)
{
    return kWords[static_cast<std::size_t>(i)].word;
}

std::string_view unitOf(Instrument i)
{
    return kWords[static_cast<std::size_t>(i)].unit;
}

std::vector<std::string> alternativesOf(std::string_view terminals)
{
    std::vector<std::string> all;
    for (std::size_t from = 0; from != terminals.npos;) {
        const std::size_t end = terminals.find(kOr, from);
        all.emplace_back(terminals.substr(from, end == terminals.npos ? end : end - from));
        from = end == terminals.npos ? end : end + kOr.size();
    }
    return all;
}

Band bandOf(std::string_view id)
{
    const Table& table = measuringTable();
    const auto row = rowOf(table, id);
    TS_CHECK(row.has_value());
    return {table.number(*row, "low").value_or(0.0), table.number(*row, "high").value_or(kEndless)};
}

Reading expectedBy(Instrument with, const Reading& exact)
{
    static const Band meter = bandOf("ohms_of_meter"), leads = bandOf("leads"),
                      nulled = bandOf("leads_of_low_ohm_meter"), open = bandOf("open_from"), supply = bandOf("supply"),
                      current = bandOf("current"), rest = bandOf("run_down"), loop = bandOf("loop");
    if (!exact.word.empty() || unitOf(with).empty())
        return exact;
    if (isOhms(with)) {
        const double added = (with == Instrument::LowOhms ? nulled : leads).high;
        return {std::min(exact.low * meter.low, open.low), exact.high * meter.high + added, {}};
    }
    if (with == Instrument::LoopOhms)
        return {exact.low * loop.low, exact.high * loop.high, {}};
    const Band band = isVolts(with) ? supply : with == Instrument::Amperes ? current : rest;
    constexpr double kLeast = 0.5; // V, A or s: what nobody asks of a meter
    return {std::max(exact.low * band.low - kLeast, 0.0), exact.high * band.high + kLeast, {}};
}

} // namespace ts::measuring
