#pragma once
// A bare electrical graph at one frequency: nodes, elements, ideal links.
// Knows nothing of devices; simulation/ builds it from the wired circuit. Solving: solver.h.
//
// Conventions: phasors are RMS with exp(+jwt); node 0 is the reference (protective earth); an element's
// current is counted into its terminal; plain SI doubles inside (ohm, V, A).

#include <array>
#include <cmath>
#include <complex>
#include <vector>

namespace ts::network {

using Complex = std::complex<double>;
constexpr int kReference = 0;

/// The plain square root: volts and amperes are far from the limits for which std::abs takes its time.
inline double magnitude(Complex z)
{
    return std::sqrt(std::norm(z));
}

/// Electromotive force in series with an impedance that must not be zero. V(p) - V(q) = emf when open.
struct Source {
    int p = 0, q = 0;
    Complex emf;
    Complex impedance;
};

/// A constant current from q to p inside the element: a supply in current limit.
struct CurrentSource {
    int p = 0, q = 0;
    Complex current;
};

struct Impedance {
    int p = 0, q = 0;
    Complex impedance;
};

/// Two windings with ratio n = U1/U2, short-circuit impedance on the secondary, magnetising impedance on the primary.
struct Transformer {
    int p1 = 0, p2 = 0, s1 = 0, s2 = 0;
    double ratio = 1.0;
    Complex shortCircuitSecondary;
    Complex magnetisingPrimary;
};

/// Port admittance of a transformer: [[1/Zm + y/n^2, -y/n], [-y/n, y]] with y = 1/Zk.
struct PortMatrix {
    Complex y11, y12, y22;
};

inline PortMatrix portMatrix(const Transformer& t)
{
    const Complex y = 1.0 / t.shortCircuitSecondary;
    return {1.0 / t.magnetisingPrimary + y / (t.ratio * t.ratio), -y / t.ratio, y};
}

/// Double-cage equivalent circuit of an induction motor, ohm per phase of the star equivalent.
struct MotorCircuit {
    double r1 = 0, x1 = 0, rfe = 0, xm = 0, ra = 0, xa = 0, rb = 0, xb = 0;
    bool operator==(const MotorCircuit&) const = default;
};

/// Three-wire motor (terminals U V W) or six-terminal motor (U1 V1 W1 U2 V2 W2). No zero sequence.
struct Motor {
    std::array<int, 6> terminals{}; ///< only the first three are used if not six-terminal
    bool sixTerminal = false;
    bool starWindings = true; ///< six-terminal: the circuit is per winding; else the winding is the delta branch
    MotorCircuit circuit;
};

/// An ideal connection: a wire without resistance or a contact. Closed links merge their nodes.
struct Link {
    int p = 0, q = 0;
    bool closed = false;
};

struct Network {
    int nodeCount = 1; ///< node 0 is the reference
    std::vector<Source> sources;
    std::vector<CurrentSource> currentSources;
    std::vector<Impedance> impedances;
    std::vector<Transformer> transformers;
    std::vector<Motor> motors;
    std::vector<Link> links;
};

} // namespace ts::network
