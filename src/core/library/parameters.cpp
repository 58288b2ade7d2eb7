#include "core/library/parameters.h"

#include "core/base/check.h"

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
    return failure(ErrorCode::OutOfRange, message(std::string(id), {std::string(tag), std::string(name), std::move(detail)}));
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
                message("parameter.outside", {std::string(tag), std::string(spec.name), Measured{*number, ""},
                                                 Measured{spec.low, ""}, Measured{spec.high, ""}}));
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
    case Type::Number: return spec.number.value_or(0.0);
    case Type::Word: return std::string(spec.word);
    case Type::WordList: return blankSeparated(spec.word);
    case Type::Flag: return spec.word == "yes";
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

} // namespace ts
