#pragma once
// What time it is, as entries of the record carry it.

#include <string>

namespace ts::app {

std::string dayNow(); ///< ISO 8601 date
std::string momentNow(); ///< ISO 8601 with the zone: "2026-11-30T14:05:00+01:00"

} // namespace ts::app
