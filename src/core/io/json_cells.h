#pragma once
// Single values as they are written into JSON. Internal to io/.

#include <nlohmann/json.hpp>

#include <cmath>
#include <optional>
#include <string>

namespace ts::io {

/// Whole numbers are written without a decimal point, so that people's files keep their look.
inline nlohmann::ordered_json numberOf(double value)
{
    if (std::abs(value) < 1e15 && value == static_cast<double>(static_cast<long long>(value)))
        return static_cast<long long>(value);
    return value;
}

inline void putNumber(nlohmann::ordered_json& json, const char* key, const std::optional<double>& value)
{
    if (value)
        json[key] = numberOf(*value);
}

inline void putText(nlohmann::ordered_json& json, const char* key, const std::string& text)
{
    if (!text.empty())
        json[key] = text;
}

} // namespace ts::io
