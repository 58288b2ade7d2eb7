#pragma once
// One line of what a person reads off a panel and types, in the order in which it is read aloud. Format:
// docs/formats/notes.md. What a line does to a dossier is taking.h.

#include "core/base/expected.h"
#include "core/model/circuit.h"

#include <cstdint>
#include <optional>
#include <string>
#include <string_view>
#include <variant>
#include <vector>

namespace ts::notes {

/// "Q1 13" or "Q1:13".
struct Place {
    std::string tag, marking;
    bool operator==(const Place&) const = default;
};

/// Nothing, or a remark behind "#".
struct Blank {
    bool operator==(const Blank&) const = default;
};

/// "Q1 = contactor coil_voltage_v=24 13-14 21-22 @plate "main pump"": what a device is, its values (words of a list
/// with commas between them), its contacts, where it stands, what it is for.
struct DeviceNote {
    std::string tag, kind;
    std::string place, label;
    std::vector<std::pair<std::string, std::string>> values;
    std::vector<std::string> contacts; ///< "13-14", "5-6/opens"
    bool operator==(const DeviceNote&) const = default;
};

/// "K1 5-6 nc": a contact by what it does, whatever its markings; "?" where nobody knows.
struct ContactNote {
    std::string tag;
    std::string contact; ///< "5-6/opens"
    bool operator==(const ContactNote&) const = default;
};

/// "Q1 locks Q2", "Y1 brakes M1": what acts on what without a wire.
struct LinkNote {
    enum class What : std::uint8_t { Locks, Brakes };
    What what = What::Locks;
    std::string first, second;
    bool operator==(const LinkNote&) const = default;
};

/// "Q1 13 > S2 14 > S3 13 =17 1.5mm2 2m red insulation=xlpe_90": a wire between each two.
struct WireNote {
    std::vector<Place> ends;
    std::string number, colour;
    std::optional<double> areaMm2, lengthM;
    std::vector<std::pair<std::string, std::string>> values; ///< of other fields of a wire (library/fields.h), by name
    bool operator==(const WireNote&) const = default;
};

/// "in door duct: enclosure": where the wires that follow are laid; "in:" says nothing of it any more.
struct RouteNote {
    std::string name;
    RouteKind kind = RouteKind::Enclosure;
    bool operator==(const RouteNote&) const = default;
};

/// "control 24 dc": what coils and lamps are made for, unless their line says otherwise.
struct ControlNote {
    double voltageV = 0;
    bool isDirect = true;
    bool operator==(const ControlNote&) const = default;
};

using Note = std::variant<Blank, DeviceNote, ContactNote, LinkNote, WireNote, RouteNote, ControlNote>;

/// Fails with Syntax, the column (from 1) and what would be right; a line that ends too soon is a failure like that.
Expected<Note> noteFrom(std::string_view line);

} // namespace ts::notes
