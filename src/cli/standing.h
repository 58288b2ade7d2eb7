#pragma once
// Studies run for a command, and where the machine stands by them: verdicts, findings, what was not looked at, exit
// code.

#include "cli/commands.h"
#include "core/studies/standing.h"
#include "core/studies/working_out.h"

namespace ts::cli {

struct Worked {
    DossierFile file;
    Results results;
};
/// The file read, and its studies run: what is Soon, and with --all what is Long. Each Long one is told on err. Fails
/// as loading does, with what compile() refuses, and with Cancelled.
Expected<Worked> worked(const Request&, Session&, WorkOptions options = {});

nlohmann::ordered_json jsonOf(const FunctionVerdict&);
nlohmann::ordered_json jsonOf(const Message&);
nlohmann::ordered_json jsonOf(const CheckMade&);

/// "PL b at most (single faults), claimed PL d, needed PL d: not reached", and what is not known.
void printVerdict(const FunctionVerdict&, std::string_view indent, Session&);

int exitCodeOf(const Standing&);

} // namespace ts::cli
