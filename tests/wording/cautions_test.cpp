#include "wording/cautions.h"

#include "core/io/dossier_file.h"
#include "wording/wording.h"

#include <gtest/gtest.h>

namespace ts::wording {
namespace {

TEST(Cautions, EachHasItsWordsAndWhatItRestsOn)
{
    for (const Caution& c : allCautions()) {
        EXPECT_NE(word(c.id), c.id) << "has words";
        EXPECT_FALSE(c.where.empty()) << c.id;
        EXPECT_FALSE(c.source.empty()) << c.id;
    }
}

/// The emergency stop of the debarker opens the contactors: mains and everything ahead of them stay live, the 24 V
/// side does not count.
TEST(StopCautions, NameWhatStaysLiveByARun)
{
    const Dossier d = io::loadDossier(std::string(TS_SOURCE_DIR) + "/data/demo/larkspur_db2.sentry")->dossier;
    const auto path = functionPath(d, d.functions[0]);
    ASSERT_TRUE(path);
    const auto isLive = [&](const char* tag) {
        const DeviceId id = d.circuit.device(tag)->id;
        return std::find(path->stillLive.begin(), path->stillLive.end(), id) != path->stillLive.end();
    };
    EXPECT_TRUE(isLive("G0"));
    EXPECT_TRUE(isLive("Q9")) << "its line side";
    EXPECT_FALSE(isLive("M2")) << "power is removed";
    EXPECT_FALSE(isLive("S0")) << "24 V";
    EXPECT_FALSE(isLive("K0"));
    const auto lines = stopCautions(d, &*path, nullptr);
    ASSERT_EQ(lines.size(), 1u) << "nothing is said of the run-down before it is known";
    EXPECT_NE(lines[0].find("Q9"), std::string::npos) << lines[0];
    EXPECT_NE(lines[0].find("prove dead"), std::string::npos);
}

TEST(StopCautions, AreThereBeforeAnythingIsKnown)
{
    const auto lines = stopCautions({}, nullptr, nullptr);
    ASSERT_EQ(lines.size(), 1u);
    EXPECT_NE(lines[0].find("not known yet"), std::string::npos);
    EXPECT_NE(lines[0].find("prove dead"), std::string::npos);
}

TEST(StopCautions, SayHowLongPartsMove)
{
    FunctionResult r;
    safety::ActuatorStop deck, blower;
    deck.restAfter = seconds(0.4);
    blower.restAfter = seconds(16.6);
    for (auto* run : {&r.nominal, &r.slow}) {
        run->emplace();
        (*run)->actuators = {deck, blower};
    }
    const auto lines = stopCautions({}, nullptr, &r);
    ASSERT_EQ(lines.size(), 2u);
    EXPECT_NE(lines[1].find("16.6 s"), std::string::npos) << lines[1];
}

} // namespace
} // namespace ts::wording
