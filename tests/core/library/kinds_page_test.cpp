// docs/formats/kinds.md is made from the registry, so that it cannot fall behind.

#include "core/library/registry.h"
#include "tests/support/circuits.h"
#include "tests/support/golden.h"

#include <sstream>

namespace ts {
namespace {

std::string typeOf(const ParameterSpec& p)
{
    std::ostringstream s;
    switch (p.type) {
    case ParameterSpec::Type::Number:
        s << "number, " << p.low << " to " << p.high;
        break;
    case ParameterSpec::Type::Word:
        s << (p.allowed.empty() ? "word" : "one of: " + std::string(p.allowed));
        break;
    case ParameterSpec::Type::WordList:
        s << "list of words" << (p.allowed.empty() ? "" : " out of: " + std::string(p.allowed));
        break;
    case ParameterSpec::Type::Flag:
        s << "true or false";
        break;
    }
    return s.str();
}

std::string defaultOf(const ParameterSpec& p)
{
    std::ostringstream s;
    if (p.required)
        return "must be written";
    if (p.number)
        s << *p.number;
    else if (!p.word.empty())
        s << p.word;
    else if (p.basis == "sheet")
        return "none: not judged without it (sheet)";
    else if (p.type == ParameterSpec::Type::Number)
        s << "table of defaults";
    else
        s << "none";
    s << " (" << p.basis << ")";
    return s.str();
}

TEST(KindsPage, IsMadeFromTheRegistry)
{
    std::ostringstream page;
    page << "# Device kinds\n\nMade from the registry by a test. `kind` is the word in the file; a part of the same "
            "kind may carry any of these parameters.\n"
            "Contacts are named by their terminals, `13-14`: ..1-..2 opens, ..3-..4 closes, ..5-..6 and ..7-..8 the "
            "same delayed, `11-12-14` and `15-16-18` change "
            "over; what one does is also said by itself, `5-6/nc`, `5-6/no`, or `5-6/unknown` until somebody has "
            "measured, `1-4-3/co` changes over whatever its numbers; a "
            "selector's say where they are closed, `13-14/hand/auto`. \"Table of defaults\" is "
            "`data/reference/device_defaults.csv`.\n"
            "Any device may say what is printed at its other terminals: `marks` is a list of `A1=2`, `U1=T1`.\n";
    for (const DeviceKind* kind : deviceKinds()) {
        page << "\n## `" << kind->id << "`\n\n";
        const auto own = kind->parameters.first(kind->parameters.size() - 1); // without marks, which all have
        if (!own.empty()) {
            page << "| parameter | type | default (basis) |\n|---|---|---|\n";
            for (const ParameterSpec& p : own)
                page << "| `" << p.name << "` | " << typeOf(p) << " | " << defaultOf(p) << " |\n";
        }
        if (!kind->failureModes.empty()) {
            page << "\nFaults: ";
            for (std::size_t i = 0; i < kind->failureModes.size(); ++i)
                page << (i ? ", " : "") << kind->failureModes[i].element << " " << kind->failureModes[i].mode;
            page << ".\n";
        }
    }
    test::expectGolden("docs/formats/kinds.md", page.str());
}

TEST(Schemas, ListEveryKind)
{
    for (const char* file : {"docs/formats/dossier.schema.json", "docs/formats/parts.schema.json"}) {
        const std::string text = *io::systemFiles().read(test::sourcePath(file));
        for (const DeviceKind* kind : deviceKinds())
            EXPECT_NE(text.find("\"" + std::string(kind->id) + "\""), std::string::npos) << file << ": " << kind->id;
    }
}

} // namespace
} // namespace ts
