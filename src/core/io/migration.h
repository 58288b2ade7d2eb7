#pragma once
// Older formats brought to the present one, a step at a time, on the tree before it is read. Each step has a sample in
// tests/data/.

#include "core/io/json_tree.h"

namespace ts::io {

/// draft-1 to draft-2: a claimed part named its element in prose ("contact block 11-12") and its measure and typical
/// values by the words of a table; now by ids. Prose that names no single element becomes the whole device, so that no
/// fault of it is left out.
void migrate1To2(JsonNode& root);

/// The id of a typical value that is named by the words of its table ("contactor|nominal"), as older parts lists do;
/// any other text as it is.
std::string typicalIdFrom(const std::string& text);

} // namespace ts::io
