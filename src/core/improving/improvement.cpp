#include "core/improving/improvement.h"

#include "core/faults/parallel.h"
#include "core/safety/level.h"

#include <algorithm>
#include <set>

namespace ts::improving {
namespace {

using safety::Chain;
using safety::ChainFigures;

/// Places where the wiring was found not to notice what is claimed. A change that wires the device is believed until it is run.
using Unnoticed = std::set<std::pair<std::size_t, DeviceId>>; ///< subsystem, device

Unnoticed unnoticedIn(const SafetyFunction& f, const FaultAnalysis* built)
{
    Unnoticed all;
    if (!built)
        return all;
    for (std::size_t k = 0; k < built->built.subsystems.size() && k < f.claim.size(); ++k)
        for (const auto& channel : built->built.subsystems[k].channels)
            for (const faults::PartCoverage& p : channel)
                if (p.built && !p.uncovered.empty())
                    all.insert({k, p.device});
    return all;
}

/// The claim's figures, with no coverage where nothing notices.
ChainFigures figuresOf(const Dossier& dossier, const SafetyFunction& f, const Unnoticed& unnoticed)
{
    const safety::FunctionLevel level = safety::functionLevel(dossier, f);
    if (!level.chain)
        return {};
    Chain chain = *level.chain;
    for (std::size_t k = 0; k < chain.subsystems.size(); ++k)
        for (auto& channel : chain.subsystems[k].channels)
            for (safety::ChainPart& p : channel)
                if (unnoticed.contains({k, p.device}))
                    p.coverage = 0.0;
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
    Search(const DossierFile& file, const SafetyFunction& function, const FaultAnalysis* built, const Options& options, const std::stop_token& stop)
        : m_file(file)
        , m_function(function)
        , m_built(built)
        , m_options(options)
        , m_stop(stop)
        , m_unnoticed(unnoticedIn(function, built))
        , m_required(safety::levelNamed(function.requiredLevel))
        , m_catalogue(catalogueOf(file, function, built))
    {
    }

    Improved found()
    {
        const ChainFigures now = figuresOf(m_file.dossier, m_function, m_unnoticed);
        m_result.now = now.level;
        m_result.pfhdNow = now.pfhd.si();
        std::vector<std::size_t> single;
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
        Unnoticed unnoticed = m_unnoticed;
        for (std::size_t k : which)
            if (m_catalogue[k].id == "feedback")
                if (const Device* d = m_file.dossier.circuit.device(std::get<std::string>(m_catalogue[k].words[1])))
                    std::erase_if(unnoticed, [d](const auto& u) { return u.second == d->id; });
        const ChainFigures figures = figuresOf(changed->dossier, *f, unnoticed);
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
                return other.changes.size() == 1 && (other.changes[0].words == i.changes[0].words || other.changes[0].words == i.changes[1].words)
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
            if (chosen.size() < m_options.mostRerun && std::any_of(i.changes.begin(), i.changes.end(), [](const Change& c) { return c.changesCircuit; }))
                chosen.push_back(&i);
        const auto job = [&](std::size_t k, Workspace&) { chosen[k]->rerun = rerunOf(*chosen[k]); };
        (void)faults::forEachIndex(chosen.size(), 0, job, m_stop);
    }

    Rerun rerunOf(const Improvement& i) const
    {
        Rerun r;
        const SafetyFunction& f = *i.changed.dossier.function(m_function.id);
        r.stillStops = faults::tryFault(i.changed.dossier, f, firstFault(), m_stop).has_value(); // refused if the healthy circuit loses
        for (const std::string& id : toNotice(i)) {
            ++r.tried;
            const auto tried = faults::tryFault(i.changed.dossier, f, id, m_stop);
            const bool isNoticed = tried && tried->outcome.overall == faults::Outcome::Caught;
            r.noticed += isNoticed;
        }
        return r;
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
            const Device* d = c.id == "feedback" ? m_file.dossier.circuit.device(std::get<std::string>(c.words[1])) : nullptr;
            if (!d || !m_built)
                continue;
            for (const auto& subsystem : m_built->built.subsystems)
                for (const auto& channel : subsystem.channels)
                    for (const faults::PartCoverage& p : channel)
                        for (int k : p.uncovered)
                            if (p.device == d->id)
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
    Unnoticed m_unnoticed;
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

Expected<Improved> improvementsOf(const DossierFile& file, FunctionId function, const FaultAnalysis* built, const Options& options, std::stop_token stop)
{
    const SafetyFunction* f = file.dossier.function(function);
    if (!f)
        return failure(ErrorCode::NotFound, message("edit.no_function"));
    Improved result = Search(file, *f, built, options, stop).found();
    if (stop.stop_requested())
        return failure(ErrorCode::Cancelled, message("run.cancelled"));
    return result;
}

} // namespace ts::improving
