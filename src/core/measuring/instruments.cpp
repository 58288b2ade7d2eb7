#include "core/measuring/instruments.h"

#include "core/base/check.h"
#include "core/library/table.h"
#include "core/measuring/readings.h"

#include <algorithm>
#include <cmath>
#include <sstream>

namespace ts::data {
extern const std::string_view instruments_csv;
}

namespace ts::measuring {
namespace {

constexpr double kNearOverload = 0.99; ///< of what it answers for more than it shows

std::vector<std::string> parted(std::string_view text)
{
    std::istringstream in{std::string(text)};
    std::vector<std::string> parts;
    for (std::string part; std::getline(in, part, '/');)
        parts.push_back(part);
    return parts;
}

std::vector<InstrumentProfile> profiles()
{
    constexpr std::pair<const char*, Instrument> kColumns[]{{"ohms", Instrument::Ohms},
        {"low_ohms", Instrument::LowOhms}, {"insulation", Instrument::Insulation}, {"volts", Instrument::Volts},
        {"volts", Instrument::VoltsLater}, {"amperes", Instrument::Amperes}};
    const Table table = Table::fromCsv(data::instruments_csv);
    std::vector<InstrumentProfile> all;
    for (std::size_t row = 0; row < table.rowCount(); ++row) {
        InstrumentProfile p{std::string(table.cell(row, "id")), std::string(table.cell(row, "name")), 0, 0, {}};
        const auto uncertainty = table.number(row, "uncertainty"), overload = table.number(row, "overload");
        TS_CHECK(uncertainty && overload);
        p.uncertainty = *uncertainty;
        p.overload = *overload;
        for (const auto& [column, with] : kColumns)
            if (const auto commands = parted(table.cell(row, column)); !commands.empty())
                p.commands.emplace_back(with, commands);
        all.push_back(std::move(p));
    }
    return all;
}

} // namespace

std::span<const InstrumentProfile> instrumentProfiles()
{
    static const std::vector<InstrumentProfile> all = profiles();
    return all;
}

std::vector<std::string> InstrumentProfile::commandsFor(Instrument with) const
{
    const auto it = std::find_if(commands.begin(), commands.end(), [with](const auto& c) { return c.first == with; });
    return it == commands.end() ? std::vector<std::string>() : it->second;
}

std::optional<double> readingFrom(const InstrumentProfile& profile, std::span<const std::string> answers)
{
    std::optional<double> largest;
    for (const std::string& answer : answers) {
        const auto value = numberFrom(answer.substr(answer.starts_with('+') ? 1 : 0));
        if (!value || !std::isfinite(*value))
            return std::nullopt;
        const double size = std::abs(*value);
        largest = std::max(largest.value_or(0.0), size >= kNearOverload * profile.overload ? kOverloadOhm : size);
    }
    return largest;
}

} // namespace ts::measuring
