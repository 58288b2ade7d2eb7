#pragma once
// From message ids and numbers to sentences, the same for the window, the command line and the report.
// Knows no widgets. The texts stand in catalogue.cpp; translations come through QCoreApplication.

#include "core/base/expected.h"

#include <QString>

#include <span>
#include <string_view>

namespace ts::wording {

/// The sentence of a message with its arguments filled in. An id without a text gives the id itself; a test walks
/// all ids used in core, so that this is never seen.
QString sentence(const Message& message);
QString said(const char* id, std::vector<Argument> arguments = {});
/// The same for what is no text of Qt's.
std::string told(const char* id, std::vector<Argument> arguments = {});

/// "demo.sentry:12:5: /dossier/circuit/wires/3/from: sentence". Parts of the place that are unknown are left out.
QString sentence(const Error& error);

/// A word of the field for an id such as "kind.contactor" or "action.press"; the id's last part if there is none.
QString word(std::string_view id);

/// True if the catalogue has a text for this id.
bool knows(std::string_view id);

/// A number with its unit, three to four figures, with a prefix where people use one: 0.0215 s is "21.5 ms",
/// 2.5e-9 1/h is "2.50e-9 /h". Always with a decimal point.
QString number(double si, std::string_view unit);

struct Entry {
    const char* id;
    const char* text; ///< with %1, %2 ... for the arguments
};
/// All texts, sorted by id.
std::span<const Entry> catalogue();

} // namespace ts::wording
