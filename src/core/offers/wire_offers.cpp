// What is said of a wire and of its route, field by field (library/fields.h).

#include "core/edit/wiring_edits.h"
#include "core/library/fields.h"
#include "core/offers/rows.h"

namespace ts::offers {
namespace {

using Questions = std::optional<std::vector<Question>>;

/// One question for each field; of a word the answers there are, and none.
template <class Record, std::size_t n> Questions asked(const std::array<Field<Record>, n>& all, const Record* record)
{
    if (!record)
        return std::nullopt;
    std::vector<Question> questions;
    for (const Field<Record>& f : all) {
        Question q{std::string(f.name), {}, fields::textOf(f, *record)};
        const auto words = fields::wordsIn(f.words);
        if (!words.empty())
            q.choices.push_back({"", message("field.unsaid")});
        for (const std::string_view word : words)
            q.choices.push_back({std::string(word), message("field." + std::string(f.name) + "." + std::string(word))});
        questions.push_back(std::move(q));
    }
    return questions;
}

const Route* routeOf(const Sight& s, const Picked& t)
{
    const Wire* w = s.circuit().wire(t.wire);
    return w ? s.circuit().route(w->route) : nullptr;
}

Questions askWireData(const Sight& s, const Picked& t)
{
    return asked(kWireFields, s.circuit().wire(t.wire));
}

Questions askRouteData(const Sight& s, const Picked& t)
{
    return asked(kRouteFields, routeOf(s, t));
}

/// Each answer in turn; the first that is refused says why, and nothing is changed.
template <class Record, std::size_t n, class Edit>
Expected<DossierFile> said(
    const DossierFile& file, const std::array<Field<Record>, n>& all, const Answers& answers, const Edit& edit)
{
    Expected<DossierFile> changed = file;
    for (const Field<Record>& f : all)
        if (const auto a = answers.find(std::string(f.name)); a != answers.end() && changed)
            changed = edit(*changed, f.name, a->second);
    return changed;
}

Expected<DossierFile> sayWireData(const DossierFile& file, const Sight&, const Picked& t, const Answers& a)
{
    return said(file, kWireFields, a, [&t](const DossierFile& f, std::string_view name, const std::string& text) {
        return edit::withWireField(f, t.wire, name, text);
    });
}

Expected<DossierFile> sayRouteData(const DossierFile& file, const Sight& s, const Picked& t, const Answers& a)
{
    const RouteId route = routeOf(s, t)->id;
    return said(file, kRouteFields, a, [route](const DossierFile& f, std::string_view name, const std::string& text) {
        return edit::withRouteField(f, route, name, text);
    });
}

} // namespace

std::span<const OfferRow> wireOffers()
{
    static constexpr std::array kRows{
        OfferRow{"wire_data", 0, askWireData, sayWireData},
        OfferRow{"route_data", 0, askRouteData, sayRouteData},
    };
    return kRows;
}

} // namespace ts::offers
