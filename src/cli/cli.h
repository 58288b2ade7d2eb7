#pragma once
// The command line: check, levels, simulate, report. Results go to `out`, messages to `err`.
// What each command prints is documented in docs/formats/command_line.md.

#include <iosfwd>
#include <span>
#include <stop_token>
#include <string>

namespace ts::cli {

enum ExitCode : int { kInOrder = 0, kFindings = 1, kUnusable = 2, kCancelled = 130 };

/// Runs one command with the arguments after the program's name. Returns an ExitCode.
int run(std::span<const std::string> arguments, std::ostream& out, std::ostream& err, std::stop_token stop);

} // namespace ts::cli
