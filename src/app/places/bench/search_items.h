#pragma once
// What the search box can find of the circuit: its devices, wires and terminals, and what can be meant with what is
// selected.

#include "app/frame/search_item.h"
#include "core/model/dossier.h"
#include "core/offers/offer.h"

namespace ts::app {

/// What finding something does; each is called in the window's thread.
struct SearchTargets {
    std::function<void(const offers::Picked&)> find;
    std::function<void(const offers::Offer&)> open;
    std::function<void(const Scenario&)> play;
};

/// Devices, wires and terminals of the circuit.
std::vector<SearchItem> circuitItems(const Circuit& circuit, const SearchTargets& targets);
/// Scenarios that can be played.
std::vector<SearchItem> scenarioItems(const Dossier& dossier, const SearchTargets& targets);
/// What can be meant with what is selected.
std::vector<SearchItem> offerItems(
    const std::vector<offers::Offer>& offers, const QString& selected, const SearchTargets& targets);

} // namespace ts::app
