#include "core/offers/offer.h"

#include "core/offers/rows.h"

#include <algorithm>
#include <array>

namespace ts::offers {
namespace {

std::vector<const OfferRow*> allRows()
{
    std::vector<const OfferRow*> rows;
    for (const auto& table : {pathOffers(), wireOffers(), starterOffers(), deviceOffers()})
        for (const OfferRow& row : table)
            rows.push_back(&row);
    return rows;
}

bool isThere(const Circuit& circuit, const Picked& target)
{
    return (!target.device || circuit.device(target.device)) && (!target.wire || circuit.wire(target.wire));
}

} // namespace

Question question(const char* id, std::vector<Choice> choices)
{
    Question q{id, std::move(choices), {}};
    if (!q.choices.empty())
        q.preset = q.choices.front().value;
    return q;
}

std::vector<Offer> offersFor(const Dossier& dossier, const Picked& target)
{
    std::vector<Offer> offers;
    const auto sight = Sight::of(dossier);
    if (!sight || !isThere(dossier.circuit, target))
        return offers;
    for (const OfferRow* row : allRows())
        if (auto questions = row->asked(*sight, target))
            offers.push_back({row->id, row->key, std::move(*questions), row->about, row->removes});
    return offers;
}

Expected<DossierFile> carriedOut(
    const DossierFile& file, const Picked& target, const std::string& offer, const Answers& answers)
{
    const auto sight = Sight::of(file.dossier);
    if (!sight)
        return Unexpected{sight.error()};
    if (!isThere(file.dossier.circuit, target))
        return failure(ErrorCode::NotFound, message("offer.unknown", {offer}));
    for (const OfferRow* row : allRows()) {
        if (row->id != offer)
            continue;
        const auto questions = row->asked(*sight, target);
        if (!questions)
            break;
        Answers given;
        for (const Question& q : *questions) {
            const auto it = answers.find(q.id);
            const std::string& answer = given[q.id] = it == answers.end() ? q.preset : it->second;
            if (!q.choices.empty()
                && std::none_of(q.choices.begin(), q.choices.end(), [&](const Choice& c) { return c.value == answer; }))
                return failure(ErrorCode::NotFound, message("offer.no_answer", {answer}));
        }
        return row->done(file, *sight, target, given);
    }
    return failure(ErrorCode::NotFound, message("offer.unknown", {offer}));
}

} // namespace ts::offers
