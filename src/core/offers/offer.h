#pragma once
// What can be meant with what is selected: an offer with its questions, each with the answers there are. Carrying one
// out is a pure function over core/edit. The window, the search box and the tests all read this one list.

#include "core/base/expected.h"
#include "core/model/dossier.h"

#include <map>
#include <string>
#include <vector>

namespace ts::offers {

/// What is selected: a wire, an element of a device, a device, or nothing (all empty).
struct Picked {
    DeviceId device;
    std::string role; ///< element, "13-14"; empty: the whole device
    WireId wire;
    bool operator==(const Picked&) const = default;
};

/// One possible answer: what is handed back, and how it reads.
struct Choice {
    std::string value;
    Message text;
};

struct Question {
    std::string id; ///< "what", "until"; wording has its text
    std::vector<Choice> choices; ///< empty: any text
    std::string preset; ///< the answer that stands there first
};

/// What it is about, for lists that are shown in parts.
enum class About { Path, Device };

struct Offer {
    std::string id; ///< "series_before"
    char key = 0; ///< letter that opens it on the Bench; 0: none
    std::vector<Question> questions; ///< none: done as soon as it is confirmed
    About about = About::Path;
    bool removes = false; ///< what the Delete key means
};

using Answers = std::map<std::string, std::string>;

/// What can be meant with the target, in the order of a workshop's day. Empty for what is not there. Pure.
std::vector<Offer> offersFor(const Dossier& dossier, const Picked& target);

/// Questions of which the answers depend on earlier ones are not among them: every answer of every question can stand
/// with every other, or is refused with its reason. NotFound for an unknown offer, target or answer; else what the edit
/// refuses.
Expected<DossierFile> carriedOut(
    const DossierFile& file, const Picked& target, const std::string& offer, const Answers& answers);

/// The first answers of an offer's questions.
Answers presetsOf(const Offer& offer);

} // namespace ts::offers
