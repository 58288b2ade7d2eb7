#include "core/safety/category.h"

#include <algorithm>

namespace ts::safety {
namespace {

bool isTwoChannel(Category c)
{
    return c >= Category::Three;
}

Met met(bool is)
{
    return is ? Met::Yes : Met::No;
}

double lowestMttfd(const CategoryFacts& f)
{
    return *std::min_element(f.mttfdYears.begin(), f.mttfdYears.begin() + f.channels);
}

Met isStructureMet(Category category, const CategoryFacts& f)
{
    if (!f.isBuilt)
        return met(f.channels == (isTwoChannel(category) ? 2 : 1));
    if (category == Category::B || category == Category::One)
        return Met::Yes; // more than is asked for
    switch (f.structure) {
    case FoundStructure::NotTried:
        return Met::Unknown;
    case FoundStructure::OneChannel:
        return Met::No;
    case FoundStructure::Tested:
        return met(category == Category::Two);
    case FoundStructure::SingleFaultTolerated:
        return met(category != Category::Four);
    case FoundStructure::AccumulationTolerated:
        return Met::Yes;
    }
    return Met::Unknown;
}

Met isCoverageMet(Category category, const CategoryFacts& f, const Readings& r)
{
    if (!f.isCoverageKnown)
        return Met::Unknown;
    const CoverageClass found = coverageClass(f.coverage, r.tolerance);
    return met(category == Category::Four ? found == CoverageClass::High : found >= CoverageClass::Low);
}

bool isTestEquipmentGood(const CategoryFacts& f, const Readings& r)
{
    const double channel = r.testAgainstCapped ? std::min(f.mttfdYears[0], mttfdCap(Category::Two).si())
                                               : f.mttfdYears[0];
    return f.testMttfdYears >= 0.5 * channel * (1.0 - r.tolerance) * (1.0 - 1e-12);
}

Years classValue(Category category, const CategoryFacts& f, const Readings& r)
{
    return r.classOfJoined ? joinedMttfd(category, f) : years(std::min(lowestMttfd(f), mttfdCap(category).si()));
}

Message wantedOf(Demand d, Category category, const CategoryFacts& f)
{
    const bool two = isTwoChannel(category);
    switch (d) {
    case Demand::Channels:
        if (!f.isBuilt)
            return message(two ? "wanted.two_channels" : "wanted.one_channel");
        return message(category == Category::Four ? "wanted.accumulation"
                : two                             ? "wanted.single_fault"
                : category == Category::Two       ? "wanted.tested"
                                                  : "wanted.any_structure");
    case Demand::Mttfd:
        return message("wanted.mttfd");
    case Demand::MttfdHigh:
        return message("wanted.mttfd_high");
    case Demand::WellTried:
        return message("wanted.well_tried");
    case Demand::Coverage:
        return message(category == Category::Four ? "wanted.dc_high" : "wanted.dc_low");
    case Demand::CommonCause:
        return message("wanted.ccf", {static_cast<long long>(kCommonCausePoints)});
    case Demand::TestRate:
        return message("wanted.test_rate");
    case Demand::TestOutput:
        return message("wanted.test_output");
    case Demand::TestEquipment:
        return message("wanted.test_equipment");
    }
    return {};
}

Message foundOf(Demand d, Category category, const CategoryFacts& f, const Readings& r)
{
    constexpr std::array structures{
        "found.not_tried", "found.one_channel", "found.tested", "found.single_fault", "found.accumulation"};
    switch (d) {
    case Demand::Channels:
        return f.isBuilt ? message(structures[static_cast<std::size_t>(f.structure)])
                         : message("found.channels", {static_cast<long long>(f.channels)});
    case Demand::Mttfd:
        return message("found.mttfd", {Measured{lowestMttfd(f), "y"}});
    case Demand::MttfdHigh:
        return message("found.mttfd", {Measured{classValue(category, f, r).si(), "y"}});
    case Demand::WellTried:
        return message(f.wellTried ? "found.confirmed" : "found.not_confirmed");
    case Demand::Coverage:
        return f.isCoverageKnown ? message("found.dc", {Measured{f.coverage, "%"}}) : message("found.not_tried");
    case Demand::CommonCause:
        return message("found.ccf", {static_cast<long long>(f.commonCausePoints)});
    case Demand::TestRate:
        return !f.isTested     ? message("found.no_test")
            : f.testsPerDemand ? message("found.test_rate", {static_cast<long long>(*f.testsPerDemand)})
                               : message("found.tested_at_demand");
    case Demand::TestOutput:
        return message(!f.isTested ? "found.no_test" : f.testOnlyWarns ? "found.test_warns" : "found.test_stops");
    case Demand::TestEquipment:
        return f.isTested ? message("found.mttfd", {Measured{f.testMttfdYears, "y"}}) : message("found.no_test");
    }
    return {};
}

Message unmetOf(Demand d, Category category, const CategoryFacts& f, const Readings& r, const std::string& name)
{
    const std::string word(nameOf(category));
    switch (d) {
    case Demand::Channels:
        if (f.isBuilt)
            return message(f.structure == FoundStructure::NotTried ? "level.structure_not_tried" : "level.structure",
                {name, word});
        return message(isTwoChannel(category) ? "level.channels_two" : "level.channels_one", {name, word});
    case Demand::Mttfd:
        return message("level.mttfd_low", {name, Measured{lowestMttfd(f), "y"}});
    case Demand::MttfdHigh:
        return message("level.mttfd_not_high", {name, word, Measured{classValue(category, f, r).si(), "y"}});
    case Demand::WellTried:
        return message("level.well_tried", {name});
    case Demand::Coverage:
        if (!f.isCoverageKnown)
            return message("level.structure_not_tried", {name, word});
        return category == Category::Four ? message("level.dc_not_high", {name, Measured{f.coverage, "%"}})
                                          : message("level.dc_not_low", {name, Measured{f.coverage, "%"}, word});
    case Demand::CommonCause:
        return message("level.ccf", {name, static_cast<long long>(f.commonCausePoints)});
    case Demand::TestRate:
        return f.isTested ? message("level.test_rate", {name, static_cast<long long>(*f.testsPerDemand)})
                          : message("level.no_test", {name});
    case Demand::TestOutput:
        return message("level.no_test", {name});
    case Demand::TestEquipment:
        return message("level.test_equipment", {name, Measured{f.testMttfdYears, "y"}});
    }
    return {};
}

} // namespace

std::string_view nameOf(Met m)
{
    constexpr std::array<std::string_view, 3> names{"yes", "no", "unknown"};
    return names[static_cast<std::size_t>(m)];
}

std::string_view nameOf(Demand d)
{
    constexpr std::array<std::string_view, 9> names{"channels", "mttfd", "mttfd_high", "well_tried", "coverage",
        "common_cause", "test_rate", "test_output", "test_equipment"};
    return names[static_cast<std::size_t>(d)];
}

Years joinedMttfd(Category category, const CategoryFacts& f)
{
    const auto capped = [&](std::size_t k) { return std::min(years(f.mttfdYears[k]), mttfdCap(category)); };
    return f.channels < 2 ? capped(0) : symmetrisedMttfd(capped(0), capped(1));
}

std::span<const Demand> demandsOf(Category category, bool isEstimated)
{
    using D = Demand;
    static constexpr std::array b{D::Channels, D::Mttfd};
    static constexpr std::array one{D::Channels, D::Mttfd, D::MttfdHigh, D::WellTried};
    static constexpr std::array two{
        D::Channels, D::Mttfd, D::TestRate, D::TestOutput, D::TestEquipment, D::Coverage, D::CommonCause};
    static constexpr std::array three{D::Channels, D::Mttfd, D::Coverage, D::CommonCause};
    static constexpr std::array four{D::Channels, D::Mttfd, D::MttfdHigh, D::Coverage, D::CommonCause};
    // Estimated: no MTTFd, but well-tried parts from category 1 on.
    static constexpr std::array bEstimated{D::Channels};
    static constexpr std::array oneEstimated{D::Channels, D::WellTried};
    static constexpr std::array twoEstimated{
        D::Channels, D::WellTried, D::TestRate, D::TestOutput, D::Coverage, D::CommonCause};
    static constexpr std::array dualEstimated{D::Channels, D::WellTried, D::Coverage, D::CommonCause};
    using All = std::array<std::span<const Demand>, 5>; // by category
    static constexpr All reckoned{b, one, two, three, four};
    static constexpr All estimated{bEstimated, oneEstimated, twoEstimated, dualEstimated, dualEstimated};
    return (isEstimated ? estimated : reckoned)[static_cast<std::size_t>(category)];
}

Met isMet(Demand demand, Category category, const CategoryFacts& f, const Readings& r)
{
    switch (demand) {
    case Demand::Channels:
        return isStructureMet(category, f);
    case Demand::Mttfd:
        return met(mttfdClass(years(lowestMttfd(f)), r.tolerance) != MttfdClass::NotAcceptable);
    case Demand::MttfdHigh:
        return met(mttfdClass(classValue(category, f, r), r.tolerance) == MttfdClass::High);
    case Demand::WellTried:
        return met(f.wellTried);
    case Demand::Coverage:
        return isCoverageMet(category, f, r);
    case Demand::CommonCause:
        return met(f.commonCausePoints >= kCommonCausePoints);
    case Demand::TestRate:
        return met(f.isTested && (!f.testsPerDemand || *f.testsPerDemand >= kLeastTestRate));
    case Demand::TestOutput:
        return met(f.isTested); // one that only warns limits the level, it does not end the category
    case Demand::TestEquipment:
        return met(f.isTested && isTestEquipmentGood(f, r));
    }
    return Met::Unknown;
}

Met isMet(Category category, const CategoryFacts& f, const Readings& r)
{
    Met all = Met::Yes;
    for (Demand d : demandsOf(category, f.isEstimated)) {
        const Met one = isMet(d, category, f, r);
        if (one == Met::No)
            return Met::No;
        if (one == Met::Unknown)
            all = Met::Unknown;
    }
    return all;
}

std::vector<Condition> conditionsOf(
    Category category, const CategoryFacts& f, const Readings& r, const std::string& subsystem)
{
    std::vector<Condition> list;
    for (Demand d : demandsOf(category, f.isEstimated)) {
        Condition c{d, isMet(d, category, f, r), wantedOf(d, category, f), foundOf(d, category, f, r), {}};
        if (c.met != Met::Yes)
            c.unmet = unmetOf(d, category, f, r, subsystem);
        list.push_back(std::move(c));
    }
    return list;
}

std::optional<Category> bestCategory(const CategoryFacts& f, const Readings& r)
{
    for (Category c : {Category::Four, Category::Three, Category::Two, Category::One, Category::B})
        if (isMet(c, f, r) == Met::Yes)
            return c;
    return std::nullopt;
}

} // namespace ts::safety
