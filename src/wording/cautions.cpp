#include "wording/cautions.h"

#include "core/analysis/response.h"
#include "core/library/motor_plate.h"
#include "core/library/registry.h"
#include "wording/wording.h"

#include <algorithm>
#include <array>

namespace ts::wording {

std::span<const Caution> allCautions()
{
    static constexpr std::array kCautions{
        Caution{"caution.text", "skyline.caution", "ISO 13849-1 clause 1, EN 60204-1 clause 1; local codes"},
        Caution{"caution.isolation", "functions.caution worst.caution",
            "EN 60204-1 clauses 5.3, 5.4, 6.4.1; lock-out rules of the owner"},
        Caution{"caution.dead_work", "tests.caution", "EN 50110-1 clause 6.2; lock-out rules of the owner"},
        Caution{"caution.insulation", "tests.caution", "EN 60204-1 clause 18.3"},
        Caution{"caution.live", "tests.caution", "EN 50110-1 clause 6.3; arc-flash rules of the site"},
        Caution{"caution.control_only", "tests.caution", "ISO 12100 clause 6.3.5.4"},
        Caution{"caution.push_in", "tests.caution", "EN 50110-1 clause 6.3"},
        Caution{"caution.uncoupled", "tests.caution", "EN 60204-1 clause 18.6"},
        Caution{"caution.stop_is_no_isolation", "tests.caution", "ISO 13850 clause 4.1.1"},
        Caution{"caution.run_down", "functions.caution worst.caution", "ISO 12100 clause 6.3.5.4"},
        Caution{"caution.discharge", "functions.caution worst.caution tests.caution", "EN 60204-1 clause 6.2.4"},
        Caution{"caution.hanging", "functions.caution worst.caution tests.caution", "ISO 12100 clause 6.3.5.4"},
        Caution{"caution.secondary", "tests.caution", "EN 50110-1 clause 6.2; practice at transformers"},
        Caution{"caution.after_trip", "inspector.caution", "IEC 60947-4-1 clause 8.2.5.1; practice after a trip"},
    };
    return kCautions;
}

namespace {

/// Drives with the time that they hold a charge, as far as somebody has entered it; motors whose load hangs.
std::vector<std::string> storedEnergy(const Circuit& circuit)
{
    std::string charged, hanging;
    for (const Device& d : circuit.devices) {
        const auto p = parametersOf(circuit, d);
        if (!p)
            continue;
        if (d.kind == "drive")
            charged += (charged.empty() ? "" : ", ") + d.tag + " "
                + (p->isWritten("discharge_time_s") ? number(p->number("discharge_time_s"), "s")
                                                    : word("caution.as_its_sheet_says"));
        if (isMotor(d) && p->word("load") == "hanging")
            hanging += (hanging.empty() ? "" : ", ") + d.tag;
    }
    std::vector<std::string> lines;
    if (!charged.empty())
        lines.push_back(said("caution.discharge", {charged}));
    if (!hanging.empty())
        lines.push_back(said("caution.hanging", {hanging}));
    return lines;
}

/// Transformers at whose secondary a probe is put, each with its primary's terminals.
std::vector<std::string> secondaries(const measuring::TestStep& step, const Circuit& circuit)
{
    std::vector<std::string> lines;
    for (const Device& d : circuit.devices) {
        const auto body = bodyOf(circuit, d);
        for (const Element& e : body ? body->elements : std::vector<Element>{}) {
            const auto* transformer = std::get_if<TransformerElement>(&e.what);
            if (!transformer || transformer->nominalSecondaryV <= 0)
                continue;
            const auto name = [&](std::size_t k) {
                return d.tag + ":" + body->terminals[static_cast<std::size_t>(e.terminals[k])].marking;
            };
            const auto isProbed = [&](const std::string& at) { return at == name(2) || at == name(3); };
            if (std::any_of(step.look.at.begin(), step.look.at.end(), isProbed))
                lines.push_back(said("caution.secondary", {d.tag, name(0) + " - " + name(1)}));
        }
    }
    return lines;
}

} // namespace

std::vector<std::string> stopCautions(const Dossier& dossier, const FunctionPath* path, const FunctionResult* stops)
{
    std::vector<std::string> lines;
    if (!path) {
        lines.push_back(said("caution.isolation_unknown"));
    } else {
        std::string tags;
        for (DeviceId id : path->stillLive)
            if (const Device* d = dossier.circuit.device(id))
                tags += (tags.empty() ? "" : ", ") + d->tag;
        lines.push_back(tags.empty() ? said("caution.isolation_none") : said("caution.isolation", {tags}));
    }
    double longest = 0.0;
    for (const safety::ActuatorStop& a : stops ? worstStops(*stops) : std::vector<safety::ActuatorStop>{})
        longest = std::max(longest, a.restAfter ? a.restAfter->si() : 0.0);
    if (longest > 0.0)
        lines.push_back(said("caution.run_down", {Measured{longest, "s"}}));
    const auto stored = storedEnergy(dossier.circuit);
    lines.insert(lines.end(), stored.begin(), stored.end());
    return lines;
}

std::string tripCaution()
{
    return word("caution.after_trip");
}

std::vector<std::string> testCautions(const measuring::TestStep& step, const Circuit& circuit)
{
    using measuring::Stage;
    std::vector<std::string> lines = secondaries(step, circuit);
    if (measuring::isDead(step.stage)) {
        lines.insert(lines.begin(), word(step.stage == Stage::Insulation ? "caution.insulation" : "caution.dead_work"));
        const auto stored = step.stage == Stage::Isolation ? storedEnergy(circuit) : std::vector<std::string>{};
        lines.insert(lines.end(), stored.begin(), stored.end());
        return lines;
    }
    lines.insert(lines.begin(), word("caution.live"));
    if (step.in.power == measuring::Power::MotorOff)
        lines.push_back(word("caution.control_only"));
    if (std::any_of(step.in.bring.begin(), step.in.bring.end(),
            [](const std::string& operation) { return operation.ends_with(" push_in"); }))
        lines.push_back(word("caution.push_in"));
    if (step.stage == Stage::Direction)
        lines.push_back(word("caution.uncoupled"));
    if (step.stage == Stage::Stops || step.stage == Stage::Times)
        lines.push_back(word("caution.stop_is_no_isolation"));
    return lines;
}

} // namespace ts::wording
