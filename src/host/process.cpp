#include "host/process.h"

#include <array>
#include <ctime>
#include <fstream>

#include <sys/resource.h>
#include <sys/syscall.h>
#include <unistd.h>

namespace ts::host {

std::size_t memoryInUse()
{
    std::ifstream statm("/proc/self/statm");
    std::size_t whole = 0, resident = 0;
    return statm >> whole >> resident ? resident * static_cast<std::size_t>(sysconf(_SC_PAGESIZE)) : 0;
}

std::string today()
{
    const std::time_t now = std::time(nullptr);
    std::tm local{};
    localtime_r(&now, &local);
    std::array<char, 11> text{};
    return {text.data(), std::strftime(text.data(), text.size(), "%Y-%m-%d", &local)};
}

void giveWay()
{
    constexpr int kNiceness = 10;
    setpriority(PRIO_PROCESS, static_cast<id_t>(syscall(SYS_gettid)), kNiceness); // on Linux a thread's own
}

} // namespace ts::host
