#include "core/library/kinds/build.h"

#include "core/base/check.h"

namespace ts::kinds {

int addTerminal(Body& body, std::string marking, bool inner)
{
    body.terminals.push_back({std::move(marking), inner, false});
    return static_cast<int>(body.terminals.size()) - 1;
}

std::string poleName(int pole)
{
    return std::to_string(2 * pole + 1) + "-" + std::to_string(2 * pole + 2);
}

int terminalOf(const Body& body, std::string_view marking)
{
    for (std::size_t i = 0; i < body.terminals.size(); ++i)
        if (body.terminals[i].marking == marking)
            return static_cast<int>(i);
    return -1;
}

int sharedTerminal(Body& body, std::string_view marking)
{
    const int existing = terminalOf(body, marking);
    return existing >= 0 ? existing : addTerminal(body, std::string(marking));
}

int addContact(Body& body, std::string_view pair, ContactElement contact)
{
    const std::size_t dash = pair.find('-');
    TS_CHECK(dash != pair.npos);
    Element e;
    e.role = pair;
    e.terminals[0] = sharedTerminal(body, pair.substr(0, dash));
    e.terminals[1] = sharedTerminal(body, pair.substr(dash + 1));
    e.what = contact;
    body.elements.push_back(e);
    return static_cast<int>(body.elements.size()) - 1;
}

Expected<std::pair<std::string, std::string>> markingsOf(std::string_view pair, std::string_view tag)
{
    const std::size_t dash = pair.find('-');
    if (dash == pair.npos || dash == 0 || dash + 1 == pair.size() || pair.find('-', dash + 1) != pair.npos
        || pair.find(':') != pair.npos || pair.size() > 24 || pair.substr(0, dash) == pair.substr(dash + 1))
        return failure(ErrorCode::Refused, message("kind.not_a_pair", {std::string(tag), std::string(pair)}));
    return std::pair{std::string(pair.substr(0, dash)), std::string(pair.substr(dash + 1))};
}

Expected<ContactKind> contactKindOf(std::string_view pair, std::string_view tag)
{
    const auto markings = markingsOf(pair, tag);
    if (!markings)
        return Unexpected{markings.error()};
    const char first = markings->first.back(), second = markings->second.back();
    if ((first == '1' && second == '2') || (first == '5' && second == '6'))
        return ContactKind::NormallyClosed;
    if ((first == '3' && second == '4') || (first == '7' && second == '8'))
        return ContactKind::NormallyOpen;
    return failure(ErrorCode::Refused, message("kind.contact_numbering", {std::string(tag), std::string(pair)}));
}

ContactElement contactOf(int mover, ContactKind kind, bool linked)
{
    const bool closing = kind == ContactKind::NormallyOpen;
    return {kind, mover, closing ? kActuated : kAtRest, linked && closing};
}

namespace {

/// "5-6" and "closes" of "5-6/closes": what a contact does, whatever its numbers say.
std::pair<std::string, std::optional<std::string>> splitAtSlash(const std::string& name)
{
    const std::size_t slash = name.find('/');
    return slash == name.npos ? std::pair{name, std::optional<std::string>()}
                              : std::pair{name.substr(0, slash), std::optional(name.substr(slash + 1))};
}

Expected<ContactKind> saidKind(const std::string& pair, const std::string& said, std::string_view tag)
{
    if (const auto markings = markingsOf(pair, tag); !markings)
        return Unexpected{markings.error()};
    if (said == "unknown") // by its digits, else closing, until somebody has measured; a check says so
        return contactKindOf(pair, tag).value_or(ContactKind::NormallyOpen);
    if (said == "opens" || said == "nc")
        return ContactKind::NormallyClosed;
    if (said == "closes" || said == "no")
        return ContactKind::NormallyOpen;
    return failure(ErrorCode::Refused, message("kind.contact_effect", {std::string(tag), pair + "/" + said}));
}

} // namespace

Expected<void> addContacts(Body& body, const std::vector<std::string>& names, std::string_view tag,
    const std::function<ContactElement(ContactKind)>& made)
{
    constexpr std::size_t kMost = 24;
    const auto refuse = [&](const char* id, const std::string& name) {
        return failure(ErrorCode::Refused, message(id, {std::string(tag), name}));
    };
    if (names.size() > kMost)
        return refuse("kind.contact_count", "");
    const auto isThere = [&](std::string_view marking) { return terminalOf(body, marking) >= 0; };
    for (const std::string& name : names) {
        const auto [pair, said] = splitAtSlash(name);
        const std::size_t first = pair.find('-'), last = pair.rfind('-');
        if (first != last) {
            const std::string common = pair.substr(0, first), opening = pair.substr(first + 1, last - first - 1),
                              closing = pair.substr(last + 1);
            if (common.empty() || opening.empty() || closing.empty() || opening.find('-') != opening.npos)
                return refuse("kind.not_a_pair", name);
            const std::string digits{common.back(), opening.back(), closing.back()};
            if (said ? *said != "co" : digits != "124" && digits != "568")
                return refuse("kind.contact_numbering", name);
            if (isThere(common) || isThere(opening) || isThere(closing))
                return refuse("kind.contact_twice", name);
            addContact(body, common + "-" + opening, made(ContactKind::NormallyClosed));
            addContact(body, common + "-" + closing, made(ContactKind::NormallyOpen));
            continue;
        }
        const auto kind = said ? saidKind(pair, *said, tag) : contactKindOf(pair, tag);
        if (!kind)
            return Unexpected{kind.error()};
        if (isThere(pair.substr(0, first)) || isThere(pair.substr(first + 1)))
            return refuse("kind.contact_twice", name);
        addContact(body, pair, made(*kind));
    }
    return {};
}

int addTwoPole(Body& b, std::string role, int p, int q, decltype(Element::what) what)
{
    Element e;
    e.role = std::move(role);
    e.terminals[0] = p;
    e.terminals[1] = q;
    e.what = std::move(what);
    b.elements.push_back(std::move(e));
    return static_cast<int>(b.elements.size()) - 1;
}

void joinInside(Body& b, int p, int q)
{
    addTwoPole(b, "", p, q, ContactElement{ContactKind::Pole});
}

int addSupply(Body& b, double voltageV, double powerW, std::string_view first, std::string_view second)
{
    const int p = addTerminal(b, std::string(first)), q = addTerminal(b, std::string(second));
    return addTwoPole(b, "supply", p, q, SenseElement{voltageV * voltageV / powerW, SenseElement::Use::Supply});
}

double timed(const DefaultRow& row, Timing timing)
{
    return timing == Timing::Fast ? row.low : timing == Timing::Slow ? row.high : row.nominal;
}

double timedParameter(const Parameters& p, std::string_view name, const DefaultRow& row, Timing timing)
{
    return p.isWritten(name) ? p.number(name) : timed(row, timing);
}

} // namespace ts::kinds
