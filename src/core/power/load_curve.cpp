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

/// Weights of the four points about `x`, counted in steps from the first of them, and the weights
/// of the slope. Source: Lagrange's polynomial on evenly spaced points.
void weights(double x, std::array<double, 4>& w, std::array<double, 4>& slope) {
    const double a = x, b = x - 1, c = x - 2, d = x - 3;
    w = {-b * c * d / 6, a * c * d / 2, -a * b * d / 2, a * b * c / 6};
    slope = {-(c * d + b * d + b * c) / 6, (c * d + a * d + a * c) / 2,
             -(b * d + a * d + a * b) / 2, (b * c + a * c + a * b) / 6};
}

constexpr double hair_ohms = 1e-6; // of an ideal cell: the solver wants some

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
    return pack;
}

Result<LoadCurve> LoadCurve::of(Network network, const Pack& pack,
                                const std::vector<StripLight>& lights, double low, double high) {
    const BoardEnds board = board_of(network);
    const double cells = static_cast<double>(pack.cells);
    circuit::Guess guess;
    auto solved = [&](double volts) -> Result<Row> {
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
        const Ends light = dimmest_ends(lights, network, *p);
        row[2] = light.tip, row[3] = light.foot;
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
            row[5 + k] = total > 0 ? watts[k] / total * (given / (volts * times)) : 0;
        return row;
    };

    LoadCurve curve;
    curve.low_ = low;
    std::size_t count = 13;
    curve.step_ = (high - low) / static_cast<double>(count - 1);
    for (std::size_t i = count; i-- > 0;) { // from full down: the next one is near
        auto row = solved(low + curve.step_ * static_cast<double>(i));
        if (!row) return tl::unexpected(row.error());
        curve.rows_.push_back(*row);
    }
    std::reverse(curve.rows_.begin(), curve.rows_.end());
    for (int finer = 0; finer < 4; ++finer) {
        LoadCurve next;
        next.low_ = low;
        next.step_ = curve.step_ / 2;
        next.rows_.resize(2 * curve.rows_.size() - 1);
        bool close = true;
        guess.clear();
        for (std::size_t i = curve.rows_.size(); i-- > 0;) {
            next.rows_[2 * i] = curve.rows_[i];
            if (i == 0) break;
            const double volts = low + curve.step_ * (static_cast<double>(i) - 0.5);
            auto row = solved(volts);
            if (!row) return tl::unexpected(row.error());
            const Row guessed = curve.read(volts);
            // The finer curve is sixteen times closer than what is seen to be off here. What is
            // little of what flows and shines at full volts may be off by little of that; where a
            // colour begins to shine the light has a corner, far below where it is dim.
            const Row& full = curve.rows_.back();
            close = close &&
                    std::abs(guessed[0] - (*row)[0]) <=
                        5e-3 * std::abs((*row)[0]) + 3e-3 * std::abs(full[0]) + 1e-7 &&
                    std::abs(guessed[1] - (*row)[1]) <= 4e-3 &&
                    std::abs(guessed[2] - (*row)[2]) <= 5e-2 * std::abs(full[3]) + 1e-12;
            next.rows_[2 * i - 1] = *row;
        }
        curve = std::move(next);
        if (close) break;
    }
    return curve;
}

LoadCurve LoadCurve::mixed(const std::vector<std::pair<const LoadCurve*, double>>& of) {
    LoadCurve mix = *of.front().first;
    for (const auto& [curve, weight] : of)
        if (curve->rows_.size() > mix.rows_.size()) {
            mix.rows_.resize(curve->rows_.size());
            mix.step_ = curve->step_;
        }
    for (std::size_t i = 0; i < mix.rows_.size(); ++i) {
        const double volts = mix.low_ + mix.step_ * static_cast<double>(i);
        Row row = of.front().first->read(volts);
        row[0] = 0;
        std::fill(row.begin() + 5, row.end(), 0.0);
        for (const auto& [curve, weight] : of) {
            const Row one = curve->read(volts);
            row[0] += weight * one[0];
            for (std::size_t k = 5; k < width; ++k)
                row[k] += weight * one[k];
        }
        mix.rows_[i] = row;
    }
    return mix;
}

void LoadCurve::scale(double at_low, double at_high) {
    for (std::size_t i = 0; i < rows_.size(); ++i) {
        const double along = static_cast<double>(i) / static_cast<double>(rows_.size() - 1);
        const double by = at_low + along * (at_high - at_low);
        rows_[i][0] *= by;
        for (std::size_t k = 5; k < width; ++k)
            rows_[i][k] *= by;
    }
}

LoadCurve::Row LoadCurve::read(double volts) const {
    const double x = std::clamp((volts - low_) / step_, 0.0, static_cast<double>(rows_.size() - 1));
    const std::size_t first =
        std::min(rows_.size() - 4, static_cast<std::size_t>(std::max(0.0, std::floor(x) - 1)));
    std::array<double, 4> w{}, slope{};
    weights(x - static_cast<double>(first), w, slope);
    Row row{};
    for (std::size_t p = 0; p < 4; ++p)
        for (std::size_t k = 0; k < width; ++k)
            row[k] += w[p] * rows_[first + p][k];
    return row;
}

Drawn LoadCurve::at(double volts) const {
    const Row row = read(volts);
    Drawn d{row[0], row[1], row[2], row[3], row[4], {}};
    std::copy(row.begin() + 5, row.end(), d.share.begin());
    return d;
}

double LoadCurve::amps(double volts, double& slope) const {
    const double end = static_cast<double>(rows_.size() - 1);
    const double at = (volts - low_) / step_, x = std::clamp(at, 0.0, end);
    const std::size_t first =
        std::min(rows_.size() - 4, static_cast<std::size_t>(std::max(0.0, std::floor(x) - 1)));
    std::array<double, 4> w{}, ws{};
    weights(x - static_cast<double>(first), w, ws);
    double amps = 0, per_step = 0;
    for (std::size_t p = 0; p < 4; ++p) {
        amps += w[p] * rows_[first + p][0];
        per_step += ws[p] * rows_[first + p][0];
    }
    slope = per_step / step_;
    return amps + (at - x) * per_step;
}

} // namespace conductus::power
