#pragma once
// Our own mistakes: a broken invariant stops the program loudly, in every build.

namespace ts {

/// Called when a TS_CHECK fails. Must not return. The default writes to standard error and aborts.
using CheckFailed = void (*)(const char* condition, const char* file, int line);
void installCheckFailed(CheckFailed handler);
[[noreturn]] void checkFailed(const char* condition, const char* file, int line);

} // namespace ts

#define TS_CHECK(condition) ((condition) ? void(0) : ::ts::checkFailed(#condition, __FILE__, __LINE__))
