#pragma once
// Parameters of a device kind: what can be written, with unit in the name, range, default and basis.

#include "core/base/expected.h"
#include "core/model/circuit.h"

#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace ts {

struct ParameterSpec {
    enum class Type { Number, Word, WordList, Flag };
    std::string_view name; ///< "coil_voltage_v"
    Type type = Type::Number;
    double low = 0, high = 0; ///< inclusive range of a number
    std::optional<double> number{}; ///< default; none and no word: must be written
    std::string_view word{}; ///< default of a word, words of a list separated by blanks, or "yes"/"no"
    std::string_view allowed{}; ///< words separated by blanks; empty: any
    std::string_view basis{}; ///< of the default: "clause ...", "textbook", "assumed", or "" if it must be written
    bool required = false;
};

/// Values of one device: its own over its part's over the kind's defaults.
class Parameters {
public:
    /// Fails with NotFound for an unknown name, OutOfRange for a value outside its range or of the wrong type,
    /// and for a required one that is missing. The error names device and parameter.
    static Expected<Parameters> resolve(std::span<const ParameterSpec> specs, const ParameterMap* part,
        const ParameterMap& device, std::string_view tag);

    /// The name must be one of the kind's specs.
    double number(std::string_view name) const;
    const std::string& word(std::string_view name) const;
    const std::vector<std::string>& words(std::string_view name) const;
    bool flag(std::string_view name) const;
    /// True if the device or its part says so, false if it is the kind's default.
    bool isWritten(std::string_view name) const;
    const std::string& tag() const { return m_tag; }

private:
    struct Value {
        ParameterValue value;
        bool written = false;
    };
    const Value& value(std::string_view name) const;
    std::string m_tag;
    std::map<std::string, Value, std::less<>> m_values;
};

/// Parameters in one cell: "poles=3; rated_current_a=16; contacts=13-14 21-22; mirror_contacts=true". Types follow the
/// specs; a name that no spec has is kept as a word, so that resolve() refuses it by name.
/// Fails with Syntax for a piece without "=" and OutOfRange for what is not of the type.
Expected<ParameterMap> parametersFromText(std::span<const ParameterSpec> specs, std::string_view text);
/// The same cell from values; numbers in the shortest form that reads back.
std::string textOfParameters(const ParameterMap& parameters);

} // namespace ts
