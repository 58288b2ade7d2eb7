#include "wording/path_words.h"

#include "core/faults/structure.h"
#include "core/safety/shared_means.h"
#include "wording/fault_texts.h"
#include "wording/level_pictures.h"
#include "wording/wording.h"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <map>
#include <set>

namespace ts::wording {
namespace {

using figures::Knot;
using Stage = PathKnot::Stage;

/// "9.1e-10"
std::string shortNumber(double value)
{
    std::string text = fmt::format("{:.1e}", value);
    if (const auto sign = text.find('e'); sign + 2 < text.size() && text[sign + 2] == '0')
        text.erase(sign + 2, 1);
    return text;
}

class PathTeller {
public:
    PathTeller(const Dossier& dossier, const SafetyFunction& function, const safety::FunctionLevel& level,
        const FunctionPath& path, const FaultAnalysis* built, const FunctionResult* stops)
        : m_dossier(dossier)
        , m_function(function)
        , m_level(level)
        , m_path(path)
        , m_built(built)
        , m_stops(stops)
    {
    }

    figures::PathContent told()
    {
        const auto shares = partShares(m_level);
        double whole = 0;
        for (const PartShare& s : shares)
            whole += s.pfhdPerHour;
        for (const PathKnot& k : m_path.knots)
            m_content.knots.push_back(knotOf(k, shares, whole));
        for (const PathWay& w : m_path.ways)
            m_content.ways.push_back({w.from, w.to, w.isPower});
        for (const PathWatch& w : m_path.watches)
            m_content.watches.push_back({w.from, w.by});
        m_content.columns = m_path.columns;
        addHeadings();
        for (std::size_t s = 0; s < m_function.claim.size(); ++s)
            addShortfall(s);
        return std::move(m_content);
    }

private:
    const Device* deviceOf(const PathKnot& k) const { return m_dossier.circuit.device(k.device); }

    const ClaimedPart* partOf(const KnotUse& use) const
    {
        if (use.channel < 0 || use.subsystem >= m_function.claim.size())
            return nullptr;
        const ClaimedSubsystem& s = m_function.claim[use.subsystem];
        const auto& parts = use.isTest ? s.test->equipment.parts
                                       : s.channels[static_cast<std::size_t>(use.channel)].parts;
        return use.part < parts.size() ? &parts[use.part] : nullptr;
    }

    /// The worst that one of its faults does by itself.
    Knot::State stateOf(const PathKnot& k) const
    {
        if (!m_built)
            return Knot::State::Untried;
        Knot::State worst = Knot::State::NoPart;
        for (std::size_t f = 0; f < m_built->sweep.faults.size() && f < m_built->sweep.outcomes.size(); ++f) {
            const faults::SweptFault& fault = m_built->sweep.faults[f];
            const bool isOfIt = !fault.isExcluded && std::any_of(k.uses.begin(), k.uses.end(), [&](const KnotUse& use) {
                const ClaimedPart* part = partOf(use);
                return part && faults::isOfPart(fault, *part);
            });
            if (!isOfIt)
                continue;
            switch (m_built->sweep.outcomes[f].overall) {
            case faults::Outcome::Lost:
            case faults::Outcome::Undecided:
                return Knot::State::Lost;
            case faults::Outcome::Hidden:
                worst = Knot::State::Hidden;
                break;
            case faults::Outcome::Caught:
                worst = std::max(worst, Knot::State::Noticed);
                break;
            default:
                if (faults::fileWord(m_built->sweep.outcomes[f]) == "stops") // it is seen, and no second one follows it
                    worst = std::max(worst, Knot::State::Noticed);
                break;
            }
        }
        return worst;
    }

    std::string stopWords(const std::string& tag) const
    {
        if (!m_stops || !m_stops->nominal)
            return {};
        for (const safety::ActuatorStop& a : m_stops->nominal->actuators) {
            if (a.tag != tag)
                continue;
            const std::string category = a.category ? std::to_string(*a.category) : said("skyline.none");
            return a.restAfter ? said("skyline.stop_facts", {category, Measured{a.restAfter->si(), "s"}})
                               : said("skyline.stop_category", {category});
        }
        return {};
    }

    Knot knotOf(const PathKnot& k, const std::vector<PartShare>& shares, double whole) const
    {
        const Device* device = deviceOf(k);
        Knot knot;
        knot.column = k.column;
        knot.name = device ? device->tag : "?";
        knot.isRound = k.stage == Stage::Rests;
        knot.isOutside = k.uses.empty() && k.stage != Stage::Rests;
        const bool isByItsSheet = !k.uses.empty() && k.uses.front().channel < 0;
        knot.hasState = !k.uses.empty() && !isByItsSheet;
        const std::string label = device ? device->label : std::string();
        knot.about = isByItsSheet ? said("path.by_sheet") : k.element.empty() ? label : elementWords(k.element);
        knot.words = knot.name + (knot.about.empty() ? "" : " " + knot.about);
        if (knot.isRound)
            knot.value = stopWords(knot.name);
        double pfhd = 0;
        bool isKnown = false;
        for (const PartShare& s : shares)
            for (const KnotUse& use : k.uses)
                if (!use.isTest && s.subsystem == use.subsystem && s.channel == use.channel && s.part == use.part) {
                    pfhd += s.pfhdPerHour;
                    isKnown = true;
                }
        if (isKnown) {
            knot.value = shortNumber(pfhd);
            knot.share = whole > 0 ? pfhd / whole : 0.0;
            knot.words += ": " + said("path.brings", {Measured{pfhd, "1/h"}, Measured{knot.share, "%"}});
        } else if (!knot.isRound && !knot.isOutside)
            knot.value = said("path.no_number");
        if (knot.hasState) {
            knot.state = stateOf(k);
            knot.words += "; " + pathWords().states[static_cast<std::size_t>(knot.state)];
        }
        if (knot.isOutside && k.stage != Stage::Demands)
            knot.words += "; " + said("path.outside");
        knot.isOutside = knot.isOutside && k.stage != Stage::Demands;
        if (knot.isRound && !knot.value.empty())
            knot.words += ": " + knot.value;
        return knot;
    }

    void addHeadings()
    {
        static constexpr std::array kStages{std::pair{Stage::Demands, "path.demands"},
            std::pair{Stage::Decides, "path.decides"}, std::pair{Stage::Switches, "path.switches"},
            std::pair{Stage::Rests, "path.rests"}};
        for (const auto& [stage, id] : kStages) {
            int first = m_path.columns, last = -1;
            for (const PathKnot& k : m_path.knots)
                if (k.stage == stage) {
                    first = std::min(first, k.column);
                    last = std::max(last, k.column);
                }
            if (last >= 0)
                m_content.headings.push_back({first, last, said(id)});
        }
    }

    /// What speaks against the subsystem: of the claim by itself, else as built.
    std::string missingIn(std::size_t s) const
    {
        if (s < m_level.subsystems.size() && !m_level.subsystems[s].unmet.empty())
            return sentence(m_level.subsystems[s].unmet.front());
        if (!m_built || s >= m_built->built.subsystems.size())
            return {};
        const faults::StructureVerdict& verdict = m_built->built.subsystems[s].verdict;
        const auto category = m_function.claim[s].category;
        const bool claimsMore = category && *category != safety::Category::B && *category != safety::Category::One;
        if (claimsMore && !verdict.alone.empty()) {
            const auto& fault = m_built->sweep.faults[static_cast<std::size_t>(verdict.alone.front())];
            return said(verdict.alone.size() > 1 ? "path.alone_many" : "path.alone",
                {fault.group + ' ' + sweptFaultLabel(fault, m_dossier.circuit),
                    static_cast<long long>(verdict.alone.size() - 1)});
        }
        const auto compared = std::find_if(m_built->compared.begin(), m_built->compared.end(),
            [&](const ComparedSubsystem& c) { return c.name == m_function.claim[s].name; });
        if (compared == m_built->compared.end() || !compared->isKnown || compared->isMet != safety::Met::No)
            return {};
        for (const safety::Condition& c : compared->conditions)
            if (c.met == safety::Met::No)
                return said("path.unmet", {sentence(c.wanted), sentence(c.found)});
        return {};
    }

    void addShortfall(std::size_t subsystem)
    {
        figures::Shortfall s;
        if (m_function.claim[subsystem].encapsulated || !m_function.reliedOnByPerson)
            return;
        s.text = missingIn(subsystem);
        if (s.text.empty())
            return;
        for (std::size_t k = 0; k < m_path.knots.size(); ++k)
            if (std::any_of(m_path.knots[k].uses.begin(), m_path.knots[k].uses.end(),
                    [subsystem](const KnotUse& use) { return use.subsystem == subsystem; }))
                s.knots.push_back(static_cast<int>(k));
        m_content.shortfalls.push_back(std::move(s));
    }

    const Dossier& m_dossier;
    const SafetyFunction& m_function;
    const safety::FunctionLevel& m_level;
    const FunctionPath& m_path;
    const FaultAnalysis* m_built;
    const FunctionResult* m_stops;
    figures::PathContent m_content;
};

} // namespace

figures::PathContent pathContent(const Dossier& dossier, const SafetyFunction& function,
    const safety::FunctionLevel& level, const FunctionPath& path, const FaultAnalysis* built,
    const FunctionResult* stops)
{
    return PathTeller(dossier, function, level, path, built, stops).told();
}

figures::Figure pathFigure(const Dossier& dossier, const SafetyFunction& function, const FunctionResult& result,
    const FunctionPath& path, const FaultAnalysis* built)
{
    return figures::functionPath(
        pathContent(dossier, function, result.level, path, built, &result), pathWords(), 1000, 380);
}

Strand strandOf(const figures::PathContent& content, const FunctionPath& path, std::size_t subsystem)
{
    std::set<int> kept, own;
    for (std::size_t k = 0; k < path.knots.size(); ++k)
        if (std::any_of(path.knots[k].uses.begin(), path.knots[k].uses.end(),
                [subsystem](const KnotUse& use) { return use.subsystem == subsystem; }))
            own.insert(static_cast<int>(k));
    kept = own;
    for (const PathWay& w : path.ways) {
        const bool isOutside = content.knots[static_cast<std::size_t>(w.from)].isOutside
            || content.knots[static_cast<std::size_t>(w.to)].isOutside;
        const bool leadsAway = w.isPower && !own.contains(w.to)
            && !path.knots[static_cast<std::size_t>(w.to)].uses.empty(); // what it feeds besides is another one's
        if (!isOutside && !leadsAway && (own.contains(w.from) || own.contains(w.to)))
            kept.insert({w.from, w.to});
    }
    for (const PathWatch& w : path.watches)
        if (own.contains(w.from))
            kept.insert(w.by);
    std::set<int> columns;
    for (int k : kept)
        columns.insert(content.knots[static_cast<std::size_t>(k)].column);
    Strand strand;
    std::map<int, int> place;
    for (int k : kept) {
        place[k] = static_cast<int>(strand.knots.size());
        strand.knots.push_back(k);
        Knot knot = content.knots[static_cast<std::size_t>(k)];
        knot.column = static_cast<int>(std::distance(columns.begin(), columns.find(knot.column)));
        strand.content.knots.push_back(std::move(knot));
    }
    strand.content.columns = static_cast<int>(columns.size());
    for (const figures::Way& w : content.ways)
        if (place.contains(w.from) && place.contains(w.to) && (own.contains(w.from) || own.contains(w.to)))
            strand.content.ways.push_back({place[w.from], place[w.to], w.isPower});
    for (const figures::Watch& w : content.watches)
        if (own.contains(w.from) && place.contains(w.by))
            strand.content.watches.push_back({place[w.from], place[w.by]});
    return strand;
}

std::string watchWords(const Dossier& dossier, const FunctionPath* path, DeviceId device)
{
    if (!path)
        return {};
    std::string text;
    std::set<std::pair<DeviceId, std::string>> said;
    for (const PathWatch& w : path->watches) {
        const DeviceId by = path->knots[static_cast<std::size_t>(w.by)].device;
        if (path->knots[static_cast<std::size_t>(w.from)].device != device || !said.insert({by, w.contact}).second)
            continue;
        const Device* watcher = dossier.circuit.device(by);
        text += (text.empty() ? "" : "; ") + wording::said("path.watcher", {watcher ? watcher->tag : "?", w.contact});
    }
    for (const PathWay& w : path->ways) { // an input of electronics is looked at all the time
        const PathKnot& by = path->knots[static_cast<std::size_t>(w.to)];
        const bool isInput = !w.isPower && !by.uses.empty() && by.uses.front().channel < 0;
        if (path->knots[static_cast<std::size_t>(w.from)].device != device || !isInput
            || !said.insert({by.device, "input"}).second)
            continue;
        const Device* watcher = dossier.circuit.device(by.device);
        text += (text.empty() ? "" : "; ") + wording::said("path.input", {watcher ? watcher->tag : "?"});
    }
    return text.empty() ? wording::said("path.no_watcher") : text;
}

std::vector<figures::MeansRow> meansRows(const Circuit& circuit, const ClaimedSubsystem& subsystem)
{
    static constexpr std::array kKinds{
        "means.device", "means.part", "means.route", "means.conductor", "means.place"}; // as the enumeration
    std::vector<figures::MeansRow> rows;
    for (const safety::ChannelMeans& m : safety::meansOfChannels(circuit, subsystem))
        rows.push_back({said(kKinds[static_cast<std::size_t>(m.kind)]), m.name, m.isInFirst, m.isInSecond});
    return rows;
}

figures::MeansWords meansWords()
{
    return {said("means.first"), said("means.second"), said("means.shared"), said("means.none")};
}

figures::PathWords pathWords()
{
    return {{said("path.state.untried"), said("path.state.no_part"), said("path.state.noticed"),
                said("path.state.hidden"), said("path.state.lost")},
        said("path.outside"), said("path.watched"), said("path.none")};
}

} // namespace ts::wording
