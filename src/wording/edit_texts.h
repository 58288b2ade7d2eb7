#pragma once
// Texts of what can be meant with what is selected, and of what a change would mean; and the names of values.

#include "wording/wording.h"

#include <span>

namespace ts::wording {

std::span<const Entry> editEntries();

} // namespace ts::wording
