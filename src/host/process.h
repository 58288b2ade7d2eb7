#pragma once
// What the running program asks of the operating system, for window and command line. Core never does.

#include <cstddef>
#include <string>

namespace ts::host {

/// Memory of this process that is in use now, in bytes; 0 if the system does not tell.
std::size_t memoryInUse();

/// The date here and now, ISO 8601.
std::string today();

/// The calling thread, and every thread that it starts, gives way to others from now on.
void giveWay();

} // namespace ts::host
