#pragma once
// The words of what an electrician tries and sees. Entries of the catalogue (wording.h).

#include "wording/wording.h"

namespace ts::wording {

std::span<const Entry> trialEntries();

} // namespace ts::wording
