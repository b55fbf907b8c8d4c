// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <fmt/format.h>
#include <map>

#include "cli/commands.h"
#include "core/base/format.h"
#include "core/job/edits.h"
#include "core/plan/analyse.h"
#include "core/plan/plan.h"
#include "files/json_text.h"
#include "shop/book.h"

namespace conductus::cli {
namespace {

using files::Json;

Json look_json(const plan::Plan& plan, const plan::LookPlan& look) {
    const plan::View& view = look.views[plan::full];
    Json entry{{"name", look.name},
               {"mean_A", look.mean.value()},
               {"peak_A", look.peak.value()},
               {"base_V", nullptr},
               {"tip_V", nullptr},
               {"tip_brightness", nullptr},
               {"tint_shift", nullptr},
               {"white_arithmetic_A", plan.by_count.value()}};
    if (!view.pixel_volts.empty()) {
        entry["base_V"] = view.first_pixel.value();
        entry["tip_V"] = view.last_pixel.value();
        entry["tip_brightness"] = view.tip;
        entry["tint_shift"] = view.tint_shift;
    }
    Json blades = Json::array();
    for (const plan::BladeView& b : view.blades) {
        const double foot = b.foot > 0 ? b.tip / b.foot : 1;
        Json blade{{"ref", b.ref}, {"tip_brightness", foot}, {"tint_shift", b.tint_shift}};
        if (!b.volts.empty()) {
            blade["strip"] = b.strip;
            blade["base_V"] = b.volts.front();
            blade["tip_V"] = b.volts.back();
        }
        blades.push_back(std::move(blade));
    }
    entry["blades"] = std::move(blades);
    Json carried = Json::array();
    for (const plan::Carried& c : look.carried)
        carried.push_back({{"ref", c.place.ref},
                           {"place", c.place.label},
                           {"mean_A", c.mean.value()},
                           {"peak_A", c.peak.value()},
                           {"rated_A", c.place.rated ? Json(c.place.rated->value()) : Json()}});
    entry["carried"] = std::move(carried);
    return entry;
}

Json chains_json(const plan::Plan& plan) {
    Json list = Json::array();
    for (const lights::Chain& chain : plan.chains.chains) {
        Json pixels = Json::array();
        for (const std::size_t i : chain.groups) {
            const lights::Group& g = plan.chains.groups[i];
            Json entry{{"ref", g.ref},
                       {"first", g.first + 1},
                       {"last", g.first + g.pixels},
                       {"count", g.pixels},
                       {"after", g.before.empty() ? chain.pad : g.before},
                       {"series_Ohm", g.series.value()}};
            for (const power::DataHop& hop : plan.hops)
                if (hop.to == g.ref) {
                    entry["data_V"] = hop.high.value();
                    entry["needs_V"] = hop.need.value();
                }
            pixels.push_back(std::move(entry));
        }
        Json entry{{"line", chain.pad},
                   {"pixels", std::move(pixels)},
                   {"fitted", chain.longest},
                   {"programmed", nullptr},
                   {"mirrored", chain.mirrored}};
        if (chain.programmed) entry["programmed"] = *chain.programmed;
        list.push_back(std::move(entry));
    }
    return list;
}

Json resistors_json(const plan::Plan& plan) {
    Json list = Json::array();
    for (const power::LedRun& r : plan.leds)
        list.push_back({{"led", r.led},
                        {"die", r.die},
                        {"ref", r.built_in > Ohm(0)  ? Json(r.led)
                                : r.resistor.empty() ? Json(nullptr)
                                                     : Json(r.resistor)},
                        {"driver", r.driver.empty() ? Json(nullptr) : Json(r.driver)},
                        {"amps", r.amps.value()},
                        {"stated_A", r.stated.value()},
                        {"fitted_Ohm", r.built_in > Ohm(0)  ? Json(r.built_in.value())
                                       : r.resistor.empty() ? Json(nullptr)
                                                            : Json(r.fitted.value())},
                        {"power_W", r.power.value()},
                        {"ideal_Ohm", r.ideal.value()},
                        {"e24_Ohm", r.e24 > Ohm(0) ? Json(r.e24.value()) : Json(nullptr)},
                        {"pick_power_W", r.pick_power.value()},
                        {"pick", r.pick.empty() ? Json(nullptr) : Json(r.pick)}});
    return list;
}

Json what_ifs_json(const plan::Plan& plan) {
    Json list = Json::array();
    for (std::size_t i = 0; i < plan.lights.what_ifs.size(); ++i)
        for (const power::WhatIf& w : plan.lights.what_ifs[i])
            list.push_back({{"look", plan.looks[i].name},
                            {"id", w.id},
                            {"text", w.text},
                            {"mean_before_A", w.mean_before.value()},
                            {"mean_after_A", w.mean_after.value()},
                            {"tip_before", w.tip_before},
                            {"tip_after", w.tip_after}});
    return list;
}

Json all_json(const plan::Plan& plan) {
    Json looks = Json::array(), effects = Json::array(), dies = Json::array(), on = Json::array();
    for (const plan::LookPlan& look : plan.looks)
        looks.push_back(look_json(plan, look));
    for (const plan::LookPlan& effect : plan.effects)
        effects.push_back(look_json(plan, effect));
    // Of each LED, in the look that heats it most.
    Json hottest = nullptr;
    std::map<std::string, std::pair<double, std::string>> by_led;
    for (const plan::LookPlan& look : plan.looks)
        for (const power::PartHeat& h : look.heat)
            if (h.die) {
                auto [it, fresh] = by_led.try_emplace(h.ref, h.die->value(), look.name);
                if (!fresh && h.die->value() > it->second.first)
                    it->second = {h.die->value(), look.name};
            }
    for (const auto& [ref, worst] : by_led) {
        dies.push_back({{"led", ref}, {"die_C", worst.first}, {"look", worst.second}});
        if (hottest.is_null() || worst.first > hottest.get<double>()) hottest = worst.first;
    }
    for (const power::LeftOn& l : plan.left_on)
        on.push_back({{"ref", l.ref},
                      {"kind", l.kind},
                      {"amps", l.amps.value()},
                      {"hours_to_flat", l.hours},
                      {"always", l.always}});
    return {{"looks", looks},
            {"effects", effects},
            {"chains", chains_json(plan)},
            {"resistors", resistors_json(plan)},
            {"led_die_C", hottest},
            {"led_dies", dies},
            {"left_on", on},
            {"what_ifs", what_ifs_json(plan)}};
}

void print(const plan::Plan& plan) {
    fmt::print("{:<16} {:>8} {:>8} {:>9} {:>9} {:>6} {:>6}\n", "", "mean", "peak", "base", "tip",
               "tip %", "tint");
    auto row = [](const plan::LookPlan& l) {
        const plan::View& v = l.views[plan::full];
        fmt::print("{:<16} {:>8} {:>8}", l.name, text(l.mean), text(l.peak));
        if (!v.pixel_volts.empty())
            fmt::print(" {:>9} {:>9} {:>6.0f} {:>6.3f}", text(v.first_pixel), text(v.last_pixel),
                       v.tip * 100, v.tint_shift);
        fmt::print("\n");
    };
    for (const auto& l : plan.looks)
        row(l);
    for (const auto& e : plan.effects)
        row(e);
    fmt::print("\n{} pixels × 60 mA and LEDs as stated would say {}\n", plan.pixels,
               text(plan.by_count));
    for (const lights::Chain& chain : plan.chains.chains) {
        fmt::print("\n{}: {} pixels{}\n", chain.pad, chain.longest,
                   chain.mirrored ? ", mirrored" : "");
        for (const std::size_t i : chain.groups) {
            const lights::Group& g = plan.chains.groups[i];
            fmt::print("  {:<5} {:>5} to {:<5}", g.ref, g.first + 1, g.first + g.pixels);
            for (const power::DataHop& hop : plan.hops)
                if (hop.to == g.ref)
                    fmt::print(" data {} of {} needed", text(hop.high), text(hop.need));
            fmt::print("\n");
        }
    }
    for (const power::LedRun& r : plan.leds) {
        fmt::print("\n{} {}: {} of {} stated", r.led, r.die, text(r.amps), text(r.stated));
        if (!r.resistor.empty()) fmt::print(", {} {}", r.resistor, text(r.fitted));
        if (r.e24 > Ohm(0)) fmt::print("; {} suits", text(r.e24));
    }
    for (const power::LeftOn& l : plan.left_on)
        fmt::print("\n{} left on: {}, flat after {:.0f} h{}", l.ref, text(l.amps), l.hours,
                   l.always ? ", always lit" : "");
    fmt::print("\n");
}

} // namespace

int lights(const catalogue::Catalogue& parts, const std::string& name, bool json) {
    const auto named = shop::job_named(name, parts);
    if (!named) return refuse(named.error());
    const auto job = std::make_shared<const job::Job>(named->job);
    const plan::Plan plan = plan::analyse(job, named->parts);
    if (plan.trouble) return refuse(*plan.trouble);
    if (json) {
        Json all = all_json(plan);
        // The other ways of building, as far as they can be solved.
        all["variant"] = job->variant;
        all["variants"] = Json::array();
        for (std::size_t i = 0; i < job->variants.size(); ++i) {
            const plan::Plan other = plan::analyse_figures(
                std::make_shared<const job::Job>(job::with_variant(*job, i)), plan.parts);
            Json entry{{"name", job->variants[i].name}};
            if (!other.trouble) entry.update(all_json(other));
            all["variants"].push_back(std::move(entry));
        }
        fmt::print("{}\n", all.dump(2));
    } else
        print(plan);
    return fine;
}

} // namespace conductus::cli
