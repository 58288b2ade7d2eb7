// A second circuit under the same hands.

#include "core/measuring/beside.h"
#include "core/patterns/advice.h"
#include "core/patterns/machine.h"
#include "tests/support/circuits.h"

#include <gmock/gmock.h>

namespace ts::measuring {
namespace {

using Texts = std::vector<std::string>;

BenchRun runOf(const Texts& choices)
{
    const auto file = patterns::machine(*patterns::advised(choices));
    EXPECT_TRUE(file);
    return BenchRun(std::make_shared<const Plant>(*compile(file->dossier.circuit)));
}

void act(BenchRun& run, std::string_view tag, std::string_view word)
{
    run.act(*stimulusFor(run.plant(), tag, word, run.now()));
}

TEST(Beside, DoesWhatIsDoneToTheFirstAndSaysWhatIsOtherwise)
{
    // A hold behind the interlock and one before it look alike until both buttons are held.
    BenchRun first = runOf({"stop=straight", "hold=before_interlock"}),
             other = runOf({"stop=straight", "operation=inching"});
    Beside beside;
    first.advanceTo(timeNs(seconds(1)));
    EXPECT_TRUE(beside.follow(first, other));
    EXPECT_EQ(other.now(), first.now());
    act(first, "S2", "press");
    first.advanceTo(timeNs(seconds(2)));
    EXPECT_TRUE(beside.follow(first, other));
    EXPECT_TRUE(differingNow(first, other).empty()) << "both run while the button is held";
    act(first, "S2", "release");
    first.advanceTo(timeNs(seconds(3)));
    EXPECT_TRUE(beside.follow(first, other));
    EXPECT_THAT(differingNow(first, other), ::testing::Contains(Differing{"Q1", "in", "out"}))
        << "one holds, the other only inches";
    EXPECT_EQ(other.script().size(), 2u);
    // Back in time: the other one begins anew and comes to the same.
    while (first.now() > timeNs(seconds(1.5)) && first.stepBack()) { }
    EXPECT_TRUE(beside.follow(first, other));
    EXPECT_EQ(other.now(), first.now());
    EXPECT_TRUE(differingNow(first, other).empty());
}

TEST(Beside, NamesWhatIsNotThere)
{
    BenchRun first = runOf({"base=reversing", "stop=straight"}), other = runOf({"base=direct", "stop=straight"});
    Beside beside;
    first.advanceTo(timeNs(seconds(1)));
    act(first, "S3", "press");
    first.advanceTo(timeNs(seconds(1.5)));
    EXPECT_TRUE(beside.follow(first, other));
    EXPECT_EQ(beside.notThere(), (Texts{"S3 press"}));
    Stimulus lost;
    lost.kind = Stimulus::Kind::SetKnob;
    lost.slot = 0;
    lost.value = 0;
    first.act(lost);
    EXPECT_TRUE(beside.follow(first, other));
    EXPECT_EQ(other.state().knobs[0], 0) << "the same line is lost";
    EXPECT_FALSE(beside.follow(first, other, [] { return true; }) && other.now() < first.now());
}

} // namespace
} // namespace ts::measuring
