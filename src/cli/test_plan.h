#pragma once
// The plan of tests of a dossier for the commands that need it: remembered where a folder for that is known.

#include "cli/commands.h"
#include "core/measuring/test_plan.h"

namespace ts::cli {

/// Tells on err how far it is.
Expected<measuring::TestPlan> planOf(const Dossier& dossier, const Request& request, Session& session);

struct Planned {
    DossierFile file;
    measuring::TestPlan plan;
};
/// The request's file and its plan.
Expected<Planned> plannedFrom(const Request& request, Session& session);

} // namespace ts::cli
