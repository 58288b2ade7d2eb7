// One target under libFuzzer: TS_FUZZ_TARGET names it. TS_FUZZ_SEED: writes the target's seed there before it begins.

#include "fuzz/targets.h"

#include <algorithm>
#include <cstdint>
#include <cstdio>
#include <cstdlib>
#include <fstream>

namespace {

const ts::fuzz::Target& chosen()
{
    const char* name = std::getenv("TS_FUZZ_TARGET");
    const auto all = ts::fuzz::targets();
    const auto it = std::find_if(all.begin(), all.end(), [name](const auto& t) { return name && t.name == name; });
    if (it != all.end())
        return *it;
    std::fprintf(stderr, "TS_FUZZ_TARGET must be one of:");
    for (const auto& t : all)
        std::fprintf(stderr, " %s", t.name.data());
    std::fprintf(stderr, "\n");
    std::exit(2);
}

} // namespace

extern "C" int LLVMFuzzerInitialize(int*, char***)
{
    if (const char* path = std::getenv("TS_FUZZ_SEED"); path && chosen().seed)
        std::ofstream(path, std::ios::binary) << chosen().seed();
    return 0;
}

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size)
{
    static const ts::fuzz::Target& target = chosen();
    target.run({reinterpret_cast<const char*>(data), size});
    return 0;
}
