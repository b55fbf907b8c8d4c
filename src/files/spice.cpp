// SPDX-License-Identifier: GPL-3.0-or-later
#include "files/spice.h"

#include <algorithm>
#include <fmt/format.h>

#include "core/power/cell_model.h"

namespace conductus::files {
namespace {

/// A number that reads back the same.
std::string num(double v) { return fmt::format("{:.17g}", v); }

/// Current of one pixel as a SPICE expression of the voltage across it.
std::string pixel_expression(const circuit::PixelModel& p, const lights::Duties& duty,
                             const std::string& across) {
    std::string sum = fmt::format("{}*awake({})", num(p.quiet), across);
    for (std::size_t c = 0; c < static_cast<std::size_t>(p.channels); ++c)
        if (duty[c] > 0)
            sum += fmt::format("+{}*sat(({}-{})/{})", num(duty[c] * p.full[c]), across,
                               num(p.on[c]), num(p.knee));
    return sum;
}

void write_strip(std::string& out, const circuit::Network& network, const circuit::Strip& s) {
    std::string plus = network.nodes[s.plus], minus = network.nodes[s.minus];
    for (const circuit::Span& span : s.spans)
        for (int k = span.first; k < span.last; ++k) {
            const auto number = static_cast<std::size_t>(k) + 1;
            const std::string p = plus_node(s, number), n = minus_node(s, number);
            const std::string half = num((k == 0 ? s.lead : s.segment) / 2);
            out += fmt::format("r_{}_p{} {} {} {}\n", s.name, number, plus, p, half);
            out += fmt::format("r_{}_n{} {} {} {}\n", s.name, number, n, minus, half);
            out += fmt::format("b_{}_{} {} {} i={}\n", s.name, number, p, n,
                               pixel_expression(s.pixel, span.duty, fmt::format("v({},{})", p, n)));
            plus = p;
            minus = n;
        }
    int number = 0;
    for (const circuit::Feed& feed : s.feeds) {
        const auto pixel = static_cast<std::size_t>(feed.pixel) + 1;
        ++number;
        const std::string half = num(feed.ohms / 2);
        out += fmt::format("r_{}_feed{}p {} {} {}\n", s.name, number, network.nodes[s.plus],
                           plus_node(s, pixel), half);
        out += fmt::format("r_{}_feed{}n {} {} {}\n", s.name, number, minus_node(s, pixel),
                           network.nodes[s.minus], half);
    }
}

/// The ideality factor that gives a junction's slope at the simulator's 27 °C.
double ideality(double slope) {
    constexpr double boltzmann = 1.38064852e-23, charge = 1.6021766208e-19, kelvin = 300.15;
    return slope / (boltzmann * kelvin / charge);
}

void write_converter(std::string& out, const circuit::Network& network,
                     const circuit::Converter& c) {
    const std::string &in = network.nodes[c.in], &gnd = network.nodes[c.gnd],
                      &to = network.nodes[c.out];
    const std::string vin = fmt::format("v({},{})", in, gnd),
                      vout = fmt::format("v({},{})", to, gnd);
    const std::string want =
        c.volts > 0 ? fmt::format("({}-{})/{}", num(c.volts), vout, num(c.output)) : num(c.amps);
    std::string given, taken;
    if (c.steps_up) {
        const std::string most = fmt::format("{}*max({},0.1)", num(c.efficiency), vin);
        const std::string can = fmt::format("{}*{}*sat(({}-{})/0.1)/wider({},{})", num(c.limit),
                                            most, vin, num(c.least), vout, most);
        const std::string lifted = fmt::format("smaller(max({},0),{})", want, can);
        const std::string through =
            c.pass > 0 ? fmt::format("max(0,({}-{})/{})", vin, vout, num(c.pass)) : "0";
        given = fmt::format("larger({},{})", lifted, through);
        taken = fmt::format("larger(max({},0)/({})*{},{})", vout, most, lifted, through);
    } else {
        const std::string can = fmt::format("({}-{})/{}", vin, vout, num(c.pass));
        given = fmt::format("smaller({},{})", want, can);
        if (c.volts > 0) given = fmt::format("smaller({},{})", given, num(c.limit));
        taken = c.switching
                    ? fmt::format("{}*{}/({}*max({},0.1))", given, vout, num(c.efficiency), vin)
                    : given;
    }
    out += fmt::format("b_{}_out {} {} i={}\n", c.name, gnd, to, given);
    out +=
        fmt::format("b_{}_in {} {} i={}*awake({})+{}\n", c.name, in, gnd, num(c.quiet), vin, taken);
}

} // namespace

std::string plus_node(const circuit::Strip& strip, std::size_t pixel) {
    return fmt::format("{}_p{}", strip.name, pixel);
}
std::string minus_node(const circuit::Strip& strip, std::size_t pixel) {
    return fmt::format("{}_n{}", strip.name, pixel);
}

namespace {

/// Where the simulator may begin: what it finds must still solve its own equations.
void write_start(std::string& out, const circuit::Network& network,
                 const circuit::OperatingPoint& start) {
    auto set = [&](const std::string& node, double volts) {
        out += fmt::format(".nodeset v({})={:.6f}\n", node, volts);
    };
    for (circuit::Node n = 1; n < network.nodes.size(); ++n)
        set(network.nodes[n], start.volts[n]);
    for (std::size_t i = 0; i < network.strips.size(); ++i)
        for (std::size_t k = 0; k < start.strips[i].volts.size(); ++k) {
            const double rail = start.strips[i].rail[k];
            set(plus_node(network.strips[i], k + 1), rail);
            set(minus_node(network.strips[i], k + 1), rail - start.strips[i].volts[k]);
        }
}

} // namespace

namespace {

/// The first line is the title whatever it says; a control character in it would end it early.
std::string heading(const circuit::Network& network, const std::string& title) {
    std::string safe;
    for (const char c : title)
        safe += static_cast<unsigned char>(c) < 32 ? ' ' : c;
    std::string out = "* " + safe + "\n";
    out += ".func sat(x) {max(x,0)/(1+max(x,0)^4)^0.25}\n";
    // Electronics that wake up within a volt; a straight line below zero.
    out += ".func awake(v) {1-exp(-max(v,0))+min(v,0)}\n";
    // The smaller of both, smoothly; below zero w itself.
    if (!network.converters.empty()) {
        out += ".func smaller(w,c) {min(w,0)+max(w,0)/(1+(max(w,0)/max(c,1e-12))^4)^0.25}\n";
        // The larger of both, neither below zero; and what a step-up lifts its power to.
        out += ".func larger(a,b) {(max(a,0)^4+max(b,0)^4+1e-40)^0.25}\n";
        out += ".func wider(v,e) {max(v,e)*((max(v,0)/max(v,e))^16+(e/max(v,e))^16)^0.0625}\n";
    }
    return out;
}

/// Everything but the cells.
void write_loads(std::string& out, const circuit::Network& network) {
    for (const auto& r : network.resistors)
        out += fmt::format("r_{} {} {} {}\n", r.name, network.nodes[r.a], network.nodes[r.b],
                           num(r.ohms));
    for (const auto& s : network.sinks) {
        const std::string v =
            fmt::format("v({},{})", network.nodes[s.plus], network.nodes[s.minus]);
        std::string amps = fmt::format("{}*awake({})", num(s.amps), v);
        if (const circuit::Amplifier& a = s.sound; a.siemens > 0) {
            const std::string most =
                a.boosted ? fmt::format("min({},2.5*{})", num(a.rail - a.headroom), v)
                          : fmt::format("{}-{}", v, num(a.headroom));
            amps += fmt::format("+{}*min({},max(0,{}))^2/max({},1e-6)", num(a.siemens), num(a.peak),
                                most, v);
        }
        out += fmt::format("b_{} {} {} i={}\n", s.name, network.nodes[s.plus],
                           network.nodes[s.minus], amps);
    }
    for (const auto& d : network.diodes) {
        out += fmt::format("d_{0} {1} {2} m_{0}\n", d.name, network.nodes[d.plus],
                           network.nodes[d.minus]);
        out += fmt::format(".model m_{} d(is={} n={})\n", d.name, num(d.saturation),
                           num(ideality(d.slope)));
    }
    for (const auto& l : network.limiters)
        out += fmt::format("b_{} {} {} i={}*sat(v({},{})/{})\n", l.name, network.nodes[l.plus],
                           network.nodes[l.minus], num(l.amps), network.nodes[l.plus],
                           network.nodes[l.minus], num(l.knee));
    for (const auto& c : network.converters)
        write_converter(out, network, c);
    for (const auto& s : network.strips)
        write_strip(out, network, s);
}

void write_cell(std::string& out, const circuit::Network& network, const circuit::Source& s,
                const SpiceCell& c) {
    const std::string &plus = network.nodes[s.plus], &minus = network.nodes[s.minus];
    // A current of no volts measures what the cell gives; it empties a capacitor of one farad whose
    // volts are the charge.
    out += fmt::format("v_{0}_meter {0}_in {1} 0\n", s.name, plus);
    out += fmt::format("c_{0}_soc {0}_soc 0 1 ic={1}\n", s.name, num(c.charge));
    out += fmt::format("b_{0}_soc {0}_soc 0 i=i(v_{0}_meter)/{1}\n", s.name, num(c.capacity));
    std::string points;
    for (const auto& [charge, volts] : c.curve)
        points += fmt::format(",{},{}", num(charge), num(volts));
    out += fmt::format("b_{0}_ocv {0}_ocv {1} v={2}*pwl(v({0}_soc){3})\n", s.name, minus, c.series,
                       points);
    // The pairs stand between the open cell and its resistance.
    out += fmt::format("r_{0}_1 {0}_ocv {0}_p1 {1}\nc_{0}_1 {0}_ocv {0}_p1 {2} ic=0\n", s.name,
                       num(c.r1), num(c.c1));
    out += fmt::format("r_{0}_2 {0}_p1 {0}_p2 {1}\nc_{0}_2 {0}_p1 {0}_p2 {2} ic=0\n", s.name,
                       num(c.r2), num(c.c2));
    out += fmt::format("r_{0}_0 {0}_p2 {0}_in {1}\n", s.name, num(c.r0));
    out += fmt::format(
        "b_{0}_u1 {0}_u1 0 v=v({0}_ocv,{0}_p1)\nb_{0}_u2 {0}_u2 0 v=v({0}_p1,{0}_p2)\n", s.name);
}

} // namespace

std::string spice_text(const circuit::Network& network, const std::string& title,
                       const circuit::OperatingPoint* start) {
    std::string out = heading(network, title);
    for (const auto& s : network.sources) {
        const std::string inside = s.name + "_ocv";
        out += fmt::format("v_{} {} {} {}\n", s.name, inside, network.nodes[s.minus], num(s.emf));
        out += fmt::format("r_{} {} {} {}\n", s.name, inside, network.nodes[s.plus], num(s.ohms));
    }
    write_loads(out, network);
    if (start) write_start(out, network, *start);
    out += ".options reltol=1e-6 vntol=1e-9 acct\n.op\n.end\n";
    return out;
}

std::vector<SpiceCell> spice_cells(const job::Job& job, const catalogue::Catalogue& parts,
                                   const circuit::Network& network, double charge) {
    const auto figures = power::cells_of(job, parts);
    std::vector<SpiceCell> cells;
    for (std::size_t i = 0; i < std::min(figures.size(), network.sources.size()); ++i) {
        const power::CellFigures& f = figures[i];
        power::CellNow now;
        now.charge = charge;
        now.temperature = job.use.temperature;
        SpiceCell c;
        c.name = network.sources[i].name;
        c.capacity = f.capacity.value() * 3.6;
        c.charge = charge;
        c.r0 = now.resistance(f).value();
        // A part of the lag that a cell has not is one too small to tell.
        c.r1 = std::max(f.lag.quick_share, 1e-6) * c.r0, c.c1 = f.lag.quick.value() / c.r1;
        c.r2 = std::max(f.lag.slow_share, 1e-6) * c.r0, c.c2 = f.lag.slow.value() / c.r2;
        c.series = f.series;
        c.curve = power::open_circuit_points();
        cells.push_back(std::move(c));
    }
    return cells;
}

std::string spice_transient_text(const circuit::Network& network, const std::string& title,
                                 const std::vector<SpiceCell>& cells, double seconds, double step,
                                 const std::string& extra) {
    std::string out = heading(network, title);
    for (const auto& s : network.sources)
        for (const SpiceCell& c : cells)
            if (c.name == s.name) write_cell(out, network, s, c);
    write_loads(out, network);
    out += fmt::format(".options reltol=1e-5 vntol=1e-8 acct\n.tran {0} {1} 0 {0} uic\n{2}.end\n",
                       num(step), num(seconds), extra);
    return out;
}

} // namespace conductus::files
