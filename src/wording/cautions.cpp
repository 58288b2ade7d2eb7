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

} // namespace ts::wording
