#pragma once
// What stands beside a dossier and is worked out of nothing: its record, and the day on which it is read. Whoever has
// them puts them among the results; a check that needs them is not made where they are not.

#include "core/model/dossier.h"

namespace ts {

struct OnRecord {
    std::vector<RecordEntry> record;
    std::string today; ///< ISO 8601 date
};

} // namespace ts
