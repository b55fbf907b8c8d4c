// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numeric>

#include "core/circuit/ladder.h"
#include "core/circuit/solver.h"

namespace conductus::circuit {
namespace {

/// Dense column-major symmetric systems of a dozen unknowns: a hilt, not a mesh.
class Cholesky {
public:
    explicit Cholesky(std::size_t n) : n_(n), a_(n * n, 0.0) {}
    double& at(std::size_t i, std::size_t j) { return a_[j * n_ + i]; }

    /// False where the matrix is not positive definite.
    bool factor() {
        for (std::size_t j = 0; j < n_; ++j) {
            double d = at(j, j);
            for (std::size_t k = 0; k < j; ++k)
                d -= at(j, k) * at(j, k);
            if (!(d > 0)) return false;
            at(j, j) = std::sqrt(d);
            for (std::size_t i = j + 1; i < n_; ++i) {
                double s = at(i, j);
                for (std::size_t k = 0; k < j; ++k)
                    s -= at(i, k) * at(j, k);
                at(i, j) = s / at(j, j);
            }
        }
        return true;
    }

    void solve(double* b) {
        for (std::size_t i = 0; i < n_; ++i) {
            for (std::size_t k = 0; k < i; ++k)
                b[i] -= at(i, k) * b[k];
            b[i] /= at(i, i);
        }
        for (std::size_t i = n_; i-- > 0;) {
            for (std::size_t k = i + 1; k < n_; ++k)
                b[i] -= at(k, i) * b[k];
            b[i] /= at(i, i);
        }
    }

private:
    std::size_t n_;
    std::vector<double> a_;
};

/// In-place Gauss with row pivots on a small dense matrix, row-major. False if singular.
bool gauss(std::vector<double>& m, std::vector<double>& b) {
    const std::size_t n = b.size();
    for (std::size_t c = 0; c < n; ++c) {
        std::size_t best = c;
        for (std::size_t r = c + 1; r < n; ++r)
            if (std::abs(m[r * n + c]) > std::abs(m[best * n + c])) best = r;
        if (!(std::abs(m[best * n + c]) > 0)) return false;
        if (best != c) {
            std::swap_ranges(m.begin() + static_cast<std::ptrdiff_t>(c * n),
                             m.begin() + static_cast<std::ptrdiff_t>((c + 1) * n),
                             m.begin() + static_cast<std::ptrdiff_t>(best * n));
            std::swap(b[c], b[best]);
        }
        for (std::size_t r = c + 1; r < n; ++r) {
            const double f = m[r * n + c] / m[c * n + c];
            for (std::size_t k = c; k < n; ++k)
                m[r * n + k] -= f * m[c * n + k];
            b[r] -= f * b[c];
        }
    }
    for (std::size_t r = n; r-- > 0;) {
        for (std::size_t k = r + 1; k < n; ++k)
            b[r] -= m[r * n + k] * b[k];
        b[r] /= m[r * n + r];
    }
    return true;
}

/// A nonlinear device seen from the linear network. Alike strips on the same pads are one port
/// carrying `count` times the current.
struct Port {
    const Strip* strip = nullptr;
    const Sink* sink = nullptr;
    Node plus = 0, minus = 0;
    double count = 1;
    std::vector<double> pixel_volts; ///< of the latest exact sweep

    /// At unknown x (tip voltage of a strip, voltage of a sink): port volts and amps with slopes.
    Foot at(double x, int group) {
        Foot f;
        if (strip) {
            f = group > 1 ? coarse_sweep(*strip, x, group) : sweep(*strip, x, &pixel_volts);
        } else {
            const double decay = x > 0 ? std::exp(-x) : 1 - x;
            f = {x, sink->amps * (1 - decay), 1, sink->amps * (x > 0 ? decay : 1)};
        }
        f.amps *= count;
        f.amps_slope *= count;
        return f;
    }
    [[nodiscard]] const std::string& name() const { return strip ? strip->name : sink->name; }
};

std::vector<Port> ports_of(const Network& network, std::vector<std::size_t>& port_of_strip) {
    std::vector<Port> ports;
    for (const Sink& s : network.sinks)
        ports.push_back({nullptr, &s, s.plus, s.minus, 1, {}});
    const std::size_t first_strip = ports.size();
    for (const Strip& s : network.strips) {
        auto twin =
            std::find_if(ports.begin() + static_cast<std::ptrdiff_t>(first_strip), ports.end(),
                         [&](const Port& p) {
                             return p.plus == s.plus && p.minus == s.minus && p.strip->same_load(s);
                         });
        port_of_strip.push_back(static_cast<std::size_t>(twin - ports.begin()));
        if (twin != ports.end()) {
            twin->count += 1;
        } else {
            ports.push_back({&s, nullptr, s.plus, s.minus, 1,
                             std::vector<double>(static_cast<std::size_t>(s.pixels))});
        }
    }
    return ports;
}

/// Thevenin of the linear network at the ports: V = open - Z I, both from one factorisation.
struct Reduced {
    std::vector<double> open_nodes; ///< node voltages (without ground) with no port current
    std::vector<std::vector<double>> columns; ///< node voltages lost per ampere of each port
    std::vector<double> open;                 ///< port voltages
    std::vector<double> z;                    ///< row-major, ports x ports
};

double across(const std::vector<double>& nodes, const Port& p) {
    return (p.plus ? nodes[p.plus - 1] : 0) - (p.minus ? nodes[p.minus - 1] : 0);
}

Result<Reduced> reduce(const Network& network, const std::vector<Port>& ports) {
    const std::size_t n = network.nodes.size() - 1;
    Cholesky g(n);
    Reduced r;
    r.open_nodes.assign(n, 0);
    auto conductance = [&](Node a, Node b, double y) {
        if (a) g.at(a - 1, a - 1) += y;
        if (b) g.at(b - 1, b - 1) += y;
        if (a && b) {
            g.at(a - 1, b - 1) -= y;
            g.at(b - 1, a - 1) -= y;
        }
    };
    for (const Source& s : network.sources) {
        conductance(s.plus, s.minus, 1 / s.ohms);
        if (s.plus) r.open_nodes[s.plus - 1] += s.emf / s.ohms;
        if (s.minus) r.open_nodes[s.minus - 1] -= s.emf / s.ohms;
    }
    for (const Resistor& e : network.resistors)
        conductance(e.a, e.b, 1 / e.ohms);
    if (!g.factor()) {
        if (auto ok = check_connected(network); !ok) return tl::unexpected(ok.error());
        return problem(network.sources[0].name, "the network has no solution",
                       "Check the resistances of its parts");
    }
    g.solve(r.open_nodes.data());
    const std::size_t m = ports.size();
    r.open.resize(m);
    r.z.resize(m * m);
    for (std::size_t j = 0; j < m; ++j) {
        auto& column = r.columns.emplace_back(n, 0.0);
        if (ports[j].plus) column[ports[j].plus - 1] += 1;
        if (ports[j].minus) column[ports[j].minus - 1] -= 1;
        g.solve(column.data());
        r.open[j] = across(r.open_nodes, ports[j]);
    }
    for (std::size_t i = 0; i < m; ++i)
        for (std::size_t j = 0; j < m; ++j)
            r.z[i * m + j] = across(r.columns[j], ports[i]);
    return r;
}

struct Search {
    bool converged = false;
    std::size_t worst = 0; ///< port with the largest residual
    int iterations = 0;
};

/// Newton on x with the step limited, so that a first step from far off can not overshoot.
/// `drive` scales the sources. Converged when no port's voltage is off by more than `tolerance`.
Search newton(std::vector<Port>& ports, const Reduced& r, double drive, int group, double tolerance,
              std::vector<double>& x, std::vector<Foot>& feet) {
    constexpr double largest_step = 0.6; // V
    const std::size_t m = ports.size();
    std::vector<double> jacobian(m * m);
    std::vector<double> residual(m);
    Search search;
    for (; search.iterations < 60; ++search.iterations) {
        for (std::size_t i = 0; i < m; ++i)
            feet[i] = ports[i].at(x[i], group);
        double largest = 0;
        for (std::size_t i = 0; i < m && !std::isnan(largest); ++i) {
            double f = feet[i].volts - drive * r.open[i];
            for (std::size_t j = 0; j < m; ++j) {
                f += r.z[i * m + j] * feet[j].amps;
                jacobian[i * m + j] =
                    r.z[i * m + j] * feet[j].amps_slope + (i == j ? feet[i].volts_slope : 0);
            }
            residual[i] = -f;
            if (!(std::abs(f) <= largest))
                largest = std::abs(f), search.worst = i; // a NaN is the worst
        }
        if (!std::isfinite(largest)) return search;
        if (largest < tolerance) {
            search.converged = true;
            return search;
        }
        if (!gauss(jacobian, residual)) return search;
        double longest = 0;
        for (const double step : residual)
            longest = std::max(longest, std::abs(step));
        const double scale = longest > largest_step ? largest_step / longest : 1;
        for (std::size_t i = 0; i < m; ++i)
            x[i] += scale * residual[i];
    }
    return search;
}

/// From a coarse ladder to the exact one; where that fails, with the sources wound up in steps.
Search find_point(std::vector<Port>& ports, const Reduced& r, bool warm, std::vector<double>& x,
                  std::vector<Foot>& feet) {
    constexpr double rough = 1e-5, exact = 1e-9; // V
    constexpr int group = 8;
    if (!warm) {
        for (std::size_t i = 0; i < ports.size(); ++i)
            x[i] = 0.85 * r.open[i];
        newton(ports, r, 1, group, rough, x, feet);
    }
    Search search = newton(ports, r, 1, 1, exact, x, feet);
    if (search.converged) return search;
    std::fill(x.begin(), x.end(), 0.0);
    for (double drive = 0.05; drive < 1.0001; drive += 0.05)
        search = newton(ports, r, std::min(drive, 1.0), 1, exact, x, feet);
    return search;
}

} // namespace

Result<void> check_connected(const Network& network) {
    if (network.sources.empty())
        return problem("supply", "there is no cell", "Fit a cell and wire it to the board");
    std::vector<Node> root(network.nodes.size());
    std::iota(root.begin(), root.end(), Node{0});
    auto find = [&](Node n) {
        while (root[n] != n)
            n = root[n] = root[root[n]];
        return n;
    };
    auto join = [&](Node a, Node b) { root[find(a)] = find(b); };
    for (const Source& s : network.sources)
        join(s.plus, s.minus);
    for (const Resistor& e : network.resistors)
        join(e.a, e.b);
    for (Node n = 1; n < network.nodes.size(); ++n)
        if (find(n) != find(0))
            return problem(network.nodes[n], "has no path of wires to the cell",
                           "Wire it, or take the wires off that lead to it");
    return {};
}

Result<OperatingPoint> solve(const Network& network, Guess* guess) {
    if (network.sources.empty()) return tl::unexpected(check_connected(network).error());
    std::vector<std::size_t> port_of_strip;
    std::vector<Port> ports = ports_of(network, port_of_strip);
    auto reduced = reduce(network, ports);
    if (!reduced) return tl::unexpected(reduced.error());

    const std::size_t m = ports.size();
    const bool warm = guess && guess->size() == m;
    std::vector<double> x = warm ? *guess : std::vector<double>(m);
    std::vector<Foot> feet(m);
    const Search search = find_point(ports, *reduced, warm, x, feet);
    if (!search.converged)
        return problem(ports[search.worst].name(), "the network does not settle at this device",
                       "Check its figures and the wires to it");
    if (guess) *guess = x;

    OperatingPoint point;
    point.iterations = search.iterations;
    point.volts.resize(network.nodes.size());
    for (Node n = 1; n < network.nodes.size(); ++n) {
        double v = reduced->open_nodes[n - 1];
        for (std::size_t j = 0; j < m; ++j)
            v -= reduced->columns[j][n - 1] * feet[j].amps;
        point.volts[n] = v;
    }
    for (const Source& s : network.sources)
        point.source_amps.push_back((s.emf - point.volts[s.plus] + point.volts[s.minus]) / s.ohms);
    for (const Resistor& e : network.resistors)
        point.resistor_amps.push_back((point.volts[e.a] - point.volts[e.b]) / e.ohms);
    for (std::size_t i = 0; i < network.sinks.size(); ++i)
        point.sink_amps.push_back(feet[i].amps);
    for (std::size_t i = 0; i < network.strips.size(); ++i) {
        // Twins share a port, and so its state.
        const Port& port = ports[port_of_strip[i]];
        Foot foot = feet[port_of_strip[i]];
        foot.amps /= port.count;
        point.strips.push_back(
            state_of(foot, port.pixel_volts, point.volts[network.strips[i].plus]));
    }
    return point;
}

} // namespace conductus::circuit
