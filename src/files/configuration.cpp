// SPDX-License-Identifier: GPL-3.0-or-later
#include "files/configuration.h"

#include <algorithm>
#include <array>
#include <fmt/format.h>
#include <fmt/ranges.h>

#include "core/base/format.h"
#include "core/job/lookup.h"
#include "core/job/trigger.h"
#include "core/job/words.h"

namespace conductus::files {

Json config_json(const job::Job& job, const harness::DataMap& map) {
    Json lines = Json::array();
    for (const harness::DataLine& line : map.lines) {
        Json lights = Json::array();
        for (const harness::Range& r : line.ranges)
            lights.push_back({{"ref", r.ref}, {"first", r.first}, {"last", r.last}});
        lines.push_back({{"pad", line.pad},
                         {"pixels", line.configured.value_or(line.wired)},
                         {"entered", line.configured.has_value()},
                         {"mirrored", line.mirrored},
                         {"lights", lights}});
    }
    Json pads = Json::array();
    for (const harness::ButtonLine& b : map.buttons)
        pads.push_back({{"pad", b.pad},
                        {"use", b.use.empty() ? Json(nullptr) : Json(b.use)},
                        {"button", b.button.empty() ? Json(nullptr) : Json(b.button)}});
    Json looks = Json::array();
    for (const job::Look& l : job.looks)
        looks.push_back({{"name", l.name},
                         {"colour",
                          {{"red", l.colour.red},
                           {"green", l.colour.green},
                           {"blue", l.colour.blue},
                           {"white", l.colour.white}}},
                         {"style", job::word(l.style)},
                         {"cap", l.cap}});
    Json effects = Json::array();
    for (const job::Effect& e : job.effects)
        effects.push_back({{"name", e.name},
                           {"kind", job::word(e.kind)},
                           {"colour",
                            {{"red", e.colour.red},
                             {"green", e.colour.green},
                             {"blue", e.colour.blue},
                             {"white", e.colour.white}}},
                           {"lasts_s", e.lasts.value()}});
    Json presets = Json::array();
    for (std::size_t i = 0; i < job.presets.size(); ++i) {
        const job::Preset& p = job.presets[i];
        Json tracks = Json::array();
        for (const job::Track& t : p.tracks)
            tracks.push_back({{"name", t.name}});
        Json one{{"order", i + 1},
                 {"name", p.name},
                 {"font", p.font},
                 {"look", p.look},
                 {"tracks", tracks}};
        // What its look is made of stands beside it: a file of a board seldom names looks.
        if (const job::Look* look = job::find_name(job.looks, p.look)) {
            one["style"] = job::word(look->style);
            one["red"] = look->colour.red;
            one["green"] = look->colour.green;
            one["blue"] = look->colour.blue;
            one["white"] = look->colour.white;
            one["cap"] = look->cap;
        }
        presets.push_back(std::move(one));
    }
    Json commands = Json::array();
    for (const job::Command& c : job.handling.commands)
        commands.push_back({{"name", c.name},
                            {"state", c.state},
                            {"trigger", job::trigger_text(c.trigger)},
                            {"does", job::word(c.does)},
                            {"what", c.what},
                            {"leads", c.leads.empty() ? c.state : c.leads},
                            {"preset", c.preset}});
    const job::MotionSettings& m = job.config.motion;
    Json stretches = Json::array();
    for (const job::Stretch& s : job.stretches)
        stretches.push_back({{"name", s.name}, {"of", s.of}, {"first", s.first}, {"last", s.last}});
    return {{"format", "conductus-config"},
            {"version", 1},
            {"job", job.name},
            {"lines", lines},
            {"stretches", stretches},
            {"buttons",
             {{"mode", map.button_mode ? map.button_mode : map.buttons_wired}, {"pads", pads}}},
            {"volume", job.use.volume},
            {"presets", presets},
            {"commands", commands},
            {"motion",
             {{"swing_deg_s", m.swing},
              {"twist_deg_s", m.twist},
              {"roll_deg", m.roll},
              {"thrust_g", m.thrust},
              {"tap_g", m.tap},
              {"clash_g", m.clash}}},
            {"looks", looks},
            {"effects", effects},
            {"mismatches", map.mismatches.size()}};
}

std::string config_text(const job::Job& job, const harness::DataMap& map) {
    std::string text = fmt::format("Configuration of {}\n\nData lines\n", job.name);
    for (const harness::DataLine& line : map.lines) {
        text +=
            fmt::format("  {:<8} {:>5} pixels{}", line.pad, line.configured.value_or(line.wired),
                        line.configured ? "" : " (as wired; not entered)");
        for (const harness::Range& r : line.ranges)
            text += fmt::format("   {} {}–{}", r.ref, r.first, r.last);
        text += line.mirrored ? "   mirrored\n" : "\n";
    }
    text += fmt::format("\nButtons: {}\n", map.button_mode ? map.button_mode : map.buttons_wired);
    for (const harness::ButtonLine& b : map.buttons)
        text += fmt::format("  {:<8} {:<8} {}\n", b.pad, b.use.empty() ? "–" : b.use,
                            b.button.empty() ? "no button" : b.named());
    if (job.config.blade_out != job::BladeOut::unsensed)
        text += fmt::format("\nBlade out: {}, felt at {}\n", job::word(job.config.blade_out),
                            job.config.sense_pad.empty() ? "no pad" : job.config.sense_pad);
    if (!job.presets.empty()) text += "\nPresets\n";
    for (std::size_t i = 0; i < job.presets.size(); ++i) {
        const job::Preset& p = job.presets[i];
        text += fmt::format("  {:>2}  {:<20} look {:<20} font {}\n", i + 1, p.name, p.look,
                            p.font.empty() ? "–" : p.font);
        for (const job::Track& t : p.tracks)
            text += fmt::format("      track {}\n", t.name);
        for (const job::Effect& e : p.effects)
            text += fmt::format("      {} of its own, {}\n", e.name, job::word(e.kind));
        for (const job::LeftOut& l : p.left_out)
            text += fmt::format("      without {}\n", l.effect);
    }
    for (const job::Resting& r : job.resting) {
        text += fmt::format("\nLit while {}{}:", job::word(r.when),
                            r.preset.empty() ? "" : ", in " + r.preset);
        for (const job::LightOverride& l : r.lights)
            text += fmt::format(" {}", l.light);
        text += "\n";
    }
    if (!job.handling.commands.empty()) text += "\nCommands\n";
    for (const job::Command& c : job.handling.commands)
        text += fmt::format("  {:<14} {:<24} {}{}{}\n", c.state, job::trigger_text(c.trigger),
                            c.name, c.leads.empty() ? "" : ", to " + c.leads,
                            c.preset.empty() ? "" : ", only with " + c.preset);
    if (const job::MotionSettings& m = job.config.motion; m != job::MotionSettings{})
        text +=
            fmt::format("\nMotion from: swing {} °/s, twist {} °/s, roll {} °, thrust {} g, tap "
                        "{} g, clash {} g\n",
                        m.swing, m.twist, m.roll, m.thrust, m.tap, m.clash);
    text += "\nLooks\n";
    for (const job::Look& l : job.looks)
        text += fmt::format("  {:<20} {:<8} red {:>3.0f}  green {:>3.0f}  blue {:>3.0f}  white "
                            "{:>3.0f} %   cap {:.0f} %\n",
                            l.name, job::word(l.style), l.colour.red * 100, l.colour.green * 100,
                            l.colour.blue * 100, l.colour.white * 100, l.cap * 100);
    if (!map.mismatches.empty()) {
        text += "\nDoes not agree with the wiring\n";
        for (const harness::Mismatch& m : map.mismatches)
            text += fmt::format("  {}\n", m.text.english());
    }
    return text;
}

} // namespace conductus::files
