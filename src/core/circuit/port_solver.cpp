// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numeric>

#include "core/circuit/converter.h"
#include "core/circuit/port.h"
#include "core/circuit/solver.h"
#include "core/circuit/star_mesh.h"

namespace conductus::circuit {
namespace {

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

/// Feet of all ports at x. A converter's two depend on each other: `cross` is the slope of a port's
/// current by its partner's x.
void evaluate(std::vector<Port>& ports, const std::vector<double>& x, int group,
              std::vector<Foot>& feet, std::vector<double>& cross) {
    for (std::size_t i = 0; i < ports.size(); ++i) {
        if (ports[i].output) continue;
        if (!ports[i].converter) {
            feet[i] = ports[i].at(x[i], group);
            continue;
        }
        const ConverterCurrents c = converter_currents(*ports[i].converter, x[i], x[i + 1]);
        feet[i] = {x[i], c.in, 1, c.in_by_in};
        feet[i + 1] = {x[i + 1], -c.out, 1, -c.out_by_out};
        cross[i] = c.in_by_out;
        cross[i + 1] = -c.out_by_in;
    }
}

/// Thevenin of the linear network at the ports: V = open - Z I, both from one factorisation.
struct Reduced {
    /// A row a node, ground's first: V it loses per ampere of each port, then V with no port
    /// current.
    std::vector<double> nodes;
    std::vector<double> open; ///< port voltages
    std::vector<double> z;    ///< row-major, ports x ports
};

Result<Reduced> reduce(const Network& network, const std::vector<Port>& ports) {
    const std::size_t n = network.nodes.size() - 1, m = ports.size(), width = m + 1;
    StarMesh mesh(n);
    Reduced r;
    r.nodes.assign((n + 1) * width, 0);
    auto at = [&](Node node, std::size_t column) -> double& {
        return r.nodes[node * width + column];
    };
    for (const Source& s : network.sources) {
        mesh.join(s.plus, s.minus, 1 / s.ohms);
        at(s.plus, m) += s.emf / s.ohms;
        at(s.minus, m) -= s.emf / s.ohms;
    }
    for (const Resistor& e : network.resistors)
        mesh.join(e.a, e.b, 1 / e.ohms);
    if (!mesh.eliminate()) {
        if (auto ok = check_connected(network); !ok) return tl::unexpected(ok.error());
        return problem(network.sources[0].name, "the network has no solution",
                       "Check the resistances of its parts");
    }
    for (std::size_t j = 0; j < m; ++j) {
        at(ports[j].plus, j) += 1;
        at(ports[j].minus, j) -= 1;
    }
    mesh.solve(r.nodes.data() + width, width);
    std::fill_n(r.nodes.begin(), width, 0.0); // ground, whatever went into it
    r.open.resize(m);
    r.z.resize(m * m);
    for (std::size_t i = 0; i < m; ++i) {
        for (std::size_t j = 0; j < m; ++j)
            r.z[i * m + j] = at(ports[i].plus, j) - at(ports[i].minus, j);
        r.open[i] = at(ports[i].plus, m) - at(ports[i].minus, m);
    }
    return r;
}

/// What Newton works on, from one search to the next.
struct Scratch {
    explicit Scratch(std::size_t m) : jacobian(m * m), step(m), cross(m), trial(m), next(m) {}
    std::vector<double> jacobian, step, cross, trial, next, copy;
};

struct Search {
    bool converged = false;
    std::size_t worst = 0; ///< port with the largest residual
    int iterations = 0;
};

/// How far off every port's voltage is, from its foot and what the linear network gives it.
double residuals(const std::vector<Foot>& feet, const Reduced& r, double drive,
                 std::vector<double>& off, std::size_t& worst) {
    const std::size_t m = feet.size();
    double largest = 0;
    for (std::size_t i = 0; i < m; ++i) {
        double f = feet[i].volts - drive * r.open[i];
        for (std::size_t j = 0; j < m; ++j)
            f += r.z[i * m + j] * feet[j].amps;
        off[i] = -f;
        if (!(std::abs(f) <= largest) && !std::isnan(largest))
            largest = std::abs(f), worst = i; // a NaN is the worst
    }
    return largest;
}

void slopes(const std::vector<Port>& ports, const std::vector<Foot>& feet,
            const std::vector<double>& cross, const Reduced& r, std::vector<double>& jacobian) {
    const std::size_t m = feet.size();
    for (std::size_t i = 0; i < m; ++i)
        for (std::size_t j = 0; j < m; ++j) {
            double& at = jacobian[i * m + j];
            at = r.z[i * m + j] * feet[j].amps_slope + (i == j ? feet[i].volts_slope : 0);
            if (ports[j].converter)
                at += r.z[i * m + j + 1] * cross[j + 1];
            else if (ports[j].output)
                at += r.z[i * m + j - 1] * cross[j - 1];
        }
}

double longest_of(const std::vector<double>& step) {
    double longest = 0;
    for (const double s : step)
        longest = std::isfinite(s) ? std::max(longest, std::abs(s)) : INFINITY;
    return longest;
}

/// Newton on x with the step limited, so that a first step from far off can not overshoot; where a
/// converter could make it run in circles, a step is shortened until the next one would be shorter
/// than itself. `drive` scales the sources. Converged when no port's voltage is off by more than
/// `tolerance`.
Search newton(std::vector<Port>& ports, const Reduced& r, double drive, int group, double tolerance,
              std::vector<double>& x, std::vector<Foot>& feet, Scratch& scratch) {
    constexpr double largest_step = 0.6; // V
    // A last step is taken along the slopes. On exact ladders it is so short that what the curve
    // bends over it is below a part in 10^9 of a strip's power; on coarse ones, below what makes
    // them coarse.
    const double near_enough = group == 1 ? 1.5e-5 : tolerance; // V
    const std::size_t m = ports.size();
    const bool may_circle = std::any_of(ports.begin(), ports.end(), [](const Port& p) {
        return p.converter || p.limiter || p.diode;
    });
    const int most = may_circle ? 200 : 60;
    auto& [jacobian, step, cross, trial, next, copy] = scratch;
    Search search;
    evaluate(ports, x, group, feet, cross);
    double off = residuals(feet, r, drive, step, search.worst);
    for (; search.iterations < most; ++search.iterations) {
        if (!std::isfinite(off)) return search;
        if (!may_circle && off < tolerance) {
            search.converged = true;
            return search;
        }
        slopes(ports, feet, cross, r, jacobian);
        if (may_circle) copy = jacobian;
        if (!gauss(jacobian, step)) return search;
        const double longest = longest_of(step);
        if (!std::isfinite(longest)) return search;
        if (!may_circle && longest < near_enough) {
            bool line = true;
            for (std::size_t i = 0; i < m && group == 1 && line; ++i)
                line = ports[i].is_line_over(step[i]);
            if (line) {
                for (std::size_t i = 0; i < m; ++i) {
                    x[i] += step[i];
                    if (group == 1) ports[i].follow(step[i], feet[i]);
                }
                search.converged = true;
                return search;
            }
        }
        // Behind a divider or a dark LED a port's volts are the difference of large numbers, and
        // near a converter's knee small ones hide a long way: there the step must be small as well.
        if (may_circle && longest < tolerance / 10 && off < tolerance * 100) {
            search.converged = true;
            return search;
        }
        double scale = longest > largest_step ? largest_step / longest : 1;
        for (;; scale /= 2) {
            trial = x;
            for (std::size_t i = 0; i < m; ++i)
                trial[i] += scale * step[i];
            evaluate(ports, trial, group, feet, cross);
            off = residuals(feet, r, drive, next, search.worst);
            if (!may_circle || scale < 1e-4) break;
            jacobian = copy;
            std::vector<double> again = next;
            if (std::isfinite(off) && gauss(jacobian, again) &&
                longest_of(again) <= (1 - scale / 4) * longest)
                break;
        }
        std::swap(x, trial);
        std::swap(step, next);
    }
    return search;
}

/// Continuation: goes from nothing to the whole in steps that are halved where one fails and
/// doubled where two succeed. `attempt` searches at a share 0 to 1 of the whole, from `x`, which
/// holds what was found before.
template <class Attempt>
Search wind_up(std::vector<double>& x, double step, const Attempt& attempt) {
    constexpr double shortest = 1e-6;
    Search search;
    std::vector<double> good = x;
    int easy = 0;
    for (double share = 0; share < 1 && step > shortest;) {
        const double next = std::min(1.0, share + step);
        x = good;
        search = attempt(next);
        if (!search.converged) {
            step /= 2, easy = 0;
            continue;
        }
        share = next, good = x;
        if (++easy == 2) step *= 2, easy = 0;
    }
    return search;
}

/// From a coarse ladder to the exact one; where that fails, without what was known from another
/// state; then with the sources wound up, and last with the loads.
Search find_point(std::vector<Port>& ports, const Reduced& r, bool warm, std::vector<double>& x,
                  std::vector<Foot>& feet) {
    constexpr double rough = 1e-3, exact = 1e-9; // V
    constexpr int group = 8;
    Scratch scratch(ports.size());
    const auto cold = [&] {
        for (std::size_t i = 0; i < ports.size(); ++i)
            x[i] = 0.85 * r.open[i];
        // The fewer pixels, the cheaper a step while it is far off.
        newton(ports, r, 1, 5 * group, 2e-2, x, feet, scratch);
        newton(ports, r, 1, group, rough, x, feet, scratch);
        return newton(ports, r, 1, 1, exact, x, feet, scratch);
    };
    if (warm) {
        const Search search = newton(ports, r, 1, 1, exact, x, feet, scratch);
        if (search.converged) return search;
    }
    Search search = cold();
    if (search.converged) return search;
    // The sources from nothing.
    std::fill(x.begin(), x.end(), 0.0);
    search = wind_up(
        x, 0.05, [&](double share) { return newton(ports, r, share, 1, exact, x, feet, scratch); });
    if (search.converged) return search;
    // The loads: the sources are whole, and all resistances between them and the loads grow from
    // nothing, so that at first no load pulls another down.
    for (std::size_t i = 0; i < x.size(); ++i)
        x[i] = ports[i].diode ? 0 : r.open[i];
    Reduced lighter = r;
    return wind_up(x, 0.02, [&](double share) {
        for (std::size_t k = 0; k < r.z.size(); ++k)
            lighter.z[k] = share * r.z[k];
        return newton(ports, lighter, 1, 1, exact, x, feet, scratch);
    });
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
        const double* row = reduced->nodes.data() + n * (m + 1);
        double v = row[m];
        for (std::size_t j = 0; j < m; ++j)
            v -= row[j] * feet[j].amps;
        point.volts[n] = v;
    }
    point.source_amps.reserve(network.sources.size());
    point.resistor_amps.reserve(network.resistors.size());
    point.sink_amps.reserve(network.sinks.size());
    point.strips.reserve(network.strips.size());
    for (const Source& s : network.sources)
        point.source_amps.push_back((s.emf - point.volts[s.plus] + point.volts[s.minus]) / s.ohms);
    for (const Resistor& e : network.resistors)
        point.resistor_amps.push_back((point.volts[e.a] - point.volts[e.b]) / e.ohms);
    std::size_t port = 0;
    for (std::size_t i = 0; i < network.sinks.size(); ++i)
        point.sink_amps.push_back(feet[port++].amps);
    for (std::size_t i = 0; i < network.diodes.size(); ++i)
        point.diode_amps.push_back(feet[port++].amps);
    for (std::size_t i = 0; i < network.limiters.size(); ++i)
        point.limiter_amps.push_back(feet[port++].amps);
    for (std::size_t i = 0; i < network.converters.size(); ++i) {
        point.converter_in.push_back(feet[port++].amps);
        point.converter_out.push_back(-feet[port++].amps);
    }
    for (std::size_t i = 0; i < network.strips.size(); ++i) {
        // Twins share a port, and so its state.
        const Port& shared = ports[port_of_strip[i]];
        Foot foot = feet[port_of_strip[i]];
        foot.amps /= shared.count;
        point.strips.push_back(
            state_of(foot, shared.pixel_volts, point.volts[network.strips[i].plus]));
    }
    return point;
}

} // namespace conductus::circuit
