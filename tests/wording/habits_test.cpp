// The same thing in the words of different workshops.

#include "wording/habits.h"

#include <gtest/gtest.h>

namespace ts::wording {
namespace {

/// Pairs of IEC 60947-1 table 1.
TEST(Habits, GaugeIsTheUsualNeighbourOfTheMetricSize)
{
    Habits awg;
    awg.wireSize = Habits::WireSize::AmericanGauge;
    for (const auto& [mm2, gauge] : {std::pair{0.2, "24"}, {0.5, "20"}, {0.75, "18"}, {1.5, "16"}, {2.5, "14"},
             {4.0, "12"}, {6.0, "10"}, {10.0, "8"}, {16.0, "6"}, {25.0, "4"}, {35.0, "2"}, {50.0, "1/0"}, {70.0, "2/0"},
             {95.0, "3/0"}, {120.0, "4/0"}})
        EXPECT_EQ(wireSizeText(mm2, awg), gauge + std::string(" AWG")) << mm2;
    EXPECT_EQ(wireSizeText(1.5, {}), "1.5 mm²");
}

TEST(Habits, PowerAndPhases)
{
    Habits h;
    EXPECT_EQ(powerText(5500, h), "5.5 kW");
    h.power = Habits::Power::Horsepower;
    EXPECT_EQ(powerText(5500, h), "7.38 hp"); // by hand: 5500 / 745.7 = 7.376
    EXPECT_EQ(phaseName("L2", h), "L2");
    h.phases = Habits::Phases::RYB;
    EXPECT_EQ(phaseName("L2", h), "Y");
    EXPECT_EQ(phaseName("L4", h), "L4");
    EXPECT_EQ(phaseName("PE", h), "PE");
    h.phases = Habits::Phases::UVW;
    EXPECT_EQ(phaseName("L3", h), "W");
}

} // namespace
} // namespace ts::wording
