// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/circuit/ladder.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace conductus::circuit {
namespace {

/// Pixels whose currents are computed together.
constexpr int block = 16;

// Wider vectors where the processor has them.
#if defined(__x86_64__) && defined(__GNUC__) && !defined(__clang__) &&                             \
    !defined(__SANITIZE_ADDRESS__)
#define CONDUCTUS_WIDE __attribute__((target_clones("avx2", "default")))
#define CONDUCTUS_FUSED __attribute__((target_clones("fma", "default")))
#else
#define CONDUCTUS_WIDE
#define CONDUCTUS_FUSED
#endif

/// A channel that is lit, ready for many voltages.
struct Lit {
    double gain;   ///< A at full
    double offset; ///< threshold, in knees
    double on;     ///< V
};

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

/// Volts of a block's pixels from the first at `volts`: drops per pixel of the current so far, of
/// the first pixel's, of its first and of its second difference.
CONDUCTUS_FUSED void foresee(double* __restrict out, double volts, double sum, double one,
                             double first, double second) {
    for (int k = 0; k < block; ++k) {
        const double j = k;
        out[k] =
            volts +
            j * (sum + (j + 1) * (one * (1.0 / 2) +
                                  (j - 1) * (first * (1.0 / 6) + (j - 2) * second * (1.0 / 24))));
    }
}

/// Walks `count` pixels from the tip's side up the copper, each drawing what was foreseen for it,
/// corrected along its slope. Leaves their voltages and slopes of them by the tip's, tip's side
/// first. Says how far the worst was from what was foreseen.
CONDUCTUS_FUSED double walk(const double* __restrict foreseen, const double* __restrict amps,
                            const double* __restrict slope, int count, double segment, double last,
                            double* __restrict volts, double* __restrict slopes, Foot& foot) {
    double v = foot.volts, i = foot.amps, dv = foot.volts_slope, di = foot.amps_slope;
    double worst = 0;
    for (int k = 0; k < count; ++k) {
        volts[k] = v;
        slopes[k] = dv;
        worst = std::max(worst, std::abs(v - foreseen[k]));
        // What does not wait for the voltage first, so that a pixel waits two products only.
        const double at_zero = i + (amps[k] - slope[k] * foreseen[k]);
        const double ohms = k + 1 < count ? segment : last;
        i = at_zero + slope[k] * v;
        v += ohms * i;
        di += slope[k] * dv;
        dv += ohms * di;
    }
    foot = {v, i, dv, di};
    return worst;
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

    /// Where e^-volts is known already.
    [[nodiscard]] CurrentAndSlope at(double volts, double decay) const {
        CurrentAndSlope sum{model_.quiet * (1 - decay), model_.quiet * decay};
        for (std::size_t c = 0; c < count_; ++c) {
            const CurrentAndSlope s = saturation(volts * per_knee_ - lit_[c].offset);
            sum.amps += lit_[c].gain * s.amps;
            sum.slope += lit_[c].gain * per_knee_ * s.slope;
        }
        return sum;
    }

    /// A block of pixels, all at positive voltages a few millivolts apart.
    void at(const std::array<double, block>& volts, std::array<double, block>& amps,
            std::array<double, block>& slope) const {
        const double middle = volts[block / 2];
        set_quiet(volts.data(), amps.data(), slope.data(), model_.quiet, middle, std::exp(-middle));
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

Foot sweep(const Strip& strip, double tip_volts, std::vector<double>* pixel_volts,
           std::vector<double>* pixel_slopes) {
    // Pixel by pixel each current waits for the one before. Neighbours draw nearly the same, so a
    // block's voltages are foreseen: along the slopes of an earlier sweep from close by, else from
    // the last currents. Its currents are computed together, and each then corrected by its slope
    // for the microvolts it was off: an error of second order.
    constexpr double foreseen_well = 1e-5, close_by = 1e-3; // V
    Foot foot{tip_volts, 0, 1, 0};
    double* const kept = pixel_volts ? pixel_volts->data() : nullptr;
    double* const slopes = pixel_slopes ? pixel_slopes->data() : nullptr;
    const double moved = kept && slopes ? tip_volts - pixel_volts->back() : 1;
    const bool earlier = std::abs(moved) < close_by;
    // On whole cache lines: vectors that straddle them cost a third more.
    alignas(64) std::array<double, block> foreseen{}, amps{}, slope{}, volts{}, by_tip{};
    for (auto span = strip.spans.rbegin(); span != strip.spans.rend(); ++span) {
        const SpanLoad load(strip.pixel, span->duty);
        int k = span->last - 1;
        CurrentAndSlope
            last; // of the last pixel, at `at` volts, its slope changing by `bend` a volt
        double at = 0, bend = 0;
        auto single = [&] {
            if (kept) kept[k] = foot.volts;
            if (slopes) slopes[k] = foot.volts_slope;
            last = load.at(foot.volts);
            at = foot.volts;
            step(foot, last, k > 0 ? strip.segment : strip.lead);
            --k;
        };
        if (k >= span->first) single();
        while (k >= span->first) {
            const int count = std::min(block, k - span->first + 1);
            if (earlier) {
                for (int j = 0; j < block; ++j) {
                    const int pixel = k - std::min(j, count - 1);
                    foreseen[static_cast<std::size_t>(j)] = kept[pixel] + moved * slopes[pixel];
                }
            } else {
                // Newton's series of currents that grow evenly, summed twice.
                const double up = foot.volts - at, r = strip.segment;
                const double slope_now = last.slope + bend * up;
                const double now = last.amps + (last.slope + bend * up / 2) * up;
                const double rise = r * (foot.amps + now), first = slope_now * rise;
                const double second = slope_now * r * now + bend * rise * rise;
                foresee(foreseen.data(), foot.volts, r * foot.amps, r * now, r * first, r * second);
            }
            const double low = std::min(foot.volts, foreseen.front());
            const double high = std::max(foot.volts, foreseen.back());
            const bool jumps = load.threshold_in(low - foreseen_well, high + foreseen_well);
            // A threshold, steep copper, or a tip guessed below zero: one at a time.
            bool walked = false;
            if (!jumps && high - low < 0.2 && low > 0)
                // Foreseen badly, what was walked is the better forecast.
                for (int round = 0; round < 3 && !walked; ++round) {
                    if (round > 0) {
                        std::fill(volts.begin() + count, volts.end(),
                                  volts[static_cast<std::size_t>(count - 1)]);
                        foreseen = volts;
                    }
                    load.at(foreseen, amps, slope);
                    Foot next = foot;
                    walked = walk(foreseen.data(), amps.data(), slope.data(), count, strip.segment,
                                  k - count >= 0 ? strip.segment : strip.lead, volts.data(),
                                  by_tip.data(), next) < foreseen_well;
                    if (walked) foot = next;
                }
            if (!walked) {
                for (int j = 0; j < count; ++j)
                    single();
                bend = 0;
                continue;
            }
            for (int j = 0; j < count; ++j) {
                if (kept) kept[k - j] = volts[static_cast<std::size_t>(j)];
                if (slopes) slopes[k - j] = by_tip[static_cast<std::size_t>(j)];
            }
            const auto end = static_cast<std::size_t>(count - 1);
            if (end > 0) bend = (slope[end] - slope[0]) / (foreseen[end] - foreseen[0]);
            last = {amps[end], slope[end]};
            at = foreseen[end];
            k -= count;
        }
    }
    return foot;
}

CONDUCTUS_FUSED Foot coarse_sweep(const Strip& strip, double tip_volts, int group) {
    Foot foot{tip_volts, 0, 1, 0};
    double before = 0; // a pixel's current in the group before
    for (auto span = strip.spans.rbegin(); span != strip.spans.rend(); ++span) {
        SpanLoad load(strip.pixel, span->duty);
        double at = 0, slope_at = 0, rise = 0; // of the group before; rise: pixel to pixel
        double decay = 0;                      // e^-at
        for (int end = span->last; end > span->first;) {
            // The last pixel alone tells the others' current.
            const bool first = end == span->last;
            const int n = first ? 1 : std::min(group, end - span->first);
            end -= n;
            // n pixels in a row draw on average what one draws at their mean voltage and, by how
            // the curve bends from group to group, what their spread about it adds. The drop over
            // them is r (n I + i n (n-1) / 2), less what the tip's side draws below the mean.
            const double r = strip.segment, m = n;
            const double to_mean = r * (m - 1) / 2;
            double mean = foot.volts + to_mean * (foot.amps + before * (m + 1) / 3);
            const double spread = (m * m - 1) / 12;
            if (!first)
                mean += to_mean * slope_at * (mean - at) * (m + 1) / 3 -
                        r * slope_at * rise * m * spread / 2;
            const double d = at - mean;
            // Between neighbours e^-V goes by its series; below zero pixel_current() knows.
            decay = first || std::abs(d) > 0.1 ? std::exp(-mean)
                                               : decay * (1 + d * (1 + d * (0.5 + d / 6)));
            CurrentAndSlope one = mean > 0 ? load.at(mean, decay) : load.at(mean);
            rise = r * (foot.amps + one.amps * (m + 1) / 2);
            if (!first && mean > at)
                one.amps += (one.slope - slope_at) / (mean - at) / 2 * rise * rise * spread;
            at = mean, slope_at = one.slope;
            const double slope = one.slope * (foot.volts_slope + to_mean * foot.amps_slope);
            const double over = r * (m - 1), last = end > 0 ? r : strip.lead;
            foot.volts += over * (foot.amps + one.amps * m / 2) - r * one.slope * rise * m * spread;
            foot.volts_slope += over * (foot.amps_slope + slope * m / 2);
            foot.amps += n * one.amps;
            foot.amps_slope += n * slope;
            foot.volts += last * foot.amps;
            foot.volts_slope += last * foot.amps_slope;
            before = one.amps;
        }
    }
    return foot;
}

namespace {

/// Currents and slopes of every pixel at these voltages, in blocks where they lie close together.
void pixel_currents(const Strip& strip, const std::vector<double>& u, std::vector<double>& amps,
                    std::vector<double>& slopes) {
    constexpr double close = 0.1; // V: over which e^-V goes by its series
    alignas(64) std::array<double, block> volts{}, i{}, g{};
    for (const Span& span : strip.spans) {
        const SpanLoad load(strip.pixel, span.duty);
        for (int k = span.first; k < span.last; k += block) {
            const int count = std::min(block, span.last - k);
            double low = u[static_cast<std::size_t>(k)], high = low;
            for (int j = 0; j < block; ++j) {
                const double v = u[static_cast<std::size_t>(k + std::min(j, count - 1))];
                volts[static_cast<std::size_t>(j)] = v;
                low = std::min(low, v), high = std::max(high, v);
            }
            const bool together = low > 0 && high - low < close;
            if (together) load.at(volts, i, g);
            for (int j = 0; j < count; ++j) {
                const auto at = static_cast<std::size_t>(k + j), in = static_cast<std::size_t>(j);
                if (together) {
                    amps[at] = i[in], slopes[at] = g[in];
                } else {
                    const CurrentAndSlope one = load.at(volts[in]);
                    amps[at] = one.amps, slopes[at] = one.slope;
                }
            }
        }
    }
}

} // namespace

bool fed_ladder(const Strip& strip, double pad_volts, std::vector<double>& u,
                std::vector<double>& per_volt, double& known_at, Foot& foot) {
    // What is left after a step is as its square, so a step of 1e-7 V leaves nothing that is seen;
    // the search outside comes back here until it settles, each time from what was found.
    constexpr double largest_step = 0.6, exact = 1e-7; // V
    const auto n = static_cast<std::size_t>(strip.pixels);
    const double y = strip.pixels > 1 ? 1 / strip.segment : 0;
    thread_local std::vector<double> fed, one_over, right, amps, slopes;
    fed.assign(n, 0), one_over.resize(n), right.resize(n), amps.resize(n), slopes.resize(n);
    fed[0] += 1 / strip.lead;
    for (const Feed& feed : strip.feeds)
        fed[static_cast<std::size_t>(feed.pixel)] += 1 / feed.ohms;
    // Along the slopes of what was found at other pads' volts, it begins close by.
    if (u.size() != n)
        u.assign(n, pad_volts);
    else if (per_volt.size() == n && std::abs(pad_volts - known_at) < largest_step)
        for (std::size_t i = 0; i < n; ++i)
            u[i] += per_volt[i] * (pad_volts - known_at);
    known_at = pad_volts;
    per_volt.resize(n);
    for (int round = 0; round < 80; ++round) {
        pixel_currents(strip, u, amps, slopes);
        // Thomas, as the rows are made: symmetric and dominated by its diagonal.
        for (std::size_t i = 0; i < n; ++i) {
            double out = amps[i] + fed[i] * (u[i] - pad_volts);
            double diagonal = slopes[i] + fed[i];
            if (i > 0) out += y * (u[i] - u[i - 1]), diagonal += y;
            if (i + 1 < n) out += y * (u[i] - u[i + 1]), diagonal += y;
            double to = -out, driven = fed[i]; // how the pads' voltage drives this pixel
            if (i > 0) {
                const double f = y * one_over[i - 1];
                diagonal -= f * y;
                to += f * right[i - 1];
                driven += f * per_volt[i - 1];
            }
            one_over[i] = 1 / diagonal;
            right[i] = to;
            per_volt[i] = driven;
        }
        double longest = 0, after = 0, driven_after = 0;
        for (std::size_t i = n; i-- > 0;) {
            after = (right[i] + y * after) * one_over[i];
            driven_after = (per_volt[i] + y * driven_after) * one_over[i];
            right[i] = after;
            per_volt[i] = driven_after;
            longest = std::max(longest, std::abs(after));
        }
        if (!std::isfinite(longest)) {
            u.clear(); // the next try begins anew
            return false;
        }
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
    u.clear();
    return false;
}

StripState state_of(const Foot& foot, std::vector<double> pixel_volts, double plus_volts) {
    StripState state;
    state.amps = foot.amps;
    state.rail.resize(pixel_volts.size());
    // Both rails drop alike, so half of what is lost across the pair is lost in the plus rail.
    const double level = plus_volts - foot.volts / 2;
    std::transform(pixel_volts.begin(), pixel_volts.end(), state.rail.begin(),
                   [level](double v) { return level + v / 2; });
    state.volts = std::move(pixel_volts);
    return state;
}

} // namespace conductus::circuit
