// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/job/presets.h"

#include <algorithm>
#include <fmt/format.h>
#include <set>

#include "core/job/lookup.h"

namespace conductus::job {
namespace {

bool without(const Preset& preset, const std::string& effect) {
    return std::any_of(preset.left_out.begin(), preset.left_out.end(),
                       [&](const LeftOut& l) { return l.effect == effect; });
}

bool is_shown(const Job& job, const Look& look) {
    return std::any_of(job.presets.begin(), job.presets.end(),
                       [&](const Preset& p) { return p.look == look.name; });
}

/// At the end of the list, called after its look.
void add_preset_of(Job& job, const Look& look) {
    Preset preset;
    preset.name = preset.look = look.name;
    for (int n = 2; find_name(job.presets, preset.name); ++n)
        preset.name = fmt::format("{} {}", look.name, n);
    job.presets.push_back(std::move(preset));
}

Result<Preset*> preset_at(Job& job, std::size_t index) {
    if (index < job.presets.size()) return &job.presets[index];
    return problem("", "there is no such preset", "It may have been taken out meanwhile");
}

/// Whether there is a part, blade, strip, string or stretch of that name.
bool is_light(const Job& job, const std::string& light) {
    return find_ref(job.parts, light) || find_ref(job.blades, light) ||
           find_name(job.stretches, light) ||
           std::any_of(job.blades.begin(), job.blades.end(), [&](const Blade& b) {
               return find_ref(b.strips, light) || find_ref(b.strings, light);
           });
}

bool shows_nothing(const LightOverride& l) {
    const auto dark = [](const Colour& c) { return c == Colour{}; };
    return dark(l.colour) && dark(l.second);
}

} // namespace

bool has_own(const Preset& preset, const std::string& effect) {
    return find_name(preset.effects, effect) != nullptr;
}

std::vector<Effect> effects_of(const Job& job, const Preset& preset) {
    std::vector<Effect> all;
    for (const Effect& effect : job.effects) {
        if (without(preset, effect.name)) continue;
        const Effect* own = find_name(preset.effects, effect.name);
        all.push_back(own ? *own : effect);
    }
    for (const Effect& own : preset.effects)
        if (!find_name(job.effects, own.name)) all.push_back(own);
    return all;
}

const Preset* preset_of_use(const Job& job) {
    const std::string look =
        job.use.look.empty() && !job.looks.empty() ? job.looks.front().name : job.use.look;
    if (const Preset* named = find_name(job.presets, job.use.preset))
        if (named->look == look) return named;
    for (const Preset& preset : job.presets)
        if (preset.look == look) return &preset;
    return nullptr;
}

std::vector<Effect> effects_of_use(const Job& job) {
    const Preset* preset = preset_of_use(job);
    return preset ? effects_of(job, *preset) : job.effects;
}

std::vector<Effect> effects_over(const Job& job, const std::string& look) {
    std::vector<Effect> all;
    bool shown = false;
    for (const Preset& preset : job.presets) {
        if (preset.look != look) continue;
        shown = true;
        for (Effect& effect : effects_of(job, preset))
            if (std::find(all.begin(), all.end(), effect) == all.end())
                all.push_back(std::move(effect));
    }
    return shown ? all : job.effects;
}

std::string look_of(const Job& job, const std::string& preset) {
    const Preset* named = find_name(job.presets, preset);
    return named ? named->look : std::string();
}

Edit add_preset() {
    return [](Job& job) -> Result<void> {
        if (job.looks.empty())
            return problem("/looks", "there is no look that a preset could show",
                           "Make a look first");
        const auto next = std::find_if(job.looks.begin(), job.looks.end(),
                                       [&](const Look& l) { return !is_shown(job, l); });
        add_preset_of(job, next == job.looks.end() ? job.looks.front() : *next);
        return {};
    };
}

Edit preset_each_look() {
    return [](Job& job) -> Result<void> {
        if (job.looks.empty()) return add_preset()(job);
        for (const Look& look : job.looks)
            if (!is_shown(job, look)) add_preset_of(job, look);
        return {};
    };
}

Edit move_preset(std::size_t index, std::size_t to) {
    return [index, to](Job& job) {
        if (index >= job.presets.size() || to >= job.presets.size()) return;
        Preset moved = std::move(job.presets[index]);
        job.presets.erase(job.presets.begin() + static_cast<std::ptrdiff_t>(index));
        job.presets.insert(job.presets.begin() + static_cast<std::ptrdiff_t>(to), std::move(moved));
    };
}

Edit show_look(std::size_t index, std::string look) {
    return [index, look = std::move(look)](Job& job) -> Result<void> {
        auto preset = preset_at(job, index);
        if (!preset) return tl::unexpected(preset.error());
        if (!find_name(job.looks, look))
            return problem("", say("there is no look named '{}'", look),
                           "Name one of the job's looks");
        (*preset)->look = look;
        const auto follow = [&](Use& use) {
            if (use.preset == (*preset)->name) use.look = look;
        };
        follow(job.use);
        for (Use& use : job.uses)
            follow(use);
        return {};
    };
}

Edit give_tracks(std::size_t index, std::string typed) {
    return [index, typed = std::move(typed)](Job& job) -> Result<void> {
        auto preset = preset_at(job, index);
        if (!preset) return tl::unexpected(preset.error());
        (*preset)->tracks.clear();
        std::string word;
        const auto take = [&] {
            const auto first = word.find_first_not_of(" \t");
            if (first != std::string::npos)
                (*preset)->tracks.push_back(
                    {word.substr(first, word.find_last_not_of(" \t") - first + 1)});
            word.clear();
        };
        for (const char c : typed)
            c == ',' || c == ';' || c == '\n' ? take() : void(word += c);
        take();
        return {};
    };
}

Effects has_effect(const Job& job, std::size_t index, const std::string& effect) {
    if (index >= job.presets.size()) return Effects::none;
    const Preset& preset = job.presets[index];
    if (has_own(preset, effect)) return Effects::own;
    return without(preset, effect) || !find_name(job.effects, effect) ? Effects::none
                                                                      : Effects::as_first;
}

Edit let_have(std::size_t index, std::string effect, Effects how) {
    return [index, effect = std::move(effect), how](Job& job) -> Result<void> {
        auto found = preset_at(job, index);
        if (!found) return tl::unexpected(found.error());
        Preset& preset = **found;
        const Effect* first = find_name(job.effects, effect);
        if (!first && !has_own(preset, effect))
            return problem("", say("there is no effect named '{}'", effect),
                           "Name one of the effects");
        std::erase_if(preset.left_out, [&](const LeftOut& l) { return l.effect == effect; });
        if (how == Effects::own) {
            if (!has_own(preset, effect)) preset.effects.push_back(*first);
            return {};
        }
        std::erase_if(preset.effects, [&](const Effect& e) { return e.name == effect; });
        if (how == Effects::none && first) preset.left_out.push_back({effect});
        return {};
    };
}

Edit use_preset(std::string name) {
    return [name = std::move(name)](Job& job) -> Result<void> {
        if (!name.empty() && !find_name(job.presets, name))
            return problem("", say("there is no preset named '{}'", name),
                           "Name one of the job's presets");
        job.use.preset = name;
        if (!name.empty()) job.use.look = look_of(job, name);
        return {};
    };
}

Edit let_follow(std::string effect, std::optional<std::size_t> own_of, EffectLight light) {
    return
        [effect = std::move(effect), own_of, light = std::move(light)](Job& job) -> Result<void> {
            Effect* of = nullptr;
            if (!own_of)
                of = find_name(job.effects, effect);
            else if (*own_of < job.presets.size())
                of = find_name(job.presets[*own_of].effects, effect);
            if (!of)
                return problem("", say("there is no effect named '{}'", effect),
                               "Name one of the effects");
            std::erase_if(of->lights, [&](const EffectLight& l) { return l.light == light.light; });
            EffectLight usual;
            usual.light = light.light;
            usual.colour = light.colour;
            usual.cap = light.cap;
            if (!(light == usual)) of->lights.push_back(light);
            return {};
        };
}

Edit let_rest(Rest when, std::string preset, LightOverride light) {
    return [when, preset = std::move(preset), light = std::move(light)](Job& job) -> Result<void> {
        if (!preset.empty() && !find_name(job.presets, preset))
            return problem("", say("there is no preset named '{}'", preset),
                           "Name one of the job's presets");
        const auto is = [&](const Resting& r) { return r.when == when && r.preset == preset; };
        auto it = std::find_if(job.resting.begin(), job.resting.end(), is);
        if (it == job.resting.end()) {
            if (shows_nothing(light) && preset.empty()) return {};
            it = job.resting.insert(job.resting.end(), {when, preset, {}});
        }
        std::erase_if(it->lights, [&](const LightOverride& l) { return l.light == light.light; });
        // Dark in a preset takes back what is lit always.
        const auto always = preset.empty() ? std::vector<LightOverride>()
                                           : lights_at_rest(job, when, std::string());
        const bool lit_always =
            std::any_of(always.begin(), always.end(),
                        [&](const LightOverride& l) { return l.light == light.light; });
        if (!shows_nothing(light) || lit_always) it->lights.push_back(light);
        if (it->lights.empty()) job.resting.erase(it);
        return {};
    };
}

std::vector<LightOverride> lights_at_rest(const Job& job, Rest when, const std::string& preset) {
    std::vector<LightOverride> all;
    const auto take = [&](const std::string& of) {
        for (const Resting& r : job.resting) {
            if (r.when != when || r.preset != of) continue;
            for (const LightOverride& l : r.lights) {
                std::erase_if(all, [&](const LightOverride& a) { return a.light == l.light; });
                all.push_back(l);
            }
        }
    };
    take({});
    if (!preset.empty()) take(preset);
    std::erase_if(all, shows_nothing);
    return all;
}

void forget_lost_presets(Job& job) {
    if (!job.presets.empty()) {
        // A preset shows a look: without one it shows the first.
        for (Preset& p : job.presets) {
            if (!find_name(job.looks, p.look))
                p.look = job.looks.empty() ? std::string() : job.looks.front().name;
            std::erase_if(p.left_out,
                          [&](const LeftOut& l) { return !find_name(job.effects, l.effect); });
        }
        if (job.looks.empty()) job.presets.clear();
    }
    const auto tidy = [&](Use& use) {
        if (use.preset.empty()) return;
        const Preset* preset = find_name(job.presets, use.preset);
        if (!preset || preset->look != use.look) use.preset.clear();
    };
    tidy(job.use);
    for (Use& use : job.uses)
        tidy(use);
    std::erase_if(job.resting, [&](const Resting& r) {
        return !r.preset.empty() && !find_name(job.presets, r.preset);
    });
    each_effect(job, [&](Effect& e) {
        std::erase_if(e.lights, [&](const EffectLight& l) { return !is_light(job, l.light); });
    });
    for (Resting& r : job.resting)
        std::erase_if(r.lights, [&](const LightOverride& l) { return !is_light(job, l.light); });
    std::erase_if(job.resting, [](const Resting& r) { return r.lights.empty(); });
    for (Plug& plug : job.plugs)
        if (!plug.jack.empty() && !find_ref(job.parts, plug.jack)) plug.jack.clear();
}

} // namespace conductus::job
