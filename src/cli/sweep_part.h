#pragma once
// One shard's JSON of a sweep, read back to be put together with the others.

#include "core/base/expected.h"
#include "core/faults/sweep.h"

#include <string>
#include <string_view>
#include <vector>

namespace ts::cli {

/// What a part must be one of.
struct PartOf {
    const faults::Sweep& sweep; ///< with all single faults
    const Plant& plant;
    std::string circuit; ///< hash of all that the sweep depends on
};

/// Adds the second faults of a part. Refused for what is no such part, one of another circuit or state of it, and one
/// that was there before. `seen`: by shard; empty before the first.
Expected<void> addPart(std::string_view text, const std::string& name, const PartOf& whole, std::vector<bool>& seen,
    faults::SecondFaults& found);

} // namespace ts::cli
