// SPDX-License-Identifier: GPL-3.0-or-later
// Presets: what the board shows and plays under one name, and which effects come with it. A preset
// takes the job's effects, which are the first preset's, but for those that it has of its own.
#pragma once

#include <string>
#include <vector>

#include "core/job/edit.h"
#include "core/job/job.h"

namespace conductus::job {

/// The effects that come in a preset, in the order of the job, its additional ones behind them.
std::vector<Effect> effects_of(const Job& job, const Preset& preset);

/// Whether the effect of that name is the preset's own, and not as the first preset's.
bool has_own(const Preset& preset, const std::string& effect);

/// The preset of the job's use: the one that it names, else the first that shows its look; null:
/// there is none.
const Preset* preset_of_use(const Job& job);

/// The effects that come in the job's use.
std::vector<Effect> effects_of_use(const Job& job);

/// Every effect that any preset has which shows that look, each once; the job's effects where no
/// preset shows it.
std::vector<Effect> effects_over(const Job& job, const std::string& look);

/// Calls `change` with every effect: the job's, and those that presets have of their own.
template <class Change>
void each_effect(Job& job, Change change) {
    for (Effect& effect : job.effects)
        change(effect);
    for (Preset& preset : job.presets)
        for (Effect& effect : preset.effects)
            change(effect);
}

/// The look of that preset, or an empty name.
std::string look_of(const Job& job, const std::string& preset);

/// Another preset at the end of the list: of the first look that no preset shows yet, else of the
/// first. Refused: there is no look.
Edit add_preset();

/// A preset of each look that none shows yet, in the order of the looks.
Edit preset_each_look();

/// Moves preset `index` to place `to` of the board's order.
Edit move_preset(std::size_t index, std::size_t to);

/// Lets preset `index` show that look; a use that names the preset follows.
Edit show_look(std::size_t index, std::string look);

/// The tracks of preset `index`, as in "march.wav, storm.wav"; nothing typed: none.
Edit give_tracks(std::size_t index, std::string typed);

enum class Effects { as_first, own, none };
/// How preset `index` has the effect of that name.
Effects has_effect(const Job& job, std::size_t index, const std::string& effect);
/// Lets preset `index` have the effect as the first preset has it, a copy of it of its own to
/// change, or not at all. Refused: no such effect.
Edit let_have(std::size_t index, std::string effect, Effects how);

/// The use of the job is lit with that preset, and with its look; empty: with no certain one.
Edit use_preset(std::string name);

/// What one effect does to one light; an entry that says nothing else than usual is taken out.
/// `own_of`: index of the preset whose own effect it is; nothing: the job's.
Edit let_follow(std::string effect, std::optional<std::size_t> own_of, EffectLight light);

/// What a light shows while no blade is lit, and in which preset; empty: always. A dark colour
/// takes it out.
Edit let_rest(Rest when, std::string preset, LightOverride light);

/// What lights show at rest: those of every preset and, of the same light, those of this one in
/// their place.
std::vector<LightOverride> lights_at_rest(const Job& job, Rest when, const std::string& preset);

/// Takes out what presets, effects, uses and plugs name and is not there any more.
void forget_lost_presets(Job& job);

} // namespace conductus::job
