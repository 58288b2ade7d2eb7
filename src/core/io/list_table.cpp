#include "core/io/list_table.h"

#include "core/base/plain_text.h"

#include "core/library/table.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <numeric>
#include <utility>

namespace ts::io {
namespace {

constexpr std::array<std::string_view, 6> kForPeople{"remark", "remarks", "note", "notes", "comment", "comments"};

template <class Names> bool isIn(const Names& names, std::string_view name)
{
    return std::find(names.begin(), names.end(), name) != names.end();
}

std::string joined(const Columns& columns)
{
    std::string text;
    for (const auto* list : {&columns.required, &columns.optional})
        for (std::string_view name : *list)
            text += (text.empty() ? "" : ", ") + std::string(name);
    return text;
}

/// "Cross section (mm2)" as "cross_section" and "mm2".
std::pair<std::string, std::string> nameAndUnit(std::string_view header)
{
    std::string name, unit;
    const std::size_t bracket = std::min(header.find_first_of("(["), header.size());
    for (char c : header.substr(0, bracket))
        name += c == ' ' || c == '-' || c == '.' ? '_' : static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    while (!name.empty() && name.back() == '_')
        name.pop_back();
    if (bracket < header.size())
        unit = header.substr(bracket + 1, header.find_first_of(")]", bracket) - bracket - 1);
    return {name, unit == "mm\u00b2" ? "mm2" : unit};
}

/// A unit in brackets must be the one in which the column is read.
bool isInUnit(std::string_view column, std::string_view unit)
{
    return unit.empty() || column.ends_with("_" + std::string(unit));
}

/// How many letters are otherwise: inserted, left out, exchanged for another.
std::size_t lettersApart(std::string_view a, std::string_view b)
{
    std::vector<std::size_t> row(b.size() + 1);
    std::iota(row.begin(), row.end(), std::size_t{0});
    for (std::size_t i = 1; i <= a.size(); ++i) {
        std::size_t corner = row[0]++;
        for (std::size_t k = 1; k <= b.size(); ++k)
            corner = std::exchange(
                row[k], std::min({row[k] + 1, row[k - 1] + 1, corner + (a[i - 1] == b[k - 1] ? 0 : 1)}));
    }
    return row.back();
}

/// So near to a column that it is a slip of the pen.
bool isSlip(std::string_view name, const Columns& columns)
{
    constexpr std::size_t kShort = 5;
    for (const auto* list : {&columns.required, &columns.optional})
        for (std::string_view column : *list)
            if (lettersApart(name, column) <= (column.size() < kShort ? 0u : 2u))
                return true;
    return false;
}

bool hasDecimalComma(std::string_view cell)
{
    for (std::size_t k = 1; k + 1 < cell.size(); ++k)
        if (cell[k] == ',' && std::isdigit(static_cast<unsigned char>(cell[k - 1]))
            && std::isdigit(static_cast<unsigned char>(cell[k + 1])))
            return true;
    return false;
}

} // namespace

void ListTrouble::add(Error error, const ErrorPlace& place)
{
    error.place = place;
    errors.push_back(std::move(error));
}

void ListTrouble::remark(Message message, const ErrorPlace& place)
{
    remarks.push_back({place, std::move(message)});
}

ListTable::ListTable(const ListText& list, const Columns& columns, ListTrouble& trouble)
    : m_name(list.name)
    , m_trouble(trouble)
{
    constexpr std::size_t kMostBytes = 20'000'000;
    if (list.text.size() > kMostBytes) {
        trouble.add({ErrorCode::Refused, message("json.too_large", {20LL})}, placeOf(1, 1));
        return;
    }
    const char separator = csvSeparator(list.text);
    auto rows = csvRows(list.text, separator);
    if (!rows) {
        trouble.add(rows.error(), placeOf(rows.error().place.line, rows.error().place.column));
        return;
    }
    for (CsvRow& row : *rows)
        for (CsvCell& cell : row.cells)
            cell.text = plainText(cell.text); // a name is one line
    if (rows->empty()) {
        trouble.add({ErrorCode::Syntax, message("list.empty", {joined(columns)})}, placeOf(1, 1));
        return;
    }
    if (separator != ',')
        trouble.remark(
            message(separator == ';' ? "list.semicolons" : "list.tabulators"), placeOf(rows->front().line, 1));
    const std::size_t before = trouble.errors.size();
    readHeader(rows->front(), columns);
    if (trouble.errors.size() > before)
        return;
    const std::size_t width = rows->front().cells.size();
    m_rows.assign(std::make_move_iterator(rows->begin() + 1), std::make_move_iterator(rows->end()));
    for (CsvRow& row : m_rows) {
        while (row.cells.size() > width && row.cells.back().text.empty())
            row.cells.pop_back(); // separators at the end of a line
        if (row.cells.size() > width)
            trouble.add({ErrorCode::Syntax,
                            message("list.too_many_cells",
                                {static_cast<long long>(row.cells.size()), static_cast<long long>(width)})},
                placeOf(row.line, row.cells[width].column));
    }
}

void ListTable::readHeader(const CsvRow& header, const Columns& columns)
{
    for (std::size_t k = 0; k < header.cells.size(); ++k) // what is named as we name it comes first
        if (isIn(columns.required, header.cells[k].text) || isIn(columns.optional, header.cells[k].text))
            if (!m_columnOf.emplace(header.cells[k].text, k).second)
                m_trouble.add({ErrorCode::Refused, message("list.column_twice", {header.cells[k].text})},
                    placeOf(header.line, header.cells[k].column));
    for (std::size_t k = 0; k < header.cells.size(); ++k)
        if (!isIn(columns.required, header.cells[k].text) && !isIn(columns.optional, header.cells[k].text))
            readName(header.cells[k], k, columns, placeOf(header.line, header.cells[k].column));
    for (std::string_view name : columns.required)
        if (!m_columnOf.contains(std::string(name)))
            m_trouble.add({ErrorCode::Syntax, message("list.missing_column", {std::string(name), joined(columns)})},
                placeOf(header.line, 1));
}

/// A column by another name, one that is kept for people, or trouble.
void ListTable::readName(const CsvCell& cell, std::size_t k, const Columns& columns, const ErrorPlace& where)
{
    const auto [name, unit] = nameAndUnit(cell.text);
    const auto refuse = [&] {
        m_trouble.add({ErrorCode::NotFound, message("list.unknown_column", {cell.text, joined(columns)})}, where);
    };
    std::string_view column = isIn(columns.required, name) || isIn(columns.optional, name) ? name : "";
    for (const auto& [other, known] : columns.alsoCalled)
        if (other == name)
            column = known;
    for (const auto* list : {&columns.required, &columns.optional}) // "length (m)" is length_m
        for (std::string_view known : *list)
            if (!unit.empty() && known == name + "_" + unit)
                column = known;
    if (!column.empty() && isInUnit(column, unit) && m_columnOf.emplace(column, k).second)
        return m_trouble.remark(message("list.read_as", {cell.text, std::string(column)}), where);
    if (isIn(kForPeople, name) && !columns.keepsOthers)
        return m_trouble.remark(message("list.for_people", {cell.text}), where);
    if (!columns.keepsOthers || (!isIn(kForPeople, name) && column.empty() && isSlip(name, columns)))
        return refuse();
    if (cell.text.empty())
        return;
    m_others.emplace_back(isIn(kForPeople, name) ? std::string() : cell.text, k);
    m_trouble.remark(message("list.kept_as_remark", {cell.text}), where);
}

std::string ListTable::remark(std::size_t row) const
{
    std::string all = m_columnOf.contains("remark") ? text(row, "remark") : std::string();
    for (const auto& [name, place] : m_others) {
        const std::string cell = place < m_rows[row].cells.size() ? m_rows[row].cells[place].text : std::string();
        if (!cell.empty())
            all += (all.empty() ? "" : "; ") + (name.empty() ? "" : name + ": ") + cell;
    }
    return all;
}

const std::string& ListTable::text(std::size_t row, std::string_view column) const
{
    static const std::string kNone;
    const auto it = m_columnOf.find(column);
    const CsvRow& r = m_rows[row];
    return it == m_columnOf.end() || it->second >= r.cells.size() ? kNone : r.cells[it->second].text;
}

ErrorPlace ListTable::place(std::size_t row, std::string_view column) const
{
    const auto it = m_columnOf.find(column);
    const CsvRow& r = m_rows[row];
    return placeOf(r.line, it == m_columnOf.end() || it->second >= r.cells.size() ? 1 : r.cells[it->second].column);
}

std::optional<double> ListTable::number(std::size_t row, std::string_view column, double low, double high)
{
    const std::string& cell = text(row, column);
    if (cell.empty())
        return std::nullopt;
    const auto value = writtenNumber(cell);
    const Measured lowest{low, ""}, highest{high, ""};
    const bool isWithin = value && *value >= low && *value <= high;
    if (isWithin)
        noteComma(cell);
    else if (!value)
        fail({ErrorCode::OutOfRange, message("list.not_a_number", {std::string(column), cell, lowest, highest})}, row,
            column);
    else
        fail({ErrorCode::OutOfRange,
                 message("file.outside", {std::string(column), Measured{*value, ""}, lowest, highest})},
            row, column);
    return isWithin ? value : std::nullopt;
}

bool ListTable::isOneOf(std::size_t row, std::string_view column, std::string_view words)
{
    const std::string& cell = text(row, column);
    std::string_view rest = words;
    while (!cell.empty() && !rest.empty()) {
        const std::size_t end = rest.find(", ");
        if (rest.substr(0, end) == cell)
            return true;
        rest = end == rest.npos ? std::string_view{} : rest.substr(end + 2);
    }
    if (!cell.empty())
        fail({ErrorCode::OutOfRange, message("file.unknown_word", {std::string(column), cell, std::string(words)})},
            row, column);
    return cell.empty();
}

std::optional<ParameterMap> ListTable::parameters(std::size_t row, std::string_view column, const DeviceKind& kind)
{
    auto values = parametersFromText(kind.parameters, text(row, column));
    if (!values) {
        fail(values.error(), row, column);
        return std::nullopt;
    }
    for (const auto& [name, value] : *values)
        if (std::holds_alternative<double>(value))
            noteComma(text(row, column));
    return std::move(*values);
}

void ListTable::noteComma(const std::string& cell)
{
    if (m_hasDecimalComma || !hasDecimalComma(cell))
        return;
    m_hasDecimalComma = true;
    m_trouble.remark(message("list.decimal_commas"), placeOf(m_rows.front().line, 1));
}

} // namespace ts::io
