// Starters of one make on one supply: found as twins, and a fault in one says what the same fault in another says.

#include "bench/many_starters.h"
#include "core/base/at.h"
#include "core/faults/same_fault.h"
#include "core/faults/second_faults.h"

#include <gtest/gtest.h>

#include <map>
#include <set>

namespace ts::faults {
namespace {

struct Found {
    std::unique_ptr<Context> context;
    std::vector<Twins> twins;
};

Found found(const Dossier& d)
{
    auto context = contextOf(d, d.functions.front(), {});
    if (!context)
        throw std::runtime_error(context.error().message.id);
    Found f{std::move(*context), {}};
    f.twins = twinsOf(f.context->plant, d.circuit, f.context->cycle);
    return f;
}

/// "Q1" of "Q1_3".
std::string stemOf(const std::string& tag)
{
    return tag.substr(0, tag.find('_'));
}

std::string stemOfDevice(const Found& f, int device)
{
    return device < 0 ? "" : stemOf(f.context->plant.devices[at(device)].tag);
}

std::string suffixOf(const std::string& tag)
{
    return tag.substr(tag.find('_'));
}

TEST(Twins, StartersOfOneMakeAndOnlyThese)
{
    const Dossier d = bench::manyStarters(4).dossier;
    const Found f = found(d);
    const auto& devices = f.context->plant.devices;
    ASSERT_EQ(f.twins.size(), 1u);
    const std::vector<Twins::One>& ones = f.twins.front().ones;
    ASSERT_EQ(ones.size(), 3u) << "the first starter has the function, and is like no other";
    EXPECT_EQ(4 * ones.front().devices.size(), devices.size() - 1) << "all but the mains";
    for (const Twins::One& one : ones) {
        ASSERT_EQ(one.devices.size(), ones.front().devices.size());
        for (std::size_t k = 0; k < one.devices.size(); ++k) {
            EXPECT_EQ(stemOf(devices[at(one.devices[k])].tag), stemOf(devices[at(ones.front().devices[k])].tag));
            EXPECT_EQ(suffixOf(devices[at(one.devices[k])].tag), suffixOf(devices[at(one.devices.front())].tag));
        }
        EXPECT_EQ(one.wires.size(), ones.front().wires.size());
    }
}

/// One thing of starter 3 is changed: it is no twin any more, and 2 and 4 still are.
void expectNoTwin(const std::function<void(Dossier&)>& change)
{
    Dossier d = bench::manyStarters(4).dossier;
    change(d);
    const Found f = found(d);
    ASSERT_EQ(f.twins.size(), 1u);
    std::set<std::string> suffixes;
    for (const Twins::One& one : f.twins.front().ones)
        for (int device : one.devices)
            suffixes.insert(suffixOf(f.context->plant.devices[at(device)].tag));
    EXPECT_EQ(suffixes, (std::set<std::string>{"_2", "_4"}));
}

Device& deviceOf(Dossier& d, std::string_view tag)
{
    return *std::find_if(
        d.circuit.devices.begin(), d.circuit.devices.end(), [tag](const Device& x) { return x.tag == tag; });
}

TEST(Twins, OneThatDiffersInAnythingIsNone)
{
    const auto wireOfThree = [](Dossier& d) -> Wire& {
        const DeviceId motor = deviceOf(d, "M1_3").id;
        return *std::find_if(d.circuit.wires.begin(), d.circuit.wires.end(),
            [motor](const Wire& w) { return w.to.device == motor || w.from.device == motor; });
    };
    expectNoTwin([](Dossier& d) { deviceOf(d, "M1_3").parameters["service_factor"] = 1.15; });
    expectNoTwin([&](Dossier& d) { wireOfThree(d).lengthM += 0.5; });
    expectNoTwin([&](Dossier& d) { // laid by itself
        d.circuit.routes.push_back({RouteId{90000}, "W9", RouteKind::Cable});
        wireOfThree(d).route = {90000};
    });
    expectNoTwin([](Dossier& d) { // it is not started
        std::erase_if(d.scenarios.back().steps, [](const Step& s) { return s.target.ends_with("_3"); });
    });
}

void layInCable(Dossier& d, std::string_view motor, RouteId route)
{
    d.circuit.routes.push_back({route, "W" + std::to_string(route.value), RouteKind::Cable});
    const DeviceId id = deviceOf(d, motor).id;
    for (Wire& w : d.circuit.wires)
        if (w.to.device == id || w.from.device == id)
            w.route = route;
}

TEST(Twins, EachMayHaveACableOfItsOwn)
{
    Dossier d = bench::manyStarters(4).dossier;
    layInCable(d, "M1_2", {90002});
    layInCable(d, "M1_3", {90003});
    layInCable(d, "M1_4", {90004});
    const Found f = found(d);
    ASSERT_EQ(f.twins.size(), 1u);
    EXPECT_EQ(f.twins.front().ones.size(), 3u);
    d.circuit.routes.back().kind = RouteKind::ProtectedCable; // of the fourth
    const Found two = found(d);
    ASSERT_EQ(two.twins.size(), 1u);
    EXPECT_EQ(two.twins.front().ones.size(), 2u);
}

TEST(Twins, TwoThatShareACableOrAnInterlockAreNone)
{
    Dossier d = bench::manyStarters(3).dossier;
    layInCable(d, "M1_2", {90002});
    const DeviceId other = deviceOf(d, "M1_3").id;
    for (Wire& w : d.circuit.wires)
        if (w.to.device == other || w.from.device == other)
            w.route = {90002};
    EXPECT_EQ(found(d).twins.size(), 1u) << "exchanged they lie in it as before";
    d = bench::manyStarters(4).dossier;
    d.circuit.interlocks.push_back({deviceOf(d, "Q1_2").id, deviceOf(d, "Q1_3").id});
    EXPECT_TRUE(found(d).twins.empty());
}

TEST(Twins, LabelsAndRemarksMakeNoDifference)
{
    Dossier d = bench::manyStarters(3).dossier;
    deviceOf(d, "M1_3").label = "saw";
    deviceOf(d, "M1_3").remark = "old";
    d.circuit.wires.back().colour = "BK";
    EXPECT_EQ(found(d).twins.size(), 1u);
}

TEST(Twins, AFaultIsTheSameFaultInEachAndToldInItsNames)
{
    Dossier d = bench::manyStarters(4).dossier;
    layInCable(d, "M1_2", {90002});
    layInCable(d, "M1_3", {90003});
    layInCable(d, "M1_4", {90004});
    SweepOptions options;
    options.withPairs = options.withExcluded = options.withLimits = false;
    const auto swept = sweep(d, d.functions.front(), options);
    ASSERT_TRUE(swept);
    const Found f = found(d);
    const SameFault same(f.context->plant, d.circuit, f.context->cycle);
    std::map<std::vector<std::uint64_t>, std::vector<std::size_t>> groups;
    for (std::size_t k = 0; k < swept->faults.size(); ++k)
        if (!swept->faults[k].isExcluded)
            groups[same.essence(swept->faults[k])].push_back(k);
    EXPECT_LT(groups.size(), swept->faults.size() / 2) << "most are faults of twins";
    std::size_t number = 0, noticed = 0;
    for (const auto& [essence, names] : groups)
        if (const std::size_t k = names.back(); names.size() > 1 && ++number % 23 == 0) {
            const auto alone = tryFault(d, d.functions.front(), swept->faults[k].id);
            ASSERT_TRUE(alone);
            EXPECT_EQ(alone->fault, swept->faults[k]);
            FaultOutcome told = swept->outcomes[k], own = alone->outcome;
            for (std::size_t m = 0; m < own.runs.size(); ++m) {
                noticed += own.runs[m].notice.grade != Grade::None;
                // A sum of more terms ends in another last place.
                EXPECT_NEAR(
                    static_cast<double>(told.runs[m].longestRest), static_cast<double>(own.runs[m].longestRest), 1e3);
                EXPECT_NEAR(static_cast<double>(told.runs[m].lostAt), static_cast<double>(own.runs[m].lostAt), 1e3);
                told.runs[m].longestRest = own.runs[m].longestRest;
                told.runs[m].lostAt = own.runs[m].lostAt;
                // Where all starters stop at once, any one of them is the first.
                EXPECT_EQ(stemOfDevice(f, told.runs[m].notice.device), stemOfDevice(f, own.runs[m].notice.device));
                told.runs[m].notice.device = own.runs[m].notice.device;
            }
            EXPECT_EQ(told, own) << swept->faults[k].id;
        }
    EXPECT_GT(number, 200u);
    EXPECT_GT(noticed, 20u);
}

} // namespace
} // namespace ts::faults
