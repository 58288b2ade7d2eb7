#pragma once
// A starter of 5.5 kW, 11 A, by itself, its sizes, and one thing changed.

#include "core/edit/circuit_edits.h"
#include "core/edit/device_edits.h"
#include "core/edit/wiring.h"
#include "core/edit/wiring_edits.h"
#include "core/library/registry.h"
#include "core/library/table.h"
#include "core/patterns/advice.h"
#include "core/patterns/machine.h"
#include "core/sizing/sizing.h"
#include "tests/support/circuits.h"

#include <algorithm>
#include <cmath>

namespace ts::sizing {

using Texts = std::vector<std::string>;
constexpr double kPlateA = 11.0;

inline DossierFile chosen(const Texts& said = {})
{
    return *patterns::machine(*patterns::advised(said));
}

inline DossierFile with(DossierFile file, const char* tag, const char* name, const char* value)
{
    auto changed = edit::withValue(file, file.dossier.circuit.device(tag)->id, name, value);
    EXPECT_TRUE(changed) << tag << " " << name << " " << value << " " << (changed ? "" : changed.error().message.id);
    return *changed;
}

inline DossierFile device(const DossierFile& file, const char* tag, const char* kind, ParameterMap parameters)
{
    Device d;
    d.tag = tag;
    d.kind = kind;
    d.parameters = std::move(parameters);
    return *edit::withDevice(file, d);
}

/// All wires at this device's terminals.
inline DossierFile wires(DossierFile file, const char* tag, double areaMm2, double lengthM = 0.6)
{
    const DeviceId id = file.dossier.circuit.device(tag)->id;
    for (Wire& w : file.dossier.circuit.wires)
        if (w.from.device == id || w.to.device == id) {
            w.areaMm2 = areaMm2;
            w.lengthM = lengthM;
        }
    return file;
}

inline Sized sized(const DossierFile& file)
{
    auto s = sizesOf(file.dossier);
    EXPECT_TRUE(s) << s.error().message.id;
    return *s;
}

/// The worst of one rule, at one device if a tag is given.
inline std::optional<Headroom> worst(const DossierFile& file, const std::string& rule, const char* tag = nullptr)
{
    std::optional<Headroom> found;
    const auto worth = [](const Headroom& h) { return std::pair(!h.isMet, h.used()); };
    for (const Headroom& h : sized(file).all)
        if (h.rule == rule && (!tag || h.device == file.dossier.circuit.device(tag)->id))
            if (!found || worth(*found) < worth(h))
                found = h;
    return found;
}

inline bool isMet(const DossierFile& file, const std::string& rule, const char* tag = nullptr)
{
    const auto h = worst(file, rule, tag);
    EXPECT_TRUE(h) << rule;
    return h && h->isMet;
}

inline bool isNotJudged(const DossierFile& file, const std::string& rule, const char* enter)
{
    const Sized s = sized(file);
    return std::any_of(s.notJudged.begin(), s.notJudged.end(),
        [&](const NotJudged& n) { return n.rule == rule && n.enter.id == enter; });
}

} // namespace ts::sizing
