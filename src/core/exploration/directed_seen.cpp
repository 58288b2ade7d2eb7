// What directed runs saw: its words, and of two orders of equal parts what either shows.

#include "core/exploration/directed.h"

#include <algorithm>
#include <array>
#include <iterator>
#include <set>

namespace ts::exploration {

std::string_view nameOf(StartedBy by)
{
    constexpr std::array<std::string_view, 4> names{"return", "reset", "held_at_return", "held_at_reset"};
    return names[static_cast<std::size_t>(by)];
}

void keepShortest(std::vector<ReleaseSeen>& all, ReleaseSeen seen)
{
    const auto same = std::find_if(all.begin(), all.end(), [&](const ReleaseSeen& r) {
        return r.held == seen.held && r.what == seen.what && r.departure == seen.departure;
    });
    if (same == all.end())
        all.push_back(std::move(seen));
    else if (seen.said.size() < same->said.size())
        same->said = std::move(seen.said);
}

Directed merged(Directed a, const Directed& b)
{
    for (const StartSeen& s : b.starts)
        if (std::none_of(a.starts.begin(), a.starts.end(), [&](const StartSeen& o) {
                return o.motor == s.motor && o.what == s.what && o.departure == s.departure && o.by == s.by;
            }))
            a.starts.push_back(s);
    for (const ReleaseSeen& r : b.releases)
        keepShortest(a.releases, r);
    for (const RaceSeen& r : b.races)
        if (std::none_of(a.races.begin(), a.races.end(),
                [&](const RaceSeen& o) { return o.first == r.first && o.second == r.second; }))
            a.races.push_back(r);
    for (const RunsWithoutLine& l : b.lines)
        if (std::none_of(a.lines.begin(), a.lines.end(), [&](const RunsWithoutLine& o) {
                return o.motor == l.motor && o.line == l.line && o.isStartHeld == l.isStartHeld;
            }))
            a.lines.push_back(l);
    for (std::size_t k = 0; k < a.stops.size(); ++k) { // of the same devices
        StopSeen& seen = a.stops[k];
        const StopSeen& other = b.stops[k];
        seen.isLocked = seen.isLocked && other.isLocked;
        if (seen.kept.empty())
            seen.said = other.said;
        std::set<DeviceId> kept(seen.kept.begin(), seen.kept.end()), stopped(seen.stopped.begin(), seen.stopped.end());
        kept.insert(other.kept.begin(), other.kept.end());
        stopped.insert(other.stopped.begin(), other.stopped.end());
        seen.kept.assign(kept.begin(), kept.end());
        seen.stopped.clear();
        std::copy_if(stopped.begin(), stopped.end(), std::back_inserter(seen.stopped),
            [&](DeviceId d) { return !kept.contains(d); });
    }
    std::erase_if(
        a.neverRan, [&](DeviceId d) { return std::find(b.neverRan.begin(), b.neverRan.end(), d) == b.neverRan.end(); });
    a.situations += b.situations;
    a.runs += b.runs;
    a.leftOut += b.leftOut;
    a.undecided += b.undecided;
    a.undecidedFreely += b.undecidedFreely;
    if (a.undecidedSaid.empty())
        a.undecidedSaid = b.undecidedSaid;
    return a;
}

} // namespace ts::exploration
