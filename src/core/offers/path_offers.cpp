// Series, parallel, taking out, and what is meant with a wire.

#include "core/edit/circuit_edits.h"
#include "core/library/table.h"
#include "core/offers/rows.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <deque>

namespace ts::offers {
namespace {

using Questions = std::optional<std::vector<Question>>;

std::optional<Sighted> targeted(const Sight& s, const Picked& t)
{
    return t.role.empty() ? std::nullopt : s.element(t.device, t.role);
}

void preset(Question& q, const std::string& value)
{
    if (std::any_of(q.choices.begin(), q.choices.end(), [&](const Choice& c) { return c.value == value; }))
        q.preset = value;
}

Question whatQuestion(const Sight& s, const char* first)
{
    Question q = question("what", whatToPutIn(s));
    preset(q, first);
    return q;
}

Questions askSeriesBefore(const Sight& s, const Picked& t)
{
    const auto e = targeted(s, t);
    if (!e)
        return std::nullopt;
    std::vector<Question> questions{whatQuestion(s, "new push_button opening")};
    const int net = s.netOf(e->upper);
    if (!s.isRail(net) && s.upperEndsOn(net).size() > 1) {
        std::string names;
        for (const Sighted& other : s.below(net)) {
            const Device& d = *s.circuit().device(other.upper.device);
            names += (names.empty() ? "" : ", ") + d.tag + (other.edge->isLoad() ? "" : " " + other.edge->role);
        }
        questions.push_back(question("reach",
            {{"only",
                 message("offer.reach_only",
                     {s.circuit().device(t.device)->tag + " " + (e->edge->isLoad() ? "" : t.role)})},
                {"all", message("offer.reach_all", {names})}}));
    }
    return questions;
}

Expected<DossierFile> seriesBefore(const DossierFile& file, const Sight& s, const Picked& t, const Answers& a)
{
    const Sighted e = *targeted(s, t);
    const bool all = answerTo(a, "reach") == "all";
    return inSeriesAt(file, all ? s.upperEndsOn(s.netOf(e.upper)) : std::vector{e.upper}, answerTo(a, "what"));
}

Questions askSeriesAfter(const Sight& s, const Picked& t)
{
    if (!targeted(s, t))
        return std::nullopt;
    return std::vector{whatQuestion(s, "new push_button opening")};
}

Expected<DossierFile> seriesAfter(const DossierFile& file, const Sight& s, const Picked& t, const Answers& a)
{
    const TerminalRef end = targeted(s, t)->lower;
    std::vector<TerminalRef> behind;
    for (const TerminalRef& other : edit::netOf(file.dossier.circuit, end))
        if (other != end)
            behind.push_back(other);
    if (behind.empty())
        return failure(ErrorCode::Refused, message("edit.nothing_ahead", {file.dossier.circuit.nameOf(end)}));
    return inSeriesAt(file, behind, answerTo(a, "what"));
}

Questions askParallel(const Sight& s, const Picked& t)
{
    const auto e = targeted(s, t);
    if (!e)
        return std::nullopt;
    return std::vector{whatQuestion(s,
                           e->edge->kind == diagram::SymbolKind::NormallyClosed ? "new push_button opening"
                                                                                : "new push_button closing"),
        question("until", netsBehind(s, *e))};
}

Expected<TerminalRef> untilTerminal(const DossierFile& file, const Answers& a)
{
    return edit::terminalNamed(file.dossier.circuit, answerTo(a, "until"));
}

Expected<DossierFile> parallel(const DossierFile& file, const Sight& s, const Picked& t, const Answers& a)
{
    const auto until = untilTerminal(file, a);
    if (!until)
        return Unexpected{until.error()};
    return inParallel(file, targeted(s, t)->upper, *until, answerTo(a, "what"));
}

Questions askTakeOut(const Sight& s, const Picked& t)
{
    const auto e = targeted(s, t);
    if (!e)
        return std::nullopt;
    if (e->edge->isLoad())
        return std::vector<Question>{};
    Question gap = question("gap", {{"closed", message("offer.gap_closed")}, {"open", message("offer.gap_open")}});
    gap.preset = s.standsInSeries(*e) ? "closed" : "open";
    return std::vector{gap};
}

Expected<DossierFile> takeOut(const DossierFile& file, const Sight& s, const Picked& t, const Answers& a)
{
    return takenOut(file, *targeted(s, t), answerTo(a, "gap") == "closed");
}

std::vector<Choice> allTerminals(const Sight& s)
{
    std::vector<Choice> choices;
    for (const diagram::GraphTerminal& t : s.graph().terminals) {
        const std::string name = s.circuit().nameOf(t.ref);
        choices.push_back({name, message("offer.terminal", {name})});
    }
    return choices;
}

Questions askMoveEnd(const Sight& s, const Picked& t)
{
    const Wire* w = s.circuit().wire(t.wire);
    if (!w)
        return std::nullopt;
    Question to = question("to", allTerminals(s));
    return std::vector{question("end",
                           {{"from", message("offer.end", {s.circuit().nameOf(w->from), s.circuit().nameOf(w->to)})},
                               {"to", message("offer.end", {s.circuit().nameOf(w->to), s.circuit().nameOf(w->from)})}}),
        to};
}

Expected<DossierFile> moveEnd(const DossierFile& file, const Sight&, const Picked& t, const Answers& a)
{
    const auto to = edit::terminalNamed(file.dossier.circuit, answerTo(a, "to"));
    if (!to)
        return Unexpected{to.error()};
    return edit::withWireEndMoved(file, t.wire, answerTo(a, "end") == "from" ? WireEnd::From : WireEnd::To, *to);
}

Questions askRemoveWire(const Sight& s, const Picked& t)
{
    return s.circuit().wire(t.wire) ? Questions(std::vector<Question>{}) : std::nullopt;
}

Expected<DossierFile> removeWire(const DossierFile& file, const Sight&, const Picked& t, const Answers&)
{
    return edit::withoutWire(file, t.wire);
}

struct Laid {
    RouteKind kind;
    const char* text;
};
constexpr std::array kLaid{Laid{RouteKind::Enclosure, "offer.laid.enclosure"},
    Laid{RouteKind::Cable, "offer.laid.cable"}, Laid{RouteKind::ProtectedCable, "offer.laid.protected_cable"},
    Laid{RouteKind::ShieldedCable, "offer.laid.shielded_cable"},
    Laid{RouteKind::MovingCable, "offer.laid.moving_cable"}};

std::vector<Choice> waysToLay()
{
    std::vector<Choice> choices;
    for (const Laid& laid : kLaid)
        choices.push_back({std::string(routeWord(laid.kind)), message(laid.text)});
    return choices;
}

/// Along which other wires it runs: the routes there are, or a cable of its own.
Questions askRunAlong(const Sight& s, const Picked& t)
{
    const Wire* w = s.circuit().wire(t.wire);
    if (!w)
        return std::nullopt;
    std::vector<Choice> choices;
    for (const Route& r : s.circuit().routes)
        if (r.id != w->route)
            choices.push_back({std::to_string(r.id.value),
                message("offer.route", {r.name, "@" + std::string(kLaid[static_cast<std::size_t>(r.kind)].text)})});
    choices.push_back({"own", message("offer.own_cable")});
    return std::vector{question("along", std::move(choices))};
}

Expected<DossierFile> runAlong(const DossierFile& file, const Sight& s, const Picked& t, const Answers& a)
{
    const std::string along = answerTo(a, "along");
    if (along != "own") {
        for (const Route& r : s.circuit().routes)
            if (std::to_string(r.id.value) == along)
                return edit::withWireRouted(file, t.wire, r.id);
        return failure(ErrorCode::NotFound, message("edit.no_route"));
    }
    const Wire& wire = *s.circuit().wire(t.wire);
    std::string name = "cable of wire " + wire.number;
    for (int k = 2; edit::routeNamed(s.circuit(), name); ++k)
        name = "cable " + std::to_string(k) + " of wire " + wire.number;
    const DossierFile with = edit::withRoute(file, name, RouteKind::Cable);
    return edit::withWireRouted(with, t.wire, edit::routeNamed(with.dossier.circuit, name));
}

Questions askLay(const Sight& s, const Picked& t)
{
    const Wire* w = s.circuit().wire(t.wire);
    const Route* route = w ? s.circuit().route(w->route) : nullptr;
    if (!route)
        return std::nullopt;
    Question laid = question("laid", waysToLay());
    laid.preset = std::string(routeWord(route->kind));
    return std::vector{laid};
}

Expected<DossierFile> lay(const DossierFile& file, const Sight& s, const Picked& t, const Answers& a)
{
    return edit::withRouteLaid(file, s.circuit().wire(t.wire)->route, routeNamed(answerTo(a, "laid")));
}

/// Where a wire is selected: everything that hangs below its net.
Questions askSeriesHere(const Sight& s, const Picked& t)
{
    const Wire* w = s.circuit().wire(t.wire);
    if (!w)
        return std::nullopt;
    const int net = s.netOf(w->from);
    const auto below = s.upperEndsOn(net);
    if (s.isRail(net) || below.empty()
        || below.size() == s.graph().nets[static_cast<std::size_t>(net)].terminals.size())
        return std::nullopt;
    return std::vector{whatQuestion(s, "new push_button opening")};
}

Expected<DossierFile> seriesHere(const DossierFile& file, const Sight& s, const Picked& t, const Answers& a)
{
    return inSeriesAt(file, s.upperEndsOn(s.netOf(s.circuit().wire(t.wire)->from)), answerTo(a, "what"));
}

Questions askNewWire(const Sight& s, const Picked& t)
{
    if (t.wire || s.graph().terminals.size() < 2)
        return std::nullopt;
    Question from = question("from", allTerminals(s)), to = question("to", allTerminals(s));
    const Device* d = s.device(t);
    for (const Choice& c : from.choices)
        if (d && c.value.starts_with(d->tag + ":")
            && (t.role.empty() || t.role.ends_with("-" + c.value.substr(d->tag.size() + 1)))) {
            from.preset = c.value;
            break;
        }
    return std::vector{from, to};
}

Expected<DossierFile> newWire(const DossierFile& file, const Sight&, const Picked&, const Answers& a)
{
    const auto from = edit::terminalNamed(file.dossier.circuit, answerTo(a, "from")),
               to = edit::terminalNamed(file.dossier.circuit, answerTo(a, "to"));
    if (!from || !to)
        return Unexpected{from ? to.error() : from.error()};
    return edit::withWireAdded(file, *from, *to);
}

} // namespace

std::vector<Choice> netsBehind(const Sight& sight, const Sighted& element)
{
    std::vector<Choice> choices;
    std::set<int> seen;
    std::deque<Sighted> queue{element};
    while (!queue.empty()) {
        const Sighted e = queue.front();
        queue.pop_front();
        const int net = sight.netOf(e.lower);
        if (!seen.insert(net).second)
            continue;
        const auto name = elementName(sight.circuit(), e.lower.device, e.edge->role);
        choices.push_back({sight.circuit().nameOf(e.lower),
            message(seen.size() == 1 ? "offer.behind_itself" : "offer.behind",
                {sight.graph().nets[static_cast<std::size_t>(net)].name,
                    std::get<std::string>(name.arguments[0]) + " " + e.edge->role})});
        if (sight.isRail(net))
            continue;
        for (const Sighted& next : sight.below(net))
            if (!next.edge->isLoad())
                queue.push_back(next);
    }
    return choices;
}

std::span<const OfferRow> pathOffers()
{
    static constexpr std::array kRows{
        OfferRow{"series_before", 'B', askSeriesBefore, seriesBefore},
        OfferRow{"series_after", 'A', askSeriesAfter, seriesAfter},
        OfferRow{"parallel", 'L', askParallel, parallel},
        OfferRow{"take_out", 'X', askTakeOut, takeOut, About::Path, true},
        OfferRow{"series_here", 'B', askSeriesHere, seriesHere},
        OfferRow{"move_end", 'M', askMoveEnd, moveEnd},
        OfferRow{"run_along", 'R', askRunAlong, runAlong},
        OfferRow{"lay", 'Y', askLay, lay},
        OfferRow{"remove_wire", 'X', askRemoveWire, removeWire, About::Path, true},
        OfferRow{"new_wire", 'W', askNewWire, newWire, About::Device},
    };
    return kRows;
}

} // namespace ts::offers
