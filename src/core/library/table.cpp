#include "core/library/table.h"

#include "core/base/check.h"
#include "core/base/csv.h"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <map>

namespace ts::data {
extern const std::string_view pfhd_by_mttfd_csv;
extern const std::string_view dc_measures_csv;
extern const std::string_view ccf_measures_csv;
extern const std::string_view typical_reliability_csv;
extern const std::string_view output_parts_by_category_csv;
extern const std::string_view ambient_factors_csv;
extern const std::string_view grouping_factors_csv;
extern const std::string_view overload_trip_classes_csv;
extern const std::string_view standard_sizes_csv;
extern const std::string_view failure_modes_csv;
extern const std::string_view fuse_gg_gates_csv;
extern const std::string_view device_defaults_csv;
extern const std::string_view conductor_ampacity_csv;
extern const std::string_view button_and_lamp_colours_csv;
extern const std::string_view sizing_rules_csv;
extern const std::string_view sizing_defaults_csv;
extern const std::string_view contact_ratings_csv;
extern const std::string_view measuring_csv;
extern const std::string_view min_sections_csv;
extern const std::string_view conductor_resistance_csv;
extern const std::string_view adiabatic_k_csv;
extern const std::string_view protective_conductor_csv;
extern const std::string_view breaker_let_through_csv;
extern const std::string_view contactor_typical_csv;
extern const std::string_view losses_typical_csv;
extern const std::string_view words_csv;
extern const std::string_view larkspur_parts_csv;
extern const std::string_view larkspur_switchgear_csv;
} // namespace ts::data

namespace ts {
namespace {

double unitFactor(std::string_view unit)
{
    if (unit == "ms")
        return 1e-3;
    if (unit == "mA")
        return 1e-3;
    if (unit == "h")
        return 3600.0;
    if (unit.starts_with("%"))
        return 1e-2;
    if (unit == "kohm")
        return 1e3;
    if (unit == "Mohm")
        return 1e6;
    return 1.0;
}

} // namespace

std::optional<double> numberFrom(std::string_view text)
{
    double value = 0.0;
    const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), value);
    if (error != std::errc{} || end != text.data() + text.size() || !std::isfinite(value))
        return std::nullopt;
    return value;
}

std::optional<double> writtenNumber(std::string_view text)
{
    const std::size_t comma = text.find(',');
    if (comma == text.npos)
        return numberFrom(text);
    if (text.size() - comma - 1 == 3 || text.size() - comma - 1 == 0 || text.find('.') != text.npos)
        return std::nullopt;
    std::string pointed(text);
    pointed[comma] = '.';
    return numberFrom(pointed);
}

std::string shortestText(double number)
{
    char buffer[32];
    const auto [end, error] = std::to_chars(buffer, buffer + sizeof buffer, number);
    return {buffer, end};
}

Table Table::fromCsv(std::string_view text)
{
    Table table;
    const auto rows = csvRows(text);
    TS_CHECK(rows.has_value()); // these tables are ours
    for (const CsvRow& row : *rows) {
        std::vector<std::string> cells;
        for (const CsvCell& cell : row.cells)
            cells.push_back(cell.text);
        if (table.m_columns.empty()) {
            table.m_columns = std::move(cells);
            continue;
        }
        table.m_rows.push_back(std::move(cells));
        table.m_rows.back().resize(table.m_columns.size());
    }
    return table;
}

std::string_view Table::cell(std::size_t row, std::string_view column) const
{
    const auto it = std::find(m_columns.begin(), m_columns.end(), column);
    if (it == m_columns.end())
        return {};
    return m_rows[row][static_cast<std::size_t>(it - m_columns.begin())];
}

std::optional<double> Table::number(std::size_t row, std::string_view column) const
{
    return numberFrom(cell(row, column));
}

#define TS_TABLE(function, text)                                                                                       \
    const Table& function()                                                                                            \
    {                                                                                                                  \
        static const Table table = Table::fromCsv(text);                                                               \
        return table;                                                                                                  \
    }
TS_TABLE(pfhdTable, data::pfhd_by_mttfd_csv)
TS_TABLE(dcMeasuresTable, data::dc_measures_csv)
TS_TABLE(ccfMeasuresTable, data::ccf_measures_csv)
TS_TABLE(typicalReliabilityTable, data::typical_reliability_csv)
TS_TABLE(outputPartsTable, data::output_parts_by_category_csv)
TS_TABLE(ambientFactorsTable, data::ambient_factors_csv)
TS_TABLE(groupingFactorsTable, data::grouping_factors_csv)
TS_TABLE(standardSizesTable, data::standard_sizes_csv)
TS_TABLE(tripClassTable, data::overload_trip_classes_csv)
TS_TABLE(failureModesTable, data::failure_modes_csv)
TS_TABLE(fuseGatesTable, data::fuse_gg_gates_csv)
TS_TABLE(deviceDefaultsTable, data::device_defaults_csv)
TS_TABLE(conductorTable, data::conductor_ampacity_csv)
TS_TABLE(coloursTable, data::button_and_lamp_colours_csv)
TS_TABLE(sizingRulesTable, data::sizing_rules_csv)
TS_TABLE(sizingDefaultsTable, data::sizing_defaults_csv)
TS_TABLE(contactRatingsTable, data::contact_ratings_csv)
TS_TABLE(measuringTable, data::measuring_csv)
TS_TABLE(minSectionsTable, data::min_sections_csv)
TS_TABLE(conductorResistanceTable, data::conductor_resistance_csv)
TS_TABLE(adiabaticTable, data::adiabatic_k_csv)
TS_TABLE(protectiveConductorTable, data::protective_conductor_csv)
TS_TABLE(breakerLetThroughTable, data::breaker_let_through_csv)
TS_TABLE(contactorTypicalTable, data::contactor_typical_csv)
TS_TABLE(lossesTable, data::losses_typical_csv)
TS_TABLE(wordsTable, data::words_csv)
TS_TABLE(samplePartsTable, data::larkspur_parts_csv)
TS_TABLE(switchgearTable, data::larkspur_switchgear_csv)
#undef TS_TABLE

std::optional<std::size_t> rowOf(const Table& table, std::string_view id)
{
    for (std::size_t row = 0; row < table.rowCount(); ++row)
        if (table.cell(row, "id") == id)
            return row;
    return std::nullopt;
}

namespace {

DefaultRow defaultRowAt(const Table& table, std::size_t row)
{
    const double factor = unitFactor(table.cell(row, "unit"));
    const auto low = table.number(row, "min"), nominal = table.number(row, "nominal"), high = table.number(row, "max");
    TS_CHECK(low || nominal || high);
    DefaultRow result;
    result.nominal = factor * (nominal ? *nominal : high ? *high : *low);
    result.low = low ? factor * *low : result.nominal;
    result.high = high ? factor * *high : result.nominal;
    result.basis = std::string(table.cell(row, "basis"));
    return result;
}

using DefaultRows = std::map<std::pair<std::string_view, std::string_view>, DefaultRow>; ///< by kind and parameter

} // namespace

DefaultRow deviceDefault(std::string_view kind, std::string_view parameter)
{
    static const DefaultRows rows = [] { // every compilation asks for dozens
        const Table& table = deviceDefaultsTable();
        DefaultRows all;
        for (std::size_t row = 0; row < table.rowCount(); ++row)
            all.try_emplace({table.cell(row, "kind"), table.cell(row, "parameter")}, defaultRowAt(table, row));
        return all;
    }();
    const auto it = rows.find({kind, parameter});
    TS_CHECK(it != rows.end());
    return it->second;
}

} // namespace ts
