#include "wording/cautions.h"

#include "core/analysis/response.h"
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
    };
    return kCautions;
}

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
    return lines;
}

std::vector<std::string> testCautions(const measuring::TestStep& step)
{
    using measuring::Stage;
    if (measuring::isDead(step.stage))
        return {word(step.stage == Stage::Insulation ? "caution.insulation" : "caution.dead_work")};
    std::vector<std::string> lines{word("caution.live")};
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
