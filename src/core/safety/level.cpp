#include "core/safety/level.h"

#include "core/library/table.h"

#include <algorithm>

namespace ts::safety {
namespace {

std::optional<std::size_t> rowWith(const Table& table, std::string_view column, std::string_view text)
{
    for (std::size_t row = 0; row < table.rowCount(); ++row)
        if (table.cell(row, column) == text)
            return row;
    return std::nullopt;
}

/// Row of a table whose first two columns together are "a|b".
std::optional<std::size_t> rowWithPair(const Table& table, std::string_view pair)
{
    const std::size_t bar = pair.find('|');
    if (bar == pair.npos)
        return std::nullopt;
    for (std::size_t row = 0; row < table.rowCount(); ++row)
        if (table.cell(row, table.columns()[0]) == pair.substr(0, bar) && table.cell(row, table.columns()[1]) == pair.substr(bar + 1))
            return row;
    return std::nullopt;
}

/// Works on one subsystem; values go into the function's explanation.
class SubsystemSheet {
public:
    SubsystemSheet(const Dossier& dossier, const ClaimedSubsystem& claim, FunctionLevel& function)
        : m_dossier(dossier)
        , m_claim(claim)
        , m_function(function)
    {
        m_result.name = claim.name;
        m_result.category = claim.category;
    }

    SubsystemLevel made()
    {
        if (m_claim.encapsulated)
            readMaker();
        else
            readDesign();
        return std::move(m_result);
    }

private:
    void unmet(const char* id, std::vector<Argument> arguments = {})
    {
        arguments.insert(arguments.begin(), m_claim.name);
        m_result.unmet.push_back(message(id, std::move(arguments)));
    }
    /// Said once, however many contacts of one device rest on it.
    void assume(Message what)
    {
        if (std::find(m_function.assumptions.begin(), m_function.assumptions.end(), what) == m_function.assumptions.end())
            m_function.assumptions.push_back(std::move(what));
    }
    ValueIndex value(std::string subject, const char* what, double si, const char* unit, const char* formula,
        std::vector<ValueIndex> inputs, Basis basis, std::string source)
    {
        return m_function.explanation.add({std::move(subject), what, si, unit, formula, std::move(inputs), basis, std::move(source)});
    }
    double si(ValueIndex i) const { return m_function.explanation[i].si; }

    void readMaker()
    {
        m_result.isEncapsulated = true;
        const Device* device = m_dossier.circuit.device(m_claim.encapsulated);
        if (!device)
            return unmet("level.no_device");
        const Reliability* data = m_dossier.circuit.reliabilityOf(*device);
        if (!data || !data->pfhdPerHour)
            return unmet("level.not_encapsulated", {device->tag});
        m_result.category = data->category;
        m_result.level = levelNamed(data->performanceLevel);
        m_result.pfhd = value(device->tag, "value.pfhd", *data->pfhdPerHour, "1/h", "formula.pfhd_maker", {}, Basis::Part, data->source);
    }

    void readDesign()
    {
        const auto category = categoryNamed(m_claim.category);
        if (!category)
            return unmet("level.no_category");
        for (const ClaimedChannel& channel : m_claim.channels)
            readChannel(channel);
        readCommonCause();
        if (m_claim.channels.empty())
            unmet("level.empty_channel");
        if (!m_result.unmet.empty())
            return;
        capAndJoin(*category);
        averageDc();
        m_result.unmet = conditionsAgainst(*category, m_result.mttfd);
        if (m_result.unmet.empty())
            readTable(*category);
        else
            for (Category c : {Category::Four, Category::Three, Category::One, Category::B})
                if (!m_result.best && conditionsAgainst(c, cappedFor(c)).empty())
                    m_result.best = c;
    }

    void readChannel(const ClaimedChannel& claim)
    {
        ChannelLevel channel;
        channel.name = claim.name;
        if (claim.parts.empty())
            return unmet("level.empty_channel");
        std::vector<Years> mttfds;
        std::vector<ValueIndex> inputs;
        for (const ClaimedPart& part : claim.parts) {
            PartLevel p = readPart(part);
            if (p.mttfd >= 0) {
                mttfds.push_back(years(si(p.mttfd)));
                inputs.push_back(p.mttfd);
            }
            channel.parts.push_back(std::move(p));
        }
        if (mttfds.size() == claim.parts.size())
            if (const auto joined = channelMttfd(mttfds))
                channel.mttfd = value(claim.name, "value.channel_mttfd", joined->si(), "y", "formula.channel_mttfd", inputs, Basis::Clause,
                    "ISO 13849-1 annex D.1");
        m_result.channels.push_back(std::move(channel));
    }

    PartLevel readPart(const ClaimedPart& claim)
    {
        PartLevel part{claim.device, {}, claim.role};
        const Device* device = m_dossier.circuit.device(claim.device);
        if (!device) {
            unmet("level.no_device");
            return part;
        }
        part.tag = device->tag;
        const Reliability* data = m_dossier.circuit.reliabilityOf(*device);
        if (!data)
            unmet("level.no_reliability", {part.tag});
        else if (data->pfhdPerHour)
            unmet("level.pfhd_part", {part.tag});
        else
            readMttfd(claim, *data, part);
        readCoverage(claim, part);
        return part;
    }

    void readMttfd(const ClaimedPart& claim, const Reliability& data, PartLevel& part)
    {
        Basis basis = Basis::Part;
        std::string source = data.source;
        std::optional<double> b10d = data.b10dCycles, mttfd = data.mttfdYears;
        if (!data.typicalPart.empty()) {
            const Table& table = typicalReliabilityTable();
            const auto row = rowWithPair(table, data.typicalPart);
            if (!row)
                return unmet("level.unknown_typical", {data.typicalPart});
            b10d = table.number(*row, "b10d_cycles");
            mttfd = table.number(*row, "mttfd_y");
            basis = Basis::Typical;
            source = "ISO 13849-1 annex C, " + data.typicalPart;
            assume(message("assume.typical", {part.tag, data.typicalPart}));
        }
        if (mttfd && !b10d) {
            part.mttfd = value(part.tag, "value.mttfd", *mttfd, "y", "formula.given", {}, basis, source);
            return;
        }
        part.operations = readOperations(claim, part.tag);
        if (part.operations < 0)
            return unmet("level.no_cycles", {part.tag});
        const ValueIndex wear = value(part.tag, "value.b10d", *b10d, "", "formula.given", {}, basis, source);
        const auto joined = mttfdFromB10d(cycles(*b10d), perYear(si(part.operations)));
        const auto replace = replacementTime(cycles(*b10d), perYear(si(part.operations)));
        if (!joined || !replace)
            return unmet("level.cycles_unusable", {part.tag});
        const std::vector<ValueIndex> inputs{wear, part.operations};
        part.mttfd = value(part.tag, "value.mttfd", joined->si(), "y", "formula.mttfd_from_b10d", inputs, Basis::Clause, "ISO 13849-1 annex C.4.2");
        part.t10d = value(part.tag, "value.t10d", replace->si(), "y", "formula.t10d", inputs, Basis::Clause, "ISO 13849-1 annex C.4.2");
        if (replace->si() < kMissionYears)
            assume(message("assume.t10d", {part.tag, Measured{replace->si(), "y"}}));
    }

    ValueIndex readOperations(const ClaimedPart& claim, const std::string& tag)
    {
        if (claim.operationsPerYear)
            return *claim.operationsPerYear > 0.0
                ? value(tag, "value.nop", *claim.operationsPerYear, "1/y", "formula.operations_entered", {}, Basis::Entered, claim.role)
                : -1;
        const Duty& duty = m_dossier.machine.duty;
        if (!claim.secondsPerCycle)
            return -1;
        const auto n = operationsPerYear(duty.daysPerYear, duty.hoursPerDay, seconds(*claim.secondsPerCycle));
        if (!n)
            return -1;
        const ValueIndex days = value(m_dossier.machine.name, "value.days_per_year", duty.daysPerYear, "", "formula.given", {}, Basis::Entered, "duty of the machine");
        const ValueIndex hours = value(m_dossier.machine.name, "value.hours_per_day", duty.hoursPerDay, "", "formula.given", {}, Basis::Entered, "duty of the machine");
        const ValueIndex cycle = value(tag, "value.cycle_time", *claim.secondsPerCycle, "s", "formula.given", {}, Basis::Entered, claim.role);
        return value(tag, "value.nop", n->si(), "1/y", "formula.operations_per_year", {days, hours, cycle}, Basis::Clause, "ISO 13849-1 annex C.4.2");
    }

    void readCoverage(const ClaimedPart& claim, PartLevel& part)
    {
        std::string source = "untested";
        if (claim.measure.empty() && claim.dc > 0.0)
            return unmet("level.dc_without_measure", {Measured{claim.dc, "%"}, part.tag});
        if (!claim.measure.empty()) {
            const Table& table = dcMeasuresTable();
            const auto row = rowWithPair(table, claim.measure);
            if (!row)
                return unmet("level.measure_unknown", {claim.measure});
            const double low = table.number(*row, "dc_min").value_or(0.0), high = table.number(*row, "dc_max").value_or(0.0);
            if (claim.dc < low - 1e-9 || claim.dc > high + 1e-9)
                return unmet("level.measure_range", {Measured{claim.dc, "%"}, part.tag, Measured{low, "%"}, Measured{high, "%"}});
            source = "ISO 13849-1 annex E: " + std::string(table.cell(*row, "measure"));
        }
        part.coverage = value(part.tag, "value.dc", claim.dc, "%", "formula.given", {}, Basis::Entered, source);
    }

    void readCommonCause()
    {
        double points = 0.0;
        std::string answered;
        const Table& table = ccfMeasuresTable();
        for (const std::string& id : m_claim.ccfAnswers) {
            const auto row = rowWith(table, "id", id);
            if (!row) {
                unmet("level.ccf_unknown", {id});
                continue;
            }
            points += table.number(*row, "points").value_or(0.0);
            answered += (answered.empty() ? "" : ", ") + id;
        }
        m_result.commonCause = value(m_claim.name, "value.ccf", points, "", "formula.ccf", {}, Basis::Entered, "ISO 13849-1 annex F: " + answered);
    }

    /// Value of the joined channels under a category's cap, without leaving a trace in the explanation.
    Years joinedUnder(Category category) const
    {
        const auto capped = [&](const ChannelLevel& c) { return std::min(years(si(c.mttfd)), mttfdCap(category)); };
        const Years first = capped(m_result.channels.front());
        return m_result.channels.size() < 2 ? first : symmetrisedMttfd(first, capped(m_result.channels.back()));
    }
    double cappedFor(Category category) const { return joinedUnder(category).si(); }

    void capAndJoin(Category category)
    {
        const double cap = mttfdCap(category).si();
        std::vector<ValueIndex> inputs;
        for (ChannelLevel& c : m_result.channels) {
            c.capped = c.mttfd;
            if (si(c.mttfd) > cap) {
                c.capped = value(c.name, "value.channel_capped", cap, "y", "formula.capped", {c.mttfd}, Basis::Clause, "ISO 13849-1 clause 4.5.2");
                assume(message("assume.capped", {c.name, Measured{cap, "y"}}));
            }
            inputs.push_back(c.capped);
        }
        m_result.mttfd = inputs.front();
        if (inputs.size() > 1)
            m_result.mttfd = value(m_claim.name, "value.subsystem_mttfd", joinedUnder(category).si(), "y", "formula.symmetrised", inputs,
                Basis::Clause, "ISO 13849-1 annex D.2");
    }

    void averageDc()
    {
        std::vector<PartCoverage> parts;
        std::vector<ValueIndex> inputs;
        for (const ChannelLevel& c : m_result.channels)
            for (const PartLevel& p : c.parts) {
                parts.push_back({years(si(p.mttfd)), si(p.coverage)});
                inputs.push_back(p.coverage);
                inputs.push_back(p.mttfd);
            }
        if (const auto dc = averageCoverage(parts))
            m_result.coverage = value(m_claim.name, "value.dc_average", *dc, "%", "formula.dc_average", inputs, Basis::Clause, "ISO 13849-1 annex E.2");
    }

    std::vector<Message> conditionsAgainst(Category category, ValueIndex mttfd) const { return conditionsAgainst(category, si(mttfd)); }

    /// Clause 6.2: what is missing for a category.
    std::vector<Message> conditionsAgainst(Category category, double mttfd) const
    {
        std::vector<Message> missing;
        const auto miss = [&](const char* id, std::vector<Argument> more = {}) {
            more.insert(more.begin(), m_claim.name);
            missing.push_back(message(id, std::move(more)));
        };
        const std::string name(nameOf(category));
        const double coverage = m_result.coverage >= 0 ? si(m_result.coverage) : 0.0;
        const bool oneChannel = category == Category::B || category == Category::One;
        if (oneChannel && m_result.channels.size() != 1)
            miss("level.channels_one", {name});
        if (category == Category::Two)
            miss("level.category_two");
        if (category >= Category::Three && m_result.channels.size() != 2)
            miss("level.channels_two", {name});
        for (const ChannelLevel& c : m_result.channels)
            if (mttfdClass(years(si(c.mttfd))) == MttfdClass::NotAcceptable)
                miss("level.mttfd_low", {Measured{si(c.mttfd), "y"}});
        if ((category == Category::One || category == Category::Four) && mttfdClass(years(mttfd)) != MttfdClass::High)
            miss("level.mttfd_not_high", {name, Measured{mttfd, "y"}});
        if (category == Category::One && !m_claim.wellTried)
            miss("level.well_tried");
        if (category == Category::Three && coverageClass(coverage) == CoverageClass::None)
            miss("level.dc_not_low", {Measured{coverage, "%"}});
        if (category == Category::Four && coverageClass(coverage) != CoverageClass::High)
            miss("level.dc_not_high", {Measured{coverage, "%"}});
        if (category >= Category::Two && si(m_result.commonCause) < kCommonCausePoints)
            miss("level.ccf", {static_cast<long long>(si(m_result.commonCause))});
        return missing;
    }

    void readTable(Category category)
    {
        const Method method = m_dossier.arithmetic.method == "interpolated" ? Method::Interpolated : Method::Row;
        const CoverageClass coverage = coverageClass(m_result.coverage >= 0 ? si(m_result.coverage) : 0.0);
        const auto pfhd = tablePfhd(category, coverage, years(si(m_result.mttfd)), method);
        if (!pfhd)
            return unmet("level.no_row");
        m_result.pfhd = value(m_claim.name, "value.pfhd", pfhd->si(), "1/h", method == Method::Row ? "formula.pfhd_row" : "formula.pfhd_interpolated",
            {m_result.mttfd, m_result.coverage}, Basis::Clause, "ISO 13849-1 annex K");
        m_result.level = levelOf(*pfhd);
        if (category == Category::B && m_result.level) // clause 6.2.3: at most PL b
            m_result.level = lower(*m_result.level, Level::B);
        if (category == Category::One && m_result.level) // clause 6.2.4: at most PL c
            m_result.level = lower(*m_result.level, Level::C);
    }

    const Dossier& m_dossier;
    const ClaimedSubsystem& m_claim;
    FunctionLevel& m_function;
    SubsystemLevel m_result;
};

void sumUp(FunctionLevel& f)
{
    double total = 0.0;
    std::optional<Level> lowest = Level::E;
    std::vector<ValueIndex> inputs;
    for (const SubsystemLevel& s : f.subsystems) {
        if (!s.level || s.pfhd < 0)
            return;
        total += f.explanation[s.pfhd].si;
        inputs.push_back(s.pfhd);
        lowest = lower(*lowest, *s.level);
    }
    f.pfhd = f.explanation.add({"", "value.pfhd_total", total, "1/h", "formula.pfhd_sum", inputs, Basis::Clause, "ISO 13849-1 clause 6.3"});
    if (const auto level = levelOf(perHour(total)))
        f.level = lower(*level, *lowest);
}

} // namespace

int FunctionLevel::weakest() const
{
    int worst = -1;
    double most = -1.0;
    for (std::size_t k = 0; k < subsystems.size(); ++k) {
        if (!subsystems[k].level)
            return static_cast<int>(k);
        if (explanation[subsystems[k].pfhd].si > most) {
            most = explanation[subsystems[k].pfhd].si;
            worst = static_cast<int>(k);
        }
    }
    return worst;
}

std::vector<std::string> unansweredConditions(const SafetyFunction& f)
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
    return open;
}

FunctionLevel functionLevel(const Dossier& dossier, const SafetyFunction& function)
{
    FunctionLevel result;
    result.function = function.id;
    result.required = levelNamed(function.requiredLevel);
    result.conditionsAnswered = unansweredConditions(function).empty();
    result.assumptions.push_back(message("assume.claim"));
    result.assumptions.push_back(message("assume.cycles"));
    if (function.claim.empty())
        result.unmet.push_back(message("level.no_claim"));
    for (const ClaimedSubsystem& claim : function.claim)
        result.subsystems.push_back(SubsystemSheet(dossier, claim, result).made());
    if (!result.subsystems.empty())
        sumUp(result);
    return result;
}

} // namespace ts::safety
