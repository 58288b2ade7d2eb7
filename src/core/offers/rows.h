#pragma once
// The table behind offers: each row says when it applies and what it asks, and does it. Internal to offers/.

#include "core/offers/sight.h"

#include <span>

namespace ts::offers {

struct OfferRow {
    const char* id;
    char key;
    /// None: does not apply to this target.
    std::optional<std::vector<Question>> (*asked)(const Sight&, const Picked&);
    /// Only with answers that were among the choices.
    Expected<DossierFile> (*done)(const DossierFile&, const Sight&, const Picked&, const Answers&);
    About about = About::Path;
    bool removes = false;
};

std::span<const OfferRow> pathOffers(); ///< path_offers.cpp: series, parallel, taking out, wires
std::span<const OfferRow> wireOffers(); ///< wire_offers.cpp: what is said of a wire and its route
std::span<const OfferRow> starterOffers(); ///< starter_offers.cpp: interlock, hold, lamp, feedback, a whole starter
                                           ///< again
std::span<const OfferRow> deviceOffers(); ///< device_offers.cpp: phases, part, values, names, blocks, new devices

/// A question with its first answer standing there.
Question question(const char* id, std::vector<Choice> choices);

/// The nets that lie behind an element, its own lower one first: where something in parallel can join again. Each
/// answer names a terminal on the net.
std::vector<Choice> netsBehind(const Sight& sight, const Sighted& element);

/// The starter of a motor or contactor once more: duplicate.cpp.
Expected<DossierFile> withStarterAgain(const DossierFile& file, const Sight& sight, DeviceId device);

} // namespace ts::offers
