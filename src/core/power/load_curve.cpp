// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/power/load_curve.h"

#include <algorithm>
#include <cmath>

#include "core/circuit/solver.h"

namespace conductus::power {
namespace {

using circuit::Network;
using circuit::OperatingPoint;

/// Where the board's volts are told; without one, those behind the first cell's protection.
struct BoardEnds {
    circuit::Node plus = 0, minus = 0;
};

BoardEnds board_of(const Network& n) {
    if (!n.sinks.empty()) return {n.sinks[0].plus, n.sinks[0].minus};
    return {n.sources[0].plus, 0};
}

/// W that each kind of part takes; what they are in all, the cells give.
std::array<double, part_count> watts_of(const Network& n, const OperatingPoint& p) {
    std::array<double, part_count> w{};
    auto into = [&](circuit::Part part) -> double& { return w[static_cast<std::size_t>(part)]; };
    auto across = [&](circuit::Node a, circuit::Node b) { return p.volts[a] - p.volts[b]; };
    for (std::size_t i = 0; i < n.resistors.size(); ++i)
        into(n.resistors[i].part) +=
            p.resistor_amps[i] * across(n.resistors[i].a, n.resistors[i].b);
    for (std::size_t i = 0; i < n.sinks.size(); ++i)
        into(circuit::Part::board) += p.sink_amps[i] * across(n.sinks[i].plus, n.sinks[i].minus);
    for (std::size_t i = 0; i < n.strips.size(); ++i)
        into(circuit::Part::strip) +=
            p.strips[i].amps * across(n.strips[i].plus, n.strips[i].minus);
    for (std::size_t i = 0; i < n.diodes.size(); ++i)
        into(circuit::Part::light) += p.diode_amps[i] * across(n.diodes[i].plus, n.diodes[i].minus);
    for (std::size_t i = 0; i < n.limiters.size(); ++i)
        into(circuit::Part::supply) +=
            p.limiter_amps[i] * across(n.limiters[i].plus, n.limiters[i].minus);
    for (std::size_t i = 0; i < n.converters.size(); ++i)
        into(circuit::Part::supply) +=
            p.converter_in[i] * across(n.converters[i].in, n.converters[i].gnd) -
            p.converter_out[i] * across(n.converters[i].out, n.converters[i].gnd);
    return w;
}

/// Weights of the four points about `x`, counted in steps from the first of them.
/// Source: Lagrange's polynomial on evenly spaced points.
std::array<double, 4> weights(double x) {
    const double a = x, b = x - 1, c = x - 2, d = x - 3;
    return {-b * c * d / 6, a * c * d / 2, -a * b * d / 2, a * b * c / 6};
}

/// What a part that opens carries, or burns.
double guarded_by(const Guarded& guard, const Network& n, const OperatingPoint& p) {
    auto across = [&](circuit::Node a, circuit::Node b) { return p.volts[a] - p.volts[b]; };
    double most = 0, watts = 0;
    for (std::size_t i = 0; i < n.resistors.size() && !guard.watts; ++i)
        if (n.resistors[i].ref == guard.ref && n.resistors[i].part != circuit::Part::leak)
            most = std::max(most, std::abs(p.resistor_amps[i]));
    if (!guard.watts) return most;
    for (std::size_t i = 0; i < n.limiters.size(); ++i)
        if (n.limiters[i].ref == guard.ref)
            watts += p.limiter_amps[i] * across(n.limiters[i].plus, n.limiters[i].minus);
    for (std::size_t i = 0; i < n.converters.size(); ++i)
        if (const auto& c = n.converters[i]; c.ref == guard.ref)
            watts +=
                p.converter_in[i] * across(c.in, c.gnd) - p.converter_out[i] * across(c.out, c.gnd);
    return watts;
}

constexpr double hair_ohms = 1e-6; // of an ideal cell: the solver wants some

} // namespace

namespace {

/// Shares of the cells, and what flows between them.
Result<void> tell_apart(Network network, Pack& pack) {
    constexpr double lift = 0.01; // V
    const std::size_t n = pack.cells;
    double mean = 0;
    for (const auto& s : network.sources)
        mean += s.emf / static_cast<double>(n);
    for (auto& s : network.sources)
        s.emf = mean, s.ohms = hair_ohms;
    const auto level = circuit::solve(network);
    if (!level) return tl::unexpected(level.error());
    // A mixed curve tells one cell's current.
    const double times = pack.kind == Pack::Kind::mixed ? static_cast<double>(n) : 1;
    double amps = 0;
    for (const double a : level->source_amps)
        amps += a / times;
    for (const double a : level->source_amps)
        pack.shares.push_back(amps > 1e-9 ? a / amps : times / static_cast<double>(n));
    pack.between.resize(n * n);
    for (std::size_t j = 0; j < n; ++j) {
        network.sources[j].emf = mean + lift;
        const auto lifted = circuit::solve(network);
        if (!lifted) return tl::unexpected(lifted.error());
        network.sources[j].emf = mean;
        double more = 0;
        for (std::size_t k = 0; k < n; ++k)
            more += (lifted->source_amps[k] - level->source_amps[k]) / times;
        // Less what the curve tells of the mean that has risen.
        for (std::size_t k = 0; k < n; ++k)
            pack.between[k * n + j] =
                (lifted->source_amps[k] - level->source_amps[k] - pack.shares[k] * more) / lift;
    }
    return {};
}

} // namespace

Result<Pack> pack_of(const Network& network) {
    Pack pack;
    pack.cells = network.sources.size();
    if (pack.cells < 2) return pack;
    Network uneven = network;
    uneven.sources[0].emf *= 0.97;
    const auto point = circuit::solve(uneven);
    if (!point) return tl::unexpected(point.error());
    double least = INFINITY, most = -INFINITY;
    bool apart = false; // a cell whose minus is not ground's stands on another
    std::vector<circuit::Node> minus;
    for (std::size_t i = 0; i < pack.cells; ++i) {
        least = std::min(least, point->source_amps[i]);
        most = std::max(most, point->source_amps[i]);
        const double below = point->volts[uneven.sources[i].minus];
        apart = apart || below > 0.5 * uneven.sources[0].emf;
    }
    pack.kind = most - least <= 1e-6 * std::max(std::abs(most), 1e-3) ? Pack::Kind::row
                : apart                                               ? Pack::Kind::mixed
                                                                      : Pack::Kind::beside;
    if (pack.kind != Pack::Kind::row)
        if (auto ok = tell_apart(network, pack); !ok) return tl::unexpected(ok.error());
    return pack;
}

Result<LoadCurve> LoadCurve::of(Network network, const Pack& pack, const Watched& watched,
                                Watched::Light seen, double low, double high,
                                const AtVolts& at_volts) {
    const BoardEnds board = board_of(network);
    const double cells = static_cast<double>(pack.cells);
    circuit::Guess guess;
    auto solved = [&](double volts) -> Result<Row> {
        if (at_volts)
            if (auto ok = at_volts(volts, network); !ok) return tl::unexpected(ok.error());
        for (auto& s : network.sources) {
            s.emf = pack.kind == Pack::Kind::row ? volts / cells : volts;
            s.ohms = hair_ohms;
        }
        const auto p = circuit::solve(network, &guess);
        if (!p) return tl::unexpected(p.error());
        double amps = 0;
        for (const double a : p->source_amps)
            amps += a;
        // A row carries one current once; side by side all add up; mixed, each is like the others.
        if (pack.kind != Pack::Kind::beside) amps /= cells;
        const double times = pack.kind == Pack::Kind::mixed ? cells : 1;
        Row row{};
        row[0] = amps;
        row[1] = p->volts[board.plus] - p->volts[board.minus];
        if (seen != Watched::Light::none) {
            const Ends light = dimmest_ends(watched.lights.strips, network, *p);
            row[2] = light.tip, row[3] = light.foot;
        }
        if (seen == Watched::Light::all) row[5] = whole_light(watched.lights, network, *p);
        double last = INFINITY;
        for (std::size_t i = 0; i < network.strips.size(); ++i)
            if (const LitEnds lit = lit_ends(network.strips[i]); lit.any)
                last = std::min(last, p->strips[i].volts[lit.last]);
        row[4] = std::isfinite(last) ? last : 0;
        const auto watts = watts_of(network, *p);
        double total = 0;
        for (const double w : watts)
            total += w;
        // Rounding and the hair of resistance aside the watts are what the cells give.
        const double given = amps * volts * times;
        for (std::size_t k = 0; k < part_count; ++k)
            row[first_share + k] = total > 0 ? watts[k] / total * (given / (volts * times)) : 0;
        for (std::size_t k = 0; k < std::min(watched.guards.size(), guard_count); ++k)
            row[first_guard + k] = guarded_by(watched.guards[k], network, *p);
        return row;
    };

    LoadCurve curve;
    constexpr std::size_t count = 13;
    // It begins again from where it settles last, until all of it does.
    for (int attempt = 0;; ++attempt) {
        curve.low_ = low;
        curve.rows_.clear();
        curve.step_ = (high - low) / static_cast<double>(count - 1);
        Result<Row> row;
        for (std::size_t i = count; i-- > 0;) { // from full down: the next one is near
            row = solved(low + curve.step_ * static_cast<double>(i));
            if (!row) break;
            curve.rows_.push_back(*row);
        }
        if (row) break;
        if (curve.rows_.size() < 2 || attempt == 6) return tl::unexpected(row.error());
        low = high - curve.step_ * static_cast<double>(curve.rows_.size() - 1);
        curve.ends_early_ = true;
        guess.clear();
    }
    std::reverse(curve.rows_.begin(), curve.rows_.end());
    // Each step is halved until its middle is where the curve so far would have it; a smooth
    // stretch beside a corner (a string that lights up, a board that starts) is left wide, and
    // read off at the points that the corner's closeness gives it.
    std::vector<char> rough(count - 1, 1);
    for (int finer = 0; finer < 4 && std::count(rough.begin(), rough.end(), 1) > 0; ++finer) {
        LoadCurve next;
        next.low_ = low;
        next.ends_early_ = curve.ends_early_;
        next.step_ = curve.step_ / 2;
        next.rows_.resize(2 * curve.rows_.size() - 1);
        std::vector<char> still(2 * rough.size(), 0);
        guess.clear();
        next.rows_.back() = curve.rows_.back();
        const Row& full = curve.rows_.back();
        for (std::size_t i = rough.size(); i-- > 0;) {
            next.rows_[2 * i] = curve.rows_[i];
            const double volts = low + curve.step_ * (static_cast<double>(i) + 0.5);
            Row& middle = next.rows_[2 * i + 1];
            const Row guessed = curve.read(volts);
            middle = guessed;
            if (!rough[i]) continue;
            auto row = solved(volts);
            if (!row) continue; // what stands beside it settles: it is read off
            middle = *row;
            // The finer curve is sixteen times closer than what is seen to be off here. What is
            // little of what flows and shines at full volts may be off by little of that; where a
            // colour begins to shine the light has a corner, far below where it is dim.
            const bool close = std::abs(guessed[0] - middle[0]) <=
                                   5e-3 * std::abs(middle[0]) + 3e-3 * std::abs(full[0]) + 1e-7 &&
                               std::abs(guessed[1] - middle[1]) <= 4e-3 &&
                               std::abs(guessed[2] - middle[2]) <= 5e-2 * std::abs(full[3]) + 1e-12;
            if (close) continue;
            // Its neighbours are read off through the same points.
            for (std::size_t k = i > 0 ? 2 * i - 1 : 0; k < std::min(still.size(), 2 * i + 3); ++k)
                still[k] = 1;
        }
        curve = std::move(next);
        rough = std::move(still);
    }
    curve.settle();
    return curve;
}

LoadCurve LoadCurve::mixed(const std::vector<std::pair<const LoadCurve*, double>>& of) {
    LoadCurve mix = *of.front().first;
    const double high = mix.high();
    double finest = mix.step_;
    for (const auto& [curve, weight] : of) {
        finest = std::min(finest, curve->step_);
        // Below where one of them settles no more, none of the mix does.
        mix.low_ = std::max(mix.low_, curve->low_);
        mix.ends_early_ = mix.ends_early_ || curve->ends_early_;
    }
    const auto steps = static_cast<std::size_t>(std::lround((high - mix.low_) / finest));
    mix.rows_.resize(std::max<std::size_t>(4, steps + 1));
    mix.step_ = (high - mix.low_) / static_cast<double>(mix.rows_.size() - 1);
    for (std::size_t i = 0; i < mix.rows_.size(); ++i) {
        const double volts = mix.low_ + mix.step_ * static_cast<double>(i);
        Row row = of.front().first->read(volts);
        row[0] = 0;
        std::fill(row.begin() + first_share, row.end(), 0.0);
        for (const auto& [curve, weight] : of) {
            const Row one = curve->read(volts);
            row[0] += weight * one[0];
            for (std::size_t k = first_share; k < width; ++k)
                row[k] += weight * one[k];
        }
        mix.rows_[i] = row;
    }
    mix.settle();
    return mix;
}

void LoadCurve::scale(double at_low, double at_high) {
    for (std::size_t i = 0; i < rows_.size(); ++i) {
        const double along = static_cast<double>(i) / static_cast<double>(rows_.size() - 1);
        const double by = at_low + along * (at_high - at_low);
        rows_[i][0] *= by;
        for (std::size_t k = first_share; k < width; ++k)
            rows_[i][k] *= by;
    }
    settle();
}

/// Source: the same polynomial through the same four points, in powers of the way through a step.
void LoadCurve::settle() {
    cubics_.resize(rows_.size() - 1);
    for (std::size_t i = 0; i < cubics_.size(); ++i) {
        const std::size_t first = std::min(rows_.size() - 4, i > 0 ? i - 1 : 0);
        const double y0 = rows_[first][0], y1 = rows_[first + 1][0], y2 = rows_[first + 2][0],
                     y3 = rows_[first + 3][0];
        // Newton's forward differences about the first point, then moved to the step's own foot.
        const double d1 = y1 - y0, d2 = (y2 - 2 * y1 + y0) / 2,
                     d3 = (y3 - 3 * y2 + 3 * y1 - y0) / 6;
        const double c1 = d1 - d2 + 2 * d3, c2 = d2 - 3 * d3, c3 = d3;
        const double a = static_cast<double>(i - first);
        cubics_[i] = {y0 + a * (c1 + a * (c2 + a * c3)), c1 + a * (2 * c2 + 3 * a * c3),
                      c2 + 3 * a * c3, c3};
    }
}

std::pair<std::size_t, std::array<double, 4>> LoadCurve::about(double volts) const {
    const double x = std::clamp((volts - low_) / step_, 0.0, static_cast<double>(rows_.size() - 1));
    const std::size_t first =
        std::min(rows_.size() - 4, static_cast<std::size_t>(std::max(0.0, std::floor(x) - 1)));
    return {first, weights(x - static_cast<double>(first))};
}

double LoadCurve::board_at(double volts) const {
    const auto [first, w] = about(volts);
    double board = 0;
    for (std::size_t p = 0; p < 4; ++p)
        board += w[p] * rows_[first + p][1];
    return board;
}

LoadCurve::Row LoadCurve::read(double volts) const {
    const auto [first, w] = about(volts);
    Row row{};
    for (std::size_t p = 0; p < 4; ++p)
        for (std::size_t k = 0; k < width; ++k)
            row[k] += w[p] * rows_[first + p][k];
    return row;
}

Drawn LoadCurve::at(double volts) const {
    const Row row = read(volts);
    Drawn d{row[0], row[1], row[2], row[3], row[5], row[4], {}, {}};
    std::copy_n(row.begin() + first_share, part_count, d.share.begin());
    std::copy_n(row.begin() + first_guard, guard_count, d.guarded.begin());
    return d;
}

double LoadCurve::amps(double volts, double& slope) const {
    const double end = static_cast<double>(cubics_.size());
    const double at = (volts - low_) / step_, x = std::clamp(at, 0.0, end);
    const std::size_t i = std::min(cubics_.size() - 1, static_cast<std::size_t>(x));
    const auto& [c0, c1, c2, c3] = cubics_[i];
    const double t = x - static_cast<double>(i);
    const double per_step = c1 + t * (2 * c2 + 3 * t * c3);
    slope = per_step / step_;
    return c0 + t * (c1 + t * (c2 + t * c3)) + (at - x) * per_step;
}

} // namespace conductus::power
