// SPDX-License-Identifier: GPL-3.0-or-later
// Two ways to the same operating point. Source of both: nodal analysis with damped Newton.
#pragma once

#include "core/base/problem.h"
#include "core/circuit/network.h"

namespace conductus::circuit {

/// Tip voltages of an earlier solution, one a strip and sink, to start the next search from.
using Guess = std::vector<double>;

/// The linear part is reduced to the ports of its nonlinear devices once, strips enter as ports,
/// and Newton runs on the ports alone. Cost O(pixels). Errors: a node without a path to ground, no
/// source, or no convergence (names the device); never a wrong number.
/// `guess` may be null; if not, it is the starting point where its size fits, and is renewed.
Result<OperatingPoint> solve(const Network& network, Guess* guess = nullptr);

/// Every pixel of both rails a node, sparse Newton on the whole. Independent of the port method;
/// slower; kept to check it. Same errors.
Result<OperatingPoint> solve_exact(const Network& network);

/// A device's node with no conductive path to ground, as an error that names it.
Result<void> check_connected(const Network& network);

} // namespace conductus::circuit
