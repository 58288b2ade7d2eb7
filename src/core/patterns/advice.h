#pragma once
// What a careful person would choose for the required level, and why. Advice, never a rule: anything else is built all
// the same and shows what it does.

#include "core/base/message.h"
#include "core/model/function.h"
#include "core/patterns/choices.h"

namespace ts::patterns {

struct Advice {
    std::string_view choice;
    std::string word;
    Message reason; ///< "advice.stop.two_channels"
};

/// The risk questions as the plan answers them; none before all three are answered.
std::optional<RiskAnswers> riskOf(const Plan& plan);
/// For what all starters share; a choice without advice is not in it. Pure.
std::vector<Advice> adviceFor(const MachinePlan& plan);
/// For what this starter has for itself. Pure.
std::vector<Advice> adviceFor(const Plan& starter);
/// The plan with the advice taken wherever nothing else was said. `said`: as in MachinePlan::from. The advice rests on
/// what was said, never on other advice. Fails as MachinePlan::from does.
Expected<MachinePlan> advised(std::span<const std::string> said);

} // namespace ts::patterns
