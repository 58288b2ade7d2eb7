#include "core/model/finding.h"

namespace ts {

std::string_view nameOf(Severity severity)
{
    return severity == Severity::Stop ? "stop" : severity == Severity::Fix ? "fix" : "note";
}

} // namespace ts
