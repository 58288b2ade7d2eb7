#pragma once
// The words of levels, categories and their conditions. Entries of the catalogue (wording.h).

#include "wording/wording.h"

namespace ts::wording {

std::span<const Entry> levelEntries();

} // namespace ts::wording
