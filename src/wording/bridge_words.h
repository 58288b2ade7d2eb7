#pragma once
// What a bridge costs, in words: said before it is put in.

#include "core/analysis/bridge.h"

namespace ts::wording {

/// One sentence a line, the gravest first.
std::vector<std::string> bridgeLines(
    const Dossier& dossier, const BridgeCost& cost, const std::string& from, const std::string& to);
/// "S10:21 - S10:22 bridged until 2026-12-05 by A. Fitter: waiting for the part"; `today`: ISO 8601 date, then it says
/// if the day has passed.
std::string bypassText(const RecordEntry& entry, std::string_view today);

} // namespace ts::wording
