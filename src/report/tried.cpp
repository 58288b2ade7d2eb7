#include "report/tried.h"

#include "core/checks/as_built.h"
#include "core/figures/scene_svg.h"
#include "core/results/subjects.h"
#include "wording/exploration_texts.h"
#include "wording/fault_texts.h"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <map>

namespace ts::report {
namespace {

using figures::escaped;

using exploration::Answer;
using exploration::Explored;
using exploration::InterlockJudged;
using exploration::MotorExplored;
using exploration::Proof;
using exploration::Searched;
using faults::Outcome;

class TriedWriter {
public:
    TriedWriter(const Dossier& dossier, const Plant& plant)
        : m_dossier(dossier)
        , m_plant(plant)
        , m_faults(faults::faultList(plant, dossier))
    {
    }

    std::string written(const Results& results)
    {
        m_out = fmt::format("<h2>{}</h2>\n", escaped(wording::word("report.tried")));
        const std::size_t empty = m_out.size();
        for (const SafetyFunction& f : m_dossier.functions)
            if (const auto built = results.find(kBuilt, about(f.id)))
                sweep(f, *built);
        for (const Subject& motor : subjectsOf(Subject::Kind::Motor, m_dossier))
            if (const auto found = results.find(kOrders, motor))
                explored(*found);
        for (const SafetyFunction& f : m_dossier.functions)
            if (const auto study = results.find(kWorstStop, about(f.id)))
                stops(*study);
        if (m_out.size() == empty)
            paragraph(wording::word("report.nothing_tried"));
        return std::move(m_out);
    }

private:
    void paragraph(std::string_view text) { m_out += fmt::format("<p>{}</p>\n", escaped(text)); }
    void subheading(const Message& m) { m_out += fmt::format("<h3>{}</h3>\n", escaped(wording::sentence(m))); }
    void row(const std::vector<std::string>& cells)
    {
        m_out += "<tr>";
        for (const std::string& c : cells)
            m_out += "<td>" + escaped(c) + "</td>";
        m_out += "</tr>\n";
    }
    std::string wordOf(std::string_view before, std::string_view name) const
    {
        return wording::word(std::string(before) + std::string(name));
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

    void sweep(const SafetyFunction& function, const FaultAnalysis& a)
    {
        const faults::Sweep& s = a.sweep;
        subheading(message("report.sweep_of", {nameOfFunction(s.function)}));
        std::string counts;
        for (Outcome o : {Outcome::Lost, Outcome::Undecided, Outcome::Hidden, Outcome::Caught, Outcome::Safe})
            counts += fmt::format(
                "{}{} {}", counts.empty() ? "" : ", ", s.count(o, false), wordOf("outcome.", faults::nameOf(o)));
        paragraph(counts);
        if (!s.hasPairs)
            paragraph(wording::sentence(message("unknown.line", {Phrases{message("unknown.second_faults")}})));
        paragraph(wording::sentence(message(
            "report.sweep_runs", {static_cast<long long>(s.runCount), static_cast<long long>(s.pairRunCount)})));
        m_out += "<table>";
        for (Outcome o : {Outcome::Lost, Outcome::Undecided, Outcome::Hidden, Outcome::Caught})
            for (std::size_t k = 0; k < s.faults.size(); ++k)
                if (s.outcomes[k].overall == o && !s.faults[k].isExcluded)
                    fault(s, k);
        m_out += "</table>\n";
        built(function, a);
        excluded(s);
    }

    /// Every exclusion that was taken; shorts with one reason together, by route.
    void excluded(const faults::Sweep& s)
    {
        std::map<std::array<std::string, 3>, long long> shorts; // group, table, reason
        for (const SweptFault& f : s.faults) {
            if (f.isExcluded && f.family == faults::Family::Short)
                ++shorts[{f.group, f.table, f.reason}];
            else if (f.isExcluded)
                paragraph(wording::sentence(
                    message("report.excluded", {wording::sweptFaultText(f, m_dossier.circuit), f.table, f.reason})));
        }
        for (const auto& [what, count] : shorts)
            paragraph(wording::sentence(message("report.excluded_shorts", {count, what[0], what[1], what[2]})));
    }

    using SweptFault = faults::SweptFault;

    void fault(const faults::Sweep& s, std::size_t k)
    {
        const faults::FaultOutcome& o = s.outcomes[k];
        const auto worst = static_cast<std::size_t>(
            std::find(o.outcomes.begin(), o.outcomes.end(), o.overall) - o.outcomes.begin());
        std::string what = wording::runText(o.runs[worst], m_plant);
        if (o.mate >= 0)
            what += "; "
                + wording::sentence(message("report.counts_with",
                    {wording::sweptFaultText(s.faults[static_cast<std::size_t>(o.mate)], m_dossier.circuit)}));
        row({wordOf("outcome.", faults::nameOf(o.overall)), wording::sweptFaultText(s.faults[k], m_dossier.circuit),
            wordOf("moment.", faults::nameOf(faults::kMoments[worst])), what});
    }

    void built(const SafetyFunction& function, const FaultAnalysis& a)
    {
        m_out += "<table>";
        for (const faults::SubsystemBuilt& b : a.built.subsystems) {
            row({b.name, wordOf("structure.", faults::nameOf(b.verdict.structure)),
                wording::sentence(
                    message("report.nothing_excluded", {wordOf("structure.", faults::nameOf(b.withoutExclusions))}))});
            for (const auto& channel : b.channels)
                for (const faults::PartCoverage& p : channel)
                    row({tagOf(p.device) + " " + p.role, p.built ? wording::number(*p.built, "%") : "-",
                        wording::sentence(message("report.claimed", {Measured{p.claimed, "%"}}))});
        }
        for (const ComparedSubsystem& c : a.compared)
            for (const safety::Condition& condition : c.conditions)
                row({c.name + ": " + wording::sentence(condition.wanted), wording::sentence(condition.found),
                    wordOf("met.", safety::nameOf(condition.met))});
        for (const ComparedSubsystem& c : a.compared)
            if (c.category && c.level)
                row({c.name,
                    wording::sentence(message("report.category_built",
                        {std::string(safety::nameOf(*c.category)), std::string(safety::nameOf(*c.level))})),
                    c.categoryWithoutExclusions ? wording::sentence(
                        message("report.nothing_excluded", {std::string(safety::nameOf(*c.categoryWithoutExclusions))}))
                                                : ""});
        for (const ComparedSubsystem& c : a.compared)
            if (c.pfhdPerHour)
                row({c.name, wording::number(*c.pfhdPerHour, "1/h"), wording::word("report.markov")});
        if (a.cutSets)
            for (const CutSetLine& line : linesOf(*a.cutSets, a.sweep, m_dossier.circuit, a.checkIntervalS))
                row({wording::sentence(line.what), wording::number(line.perHour, "1/h")});
        m_out += "</table>\n";
        for (const Finding& f : checks::asBuiltFindings(m_dossier.circuit, function, a))
            paragraph(wording::sentence(f.what) + " " + wording::sentence(f.mend));
    }

    void proofs(const Searched& s, DeviceId motor, const std::string& with)
    {
        for (const Proof& p : s.proofs) {
            std::string order;
            for (const exploration::Done& done : p.counter ? p.counter->order : std::vector<exploration::Done>{})
                order += (order.empty() ? "" : "; ") + wording::operationText(m_plant, done.operation);
            row({(with.empty() ? "" : with + ": ") + wording::claimText(p, motor, m_dossier), wording::answerText(p),
                order});
        }
    }

    void explored(const Explored& e)
    {
        for (const MotorExplored& m : e.motors) {
            subheading(message("report.orders_of", {tagOf(m.motor)}));
            paragraph(wording::sentence(message(m.leftAlone.empty() ? "report.operated" : "report.operated_some",
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
                wording::sentence(message("report.interlock",
                    {wording::answerText(i.alone.proofs.front()), wording::answerText(i.without.proofs.front())}))});
        m_out += "</table>\n";
    }

    void stops(const StopStudy& s)
    {
        subheading(message("report.stops_of", {nameOfFunction(s.function)}));
        paragraph(wording::sentence(message("report.stop_runs",
            {static_cast<long long>(s.runCount), static_cast<long long>(s.states.size()),
                static_cast<long long>(s.faultCount)})));
        m_out += "<table>";
        for (const ActuatorStudy& a : s.actuators) {
            row({a.tag, wording::stopCategoryText(a)});
            const auto line = [&](const char* what, int place,
                                  const std::optional<Seconds> safety::ActuatorStop::*time) {
                if (place >= 0 && (a.cases[static_cast<std::size_t>(place)].stop.*time))
                    row({wording::word(what),
                        wording::number((a.cases[static_cast<std::size_t>(place)].stop.*time)->si(), "s"),
                        wording::stopCaseText(a.cases[static_cast<std::size_t>(place)], m_faults, m_dossier)});
            };
            line("report.latest_removal", a.latestRemoval, &safety::ActuatorStop::removedAfter);
            line("report.latest_rest", a.latestRest, &safety::ActuatorStop::restAfter);
            line("report.earliest_rest", a.earliestRest, &safety::ActuatorStop::restAfter);
            if (a.fastestRemoval >= 0) {
                const StopCase& c = a.cases[static_cast<std::size_t>(a.fastestRemoval)];
                row({wording::word("report.fastest_removal"), wording::number(c.stop.removalSpeedRadPerS, "rad/s"),
                    wording::stopCaseText(c, m_faults, m_dossier)});
            }
            for (int k : a.noCategory)
                row({wording::word("stop.no_category"),
                    wording::sentence(a.cases[static_cast<std::size_t>(k)].stop.why),
                    wording::stopCaseText(a.cases[static_cast<std::size_t>(k)], m_faults, m_dossier)});
            for (int k : a.noStop)
                row({wording::word("stop.none"), wording::sentence(a.cases[static_cast<std::size_t>(k)].stop.why),
                    wording::stopCaseText(a.cases[static_cast<std::size_t>(k)], m_faults, m_dossier)});
        }
        m_out += "</table>\n";
    }

    const Dossier& m_dossier;
    const Plant& m_plant;

    std::vector<SweptFault> m_faults;
    std::string m_out;
};

} // namespace

Expected<std::string> triedHtml(const Dossier& dossier, const Results& results)
{
    const auto plant = compile(dossier.circuit);
    if (!plant)
        return Unexpected{plant.error()};
    return TriedWriter(dossier, *plant).written(results);
}

} // namespace ts::report
