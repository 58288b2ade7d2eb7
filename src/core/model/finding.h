#pragma once
// A fault in the user's design: collected, never thrown, never without evidence.

#include "core/base/message.h"
#include "core/model/target.h"

#include <string>
#include <string_view>
#include <vector>

namespace ts {

enum class Severity { Stop, Fix, Note };
std::string_view nameOf(Severity); ///< "stop", "fix", "note": the words in files

/// What a person does next about it.
enum class Remedy : std::uint8_t {
    Unsaid, ///< as its check says
    Wiring, ///< change what is connected to what
    Part, ///< another part, size or setting
    Entry, ///< write down what is missing
    Claim, ///< change what is claimed or required, or give a reason
    Trial ///< have it run, or describe what shall be run
};
std::string_view nameOf(Remedy); ///< "wiring", "part", "entry", "claim", "trial"

struct Finding {
    std::string id; ///< of the check that found it
    Severity severity = Severity::Note;
    std::vector<std::string> devices; ///< tags it concerns
    Message what; ///< what is wrong
    Message consequence; ///< what happens to a person or the machine
    Message mend; ///< what to do
    std::string clause; ///< clause number to look up
    Message evidence; ///< the value, trace or fault it rests on
    Target target{}; ///< where it can be looked at
    Remedy remedy = Remedy::Unsaid;
    bool operator==(const Finding&) const = default;
};

} // namespace ts
