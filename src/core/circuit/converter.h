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

struct ConverterCurrents {
    double in = 0, out = 0; ///< taken at in, given at out
    double in_by_in = 0, in_by_out = 0, out_by_in = 0, out_by_out = 0;
};

/// `vin`, `vout` against gnd. What is wanted: the held current, or (volts − vout)/output. What can
/// be given: stepping down (vin − vout)/pass; up, efficiency·limit·(vin − least)/vout. The smaller
/// is given.
inline ConverterCurrents converter_currents(const Converter& c, double vin, double vout) {
    constexpr double floor = 0.1;  // V at the input: below it a ratio of voltages says nothing
    constexpr double lowest = 2.5; // V at the output: below it a step-up only passes current on
    const double want = c.volts > 0 ? (c.volts - vout) / c.output : c.amps;
    const double want_slope = c.volts > 0 ? -1 / c.output : 0;
    double can, can_in, can_out;
    if (c.steps_up) {
        const double low = std::max(vout, lowest);
        can = c.efficiency * c.limit * (vin - c.least) / low;
        can_in = c.efficiency * c.limit / low;
        can_out = vout > lowest ? -can / low : 0;
    } else {
        can = (vin - vout) / c.pass;
        can_in = 1 / c.pass;
        can_out = -1 / c.pass;
    }
    const Smaller s = smaller(want, can);
    ConverterCurrents r;
    r.out = s.value;
    r.out_by_in = s.by_c * can_in;
    r.out_by_out = s.by_w * want_slope + s.by_c * can_out;
    const double decay = vin > 0 ? std::exp(-vin) : 1 - vin;
    r.in = c.quiet * (1 - decay);
    r.in_by_in = c.quiet * (vin > 0 ? decay : 1);
    if (!c.switching) {
        r.in += r.out, r.in_by_in += r.out_by_in, r.in_by_out += r.out_by_out;
        return r;
    }
    const double high = std::max(vin, floor), ratio = vout / (c.efficiency * high);
    r.in += ratio * r.out;
    r.in_by_in += ratio * r.out_by_in - (vin > floor ? ratio * r.out / high : 0);
    r.in_by_out += ratio * r.out_by_out + r.out / (c.efficiency * high);
    return r;
}

} // namespace conductus::circuit
