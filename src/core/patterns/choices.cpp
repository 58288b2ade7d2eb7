#include "core/patterns/choices.h"

#include "core/base/check.h"

#include <algorithm>
#include <array>

namespace ts::patterns {
namespace {

constexpr std::array kChoices{
    PlanChoice{"base", "direct", "direct reversing star_delta soft_starter drive"},
    PlanChoice{
        "operation", "maintained", "maintained inching run_inch_selector run_inch_button run_inch_relay hand_off_auto"},
    PlanChoice{"interlock", "auxiliary+mechanical", "auxiliary mechanical push_button none", true},
    PlanChoice{"hold", "before_interlock", "before_interlock behind_interlock ahead_of_stop"},
    PlanChoice{"stop", "straight",
        "straight contactor_relay ordinary_relay one_channel_relay two_channel_relay delayed_relay controller"},
    PlanChoice{"stops", "1", "1 2 3"},
    PlanChoice{"reset", "monitored", "automatic manual monitored"},
    PlanChoice{"feedback", "yes", "yes no"},
    PlanChoice{"second_contactor", "yes", "yes no"},
    PlanChoice{"guard", "no", "yes no"},
    PlanChoice{"monitor", "none",
        "none voltage voltage_four_wire current_in_line two_transformers three_transformers three_relays"},
    PlanChoice{"tap", "supply_side", "supply_side motor_side"},
    PlanChoice{"monitor_contact", "stop_line", "stop_line hold signal_only"},
    PlanChoice{"overload", "live_side", "live_side return_side none"},
    PlanChoice{"control", "dc24", "phase_neutral transformer_bonded transformer_unbonded dc24 dc24_unbonded"},
    PlanChoice{"lamps", "iec", "none iec field_a field_b"},
    PlanChoice{"brake", "no", "yes no"},
    PlanChoice{"load", "fan", "none constant fan hanging"},
    PlanChoice{"motor", "5.5kW", ""},
    PlanChoice{"control_cable_m", "5", ""},
    PlanChoice{"machine", "New machine", ""},
    PlanChoice{"site", "", ""},
};

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

Expected<Plan> Plan::from(std::span<const std::string> assignments)
{
    Plan plan;
    for (const PlanChoice& c : kChoices)
        plan.m_texts[std::string(c.name)] = c.fallback;
    for (const std::string& assignment : assignments) {
        const std::size_t equals = assignment.find('=');
        if (equals == assignment.npos)
            return failure(ErrorCode::Syntax, message("pattern.no_equals", {assignment}));
        const std::string name = assignment.substr(0, equals), value = assignment.substr(equals + 1);
        const PlanChoice* choice = choiceNamed(name);
        if (!choice) {
            std::string known;
            for (const PlanChoice& c : kChoices)
                known += (known.empty() ? "" : ", ") + std::string(c.name);
            return failure(ErrorCode::NotFound, message("pattern.unknown_choice", {name, known}));
        }
        plan.m_texts[name] = value;
        const auto words = wordsOf(*choice);
        for (std::string_view rest = value; !words.empty();) {
            const std::size_t plus = choice->many ? rest.find('+') : rest.npos;
            if (std::find(words.begin(), words.end(), rest.substr(0, plus)) == words.end())
                return failure(ErrorCode::Refused,
                    message(
                        "pattern.unknown_word", {name, std::string(rest.substr(0, plus)), std::string(choice->words)}));
            if (plus == rest.npos)
                break;
            rest = rest.substr(plus + 1);
        }
    }
    return plan;
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

bool matters(const Plan& plan, std::string_view name)
{
    const bool twoChannels = plan.is("stop", "two_channel_relay") || plan.is("stop", "delayed_relay")
        || plan.is("stop", "controller");
    if (name == "tap" || name == "monitor_contact")
        return !plan.is("monitor", "none");
    if (name == "reset" || name == "feedback")
        return twoChannels || plan.is("stop", "one_channel_relay");
    if (name == "second_contactor")
        return twoChannels && !plan.is("base", "drive");
    if (name == "interlock")
        return plan.is("base", "reversing") || plan.is("base", "star_delta") || plan.is("base", "drive");
    if (name == "hold")
        return !plan.is("operation", "inching") && !plan.is("operation", "hand_off_auto")
            && !plan.is("operation", "run_inch_relay");
    if (name == "overload")
        return !plan.is("base", "drive");
    return true;
}

} // namespace ts::patterns
