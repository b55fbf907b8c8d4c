// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/circuit/port.h"

#include <algorithm>
#include <cmath>

#include "core/circuit/junction.h"
#include "core/circuit/sink.h"

namespace conductus::circuit {

Foot Port::at(double x, int group) {
    Foot f{x, 0, 1, 0};
    if (strip && !strip->feeds.empty()) {
        if (!fed_ladder(*strip, x, pixel_volts, pixel_slopes, known_at, f)) f.volts = NAN;
    } else if (strip) {
        f = group > 1 ? coarse_sweep(*strip, x, group)
                      : sweep(*strip, x, &pixel_volts, &pixel_slopes);
    } else if (sink) {
        const SinkCurrent c = sink_current(*sink, x);
        f = {x, c.amps, 1, c.slope};
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

bool Port::is_line_over(double step) const {
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

void Port::follow(double step, Foot& foot) {
    known_at += step;
    foot.volts += step * foot.volts_slope;
    foot.amps += step * foot.amps_slope;
    for (std::size_t k = 0; k < pixel_volts.size(); ++k)
        pixel_volts[k] += step * pixel_slopes[k];
}

const std::string& Port::name() const {
    static const std::string output_of = "a converter's output";
    return strip       ? strip->name
           : sink      ? sink->name
           : diode     ? diode->name
           : limiter   ? limiter->name
           : converter ? converter->name
                       : output_of;
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

} // namespace conductus::circuit
