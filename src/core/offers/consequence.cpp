#include "core/offers/consequence.h"

#include "core/offers/cutting.h"

#include <algorithm>
#include <map>

namespace ts::offers {
namespace {

using Weight = Meaning::Weight;

class Comparison {
public:
    Comparison(const Circuit& before, const Circuit& after, Structure was, Structure is)
        : m_before(before)
        , m_after(after)
        , m_was(std::move(was))
        , m_is(std::move(is))
    {
    }

    std::vector<Meaning> told()
    {
        tellShorts();
        tellFed();
        tellCuts();
        tellNewLoads();
        tellThings();
        std::stable_sort(
            m_told.begin(), m_told.end(), [](const Meaning& a, const Meaning& b) { return a.weight > b.weight; });
        return std::move(m_told);
    }

private:
    void tell(Weight weight, const char* id, std::vector<Argument> arguments)
    {
        m_told.push_back({weight, message(id, std::move(arguments))});
    }

    bool isThere(const Circuit& c, DeviceId id) const { return c.device(id) != nullptr; }

    /// A load by its tag alone, anything with two terminals in its name with them.
    std::string nameOf(const ElementRef& e) const
    {
        const Device* d = m_after.device(e.device) ? m_after.device(e.device) : m_before.device(e.device);
        return e.role.find('-') == e.role.npos ? d->tag : d->tag + " " + e.role;
    }

    static void append(std::string& list, const std::string& name) { list += (list.empty() ? "" : ", ") + name; }

    void tellShorts()
    {
        for (const auto& pair : m_is.shorts)
            if (!m_was.shorts.contains(pair))
                tell(Weight::Loss, "means.short", {m_after.nameOf(pair.first), m_after.nameOf(pair.second)});
    }

    void tellFed()
    {
        std::string lost, gained;
        for (const ElementRef& load : m_was.fed)
            if (isThere(m_after, load.device) && !m_is.fed.contains(load))
                append(lost, nameOf(load));
        for (const ElementRef& load : m_is.fed)
            if (isThere(m_before, load.device) && !m_was.fed.contains(load))
                append(gained, nameOf(load));
        if (!lost.empty())
            tell(Weight::Loss, "means.not_fed", {lost});
        if (!gained.empty())
            tell(Weight::Change, "means.fed", {gained});
    }

    /// Only loads that are fed before and after: what is told of the others is told above or below.
    bool isInBoth(const ElementRef& load) const { return m_was.fed.contains(load) && m_is.fed.contains(load); }

    void tellCuts()
    {
        std::map<ElementRef, std::string> now, noLonger;
        for (const Cut& cut : m_is.cuts)
            if (!m_was.cuts.contains(cut) && isInBoth(cut.load))
                append(now[cut.contact], nameOf(cut.load));
        for (const Cut& cut : m_was.cuts)
            if (!m_is.cuts.contains(cut) && isInBoth(cut.load))
                append(noLonger[cut.contact], nameOf(cut.load));
        for (const auto& [contact, loads] : noLonger)
            tell(Weight::Loss, "means.no_longer_cuts", {nameOf(contact), loads});
        for (const auto& [contact, loads] : now)
            tell(Weight::Change, "means.cuts", {nameOf(contact), loads});
        // A new opening contact that cuts nothing is worth a word: something leads past it.
        for (const ElementRef& opener : m_is.openers)
            if (!m_was.openers.contains(opener)
                && std::none_of(
                    m_is.cuts.begin(), m_is.cuts.end(), [&](const Cut& cut) { return cut.contact == opener; }))
                tell(Weight::Note, "means.cuts_nothing", {nameOf(opener)});
    }

    void tellNewLoads()
    {
        for (const ElementRef& load : m_is.fed) {
            if (isThere(m_before, load.device))
                continue;
            std::string contacts;
            for (const Cut& cut : m_is.cuts)
                if (cut.load == load)
                    append(contacts, nameOf(cut.contact));
            contacts.empty() ? tell(Weight::Note, "means.always_fed", {nameOf(load)})
                             : tell(Weight::Change, "means.new_load", {nameOf(load), contacts});
        }
    }

    void tellThings()
    {
        std::string come, gone;
        for (const Device& d : m_after.devices)
            if (!isThere(m_before, d.id))
                append(come, d.tag);
        for (const Device& d : m_before.devices)
            if (!isThere(m_after, d.id))
                append(gone, d.tag);
        if (!gone.empty())
            tell(Weight::Note, "means.gone", {gone});
        if (!come.empty())
            tell(Weight::Note, "means.new", {come});
        long long added = 0, removed = 0, moved = 0, renumbered = 0;
        for (const Wire& w : m_after.wires) {
            const Wire* old = m_before.wire(w.id);
            added += !old;
            moved += old && (old->from != w.from || old->to != w.to);
            renumbered += old && old->number != w.number;
        }
        for (const Wire& w : m_before.wires)
            removed += !m_after.wire(w.id);
        for (const auto& [id, count] : {std::pair{"means.wires_new", added}, {"means.wires_moved", moved},
                 {"means.wires_gone", removed}, {"means.wires_renumbered", renumbered}})
            if (count > 0)
                tell(Weight::Note, id, {count});
    }

    const Circuit &m_before, &m_after;
    Structure m_was, m_is;
    std::vector<Meaning> m_told;
};

} // namespace

Expected<std::vector<Meaning>> meaningOf(const Circuit& before, const Circuit& after)
{
    auto was = structureOf(before), is = structureOf(after);
    if (!was || !is)
        return Unexpected{was ? is.error() : was.error()};
    return Comparison(before, after, std::move(*was), std::move(*is)).told();
}

} // namespace ts::offers
