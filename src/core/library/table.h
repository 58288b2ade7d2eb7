#pragma once
// The reference tables of data/reference, compiled in. One reader for all of them.

#include <map>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace ts {

/// A comma-separated table with a header line; lines that begin with # are comments. A cell may stand in double quotes.
class Table {
public:
    /// The text must have a header line; short rows are filled with empty cells.
    static Table fromCsv(std::string_view text);
    std::size_t rowCount() const { return m_rows.size(); }
    const std::vector<std::string>& columns() const { return m_columns; }
    /// Empty if there is no such column.
    std::string_view cell(std::size_t row, std::string_view column) const;
    std::optional<double> number(std::size_t row, std::string_view column) const;

private:
    std::vector<std::string> m_columns;
    std::vector<std::vector<std::string>> m_rows;
};

const Table& pfhdTable();
const Table& dcMeasuresTable();
const Table& ccfMeasuresTable();
const Table& typicalReliabilityTable();
const Table& outputPartsTable();
const Table& ambientFactorsTable();
const Table& groupingFactorsTable();
const Table& standardSizesTable();
const Table& tripClassTable();
const Table& failureModesTable();
const Table& fuseGatesTable();
const Table& deviceDefaultsTable();
const Table& conductorTable();
const Table& coloursTable();
const Table& sizingRulesTable(); ///< what each rule of sizing asks, with its sentences
const Table& sizingDefaultsTable(); ///< columns as device_defaults.csv
const Table& contactRatingsTable();
const Table& measuringTable(); ///< bands and times of measuring
const Table& minSectionsTable();
const Table& conductorResistanceTable();
const Table& adiabaticTable(); ///< k of a conductor by its insulation
const Table& protectiveConductorTable();
const Table& breakerLetThroughTable(); ///< I2t of miniature breakers of energy class 3, at their breaking capacity
const Table& contactorTypicalTable(); ///< by AC-3 current, the smallest first
const Table& lossesTable(); ///< what devices make of heat in an enclosure
const Table& wordsTable(); ///< the words of the program and of the trade
/// The row with this text in its column "id"; none if there is none.
std::optional<std::size_t> rowOf(const Table& table, std::string_view id);
const Table& samplePartsTable(); ///< data/parts/larkspur_parts.csv: invented makers

const Table& switchgearTable(); ///< data/parts/larkspur_switchgear.csv: invented, by size

/// A row of device_defaults.csv in SI units (ms become s, ratios stay ratios).
struct DefaultRow {
    double low = 0, nominal = 0, high = 0;
    std::string basis;
};
/// The row must exist: a missing one is our mistake.
DefaultRow deviceDefault(std::string_view kind, std::string_view parameter);

/// Parsed as a number without regard to locale; nothing if the text is not wholly a finite number.
std::optional<double> numberFrom(std::string_view text);
/// As people write it: also with a comma before the decimals. Nothing for a comma before exactly three digits: that
/// could be a thousand.
std::optional<double> writtenNumber(std::string_view text);
/// The shortest text that reads back as the same number.
std::string shortestText(double number);

} // namespace ts
