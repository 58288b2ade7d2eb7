#pragma once
// Results of studies in a folder of the user's, found again by the key of what they depend on and by the build of the
// engine. A result that was found there is the same as one worked out anew.

#include "core/keeping/result_store.h"
#include "core/studies/study.h"

namespace ts {

/// None if the study keeps nothing, nothing is kept for the key, or it is damaged.
std::optional<Value> recalled(const Study& study, const std::string& key, const Dossier& dossier,
    const Subject& subject, const io::ResultStore& store);
/// Nothing happens for a study that keeps nothing.
void keep(const Study& study, const std::string& key, const Value& value, const io::ResultStore& store);

} // namespace ts
