#pragma once
// Elimination with row pivots, for the small dense systems of motors and islands, of which a run needs thousands.

#include "core/network/network.h"

#include <Eigen/Core>

#include <utility>

namespace ts::network {

/// column[i] -= lead[i] * factor
inline void subtract(Complex* column, const Complex* lead, Complex factor, Eigen::Index count)
{
    if (factor == Complex{})
        return;
    for (Eigen::Index i = 0; i < count; ++i)
        column[i] -= lead[i] * factor;
}

/// b becomes a^-1 b; a is used up. Eigen's own takes half of its time for magnitudes that are not wanted here. A
/// singular matrix gives values that are not finite.
template <class Right> void solveDense(Eigen::MatrixXcd& a, Right& b)
{
    const Eigen::Index n = a.rows(), rights = b.cols();
    for (Eigen::Index k = 0; k < n; ++k) {
        Complex* const lead = a.data() + k * n;
        Eigen::Index pivot = k;
        double largest = std::norm(lead[k]);
        for (Eigen::Index i = k + 1; i < n; ++i)
            if (const double size = std::norm(lead[i]); size > largest) {
                pivot = i;
                largest = size;
            }
        if (pivot != k) {
            for (Eigen::Index j = k; j < n; ++j)
                std::swap(a(k, j), a(pivot, j));
            for (Eigen::Index j = 0; j < rights; ++j)
                std::swap(b(k, j), b(pivot, j));
        }
        const Complex inverse = 1.0 / lead[k];
        for (Eigen::Index i = k + 1; i < n; ++i)
            lead[i] *= inverse;
        for (Eigen::Index j = k + 1; j < n; ++j)
            subtract(a.data() + j * n + k + 1, lead + k + 1, a(k, j), n - k - 1);
        for (Eigen::Index j = 0; j < rights; ++j)
            subtract(b.data() + j * n + k + 1, lead + k + 1, b(k, j), n - k - 1);
        lead[k] = inverse; // for the way back
    }
    for (Eigen::Index j = 0; j < rights; ++j)
        for (Eigen::Index k = n - 1; k >= 0; --k) {
            b(k, j) *= a(k, k);
            subtract(b.data() + j * n, a.data() + k * n, b(k, j), k);
        }
}

} // namespace ts::network
