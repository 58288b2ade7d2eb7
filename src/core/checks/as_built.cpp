#include "core/checks/as_built.h"

#include "core/base/at.h"

#include <algorithm>

namespace ts::checks {
namespace {

using namespace faults;

constexpr std::size_t kMostNamed = 6; ///< faults named in one finding; the others are counted

class AsBuiltCheck {
public:
    AsBuiltCheck(const Circuit& circuit, const SafetyFunction& function, const Sweep& sweep, const AsBuilt& built)
        : m_circuit(circuit)
        , m_function(function)
        , m_sweep(sweep)
        , m_built(built)
    {
    }

    std::vector<Finding> findings()
    {
        for (std::size_t k = 0; k < m_built.subsystems.size(); ++k)
            judge(m_function.claim[k], m_built.subsystems[k]);
        if (!m_built.outside.alone.empty())
            add(Severity::Stop, m_built.outside.alone,
                message("finding.as_built.outside", {m_function.name, named(m_built.outside.alone)}),
                "mend.as_built.outside");
        if (!m_built.restarts.empty())
            add(Severity::Fix, m_built.restarts,
                message("finding.as_built.restart", {m_function.name, named(m_built.restarts)}),
                "mend.as_built.restart");
        if (!m_built.commonCauses.empty())
            add(Severity::Note, m_built.commonCauses,
                message("finding.as_built.common_cause", {m_function.name, named(m_built.commonCauses)}),
                "mend.as_built.common_cause");
        for (const auto& [limit, why] : m_sweep.limitTrouble)
            add(Severity::Stop, {},
                message("finding.as_built.limit", {m_function.name, "@case." + std::string(nameOf(limit))}),
                "mend.as_built.limit");
        if (!m_sweep.notRunning.empty())
            add(Severity::Fix, {},
                message("finding.as_built.not_running", {m_function.name, joined(m_sweep.notRunning)}),
                "mend.as_built.not_running");
        return std::move(m_findings);
    }

private:
    void judge(const ClaimedSubsystem& claim, const SubsystemBuilt& b)
    {
        const std::string& category = claim.category;
        const bool demands = category == "3" || category == "4" || claim.encapsulated;
        if (category == "2" && b.verdict.structure == Structure::OneChannel)
            add(Severity::Stop, b.verdict.alone,
                message("finding.as_built.untested", {m_function.name, b.name, named(b.verdict.alone)}),
                "mend.as_built.untested");
        else if (category == "2" && b.verdict.testOnlyWarns && claim.test && !claim.test->onlyWarns)
            add(Severity::Stop, b.verdict.alone,
                message("finding.as_built.only_warns", {m_function.name, b.name, named(b.verdict.alone)}),
                "mend.as_built.only_warns");
        else if (demands && (b.verdict.structure == Structure::OneChannel || b.verdict.structure == Structure::Tested))
            add(Severity::Stop, b.verdict.alone,
                message("finding.as_built.one_channel", {m_function.name, b.name, named(b.verdict.alone)}),
                "mend.as_built.one_channel");
        else if (category == "4" && b.verdict.structure == Structure::SingleFaultTolerated)
            add(Severity::Fix, b.verdict.hidden,
                message("finding.as_built.accumulates", {m_function.name, b.name, named(b.verdict.hidden)}),
                "mend.as_built.accumulates");
        else if (demands && b.verdict.structure == Structure::Unknown && m_sweep.hasPairs)
            add(Severity::Fix, {}, message("finding.as_built.unknown", {m_function.name, b.name}),
                "mend.as_built.unknown");
        for (const auto& channel : b.channels)
            for (const PartCoverage& part : channel)
                if (part.built && *part.built < part.claimed - 1e-9)
                    add(Severity::Stop, part.uncovered,
                        message("finding.as_built.coverage",
                            {m_function.name, tagOf(part.device) + " " + part.role, Measured{*part.built, "%"},
                                Measured{part.claimed, "%"}, named(part.uncovered)}),
                        "mend.as_built.coverage");
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

    void add(Severity severity, const std::vector<int>& faults, Message what, const char* mend)
    {
        Finding f{"as_built", severity, {}, std::move(what), message("consequence.as_built"), message(mend),
            "ISO 13849-1 clause 6.2, ISO 13849-2 clause 9", {}};
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
    const Sweep& m_sweep;
    const AsBuilt& m_built;
    std::vector<Finding> m_findings;
};

} // namespace

std::vector<Finding> asBuiltFindings(
    const Circuit& circuit, const SafetyFunction& function, const Sweep& sweep, const AsBuilt& built)
{
    return AsBuiltCheck(circuit, function, sweep, built).findings();
}

Finding categoryFinding(const SafetyFunction& function, const ClaimedSubsystem& claim,
    const std::vector<safety::Condition>& conditions, std::optional<safety::Category> best,
    std::optional<safety::Level> level)
{
    const safety::Condition& first = *std::find_if(
        conditions.begin(), conditions.end(), [](const safety::Condition& c) { return c.met == safety::Met::No; });
    Finding f{"as_built", Severity::Stop, {},
        message("finding.as_built.category", {function.name, claim.name, claim.category}),
        message("consequence.as_built"), {}, "ISO 13849-1 clause 6.2", {}};
    f.mend = best && level
        ? message("mend.as_built.category", {std::string(safety::nameOf(*best)), std::string(safety::nameOf(*level))})
        : message("mend.as_built.no_category");
    f.evidence = first.unmet;
    return f;
}

bool isEnoughFor(Structure structure, std::string_view category)
{
    if (category == "4")
        return structure == Structure::AccumulationTolerated;
    if (category == "2")
        return structure != Structure::Unknown && structure != Structure::OneChannel;
    if (category == "3")
        return structure == Structure::AccumulationTolerated || structure == Structure::SingleFaultTolerated;
    return true;
}

} // namespace ts::checks
