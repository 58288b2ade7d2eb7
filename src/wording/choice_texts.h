#pragma once
// What the words of a starter pattern mean, and why one is refused. Part of the catalogue; kept apart for its length.

#include "wording/wording.h"

namespace ts::wording {

std::span<const Entry> choiceEntries();

} // namespace ts::wording
