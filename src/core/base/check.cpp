#include "core/base/check.h"

#include <cstdio>
#include <cstdlib>

namespace ts {
namespace {
CheckFailed g_handler = nullptr;
}

void installCheckFailed(CheckFailed handler)
{
    g_handler = handler;
}

void checkFailed(const char* condition, const char* file, int line)
{
    if (g_handler != nullptr)
        g_handler(condition, file, line);
    std::fprintf(stderr, "internal error: %s (%s:%d)\n", condition, file, line);
    std::abort();
}

} // namespace ts
