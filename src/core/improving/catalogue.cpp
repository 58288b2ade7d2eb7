// The catalogue of changes. Each one is carried out on whatever file it is given, so that two can follow each other.

#include "core/edit/circuit_edits.h"
#include "core/edit/device_edits.h"
#include "core/edit/exclusion_edits.h"
#include "core/edit/function_edits.h"
#include "core/edit/own_output.h"
#include "core/edit/second_contactor.h"
#include "core/edit/wiring_edits.h"
#include "core/improving/improvement.h"
#include "core/library/table.h"
#include "core/offers/offer.h"

#include <algorithm>
#include <map>

namespace ts::improving {
namespace {

constexpr double kFullTestRate = 100; ///< tests for each demand. Source: ISO 13849-1 clause 6.2.5
constexpr const char* kDirect = "output.direct";

/// The claim's subsystem changed by a function of it.
template <class ChangeIt>
Expected<DossierFile> withSubsystem(
    const DossierFile& file, FunctionId function, std::size_t subsystem, const ChangeIt& change)
{
    const SafetyFunction* f = file.dossier.function(function);
    if (!f || subsystem >= f->claim.size())
        return failure(ErrorCode::NotFound, message("edit.no_function"));
    SafetyFunction changed = *f;
    change(changed.claim[subsystem]);
    auto dossier = edit::withFunctionChanged(file.dossier, changed);
    if (!dossier)
        return Unexpected{dossier.error()};
    DossierFile out = file;
    out.dossier = std::move(*dossier);
    return out;
}

void claimMeasure(ClaimedSubsystem& s, DeviceId device, const char* measure, double dc)
{
    for (ClaimedChannel& c : s.channels)
        for (ClaimedPart& p : c.parts)
            if (p.device == device) {
                p.measure = measure;
                p.dc = dc;
            }
}

class Catalogue {
public:
    Catalogue(const DossierFile& file, const SafetyFunction& function, const FaultAnalysis* built)
        : m_file(file)
        , m_function(function)
        , m_built(built)
    {
    }

    std::vector<Change> listed()
    {
        for (std::size_t k = 0; k < m_function.claim.size(); ++k)
            if (!m_function.claim[k].encapsulated)
                addFor(k, m_function.claim[k]);
        return std::move(m_list);
    }

private:
    const Circuit& circuit() const { return m_file.dossier.circuit; }

    Change& add(std::string id, Effort effort, std::vector<Argument> words, bool changesCircuit,
        std::function<Expected<DossierFile>(const DossierFile&)> carriedOut)
    {
        Change& c = m_list.emplace_back();
        c.id = std::move(id);
        c.effort = effort;
        c.words = std::move(words);
        c.changesCircuit = changesCircuit;
        c.subsystem = m_subsystem;
        c.carriedOut = std::move(carriedOut);
        return c;
    }

    void addFor(std::size_t k, const ClaimedSubsystem& s)
    {
        m_subsystem = k;
        addAnswers(k, s);
        addCategories(k, s);
        for (DeviceId device : devicesOf(s)) {
            addMonitoring(k, s, device);
            addParts(s, device);
            addMonitoredBlock(k, s, device);
            addLessUse(k, s, device);
        }
        addSeparateCable(s);
        addOwnOutput(k, s);
        addTestRate(k, s);
        addSecondContactor(k, s);
        addExclusions(k, s);
    }

    /// Faults that nothing notices, or that lose the function alone, where ISO 13849-2 lets them be excluded: of one
    /// device together, by their table and its condition, which somebody has to confirm.
    void addExclusions(std::size_t k, const ClaimedSubsystem& s)
    {
        if (!m_built || k >= m_built->built.subsystems.size())
            return;
        std::map<std::string, std::vector<int>> byGroup;
        const auto note = [&](int fault) {
            const faults::SweptFault& f = m_built->sweep.faults[static_cast<std::size_t>(fault)];
            if (!f.table.empty() && !f.isExcluded
                && std::find(byGroup[f.group].begin(), byGroup[f.group].end(), fault) == byGroup[f.group].end())
                byGroup[f.group].push_back(fault);
        };
        for (const auto& channel : m_built->built.subsystems[k].channels)
            for (const faults::PartCoverage& p : channel)
                std::for_each(p.uncovered.begin(), p.uncovered.end(), note);
        std::for_each(
            m_built->built.subsystems[k].verdict.alone.begin(), m_built->built.subsystems[k].verdict.alone.end(), note);
        for (const auto& [group, faults] : byGroup) {
            if (faults.empty())
                continue;
            std::vector<FaultExclusion> exclusions;
            Phrases said;
            std::string table;
            for (int f : faults) {
                const faults::SweptFault& fault = m_built->sweep.faults[static_cast<std::size_t>(f)];
                exclusions.push_back(
                    {fault.id, "ISO 13849-2 table " + fault.table + ": " + fault.condition + "; to be confirmed"});
                said.push_back(faults::messageOf(fault, circuit()));
                table = fault.table;
            }
            Change& change = add(
                "exclude", Effort::Answer, {s.name, said, table}, false, [exclusions](const DossierFile& file) {
                    DossierFile out = file;
                    for (const FaultExclusion& e : exclusions)
                        if (auto with = edit::withExclusion(out.dossier, e))
                            out.dossier = std::move(*with);
                    return Expected<DossierFile>(std::move(out));
                });
            for (const FaultExclusion& e : exclusions)
                change.excludes.push_back(e.fault);
        }
    }

    static std::vector<DeviceId> devicesOf(const ClaimedSubsystem& s)
    {
        std::vector<DeviceId> devices;
        for (const ClaimedChannel& c : s.channels)
            for (const ClaimedPart& p : c.parts)
                if (std::find(devices.begin(), devices.end(), p.device) == devices.end())
                    devices.push_back(p.device);
        return devices;
    }

    std::string tagOf(DeviceId id) const
    {
        const Device* d = circuit().device(id);
        return d ? d->tag : "?";
    }

    /// Measures against common cause that are not answered.
    void addAnswers(std::size_t k, const ClaimedSubsystem& s)
    {
        const Table& table = ccfMeasuresTable();
        for (std::size_t row = 0; row < table.rowCount(); ++row) {
            const std::string id(table.cell(row, "id"));
            if (std::find(s.ccfAnswers.begin(), s.ccfAnswers.end(), id) == s.ccfAnswers.end())
                add("answer", Effort::Answer,
                    {s.name, std::string(table.cell(row, "measure")),
                        static_cast<long long>(table.number(row, "points").value_or(0))},
                    false, [f = m_function.id, k, id](const DossierFile& file) {
                        return withSubsystem(file, f, k, [&id](ClaimedSubsystem& x) { x.ccfAnswers.push_back(id); });
                    });
        }
    }

    /// A category is only claimed anew where the wiring was tried and has it: a change of paper alone is no answer.
    bool isBuiltAs(const ClaimedSubsystem& s, safety::Category category) const
    {
        return m_built
            && std::any_of(m_built->compared.begin(), m_built->compared.end(), [&](const ComparedSubsystem& c) {
                   return c.name == s.name && c.isKnown && c.category && *c.category >= category;
               });
    }

    void addCategories(std::size_t k, const ClaimedSubsystem& s)
    {
        using safety::Category;
        for (const Category category : {Category::One, Category::Three, Category::Four})
            if (s.category != category && (s.channels.size() == 2) == (category != Category::One)
                && isBuiltAs(s, category))
                add("category", Effort::Answer, {s.name, std::string(safety::nameOf(category))}, false,
                    [f = m_function.id, k, category](const DossierFile& file) {
                        return withSubsystem(file, f, k, [category](ClaimedSubsystem& x) {
                            x.category = category;
                            x.wellTried = x.wellTried || x.category == Category::One;
                        });
                    });
    }

    /// Coverage as built of a device in this claim; none without a sweep.
    const faults::PartCoverage* builtOf(std::size_t k, DeviceId device) const
    {
        if (!m_built || k >= m_built->built.subsystems.size())
            return nullptr;
        for (const auto& channel : m_built->built.subsystems[k].channels)
            for (const faults::PartCoverage& p : channel)
                if (p.device == device)
                    return &p;
        return nullptr;
    }

    bool isClaimedBelow(const ClaimedSubsystem& s, DeviceId device, double dc) const
    {
        return std::any_of(s.channels.begin(), s.channels.end(), [&](const ClaimedChannel& c) {
            return std::any_of(c.parts.begin(), c.parts.end(),
                [&](const ClaimedPart& p) { return p.device == device && p.dc < dc - 1e-9; });
        });
    }

    /// A contactor's opening contact in a feedback circuit: wired already and only to be claimed, or to be wired.
    void addMonitoring(std::size_t k, const ClaimedSubsystem& s, DeviceId device)
    {
        const faults::PartCoverage* built = builtOf(k, device);
        const bool isWired = built && built->built && built->uncovered.empty();
        if (isWired && isClaimedBelow(s, device, 0.99))
            add("measure", Effort::Answer, {s.name, tagOf(device)}, false,
                [f = m_function.id, k, device](const DossierFile& file) {
                    return withSubsystem(
                        file, f, k, [device](ClaimedSubsystem& x) { claimMeasure(x, device, kDirect, 0.99); });
                });
        if (isWired)
            return;
        for (const offers::Offer& o : offers::offersFor(m_file.dossier, {device, {}, {}}))
            if (o.id == "feedback_add")
                for (const offers::Choice& loop : o.questions.front().choices)
                    add("feedback", Effort::Wires, {s.name, tagOf(device), loop.value}, true,
                        [f = m_function.id, k, device, answers = offers::Answers{{o.questions.front().id, loop.value}}](
                            const DossierFile& file) {
                            const auto wired = offers::carriedOut(file, {device, {}, {}}, "feedback_add", answers);
                            if (!wired)
                                return wired;
                            return withSubsystem(*wired, f, k,
                                [device](ClaimedSubsystem& x) { claimMeasure(x, device, kDirect, 0.99); });
                        })
                        .watched = {device};
    }

    void addParts(const ClaimedSubsystem& s, DeviceId id)
    {
        const Device* device = circuit().device(id);
        const Reliability* now = device ? circuit().reliabilityOf(*device) : nullptr;
        if (!now || device->reliability)
            return;
        for (const Part& part : circuit().parts)
            if (part.kind == device->kind && part.id != device->part && part.reliability && part.reliability->b10dCycles
                && now->b10dCycles && *part.reliability->b10dCycles > *now->b10dCycles)
                add("other_part", Effort::Part, {s.name, device->tag, part.name}, true,
                    [id, part = part.id](const DossierFile& file) { return edit::withPartOf(file, id, part); });
    }

    /// Contacts whose block can come off and leave them closed.
    void addMonitoredBlock(std::size_t k, const ClaimedSubsystem& s, DeviceId device)
    {
        if (!offers::carriedOut(m_file, {device, {}, {}}, "monitored_block", {}))
            return;
        add("monitored_block", Effort::Part, {s.name, tagOf(device)}, true, [device](const DossierFile& file) {
            return offers::carriedOut(file, {device, {}, {}}, "monitored_block", {});
        }).defeats = aloneFaults(k, [tag = tagOf(device)](const faults::SweptFault& f) {
            return f.group == tag && f.mode == "fallen_off";
        });
    }

    void addLessUse(std::size_t k, const ClaimedSubsystem& s, DeviceId device)
    {
        add("fewer_operations", Effort::Use, {s.name, tagOf(device)}, false,
            [f = m_function.id, k, device](const DossierFile& file) {
                return withSubsystem(file, f, k, [device](ClaimedSubsystem& x) {
                    for (ClaimedChannel& c : x.channels)
                        for (ClaimedPart& p : c.parts)
                            if (p.device == device) {
                                if (p.operationsPerYear)
                                    *p.operationsPerYear /= 2.0;
                                if (p.secondsPerCycle)
                                    *p.secondsPerCycle *= 2.0;
                            }
                });
            });
    }

    /// One channel that ends in a contactor: a second one behind it, both watched where there is a feedback circuit,
    /// claimed as category 3.
    void addSecondContactor(std::size_t k, const ClaimedSubsystem& s)
    {
        if (s.channels.size() != 1 || s.channels.front().parts.empty())
            return;
        const DeviceId first = s.channels.front().parts.back().device;
        if (!edit::withContactorInSeries(m_file, first))
            return;
        Change& change = add("second_contactor", Effort::Device, {s.name, tagOf(first)}, true,
            [f = m_function.id, k, first](const DossierFile& file) {
                auto changed = edit::withContactorInSeries(file, first);
                if (!changed)
                    return changed;
                const DeviceId second = changed->dossier.circuit.devices.back().id;
                bool isWatched = true;
                for (DeviceId device : {first, second})
                    isWatched = addFeedback(*changed, device) && isWatched;
                return withSubsystem(*changed, f, k, [&](ClaimedSubsystem& x) {
                    x.channels.push_back(x.channels.front());
                    for (ClaimedPart& p : x.channels.back().parts)
                        if (p.device == first)
                            p.device = second;
                    x.category = safety::Category::Three;
                    for (DeviceId device : {first, second})
                        if (isWatched)
                            claimMeasure(x, device, kDirect, 0.99);
                });
            });
        change.watched = {first};
        change.defeats = aloneFaults(
            k, [tag = tagOf(first)](const faults::SweptFault& fault) { return fault.group == tag; });
    }

    /// Faults that lose the function alone, as built, of one sort.
    std::vector<std::string> aloneFaults(
        std::size_t k, const std::function<bool(const faults::SweptFault&)>& isMeant) const
    {
        std::vector<std::string> ids;
        if (m_built && k < m_built->built.subsystems.size())
            for (int fault : m_built->built.subsystems[k].verdict.alone)
                if (const faults::SweptFault& f = m_built->sweep.faults[static_cast<std::size_t>(fault)]; isMeant(f))
                    ids.push_back(f.id);
        return ids;
    }

    /// Two channels whose contactors hang on one output: a short of its wire to a live one holds both.
    void addOwnOutput(std::size_t k, const ClaimedSubsystem& s)
    {
        if (s.channels.size() != 2)
            return;
        for (DeviceId device : devicesOf(s)) {
            if (!edit::withOwnOutput(m_file, device))
                continue;
            Change& change = add("own_output", Effort::Wires, {s.name, tagOf(device)}, true,
                [device](const DossierFile& file) { return edit::withOwnOutput(file, device); });
            change.apart = devicesOf(s);
            change.defeats = aloneFaults(k, [device](const faults::SweptFault& f) {
                return f.family == faults::Family::Short
                    && std::find(f.devices.begin(), f.devices.end(), device) != f.devices.end();
            });
        }
    }

    /// Category 2: a hundred tests for each demand, where it is tested more rarely.
    void addTestRate(std::size_t k, const ClaimedSubsystem& s)
    {
        if (s.category != safety::Category::Two || !s.test || !s.test->testsPerDemand
            || *s.test->testsPerDemand >= kFullTestRate)
            return;
        add("test_rate", Effort::Use, {s.name, Measured{*s.test->testsPerDemand, ""}, Measured{kFullTestRate, ""}},
            false, [f = m_function.id, k](const DossierFile& file) {
                return withSubsystem(file, f, k, [](ClaimedSubsystem& x) {
                    if (x.test)
                        x.test->testsPerDemand = kFullTestRate;
                });
            });
    }

    /// The device's opening contact in the first feedback circuit there is. False if there is none.
    static bool addFeedback(DossierFile& file, DeviceId device)
    {
        for (const offers::Offer& o : offers::offersFor(file.dossier, {device, {}, {}}))
            if (o.id == "feedback_add" && !o.questions.front().choices.empty()) {
                const auto wired = offers::carriedOut(file, {device, {}, {}}, o.id, offers::presetsOf(o));
                if (wired)
                    file = *wired;
                return wired.has_value();
            }
        return false;
    }

    /// Cores of one cable that bring both channels of the subsystem: the second channel's wires into a cable of their
    /// own.
    void addSeparateCable(const ClaimedSubsystem& s)
    {
        if (s.channels.size() != 2)
            return;
        const auto wiresIn = [&](const ClaimedChannel& c, RouteId route) {
            std::vector<WireId> wires;
            for (const Wire& w : circuit().wires)
                if (w.route == route
                    && std::any_of(c.parts.begin(), c.parts.end(), [&](const ClaimedPart& p) { return belongs(w, p); }))
                    wires.push_back(w.id);
            return wires;
        };
        for (const Route& route : circuit().routes) {
            const std::vector<WireId> second = wiresIn(s.channels[1], route.id);
            if (route.kind == RouteKind::Enclosure || second.empty() || wiresIn(s.channels[0], route.id).empty())
                continue;
            add("separate_cable", Effort::Wires, {s.name, s.channels[1].name, route.name}, true,
                [second, name = route.name + ", second channel"](const DossierFile& file) {
                    Expected<DossierFile> changed = edit::withRoute(file, name, RouteKind::Cable);
                    for (WireId w : second)
                        if (changed)
                            changed = edit::withWireRouted(
                                *changed, w, edit::routeNamed(changed->dossier.circuit, name));
                    return changed;
                });
        }
    }

    /// A wire on a terminal of the part's contact ("11-12").
    static bool belongs(const Wire& w, const ClaimedPart& p)
    {
        const auto isOn = [&](const TerminalRef& t) {
            if (t.device != p.device)
                return false;
            const std::string dash = t.marking + "-", after = "-" + t.marking;
            return p.element.starts_with(dash) || p.element.ends_with(after);
        };
        return isOn(w.from) || isOn(w.to);
    }

    const DossierFile& m_file;
    const SafetyFunction& m_function;
    const FaultAnalysis* m_built;
    std::size_t m_subsystem = 0; ///< the one at hand
    std::vector<Change> m_list;
};

} // namespace

std::vector<Change> catalogueOf(const DossierFile& file, const SafetyFunction& function, const FaultAnalysis* built)
{
    return Catalogue(file, function, built).listed();
}

} // namespace ts::improving
