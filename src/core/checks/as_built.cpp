#include "core/checks/as_built.h"

#include "core/analysis/other_triggers.h"
#include "core/base/at.h"
#include "core/checks/groups.h"

#include <algorithm>

namespace ts::checks {
namespace {

using namespace faults;

constexpr std::string_view kSingle = "single_faults", kSecond = "second_faults",
                           kLimitsCheck = "limits"; ///< which check a finding is of
constexpr std::size_t kMostNamed = 6; ///< faults named in one finding; the others are counted

class AsBuiltCheck {
public:
    AsBuiltCheck(const Circuit& circuit, const SafetyFunction& function, const FaultAnalysis& analysis)
        : m_circuit(circuit)
        , m_function(function)
        , m_analysis(analysis)
        , m_sweep(analysis.sweep)
        , m_built(analysis.built)
    {
    }

    std::vector<Finding> findings()
    {
        for (std::size_t k = 0; k < m_built.subsystems.size(); ++k)
            judge(m_function.claim[k], m_built.subsystems[k]);
        if (!m_built.outside.alone.empty())
            add(kSingle, Severity::Stop, m_built.outside.alone,
                message("finding.as_built.outside", {m_function.name, named(m_built.outside.alone)}),
                "mend.as_built.outside");
        judgeRestarts();
        if (!m_built.commonCauses.empty())
            add(kSingle, Severity::Note, m_built.commonCauses,
                message("finding.as_built.common_cause", {m_function.name, named(m_built.commonCauses)}),
                "mend.as_built.common_cause");
        for (const auto& [limit, why] : m_sweep.limitTrouble)
            add(kLimitsCheck, Severity::Stop, {},
                message("finding.as_built.limit", {m_function.name, "@case." + std::string(nameOf(limit))}),
                "mend.as_built.limit");
        if (!m_sweep.notRunning.empty())
            add(kSingle, Severity::Fix, {},
                message("finding.as_built.not_running", {m_function.name, joined(m_sweep.notRunning)}),
                "mend.as_built.not_running");
        for (std::size_t k = 0, next = 0; k < m_function.claim.size() && next < m_analysis.compared.size(); ++k)
            if (m_analysis.compared[next].name == m_function.claim[k].name && !m_function.claim[k].encapsulated)
                judgeCategory(m_function.claim[k], m_built.subsystems[k], m_analysis.compared[next++]);
        return std::move(m_findings);
    }

private:
    /// Single faults that take only the prevention of restart, by what starts the machine then.
    void judgeRestarts()
    {
        std::vector<int> atReset, without;
        for (int k : m_built.restarts) {
            const auto& runs = m_sweep.outcomes[at(k)].runs;
            const bool isAtResetOnly = std::all_of(runs.begin(), runs.end(),
                [](const RunResult& r) { return r.loss == Loss::None || r.loss == Loss::StartsOnReset; });
            (isAtResetOnly ? atReset : without).push_back(k);
        }
        // One channel of category B or 1 may lose more than that by a single fault.
        const auto& claim = m_function.claim;
        const bool demands = std::any_of(claim.begin(), claim.end(), [](const ClaimedSubsystem& s) {
            return s.encapsulated || (s.category && *s.category >= safety::Category::Two);
        });
        const Severity severity = demands ? Severity::Fix : Severity::Note;
        if (!without.empty())
            add(kSingle, severity, without,
                message("finding.as_built.restart_without", {m_function.name, named(without)}),
                "mend.as_built.restart_without");
        if (!atReset.empty())
            add(kSingle, severity, atReset, message("finding.as_built.restart", {m_function.name, named(atReset)}),
                "mend.as_built.restart");
    }

    void judge(const ClaimedSubsystem& claim, const SubsystemBuilt& b)
    {
        using safety::Category;
        const auto category = claim.category;
        const bool demands = category >= Category::Three || claim.encapsulated;
        if (category == Category::Two && b.verdict.structure == Structure::OneChannel)
            add(kSingle, Severity::Stop, b.verdict.alone,
                message("finding.as_built.untested", {m_function.name, b.name, named(b.verdict.alone)}),
                "mend.as_built.untested");
        else if (category == Category::Two && b.verdict.testOnlyWarns && claim.test && !claim.test->onlyWarns)
            add(kSingle, Severity::Stop, b.verdict.alone,
                message("finding.as_built.only_warns", {m_function.name, b.name, named(b.verdict.alone)}),
                "mend.as_built.only_warns");
        else if (demands && (b.verdict.structure == Structure::OneChannel || b.verdict.structure == Structure::Tested))
            add(kSingle, Severity::Stop, b.verdict.alone,
                message("finding.as_built.one_channel", {m_function.name, b.name, named(b.verdict.alone)}),
                "mend.as_built.one_channel");
        else if (category == Category::Four && b.verdict.structure == Structure::SingleFaultTolerated)
            add(kSecond, Severity::Fix, b.verdict.hidden,
                message("finding.as_built.accumulates", {m_function.name, b.name, named(b.verdict.hidden)}),
                "mend.as_built.accumulates");
        else if (demands && b.verdict.structure == Structure::Unknown && m_sweep.hasPairs)
            add(kSecond, Severity::Fix, {}, message("finding.as_built.unknown", {m_function.name, b.name}),
                "mend.as_built.unknown");
        for (const auto& channel : b.channels)
            for (const PartCoverage& part : channel)
                if (part.built && *part.built < part.claimed - 1e-9)
                    add(kSecond, Severity::Stop, part.uncovered,
                        message("finding.as_built.coverage",
                            {m_function.name, tagOf(part.device) + " " + part.role, Measured{*part.built, "%"},
                                Measured{part.claimed, "%"}, named(part.uncovered)}),
                        "mend.as_built.coverage");
    }

    /// The claimed category is not what the wiring has: which conditions are not met, and what it would be good for.
    void judgeCategory(const ClaimedSubsystem& claim, const SubsystemBuilt& built, const ComparedSubsystem& c)
    {
        if (c.isMet != safety::Met::No)
            return;
        const safety::Condition& first = *std::find_if(c.conditions.begin(), c.conditions.end(),
            [](const safety::Condition& x) { return x.met == safety::Met::No; });
        const bool isByOneFault = built.verdict.structure == Structure::OneChannel
            || built.verdict.structure == Structure::Tested;
        m_findings.push_back({std::string(isByOneFault ? kSingle : kSecond), Severity::Stop, {},
            message("finding.as_built.category",
                {m_function.name, claim.name, std::string(safety::wordOf(claim.category))}),
            message("consequence.as_built"),
            c.category && c.level ? message("mend.as_built.category",
                {std::string(safety::nameOf(*c.category)), std::string(safety::nameOf(*c.level))})
                                  : message("mend.as_built.no_category"),
            "ISO 13849-1 clause 6.2", first.unmet,
            {.aspect = Target::Aspect::Claim, .function = m_function.id, .subsystem = claim.name}});
    }

    std::string tagOf(DeviceId id) const
    {
        const Device* d = m_circuit.device(id);
        return d ? d->tag : "?";
    }

    static std::string joined(const std::vector<std::string>& words)
    {
        std::string text;
        for (const std::string& w : words)
            text += (text.empty() ? "" : ", ") + w;
        return text;
    }

    Phrases named(const std::vector<int>& faults) const
    {
        Phrases said;
        for (std::size_t k = 0; k < std::min(kMostNamed, faults.size()); ++k)
            said.push_back(messageOf(m_sweep.faults[at(faults[k])], m_circuit));
        if (faults.size() > kMostNamed)
            said.push_back(message("fault.more", {static_cast<long long>(faults.size() - kMostNamed)}));
        return said;
    }

    void add(std::string_view check, Severity severity, const std::vector<int>& faults, Message what, const char* mend)
    {
        if (!m_function.reliedOnByPerson)
            severity = Severity::Note; // nobody's hands: what the equipment may lose is said
        Finding f{std::string(check), severity, {}, std::move(what), message("consequence.as_built"), message(mend),
            "ISO 13849-1 clause 6.2, ISO 13849-2 clause 9", {},
            {.aspect = Target::Aspect::Fault,
                .function = m_function.id,
                .fault = faults.empty() ? std::string() : m_sweep.faults[at(faults.front())].id}};
        f.evidence = message("evidence.sweep",
            {static_cast<long long>(m_sweep.runCount + m_sweep.pairRunCount),
                static_cast<long long>(m_sweep.faults.size())});
        for (int k : faults)
            for (DeviceId id : m_sweep.faults[at(k)].devices)
                if (const std::string tag = tagOf(id);
                    std::find(f.devices.begin(), f.devices.end(), tag) == f.devices.end())
                    f.devices.push_back(tag);
        m_findings.push_back(std::move(f));
    }

    const Circuit& m_circuit;
    const SafetyFunction& m_function;
    const FaultAnalysis& m_analysis;
    const Sweep& m_sweep;
    const AsBuilt& m_built;
    std::vector<Finding> m_findings;
};

/// Of all functions that have been tried, what is of one check.
void take(std::string_view check, const CheckInput& input, std::vector<Finding>& out)
{
    for (const SafetyFunction& f : input.dossier.functions)
        if (const auto built = input.results.find(kBuilt, about(f.id));
            built && (check == kSingle || built->sweep.hasPairs))
            for (Finding& finding : asBuiltFindings(input.dossier.circuit, f, *built))
                if (finding.id == check)
                    out.push_back(std::move(finding));
}

} // namespace

std::vector<Finding> asBuiltFindings(
    const Circuit& circuit, const SafetyFunction& function, const FaultAnalysis& analysis)
{
    return AsBuiltCheck(circuit, function, analysis).findings();
}

void singleFaults(const CheckInput& input, std::vector<Finding>& out)
{
    take(kSingle, input, out);
}

bool hasOtherTriggers(const Dossier& dossier, const Subject& subject)
{
    const SafetyFunction* f = dossier.function(subject.function());
    return f && !f->alsoBy.empty();
}

namespace {

/// Said with the first trigger already: the same but for the function's name.
bool isSaid(const std::vector<Finding>& said, const Finding& f)
{
    return std::any_of(said.begin(), said.end(), [&f](const Finding& o) {
        return o.what.id == f.what.id && o.what.arguments.size() == f.what.arguments.size()
            && std::equal(o.what.arguments.begin() + 1, o.what.arguments.end(), f.what.arguments.begin() + 1);
    });
}

void judgeTrigger(
    const CheckInput& input, const SafetyFunction& f, std::size_t k, const TriedTrigger& t, std::vector<Finding>& out)
{
    if (!t.analysis) {
        out.push_back({{}, Severity::Fix, {t.tag}, message("finding.trigger.untried", {f.name, t.tag}),
            message("consequence.as_built"), message("mend.stop.scenario"), {}, t.trouble,
            {.aspect = Target::Aspect::Demand, .function = f.id}});
        return;
    }
    std::vector<Finding> said;
    if (const auto built = input.results.find(kBuilt, about(f.id)))
        said = asBuiltFindings(input.dossier.circuit, f, *built);
    SafetyFunction asked = demandedBy(f, k);
    asked.name += " (" + t.tag + ")";
    for (Finding& finding : asBuiltFindings(input.dossier.circuit, asked, *t.analysis))
        if (finding.severity == Severity::Stop && !isSaid(said, finding))
            out.push_back(std::move(finding));
}

} // namespace

void otherTriggersTried(const CheckInput& input, std::vector<Finding>& out)
{
    for (const SafetyFunction& f : input.dossier.functions)
        if (const auto others = input.results.find(kOtherTriggers, about(f.id)))
            for (std::size_t k = 0; k < others->tried.size(); ++k)
                judgeTrigger(input, f, k, others->tried[k], out);
}

void secondFaults(const CheckInput& input, std::vector<Finding>& out)
{
    take(kSecond, input, out);
}

void limits(const CheckInput& input, std::vector<Finding>& out)
{
    take(kLimitsCheck, input, out);
}

bool isEnoughFor(Structure structure, std::optional<safety::Category> category)
{
    using safety::Category;
    if (category == Category::Four)
        return structure == Structure::AccumulationTolerated;
    if (category == Category::Two)
        return structure != Structure::Unknown && structure != Structure::OneChannel;
    if (category == Category::Three)
        return structure == Structure::AccumulationTolerated || structure == Structure::SingleFaultTolerated;
    return true;
}

} // namespace ts::checks
