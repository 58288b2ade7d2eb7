#pragma once
// What an indicator light tells, read from the contacts that feed it. What colour that is, is a habit
// (wording/habits.h).

#include "core/base/expected.h"
#include "core/model/dossier.h"

#include <map>

namespace ts::offers {

enum class LampMeaning {
    Runs, ///< lit by a closing contact of what pulls in
    Stopped, ///< lit by an opening contact of it
    Fault, ///< lit by what trips or watches
    Other
};

/// For every lamp of the circuit. Fails with what the device kinds refuse. Pure.
Expected<std::map<DeviceId, LampMeaning>> lampMeanings(const Dossier& dossier);

} // namespace ts::offers
