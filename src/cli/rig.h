#pragma once
// The panel to practise on as a process of its own: a meter on one port, the operator on another, both on this machine
// only (127.0.0.1). The one place where the network is used.

#include "cli/commands.h"
#include "core/practice/practice_panel.h"

namespace ts::cli {

using OperatorAnswers = std::string (*)(practice::PracticePanel& panel, const std::string& line);

/// Port 0: a free one. Says both, then serves until it is stopped, or the operator says "quit". Lines of at most 1 kB;
/// who says nothing for a while is not dropped, who sends more than a line holds is.
int serve(practice::PracticePanel& panel, OperatorAnswers answers, unsigned port, unsigned operatorPort, Session& s);

} // namespace ts::cli
