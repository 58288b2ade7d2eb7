#include "wording/wording.h"

#include <QCoreApplication>
#include <QStringList>

#include <algorithm>
#include <array>
#include <cmath>

namespace ts::wording {
namespace {

const Entry* entryOf(std::string_view id)
{
    const auto all = catalogue();
    const auto it = std::lower_bound(
        all.begin(), all.end(), id, [](const Entry& e, std::string_view key) { return e.id < key; });
    return it != all.end() && it->id == id ? &*it : nullptr;
}

QString textOf(const Argument& argument)
{
    if (const auto* text = std::get_if<std::string>(&argument))
        return text->starts_with('@') ? word(std::string_view(*text).substr(1)) : QString::fromStdString(*text);
    if (const auto* whole = std::get_if<long long>(&argument))
        return QString::number(*whole);
    if (const auto* phrases = std::get_if<Phrases>(&argument)) {
        QStringList said;
        for (const Message& m : *phrases)
            said << sentence(m);
        return said.join(QStringLiteral(", "));
    }
    const Measured& m = std::get<Measured>(argument);
    return number(m.si, m.unit);
}

/// One pass, so that a "%1" inside an argument stays as it is.
QString filled(const QString& pattern, const std::vector<Argument>& arguments)
{
    QString out;
    for (qsizetype i = 0; i < pattern.size(); ++i) {
        const QChar c = pattern[i];
        const int digit = c == u'%' && i + 1 < pattern.size() ? pattern[i + 1].digitValue() : -1;
        if (digit >= 1 && digit <= static_cast<int>(arguments.size())) {
            out += textOf(arguments[static_cast<std::size_t>(digit - 1)]);
            ++i;
        } else {
            out += c;
        }
    }
    return out;
}

/// `figures` significant figures without exponent.
QString plain(double value, int figures)
{
    if (value == 0.0)
        return QStringLiteral("0");
    const int before = static_cast<int>(std::floor(std::log10(std::abs(value)))) + 1;
    QString text = QString::number(value, 'f', std::clamp(figures - before, 0, 6));
    return text.startsWith(u"-0") && text.toDouble() == 0.0 ? text.mid(1) : text;
}

QString exponential(double value)
{
    QString text = QString::number(value, 'e', 2);
    return text.replace(QStringLiteral("e-0"), QStringLiteral("e-"))
        .replace(QStringLiteral("e+0"), QStringLiteral("e+"));
}

} // namespace

QString number(double si, std::string_view unit)
{
    const QString u = QString::fromUtf8(unit.data(), static_cast<qsizetype>(unit.size()));
    if (unit == "1/h")
        return exponential(si) + QStringLiteral(" /h");
    if (unit == "1/y")
        return number(si, "") + QStringLiteral(" /y");
    if (unit == "rad/s")
        return plain(si * 60.0 / 6.283185307179586, 3) + QStringLiteral(" 1/min");
    if (unit == "%")
        return plain(si * 100.0, 3) + QStringLiteral(" %");
    if (unit == "s" && si != 0.0 && std::abs(si) < 1.0)
        return plain(si * 1e3, 3) + QStringLiteral(" ms");
    if (unit == "A" && si != 0.0 && std::abs(si) < 1.0)
        return plain(si * 1e3, 3) + QStringLiteral(" mA");
    if ((unit == "V" || unit == "A" || unit == "W") && std::abs(si) >= 10e3)
        return plain(si / 1e3, 3) + QStringLiteral(" k") + u;
    if (unit == "V" && std::abs(si) < 0.0005)
        return QStringLiteral("0 V");
    if (unit.empty() && std::abs(si) >= 1.0 && std::abs(si) < 1e15 && si == std::floor(si))
        return QString::number(si, 'f', 0);
    const bool wide = si != 0.0 && (std::abs(si) >= 1e7 || std::abs(si) < 1e-3);
    return (wide ? exponential(si) : plain(si, std::abs(si) >= 1000.0 ? 0 : 3))
        + (u.isEmpty() ? u : QStringLiteral(" ") + u);
}

bool knows(std::string_view id)
{
    return entryOf(id) != nullptr;
}

QString sentence(const Message& m)
{
    const Entry* entry = entryOf(m.id);
    if (!entry)
        return QString::fromStdString(m.id);
    return filled(QCoreApplication::translate("wording", entry->text), m.arguments);
}

QString said(const char* id, std::vector<Argument> arguments)
{
    return sentence(message(id, std::move(arguments)));
}

std::string told(const char* id, std::vector<Argument> arguments)
{
    return said(id, std::move(arguments)).toStdString();
}

QString sentence(const Error& error)
{
    QString out = QString::fromStdString(error.place.file);
    if (error.place.line > 0)
        out += QStringLiteral("%1%2:%3")
                   .arg(out.isEmpty() ? QString() : QStringLiteral(":"))
                   .arg(error.place.line)
                   .arg(error.place.column);
    if (!error.place.pointer.empty())
        out += (out.isEmpty() ? QString() : QStringLiteral(": ")) + QString::fromStdString(error.place.pointer);
    return (out.isEmpty() ? out : out + QStringLiteral(": ")) + sentence(error.message);
}

QString word(std::string_view id)
{
    if (const Entry* entry = entryOf(id))
        return QCoreApplication::translate("wording", entry->text);
    const std::size_t dot = id.rfind('.');
    const std::string_view last = dot == id.npos ? id : id.substr(dot + 1);
    return QString::fromUtf8(last.data(), static_cast<qsizetype>(last.size())).replace(u'_', u' ');
}

} // namespace ts::wording
