#include "core/network/motor_circuit.h"

#include <numbers>

namespace ts::network {
namespace {

const Complex kA = std::polar(1.0, 2.0 * std::numbers::pi / 3.0);

Complex airGapImpedance(const MotorCircuit& m, double slip)
{
    const Complex magnetising = 1.0 / m.rfe + 1.0 / Complex(0.0, m.xm);
    return 1.0 / (magnetising + rotorAdmittance(m, slip));
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
    const Complex a2 = kA * kA;
    // First column of A diag(0, y1, y2) A^-1 with A = [1 1 1; 1 a^2 a; 1 a a^2]; the rest is circulant.
    const Complex c0 = (y1 + y2) / 3.0;
    const Complex c1 = (a2 * y1 + kA * y2) / 3.0;
    const Complex c2 = (kA * y1 + a2 * y2) / 3.0;
    Eigen::Matrix3cd y;
    y << c0, c2, c1, c1, c0, c2, c2, c1, c0;
    return y;
}

Sequences sequencesOf(Complex a, Complex b, Complex c)
{
    return {(a + kA * b + kA * kA * c) / 3.0, (a + kA * kA * b + kA * c) / 3.0};
}

double airGapTorque(const MotorCircuit& m, double slip, Sequences v, double synchronousRadPerS)
{
    // T = 3/ws (|E1|^2 Re Yr(s) - |E2|^2 Re Yr(2-s)), E the air-gap voltages.
    const Complex e1 = v.positive * airGapImpedance(m, slip) / sequenceImpedance(m, slip);
    const Complex e2 = v.negative * airGapImpedance(m, 2.0 - slip) / sequenceImpedance(m, 2.0 - slip);
    const double forward = std::norm(e1) * rotorAdmittance(m, slip).real();
    const double backward = std::norm(e2) * rotorAdmittance(m, 2.0 - slip).real();
    return 3.0 / synchronousRadPerS * (forward - backward);
}

} // namespace ts::network
