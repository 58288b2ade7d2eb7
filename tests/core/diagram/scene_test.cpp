// A drawing as a value: what lies under a point, how large texts are, and symbols that lie instead of stand.

#include "core/diagram/scene.h"
#include "core/diagram/symbols.h"

#include <gtest/gtest.h>

#include <algorithm>

namespace ts::diagram {
namespace {

TEST(Scene, FindsTheNearestConductorWithinReachAndNoOther)
{
    Scene scene;
    scene.conductors.push_back({{{0, 0}, {100, 0}, {100, 50}}, {{1}, "a"}, false});
    scene.conductors.push_back({{{0, 20}, {90, 20}}, {{2}, "b"}, false});
    ASSERT_NE(scene.conductorNear({50, 3}, 5), nullptr);
    EXPECT_EQ(scene.conductorNear({50, 3}, 5)->net.marking, "a");
    EXPECT_EQ(scene.conductorNear({50, 18}, 5)->net.marking, "b");
    EXPECT_EQ(scene.conductorNear({103, 40}, 5)->net.marking, "a") << "its second piece";
    EXPECT_EQ(scene.conductorNear({50, 10}, 5), nullptr);
    EXPECT_EQ(scene.conductorNear({-8, 0}, 5), nullptr) << "beyond its end";
}

TEST(Scene, FindsPinsAndSymbols)
{
    Scene scene;
    scene.pins = {{{{1}, "13"}, {10, 10}}, {{{1}, "14"}, {10, 40}}};
    Symbol s;
    s.box = {0, 0, 20, 50};
    scene.symbols.push_back(s);
    ASSERT_NE(scene.pinNear({12, 36}, 7), nullptr);
    EXPECT_EQ(scene.pinNear({12, 36}, 7)->first.marking, "14");
    EXPECT_EQ(scene.pinNear({40, 40}, 7), nullptr);
    EXPECT_EQ(scene.symbolAt({10, 25}), 0);
    EXPECT_EQ(scene.symbolAt({30, 25}), -1);
}

TEST(Text, BoxIsExactForItsAnchorAndCountsLettersNotBytes)
{
    const Text left{{100, 50}, "S10", TextStyle::Tag, Anchor::Left};
    EXPECT_DOUBLE_EQ(left.box().width, 3 * kAdvance * kTagSize);
    EXPECT_DOUBLE_EQ(left.box().x, 100);
    const Text right{{100, 50}, "13", TextStyle::Marking, Anchor::Right};
    EXPECT_DOUBLE_EQ(right.box().x + right.box().width, 100);
    const Text middle{{100, 50}, "mm\u00b2", TextStyle::Note, Anchor::Middle};
    EXPECT_DOUBLE_EQ(middle.box().width, 3 * kAdvance * kSmallSize);
    EXPECT_DOUBLE_EQ(middle.box().x + middle.box().width / 2, 100);
}

Symbol symbol(SymbolKind kind, Point top, Point bottom)
{
    Symbol s;
    s.kind = kind;
    s.operated = Operated::ByPush;
    s.top = top;
    s.bottom = bottom;
    return s;
}

class Shapes : public ::testing::TestWithParam<SymbolKind> { };

/// A symbol that lies has the strokes of the one that stands, with the axes exchanged.
TEST_P(Shapes, LyingIsStandingTurned)
{
    for (bool closed : {false, true}) {
        const SymbolShape standing = shapeOf(symbol(GetParam(), {30, 100}, {30, 162}), closed),
                          lying = shapeOf(symbol(GetParam(), {100, 30}, {162, 30}), closed);
        ASSERT_EQ(standing.paths.size(), lying.paths.size());
        for (std::size_t k = 0; k < standing.paths.size(); ++k) {
            ASSERT_EQ(standing.paths[k].points.size(), lying.paths[k].points.size());
            EXPECT_EQ(standing.paths[k].part, lying.paths[k].part);
            for (std::size_t i = 0; i < standing.paths[k].points.size(); ++i) {
                EXPECT_DOUBLE_EQ(standing.paths[k].points[i].x, lying.paths[k].points[i].y);
                EXPECT_DOUBLE_EQ(standing.paths[k].points[i].y, lying.paths[k].points[i].x);
            }
        }
        ASSERT_EQ(standing.rings.size(), lying.rings.size());
    }
}

/// Its leads begin where the conductors end.
TEST_P(Shapes, LeadsMeetTheConductors)
{
    const Symbol s = symbol(GetParam(), {30, 100}, {30, 162});
    const SymbolShape shape = shapeOf(s, true);
    const auto begins = [&](StrokePart part, Point at) {
        return std::any_of(shape.paths.begin(), shape.paths.end(), [&](const StrokePath& p) {
            return (p.part == part || p.part == StrokePart::Through)
                && std::find(p.points.begin(), p.points.end(), at) != p.points.end();
        });
    };
    EXPECT_TRUE(begins(StrokePart::Upper, s.top));
    EXPECT_TRUE(begins(StrokePart::Lower, s.bottom));
}

INSTANTIATE_TEST_SUITE_P(Kinds, Shapes,
    ::testing::Values(SymbolKind::NormallyOpen, SymbolKind::NormallyClosed, SymbolKind::Coil, SymbolKind::Lamp,
        SymbolKind::Horn, SymbolKind::BoxLoad, SymbolKind::MainContact));

} // namespace
} // namespace ts::diagram
