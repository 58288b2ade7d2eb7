#pragma once
// The command line: check, levels, simulate, report. Results go to `out`, messages to `err`.
// What each command prints is documented in docs/formats/command_line.md.

#include <iosfwd>
#include <span>
#include <stop_token>
#include <string>

namespace ts::cli {

enum ExitCode : int {
    kInOrder = 0, ///< nothing to be mended, and everything required was looked at
    kFindings = 1, ///< a finding that forbids operation or is to be corrected, or a level not reached
    kUnusable = 2, ///< the input cannot be used
    kNotLookedAt = 3, ///< no such finding, but something required was not made
    kCancelled = 130
};

/// Runs one command with the arguments after the program's name. Returns an ExitCode.
/// `in`: what somebody types while it runs.
int run(std::span<const std::string> arguments, std::istream& in, std::ostream& out, std::ostream& err,
    std::stop_token stop, const std::string& cache = {});

} // namespace ts::cli
