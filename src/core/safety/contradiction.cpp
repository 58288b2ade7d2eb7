#include "core/safety/contradiction.h"

#include "core/base/date.h"
#include "core/library/exclusion_rule.h"
#include "core/library/registry.h"
#include "core/library/table.h"
#include "core/safety/arithmetic.h"
#include "core/safety/decision.h"
#include "core/safety/shared_means.h"

#include <algorithm>
#include <array>
#include <set>

namespace ts::safety {
namespace {

using Weight = Contradiction::Weight;

constexpr std::array<std::string_view, 2> kDirectOpeningRows{"position_switch", "emergency_stop"};
constexpr std::string_view kProcess = ".process";

bool isBlank(const std::string& text)
{
    return text.find_first_not_of(" \t\r\n") == std::string::npos;
}

bool isProgrammed(const Circuit& circuit, DeviceId id)
{
    const Device* device = circuit.device(id);
    const DeviceKind* kind = device ? deviceKind(device->kind) : nullptr;
    return kind && kind->traits.isProgrammed;
}

const Element* elementOf(const Body& body, std::string_view role)
{
    const auto found = std::find_if(
        body.elements.begin(), body.elements.end(), [role](const Element& e) { return e.role == role; });
    return found == body.elements.end() ? nullptr : &*found;
}

/// What moves the part: the mover of its contact, the mover it names, the armature for the main poles; -1 if nothing.
int moverOf(const Body& body, const std::string& element)
{
    for (std::size_t m = 0; m < body.movers.size(); ++m)
        if (body.movers[m].role == element)
            return static_cast<int>(m);
    for (const Element& e : body.elements)
        if (const auto* contact = std::get_if<ContactElement>(&e.what))
            if (e.role == element || (element == "main" && contact->kind == ContactKind::Main))
                return contact->mover;
    return -1;
}

/// The highest level that a category can give (ISO 13849-1 clause 6.2 and figure 5).
Level highestOf(Category category)
{
    constexpr std::array highest{Level::B, Level::C, Level::D, Level::E, Level::E};
    return highest[static_cast<std::size_t>(category)];
}

std::string word(Level level)
{
    return std::string(nameOf(level));
}

class Reader {
public:
    Reader(const Dossier& dossier, const SafetyFunction& function)
        : m_dossier(dossier)
        , m_circuit(dossier.circuit)
        , m_function(function)
    {
    }

    std::vector<Contradiction> read()
    {
        readFunction();
        for (std::size_t k = 0; k < m_function.claim.size(); ++k) {
            m_subsystem = k;
            readSubsystem(m_function.claim[k]);
        }
        return std::move(m_found);
    }

private:
    const std::string& name() const { return m_function.claim[*m_subsystem].name; }

    void add(Weight weight, const char* id, std::vector<Argument> arguments, const char* clause, DeviceId device = {})
    {
        arguments.insert(arguments.begin(), m_subsystem ? name() : m_function.name);
        const std::string key(id);
        Contradiction c{weight, message(id, std::move(arguments)),
            message(("mend." + key.substr(key.find('.') + 1)).c_str()), clause, m_subsystem, device};
        if (std::find(m_found.begin(), m_found.end(), c) == m_found.end()) // two contacts of one device say the same
            m_found.push_back(std::move(c));
    }

    void readFunction()
    {
        const auto risk = levelByRisk(m_function);
        if (risk && m_function.requiredLevel && *m_function.requiredLevel < *risk)
            add(Weight::EndsLevel, "claim.required_below_risk", {word(*m_function.requiredLevel), word(*risk)},
                "ISO 13849-1 annex A");
        bool usesDuty = false;
        for (const ClaimedSubsystem& s : m_function.claim)
            for (const ClaimedChannel& c : s.channels)
                for (const ClaimedPart& p : c.parts)
                    usesDuty = usesDuty || (p.secondsPerCycle && !p.operationsPerYear);
        if (usesDuty && !m_dossier.machine.duty.isEntered)
            add(Weight::Correct, "claim.duty_assumed",
                {Measured{m_dossier.machine.duty.daysPerYear, ""}, Measured{m_dossier.machine.duty.hoursPerDay, ""}},
                "ISO 13849-1 annex C.4.2");
        if (!m_function.claim.empty())
            readReadings();
        readRareDemand();
    }

    void readReadings()
    {
        if (m_dossier.arithmetic.edition != Edition::Of2015)
            add(Weight::Correct, "claim.edition", {}, "ISO 13849-1:2015");
        for (const ReadingField& r : kReadings)
            if (r.get != kEdition.get && r.get(m_dossier.arithmetic) != 0)
                add(Weight::Remark, "claim.reading",
                    {"@reading." + std::string(r.name),
                        "@reading." + std::string(r.name) + "." + std::string(r.wordIn(m_dossier.arithmetic))},
                    "ISO 13849-1");
        if (m_dossier.arithmetic.toleranceOnLimits)
            add(Weight::Remark, "claim.tolerance", {}, "ISO 13849-1 clause 4.5.2");
        if (m_dossier.arithmetic.missionYears < kMissionYears)
            add(Weight::Remark, "claim.short_mission", {Measured{m_dossier.arithmetic.missionYears, "y"}},
                "ISO 13849-1 clause 4.5.4");
    }

    /// A test that is made by the demand alone is as rare as the demand (ISO 13849-1 clause 6.2.7, ISO 14119).
    void readRareDemand()
    {
        if (!m_function.requiredLevel || *m_function.requiredLevel < Level::D)
            return;
        const bool isMonthly = *m_function.requiredLevel == Level::E;
        const double longestDays = isMonthly ? 31.0 : 366.0;
        for (std::size_t k = 0; k < m_function.claim.size(); ++k)
            for (const ClaimedChannel& c : m_function.claim[k].channels)
                for (const ClaimedPart& p : c.parts)
                    if (p.device == m_function.trigger.device && p.dc > 0.0)
                        readDemandRate(k, p, longestDays);
    }

    void readDemandRate(std::size_t k, const ClaimedPart& p, double longestDays)
    {
        const Duty& duty = m_dossier.machine.duty;
        std::optional<double> perYear = p.operationsPerYear;
        if (!perYear && p.secondsPerCycle)
            if (const auto n = operationsPerYear(duty.daysPerYear, duty.hoursPerDay, seconds(*p.secondsPerCycle)))
                perYear = n->si();
        if (!perYear || !(*perYear > 0.0) || 365.0 / *perYear <= longestDays)
            return;
        const ManualTest& test = m_function.manualTest;
        if (!test.everyDays || *test.everyDays > longestDays) {
            m_subsystem = k;
            add(Weight::EndsLevel, "claim.rare_demand",
                {tagOf(p.device), Measured{365.0 / *perYear, "d"}, Measured{longestDays, "d"}},
                "ISO 13849-1 clause 6.2", p.device);
            m_subsystem.reset();
        } else if (test.lastOn.empty()) {
            add(Weight::Correct, "claim.test_never", {Measured{*test.everyDays, "d"}}, "ISO 13849-1 clause 6.2");
        } else {
            add(Weight::Remark, "claim.test_due", {dayAfter(test.lastOn, *test.everyDays).value_or("?")},
                "ISO 13849-1 clause 6.2");
        }
    }

    void readSubsystem(const ClaimedSubsystem& s)
    {
        if (s.encapsulated) {
            if (s.category || !s.channels.empty())
                add(Weight::EndsLevel, "claim.bought_and_designed", {tagOf(s.encapsulated)}, "ISO 13849-1 clause 6.3",
                    s.encapsulated);
            readBought(s.encapsulated);
            return;
        }
        if (m_dossier.arithmetic.missionYears > kMissionYears)
            add(Weight::EndsLevel, "claim.long_mission", {Measured{m_dossier.arithmetic.missionYears, "y"}},
                "ISO 13849-1 clause 4.5.4");
        for (const ClaimedChannel& c : s.channels)
            for (const ClaimedPart& p : c.parts)
                readPart(s, p);
        if (s.channels.size() == 2)
            readTwoChannels(s);
        for (const std::string& id : s.ccfAnswers)
            if (const auto evidence = s.ccfEvidence.find(id);
                evidence == s.ccfEvidence.end() || isBlank(evidence->second)) {
                add(Weight::Correct, "claim.ccf_without_evidence", {}, "ISO 13849-1 annex F");
                break;
            }
    }

    void readBought(DeviceId id)
    {
        const Device* device = m_circuit.device(id);
        const Reliability* data = device ? m_circuit.reliabilityOf(*device) : nullptr;
        if (!data || !data->performanceLevel)
            return;
        const Level claimed = *data->performanceLevel;
        if (data->pfhdPerHour) {
            const auto level = levelOf(perHour(*data->pfhdPerHour));
            if (!level)
                add(Weight::EndsLevel, "claim.bought_no_level", {device->tag, Measured{*data->pfhdPerHour, "1/h"}},
                    "ISO 13849-1 clause 4.5.1", id);
            else if (*level < claimed)
                add(Weight::EndsLevel, "claim.bought_level",
                    {device->tag, word(claimed), Measured{*data->pfhdPerHour, "1/h"}, word(*level)},
                    "ISO 13849-1 clause 4.5.1", id);
        }
        if (data->category && highestOf(*data->category) < claimed)
            add(Weight::EndsLevel, "claim.bought_category",
                {device->tag, word(claimed), std::string(nameOf(*data->category)), word(highestOf(*data->category))},
                "ISO 13849-1 clause 6.2", id);
    }

    void readPart(const ClaimedSubsystem& s, const ClaimedPart& p)
    {
        const Device* device = m_circuit.device(p.device);
        if (!device)
            return;
        if (p.secondsPerCycle && p.operationsPerYear)
            add(Weight::EndsLevel, "claim.both_cycles", {device->tag}, "ISO 13849-1 annex C.4.2", p.device);
        if (s.estimatedOutput && !deviceKind(device->kind)->traits.isOutputPart)
            add(Weight::EndsLevel, "claim.estimated_part", {device->tag}, "ISO 13849-1:2015 clause 4.5.5", p.device);
        if (s.wellTried && s.category == Category::One && isProgrammed(m_circuit, p.device))
            add(Weight::EndsLevel, "claim.programmable_well_tried", {device->tag}, "ISO 13849-1 clause 6.2.4",
                p.device);
        if (!p.excludedBecause.empty()) {
            if (isBlank(p.excludedBecause))
                add(Weight::EndsLevel, "claim.exclusion_no_reason", {device->tag}, "ISO 13849-2 clause 4.3", p.device);
            if (!mayBeExcluded(m_circuit, *device, p.element))
                add(Weight::EndsLevel, "claim.exclusion_no_table", {partWords(device->tag, p.element)},
                    "ISO 13849-2 tables D.4 to D.9", p.device);
            return;
        }
        const bool byMirror = p.measure == "output.direct" && saysNo(m_circuit, *device, "mirror_contacts");
        if (byMirror && p.dc > 0.0)
            add(Weight::EndsLevel, "claim.no_mirror", {device->tag}, "IEC 60947-4-1 annex F", p.device);
        const Reliability* data = m_circuit.reliabilityOf(*device);
        const bool isDirect = data
            && std::find(kDirectOpeningRows.begin(), kDirectOpeningRows.end(), data->typicalPart)
                != kDirectOpeningRows.end();
        if (isDirect && saysNo(m_circuit, *device, "direct_opening"))
            add(Weight::EndsLevel, "claim.no_direct_opening", {device->tag}, "IEC 60947-5-1 annex K", p.device);
    }

    void readTwoChannels(const ClaimedSubsystem& s)
    {
        for (const ClaimedPart& a : s.channels[0].parts)
            for (const ClaimedPart& b : s.channels[1].parts)
                if (isOnePart(m_circuit, a, b))
                    add(Weight::EndsLevel, "claim.one_part_twice", {tagOf(a.device)}, "ISO 13849-1 clause 6.2",
                        a.device);
        if (std::find(s.ccfAnswers.begin(), s.ccfAnswers.end(), "separation") == s.ccfAnswers.end())
            return;
        const std::set<RouteId> first = cablesOf(s.channels[0]), second = cablesOf(s.channels[1]);
        for (RouteId id : first)
            if (second.contains(id))
                add(Weight::Correct, "claim.shared_cable", {m_circuit.route(id)->name}, "ISO 13849-1 annex F");
    }

    /// Cables that hold a wire of one of the channel's elements.
    std::set<RouteId> cablesOf(const ClaimedChannel& channel) const
    {
        std::set<RouteId> cables;
        for (const ClaimedPart& p : channel.parts)
            for (const Wire* w : wiresOf(m_circuit, p)) {
                const Route* route = m_circuit.route(w->route);
                if (route && route->kind != RouteKind::Enclosure && route->kind != RouteKind::ShieldedCable)
                    cables.insert(route->id);
            }
        return cables;
    }

    std::string tagOf(DeviceId id) const
    {
        const Device* device = m_circuit.device(id);
        return device ? device->tag : "?";
    }

    const Dossier& m_dossier;
    const Circuit& m_circuit;
    const SafetyFunction& m_function;
    std::optional<std::size_t> m_subsystem;
    std::vector<Contradiction> m_found;
};

} // namespace

std::vector<Contradiction> contradictionsOf(const Dossier& dossier, const SafetyFunction& function)
{
    return function.reliedOnByPerson ? Reader(dossier, function).read() : std::vector<Contradiction>{};
}

bool mayBeExcluded(const Circuit& circuit, const Device& device, std::string_view element)
{
    const auto body = bodyOf(circuit, device);
    const DeviceKind* kind = deviceKind(device.kind);
    if (!body || !kind)
        return false;
    if (const Element* e = elementOf(*body, element))
        if (const auto* contact = std::get_if<ContactElement>(&e->what))
            return contact->kind == ContactKind::NormallyClosed
                && !exclusionRule(circuit, device, element, "does_not_open", true).table.empty();
    return std::any_of(kind->failureModes.begin(), kind->failureModes.end(), [&](const FailureModeSpec& f) {
        return f.element == element && !exclusionRule(circuit, device, f.element, f.mode, false).table.empty();
    });
}

bool isOnePart(const Circuit& circuit, const ClaimedPart& a, const ClaimedPart& b)
{
    const Device* device = a.device == b.device ? circuit.device(a.device) : nullptr;
    if (!device)
        return false;
    if (a.element == b.element || a.element.empty() || b.element.empty())
        return true;
    const auto body = bodyOf(circuit, *device);
    const int mover = body ? moverOf(*body, a.element) : -1;
    return mover >= 0 && mover == moverOf(*body, b.element)
        && body->movers[static_cast<std::size_t>(mover)].driver != MoverSpec::Driver::Operator;
}

bool restsOnProcess(const ClaimedSubsystem& s)
{
    for (const ClaimedChannel& c : s.channels)
        for (const ClaimedPart& p : c.parts)
            if (p.dc > 0.0 && p.measure.ends_with(kProcess))
                return true;
    return false;
}

std::optional<Level> levelByRisk(const SafetyFunction& f)
{
    return f.risk ? std::optional(requiredLevelOf(*f.risk, f.emergencyStop).level) : std::nullopt;
}

} // namespace ts::safety
