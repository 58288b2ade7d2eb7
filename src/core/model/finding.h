#pragma once
// A fault in the user's design: collected, never thrown, never without evidence.

#include "core/base/message.h"

#include <string>
#include <vector>

namespace ts {

enum class Severity { Stop, Fix, Note };

struct Finding {
    std::string id; ///< stable, from the registry of checks
    Severity severity = Severity::Note;
    std::vector<std::string> devices; ///< tags it concerns
    Message what; ///< what is wrong
    Message consequence; ///< what happens to a person or the machine
    Message mend; ///< what to do
    std::string clause; ///< clause number to look up
    Message evidence; ///< the value, trace or fault it rests on
};

} // namespace ts
