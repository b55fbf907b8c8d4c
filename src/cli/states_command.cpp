// SPDX-License-Identifier: GPL-3.0-or-later
#include <fmt/format.h>
#include <fmt/ranges.h>

#include "cli/commands.h"
#include "core/base/format.h"
#include "core/job/presets.h"
#include "core/job/words.h"
#include "core/plan/states.h"
#include "files/json_text.h"
#include "threads/side_by_side.h"

namespace conductus::cli {
namespace {

using files::Json;

Json colour_of(const job::Colour& c) {
    return {{"red", c.red}, {"green", c.green}, {"blue", c.blue}, {"white", c.white}};
}

template <class Light>
Json shown_by(const Light& l, const std::string& light) {
    Json one{{"light", light},
             {"colour", colour_of(l.colour)},
             {"style", job::word(l.style)},
             {"cap", l.cap}};
    if (l.second != job::Colour{}) one["second"] = colour_of(l.second);
    if (l.meets) one["meets"] = *l.meets;
    return one;
}

Json state_json(const plan::HiltState& s) {
    Json one{{"state", s.state},
             {"amps", s.amps.value()},
             {"lights", s.lights},
             {"days", s.days ? Json(*s.days) : Json()}};
    if (!s.preset.empty()) one["preset"] = s.preset;
    if (!s.look.empty()) one["look"] = s.look;
    if (!s.effect.empty()) one["effect"] = s.effect;
    if (s.peak) one["peak_A"] = s.peak->value();
    if (s.hottest) one["hottest"] = {{"ref", s.hottest->ref}, {"degC", s.hottest->steady.value()}};
    return one;
}

Json preset_json(const plan::PresetPlan& p) {
    Json lights = Json::array();
    lights.push_back(shown_by(p.look, "blade"));
    for (const job::LightOverride& l : p.look.lights)
        lights.push_back(shown_by(l, l.light));
    Json effects = Json::array();
    for (const job::Effect& e : p.effects) {
        Json follow = Json::array();
        for (const job::EffectLight& l : e.lights)
            follow.push_back({{"light", l.light}, {"follows", job::word(l.follows)}});
        effects.push_back({{"name", e.name},
                           {"kind", job::word(e.kind)},
                           {"as_first", !job::has_own(p.preset, e.name)},
                           {"colour", colour_of(e.colour)},
                           {"lasts_s", e.lasts.value()},
                           {"lights", std::move(follow)}});
    }
    Json tracks = Json::array();
    for (const job::Track& t : p.preset.tracks)
        tracks.push_back(t.name);
    return {{"preset", p.preset.name},       {"order", p.order},
            {"font", p.preset.font},         {"look", p.preset.look},
            {"tracks", std::move(tracks)},   {"lights", std::move(lights)},
            {"effects", std::move(effects)}, {"mean_A", p.mean.value()},
            {"peak_A", p.peak.value()},      {"peak_event", p.peak_event},
            {"clean_min", p.clean.value()},  {"off_min", p.off.value()}};
}

std::string for_how_long(double days) {
    return days >= 2 ? decimals(days, 0) + " days" : duration(Minute(days * 1440));
}

} // namespace

int states(const catalogue::Catalogue& parts, const std::string& name, const MatedChoice& mated,
           bool json) {
    const auto named = job_with(parts, name, mated);
    if (!named) return refuse(named.error());
    const auto all = plan::states_of(named->job, *named->parts, side_by_side);
    if (!all) return refuse(all.error());
    if (json) {
        Json list = Json::array();
        for (const plan::HiltState& s : *all)
            list.push_back(state_json(s));
        fmt::print("{}\n", list.dump(2));
        return fine;
    }
    for (const plan::HiltState& s : *all) {
        std::string title = s.state;
        if (!s.effect.empty()) title = fmt::format("{} over {}", s.effect, s.look);
        if (s.state == "lit") title = "lit, " + s.look;
        if (!s.preset.empty()) title += fmt::format(" ({})", s.preset);
        fmt::print("{:<40} {:>9}  {:<12} {}\n", title, text(s.amps),
                   s.days ? for_how_long(*s.days) : "",
                   s.lights.empty() ? "dark" : fmt::format("{}", fmt::join(s.lights, " ")));
    }
    return fine;
}

int presets(const catalogue::Catalogue& parts, const std::string& name, const MatedChoice& mated,
            bool json) {
    const auto named = job_with(parts, name, mated);
    if (!named) return refuse(named.error());
    const auto all = plan::presets_of(named->job, *named->parts, side_by_side);
    if (!all) return refuse(all.error());
    if (json) {
        Json list = Json::array();
        for (const plan::PresetPlan& p : *all)
            list.push_back(preset_json(p));
        fmt::print("{}\n", list.dump(2));
        return fine;
    }
    if (all->empty()) fmt::print("no presets: each look comes with the effects of the job\n");
    for (const plan::PresetPlan& p : *all) {
        fmt::print("{:>2}  {}\n    {}, font {}\n", p.order, p.preset.name, p.look.name,
                   p.preset.font.empty() ? "not said" : p.preset.font);
        fmt::print("    {} on average, {} at most in {}; clean for {}\n", text(p.mean),
                   text(p.peak), p.peak_event, duration(p.clean));
        for (const job::Effect& e : p.effects)
            if (job::has_own(p.preset, e.name))
                fmt::print("    {} of its own, {}\n", e.name, job::word(e.kind));
        for (const job::LeftOut& l : p.preset.left_out)
            fmt::print("    without {}\n", l.effect);
    }
    return fine;
}

} // namespace conductus::cli
