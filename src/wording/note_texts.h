#pragma once
// What is said to a person who types a panel in line by line. Part of the catalogue; kept apart for its length.

#include "wording/wording.h"

namespace ts::wording {

std::span<const Entry> noteEntries();

} // namespace ts::wording
