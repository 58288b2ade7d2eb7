#pragma once
// From message ids and numbers to sentences, the same for the window, the command line and the report.
// Knows no Qt. The texts stand in catalogue.cpp; who has another language installs a translation.

#include "core/base/expected.h"

#include <span>
#include <string>
#include <string_view>

namespace ts::wording {

/// How a text of the catalogue is put into the language of the program; it is given what stands there and may give it
/// back.
using Translation = std::string (*)(const char* text);
void installTranslation(Translation translation);

/// The sentence of a message with its arguments filled in. An id without a text gives the id itself; a test walks
/// all ids used in core, so that this is never seen.
std::string sentence(const Message& message);
std::string said(const char* id, std::vector<Argument> arguments = {});

/// "demo.sentry:12:5: /dossier/circuit/wires/3/from: sentence". Parts of the place that are unknown are left out.
std::string sentence(const Error& error);

/// A word of the field for an id such as "kind.contactor" or "action.press"; the id's last part if there is none.
std::string word(std::string_view id);

/// One after the other with this between them.
std::string joined(const std::vector<std::string>& parts, std::string_view between);

/// True if the catalogue has a text for this id.
bool knows(std::string_view id);

/// A number with its unit, three to four figures, with a prefix where people use one: 0.0215 s is "21.5 ms",
/// 2.5e-9 1/h is "2.50e-9 /h". Always with a decimal point.
std::string number(double si, std::string_view unit);

struct Entry {
    const char* id;
    const char* text; ///< with %1, %2 ... for the arguments
};
/// All texts, sorted by id.
std::span<const Entry> catalogue();

} // namespace ts::wording
