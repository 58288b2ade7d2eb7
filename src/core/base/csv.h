#pragma once
// Comma-separated text (or what a spreadsheet of another country writes: semicolons, tabulators) to cells with their
// places, and back. Lines that begin with # are comments.
// What the cells mean is said by whoever reads them (library/table.h, io/lists.h).

#include "core/base/expected.h"

#include <string>
#include <string_view>
#include <vector>

namespace ts {

struct CsvCell {
    std::string text;
    int column = 1; ///< of its first character, counted from 1
};
struct CsvRow {
    int line = 1;
    std::vector<CsvCell> cells;
};

/// What separates the cells of the first line that is neither empty nor a comment: comma, semicolon or tabulator,
/// whichever is there most often outside quotes; a comma if none is.
char csvSeparator(std::string_view text);

/// All rows that are neither empty nor a comment. Blanks around a cell are left out. A cell in double quotes may hold
/// separators, line ends and doubled quotes. Fails with Syntax, line and column, for a quote that is not closed or
/// followed by more text.
Expected<std::vector<CsvRow>> csvRows(std::string_view text, char separator = ',');

/// A cell as it is written: in quotes where it needs them. One that a spreadsheet would take for a formula
/// (= + - @ in front, unless it is a number) gets an apostrophe, so that opening a list runs nothing.
std::string csvCell(std::string_view text);

} // namespace ts
