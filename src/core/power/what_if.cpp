// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/power/what_if.h"

#include <algorithm>
#include <fmt/format.h>

#include "core/circuit/feeds.h"
#include "core/circuit/solver.h"
#include "core/job/lookup.h"
#include "core/power/film.h"
#include "core/power/luminance.h"

namespace conductus::power {
namespace {

struct Measured {
    Ampere mean;
    Ends ends;
};

Result<Measured> measure(const job::Job& job, const catalogue::Catalogue& parts,
                         const std::string& name) {
    const auto look = look_named(job, name);
    if (!look) return tl::unexpected(look.error());
    State state = looked_up(job, parts, {*look, {}, Brightness::brightest, Loudness::hum, 1});
    const auto mean = mean_amps(job, parts, state);
    if (!mean) return tl::unexpected(mean.error());
    state.charge = 0.5;
    const auto network = network_of(job, parts, state);
    if (!network) return tl::unexpected(network.error());
    const auto point = circuit::solve(*network);
    if (!point) return tl::unexpected(point.error());
    return Measured{*mean, dimmest_ends(strip_lights(job, parts), *network, *point)};
}

const job::Strip* first_strip(const job::Job& job) {
    for (const job::Blade& blade : job.blades)
        if (!blade.strips.empty()) return &blade.strips.front();
    return nullptr;
}

double luminous(const catalogue::Pixel& pixel, char colour) {
    for (const auto& c : pixel.channels)
        if (c.colour == colour) return c.luminous;
    return 0;
}

/// The catalogue's first strip with a white die and the same density.
const catalogue::PartType* with_white(const catalogue::Catalogue& parts,
                                      const catalogue::Strip& fitted) {
    for (const auto* type : parts.all<catalogue::Strip>()) {
        const auto& strip = std::get<catalogue::Strip>(type->figures);
        if (strip.density == fitted.density &&
            luminous(*parts.find_as<catalogue::Pixel>(strip.pixel), 'W') > 0)
            return type;
    }
    return nullptr;
}

/// Gives the white that a look mixes to the white die, as bright as it was.
job::Edit to_white_die(const catalogue::PartType& type, const catalogue::Pixel& from,
                       const catalogue::Pixel& to, const std::string& look) {
    const double mixed = luminous(from, 'R') + luminous(from, 'G') + luminous(from, 'B');
    const double ratio = mixed / luminous(to, 'W');
    return [id = type.id, look, ratio](job::Job& job) {
        job::fit_strips(id)(job);
        job::Look* l = job::find_name(job.looks, look);
        if (!l) return;
        const double white = std::min({l->colour.red, l->colour.green, l->colour.blue});
        for (double* c : {&l->colour.red, &l->colour.green, &l->colour.blue})
            *c -= white;
        l->colour.white = std::min(1.0, l->colour.white + white * ratio);
    };
}

} // namespace

Result<std::vector<WhatIf>> what_ifs(const job::Job& job, const catalogue::Catalogue& parts,
                                     const std::string& name) {
    std::vector<WhatIf> all;
    const job::Strip* strip = first_strip(job);
    const auto look = look_named(job, name);
    if (!look) return tl::unexpected(look.error());
    if (!strip) return all;
    const auto before = measure(job, parts, look->name);
    if (!before) return tl::unexpected(before.error());
    auto try_out = [&](const char* id, std::string text, job::Edit edit) -> Result<void> {
        job::Job with = job;
        edit(with);
        const auto after = measure(with, parts, look->name);
        if (!after) return tl::unexpected(after.error());
        auto ratio = [](const Ends& e) { return e.foot > 0 ? e.tip / e.foot : 1; };
        all.push_back({id, std::move(text), before->mean, after->mean, ratio(before->ends),
                       ratio(after->ends),
                       before->ends.foot > 0 ? after->ends.foot / before->ends.foot : 1,
                       std::move(edit)});
        return {};
    };

    const auto& fitted = *parts.find_as<catalogue::Strip>(strip->type);
    const auto& pixel = *parts.find_as<catalogue::Pixel>(fitted.pixel);
    const double white = std::min({look->colour.red, look->colour.green, look->colour.blue});
    if (const auto* type = with_white(parts, fitted); type && white > 0.05) {
        const auto& to =
            *parts.find_as<catalogue::Pixel>(std::get<catalogue::Strip>(type->figures).pixel);
        if (auto ok =
                try_out("white-die",
                        luminous(pixel, 'W') > 0 ? "use the white die" : "strips with a white die",
                        to_white_die(*type, pixel, to, look->name));
            !ok)
            return tl::unexpected(ok.error());
    }
    if (look->cap > 0.05) {
        const double cap = look->cap * 0.8;
        if (auto ok = try_out("cap", fmt::format("cap at {:.0f} %", cap * 100),
                              [name = look->name, cap](job::Job& j) {
                                  if (auto* l = job::find_name(j.looks, name)) l->cap = cap;
                              });
            !ok)
            return tl::unexpected(ok.error());
    }
    if (strip->feeds.empty() && strip->pixels > 1) {
        if (auto ok = try_out("both-ends", "feed both ends", circuit::feed_at({}, {1})); !ok)
            return tl::unexpected(ok.error());
    }
    const catalogue::PartType* wider = nullptr;
    for (const auto* type : parts.all<catalogue::Strip>()) {
        const auto& other = std::get<catalogue::Strip>(type->figures);
        if (other.pixel != fitted.pixel || other.density != fitted.density) continue;
        if (other.rail >= strip->rail.value_or(fitted.rail)) continue;
        if (!wider || other.rail > std::get<catalogue::Strip>(wider->figures).rail) wider = type;
    }
    if (wider)
        if (auto ok = try_out("wider-strip", "more copper", job::fit_strips(wider->id)); !ok)
            return tl::unexpected(ok.error());
    return all;
}

} // namespace conductus::power
