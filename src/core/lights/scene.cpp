// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/lights/scene.h"

#include <algorithm>
#include <cmath>

#include "core/job/lookup.h"

namespace conductus::lights {
namespace {

const job::LightOverride* shown(const job::Look& look, const std::string& light) {
    const auto it = std::find_if(look.lights.begin(), look.lights.end(),
                                 [&](const job::LightOverride& s) { return s.light == light; });
    return it == look.lights.end() ? nullptr : &*it;
}

bool covers(const Group& g, double index) { return index >= g.first && index < g.first + g.pixels; }

} // namespace

Scene::Scene(const job::Job& job, std::shared_ptr<const Chains> chains, job::Look look,
             std::optional<job::Effect> effect, Tempo tempo)
    : job_(&job), chains_(std::move(chains)), look_(std::move(look)), effect_(std::move(effect)),
      tempo_(tempo) {}

Scene::Setting Scene::setting_of(const std::string& light, const std::string& owner) const {
    for (const std::string* name : {&light, &owner})
        if (const job::LightOverride* s = shown(look_, *name))
            return {s->colour, s->style, s->cap, true};
    return {look_.colour, look_.style, look_.cap, false};
}

Scene::Place Scene::place_of(const Group& group, double index) const {
    // Of all that hear this pixel's data, the longest decides; a strip before an accent.
    const Group* leads = &group;
    if (!group.line.empty())
        for (const std::size_t i : chains_->chain(group.line)->groups) {
            const Group& other = chains_->groups[i];
            if (!covers(other, index) || &other == leads) continue;
            const bool strips = other.kind == Group::Kind::strip;
            const bool leads_strips = leads->kind == Group::Kind::strip;
            if (strips != leads_strips ? strips : other.pixels > leads->pixels) leads = &other;
        }
    Place place{leads, (index - leads->first) / leads->pixels,
                setting_of(leads->ref, leads->owner)};
    if (leads->kind != Group::Kind::strip) place.setting.own = true;
    const double pixel = index - leads->first;
    for (const job::Stretch& s : job_->stretches) {
        if (s.of != leads->ref || pixel < s.first - 1 || pixel >= s.last) continue;
        if (!shown(look_, s.name)) continue;
        place.setting = setting_of(s.name, {});
        place.at = (pixel - (s.first - 1)) / (s.last - s.first + 1);
    }
    return place;
}

double Scene::level_of(const Setting& setting, double at) const {
    switch (tempo_.pace) {
    case Pace::brightest:
        return brightest_level(setting.style, at, tempo_.seconds);
    case Pace::even:
        return setting.style == look_.style ? tempo_.share : mean_factor(setting.style);
    case Pace::spread:
        return spread_level(setting.style, at, tempo_.spread_frame);
    case Pace::instant:
        return level(setting.style, at, tempo_.seconds, tempo_.seed);
    }
    return 1;
}

Duties Scene::duty_at(const Place& place, int channels) const {
    const Setting& s = place.setting;
    // Under an effect the look is taken where it is brightest: the peak is what it is for.
    const Duties base = duties(s.colour, s.cap * level_of(s, place.at), channels);
    if (!effect_ || s.own) return base;
    const Cover c = tempo_.pace == Pace::instant
                        ? cover(*effect_, place.at, tempo_.seconds, tempo_.seed)
                        : full_cover(*effect_, place.at);
    if (c.dark) return {};
    const Duties over = duties(effect_->colour, effect_->cap, channels);
    Duties mixed;
    for (std::size_t k = 0; k < 4; ++k)
        mixed[k] = base[k] * (1 - c.share) + over[k] * c.share;
    return mixed;
}

bool Scene::alike(const Group& a, const Group& b) const {
    if (&a == &b) return true;
    if (a.line.empty() || a.line != b.line || a.kind != b.kind || a.first != b.first ||
        a.pixels != b.pixels)
        return false;
    return !job_ || (setting_of(a.ref, a.owner) == setting_of(b.ref, b.owner) &&
                     std::none_of(job_->stretches.begin(), job_->stretches.end(),
                                  [&](const auto& s) { return s.of == a.ref || s.of == b.ref; }));
}

std::vector<Span> Scene::spans(const Group& group, int channels) const {
    if (!job_) return {{0, group.pixels, {}}};
    // Only where one of these lies between two pixels may the duty change.
    std::vector<double> cuts{0, static_cast<double>(group.pixels)};
    auto cut = [&](double index) { cuts.push_back(index - group.first); };
    auto cut_light = [&](double first, double pixels, job::Style style) {
        cut(first), cut(first + pixels);
        const double moment =
            tempo_.pace == Pace::spread ? spread_seconds(tempo_.spread_frame) : tempo_.seconds;
        for (const double x : changes(style, moment))
            cut(first + x * pixels);
        if (effect_) {
            const double at = tempo_.pace == Pace::instant ? tempo_.seconds
                              : effect_->kind == job::EffectKind::retraction
                                  ? 0
                                  : effect_->lasts.value();
            for (const double x : changes(*effect_, at))
                cut(first + x * pixels);
        }
    };
    const Chain* chain = group.line.empty() ? nullptr : chains_->chain(group.line);
    auto cut_group = [&](const Group& g) {
        cut_light(g.first, g.pixels, setting_of(g.ref, g.owner).style);
        for (const job::Stretch& s : job_->stretches)
            if (s.of == g.ref)
                cut_light(g.first + s.first - 1, s.last - s.first + 1,
                          setting_of(s.name, {}).style);
    };
    if (!chain) cut_group(group);
    if (chain)
        for (auto i = chain->groups.begin(); i != chain->groups.end(); ++i)
            if (std::none_of(chain->groups.begin(), i, [&](std::size_t before) {
                    return alike(chains_->groups[before], chains_->groups[*i]);
                }))
                cut_group(chains_->groups[*i]);
    const double lit =
        chain && chain->programmed ? *chain->programmed : group.first + group.pixels + 1.0;
    cut(lit);
    std::sort(cuts.begin(), cuts.end());

    std::vector<Span> spans;
    int first = 0;
    for (const double c : cuts) {
        // A pixel belongs to the side its middle lies on.
        const int last = std::clamp(static_cast<int>(std::ceil(c - 0.5)), 0, group.pixels);
        if (last <= first) continue;
        const double middle = group.first + (first + last) / 2.0;
        Span span{first, last, {}};
        if (middle < lit) span.duty = duty_at(place_of(group, middle), channels);
        if (!spans.empty() && spans.back().duty == span.duty)
            spans.back().last = last;
        else
            spans.push_back(span);
        first = last;
    }
    return spans;
}

double Scene::die(const std::string& ref, char colour, const std::string& dies,
                  bool lights_blade) const {
    if (!job_) return 0;
    Place place{nullptr, 0.5, setting_of(ref, {})};
    if (!lights_blade) place.setting.own = true;
    if (lights_blade && effect_ && effect_->kind == job::EffectKind::mark)
        place.at = (effect_->from + effect_->to) / 2; // one light: all of it shows the mark
    const bool white = dies.find('W') != std::string::npos;
    const Duties d = duty_at(place, white ? 4 : 3);
    const double own = d[std::string_view("RGBW").find(colour)];
    // Where there is nothing to mix with, the white that a look mixes is the white die's as well.
    const bool alone = dies.find_first_not_of('W') == std::string::npos;
    return alone ? std::min(1.0, own + std::min({d[0], d[1], d[2]})) : own;
}

double Scene::segment(const std::string& ref, const std::string& blade, double place) const {
    if (!job_) return 0;
    const Setting s = setting_of(ref, blade);
    const Duties d = duties(s.colour, s.cap * level_of(s, place), 3);
    if (effect_) {
        const Cover c = tempo_.pace == Pace::instant
                            ? cover(*effect_, place, tempo_.seconds, tempo_.seed)
                            : full_cover(*effect_, place);
        if (c.dark) return 0;
    }
    return *std::max_element(d.begin(), d.end());
}

double Scene::flash() const {
    if (!job_ || !effect_) return 0;
    if (effect_->kind == job::EffectKind::ignition || effect_->kind == job::EffectKind::retraction)
        return 0;
    // One string for the whole blade: it shows the effect wherever that is.
    const double middle = (effect_->from + effect_->to) / 2;
    const Cover c = tempo_.pace == Pace::instant
                        ? cover(*effect_, middle, tempo_.seconds, tempo_.seed)
                        : full_cover(*effect_, middle);
    const Duties d = duties(effect_->colour, effect_->cap, 3);
    return c.share * *std::max_element(d.begin(), d.end());
}

std::vector<LookConflict> look_conflicts(const Chains& chains, const job::Look& look) {
    std::vector<LookConflict> found;
    auto own = [&](const Group& g) -> const job::LightOverride* {
        for (const std::string* name : {&g.ref, &g.owner})
            if (const job::LightOverride* s = shown(look, *name)) return s;
        return nullptr;
    };
    auto same = [&](const job::LightOverride* a, const job::LightOverride* b) {
        const job::LightOverride base{{}, look.colour, look.style, look.cap};
        const job::LightOverride& x = a ? *a : base;
        const job::LightOverride& y = b ? *b : base;
        return x.colour == y.colour && x.style == y.style && x.cap == y.cap;
    };
    for (const Chain& chain : chains.chains)
        for (std::size_t i = 0; i < chain.groups.size(); ++i)
            for (std::size_t k = 0; k < i; ++k) {
                const Group& a = chains.groups[chain.groups[i]];
                const Group& b = chains.groups[chain.groups[k]];
                const bool share = a.first < b.first + b.pixels && b.first < a.first + a.pixels;
                if (share && !same(own(a), own(b))) found.push_back({a.ref, b.ref});
            }
    return found;
}

} // namespace conductus::lights
