// A running state on a changed circuit.

#include "core/simulation/transplant.h"

#include "core/edit/wiring_edits.h"
#include "core/simulation/bench_run.h"
#include "tests/support/circuits.h"

namespace ts {
namespace {

/// On the same plant nothing is different afterwards: the same moves at the same times, whatever was on the way.
TEST(Transplant, OntoTheSameCircuitChangesNothing)
{
    const auto plant = std::make_shared<const Plant>(
        *compile(io::loadDossier(test::sourcePath("data/demo/larkspur_db2.sentry"))->dossier.circuit));
    for (double moveS : {0.7, 1.31, 1.65, 2.0, 5.7}) { // among them: reset pressed, star, and the pause before delta
        BenchRun whole(plant), first(plant);
        const auto act = [&](BenchRun& run, double atS, const char* tag, const char* word) {
            run.advanceTo(timeNs(seconds(atS)));
            run.act(*stimulusFor(*plant, tag, word, run.now()));
        };
        const auto until = [&](BenchRun& run, double fromS, double toS) {
            for (const auto& [atS, tag, word] : {std::tuple{0.5, "S4", "press"}, {0.8, "S4", "release"},
                     {1.3, "S12", "press"}, {1.6, "S12", "release"}})
                if (atS >= fromS && atS < toS)
                    act(run, atS, tag, word);
            run.advanceTo(timeNs(seconds(toS)));
        };
        until(whole, 0, 9.0);
        until(first, 0, moveS);
        BenchRun second(plant, first);
        EXPECT_EQ(second.now(), first.now());
        EXPECT_EQ(second.state().travel, first.state().travel);
        until(second, moveS, 9.0);
        EXPECT_EQ(second.state().travel, whole.state().travel) << moveS;
        for (const PlantMotor& m : plant->motors)
            EXPECT_NEAR(flowValue(*plant, second.state(), m.flow, second.now()),
                flowValue(*plant, whole.state(), m.flow, whole.now()), 0.05)
                << moveS;
        std::size_t later = 0;
        for (const Event& e : whole.trace().events)
            later += e.at > timeNs(seconds(moveS)) && e.why == Why::Moved;
        std::size_t again = 0;
        for (const Event& e : second.trace().events)
            again += e.at > timeNs(seconds(moveS)) && e.why == Why::Moved;
        EXPECT_EQ(again, later) << moveS;
    }
}

TEST(Transplant, MotorGoesOnTurningAndLosesWhatWasCut)
{
    const DossierFile demo = test::demoFile();
    const auto before = std::make_shared<const Plant>(*compile(demo.dossier.circuit));
    BenchRun run(before);
    for (const auto& [atS, tag, word] :
        {std::tuple{0.5, "S3", "press"}, {0.8, "S3", "release"}, {1.5, "S2", "press"}, {1.8, "S2", "release"}}) {
        run.advanceTo(timeNs(seconds(atS)));
        run.act(*stimulusFor(*before, tag, word, run.now()));
    }
    run.advanceTo(timeNs(seconds(4.0)));
    run.act([&] {
        Stimulus s;
        s.kind = Stimulus::Kind::PutFault;
        s.fault = faultFrom(*before, "Q1/main:welded")->fault;
        return s;
    }());
    const double speed = flowValue(*before, run.state(), before->motors.front().flow, run.now());
    ASSERT_GT(speed, 100.0);

    const auto freed = edit::withTerminalsFreed(demo, {*edit::terminalNamed(demo.dossier.circuit, "Q2:A1")});
    const auto after = std::make_shared<const Plant>(*compile(freed->dossier.circuit));
    BenchRun next(after, run);
    EXPECT_NEAR(flowValue(*after, next.state(), after->motors.front().flow, next.now()), speed, 1e-9);
    EXPECT_EQ(next.state().faults.size(), 1u);
    EXPECT_EQ(faultId(*after, next.state().faults.front()), "Q1/main:welded");
    next.advanceTo(next.now() + timeNs(seconds(0.5)));
    EXPECT_TRUE(*isInState(*after, next.state(), "Q2", "out")) << "its coil has no wire any more";
    EXPECT_FALSE(*isInState(*after, next.state(), "M1", "driven"));
    EXPECT_TRUE(*isInState(*after, next.state(), "M1", "turning")) << "it runs down";
}

} // namespace
} // namespace ts
