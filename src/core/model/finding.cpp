#include "core/model/finding.h"

namespace ts {

std::string_view nameOf(Severity severity)
{
    return severity == Severity::Stop ? "stop" : severity == Severity::Fix ? "fix" : "note";
}

std::string_view nameOf(Remedy remedy)
{
    switch (remedy) {
    case Remedy::Wiring:
        return "wiring";
    case Remedy::Part:
        return "part";
    case Remedy::Entry:
        return "entry";
    case Remedy::Claim:
        return "claim";
    case Remedy::Trial:
        return "trial";
    case Remedy::Unsaid:
        break;
    }
    return {};
}

} // namespace ts
