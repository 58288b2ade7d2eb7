// Findings with how much was looked at for them: what is gone because less runs is not mended.

#include "core/mending/found.h"

#include "core/checks/check.h"
#include "core/edit/device_edits.h"
#include "core/patterns/advice.h"
#include "core/patterns/machine.h"
#include "core/results/study_ids.h"
#include "tests/support/circuits.h"

#include <array>

namespace ts::mending {
namespace {

using Texts = std::vector<std::string>;

constexpr std::array<std::string_view, 1> kTried{kTrials.id};

DossierFile chosen(const Texts& said)
{
    return *patterns::machine(*patterns::MachinePlan::from(said));
}

DossierFile without(DossierFile file, const std::string& a, const std::string& b)
{
    const Circuit c = file.dossier.circuit;
    std::erase_if(
        file.dossier.circuit.wires, [&](const Wire& w) { return c.nameOf(w.from) == a && c.nameOf(w.to) == b; });
    return file;
}

TEST(Found, HoldsTheFindingsOfItsStudiesOnly)
{
    const DossierFile file = chosen({"overload=none"});
    const auto tried = foundIn(file.dossier, kTried, {});
    ASSERT_TRUE(tried);
    EXPECT_GT(tried->states, 0u);
    ASSERT_FALSE(tried->empty());
    for (const auto& [key, finding] : *tried)
        EXPECT_EQ(checkNamed(finding.id)->needs, kTrials.id) << key;
    EXPECT_TRUE(std::any_of(tried->begin(), tried->end(), [](const auto& f) { return f.second.id == "overloads"; }));
    constexpr std::array<std::string_view, 1> alone{""};
    const auto dossierAlone = foundIn(file.dossier, alone, {});
    ASSERT_TRUE(dossierAlone);
    EXPECT_EQ(dossierAlone->states, 0u) << "nothing was run for it";
    for (const auto& [key, finding] : *dossierAlone)
        EXPECT_NE(finding.id, "overloads");
}

TEST(Found, SeesLessOfAMachineThatNoLongerStarts)
{
    const DossierFile file = chosen({"overload=none"});
    const auto before = foundIn(file.dossier, kTried, {});
    const auto after = foundIn(without(file, "S1:12", "S2:13").dossier, kTried, {});
    ASSERT_TRUE(before && after);
    EXPECT_TRUE(seesLess(*before, *after)) << "its motor does not run any more";
    EXPECT_FALSE(seesLess(*before, *before));
    EXPECT_FALSE(seesLess(*after, *before)) << "more is seen the other way round";
}

TEST(Found, SeesNoLessOfAMachineThatIsOnlyOtherwise)
{
    const DossierFile file = chosen({});
    const DossierFile other = *edit::withValue(file, file.dossier.circuit.device("F2")->id, "setting_a", "10");
    const auto before = foundIn(file.dossier, kTried, {}), after = foundIn(other.dossier, kTried, {});
    ASSERT_TRUE(before && after);
    EXPECT_FALSE(seesLess(*before, *after));
}

TEST(Found, IsCancelledAndSaysSo)
{
    std::stop_source stop;
    stop.request_stop();
    const auto found = foundIn(chosen({}).dossier, kTried, stop.get_token());
    ASSERT_FALSE(found);
    EXPECT_EQ(found.error().code, ErrorCode::Cancelled);
}

} // namespace
} // namespace ts::mending
