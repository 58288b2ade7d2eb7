#pragma once
// A list whose columns are known by name: cells with their places, and everything that is wrong with it, not only the
// first thing. Internal to io/.

#include "core/base/csv.h"
#include "core/io/lists.h"
#include "core/library/kind.h"

#include <map>

namespace ts::io {

/// What was found while lists were read.
struct ListTrouble {
    std::vector<Error> errors;
    std::vector<ListRemark> remarks;

    void add(Error error, const ErrorPlace& place);
    void remark(Message message, const ErrorPlace& place);
};

struct Columns {
    std::vector<std::string_view> required, optional;
    /// Other names that people give to them: name, column.
    std::vector<std::pair<std::string_view, std::string_view>> alsoCalled{};
    bool keepsOthers = false; ///< what else a line says becomes its remark; else an unknown column is trouble
};

class ListTable {
public:
    /// Rows are empty where the header cannot be read. Cells are separated by what is most frequent in the header:
    /// comma, semicolon or tabulator.
    ListTable(const ListText& list, const Columns& columns, ListTrouble& trouble);

    std::size_t count() const { return m_rows.size(); }
    const std::string& text(std::size_t row, std::string_view column) const;
    /// The cell's place; of a cell that is not there, its row's beginning.
    ErrorPlace place(std::size_t row, std::string_view column) const;
    /// Nothing for an empty cell, and for one that is no number or outside: that is trouble.
    std::optional<double> number(std::size_t row, std::string_view column, double low, double high);
    /// The cell's words stand for what may be there; anything else is trouble.
    bool isOneOf(std::size_t row, std::string_view column, std::string_view words);
    /// Values in one cell, "coil_voltage_v=24; poles=3".
    std::optional<ParameterMap> parameters(std::size_t row, std::string_view column, const DeviceKind& kind);
    /// The columns that are for people: what stands in them, "Supplier: A; Shelf: 3".
    std::string remark(std::size_t row) const;
    void fail(Error error, std::size_t row, std::string_view column)
    {
        m_trouble.add(std::move(error), place(row, column));
    }

private:
    void readHeader(const CsvRow& header, const Columns& columns);
    void readName(const CsvCell& cell, std::size_t place, const Columns& columns, const ErrorPlace& where);
    ErrorPlace placeOf(int line, int column) const { return {m_name, line, column, {}}; }
    void noteComma(const std::string& cell);

    std::string m_name;
    ListTrouble& m_trouble;
    std::vector<CsvRow> m_rows; ///< without the header
    std::map<std::string, std::size_t, std::less<>> m_columnOf;
    std::vector<std::pair<std::string, std::size_t>> m_others; ///< name (empty: a remark as it is) and place
    bool m_hasDecimalComma = false;
};

} // namespace ts::io
