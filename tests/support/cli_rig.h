#pragma once
// The command line run within the test: what it said where, and its exit code.

#include "cli/cli.h"
#include "tests/support/kept_results.h"

#include <sstream>
#include <stop_token>
#include <string>
#include <vector>

namespace ts::test {

struct Said {
    int code = 0;
    std::string out, err;
};

inline Said runCli(const std::vector<std::string>& arguments, std::stop_token stop = {}, const std::string& typed = {})
{
    std::istringstream in(typed);
    std::ostringstream out, err;
    const int code = cli::run(arguments, in, out, err, std::move(stop), keptResults());
    return {code, out.str(), err.str()};
}

} // namespace ts::test
