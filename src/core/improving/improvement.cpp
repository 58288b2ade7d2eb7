#include "core/improving/improvement.h"

#include "core/faults/parallel.h"
#include "core/safety/level.h"

#include <algorithm>
#include <map>

namespace ts::improving {
namespace {

using safety::Chain;
using safety::ChainFigures;

/// What the sweep says against the claim, subsystem by subsystem: coverage that is not there, faults that lose it
/// alone, and those that add up.
struct AgainstClaim {
    std::map<std::pair<std::size_t, DeviceId>, std::vector<std::string>> unnoticed; ///< faults by subsystem and device
    std::map<std::size_t, std::vector<std::string>> alone, hidden; ///< faults by subsystem

    /// What is left of it with a change. A change that wires a feedback is believed until it is run.
    void take(const Change& c)
    {
        const auto isIn = [](const std::vector<std::string>& ids, const std::string& id) {
            return std::find(ids.begin(), ids.end(), id) != ids.end();
        };
        const auto isGone = [&](const std::string& id) {
            return isIn(c.excludes, id) || isIn(c.defeats, id);
        }; // what
           // is
           // defeated
           // shows
           // when
           // it is
           // run
           // again
        for (auto& [place, ids] : unnoticed)
            std::erase_if(ids, isGone);
        for (auto* lists : {&alone, &hidden})
            for (auto& [subsystem, ids] : *lists)
                std::erase_if(ids, isGone);
        const auto isWatched = [&c](DeviceId d) {
            return std::find(c.watched.begin(), c.watched.end(), d) != c.watched.end();
        };
        std::erase_if(
            unnoticed, [&](const auto& entry) { return entry.second.empty() || isWatched(entry.first.second); });
        for (auto* lists : {&alone, &hidden})
            std::erase_if(*lists, [](const auto& entry) { return entry.second.empty(); });
    }
};

AgainstClaim againstClaim(const SafetyFunction& f, const FaultAnalysis* built)
{
    AgainstClaim all;
    if (!built)
        return all;
    const auto idOf = [built](int k) { return built->sweep.faults[static_cast<std::size_t>(k)].id; };
    for (std::size_t k = 0; k < built->built.subsystems.size() && k < f.claim.size(); ++k) {
        for (const auto& channel : built->built.subsystems[k].channels)
            for (const faults::PartCoverage& p : channel)
                for (int fault : p.uncovered)
                    if (p.built)
                        all.unnoticed[{k, p.device}].push_back(idOf(fault));
        if (f.claim[k].encapsulated)
            continue;
        const faults::StructureVerdict& verdict = built->built.subsystems[k].verdict;
        for (int fault : verdict.alone)
            all.alone[k].push_back(idOf(fault));
        for (int fault : verdict.hidden)
            all.hidden[k].push_back(idOf(fault));
    }
    return all;
}

/// The claim's figures with no coverage where nothing notices, and with one channel where a single fault loses it.
ChainFigures figuresOf(const Dossier& dossier, const SafetyFunction& f, const AgainstClaim& against)
{
    const safety::FunctionLevel level = safety::functionLevel(dossier, f);
    if (!level.chain)
        return {};
    Chain chain = *level.chain;
    for (std::size_t k = 0; k < chain.subsystems.size(); ++k) {
        safety::ChainSubsystem& s = chain.subsystems[k];
        for (auto& channel : s.channels)
            for (safety::ChainPart& p : channel)
                if (against.unnoticed.contains({k, p.device}))
                    p.coverage = 0.0;
        if (against.hidden.contains(k) && s.category == safety::Category::Four) { // no more than a single fault is
                                                                                  // tolerated
            s.facts.isBuilt = true;
            s.facts.structure = safety::FoundStructure::SingleFaultTolerated;
            s.category = safety::Category::Three;
        }
        if (!against.alone.contains(k))
            continue;
        s.facts.isBuilt = true;
        s.facts.structure = safety::FoundStructure::OneChannel;
        if (s.category >= safety::Category::Two) // no more than one channel is worth
            s.category = s.facts.wellTried ? safety::Category::One : safety::Category::B;
    }
    return safety::figuresOf(chain);
}

bool isBetter(const ChainFigures& a, const ChainFigures& b)
{
    if (a.level != b.level)
        return a.level > b.level; // none is the least
    return a.level && a.pfhd.si() < b.pfhd.si() * (1.0 - 1e-9);
}

class Search {
public:
    Search(const DossierFile& file, const SafetyFunction& function, const FaultAnalysis* built, const Options& options,
        const std::stop_token& stop)
        : m_file(file)
        , m_function(function)
        , m_built(built)
        , m_options(options)
        , m_stop(stop)
        , m_against(againstClaim(function, built))
        , m_required(function.requiredLevel)
        , m_catalogue(catalogueOf(file, function, built))
    {
    }

    Improved found()
    {
        ChainFigures now = figuresOf(m_file.dossier, m_function, m_against);
        if (m_built && m_built->level) // the best category as built, where the claimed one has no level
            now = {perHour(m_built->level->pfhdPerHour), m_built->level->level};
        m_result.now = now.level;
        m_result.pfhdNow = now.pfhd.si();
        for (const auto& [subsystem, ids] : m_against.alone)
            for (const std::string& id : ids)
                m_result.alone.push_back(
                    faults::messageOf(*faults::faultNamed(m_built->sweep.faults, id), m_file.dossier.circuit));
        for (std::size_t a = 0; a < m_catalogue.size() && !m_stop.stop_requested(); ++a)
            tryThese({a}, m_file, now);
        for (std::size_t a = 0; a < m_catalogue.size() && !m_stop.stop_requested(); ++a) {
            const auto first = m_catalogue[a].carriedOut(m_file);
            for (std::size_t b = a + 1; first && b < m_catalogue.size() && !m_stop.stop_requested(); ++b)
                tryThese({a, b}, *first, now);
        }
        rank();
        rerun();
        rank();
        return std::move(m_result);
    }

private:
    /// The last of them carried out on a file that has the others.
    void tryThese(const std::vector<std::size_t>& which, const DossierFile& before, const ChainFigures& now)
    {
        const auto changed = m_catalogue[which.back()].carriedOut(before);
        const SafetyFunction* f = changed ? changed->dossier.function(m_function.id) : nullptr;
        if (!f)
            return;
        ++m_result.combinations;
        AgainstClaim against = m_against;
        for (std::size_t k : which)
            against.take(m_catalogue[k]);
        const ChainFigures figures = figuresOf(changed->dossier, *f, against);
        if (!isBetter(figures, now))
            return;
        Improvement i;
        for (std::size_t k : which)
            i.changes.push_back(m_catalogue[k]);
        i.level = figures.level;
        i.pfhdPerHour = figures.pfhd.si();
        i.reaches = figures.level && m_required && *figures.level >= *m_required;
        // Two that do no more than one of them alone are one too many.
        if (which.size() == 2 && std::any_of(m_result.list.begin(), m_result.list.end(), [&](const Improvement& other) {
                return other.changes.size() == 1
                    && (other.changes[0].words == i.changes[0].words || other.changes[0].words == i.changes[1].words)
                    && (other.reaches || (other.level == i.level && other.pfhdPerHour <= i.pfhdPerHour * (1.0 + 1e-9)));
            }))
            return;
        i.changed = *changed;
        m_result.list.push_back(std::move(i));
    }

    void rank()
    {
        std::stable_sort(m_result.list.begin(), m_result.list.end(), [](const Improvement& a, const Improvement& b) {
            const bool fails = a.rerun && !a.rerun->holds(), otherFails = b.rerun && !b.rerun->holds();
            if (fails != otherFails)
                return otherFails;
            if (a.reaches != b.reaches)
                return a.reaches;
            if (a.effort() != b.effort())
                return a.effort() < b.effort();
            return a.pfhdPerHour < b.pfhdPerHour;
        });
        if (m_result.list.size() > m_options.mostKept)
            m_result.list.resize(m_options.mostKept);
    }

    /// What nothing noticed before, tried on the changed circuits of the best ones.
    void rerun()
    {
        std::vector<Improvement*> chosen;
        for (Improvement& i : m_result.list)
            if (chosen.size() < m_options.mostRerun
                && std::any_of(i.changes.begin(), i.changes.end(), [](const Change& c) { return c.changesCircuit; }))
                chosen.push_back(&i);
        const auto job = [&](std::size_t k, Workspace&) { chosen[k]->rerun = rerunOf(*chosen[k]); };
        (void)faults::forEachIndex(chosen.size(), 0, job, m_stop);
    }

    Rerun rerunOf(const Improvement& i) const
    {
        Rerun r;
        const SafetyFunction& f = *i.changed.dossier.function(m_function.id);
        r.stillStops = faults::tryFault(i.changed.dossier, f, firstFault(), m_stop).has_value(); // refused if the
                                                                                                 // healthy circuit
                                                                                                 // loses
        for (const std::string& id : toNotice(i)) {
            ++r.tried;
            const auto tried = faults::tryFault(i.changed.dossier, f, id, m_stop);
            const bool isMended = tried
                && (tried->outcome.overall == faults::Outcome::Caught
                    || tried->outcome.overall == faults::Outcome::Safe);
            r.mended += isMended;
        }
        for (const std::string& id : shortsOf(i)) {
            ++r.tried;
            const auto tried = faults::tryFault(i.changed.dossier, f, id, m_stop);
            r.mended += tried && tried->outcome.overall != faults::Outcome::Lost
                && tried->outcome.overall != faults::Outcome::Undecided;
        }
        return r;
    }

    /// Shorts of the changed circuit at what was to be kept apart.
    std::vector<std::string> shortsOf(const Improvement& i) const
    {
        std::vector<DeviceId> devices;
        for (const Change& c : i.changes)
            devices.insert(devices.end(), c.apart.begin(), c.apart.end());
        const auto plant = compile(i.changed.dossier.circuit);
        std::vector<std::string> ids;
        if (devices.empty() || !plant)
            return ids;
        for (const faults::SweptFault& f : faults::faultList(*plant, i.changed.dossier))
            if (f.family == faults::Family::Short && !f.isExcluded
                && std::any_of(f.devices.begin(), f.devices.end(),
                    [&](DeviceId d) { return std::find(devices.begin(), devices.end(), d) != devices.end(); }))
                ids.push_back(f.id);
        return ids;
    }

    std::string firstFault() const
    {
        return "wire/" + std::to_string(m_file.dossier.circuit.wires.front().id.value) + ":open";
    }

    /// Faults of the devices that get feedback which nothing notices in the circuit as it is.
    std::vector<std::string> toNotice(const Improvement& i) const
    {
        std::vector<std::string> ids;
        for (const Change& c : i.changes) {
            if (!m_built)
                continue;
            if (c.apart.empty()) // shorts have other names in the changed circuit
                ids.insert(ids.end(), c.defeats.begin(), c.defeats.end());
            for (const auto& subsystem : m_built->built.subsystems)
                for (const auto& channel : subsystem.channels)
                    for (const faults::PartCoverage& p : channel)
                        for (int k : p.uncovered)
                            if (std::find(c.watched.begin(), c.watched.end(), p.device) != c.watched.end())
                                ids.push_back(m_built->sweep.faults[static_cast<std::size_t>(k)].id);
        }
        std::sort(ids.begin(), ids.end());
        ids.erase(std::unique(ids.begin(), ids.end()), ids.end());
        return ids;
    }

    const DossierFile& m_file;
    const SafetyFunction& m_function;
    const FaultAnalysis* m_built;
    Options m_options;
    std::stop_token m_stop;
    AgainstClaim m_against;
    std::optional<safety::Level> m_required;
    std::vector<Change> m_catalogue;
    Improved m_result;
};

} // namespace

int Improvement::effort() const
{
    int sum = 0;
    for (const Change& c : changes)
        sum += static_cast<int>(c.effort);
    return sum;
}

Expected<Improved> improvementsOf(const DossierFile& file, FunctionId function, const FaultAnalysis* built,
    const Options& options, std::stop_token stop)
{
    const SafetyFunction* f = file.dossier.function(function);
    if (!f)
        return failure(ErrorCode::NotFound, message("edit.no_function"));
    Improved result = Search(file, *f, built, options, stop).found();
    if (stop.stop_requested())
        return cancelled();
    return result;
}

} // namespace ts::improving
