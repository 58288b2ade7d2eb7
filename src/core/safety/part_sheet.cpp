#include "core/safety/part_sheet.h"

#include "core/library/table.h"

#include <algorithm>
#include <set>

namespace ts::safety {
namespace {

constexpr double kUnknownDangerousShare = 0.5; ///< ISO 13849-1 annex C.4.2 and C.5.1

class PartSheet {
public:
    PartSheet(SheetContext context, const ClaimedPart& claim)
        : m_context(context)
        , m_claim(claim)
    {
        m_part.level.device = claim.device;
        m_part.level.role = elementWords(claim.element);
        m_part.numbers.device = claim.device;
    }

    ReadPart read()
    {
        const Device* device = m_context.dossier.circuit.device(m_claim.device);
        if (!device) {
            m_context.miss("level.no_device");
            return std::move(m_part);
        }
        m_part.level.tag = device->tag;
        if (!m_claim.excludedBecause.empty()) {
            m_part.level.isExcluded = m_part.numbers.isExcluded = true;
            m_context.assume(message("assume.excluded", {partWords(tag(), m_claim.element), m_claim.excludedBecause}));
            return std::move(m_part);
        }
        const Reliability* data = m_context.dossier.circuit.reliabilityOf(*device);
        if (m_context.isEstimated)
            m_part.numbers.mttfdYears = 1.0; // every part has the same weight in DCavg
        else if (!data)
            m_context.miss("level.no_reliability", {tag()});
        else if (data->pfhdPerHour)
            m_context.miss("level.pfhd_part", {tag()});
        else
            readMttfd(*data);
        readCoverage();
        return std::move(m_part);
    }

private:
    const std::string& tag() const { return m_part.level.tag; }

    ValueIndex given(const char* what, double value, const char* unit, Basis basis, const std::string& source)
    {
        return m_context.value(tag(), what, value, unit, "formula.given", {}, basis, source);
    }

    void readMttfd(const Reliability& data)
    {
        m_basis = Basis::Part;
        m_source = data.source;
        std::optional<double> b10d = data.b10dCycles, mttfd = data.mttfdYears;
        if (!data.typicalPart.empty()) {
            const Table& table = typicalReliabilityTable();
            const auto row = rowOf(table, data.typicalPart);
            if (!row)
                return m_context.miss("level.unknown_typical", {data.typicalPart});
            b10d = table.number(*row, "b10d_cycles");
            mttfd = table.number(*row, "mttfd_y");
            m_basis = Basis::Typical;
            const std::string said = std::string(table.cell(*row, "part")) + "|"
                + std::string(table.cell(*row, "load"));
            m_source = "ISO 13849-1 annex C, " + said;
            m_context.assume(message("assume.typical", {tag(), said}));
        }
        m_part.numbers.basis = m_basis;
        if (b10d)
            readWear(given("value.b10d", *b10d, "", m_basis, m_source));
        else if (data.b10Cycles)
            readWear(fromAllFailures(
                "value.b10", *data.b10Cycles, "", "value.b10d", "formula.b10d_from_b10", data.dangerousShare));
        else if (data.mttfYears)
            setMttfd(fromAllFailures(
                "value.mttf", *data.mttfYears, "y", "value.mttfd", "formula.mttfd_from_mttf", data.dangerousShare));
        else if (data.fitDangerous)
            readFit(*data.fitDangerous);
        else
            setMttfd(given("value.mttfd", *mttfd, "y", m_basis, m_source));
    }

    void setMttfd(ValueIndex v)
    {
        m_part.level.mttfd = v;
        m_part.numbers.mttfdYears = m_context.si(v);
    }

    /// A value that counts all failures, by the share of dangerous ones.
    ValueIndex fromAllFailures(const char* what, double all, const char* unit, const char* result, const char* formula,
        std::optional<double> dangerousShare)
    {
        const double share = dangerousShare.value_or(kUnknownDangerousShare);
        const ValueIndex whole = given(what, all, unit, m_basis, m_source);
        const ValueIndex dangerous = dangerousShare
            ? given("value.dangerous_share", share, "%", Basis::Part, m_source)
            : given("value.dangerous_share", share, "%", Basis::Clause, "ISO 13849-1 annex C, not known: one half");
        if (!dangerousShare)
            m_context.assume(message("assume.dangerous_share", {tag()}));
        const double value = b10dFromB10(cycles(all), share)->si(); // the same quotient for both
        return m_context.value(
            tag(), result, value, unit, formula, {whole, dangerous}, Basis::Clause, "ISO 13849-1 annex C");
    }

    void readFit(double fit)
    {
        const ValueIndex rate = given("value.fit", fit, "", m_basis, m_source);
        setMttfd(m_context.value(tag(), "value.mttfd", mttfdFromFit(fit)->si(), "y", "formula.mttfd_from_fit", {rate},
            Basis::Clause, "ISO 13849-1 annex C.5"));
    }

    void readWear(ValueIndex wear)
    {
        m_part.level.operations = readOperations();
        if (m_part.level.operations < 0)
            return m_context.miss("level.no_cycles", {tag()});
        const double b10d = m_context.si(wear), operations = m_context.si(m_part.level.operations);
        const auto mean = mttfdFromB10d(cycles(b10d), perYear(operations));
        const auto replace = replacementTime(cycles(b10d), perYear(operations));
        if (!mean || !replace)
            return m_context.miss("level.cycles_unusable", {tag()});
        const std::vector<ValueIndex> inputs{wear, m_part.level.operations};
        m_part.level.mttfd = m_context.value(tag(), "value.mttfd", mean->si(), "y", "formula.mttfd_from_b10d", inputs,
            Basis::Clause, "ISO 13849-1 annex C.4.2");
        m_part.level.t10d = m_context.value(
            tag(), "value.t10d", replace->si(), "y", "formula.t10d", inputs, Basis::Clause, "ISO 13849-1 annex C.4.2");
        m_part.numbers.b10dCycles = b10d;
        m_part.numbers.operationsPerYear = operations;
        if (replace->si() < m_context.dossier.arithmetic.missionYears)
            m_context.assume(message("assume.t10d",
                {tag(), Measured{replace->si(), "y"}, Measured{m_context.dossier.arithmetic.missionYears, "y"}}));
    }

    ValueIndex readOperations()
    {
        if (m_claim.operationsPerYear)
            return *m_claim.operationsPerYear > 0.0 ? m_context.value(tag(), "value.nop", *m_claim.operationsPerYear,
                       "1/y", "formula.operations_entered", {}, Basis::Entered, elementWords(m_claim.element))
                                                    : -1;
        const Duty& duty = m_context.dossier.machine.duty;
        const std::string& machine = m_context.dossier.machine.name;
        if (!m_claim.secondsPerCycle)
            return -1;
        const auto n = operationsPerYear(duty.daysPerYear, duty.hoursPerDay, seconds(*m_claim.secondsPerCycle));
        if (!n)
            return -1;
        const Basis basis = duty.isEntered ? Basis::Entered : Basis::Assumed;
        const char* from = duty.isEntered ? "duty of the machine" : "nobody has entered the machine's duty";
        const ValueIndex days = m_context.value(
            machine, "value.days_per_year", duty.daysPerYear, "", "formula.given", {}, basis, from);
        const ValueIndex hours = m_context.value(
            machine, "value.hours_per_day", duty.hoursPerDay, "", "formula.given", {}, basis, from);
        const ValueIndex cycle = given(
            "value.cycle_time", *m_claim.secondsPerCycle, "s", Basis::Entered, elementWords(m_claim.element));
        return m_context.value(tag(), "value.nop", n->si(), "1/y", "formula.operations_per_year", {days, hours, cycle},
            Basis::Clause, "ISO 13849-1 annex C.4.2");
    }

    void readCoverage()
    {
        std::string source = "untested";
        m_part.numbers.isTested = !m_claim.measure.empty();
        m_part.numbers.coverage = m_claim.dc;
        if (m_claim.measure.empty() && m_claim.dc > 0.0)
            return m_context.miss("level.dc_without_measure", {Measured{m_claim.dc, "%"}, tag()});
        if (!m_claim.measure.empty()) {
            const Table& table = dcMeasuresTable();
            const auto row = rowOf(table, m_claim.measure);
            if (!row)
                return m_context.miss("level.measure_unknown", {m_claim.measure});
            const double low = table.number(*row, "dc_min").value_or(0.0),
                         high = table.number(*row, "dc_max").value_or(0.0);
            if (!(m_claim.dc >= low - 1e-9 && m_claim.dc <= high + 1e-9)) // NaN fails here too
                return m_context.miss(
                    "level.measure_range", {Measured{m_claim.dc, "%"}, tag(), Measured{low, "%"}, Measured{high, "%"}});
            source = "ISO 13849-1 annex E: " + std::string(table.cell(*row, "measure"));
        }
        m_part.level.coverage = given("value.dc", m_claim.dc, "%", Basis::Entered, source);
    }

    SheetContext m_context;
    const ClaimedPart& m_claim;
    ReadPart m_part;
    Basis m_basis = Basis::Part;
    std::string m_source;
};

} // namespace

void SheetContext::miss(const char* id, std::vector<Argument> arguments)
{
    arguments.insert(arguments.begin(), subsystem);
    Message what = message(id, std::move(arguments));
    if (std::find(unmet.begin(), unmet.end(), what) == unmet.end()) // both contacts of one device miss the same
        unmet.push_back(std::move(what));
}

void SheetContext::assume(Message what)
{
    if (std::find(function.assumptions.begin(), function.assumptions.end(), what) == function.assumptions.end())
        function.assumptions.push_back(std::move(what));
}

ValueIndex SheetContext::value(std::string subject, const char* what, double si, const char* unit, const char* formula,
    std::vector<ValueIndex> inputs, Basis basis, std::string source)
{
    return function.explanation.add(
        {std::move(subject), what, si, unit, formula, std::move(inputs), basis, std::move(source)});
}

ReadPart readPart(SheetContext context, const ClaimedPart& claim)
{
    return PartSheet(context, claim).read();
}

std::string ccfMeasureText(std::string_view id)
{
    const Table& table = ccfMeasuresTable();
    const auto row = rowOf(table, id);
    const std::string_view text = row ? table.cell(*row, "measure") : id;
    return std::string(text.substr(0, std::min(text.find(" ("), text.find(';'))));
}

ValueIndex readCommonCause(SheetContext context, const ClaimedSubsystem& claim)
{
    double points = 0.0;
    std::string answered;
    std::set<std::string> seen;
    const Table& table = ccfMeasuresTable();
    for (const std::string& id : claim.ccfAnswers) {
        const auto row = rowOf(table, id);
        if (!row)
            context.miss("level.ccf_unknown", {id});
        else if (seen.insert(id).second) { // an answer counts once, however often it is given
            points += table.number(*row, "points").value_or(0.0);
            answered += (answered.empty() ? "" : "; ") + ccfMeasureText(id);
        }
    }
    return context.value(
        claim.name, "value.ccf", points, "", "formula.ccf", {}, Basis::Entered, "ISO 13849-1 annex F: " + answered);
}

} // namespace ts::safety
