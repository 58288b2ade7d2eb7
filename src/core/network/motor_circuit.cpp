#include "core/network/motor_circuit.h"

#include <numbers>

namespace ts::network {
namespace {

const Complex kA = std::polar(1.0, 2.0 * std::numbers::pi / 3.0), kA2 = std::conj(kA);

Complex magnetisingAdmittance(const MotorCircuit& m)
{
    return {1.0 / m.rfe, -1.0 / m.xm};
}

Complex airGapImpedance(const MotorCircuit& m, double slip)
{
    return 1.0 / (magnetisingAdmittance(m) + rotorAdmittance(m, slip));
}

} // namespace

Complex rotorAdmittance(const MotorCircuit& m, double slip)
{
    Complex y = slip / Complex(m.ra, slip * m.xa);
    if (m.rb > 0.0)
        y += slip / Complex(m.rb, slip * m.xb);
    return y;
}

Complex sequenceImpedance(const MotorCircuit& m, double slip)
{
    return Complex(m.r1, m.x1) + airGapImpedance(m, slip);
}

Eigen::Matrix3cd terminalAdmittance(const MotorCircuit& motor, double slip)
{
    const Complex y1 = 1.0 / sequenceImpedance(motor, slip);
    const Complex y2 = 1.0 / sequenceImpedance(motor, 2.0 - slip);
    // First column of A diag(0, y1, y2) A^-1 with A = [1 1 1; 1 a^2 a; 1 a a^2]; the rest is circulant.
    const Complex c0 = (y1 + y2) / 3.0;
    const Complex c1 = (kA2 * y1 + kA * y2) / 3.0;
    const Complex c2 = (kA * y1 + kA2 * y2) / 3.0;
    Eigen::Matrix3cd y;
    y << c0, c2, c1, c1, c0, c2, c2, c1, c0;
    return y;
}

Sequences sequencesOf(Complex a, Complex b, Complex c)
{
    return {(a + kA * b + kA2 * c) / 3.0, (a + kA2 * b + kA * c) / 3.0};
}

double airGapTorque(const MotorCircuit& m, double slip, Sequences v, double synchronousRadPerS)
{
    // T = 3/ws (|E1|^2 Re Yr(s) - |E2|^2 Re Yr(2-s)), E the air-gap voltages: what the air gap has of the voltage in
    // series with the stator.
    const auto torque = [&m](Complex voltage, double s) {
        const Complex rotor = rotorAdmittance(m, s), gap = 1.0 / (magnetisingAdmittance(m) + rotor);
        return std::norm(voltage) * std::norm(gap) / std::norm(Complex(m.r1, m.x1) + gap) * rotor.real();
    };
    return 3.0 / synchronousRadPerS * (torque(v.positive, slip) - torque(v.negative, 2.0 - slip));
}

} // namespace ts::network
