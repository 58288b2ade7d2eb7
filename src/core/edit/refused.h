#pragma once
// An edit that cannot be carried out, and why. Internal to edit/.

#include "core/base/expected.h"

namespace ts::edit {

inline Unexpected refused(ErrorCode code, const char* id, std::vector<Argument> arguments = {})
{
    return failure(code, message(id, std::move(arguments)));
}

} // namespace ts::edit
