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
            return {s->colour, s->style, s->cap, s->second, s->meets.value_or(0.5), true};
    return {look_.colour, look_.style, look_.cap, look_.second, look_.meets.value_or(0.5), false};
}

const job::EffectLight* Scene::follows(const std::string& light, const std::string& owner) const {
    if (!effect_) return nullptr;
    for (const std::string* name : {&light, &owner})
        for (const job::EffectLight& l : effect_->lights)
            if (l.light == *name) return &l;
    return nullptr;
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
                setting_of(leads->ref, leads->owner), follows(leads->ref, leads->owner)};
    place.whole = leads->kind != Group::Kind::strip;
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
        if (setting.style == job::Style::cycle) return 1;
        return setting.style == look_.style ? tempo_.share : mean_factor(setting.style);
    case Pace::spread:
        return spread_level(setting.style, at, tempo_.spread_frame);
    case Pace::instant:
        return level(setting.style, at, tempo_.seconds, tempo_.seed);
    }
    return 1;
}

double Scene::second_of(const Setting& setting, double at) const {
    const bool even = tempo_.pace == Pace::even || tempo_.pace == Pace::spread;
    if (even && setting.style == job::Style::cycle)
        return tempo_.pace == Pace::even && look_.style == job::Style::cycle
                   ? tempo_.share
                   : mean_share(job::Style::cycle);
    return second_share(setting.style, at, tempo_.seconds, setting.meets, tempo_.charge);
}

Duties Scene::base_of(const Setting& s, double at, int channels) const {
    const double bright = s.cap * level_of(s, at), second = second_of(s, at);
    const Duties first = duties(s.colour, bright, channels);
    return second > 0 ? mixed(first, duties(s.second, bright, channels), second) : first;
}

Cover Scene::cover_at(double place) const {
    return tempo_.pace == Pace::instant ? cover(*effect_, place, tempo_.seconds, tempo_.seed)
                                        : full_cover(*effect_, place);
}

Duties Scene::duty_at(const Place& place, int channels) const {
    const Setting& s = place.setting;
    // Under an effect the look is taken where it is brightest: the peak is what it is for.
    const Duties base = base_of(s, place.at, channels);
    if (!effect_) return base;
    const job::Follows how = place.follows ? place.follows->follows : job::Follows::usual;
    if (how == job::Follows::none || (how == job::Follows::usual && s.own)) return base;
    // An accent that goes along shows a spot on the blade with all of itself.
    const bool runs = effect_->kind == job::EffectKind::ignition ||
                      effect_->kind == job::EffectKind::retraction;
    const bool spot = how != job::Follows::usual && place.whole && !runs;
    const Cover c = cover_at(spot ? (effect_->from + effect_->to) / 2 : place.at);
    if (c.dark) return {};
    const bool own = how == job::Follows::own;
    return mixed(base,
                 duties(own ? place.follows->colour : effect_->colour,
                        own ? place.follows->cap : effect_->cap, channels),
                 c.share);
}

bool Scene::alike(const Group& a, const Group& b) const {
    if (&a == &b) return true;
    if (a.line.empty() || a.line != b.line || a.kind != b.kind || a.first != b.first ||
        a.pixels != b.pixels)
        return false;
    const auto same_effect = [&] {
        const job::EffectLight *x = follows(a.ref, a.owner), *y = follows(b.ref, b.owner);
        if (!x || !y) return x == y;
        return x->follows == y->follows && x->colour == y->colour && x->cap == y->cap;
    };
    return !job_ || (setting_of(a.ref, a.owner) == setting_of(b.ref, b.owner) && same_effect() &&
                     std::none_of(job_->stretches.begin(), job_->stretches.end(),
                                  [&](const auto& s) { return s.of == a.ref || s.of == b.ref; }));
}

std::vector<Span> Scene::spans(const Group& group, int channels) const {
    if (!job_) return {{0, group.pixels, {}}};
    // Only where one of these lies between two pixels may the duty change.
    std::vector<double> cuts{0, static_cast<double>(group.pixels)};
    auto cut = [&](double index) { cuts.push_back(index - group.first); };
    auto cut_light = [&](double first, double pixels, const Setting& of) {
        cut(first), cut(first + pixels);
        const double moment =
            tempo_.pace == Pace::spread ? spread_seconds(tempo_.spread_frame) : tempo_.seconds;
        for (const double x : changes(of.style, moment, of.meets, tempo_.charge))
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
        cut_light(g.first, g.pixels, setting_of(g.ref, g.owner));
        for (const job::Stretch& s : job_->stretches)
            if (s.of == g.ref)
                cut_light(g.first + s.first - 1, s.last - s.first + 1,
                          setting_of(s.name, {}));
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
    Place place{nullptr, 0.5, setting_of(ref, {}), follows(ref, {})};
    place.whole = true;
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
    const Duties d = base_of(s, place, 3);
    const double lit = *std::max_element(d.begin(), d.end());
    if (!effect_) return lit;
    const job::EffectLight* f = follows(ref, blade);
    if (f && f->follows == job::Follows::none) return lit;
    const Cover c = cover_at(place);
    if (c.dark) return 0;
    // Segments have no colour of their own to mix: for as long as an effect is about, they are off.
    const job::Segments how = f ? f->segments : job::Segments::stay;
    const bool inside = place >= effect_->from && place < effect_->to;
    if (how == job::Segments::go_dark && inside && c.share > 0) return 0;
    if (how == job::Segments::alone_lit && !inside) return 0;
    return lit;
}

double Scene::flash(const std::string& ref, const std::string& blade) const {
    if (!job_ || !effect_) return 0;
    const job::EffectLight* f = follows(ref, blade);
    const job::FlashRow row = f ? f->flash_row : job::FlashRow::usual;
    if (row == job::FlashRow::dark || (f && f->follows == job::Follows::none)) return 0;
    const bool runs = effect_->kind == job::EffectKind::ignition ||
                      effect_->kind == job::EffectKind::retraction;
    if (runs && row != job::FlashRow::lit) return 0;
    // One row for the whole blade: it shows the effect wherever that is.
    const double share = runs ? 1 : cover_at((effect_->from + effect_->to) / 2).share;
    const bool own = f && f->follows == job::Follows::own;
    const Duties d = duties(own ? f->colour : effect_->colour, own ? f->cap : effect_->cap, 3);
    return share * *std::max_element(d.begin(), d.end());
}

bool Scene::lights_up(const std::string& ref, const std::string& owner) const {
    if (!job_) return false;
    const auto shows = [](const Setting& s) {
        return s.cap > 0 && (s.colour != job::Colour{} || s.second != job::Colour{});
    };
    return shows(setting_of(ref, owner)) ||
           std::any_of(job_->stretches.begin(), job_->stretches.end(), [&](const auto& s) {
               return s.of == ref && shows(setting_of(s.name, {}));
           });
}

std::vector<LookConflict> look_conflicts(const Chains& chains, const job::Look& look) {
    std::vector<LookConflict> found;
    auto own = [&](const Group& g) -> const job::LightOverride* {
        for (const std::string* name : {&g.ref, &g.owner})
            if (const job::LightOverride* s = shown(look, *name)) return s;
        return nullptr;
    };
    auto same = [&](const job::LightOverride* a, const job::LightOverride* b) {
        const job::LightOverride base{{},       look.colour, look.style,
                                      look.cap, look.second, look.meets};
        const job::LightOverride& x = a ? *a : base;
        const job::LightOverride& y = b ? *b : base;
        return x.colour == y.colour && x.style == y.style && x.cap == y.cap &&
               x.second == y.second && x.meets == y.meets;
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
