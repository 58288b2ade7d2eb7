// The integrator of speeds against equations whose answers are known, and motors against steps of a tenth of a
// millisecond.

#include "core/simulation/stiff_step.h"

#include "core/base/at.h"
#include "core/network/motor_circuit.h"
#include "core/simulation/circuits.h"
#include "core/simulation/motion.h"
#include "tests/support/circuits.h"

#include <algorithm>
#include <cmath>

namespace ts {
namespace {

using Eigen::VectorXd;

VectorXd vector(std::initializer_list<double> values)
{
    VectorXd v(values.size());
    std::copy(values.begin(), values.end(), v.begin());
    return v;
}

StiffStep from(const StiffStep::Slope& slope, const VectorXd& start)
{
    return StiffStep(slope, start, [](const VectorXd& f) { return VectorXd(VectorXd::Constant(f.size(), 1e-6)); });
}

struct Stepped {
    VectorXd end;
    double largestError = 0;
};

Stepped runOf(const StiffStep::Slope& slope, VectorXd y, double over, int steps)
{
    Stepped run{std::move(y), 0.0};
    for (int k = 0; k < steps; ++k) {
        const auto [end, error] = from(slope, run.end).over(over / steps);
        run.end = end;
        run.largestError = std::max(run.largestError, error.cwiseAbs().maxCoeff());
    }
    return run;
}

/// y1' = -2 y1 + y2^2, y2' = y1 - y2 - y2^2: from a textbook of stiff systems in its mild form; the answer is exp(-2t),
/// exp(-t) for y1' = -(2 + 1/e) y1 + y2^2 / e and y2' = y1 - y2 (1 + y2) with any e (Kaps' problem).
StiffStep::Slope kaps(double e)
{
    return [e](const VectorXd& y) {
        return vector({-(2.0 + 1.0 / e) * y(0) + y(1) * y(1) / e, y(0) - y(1) * (1.0 + y(1))});
    };
}
const double kEnd = std::exp(-1.0);

TEST(StiffStep, HalvingTheStepDividesTheErrorBySixteen)
{
    const auto errorOf = [](int steps) {
        return std::abs(runOf(kaps(1.0), vector({1.0, 1.0}), 1.0, steps).end(1) - kEnd);
    };
    const double coarse = errorOf(4), fine = errorOf(8);
    EXPECT_LT(coarse, 1e-4);
    EXPECT_NEAR(std::log2(coarse / fine), 4.0, 0.5);
}

TEST(StiffStep, TellsAnErrorOfTheOrderBelow)
{
    const double coarse = runOf(kaps(1.0), vector({1.0, 1.0}), 1.0, 20).largestError,
                 fine = runOf(kaps(1.0), vector({1.0, 1.0}), 1.0, 40).largestError;
    EXPECT_NEAR(std::log2(coarse / fine), 4.0, 0.6); // of one step
}

TEST(StiffStep, FollowsTheSlowPartWhereTheOtherIsAMillionTimesFaster)
{
    const Stepped run = runOf(kaps(1e-6), vector({1.0, 1.0}), 1.0, 20);
    EXPECT_NEAR(run.end(1), kEnd, 1e-5);
    EXPECT_NEAR(run.end(0), kEnd * kEnd, 1e-5);
}

TEST(StiffStep, WhatIsFastIsWhereItBelongsAfterOneLongStep)
{
    const auto slope = [](const VectorXd& y) { return vector({-1e6 * (y(0) - 3.0)}); };
    EXPECT_NEAR(from(slope, vector({0.0})).over(1.0).end(0), 3.0, 1e-4);
}

TEST(StiffStep, ASteadyStateStays)
{
    const auto slope = [](const VectorXd& y) { return vector({-5.0 * (y(0) - 3.0), -0.1 * (y(1) - 4.0)}); };
    const StiffStep step = from(slope, vector({3.0, 4.0}));
    EXPECT_EQ(step.slopeAtStart().cwiseAbs().maxCoeff(), 0.0);
    EXPECT_EQ(step.over(10.0).end, vector({3.0, 4.0}));
}

/// Accelerations from the whole circuit, not from what the integrator sees of it.
std::vector<double> accelerations(
    const Plant& plant, const State& state, const std::vector<double>& speeds, Workspace& workspace)
{
    const Overlay overlay = overlayOf(plant, {});
    std::vector<double> slips, a;
    for (std::size_t k = 0; k < speeds.size(); ++k)
        slips.push_back(1.0 - speeds[k] / plant.motors[k].data.synchronousRadPerS);
    const Instant i = solveInstant(plant, state, overlay, slips, workspace);
    for (std::size_t k = 0; k < speeds.size(); ++k) {
        const PlantMotor& m = plant.motors[k];
        const auto& n = m.nodes;
        const double share = m.data.starWindings ? 1.0 : 1.0 / std::sqrt(3.0); // the circuit is that of a star: a
                                                                               // winding meant for delta stands for
                                                                               // less
        const auto v = [&](int lead) {
            return m.data.sixTerminal ? i.alternatingV(n[at(lead)], n[at(lead + 3)]) * share
                                      : i.alternatingV(n[at(lead)], 0);
        };
        const double torque = network::airGapTorque(
            m.data.circuit, slips[k], network::sequencesOf(v(0), v(1), v(2)), m.data.synchronousRadPerS);
        a.push_back(accelerationRadPerS2(m.data.inertiaKgm2, shaftTorque(plant, m, state, overlay), speeds[k], torque));
    }
    return a;
}

TEST(StiffStep, MotorsOfTheWholeMachineRunUpAsInStepsOfATenthOfAMillisecond)
{
    // Two motors are at speed and follow the voltage in milliseconds, the third one still runs up in star: no contact
    // moves in this time.
    const auto file = io::loadDossier(test::sourcePath("data/demo/larkspur_db2.sentry"));
    const Plant plant = *compile(file->dossier.circuit);
    const auto stimuli = *stimuliOf(plant, file->dossier.scenarios.front());
    constexpr TimeNs kMs = 1'000'000, from = 2688 * kMs, to = 2880 * kMs;
    Workspace workspace;
    State state = initialState(plant);
    Trace trace;
    advance(plant, state, stimuli, {from}, trace, workspace);
    std::vector<double> w;
    int moving = 0;
    for (const PlantMotor& m : plant.motors) {
        w.push_back(flowValue(plant, state, m.flow, from));
        moving += state.flows[at(m.flow)].law == Flow::Law::Driven;
    }
    ASSERT_GE(moving, 2);
    const std::vector<double> first = w;
    Workspace other;
    constexpr double h = 1e-4;
    for (TimeNs t = from; t < to; t += kMs / 10) { // midpoint rule
        const auto rate = [&](const std::vector<double>& at) { return accelerations(plant, state, at, other); };
        const auto k1 = rate(w);
        std::vector<double> half = w;
        for (std::size_t k = 0; k < w.size(); ++k)
            if (state.flows[at(plant.motors[k].flow)].law == Flow::Law::Driven)
                half[k] += h / 2 * k1[k];
        const auto k2 = rate(half);
        for (std::size_t k = 0; k < w.size(); ++k)
            if (state.flows[at(plant.motors[k].flow)].law == Flow::Law::Driven)
                w[k] += h * k2[k];
    }
    Trace none;
    const std::size_t rest = static_cast<std::size_t>(
        std::find_if(stimuli.begin(), stimuli.end(), [](const Stimulus& s) { return s.at > from; }) - stimuli.begin());
    advance(plant, state, std::span(stimuli).subspan(rest), {to}, none, workspace);
    EXPECT_TRUE(none.events.empty());
    for (std::size_t k = 0; k < w.size(); ++k)
        EXPECT_NEAR(flowValue(plant, state, plant.motors[k].flow, to), w[k], 3e-4)
            << "motor " << k << " from " << first[k];
}

} // namespace
} // namespace ts
