#pragma once
// Where a number comes from: every value of a calculation with its formula, inputs and source.

#include "core/model/circuit.h"

#include <string>
#include <vector>

namespace ts::safety {

/// An index into Explanation::values; -1 is none.
using ValueIndex = int;

struct ExplainedValue {
    std::string subject; ///< what it belongs to: device tag, channel or subsystem
    std::string what; ///< id of its name: "value.mttfd"
    double si = 0; ///< in `unit`; years, operations per year and 1/h as in the standard
    std::string unit; ///< "y", "1/y", "1/h", "s", "%" for shares 0..1, "" for bare numbers
    std::string formula; ///< "formula.given" for an input
    std::vector<ValueIndex> inputs; ///< always smaller than this value's own index
    Basis basis = Basis::Clause;
    std::string source; ///< clause, sheet, table row, in words
};

struct Explanation {
    std::vector<ExplainedValue> values;
    ValueIndex add(ExplainedValue value)
    {
        values.push_back(std::move(value));
        return static_cast<ValueIndex>(values.size()) - 1;
    }
    const ExplainedValue& operator[](ValueIndex i) const { return values[static_cast<std::size_t>(i)]; }
};

} // namespace ts::safety
