// SPDX-License-Identifier: GPL-3.0-or-later
// Rules of how a blade is made: what goes into its tube, what the socket hides, what a blow does.
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

#include "core/base/format.h"
#include "core/findings/facts.h"
#include "core/findings/rule_tools.h"
#include "core/hilt/tube.h"
#include "core/job/lookup.h"

namespace conductus::findings {
namespace {

void judge_tube(const Facts& f, const job::Blade& blade, std::vector<Finding>& out) {
    const job::Tube& tube = blade.tube;
    if (tube.bore > blade.outer) {
        out.push_back(
            raise("tube.no-wall", Severity::warn, Station::lights, {blade.ref},
                  say("The tube of {} is {} inside and {} outside", blade.ref, text(tube.bore),
                      text(blade.outer)),
                  "One of the two was measured wrongly.",
                  {{"inside", tube.bore.value(), "mm"}, {"outside", blade.outer.value(), "mm"}}));
        return;
    }
    const auto room = hilt::room_in_tube(blade, *f.parts);
    if (room && room->needs > room->inside &&
        std::none_of(out.begin(), out.end(), [&](const Finding& o) {
            return o.id == "strip.too-wide" && o.where.back() == blade.ref;
        })) {
        std::vector<std::string> where;
        for (const job::Strip& strip : blade.strips)
            where.push_back(strip.ref);
        where.push_back(blade.ref);
        Finding finding = raise(
            "tube.too-narrow", Severity::warn, Station::lights, where,
            say("{} takes {} across, the tube of {} has {}",
                blade.strips.size() == 1 ? "The strip" : "The strips back to back",
                text(room->needs), blade.ref, text(room->inside)),
            tube.diffuser == job::Diffuser::none
                ? Message("Corner to corner it does not go in. A narrower strip, or a wider tube.")
                : Message("With the layer round it, corner to corner it does not go in. A thinner "
                          "layer, or a wider tube."),
            {{"takes across", room->needs.value(), "mm"}, {"inside", room->inside.value(), "mm"}});
        if (tube.diffuser_thick > Millimetre(0)) {
            const Millimetre thick =
                tube.diffuser_thick - (room->needs - room->inside) / 2 - Millimetre(0.05);
            const Millimetre to(std::floor(thick.value() * 10) / 10);
            if (to > Millimetre(0))
                finding.proposed.push_back(
                    {say("make the layer {}", text(to)), [ref = blade.ref, to](job::Job& job) {
                         if (auto* b = job::find_ref(job.blades, ref)) b->tube.diffuser_thick = to;
                     }});
        }
        out.push_back(std::move(finding));
    }
    for (const job::Strip& strip : blade.strips) {
        const Millimetre ends = tube.dark + hilt::length_along(tube, strip);
        if (tube.dark > Millimetre(0) && ends > blade.length + Millimetre(1))
            out.push_back(
                raise("strip.past-tip", Severity::warn, Station::lights, {strip.ref, blade.ref},
                      say("{} begins at {} and ends at {}, {} is {}", strip.ref, text(tube.dark),
                          text(ends), blade.ref, text(blade.length)),
                      "It stands out at the tip. Cut it, or begin nearer to the foot.",
                      {{"ends at", ends.value(), "mm"}, {"blade", blade.length.value(), "mm"}}));
    }
    if (tube.closing == job::Closing::sealed) {
        const bool bout = f.job->brief.occasion == job::Occasion::bout;
        const double rise = hilt::pressure_when_struck(blade);
        if (bout || f.job->brief.occasion == job::Occasion::stage)
            out.push_back(raise(
                "tube.sealed", bout ? Severity::warn : Severity::note, Station::lights, {blade.ref},
                say("{} is sealed: a blow builds up to {} kPa in it", blade.ref, decimals(rise, 1)),
                "It drives the tip out in the end. A small vent at the foot, behind the "
                "retention.",
                {{"pressure", rise, "kPa"}}));
    }
}

/// Pixels that are lit in the socket, where nobody sees them.
void judge_hidden(const Facts& f, const hilt::SocketFit& socket, std::vector<Finding>& out) {
    const job::Blade* blade = job::find_ref(f.job->blades, socket.blade);
    if (!blade || blade->tube.dark <= Millimetre(0) || blade->strips.empty()) return;
    const Millimetre hidden = socket.seats - blade->tube.dark;
    const job::Strip& strip = blade->strips.front();
    const int pixels = static_cast<int>(
        std::floor(hidden.value() / (strip.length.value() / std::max(1, strip.pixels)) + 0.5));
    if (pixels < 2) return;
    out.push_back(raise("strip.hidden", Severity::note, Station::lights, {strip.ref, blade->ref},
                        say("{} pixels of {} are lit inside the socket", pixels, strip.ref),
                        say("{} seats {} deep, its first pixel is {} from its foot. They draw and "
                            "are not seen.",
                            blade->ref, text(socket.seats), text(blade->tube.dark)),
                        {{"hidden", static_cast<double>(pixels), "px"}}));
}

} // namespace

void judge_tubes(const Facts& facts, std::vector<Finding>& out) {
    for (const job::Blade& blade : facts.job->blades)
        judge_tube(facts, blade, out);
    for (const hilt::SocketFit& socket : facts.hilt_report.sockets)
        judge_hidden(facts, socket, out);
}

} // namespace conductus::findings
