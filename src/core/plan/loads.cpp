// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/plan/loads.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <fmt/ranges.h>
#include <set>

#include "core/circuit/compile.h"
#include "core/job/lookup.h"

namespace conductus::plan {
namespace {

/// What a load draws in one solved state, and the volts across it.
struct Draw {
    double amps = 0, volts = 0;
};

Draw draw_of(const findings::Solved& s, const std::string& ref) {
    Draw d;
    const auto& v = s.point.volts;
    for (std::size_t i = 0; i < s.network.strips.size(); ++i)
        if (s.network.strips[i].ref == ref) {
            d.amps += s.point.strips[i].amps;
            d.volts = v[s.network.strips[i].plus] - v[s.network.strips[i].minus];
        }
    for (std::size_t i = 0; i < s.network.diodes.size(); ++i)
        if (s.network.diodes[i].ref == ref) {
            d.amps += s.point.diode_amps[i];
            d.volts = std::max(d.volts, v[s.network.diodes[i].plus] - v[s.network.diodes[i].minus]);
        }
    for (std::size_t i = 0; i < s.network.sinks.size(); ++i)
        if (s.network.sinks[i].ref == ref) {
            d.amps += s.point.sink_amps[i];
            d.volts = v[s.network.sinks[i].plus] - v[s.network.sinks[i].minus];
        }
    return d;
}

/// Pads a return leads to, through a connector too.
std::string pads_of(const findings::Facts& f, const std::string& owner,
                    const std::vector<std::string>& terminals) {
    std::set<std::string> pads;
    bool wired = false;
    auto from = [&](const std::string& terminal) {
        // Every wire from there, since a return may be shared between pads.
        f.wiring->each_wire_at(terminal, [&](const job::Wiring::Joint& joint) {
            if (!job::power_roles.holds(joint.role)) return;
            wired = true;
            const std::string pad =
                circuit::pad_of(*f.job, *f.parts, *f.wiring, std::string(joint.to));
            if (!pad.empty()) pads.insert(std::string(job::split_terminal(pad).second));
        });
    };
    for (const std::string& t : terminals)
        from(owner + "." + t);
    if (!wired) return {};
    return pads.empty() ? "always" : fmt::format("{}", fmt::join(pads, ", "));
}

} // namespace

std::vector<Load> loads_of(const findings::Facts& f) {
    std::vector<Load> loads;
    auto add = [&](Load::Kind kind, const std::string& ref, const std::string& type,
                   const std::string& owner, const std::string& wired_at,
                   const std::vector<std::string>& returns) {
        Load l;
        l.kind = kind;
        l.ref = ref;
        l.what = f.parts->find(type)->name;
        l.owner = owner;
        if (const lights::Group* g = f.chains.group(ref)) l.pixels = g->pixels, l.line = g->line;
        l.pads = pads_of(f, wired_at, returns);
        for (const findings::SolvedPtr& s : f.fresh) {
            const Draw d = draw_of(*s, ref);
            if (d.amps <= l.most.value()) continue;
            l.most = Ampere(d.amps), l.in = s->name, l.across = Volt(d.volts);
        }
        loads.push_back(std::move(l));
    };
    for (const job::Blade& blade : f.job->blades) {
        const job::Part* connector = job::find_ref(f.job->parts, blade.connector);
        const std::string end = connector ? connector->ref : blade.ref;
        for (const job::Strip& strip : blade.strips)
            add(Load::Kind::strip, strip.ref, strip.type, blade.ref, end, {"minus"});
        for (const job::LedString& string : blade.strings) {
            std::vector<std::string> returns{"flash"};
            for (int i = 1; i <= 16; ++i)
                returns.push_back(fmt::format("seg{}", i));
            add(Load::Kind::string, string.ref, string.type, blade.ref,
                job::string_end(*f.job, *f.parts, blade), returns);
        }
    }
    for (const job::Part& part : f.job->parts) {
        const auto& figures = f.parts->find(part.type)->figures;
        const std::vector<std::string> minus{"minus", "minus1", "minus2", "minus3", "minus4"};
        if (const auto pixels = catalogue::pixels_in(figures))
            add(std::holds_alternative<catalogue::Connector>(figures) ? Load::Kind::connector
                                                                      : Load::Kind::accent,
                part.ref, part.type, {}, part.ref, minus);
        else if (const auto* led = catalogue::led_in(figures))
            // The light in something else has terminals of its own.
            add(Load::Kind::led, part.ref, part.type, {}, part.ref,
                std::get_if<catalogue::Led>(&figures) == led
                    ? minus
                    : std::vector<std::string>{"led_minus"});
        else if (std::holds_alternative<catalogue::Display>(figures))
            add(Load::Kind::display, part.ref, part.type, {}, part.ref, minus);
    }
    return loads;
}

} // namespace conductus::plan
