#pragma once
// Entries of the record in words.

#include "core/record/record.h"

namespace ts::wording {

/// "Accepted on 2026-11-30 by A. Weller (designed): ...", and what it read then if it reads otherwise now; empty: the
/// finding is not accepted.
std::string acceptedText(record::Entries entries, const Finding& finding);

/// Which entry does not fit; empty: the chain holds.
std::string brokenText(record::Entries entries);

} // namespace ts::wording
