// SPDX-License-Identifier: GPL-3.0-or-later
#include "files/spice.h"

#include <fmt/format.h>

namespace conductus::files {
namespace {

/// A number that reads back the same.
std::string num(double v) { return fmt::format("{:.17g}", v); }

/// Current of one pixel as a SPICE expression of the voltage across it.
std::string pixel_expression(const circuit::PixelModel& p, const lights::Duties& duty,
                             const std::string& across) {
    std::string sum = fmt::format("{}*(1-exp(-{}))", num(p.quiet), across);
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
}

} // namespace

std::string plus_node(const circuit::Strip& strip, std::size_t pixel) {
    return fmt::format("{}_p{}", strip.name, pixel);
}
std::string minus_node(const circuit::Strip& strip, std::size_t pixel) {
    return fmt::format("{}_n{}", strip.name, pixel);
}

std::string spice_text(const circuit::Network& network, const std::string& title) {
    // The first line is the title whatever it says; a control character in it would end it early.
    std::string safe;
    for (const char c : title)
        safe += static_cast<unsigned char>(c) < 32 ? ' ' : c;
    std::string out = "* " + safe + "\n";
    out += ".func sat(x) {max(x,0)/(1+max(x,0)^4)^0.25}\n";
    for (const auto& s : network.sources) {
        const std::string inside = s.name + "_ocv";
        out += fmt::format("v_{} {} {} {}\n", s.name, inside, network.nodes[s.minus], num(s.emf));
        out += fmt::format("r_{} {} {} {}\n", s.name, inside, network.nodes[s.plus], num(s.ohms));
    }
    for (const auto& r : network.resistors)
        out += fmt::format("r_{} {} {} {}\n", r.name, network.nodes[r.a], network.nodes[r.b],
                           num(r.ohms));
    for (const auto& s : network.sinks)
        out += fmt::format("b_{} {} {} i={}*(1-exp(-v({},{})))\n", s.name, network.nodes[s.plus],
                           network.nodes[s.minus], num(s.amps), network.nodes[s.plus],
                           network.nodes[s.minus]);
    for (const auto& s : network.strips)
        write_strip(out, network, s);
    out += ".options reltol=1e-6 vntol=1e-9 acct\n.op\n.end\n";
    return out;
}

} // namespace conductus::files
