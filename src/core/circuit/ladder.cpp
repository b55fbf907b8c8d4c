// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/circuit/ladder.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace conductus::circuit {
namespace {

/// Pixels whose currents are computed together.
constexpr int block = 8;

// Wider vectors where the processor has them.
#if defined(__x86_64__) && defined(__GNUC__) && !defined(__clang__) &&                             \
    !defined(__SANITIZE_ADDRESS__)
#define CONDUCTUS_WIDE __attribute__((target_clones("avx2", "default")))
#else
#define CONDUCTUS_WIDE
#endif

/// Adds one channel's currents and slopes of a block. On its own, without branches and with nothing
/// aliased, so that it becomes vector instructions.
CONDUCTUS_WIDE void add_channel(const double* __restrict volts, double* __restrict amps,
                                double* __restrict slope, double gain, double offset,
                                double per_knee) {
    for (int k = 0; k < block; ++k) {
        const double x = volts[k] * per_knee - offset;
        const double up = std::max(x, 0.0);
        const double x2 = up * up;
        const double q = 1 / std::sqrt(std::sqrt(1 + x2 * x2));
        const double q2 = q * q;
        const double conducts = x > 0 ? 1.0 : 0.0;
        amps[k] += gain * (up * q);
        slope[k] += conducts * (gain * per_knee) * (q * q2 * q2);
    }
}

/// Sets a block's quiet currents. e^-V goes by five terms about `near`, whose e^-near is known:
/// exact to below a part in 10^9 over 0.1 V.
CONDUCTUS_WIDE void set_quiet(const double* __restrict volts, double* __restrict amps,
                              double* __restrict slope, double quiet, double near,
                              double decay_near) {
    for (int k = 0; k < block; ++k) {
        const double d = near - volts[k];
        const double decay =
            decay_near *
            (1 + d * (1 + d * (1.0 / 2) * (1 + d * (1.0 / 3) * (1 + d * 0.25 * (1 + d * 0.2)))));
        amps[k] = quiet * (1 - decay);
        slope[k] = quiet * decay;
    }
}

/// pixel_current() of one span, prepared for many pixels in a row.
class SpanLoad {
public:
    SpanLoad(const PixelModel& p, const Duties& duty)
        : model_(p), duty_(duty), per_knee_(1 / p.knee) {
        for (std::size_t c = 0; c < static_cast<std::size_t>(p.channels); ++c)
            if (duty[c] > 0) lit_[count_++] = {duty[c] * p.full[c], p.on[c] * per_knee_, p.on[c]};
    }

    [[nodiscard]] CurrentAndSlope at(double volts) const {
        return pixel_current(model_, duty_, volts);
    }

    /// A block of pixels, all at positive voltages a few millivolts apart.
    void at(const std::array<double, block>& volts, std::array<double, block>& amps,
            std::array<double, block>& slope) const {
        set_quiet(volts.data(), amps.data(), slope.data(), model_.quiet, volts[0],
                  std::exp(-volts[0]));
        for (std::size_t c = 0; c < count_; ++c)
            add_channel(volts.data(), amps.data(), slope.data(), lit_[c].gain, lit_[c].offset,
                        per_knee_);
    }

    /// True where a channel begins to conduct between these voltages: there the slope jumps.
    [[nodiscard]] bool threshold_in(double low, double high) const {
        for (std::size_t c = 0; c < count_; ++c)
            if (lit_[c].on > low && lit_[c].on < high) return true;
        return false;
    }

private:
    struct Lit {
        double gain, offset, on;
    };
    const PixelModel& model_;
    const Duties& duty_;
    double per_knee_;
    std::array<Lit, 4> lit_{};
    std::size_t count_ = 0;
};

/// Adds one pixel's current and walks down the copper to the next.
void step(Foot& foot, const CurrentAndSlope& one, double ohms) {
    foot.amps += one.amps;
    foot.amps_slope += one.slope * foot.volts_slope; // its own slope times dV/dV_tip
    foot.volts += ohms * foot.amps;
    foot.volts_slope += ohms * foot.amps_slope;
}

} // namespace

Foot sweep(const Strip& strip, double tip_volts, std::vector<double>* pixel_volts) {
    // Pixel by pixel each current waits for the one before. Neighbours draw nearly the same, so a
    // block's voltages are foreseen from the last currents, its currents computed together, and
    // each then corrected by its slope for the microvolts it was off: an error of second order.
    constexpr double foreseen_well = 1e-5; // V
    Foot foot{tip_volts, 0, 1, 0};
    CurrentAndSlope one;
    std::array<double, block> volts{}, amps{}, slope{};
    for (auto span = strip.spans.rbegin(); span != strip.spans.rend(); ++span) {
        const SpanLoad load(strip.pixel, span->duty);
        int k = span->last - 1;
        double trend = 0; // of the current, pixel to pixel
        auto keep = [&] {
            if (pixel_volts) (*pixel_volts)[static_cast<std::size_t>(k)] = foot.volts;
        };
        auto single = [&] {
            keep();
            one = load.at(foot.volts);
            step(foot, one, k > 0 ? strip.segment : strip.lead);
            --k;
        };
        if (k >= span->first) single();
        while (k >= span->first) {
            double ahead = foot.volts, current = foot.amps, next = one.amps;
            for (double& v : volts) {
                v = ahead;
                next += trend;
                current += next;
                ahead += strip.segment * current;
            }
            // Steep copper, or a tip guessed below zero: one at a time.
            if (ahead - foot.volts > 0.1 || foot.volts <= 0) {
                single();
                continue;
            }
            load.at(volts, amps, slope);
            const bool jumps = load.threshold_in(foot.volts - foreseen_well, ahead + foreseen_well);
            const auto count =
                std::min<std::size_t>(block, static_cast<std::size_t>(k - span->first + 1));
            for (std::size_t j = 0; j < count; ++j, --k) {
                const double off = foot.volts - volts[j];
                const double before = one.amps;
                if (jumps || std::abs(off) > foreseen_well) {
                    one = load.at(foot.volts);
                } else {
                    one = {amps[j] + slope[j] * off, slope[j]};
                }
                trend = one.amps - before;
                keep();
                step(foot, one, k > 0 ? strip.segment : strip.lead);
            }
        }
    }
    return foot;
}

Foot coarse_sweep(const Strip& strip, double tip_volts, int group) {
    Foot foot{tip_volts, 0, 1, 0};
    double before = 0; // a pixel's current in the group before
    for (auto span = strip.spans.rbegin(); span != strip.spans.rend(); ++span) {
        SpanLoad load(strip.pixel, span->duty);
        for (int end = span->last; end > span->first;) {
            const int n = std::min(group, end - span->first);
            end -= n;
            // n alike pixels in a row, each taken to draw what the middle one draws: then the drop
            // over the group is r (n I + i n (n+1) / 2), and the mean pixel sits at the middle.
            const double r = strip.segment;
            const double to_middle = r * (n - 1) / 2.0;
            const double middle = foot.volts + to_middle * (foot.amps + before * (n + 1) / 3.0);
            const CurrentAndSlope one = load.at(middle);
            const double slope = one.slope * (foot.volts_slope + to_middle * foot.amps_slope);
            const double over = r * (n - 1), last = end > 0 ? r : strip.lead;
            foot.volts += over * (foot.amps + one.amps * n / 2.0);
            foot.volts_slope += over * (foot.amps_slope + slope * n / 2.0);
            foot.amps += n * one.amps;
            foot.amps_slope += n * slope;
            foot.volts += last * foot.amps;
            foot.volts_slope += last * foot.amps_slope;
            before = one.amps;
        }
    }
    return foot;
}

bool fed_ladder(const Strip& strip, double pad_volts, std::vector<double>& u, Foot& foot) {
    constexpr double largest_step = 0.6, exact = 1e-12; // V
    const auto n = static_cast<std::size_t>(strip.pixels);
    const double y = strip.pixels > 1 ? 1 / strip.segment : 0;
    std::vector<double> fed(n), diagonal(n), right(n), per_volt(n);
    fed[0] += 1 / strip.lead;
    for (const Feed& feed : strip.feeds)
        fed[static_cast<std::size_t>(feed.pixel)] += 1 / feed.ohms;
    if (u.size() != n) u.assign(n, pad_volts);
    for (int turn = 0; turn < 80; ++turn) {
        for (const Span& span : strip.spans)
            for (int k = span.first; k < span.last; ++k) {
                const auto i = static_cast<std::size_t>(k);
                const auto c = pixel_current(strip.pixel, span.duty, u[i]);
                double out = c.amps + fed[i] * (u[i] - pad_volts);
                diagonal[i] = c.slope + fed[i];
                if (i > 0) out += y * (u[i] - u[i - 1]), diagonal[i] += y;
                if (i + 1 < n) out += y * (u[i] - u[i + 1]), diagonal[i] += y;
                right[i] = -out;
                per_volt[i] = fed[i]; // how the pads' voltage drives this pixel
            }
        // Thomas: symmetric and dominated by its diagonal.
        for (std::size_t i = 1; i < n; ++i) {
            const double f = y / diagonal[i - 1];
            diagonal[i] -= f * y;
            right[i] += f * right[i - 1];
            per_volt[i] += f * per_volt[i - 1];
        }
        double longest = 0;
        for (std::size_t i = n; i-- > 0;) {
            if (i + 1 < n) right[i] += y * right[i + 1], per_volt[i] += y * per_volt[i + 1];
            right[i] /= diagonal[i];
            per_volt[i] /= diagonal[i];
            longest = std::max(longest, std::abs(right[i]));
        }
        if (!std::isfinite(longest)) return false;
        const double scale = longest > largest_step ? largest_step / longest : 1;
        for (std::size_t i = 0; i < n; ++i)
            u[i] += scale * right[i];
        if (longest > exact) continue;
        foot = {pad_volts, 0, 1, 0};
        for (std::size_t i = 0; i < n; ++i) {
            foot.amps += fed[i] * (pad_volts - u[i]);
            foot.amps_slope += fed[i] * (1 - per_volt[i]);
        }
        return true;
    }
    return false;
}

StripState state_of(const Foot& foot, std::vector<double> pixel_volts, double plus_volts) {
    StripState state;
    state.amps = foot.amps;
    state.rail.reserve(pixel_volts.size());
    // Both rails drop alike, so half of what is lost across the pair is lost in the plus rail.
    for (const double v : pixel_volts)
        state.rail.push_back(plus_volts - (foot.volts - v) / 2);
    state.volts = std::move(pixel_volts);
    return state;
}

} // namespace conductus::circuit
