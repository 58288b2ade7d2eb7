#include "core/base/csv.h"

#include "core/base/plain_text.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <charconv>

namespace ts {
namespace {

constexpr std::string_view kFormula = "=+-@"; ///< what a spreadsheet takes for a formula's beginning

class CsvParser {
public:
    CsvParser(std::string_view text, char separator)
        : m_text(text)
        , m_separator(separator)
    {
    }

    Expected<std::vector<CsvRow>> rows()
    {
        std::vector<CsvRow> rows;
        while (m_at < m_text.size()) {
            if (m_text[m_at] == '#') {
                m_at = std::min(m_text.find('\n', m_at), m_text.size());
                nextLine();
                continue;
            }
            CsvRow row;
            row.line = m_line;
            if (auto ok = readRow(row); !ok)
                return Unexpected{ok.error()};
            if (std::any_of(row.cells.begin(), row.cells.end(), [](const CsvCell& c) { return !c.text.empty(); }))
                rows.push_back(std::move(row));
        }
        return rows;
    }

private:
    bool atEnd() const { return m_at >= m_text.size() || m_text[m_at] == '\n' || m_text.substr(m_at, 2) == "\r\n"; }
    int column() const { return static_cast<int>(m_at - m_lineStart) + 1; }
    void nextLine()
    {
        if (m_at < m_text.size() && m_text[m_at] == '\r')
            ++m_at;
        if (m_at < m_text.size())
            ++m_at;
        ++m_line;
        m_lineStart = m_at;
    }

    bool isBlank(char c) const { return (c == ' ' || c == '\t') && c != m_separator; }
    void skipBlanks()
    {
        while (m_at < m_text.size() && isBlank(m_text[m_at]))
            ++m_at;
    }

    Expected<void> readRow(CsvRow& row)
    {
        while (true) {
            CsvCell cell;
            skipBlanks();
            cell.column = column();
            if (m_at < m_text.size() && m_text[m_at] == '"') {
                if (auto ok = readQuoted(cell); !ok)
                    return ok;
            } else {
                while (!atEnd() && m_text[m_at] != m_separator)
                    cell.text += m_text[m_at++];
                while (!cell.text.empty() && isBlank(cell.text.back()))
                    cell.text.pop_back();
            }
            if (cell.text.size() > 1 && cell.text[0] == '\'' && kFormula.find(cell.text[1]) != kFormula.npos)
                cell.text.erase(0, 1); // csvCell put it there
            cell.text = plainText(cell.text, Lines::Many);
            row.cells.push_back(std::move(cell));
            if (atEnd()) {
                nextLine();
                return {};
            }
            ++m_at; // the separator
        }
    }

    Expected<void> readQuoted(CsvCell& cell)
    {
        const ErrorPlace start{{}, m_line, column(), {}};
        for (++m_at; m_at < m_text.size(); ++m_at) {
            if (m_text[m_at] == '\n') {
                ++m_line;
                m_lineStart = m_at + 1;
            }
            if (m_text[m_at] != '"') {
                cell.text += m_text[m_at];
                continue;
            }
            if (m_text.substr(m_at, 2) != "\"\"") {
                ++m_at;
                skipBlanks();
                if (atEnd() || m_text[m_at] == m_separator)
                    return {};
                return failure(ErrorCode::Syntax, message("csv.text_after_quote"), {{}, m_line, column(), {}});
            }
            cell.text += '"';
            ++m_at;
        }
        return failure(ErrorCode::Syntax, message("csv.open_quote"), start);
    }

    std::string_view m_text;
    char m_separator;
    std::size_t m_at = 0, m_lineStart = 0;
    int m_line = 1;
};

bool isNumber(std::string_view text)
{
    double value = 0;
    const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), value);
    return error == std::errc{} && end == text.data() + text.size();
}

} // namespace

char csvSeparator(std::string_view text)
{
    std::string_view header;
    while (!text.empty() && (header.find_first_not_of(" \t\r") == header.npos || header.front() == '#')) {
        const std::size_t end = text.find('\n');
        header = text.substr(0, end);
        text = end == text.npos ? std::string_view{} : text.substr(end + 1);
    }
    constexpr std::array kSeparators{',', ';', '\t'};
    std::array<int, kSeparators.size()> counts{};
    bool isQuoted = false;
    for (char c : header) {
        isQuoted ^= c == '"';
        for (std::size_t k = 0; k < counts.size(); ++k)
            counts[k] += !isQuoted && c == kSeparators[k];
    }
    return kSeparators[static_cast<std::size_t>(std::max_element(counts.begin(), counts.end()) - counts.begin())];
}

Expected<std::vector<CsvRow>> csvRows(std::string_view text, char separator)
{
    if (text.starts_with("\xEF\xBB\xBF")) // a spreadsheet's byte order mark
        text.remove_prefix(3);
    return CsvParser(text, separator).rows();
}

std::string csvCell(std::string_view text)
{
    std::string result = plainText(text, Lines::Many);
    if (!text.empty() && kFormula.find(text.front()) != kFormula.npos && !isNumber(text))
        result.insert(0, "'");
    const bool hasBlankEnd = !result.empty()
        && (std::isspace(static_cast<unsigned char>(result.front()))
            || std::isspace(static_cast<unsigned char>(result.back())));
    if (!hasBlankEnd && result.find_first_of(",\"\n\r#") == std::string::npos)
        return result;
    std::string quoted = "\"";
    for (char c : result)
        quoted += c == '"' ? std::string("\"\"") : std::string(1, c);
    return quoted + '"';
}

} // namespace ts
