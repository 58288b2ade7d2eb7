#pragma once
// A plan as text and back, to be remembered by the circuit that it is for. None if the text is not one of it.

#include "core/measuring/test_plan.h"

namespace ts::measuring {

std::string keptText(const TestPlan& plan);
std::optional<TestPlan> planFrom(std::string_view text);

} // namespace ts::measuring
