#include "cli/cli.h"

#include <csignal>
#include <iostream>
#include <stop_token>
#include <string>
#include <thread>
#include <vector>

namespace {
volatile std::sig_atomic_t g_interrupted = 0;
}

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
    return ts::cli::run(arguments, std::cout, std::cerr, source.get_token());
}
