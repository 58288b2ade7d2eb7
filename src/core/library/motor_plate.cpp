#include "core/library/motor_plate.h"

#include "core/network/motor_circuit.h"

#include <Eigen/Dense>
#include <unsupported/Eigen/NonLinearOptimization>
#include <unsupported/Eigen/NumericalDiff>

#include <cmath>
#include <numbers>

namespace ts {
namespace {

using network::Complex;
using network::MotorCircuit;

/// Unknowns are logarithms of factors on the starting values: R1, X (stator and rotor leakage), Xm, Ra.
MotorCircuit scaled(const MotorCircuit& start, const Eigen::VectorXd& x)
{
    MotorCircuit c = start;
    c.r1 *= std::exp(x(0));
    for (double* leakage : {&c.x1, &c.xa, &c.xb})
        *leakage *= std::exp(x(1));
    c.xm *= std::exp(x(2));
    c.ra *= std::exp(x(3));
    return c;
}

struct Operation {
    double currentA, powerW, cosPhi, lockedRatio;
};

Operation operationAt(const MotorCircuit& c, const MotorPlate& plate, double slip, double ws)
{
    const double phaseV = plate.voltageV / std::numbers::sqrt3;
    const Complex i = phaseV / network::sequenceImpedance(c, slip);
    const double torque = network::airGapTorque(c, slip, {phaseV, 0.0}, ws);
    const double shaftW = torque * ws * (1.0 - slip) - plate.frictionW;
    const double locked = std::abs(phaseV / network::sequenceImpedance(c, 1.0));
    return {std::abs(i), shaftW, i.real() / std::abs(i), locked / std::abs(i)};
}

struct Residuals {
    using Scalar = double;
    using InputType = Eigen::VectorXd;
    using ValueType = Eigen::VectorXd;
    using JacobianType = Eigen::MatrixXd;
    enum { InputsAtCompileTime = Eigen::Dynamic, ValuesAtCompileTime = Eigen::Dynamic };
    int inputs() const { return 4; }
    int values() const { return 4; }

    int operator()(const Eigen::VectorXd& x, Eigen::VectorXd& r) const
    {
        const Operation o = operationAt(scaled(start, x), plate, slip, ws);
        r(0) = o.currentA / plate.currentA - 1.0;
        r(1) = o.powerW / plate.powerW - 1.0;
        r(2) = o.cosPhi / plate.cosPhi - 1.0;
        r(3) = o.lockedRatio / plate.lockedRotorRatio - 1.0;
        return 0;
    }

    MotorCircuit start;
    MotorPlate plate;
    double slip = 0, ws = 0;
};

Unexpected impossible(std::string what)
{
    return failure(ErrorCode::OutOfRange, message("motor.plate_impossible", {std::move(what)}));
}

} // namespace

Expected<FittedMotor> fittedMotor(const MotorPlate& plate)
{
    const double inputW = std::numbers::sqrt3 * plate.voltageV * plate.currentA * plate.cosPhi;
    const double efficiency = plate.powerW / inputW;
    if (!(efficiency > 0.2 && efficiency < 0.99))
        return impossible("efficiency");
    FittedMotor result;
    result.polePairs = static_cast<int>(std::floor(60.0 * plate.frequencyHz / plate.speedPerMin));
    const double synchronousPerMin = result.polePairs > 0 ? 60.0 * plate.frequencyHz / result.polePairs : 0.0;
    result.ratedSlip = synchronousPerMin > 0 ? 1.0 - plate.speedPerMin / synchronousPerMin : 0.0;
    if (!(result.ratedSlip > 0.001 && result.ratedSlip < 0.2))
        return impossible("speed");
    result.synchronousRadPerS = synchronousPerMin * std::numbers::pi / 30.0;

    // Starting values: the 0.75 kW reference motor in per unit of U^2/P.
    const double base = (plate.voltageV * plate.voltageV / plate.powerW) / (400.0 * 400.0 / 750.0);
    const MotorCircuit reference{7.277, 10.28, 2411.0, 208.8, 14.68, 49.61, 12.11, 10.28};
    MotorCircuit start = reference;
    for (double* value : {&start.r1, &start.x1, &start.rfe, &start.xm, &start.ra, &start.xa, &start.rb, &start.xb})
        *value *= base;
    start.ra *= result.ratedSlip / 0.04;

    Residuals functor{start, plate, result.ratedSlip, result.synchronousRadPerS};
    Eigen::NumericalDiff<Residuals> differentiated(functor);
    Eigen::LevenbergMarquardt<Eigen::NumericalDiff<Residuals>> solver(differentiated);
    solver.parameters.maxfev = 4000;
    Eigen::VectorXd x = Eigen::VectorXd::Zero(4);
    solver.minimize(x);
    if (!x.allFinite())
        return impossible("circuit");
    result.circuit = scaled(start, x);
    Eigen::VectorXd r(4);
    functor(x, r);
    if (!r.allFinite() || r.cwiseAbs().maxCoeff() > 0.10)
        return impossible("circuit");
    result.currentDeviation = r(0);
    result.powerDeviation = r(1);
    result.cosPhiDeviation = r(2);
    result.lockedRotorDeviation = r(3);
    return result;
}

} // namespace ts
