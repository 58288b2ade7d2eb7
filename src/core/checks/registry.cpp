#include "core/checks/groups.h"

#include <array>

namespace ts {

std::span<const Check> allChecks()
{
    static constexpr std::array kChecks{
        Check{"level", "ISO 13849-1 clause 4.5.1", checks::levelReached},
        Check{"stop", "EN 60204-1 clause 9.2", checks::stopCategoryAllowed},
        Check{"duty", "IEC 60947-4-1 table 1", checks::contactorDuty},
        Check{"claim", "ISO 13849-2 clause 4", checks::claimRefersToParts},
    };
    return kChecks;
}

std::vector<Finding> findingsOf(const CheckInput& input)
{
    std::vector<Finding> findings;
    for (const Check& check : allChecks()) {
        const std::size_t before = findings.size();
        check.run(input, findings);
        for (std::size_t i = before; i < findings.size(); ++i)
            if (findings[i].clause.empty())
                findings[i].clause = check.clause;
    }
    return findings;
}

} // namespace ts
