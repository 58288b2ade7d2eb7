#include "core/results/results.h"

namespace ts {

void Results::put(std::string_view study, const Subject& subject, Expected<Value> result)
{
    m_results.insert_or_assign({std::string(study), subject}, std::move(result));
}

const Expected<Value>* Results::look(std::string_view study, const Subject& subject) const
{
    const auto found = m_results.find(std::pair<std::string, Subject>(study, subject));
    return found == m_results.end() ? nullptr : &found->second;
}

const Error* Results::trouble(std::string_view study, const Subject& subject) const
{
    const Expected<Value>* result = look(study, subject);
    return result && !*result ? &result->error() : nullptr;
}

} // namespace ts
