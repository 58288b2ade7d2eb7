#include "core/studies/entries.h"

#include <array>

namespace ts {

std::span<const Study> allStudies()
{
    static const std::array kRegistry{
        studies::levels(),
        studies::singleFaults(),
        studies::built(),
        studies::scenarios(),
        studies::path(),
        studies::directed(),
        studies::trials(),
        studies::sizes(),
        studies::designChecks(),
        studies::worstStop(),
        studies::otherTriggers(),
        studies::secondFaults(),
        studies::orders(),
        studies::tests(),
    };
    return kRegistry;
}

const Study* studyNamed(std::string_view id)
{
    for (const Study& s : allStudies())
        if (s.id == id)
            return &s;
    return nullptr;
}

} // namespace ts
