#include "core/safety/level.h"

#include "core/base/date.h"
#include "core/library/registry.h"
#include "core/safety/part_sheet.h"

#include <algorithm>

namespace ts::safety {
namespace {

constexpr double kDaysPerYear = 365.0;

/// Works on one subsystem; values go into the function's explanation.
class SubsystemSheet {
public:
    SubsystemSheet(const Dossier& dossier, std::size_t place, const ClaimedSubsystem& claim, FunctionLevel& function)
        : m_claim(claim)
        , m_context{dossier, claim.name, function, m_result.unmet, claim.estimatedOutput}
        , m_readings(readingsOf(dossier.arithmetic))
        , m_place(place)
    {
        m_result.name = claim.name;
        m_result.category = wordOf(claim.category);
        for (const Contradiction& c : function.contradictions)
            if (c.subsystem == place && c.weight == Contradiction::Weight::EndsLevel)
                m_result.unmet.push_back(c.what);
    }

    /// The bare numbers are in `numbers` if everything had some.
    SubsystemLevel made(std::optional<ChainSubsystem>& numbers)
    {
        if (m_claim.encapsulated)
            readMaker();
        else
            readDesign();
        if (m_hasNumbers)
            numbers = std::move(m_numbers);
        return std::move(m_result);
    }

private:
    double si(ValueIndex i) const { return m_context.si(i); }

    void readMaker()
    {
        m_result.isEncapsulated = true;
        const Device* device = m_context.dossier.circuit.device(m_claim.encapsulated);
        if (!device)
            return m_context.miss("level.no_device");
        const Reliability* data = m_context.dossier.circuit.reliabilityOf(*device);
        if (!data || !(data->pfhdPerHour || data->performanceLevel))
            return m_context.miss("level.not_encapsulated", {device->tag});
        m_result.category = wordOf(data->category);
        if (m_result.unmet.empty())
            m_result.level = data->performanceLevel;
        m_numbers.isLevelOnly = !data->pfhdPerHour;
        m_numbers.makerLevel = m_result.level.value_or(Level::A);
        m_hasNumbers = m_result.level.has_value();
        if (!data->pfhdPerHour)
            return m_context.assume(
                message("assume.level_only", {m_claim.name, device->tag, word(data->performanceLevel)}));
        m_result.pfhd = m_context.value(
            device->tag, "value.pfhd", *data->pfhdPerHour, "1/h", "formula.pfhd_maker", {}, Basis::Part, data->source);
        m_numbers.makerPfhd = perHour(*data->pfhdPerHour);
    }

    static std::string word(std::optional<Level> level) { return level ? std::string(nameOf(*level)) : "-"; }

    void readDesign()
    {
        const auto category = m_claim.category;
        if (!category)
            return m_context.miss("level.no_category");
        m_numbers.category = *category;
        for (const ClaimedChannel& channel : m_claim.channels) {
            m_numbers.channels.emplace_back();
            m_result.channels.push_back(readChannel(channel, m_numbers.channels.back()));
        }
        if (m_claim.channels.empty())
            m_context.miss("level.empty_channel");
        if (m_claim.test)
            readTest(*m_claim.test);
        m_result.commonCause = readCommonCause(m_context, m_claim);
        if (!m_result.unmet.empty())
            return;
        m_numbers.facts.commonCausePoints = si(m_result.commonCause);
        m_numbers.facts.wellTried = m_claim.wellTried;
        m_numbers.facts.isEstimated = m_claim.estimatedOutput;
        m_numbers.isAtMostD = m_isGuardExcluded || restsOnProcess(m_claim);
        m_hasNumbers = true;
        m_facts = factsOf(m_numbers, m_readings);
        if (m_claim.estimatedOutput)
            m_context.assume(message("assume.estimated_output", {m_claim.name}));
        else
            capAndJoin(*category);
        averageDc();
        m_result.conditions = conditionsOf(*category, m_facts, m_readings, m_claim.name);
        for (const Condition& c : m_result.conditions)
            if (c.met != Met::Yes)
                m_result.unmet.push_back(c.unmet);
        if (m_result.unmet.empty())
            readTable(*category);
        else
            m_result.best = bestCategory(m_facts, m_readings);
    }

    ChannelLevel readChannel(const ClaimedChannel& claim, std::vector<ChainPart>& numbers)
    {
        ChannelLevel channel;
        channel.name = claim.name;
        if (claim.parts.empty()) {
            m_context.miss("level.empty_channel");
            return channel;
        }
        std::vector<Years> mttfds;
        std::vector<ValueIndex> inputs;
        bool isComplete = true;
        for (const ClaimedPart& part : claim.parts) {
            ReadPart p = readPart(m_context, part);
            if (p.level.mttfd >= 0) {
                mttfds.push_back(years(si(p.level.mttfd)));
                inputs.push_back(p.level.mttfd);
            } else if (!p.level.isExcluded) {
                isComplete = false;
            }
            noteGuardExclusion(p);
            channel.parts.push_back(std::move(p.level));
            numbers.push_back(p.numbers);
        }
        if (isComplete && mttfds.empty())
            m_context.miss("level.all_excluded", {claim.name});
        else if (isComplete)
            channel.mttfd = m_context.value(claim.name, "value.channel_mttfd", channelMttfd(mttfds)->si(), "y",
                "formula.channel_mttfd", inputs, Basis::Clause, "ISO 13849-1 annex D.1");
        return channel;
    }

    void noteGuardExclusion(const ReadPart& p)
    {
        if (!p.level.isExcluded)
            return;
        const Device& device = *m_context.dossier.circuit.device(p.level.device);
        m_isGuardExcluded = m_isGuardExcluded || deviceKind(device.kind)->traits.hasExternalActuator;
    }

    void readTest(const ClaimedTest& claim)
    {
        m_result.test = readChannel(claim.equipment, m_numbers.test);
        m_numbers.facts.isTested = true;
        m_numbers.facts.testOnlyWarns = claim.onlyWarns;
        m_numbers.facts.testsPerDemand = claim.testsPerDemand;
        if (claim.testsPerDemand && *claim.testsPerDemand < kFullTestRate && *claim.testsPerDemand >= kLeastTestRate)
            m_context.assume(
                message("assume.test_rate", {m_claim.name, static_cast<long long>(*claim.testsPerDemand)}));
        if (claim.onlyWarns)
            m_context.assume(message("assume.test_warns", {m_claim.name}));
    }

    void capAndJoin(Category category)
    {
        const double cap = mttfdCap(category).si();
        std::vector<ValueIndex> inputs;
        for (ChannelLevel& c : m_result.channels) {
            c.capped = c.mttfd;
            if (si(c.mttfd) > cap) {
                c.capped = m_context.value(c.name, "value.channel_capped", cap, "y", "formula.capped", {c.mttfd},
                    Basis::Clause, "ISO 13849-1 clause 4.5.2");
                m_context.assume(message("assume.capped", {c.name, Measured{cap, "y"}}));
            }
            inputs.push_back(c.capped);
        }
        m_result.mttfd = inputs.front();
        if (inputs.size() > 1)
            m_result.mttfd = m_context.value(m_claim.name, "value.subsystem_mttfd", joinedMttfd(category, m_facts).si(),
                "y", "formula.symmetrised", inputs, Basis::Clause, "ISO 13849-1 annex D.2");
    }

    void averageDc()
    {
        std::vector<ValueIndex> inputs;
        for (const ChannelLevel& c : m_result.channels)
            for (const PartLevel& p : c.parts)
                if (!p.isExcluded) {
                    inputs.push_back(p.coverage);
                    if (p.mttfd >= 0)
                        inputs.push_back(p.mttfd);
                }
        m_result.coverage = m_context.value(m_claim.name, "value.dc_average", m_facts.coverage, "%",
            m_claim.estimatedOutput         ? "formula.dc_mean"
                : m_readings.untestedAsZero ? "formula.dc_average"
                                            : "formula.dc_average_tested",
            inputs, Basis::Clause, "ISO 13849-1 annex E.2");
    }

    void readTable(Category category)
    {
        const auto figures = tableFigures(category, m_facts, m_readings);
        if (!figures)
            return m_context.miss("level.no_row");
        if (m_claim.estimatedOutput) {
            m_result.pfhd = m_context.value(m_claim.name, "value.pfhd", figures->pfhd.si(), "1/h",
                "formula.pfhd_by_category", {}, Basis::Clause, "ISO 13849-1:2015 clause 4.5.5");
            m_result.level = figures->level;
            return;
        }
        const char* formula = m_readings.method == PfhdMethod::Row ? "formula.pfhd_row" : "formula.pfhd_interpolated";
        const bool isRare = category == Category::Two && m_facts.testsPerDemand
            && *m_facts.testsPerDemand < kFullTestRate;
        m_result.pfhd = m_context.value(m_claim.name, "value.pfhd", figures->pfhd.si(), "1/h",
            isRare ? "formula.pfhd_rarely_tested" : formula, {m_result.mttfd, m_result.coverage}, Basis::Clause,
            "ISO 13849-1 annex K");
        m_result.level = figures->level;
        if (!m_numbers.isAtMostD || *m_result.level != Level::E)
            return;
        m_result.level = Level::D;
        const bool isByProcess = restsOnProcess(m_claim);
        m_context.assume(message(isByProcess ? "assume.process" : "assume.guard_exclusion", {m_claim.name}));
        if (isByProcess)
            m_context.function.contradictions.push_back({Contradiction::Weight::Correct,
                message("claim.process", {m_claim.name}), message("mend.process"), "ISO 13849-1 annex E", m_place, {}});
    }

    const ClaimedSubsystem& m_claim;
    SubsystemLevel m_result;
    SheetContext m_context;
    Readings m_readings;
    ChainSubsystem m_numbers;
    CategoryFacts m_facts;
    bool m_hasNumbers = false, m_isGuardExcluded = false;
    std::size_t m_place;
};

void sumUp(FunctionLevel& f)
{
    double total = 0.0;
    std::vector<Level> levels;
    std::vector<ValueIndex> inputs;
    bool hasAll = true;
    for (const SubsystemLevel& s : f.subsystems) {
        if (!s.level)
            return;
        levels.push_back(*s.level);
        hasAll = hasAll && s.pfhd >= 0;
        if (s.pfhd < 0)
            continue;
        total += f.explanation[s.pfhd].si;
        inputs.push_back(s.pfhd);
    }
    f.levelByCount = levelByCount(levels);
    if (!hasAll)
        f.assumptions.push_back(message("assume.by_count"));
    else
        f.pfhd = f.explanation.add({"", "value.pfhd_total", total, "1/h", "formula.pfhd_sum", inputs, Basis::Clause,
            "ISO 13849-1 clause 6.3"});
    f.level = combinedLevel(levels, hasAll ? std::optional(perHour(total)) : std::nullopt);
}

/// Parts that wear out before the mission time ends, each once (ISO 13849-1 annex C.4.2).
void addReplacements(const Dossier& dossier, FunctionLevel& f)
{
    const double mission = dossier.arithmetic.missionYears;
    std::vector<DeviceId> told;
    for (std::size_t k = 0; k < f.subsystems.size(); ++k)
        for (const ChannelLevel& c : f.subsystems[k].channels)
            for (const PartLevel& p : c.parts) {
                const double t10d = p.t10d >= 0 ? f.explanation[p.t10d].si : mission;
                if (t10d >= mission || std::find(told.begin(), told.end(), p.device) != told.end())
                    continue;
                told.push_back(p.device);
                const auto due = dayAfter(dossier.machine.inUseSince, t10d * kDaysPerYear);
                if (due)
                    f.replacements.push_back({p.device, t10d, *due});
                f.contradictions.push_back({due ? Contradiction::Weight::Remark : Contradiction::Weight::Correct,
                    due ? message("claim.replace_on", {f.subsystems[k].name, p.tag, *due})
                        : message("claim.replace", {f.subsystems[k].name, p.tag, Measured{t10d, "y"}}),
                    message(due ? "mend.replace_on" : "mend.replace"), "ISO 13849-1 annex C.4.2", k, p.device});
            }
}

} // namespace

int FunctionLevel::weakest() const
{
    int worst = -1;
    double most = -1.0;
    for (std::size_t k = 0; k < subsystems.size(); ++k) {
        if (!subsystems[k].level || subsystems[k].pfhd < 0)
            return static_cast<int>(k);
        if (explanation[subsystems[k].pfhd].si > most) {
            most = explanation[subsystems[k].pfhd].si;
            worst = static_cast<int>(k);
        }
    }
    return worst;
}

bool hasApplicationSoftware(const Circuit& circuit, const SafetyFunction& f)
{
    const auto isProgrammed = [&circuit](DeviceId id) {
        const Device* device = circuit.device(id);
        const DeviceKind* kind = device ? deviceKind(device->kind) : nullptr;
        return kind && kind->traits.isProgrammed;
    };
    return std::any_of(f.claim.begin(), f.claim.end(), [&](const ClaimedSubsystem& s) {
        return isProgrammed(s.encapsulated)
            || std::any_of(s.channels.begin(), s.channels.end(), [&](const ClaimedChannel& c) {
                   return std::any_of(
                       c.parts.begin(), c.parts.end(), [&](const ClaimedPart& p) { return isProgrammed(p.device); });
               });
    });
}

std::vector<std::string> unansweredConditions(const Circuit& circuit, const SafetyFunction& f)
{
    std::vector<std::string> open;
    if (!f.conditions.basicPrinciples)
        open.push_back("condition.basic_principles");
    if (!f.conditions.wellTriedPrinciples)
        open.push_back("condition.well_tried_principles");
    if (!f.conditions.systematicFailures)
        open.push_back("condition.systematic_failures");
    if (!f.conditions.environment)
        open.push_back("condition.environment");
    const bool isReviewed = f.conditions.software && !f.conditions.softwareVersion.empty()
        && !f.conditions.softwareChecksum.empty();
    if (!isReviewed && hasApplicationSoftware(circuit, f))
        open.push_back("condition.software");
    return open;
}

FunctionLevel functionLevel(const Dossier& dossier, const SafetyFunction& function)
{
    FunctionLevel result;
    result.function = function.id;
    result.required = function.requiredLevel;
    result.contradictions = contradictionsOf(dossier, function);
    if (const auto risk = levelByRisk(function); risk && result.required && *result.required < *risk)
        result.required = risk; // the higher one is what a person needs
    result.conditionsAnswered = unansweredConditions(dossier.circuit, function).empty();
    result.assumptions.push_back(message("assume.claim"));
    result.assumptions.push_back(message("assume.cycles"));
    result.assumptions.push_back(message("assume.edition"));
    if (function.claim.empty())
        result.unmet.push_back(message("level.no_claim"));
    Chain chain{{}, readingsOf(dossier.arithmetic)};
    for (const ClaimedSubsystem& claim : function.claim) {
        std::optional<ChainSubsystem> numbers;
        result.subsystems.push_back(SubsystemSheet(dossier, result.subsystems.size(), claim, result).made(numbers));
        if (numbers)
            chain.subsystems.push_back(std::move(*numbers));
    }
    if (result.subsystems.empty())
        return result;
    if (chain.subsystems.size() == function.claim.size())
        result.chain = std::move(chain);
    sumUp(result);
    addReplacements(dossier, result);
    return result;
}

} // namespace ts::safety
