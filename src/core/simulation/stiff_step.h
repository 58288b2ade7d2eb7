#pragma once
// Steps of a few coupled equations y' = f(y), some of which settle a thousand times faster than others: linearly
// implicit, so that what is fast comes to where the slow ones let it, however long the step. Source: E. Hairer, G.
// Wanner, Solving Ordinary Differential Equations II, 2nd ed. 1996: method RODAS, six stages, order 4 with an embedded
// solution of order 3, L-stable. Orders and the limit of a fast equation are held by tests.

#include <Eigen/Core>

#include <functional>

namespace ts {

class StiffStep {
public:
    using Slope = std::function<Eigen::VectorXd(const Eigen::VectorXd& y)>;

    /// At `start`, where the slope is worked out and made linear by differences of these lengths (of either sign, not
    /// zero).
    StiffStep(Slope slope, Eigen::VectorXd start,
        const std::function<Eigen::VectorXd(const Eigen::VectorXd& slopeAtStart)>& differences);

    struct Result {
        Eigen::VectorXd end;
        Eigen::VectorXd error; ///< against the embedded solution of lower order
    };
    /// A step of this length from the start; h > 0. The same start serves steps of several lengths.
    Result over(double h) const;

    const Eigen::VectorXd& slopeAtStart() const { return m_slopeAtStart; }

private:
    Slope m_slope;
    Eigen::VectorXd m_start, m_slopeAtStart;
    Eigen::MatrixXd m_jacobian;
};

} // namespace ts
