#include "core/patterns/choices.h"

#include "core/base/check.h"
#include "core/library/table.h"

#include <algorithm>
#include <array>

namespace ts::patterns {
namespace {

constexpr bool kMany = true, kOwn = true;

/// In the order in which people decide.
constexpr std::array kChoices{
    PlanChoice{"machine", "New machine", ""},
    PlanChoice{"site", "", ""},
    PlanChoice{"injury", "unsaid", "unsaid serious slight"},
    PlanChoice{"exposure", "unsaid", "unsaid frequent rare"},
    PlanChoice{"avoidance", "unsaid", "unsaid scarcely possible"},
    PlanChoice{"environment", "", ""},
    PlanChoice{"earthing", "tn_s", "tn_s tt it"},
    PlanChoice{"bonds", "no", "yes no"},
    PlanChoice{"mains_v", "400", ""},
    PlanChoice{"frequency", "50", "50 60"},
    PlanChoice{"short_circuit_ka", "", ""},
    PlanChoice{"days_per_year", "", ""},
    PlanChoice{"hours_per_day", "", ""},
    PlanChoice{"moves", "", "", false, kOwn},
    PlanChoice{"motor", "5.5kW", "", false, kOwn},
    PlanChoice{"load", "fan", "none constant fan hanging", false, kOwn},
    PlanChoice{"brake", "no", "yes no", false, kOwn},
    PlanChoice{"starts_per_hour", "", "", false, kOwn},
    PlanChoice{"inches_per_hour", "", "", false, kOwn},
    PlanChoice{"reversals_per_hour", "", "", false, kOwn},
    PlanChoice{"base", "direct", "direct reversing star_delta soft_starter drive solid_state single_phase dc_motor",
        false, kOwn},
    PlanChoice{"crossing", "behind", "behind ahead", false, kOwn},
    PlanChoice{"operation", "maintained",
        "maintained inching run_inch_selector run_inch_button run_inch_relay separate_inch hand_off_auto called_relay "
        "two_hand enabling switched",
        false, kOwn},
    PlanChoice{"selector", "knob", "knob key", false, kOwn},
    PlanChoice{"interlock", "auxiliary+mechanical", "auxiliary mechanical push_button none", kMany, kOwn},
    PlanChoice{"hold", "before_interlock", "before_interlock behind_interlock ahead_of_stop", false, kOwn},
    PlanChoice{"stop", "straight",
        "straight contactor_relay ordinary_relay one_channel_relay two_channel_relay delayed_relay controller"},
    PlanChoice{"stops", "1", "1 2 3"},
    PlanChoice{"guard", "no", "yes locked no"},
    PlanChoice{"reset", "monitored", "automatic manual monitored"},
    PlanChoice{"reset_from", "own", "own channel"},
    PlanChoice{"relay_supply", "dc24", "dc24 control"},
    PlanChoice{"feedback", "yes", "yes no"},
    PlanChoice{"second_contactor", "yes", "yes no"},
    PlanChoice{"monitor", "none",
        "none voltage voltage_four_wire current_in_line two_transformers three_transformers three_relays", false, kOwn},
    PlanChoice{"tap", "supply_side", "supply_side motor_side", false, kOwn},
    PlanChoice{"monitor_contact", "stop_line", "stop_line hold return_side signal_only", false, kOwn},
    PlanChoice{"overload", "live_side", "live_side return_side none", false, kOwn},
    PlanChoice{"overload_reset", "manual", "manual automatic", false, kOwn},
    PlanChoice{"control", "dc24",
        "phase_neutral phase_phase transformer_bonded transformer_unbonded two_transformers dc24 dc24_unbonded"},
    PlanChoice{"control_v", "", ""},
    PlanChoice{"control_line", "L1", "L1 L2 L3"},
    PlanChoice{"neutral", "plain", "plain own_breaker"},
    PlanChoice{"control_cable_m", "5", ""},
    PlanChoice{"laid", "cable", "cable protected_cable shielded_cable moving_cable"},
    PlanChoice{"lamps", "iec", "none iec field_a field_b"},
    PlanChoice{"lamp_set", "usual", "usual five shared_trip"},
    PlanChoice{"marks", "iec", "iec north_american"},
};

Unexpected unknownName(const std::string& name)
{
    std::string known;
    for (const PlanChoice& c : kChoices)
        known += (known.empty() ? "" : ", ") + std::string(c.name);
    return failure(ErrorCode::NotFound, message("pattern.unknown_choice", {name, known}));
}

struct Assignment {
    ChoiceName choice;
    std::string value;
};

Expected<Assignment> assignmentIn(const std::string& text)
{
    const std::size_t equals = text.find('=');
    if (equals == text.npos)
        return failure(ErrorCode::Syntax, message("pattern.no_equals", {text}));
    auto choice = choiceName(std::string_view(text).substr(0, equals));
    if (!choice)
        return Unexpected{choice.error()};
    return Assignment{std::move(*choice), text.substr(equals + 1)};
}

} // namespace

std::span<const PlanChoice> choices()
{
    return kChoices;
}

const PlanChoice* choiceNamed(std::string_view name)
{
    const auto it = std::find_if(
        kChoices.begin(), kChoices.end(), [name](const PlanChoice& c) { return c.name == name; });
    return it == kChoices.end() ? nullptr : &*it;
}

std::vector<std::string_view> wordsOf(const PlanChoice& choice)
{
    std::vector<std::string_view> words;
    for (std::string_view rest = choice.words; !rest.empty();) {
        const std::size_t end = rest.find(' ');
        words.push_back(rest.substr(0, end));
        rest = end == rest.npos ? std::string_view{} : rest.substr(end + 1);
    }
    return words;
}

Expected<ChoiceName> choiceName(std::string_view text)
{
    const std::size_t dot = text.find('.');
    const std::string name(dot == text.npos ? text : text.substr(dot + 1));
    const PlanChoice* choice = choiceNamed(name);
    if (!choice)
        return unknownName(std::string(text));
    if (dot == text.npos)
        return ChoiceName{choice->own ? 1 : 0, name};
    const auto number = numberFrom(text.substr(0, dot));
    if (!choice->own)
        return failure(ErrorCode::Refused, message("pattern.not_a_starters", {name}));
    if (!number || *number < 1 || *number > MachinePlan::kMostStarters || *number != static_cast<int>(*number))
        return failure(ErrorCode::OutOfRange,
            message("pattern.starter_number",
                {std::string(text.substr(0, dot)), static_cast<long long>(MachinePlan::kMostStarters)}));
    return ChoiceName{static_cast<int>(*number), name};
}

std::string keptName(int starter, std::string_view name)
{
    return starter == 0 ? std::string(name) : std::to_string(starter) + "." + std::string(name);
}

Plan Plan::offered()
{
    Plan plan;
    for (const PlanChoice& c : kChoices)
        plan.m_texts[std::string(c.name)] = c.fallback;
    return plan;
}

Expected<void> Plan::take(std::string_view name, const std::string& value)
{
    const PlanChoice* choice = choiceNamed(name);
    if (!choice)
        return unknownName(std::string(name));
    const auto words = wordsOf(*choice);
    for (std::string_view rest = value; !words.empty();) {
        const std::size_t plus = choice->many ? rest.find('+') : rest.npos;
        if (std::find(words.begin(), words.end(), rest.substr(0, plus)) == words.end())
            return failure(ErrorCode::Refused,
                message("pattern.unknown_word",
                    {std::string(name), std::string(rest.substr(0, plus)), std::string(choice->words)}));
        if (plus == rest.npos)
            break;
        rest = rest.substr(plus + 1);
    }
    m_texts[std::string(name)] = value;
    return {};
}

Expected<std::optional<double>> Plan::number(std::string_view name, double low, double high) const
{
    const std::string& given = text(name);
    if (given.empty())
        return std::optional<double>{};
    const auto value = writtenNumber(given);
    if (!value || !(*value >= low && *value <= high))
        return failure(ErrorCode::OutOfRange,
            message("pattern.number", {std::string(name), given, Measured{low, ""}, Measured{high, ""}}));
    return value;
}

const std::string& Plan::text(std::string_view name) const
{
    const auto it = m_texts.find(name);
    TS_CHECK(it != m_texts.end());
    return it->second;
}

bool Plan::has(std::string_view name, std::string_view word) const
{
    const std::string padded = "+" + text(name) + "+";
    return padded.find("+" + std::string(word) + "+") != padded.npos;
}

Expected<MachinePlan> MachinePlan::from(std::span<const std::string> assignments)
{
    int first = 0; // of those that are named
    for (const std::string& text : assignments)
        if (const auto assignment = assignmentIn(text); assignment && assignment->choice.starter > 0)
            first = first == 0 ? assignment->choice.starter : std::min(first, assignment->choice.starter);
    MachinePlan plan;
    plan.m_starters.push_back({std::max(first, 1), Plan::offered()});
    return plan.with(assignments);
}

Expected<MachinePlan> MachinePlan::of(const PlannedMachine& planned)
{
    MachinePlan plan;
    for (const PlannedStarter& s : planned.starters) {
        plan.m_starters.push_back({s.number, Plan::offered()});
        for (const ChosenWords* words : {&planned.words, &s.words})
            for (const auto& [name, value] : *words)
                if (auto ok = plan.m_starters.back().plan.take(name, value); !ok)
                    return Unexpected{ok.error()};
    }
    if (plan.m_starters.empty())
        return failure(ErrorCode::Refused, message("pattern.no_starter_left"));
    return plan;
}

Expected<MachinePlan> MachinePlan::with(std::span<const std::string> assignments, std::span<const int> without) const
{
    MachinePlan plan = *this;
    for (int number : without)
        if (std::erase_if(plan.m_starters, [number](const Starter& s) { return s.number == number; }) == 0)
            return failure(ErrorCode::NotFound, message("pattern.no_starter", {static_cast<long long>(number)}));
    if (plan.m_starters.empty())
        return failure(ErrorCode::Refused, message("pattern.no_starter_left"));
    for (const std::string& text : assignments) {
        const auto assignment = assignmentIn(text);
        if (!assignment)
            return Unexpected{assignment.error()};
        const int number = assignment->choice.starter;
        if (number != 0 && !plan.starter(number)) {
            Plan fresh = Plan::offered();
            for (const PlanChoice& c : kChoices)
                if (!c.own)
                    fresh.m_texts[std::string(c.name)] = plan.shared().text(c.name);
            const auto behind = std::find_if(plan.m_starters.begin(), plan.m_starters.end(),
                [number](const Starter& s) { return s.number > number; });
            plan.m_starters.insert(behind, {number, std::move(fresh)});
        }
        for (Starter& s : plan.m_starters)
            if (number == 0 || s.number == number)
                if (auto ok = s.plan.take(assignment->choice.name, assignment->value); !ok)
                    return Unexpected{ok.error()};
    }
    return plan;
}

const Plan* MachinePlan::starter(int number) const
{
    const auto it = std::find_if(
        m_starters.begin(), m_starters.end(), [number](const Starter& s) { return s.number == number; });
    return it == m_starters.end() ? nullptr : &it->plan;
}

PlannedMachine MachinePlan::kept() const
{
    PlannedMachine kept;
    for (const Starter& s : m_starters)
        kept.starters.push_back({s.number, {}});
    for (const PlanChoice& c : kChoices) {
        if (!c.own)
            kept.words[std::string(c.name)] = shared().text(c.name);
        for (std::size_t k = 0; c.own && k < m_starters.size(); ++k)
            kept.starters[k].words[std::string(c.name)] = m_starters[k].plan.text(c.name);
    }
    return kept;
}

bool isSmall(const Plan& plan)
{
    return plan.is("base", "single_phase") || plan.is("base", "dc_motor");
}

bool hasHold(const Plan& plan)
{
    const std::string& operation = plan.text("operation");
    return operation == "maintained" || operation == "separate_inch" || operation.starts_with("run_inch");
}

bool hasSelector(const Plan& plan)
{
    return plan.is("operation", "switched") || plan.is("operation", "run_inch_selector")
        || plan.is("operation", "hand_off_auto");
}

bool matters(const Plan& plan, std::string_view name)
{
    const bool twoChannels = plan.is("stop", "two_channel_relay") || plan.is("stop", "delayed_relay")
        || plan.is("stop", "controller");
    const bool hasRelay = (twoChannels && !plan.is("stop", "controller")) || plan.is("stop", "one_channel_relay");
    if (name == "tap" || name == "monitor_contact")
        return !plan.is("monitor", "none") && !isSmall(plan);
    if (name == "monitor" || name == "brake" || name == "load")
        return !isSmall(plan);
    if (name == "selector")
        return hasSelector(plan);
    if (name == "crossing")
        return plan.is("base", "reversing");
    if (name == "reset_from" || name == "relay_supply")
        return hasRelay;
    if (name == "control_v")
        return plan.text("control").starts_with("transformer") || plan.is("control", "two_transformers");
    if (name == "neutral")
        return plan.is("control", "phase_neutral");
    if (name == "lamp_set")
        return !plan.is("lamps", "none");
    if (name == "overload_reset")
        return !plan.is("base", "drive") && !plan.is("overload", "none");
    if (name == "reset" || name == "feedback")
        return twoChannels || plan.is("stop", "one_channel_relay");
    if (name == "second_contactor")
        return twoChannels && !plan.is("base", "drive");
    if (name == "interlock")
        return plan.is("base", "reversing") || plan.is("base", "star_delta") || plan.is("base", "drive");
    if (name == "hold")
        return hasHold(plan) && !plan.is("operation", "run_inch_relay");
    if (name == "overload")
        return !plan.is("base", "drive");
    if (name == "reversals_per_hour")
        return plan.is("base", "reversing") || plan.is("base", "drive");
    if (name == "inches_per_hour")
        return plan.text("operation").starts_with("run_inch") || plan.is("operation", "separate_inch");
    return true;
}

} // namespace ts::patterns
