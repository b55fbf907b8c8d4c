// SPDX-License-Identifier: GPL-3.0-or-later
// Rules of warmth: dies, and every part over its temperature.
#include <algorithm>
#include <set>

#include "core/base/format.h"
#include "core/findings/facts.h"
#include "core/job/lookup.h"
#include "core/power/guards.h"

namespace conductus::findings {
namespace {

void die_hot(const Facts& f, std::vector<Finding>& out) {
    for (const power::PartHeat& h : f.warmest) {
        const job::Part* part = job::find_ref(f.job->parts, h.ref);
        const auto* led = part ? f.parts->find_as<catalogue::Led>(part->type) : nullptr;
        if (!led || !h.die || *h.die <= led->hottest_die) continue;
        out.push_back({.id = "led.die-too-hot",
                       .severity = Severity::warn,
                       .station = Station::lights,
                       .where = {h.ref},
                       .text = say("The die of {} reaches {}, it stands {}", h.ref, text(*h.die),
                                   text(led->hottest_die)),
                       .detail = "Seat it on metal with thermal paste, or run it at less. Bright "
                                 "LEDs: do not stare.",
                       .evidence = {{"die", h.die->value(), "degC"},
                                    {"stands", led->hottest_die.value(), "degC"}},
                       .fix = {}});
    }
}

/// How warm a part may get; empty: other rules judge it, or it is copper.
std::optional<Celsius> stands(const Facts& f, const std::string& ref) {
    constexpr Celsius silicon(110), plastic(85);
    const job::Part* part = job::find_ref(f.job->parts, ref);
    if (!part) {
        for (const job::Blade& blade : f.job->blades)
            if (job::find_ref(blade.strips, ref) || job::find_ref(blade.strings, ref))
                return plastic;
        return std::nullopt;
    }
    const auto& figures = f.parts->find(part->type)->figures;
    if (std::holds_alternative<catalogue::Cell>(figures) ||
        std::holds_alternative<catalogue::Led>(figures) ||
        std::holds_alternative<catalogue::Resistor>(figures))
        return std::nullopt;
    if (std::holds_alternative<catalogue::Regulator>(figures) ||
        std::holds_alternative<catalogue::Driver>(figures) ||
        std::holds_alternative<catalogue::Board>(figures))
        return silicon;
    return plastic;
}

/// Every part over its temperature, in the look where it gets warmest.
void part_hot(const Facts& f, std::vector<Finding>& out) {
    std::set<std::string> tubes; // strips of one tube are one finding
    for (const power::PartHeat& h : f.warmest) {
        const auto most = stands(f, h.ref);
        if (!most) continue;
        const job::Part* part = job::find_ref(f.job->parts, h.ref);
        const bool converts = part && (f.parts->find_as<catalogue::Regulator>(part->type) ||
                                       f.parts->find_as<catalogue::Driver>(part->type));
        const bool tripped = f.run && f.run->tripped && f.run->tripped->ref == h.ref;
        const bool stops = converts && (tripped || h.temperature > power::shuts_down);
        if (!stops && h.temperature <= *most) continue;
        std::string tube;
        for (const job::Blade& blade : f.job->blades)
            if (job::find_ref(blade.strips, h.ref) || job::find_ref(blade.strings, h.ref))
                tube = blade.ref;
        if (!tube.empty() && !tubes.insert(tube).second) continue;
        Finding finding{
            .id = "part.too-hot",
            .severity = stops ? Severity::stop : Severity::warn,
            .station = Station::power,
            .where = {h.ref},
            .text =
                stops ? say("{} would pass {} °C, where it shuts down", h.ref,
                            decimals(power::shuts_down.value(), 0))
                      : say("{} reaches {}, it stands {}", h.ref, text(h.temperature), text(*most)),
            .detail =
                !tube.empty()
                    ? say("All that is in the tube of {} warms its wall, and that gives off no "
                          "more. Cap the look, or light it for less long.",
                          tube)
                    : say("It turns {} into heat. Less load, fewer volts to take off, or metal to "
                          "give the heat to.",
                          text(h.power)),
            .evidence = {{"makes", h.power.value(), "W"},
                         {"reaches", std::min(h.temperature.value(), 400.0), "degC"},
                         {"held for ever", std::min(h.steady.value(), 400.0), "degC"}},
            .fix = {}};
        if (!tube.empty()) finding.where.push_back(tube);
        out.push_back(std::move(finding));
    }
}

} // namespace

void judge_heat(const Facts& facts, std::vector<Finding>& out) {
    die_hot(facts, out);
    part_hot(facts, out);
}

} // namespace conductus::findings
