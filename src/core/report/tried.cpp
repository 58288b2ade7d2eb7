#include "core/report/tried.h"

#include "core/report/scene_svg.h"

#include <fmt/format.h>

#include <algorithm>

namespace ts::report {
namespace {

using exploration::Answer;
using exploration::Explored;
using exploration::InterlockJudged;
using exploration::MotorExplored;
using exploration::Proof;
using exploration::Searched;
using faults::Outcome;

class Writer {
public:
    Writer(const Dossier& dossier, const Plant& plant, const Speech& say)
        : m_dossier(dossier)
        , m_plant(plant)
        , m_say(say)
        , m_faults(faults::faultList(plant, dossier))
    {
    }

    std::string written(const Tried& tried)
    {
        m_out = fmt::format("<h2>{}</h2>\n", escaped(m_say.word("report.tried")));
        if (tried.sweeps.empty() && tried.explored.empty() && tried.stops.empty())
            paragraph(m_say.word("report.nothing_tried"));
        for (const auto& a : tried.sweeps)
            sweep(*a);
        for (const auto& e : tried.explored)
            explored(*e);
        for (const auto& s : tried.stops)
            stops(*s);
        return std::move(m_out);
    }

private:
    void paragraph(std::string_view text) { m_out += fmt::format("<p>{}</p>\n", escaped(text)); }
    void subheading(const Message& m) { m_out += fmt::format("<h3>{}</h3>\n", escaped(m_say.sentence(m))); }
    void row(const std::vector<std::string>& cells)
    {
        m_out += "<tr>";
        for (const std::string& c : cells)
            m_out += "<td>" + escaped(c) + "</td>";
        m_out += "</tr>\n";
    }
    std::string wordOf(std::string_view before, std::string_view name) const
    {
        return m_say.word(std::string(before) + std::string(name));
    }
    std::string nameOfFunction(FunctionId id) const
    {
        const SafetyFunction* f = m_dossier.function(id);
        return f ? f->name : "?";
    }
    std::string tagOf(DeviceId id) const
    {
        const Device* d = m_dossier.circuit.device(id);
        return d ? d->tag : "?";
    }

    void sweep(const FaultAnalysis& a)
    {
        const faults::Sweep& s = a.sweep;
        subheading(message("report.sweep_of", {nameOfFunction(s.function)}));
        std::string counts;
        for (Outcome o : {Outcome::Lost, Outcome::Undecided, Outcome::Hidden, Outcome::Caught, Outcome::Safe})
            counts += fmt::format(
                "{}{} {}", counts.empty() ? "" : ", ", s.count(o, false), wordOf("outcome.", faults::nameOf(o)));
        paragraph(counts);
        paragraph(m_say.sentence(message(
            "report.sweep_runs", {static_cast<long long>(s.runCount), static_cast<long long>(s.pairRunCount)})));
        m_out += "<table>";
        for (Outcome o : {Outcome::Lost, Outcome::Undecided, Outcome::Hidden, Outcome::Caught})
            for (std::size_t k = 0; k < s.faults.size(); ++k)
                if (s.outcomes[k].overall == o && !s.faults[k].isExcluded)
                    fault(s, k);
        m_out += "</table>\n";
        built(a);
        for (const SweptFault& f : s.faults)
            if (f.isExcluded && f.family != faults::Family::Short)
                paragraph(
                    m_say.sentence(message("report.excluded", {m_say.fault(f, m_dossier.circuit), f.table, f.reason})));
    }

    using SweptFault = faults::SweptFault;

    void fault(const faults::Sweep& s, std::size_t k)
    {
        const faults::FaultOutcome& o = s.outcomes[k];
        const auto worst = static_cast<std::size_t>(
            std::find(o.outcomes.begin(), o.outcomes.end(), o.overall) - o.outcomes.begin());
        std::string what = m_say.run(o.runs[worst], m_plant);
        if (o.mate >= 0)
            what += "; "
                + m_say.sentence(message("report.counts_with",
                    {m_say.fault(s.faults[static_cast<std::size_t>(o.mate)], m_dossier.circuit)}));
        row({wordOf("outcome.", faults::nameOf(o.overall)), m_say.fault(s.faults[k], m_dossier.circuit),
            wordOf("moment.", faults::nameOf(faults::kMoments[worst])), what});
    }

    void built(const FaultAnalysis& a)
    {
        m_out += "<table>";
        for (const faults::SubsystemBuilt& b : a.built.subsystems) {
            row({b.name, wordOf("structure.", faults::nameOf(b.verdict.structure)),
                m_say.sentence(
                    message("report.nothing_excluded", {wordOf("structure.", faults::nameOf(b.withoutExclusions))}))});
            for (const auto& channel : b.channels)
                for (const faults::PartCoverage& p : channel)
                    row({tagOf(p.device) + " " + p.role, p.built ? m_say.number(*p.built, "%") : "-",
                        m_say.sentence(message("report.claimed", {Measured{p.claimed, "%"}}))});
        }
        for (const ComparedSubsystem& c : a.compared)
            for (const safety::Condition& condition : c.conditions)
                row({c.name + ": " + m_say.sentence(condition.wanted), m_say.sentence(condition.found),
                    wordOf("met.", safety::nameOf(condition.met))});
        for (const ComparedSubsystem& c : a.compared)
            if (c.category && c.level)
                row({c.name,
                    m_say.sentence(message("report.category_built",
                        {std::string(safety::nameOf(*c.category)), std::string(safety::nameOf(*c.level))})),
                    c.categoryWithoutExclusions ? m_say.sentence(
                        message("report.nothing_excluded", {std::string(safety::nameOf(*c.categoryWithoutExclusions))}))
                                                : ""});
        for (const ComparedSubsystem& c : a.compared)
            if (c.pfhdPerHour)
                row({c.name, m_say.number(*c.pfhdPerHour, "1/h"), m_say.word("report.markov")});
        if (a.cutSets)
            for (const CutSetLine& line : linesOf(*a.cutSets, a.sweep, m_dossier.circuit, a.checkIntervalS))
                row({m_say.sentence(line.what), m_say.number(line.perHour, "1/h")});
        m_out += "</table>\n";
        for (const Finding& f : a.findings)
            paragraph(m_say.sentence(f.what) + " " + m_say.sentence(f.mend));
    }

    void proofs(const Searched& s, DeviceId motor, const std::string& with)
    {
        for (const Proof& p : s.proofs) {
            std::string order;
            for (const exploration::Done& done : p.counter ? p.counter->order : std::vector<exploration::Done>{})
                order += (order.empty() ? "" : "; ") + m_say.operation(m_plant, done.operation);
            row({(with.empty() ? "" : with + ": ") + m_say.claim(p, motor, m_dossier), m_say.answer(p), order});
        }
    }

    void explored(const Explored& e)
    {
        for (const MotorExplored& m : e.motors) {
            subheading(message("report.orders_of", {tagOf(m.motor)}));
            paragraph(m_say.sentence(message("report.operated",
                {fmt::format("{}", fmt::join(m.operated, ", ")), fmt::format("{}", fmt::join(m.leftAlone, ", "))})));
            m_out += "<table>";
            proofs(m.healthy, m.motor, {});
            if (m.byHand)
                proofs(*m.byHand, m.motor, {});
            for (const exploration::FaultExplored& f : m.faults)
                if (std::any_of(f.searched.proofs.begin(), f.searched.proofs.end(),
                        [](const Proof& p) { return p.answer != Answer::Proved; }))
                    proofs(f.searched, m.motor, f.fault);
            m_out += "</table>\n";
        }
        m_out += "<table>";
        for (const InterlockJudged& i : e.interlocks)
            row({tagOf(i.contactors[0]) + ", " + tagOf(i.contactors[1]) + ": "
                    + wordOf("interlock.", exploration::nameOf(i.kind)),
                m_say.sentence(message("report.interlock",
                    {m_say.answer(i.alone.proofs.front()), m_say.answer(i.without.proofs.front())}))});
        m_out += "</table>\n";
    }

    void stops(const StopStudy& s)
    {
        subheading(message("report.stops_of", {nameOfFunction(s.function)}));
        paragraph(m_say.sentence(message("report.stop_runs",
            {static_cast<long long>(s.runCount), static_cast<long long>(s.states.size()),
                static_cast<long long>(s.faultCount)})));
        m_out += "<table>";
        for (const ActuatorStudy& a : s.actuators) {
            row({a.tag, m_say.stopCategory(a)});
            const auto line = [&](const char* what, int place,
                                  const std::optional<Seconds> safety::ActuatorStop::*time) {
                if (place >= 0 && (a.cases[static_cast<std::size_t>(place)].stop.*time))
                    row({m_say.word(what),
                        m_say.number((a.cases[static_cast<std::size_t>(place)].stop.*time)->si(), "s"),
                        m_say.stopCase(a.cases[static_cast<std::size_t>(place)], m_faults, m_dossier)});
            };
            line("report.latest_removal", a.latestRemoval, &safety::ActuatorStop::removedAfter);
            line("report.latest_rest", a.latestRest, &safety::ActuatorStop::restAfter);
            line("report.earliest_rest", a.earliestRest, &safety::ActuatorStop::restAfter);
            if (a.fastestRemoval >= 0) {
                const StopCase& c = a.cases[static_cast<std::size_t>(a.fastestRemoval)];
                row({m_say.word("report.fastest_removal"), m_say.number(c.stop.removalSpeedRadPerS, "rad/s"),
                    m_say.stopCase(c, m_faults, m_dossier)});
            }
            for (int k : a.noStop)
                row({m_say.word("stop.none"), m_say.sentence(a.cases[static_cast<std::size_t>(k)].stop.why),
                    m_say.stopCase(a.cases[static_cast<std::size_t>(k)], m_faults, m_dossier)});
        }
        m_out += "</table>\n";
    }

    const Dossier& m_dossier;
    const Plant& m_plant;
    const Speech& m_say;
    std::vector<SweptFault> m_faults;
    std::string m_out;
};

} // namespace

std::vector<const FaultAnalysis*> sweepsOf(const Dossier& dossier, const Tried& tried)
{
    std::vector<const FaultAnalysis*> swept;
    for (const SafetyFunction& f : dossier.functions) {
        const auto found = std::find_if(
            tried.sweeps.begin(), tried.sweeps.end(), [&f](const auto& a) { return a->sweep.function == f.id; });
        swept.push_back(found == tried.sweeps.end() ? nullptr : found->get());
    }
    return swept;
}

Expected<std::string> triedHtml(const Dossier& dossier, const Tried& tried, const Speech& say)
{
    const auto plant = compile(dossier.circuit);
    if (!plant)
        return Unexpected{plant.error()};
    return Writer(dossier, *plant, say).written(tried);
}

} // namespace ts::report
