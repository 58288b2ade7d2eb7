#include "core/library/kinds/build.h"

#include "core/base/check.h"

namespace ts::kinds {

int addTerminal(Body& body, std::string marking, bool inner)
{
    body.terminals.push_back({std::move(marking), inner, false});
    return static_cast<int>(body.terminals.size()) - 1;
}

int terminalOf(const Body& body, std::string_view marking)
{
    for (std::size_t i = 0; i < body.terminals.size(); ++i)
        if (body.terminals[i].marking == marking)
            return static_cast<int>(i);
    return -1;
}

int addContact(Body& body, std::string_view pair, ContactElement contact)
{
    const std::size_t dash = pair.find('-');
    TS_CHECK(dash != pair.npos);
    const auto terminal = [&](std::string_view marking) {
        const int existing = terminalOf(body, marking);
        return existing >= 0 ? existing : addTerminal(body, std::string(marking));
    };
    Element e;
    e.role = pair;
    e.terminals[0] = terminal(pair.substr(0, dash));
    e.terminals[1] = terminal(pair.substr(dash + 1));
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
    if (first == '1' && second == '2')
        return ContactKind::NormallyClosed;
    if (first == '3' && second == '4')
        return ContactKind::NormallyOpen;
    return failure(ErrorCode::Refused, message("kind.contact_numbering", {std::string(tag), std::string(pair)}));
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
