// SPDX-License-Identifier: GPL-3.0-or-later
// Currents of a converter: docs/models.md, "Drivers and regulators".
#pragma once

#include <algorithm>
#include <cmath>

#include "core/circuit/network.h"

namespace conductus::circuit {

/// A smooth "the smaller of both": w·c / (w⁴ + c⁴)^(1/4), with its slopes. Nothing where c is not
/// positive; below zero w itself: a held voltage is held from above as well.
struct Smaller {
    double value = 0, by_w = 0, by_c = 0;
};
inline Smaller smaller(double w, double c) {
    if (w <= 0) return {w, 1, 0};
    if (!(c > 0)) return {};
    if (w <= c) {
        const double r2 = (w / c) * (w / c), q = 1 / std::sqrt(std::sqrt(1 + r2 * r2));
        const double q5 = q * q * q * q * q;
        return {w * q, q5, r2 * r2 * (w / c) * q5};
    }
    const Smaller other = smaller(c, w);
    return {other.value, other.by_c, other.by_w};
}

/// A smooth "the larger of both", neither below zero: (a⁴ + b⁴)^(1/4), with its slopes.
struct Larger {
    double value = 0, by_a = 0, by_b = 0;
};
inline Larger larger(double a, double b) {
    if (!(a > 0)) return {std::max(b, 0.0), 0, b > 0 ? 1.0 : 0.0};
    if (!(b > 0)) return {a, 1, 0};
    const double most = std::max(a, b), x = a / most, y = b / most;
    const double root = std::sqrt(std::sqrt(x * x * x * x + y * y * y * y));
    const double cube = root * root * root;
    return {most * root, x * x * x / cube, y * y * y / cube};
}

struct ConverterCurrents {
    double in = 0, out = 0; ///< taken at in, given at out
    double in_by_in = 0, in_by_out = 0, out_by_in = 0, out_by_out = 0;
};

/// A step-up: it lifts what it can, and whatever its input stands above its output flows straight
/// through its coil and switch.
inline ConverterCurrents step_up_currents(const Converter& c, double vin, double vout) {
    constexpr double floor = 0.1; // V at the input: below it a ratio of voltages says nothing
    constexpr double wakes = 0.1; // V above `least` over which it begins to work
    ConverterCurrents r;
    const double high = std::max(vin, floor), high_slope = vin > floor ? 1 : 0;
    // What is wanted: a step-up can not take current back.
    const bool holds = c.volts > 0;
    const double want = holds ? (c.volts - vout) / c.output : c.amps;
    double lifted = 0, lifted_in = 0, lifted_out = 0;
    if (want > 0 && vin > c.least) {
        // s(x) as of a pixel's channel.
        const double x = (vin - c.least) / wakes, x4 = x * x * x * x;
        const double root = std::sqrt(std::sqrt(1 + x4));
        const double awake = x / root, awake_slope = 1 / (root * (1 + x4)) / wakes;
        // Power at the output is at most efficiency · limit · vin; where the output is no higher
        // than that leaves over, its coil's current is what is limited.
        const double e = c.efficiency * high, base = std::max(vout, e);
        const double p = std::pow(std::max(vout, 0.0) / base, 16), q = std::pow(e / base, 16);
        const double low = base * std::pow(p + q, 1.0 / 16);
        const double low_out = vout > 0 ? low * p / (p + q) / vout : 0;
        const double low_in = low * q / (p + q) / e * c.efficiency * high_slope;
        const double can = c.limit * e * awake / low;
        const double can_in =
            can * (high_slope / high + awake_slope / std::max(awake, 1e-12) - low_in / low);
        const double can_out = -can * low_out / low;
        const Smaller s = smaller(want, can);
        lifted = s.value;
        lifted_in = s.by_c * can_in;
        lifted_out = s.by_c * can_out - (holds ? s.by_w / c.output : 0);
    }
    const double through = c.pass > 0 ? std::max(0.0, (vin - vout) / c.pass) : 0;
    const double through_slope = through > 0 ? 1 / c.pass : 0;
    const Larger out = larger(lifted, through);
    r.out = out.value;
    r.out_by_in = out.by_a * lifted_in + out.by_b * through_slope;
    r.out_by_out = out.by_a * lifted_out - out.by_b * through_slope;
    const double ratio = std::max(vout, 0.0) / (c.efficiency * high);
    const double ratio_in = -ratio / high * high_slope;
    const double ratio_out = vout > 0 ? 1 / (c.efficiency * high) : 0;
    const Larger in = larger(ratio * lifted, through);
    r.in = in.value;
    r.in_by_in = in.by_a * (ratio_in * lifted + ratio * lifted_in) + in.by_b * through_slope;
    r.in_by_out = in.by_a * (ratio_out * lifted + ratio * lifted_out) - in.by_b * through_slope;
    return r;
}

/// One that steps down, switching or not: what is wanted, the held current or (volts −
/// vout)/output; what can be given, (vin − vout)/pass; and of a low-drop no more than its limit.
inline ConverterCurrents step_down_currents(const Converter& c, double vin, double vout) {
    constexpr double floor = 0.1; // V
    const double want = c.volts > 0 ? (c.volts - vout) / c.output : c.amps;
    const double want_slope = c.volts > 0 ? -1 / c.output : 0;
    Smaller s = smaller(want, (vin - vout) / c.pass);
    if (c.volts > 0) {
        const Smaller held = smaller(s.value, c.limit);
        s = {held.value, held.by_w * s.by_w, held.by_w * s.by_c};
    }
    ConverterCurrents r;
    r.out = s.value;
    r.out_by_in = s.by_c / c.pass;
    r.out_by_out = s.by_w * want_slope - s.by_c / c.pass;
    if (!c.switching) {
        r.in = r.out, r.in_by_in = r.out_by_in, r.in_by_out = r.out_by_out;
        return r;
    }
    const double high = std::max(vin, floor), ratio = vout / (c.efficiency * high);
    r.in = ratio * r.out;
    r.in_by_in = ratio * r.out_by_in - (vin > floor ? ratio * r.out / high : 0);
    r.in_by_out = ratio * r.out_by_out + r.out / (c.efficiency * high);
    return r;
}

/// `vin`, `vout` against gnd.
inline ConverterCurrents converter_currents(const Converter& c, double vin, double vout) {
    ConverterCurrents r =
        c.steps_up ? step_up_currents(c, vin, vout) : step_down_currents(c, vin, vout);
    const double decay = vin > 0 ? std::exp(-vin) : 1 - vin;
    r.in += c.quiet * (1 - decay);
    r.in_by_in += c.quiet * (vin > 0 ? decay : 1);
    return r;
}

} // namespace conductus::circuit
