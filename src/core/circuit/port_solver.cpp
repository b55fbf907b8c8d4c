// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numeric>

#include "core/circuit/converter.h"
#include "core/circuit/junction.h"
#include "core/circuit/ladder.h"
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

    /// Whether no pixel's channel begins or ceases to conduct over that step of x.
    [[nodiscard]] bool is_line_over(double step) const {
        if (!strip || pixel_volts.empty()) return true;
        for (const Span& span : strip->spans)
            for (std::size_t c = 0; c < static_cast<std::size_t>(strip->pixel.channels); ++c) {
                if (!(span.duty[c] > 0)) continue;
                // Fed at the foot alone, volts fall to the tip; fed elsewhere, they are looked
                // through one by one.
                const double on = strip->pixel.on[c];
                auto first = static_cast<std::size_t>(span.first);
                auto last = static_cast<std::size_t>(span.last);
                if (strip->feeds.empty()) {
                    const auto begin = pixel_volts.begin();
                    const auto at = std::partition_point(begin + span.first, begin + span.last,
                                                         [&](double v) { return v > on; });
                    const auto k = static_cast<std::size_t>(at - begin);
                    first = std::max(first, k > 0 ? k - 1 : k), last = std::min(last, k + 1);
                }
                for (std::size_t k = first; k < last; ++k) {
                    const double after = pixel_volts[k] + step * pixel_slopes[k];
                    if ((pixel_volts[k] > on) != (after > on)) return false;
                }
            }
        return true;
    }

    /// Goes by `step` of x along the slopes: what a step so small that it needs no sweep brings.
    void follow(double step, Foot& foot) {
        foot.volts += step * foot.volts_slope;
        foot.amps += step * foot.amps_slope;
        for (std::size_t k = 0; k < pixel_volts.size(); ++k)
            pixel_volts[k] += step * pixel_slopes[k];
    }

    /// At unknown x (tip voltage of a strip fed at its foot; a junction's own x; else the voltage
    /// across): port volts and amps with slopes.
    Foot at(double x, int group) {
        Foot f{x, 0, 1, 0};
        if (strip && !strip->feeds.empty()) {
            if (!fed_ladder(*strip, x, pixel_volts, pixel_slopes, f)) f.volts = NAN;
        } else if (strip) {
            f = group > 1 ? coarse_sweep(*strip, x, group)
                          : sweep(*strip, x, &pixel_volts, &pixel_slopes);
        } else if (sink) {
            const double decay = x > 0 ? std::exp(-x) : 1 - x;
            f = {x, sink->amps * (1 - decay), 1, sink->amps * (x > 0 ? decay : 1)};
        } else if (diode) {
            const JunctionPoint p = junction_at(*diode, x);
            f = {p.volts, p.amps, p.volts_slope, p.amps_slope};
        } else if (limiter) {
            const CurrentAndSlope s = saturation(x / limiter->knee);
            f = {x, limiter->amps * s.amps, 1, limiter->amps / limiter->knee * s.slope};
        }
        f.amps *= count;
        f.amps_slope *= count;
        return f;
    }
    [[nodiscard]] const std::string& name() const {
        static const std::string output_of = "a converter's output";
        return strip       ? strip->name
               : sink      ? sink->name
               : diode     ? diode->name
               : limiter   ? limiter->name
               : converter ? converter->name
                           : output_of;
    }
};

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

std::vector<Port> ports_of(const Network& network, std::vector<std::size_t>& port_of_strip) {
    std::vector<Port> ports;
    ports.reserve(network.sinks.size() + network.diodes.size() + network.limiters.size() +
                  2 * network.converters.size() + network.strips.size());
    port_of_strip.reserve(network.strips.size());
    for (const Sink& s : network.sinks) {
        Port& p = ports.emplace_back();
        p.sink = &s, p.plus = s.plus, p.minus = s.minus;
    }
    for (const Diode& d : network.diodes) {
        Port& p = ports.emplace_back();
        p.diode = &d, p.plus = d.plus, p.minus = d.minus;
    }
    for (const Limiter& l : network.limiters) {
        Port& p = ports.emplace_back();
        p.limiter = &l, p.plus = l.plus, p.minus = l.minus;
    }
    for (const Converter& c : network.converters) {
        Port& in = ports.emplace_back();
        in.converter = &c, in.plus = c.in, in.minus = c.gnd;
        Port& out = ports.emplace_back();
        out.output = true, out.plus = c.out, out.minus = c.gnd;
    }
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
            Port& p = ports.emplace_back();
            p.strip = &s, p.plus = s.plus, p.minus = s.minus;
            // A fed strip's is empty until its first solution.
            if (s.feeds.empty()) {
                p.pixel_volts.resize(static_cast<std::size_t>(s.pixels), INFINITY); // none yet
                p.pixel_slopes.resize(static_cast<std::size_t>(s.pixels));
            }
        }
    }
    return ports;
}

/// Thevenin of the linear network at the ports: V = open - Z I, both from one factorisation.
struct Reduced {
    std::vector<double> open_nodes; ///< node voltages (without ground) with no port current
    std::vector<double> columns;    ///< node voltages lost per ampere of a port, port after port
    std::vector<double> open;       ///< port voltages
    std::vector<double> z;          ///< row-major, ports x ports
};

double across(const double* nodes, const Port& p) {
    return (p.plus ? nodes[p.plus - 1] : 0) - (p.minus ? nodes[p.minus - 1] : 0);
}

Result<Reduced> reduce(const Network& network, const std::vector<Port>& ports) {
    const std::size_t n = network.nodes.size() - 1;
    StarMesh mesh(n);
    Reduced r;
    r.open_nodes.assign(n, 0);
    for (const Source& s : network.sources) {
        mesh.join(s.plus, s.minus, 1 / s.ohms);
        if (s.plus) r.open_nodes[s.plus - 1] += s.emf / s.ohms;
        if (s.minus) r.open_nodes[s.minus - 1] -= s.emf / s.ohms;
    }
    for (const Resistor& e : network.resistors)
        mesh.join(e.a, e.b, 1 / e.ohms);
    if (!mesh.eliminate()) {
        if (auto ok = check_connected(network); !ok) return tl::unexpected(ok.error());
        return problem(network.sources[0].name, "the network has no solution",
                       "Check the resistances of its parts");
    }
    mesh.solve(r.open_nodes.data());
    const std::size_t m = ports.size();
    r.open.resize(m);
    r.z.resize(m * m);
    r.columns.assign(n * m, 0);
    for (std::size_t j = 0; j < m; ++j) {
        double* const column = r.columns.data() + j * n;
        if (ports[j].plus) column[ports[j].plus - 1] += 1;
        if (ports[j].minus) column[ports[j].minus - 1] -= 1;
        mesh.solve(column);
        r.open[j] = across(r.open_nodes.data(), ports[j]);
    }
    for (std::size_t i = 0; i < m; ++i)
        for (std::size_t j = 0; j < m; ++j)
            r.z[i * m + j] = across(r.columns.data() + j * n, ports[i]);
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

/// From a coarse ladder to the exact one; where that fails, with the sources wound up in steps.
Search find_point(std::vector<Port>& ports, const Reduced& r, bool warm, std::vector<double>& x,
                  std::vector<Foot>& feet) {
    constexpr double rough = 1e-3, exact = 1e-9; // V
    constexpr int group = 8;
    Scratch scratch(ports.size());
    if (!warm) {
        for (std::size_t i = 0; i < ports.size(); ++i)
            x[i] = 0.85 * r.open[i];
        // The fewer pixels, the cheaper a step while it is far off.
        newton(ports, r, 1, 5 * group, 2e-2, x, feet, scratch);
        newton(ports, r, 1, group, rough, x, feet, scratch);
    }
    Search search = newton(ports, r, 1, 1, exact, x, feet, scratch);
    if (search.converged) return search;
    std::fill(x.begin(), x.end(), 0.0);
    for (double drive = 0.05; drive < 1.0001; drive += 0.05)
        search = newton(ports, r, std::min(drive, 1.0), 1, exact, x, feet, scratch);
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
    const std::size_t count = network.nodes.size() - 1;
    for (Node n = 1; n < network.nodes.size(); ++n) {
        double v = reduced->open_nodes[n - 1];
        for (std::size_t j = 0; j < m; ++j)
            v -= reduced->columns[j * count + n - 1] * feet[j].amps;
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
