#include "wording/level_pictures.h"

#include "core/library/table.h"
#include "core/safety/markov.h"
#include "wording/wording.h"

#include <array>

namespace ts::wording {
namespace {

constexpr double kVisibly = 1.01; ///< what draws that hardly differ hang on is nobody's concern

void addParts(
    std::size_t place, const safety::SubsystemLevel& s, const safety::Explanation& values, std::vector<PartShare>& list)
{
    struct Share {
        int channel;
        std::size_t part;
        double rate, hiddenRate;
    };
    std::vector<Share> parts;
    double rates = 0, hidden = 0;
    for (std::size_t c = 0; c < s.channels.size(); ++c)
        for (std::size_t k = 0; k < s.channels[c].parts.size(); ++k) {
            const safety::PartLevel& p = s.channels[c].parts[k];
            if (p.mttfd < 0)
                continue;
            const double rate = 1.0 / values[p.mttfd].si, dc = p.coverage >= 0 ? values[p.coverage].si : 0.0;
            parts.push_back({static_cast<int>(c), k, rate, rate * (1.0 - dc)});
            rates += rate;
            hidden += rate * (1.0 - dc);
        }
    for (const Share& share : parts)
        list.push_back({place, share.channel, share.part,
            values[s.pfhd].si * (hidden > 0 ? share.hiddenRate / hidden : share.rate / rates)});
}

} // namespace

std::vector<PartShare> partShares(const safety::FunctionLevel& level)
{
    std::vector<PartShare> list;
    for (std::size_t k = 0; k < level.subsystems.size(); ++k) {
        const safety::SubsystemLevel& s = level.subsystems[k];
        if (s.pfhd < 0)
            continue;
        if (s.isEncapsulated)
            list.push_back({k, -1, 0, level.explanation[s.pfhd].si});
        else
            addParts(k, s, level.explanation, list);
    }
    return list;
}

std::vector<figures::Contribution> contributionsOf(const safety::FunctionLevel& level)
{
    std::vector<figures::Contribution> list;
    for (const PartShare& share : partShares(level)) {
        const safety::SubsystemLevel& s = level.subsystems[share.subsystem];
        if (share.channel < 0) {
            list.push_back({level.explanation[s.pfhd].subject, s.name, share.pfhdPerHour});
            continue;
        }
        const safety::PartLevel& part = s.channels[static_cast<std::size_t>(share.channel)].parts[share.part];
        list.push_back({part.tag + " " + part.role, s.name, share.pfhdPerHour});
    }
    return list;
}

figures::ShareWords shareWords()
{
    return {said("shares.heading"), said("skyline.axis"), said("shares.none")};
}

std::vector<figures::CategoryCurve> categoryCurves()
{
    struct Column {
        const char* id;
        const char* name;
    };
    constexpr std::array kColumns{Column{"cat_b", "B"}, Column{"cat_1", "1"}, Column{"cat_2_dc_low", "2, DC low"},
        Column{"cat_2_dc_medium", "2, DC medium"}, Column{"cat_3_dc_low", "3, DC low"},
        Column{"cat_3_dc_medium", "3, DC medium"}, Column{"cat_4_dc_high", "4"}};
    std::vector<figures::CategoryCurve> curves;
    const Table& table = pfhdTable();
    for (const Column& c : kColumns) {
        figures::CategoryCurve curve{c.name, {}};
        for (std::size_t row = 0; row < table.rowCount(); ++row)
            if (const auto pfhd = table.number(row, c.id))
                curve.points.emplace_back(*table.number(row, "mttfd_y"), *pfhd);
        curves.push_back(std::move(curve));
    }
    return curves;
}

std::vector<figures::CurvePoint> pointsOf(const safety::FunctionLevel& level)
{
    std::vector<figures::CurvePoint> points;
    for (const safety::SubsystemLevel& s : level.subsystems)
        if (s.pfhd >= 0 && s.mttfd >= 0)
            points.push_back({s.name, level.explanation[s.mttfd].si, level.explanation[s.pfhd].si});
    return points;
}

figures::CurveWords curveWords(const std::optional<safety::Level>& required)
{
    return {said("curves.heading"), said("curves.years"), said("skyline.axis"),
        required ? said("curves.required", {std::string(safety::nameOf(*required))}) : std::string()};
}

figures::Figure sharesFigure(const safety::FunctionLevel& level)
{
    return figures::shares(contributionsOf(level), false, shareWords(), 700, 0);
}

figures::Figure curvesFigure(const safety::FunctionLevel& level)
{
    const auto required = level.required ? std::optional(pfhdLimit(*level.required)) : std::nullopt;
    return figures::categoryCurves(categoryCurves(), pointsOf(level), required, curveWords(level.required), 700, 420);
}

double pfhdLimit(safety::Level level)
{
    constexpr std::array kBelow{1e-4, 1e-5, 3e-6, 1e-6, 1e-7}; // ISO 13849-1 table 2
    return kBelow[static_cast<std::size_t>(level)];
}

std::vector<std::string> markovLines(const safety::FunctionLevel& level, const ArithmeticChoice& choice)
{
    std::vector<std::string> lines;
    if (!level.chain)
        return lines;
    safety::MarkovOptions options;
    options.commonCause = choice.commonCauseShare;
    options.mission = years(choice.missionYears);
    for (std::size_t k = 0; k < level.subsystems.size(); ++k) {
        const safety::SubsystemLevel& s = level.subsystems[k];
        const auto model = safety::markovPfhd(level.chain->subsystems[k], level.chain->readings, options);
        if (model && s.pfhd >= 0)
            lines.push_back(sentence(message(
                "markov.line", {s.name, Measured{model->si(), "1/h"}, Measured{level.explanation[s.pfhd].si, "1/h"}})));
    }
    if (!lines.empty())
        lines.insert(lines.begin(),
            sentence(message(
                "markov.heading", {Measured{choice.commonCauseShare, "%"}, Measured{choice.missionYears, "y"}})));
    return lines;
}

std::string inputText(const safety::ChainInput& input, const Circuit& circuit)
{
    const Device* d = circuit.device(input.device);
    return sentence(message(input.kind == safety::InputKind::Cycles ? "input.cycles" : "input.reliability",
        {d ? d->tag : std::string("?")}));
}

std::vector<std::string> uncertaintyLines(const safety::Uncertainty& u, const std::optional<safety::Level>& required,
    const safety::Spread& spread, const Circuit& circuit)
{
    std::vector<std::string> lines;
    lines.push_back(sentence(message("uncertainty.spread",
        {Measured{spread.typicalFactor, ""}, Measured{spread.makerFactor, ""}, Measured{spread.cyclesFactor, ""},
            static_cast<long long>(u.draws)})));
    if (u.withLevel == 0) {
        lines.push_back(sentence(message("uncertainty.no_level")));
        return lines;
    }
    lines.push_back(sentence(message("uncertainty.range",
        {Measured{u.pfhdPerHour[2], "1/h"}, Measured{u.pfhdPerHour[0], "1/h"}, Measured{u.pfhdPerHour[4], "1/h"}})));
    if (required)
        lines.push_back(sentence(
            message("uncertainty.reached", {Measured{u.reachedShare, "%"}, std::string(safety::nameOf(*required))})));
    if (u.pfhdPerHour[0] < u.pfhdPerHour[4] * kVisibly)
        for (std::size_t k = 0; k < std::min<std::size_t>(3, u.drives.size()); ++k)
            lines.push_back(sentence(message(
                "uncertainty.drive", {inputText(u.drives[k].input, circuit), Measured{u.drives[k].share, "%"}})));
    else
        lines.push_back(sentence(message("uncertainty.flat")));
    return lines;
}

} // namespace ts::wording
