#pragma once
// The findings of a machine by what they are about, with how much was looked at to find them: what is no longer found
// because less runs, or less is judged, is not mended.

#include "core/base/expected.h"
#include "core/model/dossier.h"
#include "core/model/finding.h"

#include <map>
#include <span>
#include <stop_token>
#include <string>
#include <string_view>

namespace ts::mending {

struct Found : std::map<std::string, Finding> { ///< by record::keyOf
    std::size_t states = 0; ///< running states in which things were tried
    std::size_t notSeen = 0; ///< sizes that were not judged, motors that never ran, what was left out
};

/// Works these studies out and keeps the findings of the checks that read one of them; "": of those that read the
/// dossier alone. Fails as a study does, and with Cancelled.
Expected<Found> foundIn(const Dossier& dossier, std::span<const std::string_view> studies, std::stop_token stop);
/// Fewer states ran afterwards, or more was not judged.
bool seesLess(const Found& before, const Found& after);

} // namespace ts::mending
