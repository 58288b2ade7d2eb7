#include "core/library/parameters.h"

#include "core/base/check.h"
#include "core/library/table.h"

#include <algorithm>
#include <cmath>

namespace ts {
namespace {

std::vector<std::string> blankSeparated(std::string_view text)
{
    std::vector<std::string> words;
    while (!text.empty()) {
        const std::size_t end = text.find(' ');
        if (end != 0)
            words.emplace_back(text.substr(0, end));
        text = end == text.npos ? std::string_view{} : text.substr(end + 1);
    }
    return words;
}

Unexpected bad(std::string_view id, std::string_view tag, std::string_view name, std::string detail = {})
{
    return failure(
        ErrorCode::OutOfRange, message(std::string(id), {std::string(tag), std::string(name), std::move(detail)}));
}

Expected<void> check(const ParameterSpec& spec, const ParameterValue& value, std::string_view tag)
{
    using Type = ParameterSpec::Type;
    const auto wordOk = [&](const std::string& word) {
        const auto allowed = blankSeparated(spec.allowed);
        return allowed.empty() || std::find(allowed.begin(), allowed.end(), word) != allowed.end();
    };
    switch (spec.type) {
    case Type::Number: {
        const double* number = std::get_if<double>(&value);
        if (!number)
            return bad("parameter.not_a_number", tag, spec.name);
        if (!std::isfinite(*number) || *number < spec.low || *number > spec.high)
            return failure(ErrorCode::OutOfRange,
                message("parameter.outside",
                    {std::string(tag), std::string(spec.name), Measured{*number, ""}, Measured{spec.low, ""},
                        Measured{spec.high, ""}}));
        return {};
    }
    case Type::Word: {
        const auto* word = std::get_if<std::string>(&value);
        if (!word)
            return bad("parameter.not_a_word", tag, spec.name);
        if (!wordOk(*word))
            return bad("parameter.unknown_word", tag, spec.name, std::string(spec.allowed));
        return {};
    }
    case Type::WordList: {
        const auto* list = std::get_if<std::vector<std::string>>(&value);
        if (!list)
            return bad("parameter.not_a_list", tag, spec.name);
        for (const std::string& word : *list)
            if (!wordOk(word))
                return bad("parameter.unknown_word", tag, spec.name, std::string(spec.allowed));
        return {};
    }
    case Type::Flag:
        if (!std::holds_alternative<bool>(value))
            return bad("parameter.not_a_flag", tag, spec.name);
        return {};
    }
    TS_CHECK(!"parameter type");
}

ParameterValue defaultOf(const ParameterSpec& spec)
{
    using Type = ParameterSpec::Type;
    switch (spec.type) {
    case Type::Number:
        return spec.number.value_or(0.0);
    case Type::Word:
        return std::string(spec.word);
    case Type::WordList:
        return blankSeparated(spec.word);
    case Type::Flag:
        return spec.word == "yes";
    }
    TS_CHECK(!"parameter type");
}

} // namespace

Expected<Parameters> Parameters::resolve(
    std::span<const ParameterSpec> specs, const ParameterMap* part, const ParameterMap& device, std::string_view tag)
{
    Parameters result;
    result.m_tag = tag;
    for (const ParameterSpec& spec : specs)
        result.m_values[std::string(spec.name)] = {defaultOf(spec), false};
    for (const ParameterMap* map : {part, &device}) {
        if (!map)
            continue;
        for (const auto& [name, value] : *map) {
            const auto spec = std::find_if(specs.begin(), specs.end(), [&](const auto& s) { return s.name == name; });
            if (spec == specs.end())
                return failure(ErrorCode::NotFound, message("parameter.unknown", {std::string(tag), name}));
            if (auto ok = check(*spec, value, tag); !ok)
                return Unexpected{ok.error()};
            result.m_values[name] = {value, true};
        }
    }
    for (const ParameterSpec& spec : specs)
        if (spec.required && !result.isWritten(spec.name))
            return bad("parameter.missing", tag, spec.name);
    return result;
}

const Parameters::Value& Parameters::value(std::string_view name) const
{
    const auto it = m_values.find(name);
    TS_CHECK(it != m_values.end());
    return it->second;
}

double Parameters::number(std::string_view name) const
{
    return std::get<double>(value(name).value);
}

const std::string& Parameters::word(std::string_view name) const
{
    return std::get<std::string>(value(name).value);
}

const std::vector<std::string>& Parameters::words(std::string_view name) const
{
    return std::get<std::vector<std::string>>(value(name).value);
}

bool Parameters::flag(std::string_view name) const
{
    return std::get<bool>(value(name).value);
}

bool Parameters::isWritten(std::string_view name) const
{
    return value(name).written;
}

namespace {

std::string_view trimmed(std::string_view text)
{
    const std::size_t first = text.find_first_not_of(" \t");
    return first == text.npos ? std::string_view{} : text.substr(first, text.find_last_not_of(" \t") - first + 1);
}

Expected<ParameterValue> valueFrom(const ParameterSpec& spec, std::string_view text)
{
    switch (spec.type) {
    case ParameterSpec::Type::Number:
        if (const auto number = writtenNumber(text))
            return ParameterValue{*number};
        return bad("parameter.not_a_number", text, spec.name);
    case ParameterSpec::Type::Word:
        return ParameterValue{std::string(text)};
    case ParameterSpec::Type::WordList:
        return ParameterValue{blankSeparated(text)};
    case ParameterSpec::Type::Flag:
        if (text == "true" || text == "false")
            return ParameterValue{text == "true"};
        return bad("parameter.not_a_flag", text, spec.name);
    }
    TS_CHECK(!"parameter type");
}

} // namespace

Expected<ParameterMap> parametersFromText(std::span<const ParameterSpec> specs, std::string_view text)
{
    ParameterMap result;
    while (!text.empty()) {
        const std::size_t end = text.find(';');
        const std::string_view piece = trimmed(text.substr(0, end));
        text = end == text.npos ? std::string_view{} : text.substr(end + 1);
        if (piece.empty())
            continue;
        const std::size_t equals = piece.find('=');
        if (equals == piece.npos)
            return failure(ErrorCode::Syntax, message("parameter.no_equals", {std::string(piece)}));
        const std::string_view name = trimmed(piece.substr(0, equals)), value = trimmed(piece.substr(equals + 1));
        const auto spec = std::find_if(specs.begin(), specs.end(), [&](const auto& s) { return s.name == name; });
        if (spec == specs.end()) {
            result[std::string(name)] = std::string(value);
            continue;
        }
        auto typed = valueFrom(*spec, value);
        if (!typed)
            return Unexpected{typed.error()};
        result[std::string(name)] = std::move(*typed);
    }
    return result;
}

std::string textOfParameters(const ParameterMap& parameters)
{
    const auto written = [](const ParameterValue& value) {
        if (const bool* flag = std::get_if<bool>(&value))
            return std::string(*flag ? "true" : "false");
        if (const double* number = std::get_if<double>(&value))
            return shortestText(*number);
        if (const auto* word = std::get_if<std::string>(&value))
            return *word;
        std::string list;
        for (const std::string& word : std::get<std::vector<std::string>>(value))
            list += (list.empty() ? "" : " ") + word;
        return list;
    };
    std::string text;
    for (const auto& [name, value] : parameters)
        text += (text.empty() ? "" : "; ") + name + "=" + written(value);
    return text;
}

} // namespace ts
