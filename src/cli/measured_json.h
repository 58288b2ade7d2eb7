#pragma once
// Looks, readings, mistakes and what could be the matter, as JSON: one form for every command that tells of them.

#include "core/finding/finder.h"

#include <nlohmann/json.hpp>

namespace ts::cli {

/// {id, kind, wires {id: [from, to] or null}, parameters, faults, harmless}
nlohmann::ordered_json mistakeJson(const Circuit& circuit, const measuring::Mistake& mistake);
/// The same of a fault, and of a panel that is as drawn: id "as_drawn".
nlohmann::ordered_json suspectJson(const Circuit& circuit, const measuring::Suspect& suspect);
/// What a search says of them, one of each that joins the same, each with the others: "joins_the_same".
nlohmann::ordered_json candidatesJson(const Circuit& circuit, const finding::Class& found);
/// {low, high, unit}, endless as null; or {word}
nlohmann::ordered_json readingJson(const measuring::Reading& reading, measuring::Instrument with);
/// Adds power, bring, isolated, lifted and look.
void addLook(nlohmann::ordered_json& json, const measuring::Situation& in, const measuring::Look& look);

} // namespace ts::cli
