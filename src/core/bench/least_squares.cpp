// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/bench/least_squares.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>

namespace conductus::bench {
namespace {

using Matrix = Eigen::MatrixXd;
using Vector = Eigen::VectorXd;

class Search {
public:
    Search(std::vector<Unknown>& unknowns, const Residuals& model, const std::vector<double>& sigma,
           const std::vector<int>& group)
        : unknowns_(unknowns), model_(model), sigma_(sigma), group_(group) {
        for (const Unknown& u : unknowns)
            values_.push_back(u.start);
        groups_ = group.empty() ? 0 : 1 + *std::max_element(group.begin(), group.end());
        scatter_.assign(static_cast<std::size_t>(groups_), 1);
        freedom_.assign(static_cast<std::size_t>(groups_), 0);
    }

    LeastSquares run() {
        LeastSquares found;
        for (;;) {
            free_.clear();
            for (std::size_t i = 0; i < unknowns_.size(); ++i)
                if (!unknowns_[i].fixed) free_.push_back(i);
            found.spare = static_cast<int>(sigma_.size()) - static_cast<int>(free_.size());
            if (found.spare < 0) {
                // Fewer readings than unknowns: what the readings say least of goes first.
                evaluate();
                fix(weakest());
                continue;
            }
            std::fill(scatter_.begin(), scatter_.end(), 1.0);
            found.settled = descend();
            for (int round = 0; found.spare > 0 && round < 12; ++round) {
                if (!estimate_scatter()) break;
                found.settled = descend();
            }
            intervals(found);
            const std::size_t widest = find_widest(found);
            if (widest == unknowns_.size()) break;
            fix(widest);
        }
        found.residuals.assign(residual_.begin(), residual_.end());
        return found;
    }

private:
    [[nodiscard]] double weight(std::size_t i) const {
        return 1 / (sigma_[i] * scatter_[static_cast<std::size_t>(group_[i])]);
    }
    void fix(std::size_t which) {
        unknowns_[which].fixed = true;
        // What was found beside an unknown that nothing is known of may be far off: begin anew.
        for (std::size_t i = 0; i < unknowns_.size(); ++i)
            values_[i] = unknowns_[i].start;
    }
    double cost(const std::vector<double>& residual) const {
        double sum = 0;
        for (std::size_t i = 0; i < residual.size(); ++i) {
            const double r = residual[i] * weight(i);
            sum += r * r;
        }
        return std::isfinite(sum) ? sum : 1e300;
    }
    void ask(std::vector<double>& values, std::vector<double>& residual) {
        for (std::size_t i = 0; i < unknowns_.size(); ++i)
            if (const Unknown& u = unknowns_[i]; u.fixed && u.follows >= 0)
                values[i] = u.share * values[static_cast<std::size_t>(u.follows)];
        model_(values, residual);
    }
    /// Residuals and their slopes at the values, weighted.
    void evaluate() {
        residual_.assign(sigma_.size(), 0);
        ask(values_, residual_);
        jacobian_.resize(static_cast<Eigen::Index>(sigma_.size()),
                         static_cast<Eigen::Index>(free_.size()));
        std::vector<double> up(sigma_.size()), down(sigma_.size());
        for (std::size_t k = 0; k < free_.size(); ++k) {
            const Unknown& u = unknowns_[free_[k]];
            double& value = values_[free_[k]];
            const double at = value, step = 1e-5 * u.scale;
            value = at + step, ask(values_, up);
            value = at - step, ask(values_, down);
            value = at;
            for (std::size_t i = 0; i < up.size(); ++i)
                jacobian_(static_cast<Eigen::Index>(i), static_cast<Eigen::Index>(k)) =
                    (up[i] - down[i]) / (2 * step) * u.scale * weight(i);
        }
    }
    [[nodiscard]] Vector weighted() const {
        Vector r(static_cast<Eigen::Index>(residual_.size()));
        for (std::size_t i = 0; i < residual_.size(); ++i)
            r(static_cast<Eigen::Index>(i)) = residual_[i] * weight(i);
        return r;
    }
    bool descend() {
        double damping = 1e-3;
        evaluate();
        double best = cost(residual_);
        for (int step = 0; step < 200; ++step) {
            const Matrix normal = jacobian_.transpose() * jacobian_;
            const Vector slope = jacobian_.transpose() * weighted();
            bool moved = false;
            for (; damping < 1e12; damping *= 4) {
                Matrix damped = normal;
                damped.diagonal() += damping * (normal.diagonal().array() + 1e-12).matrix();
                const Vector by = damped.ldlt().solve(-slope);
                std::vector<double> tried = values_;
                double farthest = 0;
                for (std::size_t k = 0; k < free_.size(); ++k) {
                    const Unknown& u = unknowns_[free_[k]];
                    double& value = tried[free_[k]];
                    value = std::clamp(value + by(static_cast<Eigen::Index>(k)) * u.scale, u.least,
                                       u.most);
                    farthest = std::max(farthest, std::abs(value - values_[free_[k]]) / u.scale);
                }
                if (!(farthest > 1e-10)) return true;
                std::vector<double> residual(sigma_.size());
                ask(tried, residual);
                const double now = cost(residual);
                if (!(now < best)) continue;
                const bool hardly = best - now < 1e-12 * best;
                values_ = std::move(tried), best = now;
                damping = std::max(damping / 10, 1e-12);
                evaluate();
                if (hardly) return true;
                moved = true;
                break;
            }
            if (!moved) return true; // no step, however short, is better
        }
        return false;
    }
    /// Each group's scatter over what was stated, from its residuals and its share of the spare
    /// readings. False once nothing changes.
    bool estimate_scatter() {
        const Matrix inverse = covariance();
        std::vector<double> sum(scatter_.size()), spare(scatter_.size());
        for (std::size_t i = 0; i < residual_.size(); ++i) {
            const auto g = static_cast<std::size_t>(group_[i]);
            const auto row = jacobian_.row(static_cast<Eigen::Index>(i));
            const double r = residual_[i] / sigma_[i];
            sum[g] += r * r;
            spare[g] += 1 - (row * inverse * row.transpose())(0, 0);
        }
        double all_sum = 0, all_spare = 0;
        for (std::size_t g = 0; g < sum.size(); ++g)
            all_sum += sum[g] / (scatter_[g] * scatter_[g]), all_spare += spare[g];
        bool changed = false;
        for (std::size_t g = 0; g < sum.size(); ++g) {
            // Too few of its own: it scatters as the rest does, over what was stated.
            const bool own = spare[g] >= 3;
            const double now =
                own ? std::sqrt(sum[g] / spare[g]) : scatter_[g] * std::sqrt(all_sum / all_spare);
            freedom_[g] = own ? spare[g] : all_spare;
            const double kept = std::max(now, 1e-9);
            changed = changed || std::abs(kept - scatter_[g]) > 1e-4 * scatter_[g];
            scatter_[g] = kept;
        }
        if (changed) evaluate();
        return changed;
    }
    [[nodiscard]] Matrix covariance() const {
        const Matrix normal = jacobian_.transpose() * jacobian_;
        return normal.completeOrthogonalDecomposition().pseudoInverse();
    }
    void intervals(LeastSquares& found) {
        evaluate();
        ask(values_, residual_);
        found.estimates.assign(unknowns_.size(), {});
        for (std::size_t i = 0; i < unknowns_.size(); ++i)
            found.estimates[i].value = values_[i];
        if (free_.empty()) return;
        const Matrix normal = jacobian_.transpose() * jacobian_;
        const Eigen::SelfAdjointEigenSolver<Matrix> eigen(normal);
        const double largest = eigen.eigenvalues().maxCoeff();
        const Matrix inverse = covariance();
        for (std::size_t k = 0; k < free_.size(); ++k) {
            const auto column = static_cast<Eigen::Index>(k);
            double variance = 0;
            for (Eigen::Index e = 0; e < eigen.eigenvalues().size(); ++e) {
                const double part = eigen.eigenvectors()(column, e);
                const double value = eigen.eigenvalues()(e);
                if (value > 1e-13 * largest && value > 0)
                    variance += part * part / value;
                else if (std::abs(part) > 1e-4)
                    variance = std::numeric_limits<double>::infinity();
            }
            // Scatter that is estimated from few readings is itself uncertain: each group has its
            // own share in this one's degrees of freedom (Satterthwaite).
            double t = 1.959964;
            if (found.spare > 0) {
                std::vector<double> share(scatter_.size());
                for (Eigen::Index i = 0; i < jacobian_.rows(); ++i) {
                    const double by = inverse.row(column).dot(jacobian_.row(i));
                    share[static_cast<std::size_t>(group_[static_cast<std::size_t>(i)])] += by * by;
                }
                double sum = 0, over = 0;
                for (std::size_t g = 0; g < share.size(); ++g)
                    if (freedom_[g] > 0) sum += share[g], over += share[g] * share[g] / freedom_[g];
                t = student_95(over > 0 ? sum * sum / over : found.spare);
            }
            Estimate& e = found.estimates[free_[k]];
            e.half = t * std::sqrt(variance) * unknowns_[free_[k]].scale;
            e.determined = true;
        }
    }
    /// The one whose interval says nothing, by most; one at an end of its range says nothing
    /// either. The number of unknowns: there is none.
    std::size_t find_widest(const LeastSquares& found) const {
        std::size_t which = unknowns_.size();
        double most = 1;
        for (const std::size_t i : free_) {
            const Unknown& u = unknowns_[i];
            const double wide = found.estimates[i].half / (u.widest * u.scale);
            if (!(wide <= most)) most = wide, which = i;
        }
        return which;
    }
    /// The one that the residuals depend on least.
    std::size_t weakest() const {
        std::size_t which = free_.back();
        double least = INFINITY;
        for (std::size_t k = 0; k < free_.size(); ++k) {
            const double norm =
                jacobian_.col(static_cast<Eigen::Index>(k)).norm() * unknowns_[free_[k]].widest;
            if (norm < least) least = norm, which = free_[k];
        }
        return which;
    }

    std::vector<Unknown>& unknowns_;
    const Residuals& model_;
    const std::vector<double>& sigma_;
    const std::vector<int>& group_;
    int groups_ = 0;
    std::vector<double> values_, scatter_, freedom_, residual_;
    std::vector<std::size_t> free_;
    Matrix jacobian_;
};

} // namespace

LeastSquares least_squares(std::vector<Unknown> unknowns, const Residuals& residuals,
                           const std::vector<double>& sigma, const std::vector<int>& group) {
    return Search(unknowns, residuals, sigma, group).run();
}

double student_95(double n) {
    constexpr double p = 0.05, half_pi = 1.5707963267948966;
    if (n < 1) n = 1;
    if (n == 1) return std::cos(p * half_pi) / std::sin(p * half_pi);
    if (n == 2) return std::sqrt(2 / (p * (2 - p)) - 2);
    const double a = 1 / (n - 0.5), b = 48 / (a * a);
    double c = ((20700 * a / b - 98) * a - 16) * a + 96.36;
    const double d = ((94.5 / (b + c) - 3) / b + 1) * std::sqrt(a * half_pi) * n;
    double x = d * p, y = std::pow(x, 2 / n);
    if (y > 0.05 + a) {
        x = -1.959963984540054; // of the normal distribution
        y = x * x;
        if (n < 5) c += 0.3 * (n - 4.5) * (x + 0.6);
        c = (((0.05 * d * x - 5) * x - 7) * x - 2) * x + b + c;
        y = (((((0.4 * y + 6.3) * y + 36) * y + 94.5) / c - y - 3) / b + 1) * x;
        y = a * y * y;
        y = y > 0.002 ? std::expm1(y) : 0.5 * y * y + y;
    } else {
        y = ((1 / (((n + 6) / (n * y) - 0.089 * d - 0.822) * (n + 2) * 3) + 0.5 / (n + 4)) * y -
             1) *
                (n + 1) / (n + 2) +
            1 / y;
    }
    return std::sqrt(n * y);
}

} // namespace conductus::bench
