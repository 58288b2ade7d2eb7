#include "core/library/fields.h"

#include "core/base/plain_text.h"
#include "core/library/table.h"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <numbers>

namespace ts {

double gaugeAreaMm2(int number)
{
    const double diameterMm = 0.127 * std::pow(92.0, (36 - number) / 39.0);
    return std::numbers::pi / 4 * diameterMm * diameterMm;
}

namespace fields {

std::optional<double> gaugeFrom(std::string_view text)
{
    const auto unit = std::search(text.begin(), text.end(), "awg", "awg" + 3,
        [](char a, char b) { return std::tolower(static_cast<unsigned char>(a)) == b; });
    if (unit == text.end() || unit + 3 != text.end())
        return std::nullopt;
    std::string_view number(text.begin(), unit);
    while (number.ends_with(' '))
        number.remove_suffix(1);
    const bool isAught = number.ends_with("/0");
    if (isAught)
        number.remove_suffix(2);
    int n = 0;
    const auto [end, error] = std::from_chars(number.data(), number.data() + number.size(), n);
    if (error != std::errc{} || end != number.data() + number.size() || n < 0 || n > 36
        || (isAught && (n < 1 || n > 4)))
        return std::nullopt;
    return gaugeAreaMm2(isAught ? 1 - n : n);
}

std::vector<std::string_view> wordsIn(std::string_view words)
{
    std::vector<std::string_view> all;
    while (!words.empty()) {
        const std::size_t end = std::min(words.find(' '), words.size());
        all.push_back(words.substr(0, end));
        words.remove_prefix(std::min(end + 1, words.size()));
    }
    return all;
}

template <class Record> std::string textOf(const Field<Record>& field, const Record& record)
{
    if (const auto* number = std::get_if<double Record::*>(&field.value))
        return shortestText(record.*(*number));
    if (const auto* count = std::get_if<int Record::*>(&field.value))
        return record.*(*count) == 0 ? std::string() : std::to_string(record.*(*count));
    return record.*(*std::get_if<std::string Record::*>(&field.value));
}

template <class Record> Expected<void> take(const Field<Record>& field, std::string_view text, Record& record)
{
    const std::string name(field.name);
    if (const auto* word = std::get_if<std::string Record::*>(&field.value)) {
        const auto known = wordsIn(field.words);
        if (!known.empty() && !text.empty() && std::find(known.begin(), known.end(), text) == known.end())
            return failure(ErrorCode::Refused, message("file.unknown_word", {name, std::string(text), listed(field)}));
        record.*(*word) = plainText(std::string(text));
        return {};
    }
    const Record fresh;
    const auto* number = std::get_if<double Record::*>(&field.value);
    const auto* count = std::get_if<int Record::*>(&field.value);
    auto value = text.empty() ? std::optional(number ? fresh.*(*number) : double(fresh.*(*count)))
        : field.isSection     ? gaugeFrom(text)
                              : std::nullopt;
    if (!value)
        value = numberFrom(text);
    const bool isWhole = number || (value && *value == std::floor(*value));
    if (!value || !isWhole || *value < field.low || *value > field.high)
        return failure(ErrorCode::OutOfRange,
            message("field.range", {name, std::string(text), Measured{field.low, ""}, Measured{field.high, ""}}));
    if (number)
        record.*(*number) = *value;
    else
        record.*(*count) = static_cast<int>(*value);
    return {};
}

template std::string textOf(const Field<Wire>&, const Wire&);
template std::string textOf(const Field<Route>&, const Route&);
template Expected<void> take(const Field<Wire>&, std::string_view, Wire&);
template Expected<void> take(const Field<Route>&, std::string_view, Route&);

} // namespace fields
} // namespace ts
