#include "cli/cli.h"

#include <csignal>
#include <cstdlib>
#include <iostream>
#include <stop_token>
#include <string>
#include <thread>
#include <vector>

namespace {
volatile std::sig_atomic_t g_interrupted = 0;

/// Where results are kept between two calls; empty: nowhere.
std::string cacheFolder()
{
    const char* const cache = std::getenv("XDG_CACHE_HOME");
    const char* const home = std::getenv("HOME");
    return cache && *cache ? std::string(cache) + "/tall-sentry-cli"
        : home && *home    ? std::string(home) + "/.cache/tall-sentry-cli"
                           : std::string();
}
} // namespace

int main(int argc, char** argv)
{
    std::signal(SIGINT, [](int) { g_interrupted = 1; });
    std::stop_source source;
    // A signal handler may only set a flag; this thread hands it on.
    std::jthread watcher([&source](std::stop_token ended) {
        while (!ended.stop_requested() && !g_interrupted)
            std::this_thread::sleep_for(std::chrono::milliseconds(20));
        if (g_interrupted)
            source.request_stop();
    });
    std::vector<std::string> arguments(argv + 1, argv + argc);
    return ts::cli::run(arguments, std::cin, std::cout, std::cerr, source.get_token(), cacheFolder());
}
