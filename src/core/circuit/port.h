// SPDX-License-Identifier: GPL-3.0-or-later
// Nonlinear devices as ports of the linear network: what the port solver searches over.
#pragma once

#include <string>
#include <vector>

#include "core/circuit/ladder.h"
#include "core/circuit/network.h"

namespace conductus::circuit {

/// A nonlinear device seen from the linear network. Alike strips on the same pads are one port
/// carrying `count` times the current; a converter is two ports, its input and its output.
struct Port {
    const Strip* strip = nullptr;
    const Sink* sink = nullptr;
    const Diode* diode = nullptr;
    const Limiter* limiter = nullptr;
    const Converter* converter = nullptr; ///< of an input; its output is the next port
    bool output = false;                  ///< of the converter before
    Node plus = 0, minus = 0;
    double count = 1;
    std::vector<double> pixel_volts;  ///< of the latest exact sweep
    std::vector<double> pixel_slopes; ///< of them by x
    double known_at = 0;              ///< x of a strip with feeds at which they are

    /// At unknown x (tip voltage of a strip fed at its foot; a junction's own x; else the voltage
    /// across): port volts and amps with slopes. `group` above 1: pixels of foot-fed strips lumped.
    /// Not of a converter. Volts are no number where it does not settle.
    Foot at(double x, int group);
    /// Whether no pixel's channel begins or ceases to conduct over that step of x.
    [[nodiscard]] bool is_line_over(double step) const;
    /// Goes by `step` of x along the slopes: what a step so small that it needs no sweep brings.
    void follow(double step, Foot& foot);
    [[nodiscard]] const std::string& name() const;
};

/// Sinks, diodes, limiters, converters, strips, in that order; `port_of_strip` gets the port of
/// each strip. They point into the network.
std::vector<Port> ports_of(const Network& network, std::vector<std::size_t>& port_of_strip);

} // namespace conductus::circuit
