// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/plan/choice_build.h"

#include <algorithm>
#include <cmath>

#include "core/job/lookup.h"
#include "core/job/presets.h"

namespace conductus::plan {

using catalogue::Catalogue;
using job::Job;

std::string strip_id(const Job& job) {
    for (const job::Blade& blade : job.blades)
        for (const job::Strip& strip : blade.strips)
            return strip.type;
    return {};
}

namespace {

bool has_white(const Catalogue& parts, const std::string& strip) {
    const auto* s = parts.find_as<catalogue::Strip>(strip);
    const auto* pixel = s ? parts.find_as<catalogue::Pixel>(s->pixel) : nullptr;
    return pixel && pixel->channels.size() > 3;
}

double luminous(const Catalogue& parts, const std::string& strip, std::string_view colours) {
    double sum = 0;
    const auto* pixel =
        parts.find_as<catalogue::Pixel>(parts.find_as<catalogue::Strip>(strip)->pixel);
    for (const auto& c : pixel->channels)
        if (colours.find(c.colour) != std::string_view::npos) sum += c.luminous;
    return sum;
}

/// Another strip in place of all: as many pixels as its density takes, and the white that colours
/// mix from the white die where it has one.
void change_strips(Job& job, const Catalogue& parts, const std::string& id) {
    const std::string was = strip_id(job);
    if (id.empty() || id == was) return;
    const auto* from = parts.find_as<catalogue::Strip>(was);
    const auto* to = parts.find_as<catalogue::Strip>(id);
    job::fit_strips(id)(job);
    for (job::Blade& blade : job.blades)
        for (job::Strip& strip : blade.strips)
            strip.pixels = std::max(
                1, static_cast<int>(std::lround(strip.pixels * (to->density / from->density))));
    for (job::Line& line : job.lines) // programmed for the new count
        line.pixels =
            std::max(1, static_cast<int>(std::lround(line.pixels * (to->density / from->density))));
    if (!has_white(parts, id) || has_white(parts, was)) return;
    const double ratio = luminous(parts, id, "RGB") / luminous(parts, id, "W");
    auto whiten = [&](job::Colour& c) {
        if (c.white > 0) return; // said already
        const double white = std::min({c.red, c.green, c.blue});
        c.red -= white, c.green -= white, c.blue -= white;
        c.white = std::min(1.0, white * ratio);
    };
    for (job::Look& look : job.looks)
        whiten(look.colour);
    job::each_effect(job, [&](job::Effect& effect) { whiten(effect.colour); });
}

template <class T>
void change(Job& job, const Catalogue& parts, const std::string& id) {
    if (id.empty()) return;
    const auto fitted = job::first_of<T>(job, parts);
    if (fitted && fitted.part->type != id) job::fit_type(fitted.part->ref, id)(job);
}

void dim(Job& job, double cap) {
    if (cap == 1) return;
    for (job::Look& look : job.looks)
        look.cap *= cap;
    job::each_effect(job, [&](job::Effect& effect) { effect.cap *= cap; });
}

} // namespace

void change_protection(Job& job, const Catalogue& parts, const std::string& id) {
    for (job::Part& part : job.parts)
        if (parts.find_as<catalogue::Cell>(part.type))
            part.protection = id.empty() ? std::nullopt : std::optional(id);
}

Job built(const Job& job, const Catalogue& parts, const Choice& c) {
    Job with = job;
    with.variants.clear();
    change_strips(with, parts, c.strip);
    change<catalogue::Speaker>(with, parts, c.speaker);
    change<catalogue::Kill>(with, parts, c.kill);
    change_protection(with, parts, c.protection);
    dim(with, c.cap);
    return with;
}

job::Edit take_choice(const Catalogue& parts, const Choice& choice) {
    return [choice, &parts](Job& j) {
        const auto variants = j.variants;
        j = built(j, parts, choice);
        j.variants = variants;
        job::place_cells(choice.cell, choice.adapter, choice.at, parts)(j);
    };
}

} // namespace conductus::plan
