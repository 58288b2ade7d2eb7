#pragma once
// The record beside the dossier: entries that follow one another by their hashes, so that nothing in between can be
// changed or taken out unseen. Older entries {date, who, text} stay as they are; the first chained one hashes them.
// Hash: BLAKE2b, 256 bits, of an entry's fields in the order of RecordEntry, each as "length:bytes,". Who wrote an
// entry is claimed, not proved: that takes a signature.

#include "core/base/expected.h"
#include "core/model/dossier.h"
#include "core/model/finding.h"

#include <optional>
#include <span>

namespace ts::record {

using Entries = std::span<const RecordEntry>;

std::string hashOf(const RecordEntry& entry); ///< 64 hexadecimal digits
/// Of the dossier as our printer writes it, without ids to come and record.
std::string hashOf(const Dossier& dossier);

/// What the next entry follows: every chained entry that none follows yet, else all older ones as one. Sorted.
std::vector<std::string> heads(Entries record);
/// Sets what it follows and of which dossier it speaks. Fails with OutOfRange if who, words or time are missing, or
/// the role is none.
Expected<RecordEntry> nextEntry(RecordEntry entry, Entries record, const Dossier& dossier);
/// The first entry that follows something which is not there as it was; none: the chain holds.
std::optional<std::size_t> firstBroken(Entries record);

/// Bridges that were put in and not taken off since, the oldest first.
std::vector<RecordEntry> bypassesInForce(Entries record);

/// A finding by what it is about, whatever its figures are by now.
std::string keyOf(const Finding& finding);

struct Acceptance {
    RecordEntry entry;
    bool readsTheSame = true; ///< false: what was accepted read otherwise, it is to be looked at again
    bool operator==(const Acceptance&) const = default;
};
/// The newest word on it, if that is an acceptance. `reading`: the finding's sentence now.
std::optional<Acceptance> acceptanceOf(Entries record, const Finding& finding, std::string_view reading);

} // namespace ts::record
