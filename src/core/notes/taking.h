#pragma once
// A panel that exists, taken in line by line (note.h): each line is one edit of the dossier, or a question that must be
// answered first. A voltage is not asked twice: a contactor's coil is like the last one's, or what the control voltage
// says. What each device has of its own (ratings, settings, times, plates) is always asked.

#include "core/model/dossier.h"
#include "core/notes/note.h"

namespace ts::notes {

/// What holds for the lines that follow.
struct Pad {
    std::string route; ///< empty: nobody has said where wires are laid
    RouteKind routeKind = RouteKind::Enclosure;
    std::optional<ControlNote> control;
    bool operator==(const Pad&) const = default;
};

/// What a line did.
struct Taken {
    DossierFile file;
    Pad pad;
    std::vector<Message> done;
    std::vector<WireId> wires; ///< new ones
    std::vector<DeviceId> devices; ///< new ones, and those with more contacts than before
};

/// What must be said before the line can be taken.
struct Asked {
    enum class What : std::uint8_t {
        Kind, ///< what the device is: answered by "Q1 = contactor"
        Values, ///< values that its kind must have: answered by "Q1 = contactor coil_voltage_v=24"
        Contact ///< which contact a marking belongs to and what it does: answered by "K1 5-6 nc"
    };
    What what = What::Kind;
    std::string tag;
    std::string kind{}; ///< of Values
    std::vector<std::string> parameters{}; ///< of Values: those that nothing known says
    std::string marking{}; ///< of Contact
    std::vector<std::string> contacts{}; ///< of Kind: what the line's markings make of it, "13-14"
    bool operator==(const Asked&) const = default;
};

using Outcome = std::variant<Taken, Asked, Error>;

/// Pure. Errors have the column of the line where it is known.
Outcome take(const DossierFile& file, const Pad& pad, std::string_view line);

/// What an Asked is answered with, as a line: `answer` is a kind, or a value for each parameter.
std::string answerLine(const Asked& asked, const std::vector<std::string>& answer);

/// Words that could go on where a line ends, the likeliest first: tags, then the device's terminals (those without a
/// wire first), "=", ">". At most `most`.
std::vector<std::string> completions(const Circuit& circuit, std::string_view line, std::size_t most);

/// All lines of a text. Lines that ask are errors here: whoever reads files cannot be asked. Everything that is wrong
/// is told at once, with line and column; a device that could not be made makes no second error.
struct TakenText {
    std::optional<DossierFile> file; ///< nothing if there is an error
    std::vector<Error> errors;
    std::vector<std::pair<int, Message>> done; ///< with the line
};
TakenText takeAll(DossierFile file, std::string_view text, const std::string& name);

/// A circuit as such a text: read into an empty dossier it gives the circuit again, parts and drawing order left out
/// (devices have the values of their parts).
std::string notesOf(const Circuit& circuit);

} // namespace ts::notes
