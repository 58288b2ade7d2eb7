#include "core/patterns/advice.h"

#include "core/safety/decision.h"

#include <algorithm>

namespace ts::patterns {
namespace {

using Advices = std::vector<Advice>;

/// Before the risk is known it is taken for the greatest.
void adviseStop(const MachinePlan& plan, Advices& advice)
{
    const Plan& shared = plan.shared();
    const auto risk = riskOf(shared);
    const safety::Level level = safety::requiredLevelOf(risk.value_or(RiskAnswers{}), true).level;
    const std::string name(safety::nameOf(level));
    const bool twoChannels = level >= safety::Level::D;
    const auto devices = (shared.text("stops")[0] - '0') + (shared.is("guard", "no") ? 0LL : 1LL);
    const bool hasDrive = std::any_of(plan.starters().begin(), plan.starters().end(),
        [](const MachinePlan::Starter& s) { return s.plan.is("base", "drive"); });
    if (level == safety::Level::E && devices > 1)
        advice.push_back({"stop", "controller", message("advice.stop.controller", {devices})});
    else if (hasDrive)
        advice.push_back({"stop", "delayed_relay", message("advice.stop.delayed")});
    else
        advice.push_back({"stop", "two_channel_relay",
            risk ? message(twoChannels ? "advice.stop.two_channels" : "advice.stop.one_would_do", {name})
                 : message("advice.stop.unsaid")});
    advice.push_back({"reset", "monitored", message("advice.reset.monitored")});
    advice.push_back({"feedback", "yes", message("advice.feedback.yes")});
    advice.push_back({"second_contactor", twoChannels ? "yes" : "no",
        risk ? message(twoChannels ? "advice.second_contactor.yes" : "advice.second_contactor.no", {name})
             : message("advice.second_contactor.unsaid")});
}

} // namespace

std::optional<RiskAnswers> riskOf(const Plan& plan)
{
    for (const char* question : {"injury", "exposure", "avoidance"})
        if (plan.is(question, "unsaid"))
            return {};
    RiskAnswers risk;
    risk.seriousInjury = plan.is("injury", "serious");
    risk.frequentExposure = plan.is("exposure", "frequent");
    risk.scarcelyAvoidable = plan.is("avoidance", "scarcely");
    return risk;
}

std::vector<Advice> adviceFor(const MachinePlan& plan)
{
    Advices advice;
    adviseStop(plan, advice);
    advice.push_back({"control", "dc24", message("advice.control.dc24")});
    advice.push_back({"lamps", "iec", message("advice.lamps.iec")});
    return advice;
}

std::vector<Advice> adviceFor(const Plan& starter)
{
    Advices advice;
    if (starter.is("load", "hanging"))
        advice.push_back({"brake", "yes", message("advice.brake.hanging")});
    if (starter.is("base", "reversing") || starter.is("base", "star_delta"))
        advice.push_back({"interlock", "auxiliary+mechanical",
            message(starter.is("base", "reversing") ? "advice.interlock.both" : "advice.interlock.star_delta")});
    advice.push_back({"hold", "before_interlock", message("advice.hold.before_interlock")});
    advice.push_back({"monitor_contact", "stop_line", message("advice.monitor_contact.stop_line")});
    advice.push_back({"overload", "live_side", message("advice.overload.live_side")});
    return advice;
}

Expected<MachinePlan> advised(std::span<const std::string> said)
{
    const auto plan = MachinePlan::from(said);
    if (!plan)
        return plan;
    std::vector<ChoiceName> given;
    for (const std::string& text : said)
        given.push_back(*choiceName(std::string_view(text).substr(0, text.find('='))));
    std::vector<std::string> taken;
    const auto take = [&](int whose, const Advices& advice) {
        for (const Advice& a : advice)
            if (std::none_of(given.begin(), given.end(),
                    [&](const ChoiceName& g) { return g.starter == whose && g.name == a.choice; }))
                taken.push_back(keptName(whose, a.choice) + "=" + a.word);
    };
    take(0, adviceFor(*plan));
    for (const MachinePlan::Starter& s : plan->starters())
        take(s.number, adviceFor(s.plan));
    return plan->with(taken);
}

} // namespace ts::patterns
