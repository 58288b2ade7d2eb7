#pragma once
// The wording as a Speech, for core's report.

#include "core/report/speech.h"

namespace ts::wording {

Speech speech();

} // namespace ts::wording
