#include "core/studies/standing.h"

#include <algorithm>

namespace ts {

Standing::Word Standing::word() const
{
    using Answer = FunctionVerdict::Answer;
    const auto answers = [this](Answer a) {
        return std::any_of(verdicts.begin(), verdicts.end(), [a](const FunctionVerdict& v) { return v.answer == a; });
    };
    if (checked.hasFaultFound() || answers(Answer::NotReached))
        return Word::Findings;
    return checked.isWhole() && !answers(Answer::NotKnown) && !verdicts.empty() ? Word::InOrder : Word::NotLookedAt;
}

std::optional<FunctionVerdict> verdictOf(const Dossier& dossier, FunctionId id, const Results& results)
{
    const auto levels = results.find(kLevels);
    const SafetyFunction* function = dossier.function(id);
    if (!levels || !function)
        return std::nullopt;
    const auto built = results.find(kBuilt, about(id));
    const auto others = results.find(kOtherTriggers, about(id));
    for (const FunctionResult& r : levels->functions)
        if (r.function == id)
            return verdictOf(dossier, *function, r.level, built.get(), others.get());
    return std::nullopt;
}

Standing standingOf(const Dossier& dossier, const Results& results)
{
    Standing s;
    for (const SafetyFunction& f : dossier.functions)
        if (auto verdict = verdictOf(dossier, f.id, results))
            s.verdicts.push_back(std::move(*verdict));
    const auto made = results.find(kChecks);
    s.checked = made ? *made : checked(dossier, results);
    return s;
}

} // namespace ts
