#pragma once
// What a category demands and what is there: every condition by itself, with the value found. The same for a claim and
// for a circuit as built; only the facts differ. Source: ISO 13849-1 clause 6.2 and table 10.

#include "core/base/message.h"
#include "core/safety/arithmetic.h"

#include <array>
#include <vector>

namespace ts::safety {

/// What single faults and their accumulation do, found by trying them. ISO 13849-1 clause 6.2.
enum class FoundStructure : std::uint8_t { NotTried, OneChannel, Tested, SingleFaultTolerated, AccumulationTolerated };

/// Plain facts of one subsystem.
struct CategoryFacts {
    int channels = 0; ///< 0..2
    std::array<double, 2> mttfdYears{}; ///< of each channel, above zero, not capped
    double coverage = 0; ///< DCavg, 0..1
    bool isCoverageKnown = true; ///< false: as built, faults of some part were not tried
    double commonCausePoints = 0;
    bool wellTried = false;
    bool isEstimated = false; ///< no MTTFd is there nor asked for: PFHd and PL come with the category (clause 4.5.5)
    bool isTested = false; ///< there is a test channel
    bool testOnlyWarns = false;
    std::optional<double> testsPerDemand; ///< none: tested at the demand
    double testMttfdYears = 0; ///< of the test equipment
    bool isBuilt = false; ///< the structure is judged from faults that were tried, not from the number of channels
    FoundStructure structure = FoundStructure::NotTried;
};

enum class Demand : std::uint8_t {
    Channels,
    Mttfd,
    MttfdHigh,
    WellTried,
    Coverage,
    CommonCause,
    TestRate,
    TestOutput,
    TestEquipment
};
enum class Met : std::uint8_t { Yes, No, Unknown };
std::string_view nameOf(Met); ///< "yes", "no", "unknown"
std::string_view nameOf(Demand); ///< "channels", "mttfd" ...

/// In the order in which they are shown.
std::span<const Demand> demandsOf(Category, bool isEstimated = false);
Met isMet(Demand, Category, const CategoryFacts&, const Readings&);
/// All of a category. Cheap: no text is made.
Met isMet(Category, const CategoryFacts&, const Readings&);

/// The value of the channels with their caps under a category, joined where there are two.
Years joinedMttfd(Category, const CategoryFacts&);
/// Least tests per demand that give the table's PFHd, and the fewest that give it with 1.1 times (clause 4.5.4 and
/// annex K, as read here).
constexpr double kFullTestRate = 100.0, kLeastTestRate = 25.0, kReducedTestFactor = 1.1;

struct Condition {
    Demand demand = Demand::Channels;
    Met met = Met::Yes;
    Message wanted; ///< what the category demands: "DCavg at least 99 %"
    Message found; ///< what is there: "49.5 %"
    Message unmet; ///< a sentence that names the subsystem; empty if it is met
};
std::vector<Condition> conditionsOf(Category, const CategoryFacts&, const Readings&, const std::string& subsystem);
/// The best one of which all conditions are met.
std::optional<Category> bestCategory(const CategoryFacts&, const Readings&);

} // namespace ts::safety
