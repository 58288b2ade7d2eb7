#pragma once
// What is said about testing a built panel. Part of the catalogue; kept apart for its length.

#include "wording/wording.h"

namespace ts::wording {

std::span<const Entry> testEntries();

} // namespace ts::wording
