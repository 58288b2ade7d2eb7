#pragma once
// Steps of the plan of tests on paper: one table to be filled in by hand, with what this part of the plan leaves out.

#include "core/measuring/occasions.h"
#include "core/model/dossier.h"

#include <string>

namespace ts::report {

/// One HTML text for printing. `places`: of the steps, as stepsFor() gives them.
std::string paperSheet(const Dossier& dossier, const measuring::TestPlan& plan, const std::vector<std::size_t>& places,
    measuring::Occasion occasion, const std::string& tag);

} // namespace ts::report
