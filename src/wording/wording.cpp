#include "wording/wording.h"

#include "core/base/plain_text.h"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cmath>

namespace ts::wording {
namespace {

Translation g_translation = nullptr;

std::string translated(const char* text)
{
    return g_translation ? g_translation(text) : std::string(text);
}

const Entry* entryOf(std::string_view id)
{
    const auto all = catalogue();
    const auto it = std::lower_bound(
        all.begin(), all.end(), id, [](const Entry& e, std::string_view key) { return e.id < key; });
    return it != all.end() && it->id == id ? &*it : nullptr;
}

std::string textOf(const Argument& argument)
{
    if (const auto* text = std::get_if<std::string>(&argument))
        return text->starts_with('@') ? word(std::string_view(*text).substr(1)) : plainText(*text);
    if (const auto* whole = std::get_if<long long>(&argument))
        return std::to_string(*whole);
    if (const auto* phrases = std::get_if<Phrases>(&argument)) {
        std::vector<std::string> said;
        for (const Message& m : *phrases)
            said.push_back(sentence(m));
        return joined(said, ", ");
    }
    const Measured& m = std::get<Measured>(argument);
    return number(m.si, m.unit);
}

/// One pass, so that a "%1" inside an argument stays as it is.
std::string filled(const std::string& pattern, const std::vector<Argument>& arguments)
{
    std::string out;
    for (std::size_t i = 0; i < pattern.size(); ++i) {
        const int digit = pattern[i] == '%' && i + 1 < pattern.size() ? pattern[i + 1] - '0' : -1;
        if (digit >= 1 && digit <= 9 && digit <= static_cast<int>(arguments.size())) {
            out += textOf(arguments[static_cast<std::size_t>(digit - 1)]);
            ++i;
        } else {
            out += pattern[i];
        }
    }
    return out;
}

/// `figures` significant figures without exponent.
std::string plain(double value, int figures)
{
    if (value == 0.0)
        return "0";
    const int before = static_cast<int>(std::floor(std::log10(std::abs(value)))) + 1;
    const std::string text = fmt::format("{:.{}f}", value, std::clamp(figures - before, 0, 6));
    const bool isZero = text.find_first_not_of("-0.") == text.npos;
    return text.starts_with("-0") && isZero ? text.substr(1) : text;
}

std::string exponential(double value)
{
    std::string text = fmt::format("{:.2e}", value);
    if (const std::size_t zero = text.find("e-0"); zero != text.npos)
        text.replace(zero, 3, "e-");
    if (const std::size_t zero = text.find("e+0"); zero != text.npos)
        text.replace(zero, 3, "e+");
    return text;
}

} // namespace

void installTranslation(Translation translation)
{
    g_translation = translation;
}

std::string joined(const std::vector<std::string>& parts, std::string_view between)
{
    std::string text;
    for (const std::string& part : parts)
        text += (text.empty() ? std::string() : std::string(between)) + part;
    return text;
}

std::string number(double si, std::string_view unit)
{
    const std::string u(unit);
    if (unit == "1/h")
        return exponential(si) + " /h";
    if (unit == "1/y")
        return number(si, "") + " /y";
    if (unit == "rad/s")
        return plain(si * 60.0 / 6.283185307179586, 3) + " 1/min";
    if (unit == "%")
        return plain(si * 100.0, 3) + " %";
    if (unit == "s" && si != 0.0 && std::abs(si) < 1.0)
        return plain(si * 1e3, 3) + " ms";
    if (unit == "A" && si != 0.0 && std::abs(si) < 1.0)
        return plain(si * 1e3, 3) + " mA";
    if ((unit == "V" || unit == "A" || unit == "W") && std::abs(si) >= 10e3)
        return plain(si / 1e3, 3) + " k" + u;
    if (unit == "V" && std::abs(si) < 0.0005)
        return "0 V";
    if (unit.empty() && std::abs(si) >= 1.0 && std::abs(si) < 1e15 && si == std::floor(si))
        return fmt::format("{:.0f}", si);
    const bool wide = si != 0.0 && (std::abs(si) >= 1e7 || std::abs(si) < 1e-3);
    return (wide ? exponential(si) : plain(si, std::abs(si) >= 1000.0 ? 0 : 3)) + (u.empty() ? u : " " + u);
}

bool knows(std::string_view id)
{
    return entryOf(id) != nullptr;
}

std::string sentence(const Message& m)
{
    const Entry* entry = entryOf(m.id);
    return entry ? filled(translated(entry->text), m.arguments) : m.id;
}

std::string said(const char* id, std::vector<Argument> arguments)
{
    return sentence(message(id, std::move(arguments)));
}

std::string sentence(const Error& error)
{
    std::string out = error.place.file;
    if (error.place.line > 0)
        out += fmt::format("{}{}:{}", out.empty() ? "" : ":", error.place.line, error.place.column);
    if (!error.place.pointer.empty())
        out += (out.empty() ? "" : ": ") + error.place.pointer;
    return (out.empty() ? out : out + ": ") + sentence(error.message);
}

std::string word(std::string_view id)
{
    if (const Entry* entry = entryOf(id))
        return translated(entry->text);
    const std::size_t dot = id.rfind('.');
    std::string last(dot == id.npos ? id : id.substr(dot + 1));
    std::replace(last.begin(), last.end(), '_', ' ');
    return last;
}

} // namespace ts::wording
