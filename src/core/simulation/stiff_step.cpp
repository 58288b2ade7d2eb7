#include "core/simulation/stiff_step.h"

#include <Eigen/LU>

#include <array>

namespace ts {
namespace {

constexpr std::size_t kStages = 6;
using Table = std::array<std::array<double, kStages - 1>, kStages>;

constexpr double kGamma = 0.25;
constexpr std::array<double, kStages - 1> kLast{
    1.221224509226641, 6.019134481288629, 12.53708332932087, -0.6878860361058950, 1.0};
/// Where a stage looks at the slope: shares of the earlier stages.
constexpr Table kPlaces{{{}, {1.544}, {0.9466785280815826, 0.2557011698983284},
    {3.314825187068521, 2.896124015972201, 0.9986419139977817}, {kLast[0], kLast[1], kLast[2], kLast[3]}, kLast}};
/// What a stage takes from the earlier ones, divided by the step.
constexpr Table kTaken{{{}, {-5.6688}, {-2.430093356833875, -0.2063599157091915},
    {-0.1073529058151375, -9.594562251023355, -20.47028614809616},
    {7.496443313967647, -10.24680431464352, -33.99990352819905, 11.70890893206160},
    {8.083246795921522, -7.981132988064893, -31.52159432874371, 16.31930543123136, -6.058818238834054}}};

} // namespace

StiffStep::StiffStep(
    Slope slope, Eigen::VectorXd start, const std::function<Eigen::VectorXd(const Eigen::VectorXd&)>& differences)
    : m_slope(std::move(slope))
    , m_start(std::move(start))
    , m_slopeAtStart(m_slope(m_start))
    , m_jacobian(m_start.size(), m_start.size())
{
    const Eigen::VectorXd lengths = differences(m_slopeAtStart);
    Eigen::VectorXd beside = m_start;
    for (Eigen::Index j = 0; j < m_start.size(); ++j) {
        beside(j) += lengths(j);
        m_jacobian.col(j) = (m_slope(beside) - m_slopeAtStart) / lengths(j);
        beside(j) = m_start(j);
    }
}

StiffStep::Result StiffStep::over(double h) const
{
    const Eigen::Index n = m_start.size();
    const Eigen::PartialPivLU<Eigen::MatrixXd> factors(Eigen::MatrixXd::Identity(n, n) / (kGamma * h) - m_jacobian);
    std::array<Eigen::VectorXd, kStages> stages;
    Eigen::VectorXd place;
    for (std::size_t i = 0; i < kStages; ++i) {
        place = m_start;
        for (std::size_t j = 0; j < i; ++j)
            place += kPlaces[i][j] * stages[j];
        Eigen::VectorXd right = i == 0 ? m_slopeAtStart : m_slope(place);
        for (std::size_t j = 0; j < i; ++j)
            right += kTaken[i][j] / h * stages[j];
        stages[i] = factors.solve(right);
    }
    return {place + stages.back(), stages.back()}; // the last stage's place is the embedded solution
}

} // namespace ts
