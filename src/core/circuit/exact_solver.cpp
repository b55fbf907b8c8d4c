// SPDX-License-Identifier: GPL-3.0-or-later
#include <Eigen/SparseCholesky>
#include <Eigen/SparseLU>
#include <algorithm>
#include <cmath>

#include "core/circuit/converter.h"
#include "core/circuit/junction.h"
#include "core/circuit/sink.h"
#include "core/circuit/solver.h"

namespace conductus::circuit {
namespace {

/// The network with every rail node of every strip laid out behind its own nodes.
struct Whole {
    const Network& network;
    std::vector<std::size_t> first_rail; ///< of each strip: plus rail, then minus rail
    std::size_t size = 0;                ///< with ground

    explicit Whole(const Network& n) : network(n), size(n.nodes.size()) {
        for (const Strip& s : n.strips) {
            first_rail.push_back(size);
            size += 2 * static_cast<std::size_t>(s.pixels);
        }
    }
    [[nodiscard]] std::size_t plus(std::size_t strip, int k) const {
        return first_rail[strip] + static_cast<std::size_t>(k);
    }
    [[nodiscard]] std::size_t minus(std::size_t strip, int k) const {
        return plus(strip, k) + static_cast<std::size_t>(network.strips[strip].pixels);
    }
};

/// Currents out of every node and the Jacobian, symmetric but for converters.
class Stamps {
public:
    explicit Stamps(const Eigen::VectorXd& v) : v_(v), out_(Eigen::VectorXd::Zero(v.size())) {}

    void conductance(std::size_t a, std::size_t b, double y) {
        current(a, b, y * (volts(a) - volts(b)), y);
    }
    void current(std::size_t a, std::size_t b, double amps, double slope) {
        add(a, amps, slope);
        add(b, -amps, slope);
        if (a && b) {
            entries_.emplace_back(index(a), index(b), -slope);
            entries_.emplace_back(index(b), index(a), -slope);
        }
    }
    /// Current into `a` and out at `b`, as it depends on the voltage of `c` over `d`.
    void depends(std::size_t a, std::size_t b, std::size_t c, std::size_t d, double slope) {
        for (const auto& [row, sign] : {std::pair{a, 1.0}, {b, -1.0}})
            for (const auto& [column, way] : {std::pair{c, 1.0}, {d, -1.0}})
                if (row && column)
                    entries_.emplace_back(index(row), index(column), sign * way * slope);
    }
    void amps(std::size_t a, std::size_t b, double amps) {
        if (a) out_[index(a)] += amps;
        if (b) out_[index(b)] -= amps;
    }
    void inject(std::size_t node, double amps) {
        if (node) out_[index(node)] -= amps;
    }
    [[nodiscard]] double volts(std::size_t n) const { return n ? v_[index(n)] : 0; }
    [[nodiscard]] const Eigen::VectorXd& out() const { return out_; }
    [[nodiscard]] Eigen::SparseMatrix<double> matrix() const {
        Eigen::SparseMatrix<double> m(v_.size(), v_.size());
        m.setFromTriplets(entries_.begin(), entries_.end());
        return m;
    }

private:
    static Eigen::Index index(std::size_t n) { return static_cast<Eigen::Index>(n) - 1; }
    void add(std::size_t n, double amps, double slope) {
        if (!n) return;
        out_[index(n)] += amps;
        entries_.emplace_back(index(n), index(n), slope);
    }
    const Eigen::VectorXd& v_;
    Eigen::VectorXd out_;
    std::vector<Eigen::Triplet<double>> entries_;
};

Stamps stamp(const Whole& w, const Eigen::VectorXd& v, double drive) {
    Stamps s(v);
    for (const Diode& d : w.network.diodes) {
        const double u = s.volts(d.plus) - s.volts(d.minus);
        s.current(d.plus, d.minus, junction_amps(d, u),
                  d.saturation * std::exp(u / d.slope) / d.slope);
    }
    for (const Limiter& l : w.network.limiters) {
        const auto c = saturation((s.volts(l.plus) - s.volts(l.minus)) / l.knee);
        s.current(l.plus, l.minus, l.amps * c.amps, l.amps / l.knee * c.slope);
    }
    for (const Converter& e : w.network.converters) {
        const auto c =
            converter_currents(e, s.volts(e.in) - s.volts(e.gnd), s.volts(e.out) - s.volts(e.gnd));
        s.amps(e.in, e.gnd, c.in);
        s.amps(e.gnd, e.out, c.out);
        s.depends(e.in, e.gnd, e.in, e.gnd, c.in_by_in);
        s.depends(e.in, e.gnd, e.out, e.gnd, c.in_by_out);
        s.depends(e.gnd, e.out, e.in, e.gnd, c.out_by_in);
        s.depends(e.gnd, e.out, e.out, e.gnd, c.out_by_out);
    }
    for (const Source& e : w.network.sources) {
        s.conductance(e.plus, e.minus, 1 / e.ohms);
        s.inject(e.plus, drive * e.emf / e.ohms);
        s.inject(e.minus, -drive * e.emf / e.ohms);
    }
    for (const Resistor& e : w.network.resistors)
        s.conductance(e.a, e.b, 1 / e.ohms);
    for (const Sink& e : w.network.sinks) {
        const SinkCurrent c = sink_current(e, s.volts(e.plus) - s.volts(e.minus));
        s.current(e.plus, e.minus, c.amps, c.slope);
    }
    for (std::size_t i = 0; i < w.network.strips.size(); ++i) {
        const Strip& e = w.network.strips[i];
        for (const Span& span : e.spans)
            for (int k = span.first; k < span.last; ++k) {
                const double y = 2 / (k == 0 ? e.lead : e.segment);
                s.conductance(k ? w.plus(i, k - 1) : e.plus, w.plus(i, k), y);
                s.conductance(k ? w.minus(i, k - 1) : e.minus, w.minus(i, k), y);
                const auto c = pixel_current(e.pixel, span.duty,
                                             s.volts(w.plus(i, k)) - s.volts(w.minus(i, k)));
                s.current(w.plus(i, k), w.minus(i, k), c.amps, c.slope);
            }
        for (const Feed& feed : e.feeds) {
            s.conductance(e.plus, w.plus(i, feed.pixel), 2 / feed.ohms);
            s.conductance(e.minus, w.minus(i, feed.pixel), 2 / feed.ohms);
        }
    }
    return s;
}

/// Newton with steps shortened until the next one would be shorter than itself. True when converged
/// to where only rounding is left.
template <class Factors>
bool newton(Factors& factors, const Whole& w, double drive, Eigen::VectorXd& v, int& iterations) {
    constexpr double largest_step = 0.6, exact = 1e-10; // V
    bool first = true;
    Eigen::VectorXd out = stamp(w, v, drive).out();
    for (int round = 0; round < 300; ++round, ++iterations) {
        const auto matrix = stamp(w, v, drive).matrix();
        if (first) factors.analyzePattern(matrix);
        first = false;
        factors.factorize(matrix);
        if (factors.info() != Eigen::Success) return false;
        const Eigen::VectorXd step = factors.solve(-out);
        const double longest = step.lpNorm<Eigen::Infinity>();
        if (!std::isfinite(longest)) return false;
        double scale = longest > largest_step ? largest_step / longest : 1;
        for (;; scale /= 2) {
            const Eigen::VectorXd trial = v + scale * step;
            out = stamp(w, trial, drive).out();
            const bool done = longest < exact || scale < 1e-5;
            if (done || (out.allFinite() &&
                         Eigen::VectorXd(factors.solve(out)).template lpNorm<Eigen::Infinity>() <=
                             (1 - scale / 4) * longest)) {
                v = trial;
                break;
            }
        }
        if (longest < exact) return true;
    }
    return false;
}

bool newton(const Whole& w, double drive, Eigen::VectorXd& v, int& iterations) {
    if (w.network.converters.empty()) {
        Eigen::SimplicialLDLT<Eigen::SparseMatrix<double>> symmetric;
        return newton(symmetric, w, drive, v, iterations);
    }
    Eigen::SparseLU<Eigen::SparseMatrix<double>> general;
    return newton(general, w, drive, v, iterations);
}

} // namespace

Result<OperatingPoint> solve_exact(const Network& network) {
    if (auto ok = check_connected(network); !ok) return tl::unexpected(ok.error());
    for (const Strip& s : network.strips)
        if (!(s.lead > 0) || (s.pixels > 1 && !(s.segment > 0)))
            return problem(s.name, "a strip without resistance has no whole network",
                           "Give its lead and rails their resistance");
    const Whole w(network);
    Eigen::VectorXd v = Eigen::VectorXd::Zero(static_cast<Eigen::Index>(w.size) - 1);
    OperatingPoint point;
    bool found = newton(w, 1, v, point.iterations);
    if (!found) {
        v.setZero();
        for (double drive = 0.05; drive < 1.0001; drive += 0.05)
            found = newton(w, std::min(drive, 1.0), v, point.iterations);
    }
    if (!found)
        return problem(network.sources[0].name, "the whole network does not settle",
                       "Check the figures of the parts");
    auto volts = [&](std::size_t n) { return n ? v[static_cast<Eigen::Index>(n) - 1] : 0.0; };
    for (Node n = 0; n < network.nodes.size(); ++n)
        point.volts.push_back(volts(n));
    for (const Source& s : network.sources)
        point.source_amps.push_back((s.emf - volts(s.plus) + volts(s.minus)) / s.ohms);
    for (const Resistor& e : network.resistors)
        point.resistor_amps.push_back((volts(e.a) - volts(e.b)) / e.ohms);
    for (const Sink& e : network.sinks)
        point.sink_amps.push_back(sink_current(e, volts(e.plus) - volts(e.minus)).amps);
    for (const Diode& d : network.diodes)
        point.diode_amps.push_back(junction_amps(d, volts(d.plus) - volts(d.minus)));
    for (const Limiter& l : network.limiters)
        point.limiter_amps.push_back(l.amps *
                                     saturation((volts(l.plus) - volts(l.minus)) / l.knee).amps);
    for (const Converter& e : network.converters) {
        const auto c =
            converter_currents(e, volts(e.in) - volts(e.gnd), volts(e.out) - volts(e.gnd));
        point.converter_in.push_back(c.in);
        point.converter_out.push_back(c.out);
    }
    for (std::size_t i = 0; i < network.strips.size(); ++i) {
        const Strip& e = network.strips[i];
        StripState state;
        for (int k = 0; k < e.pixels; ++k) {
            state.rail.push_back(volts(w.plus(i, k)));
            state.volts.push_back(volts(w.plus(i, k)) - volts(w.minus(i, k)));
        }
        state.amps = (volts(e.plus) - state.rail[0]) * 2 / e.lead;
        for (const Feed& feed : e.feeds)
            state.amps +=
                (volts(e.plus) - state.rail[static_cast<std::size_t>(feed.pixel)]) * 2 / feed.ohms;
        point.strips.push_back(std::move(state));
    }
    return point;
}

} // namespace conductus::circuit
