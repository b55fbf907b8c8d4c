// SPDX-License-Identifier: GPL-3.0-or-later
// Least squares of a model that is not linear, with intervals: docs/models.md, "Measured parts".
#pragma once

#include <cstddef>
#include <functional>
#include <limits>
#include <vector>

namespace conductus::bench {

struct Unknown {
    double start = 0;             ///< of the class: where the search begins
    double scale = 1;             ///< its usual size, above 0
    double least = 0, most = 1e9; ///< it lies between these
    bool fixed = false;           ///< it is not looked for
    double widest = 1;            ///< half an interval that says something, in scales
    /// While it is not looked for it is so many times that unknown; below 0: its start's value.
    int follows = -1;
    double share = 1;
};

/// What is measured less what the model says of these values; its size never changes.
using Residuals =
    std::function<void(const std::vector<double>& values, std::vector<double>& residuals)>;

struct Estimate {
    double value = 0;
    double half = std::numeric_limits<double>::infinity(); ///< of the 95 % interval
    bool determined = false; ///< else it is the start's value, and the rest was found with it
};

struct LeastSquares {
    std::vector<Estimate> estimates; ///< of every unknown, in their order
    std::vector<double> residuals;
    int spare = 0;        ///< readings less unknowns that were looked for
    bool settled = false; ///< the search came to an end
};

/// Levenberg and Marquardt's search. `sigma`: what each reading is uncertain by, 1 σ; it weighs the
/// readings of one `group` against each other. Where readings are to spare, each group's real
/// scatter is estimated from its residuals (iterated variance components), and intervals are
/// Student's. Without spare readings `sigma` stands for the scatter. An unknown whose interval says
/// nothing (`widest`) is given the class's value, the widest first, and the rest is found anew.
LeastSquares least_squares(std::vector<Unknown> unknowns, const Residuals& residuals,
                           const std::vector<double>& sigma, const std::vector<int>& group);

/// The value that Student's t of so many degrees of freedom exceeds, either way, in 5 of 100 cases.
/// Error below 1e-4 of it. Source: Hill, algorithm 396, CACM 13 (1970).
double student_95(double degrees_of_freedom);

} // namespace conductus::bench
