// SPDX-License-Identifier: GPL-3.0-or-later
// A day of use as the owner spends it: phases, and what comes when. docs/models.md, "A day".
#pragma once

#include <cstdint>
#include <optional>
#include <string_view>
#include <vector>

#include "core/base/problem.h"
#include "core/job/edit.h"

namespace conductus::power {

/// Days to choose from: "shelf piece", "festival day", "rehearsal", "stage run", "bout evening".
/// Their look is the job's own.
const std::vector<job::Use>& usual_days();

/// The use of that name: the job's own (also where `name` is empty), one it keeps, or a usual day
/// with the job's look and clean minutes. Error: none of these.
Result<job::Use> use_named(const job::Job& job, std::string_view name);

/// The phases of a use. Where none are set: as many minutes ignited as it says, in spells of about
/// five minutes with the idle minutes between them, a clash flash a minute. Whatever is left of 24
/// hours is stored, as a phase at the end.
std::vector<job::Phase> phases_of(const job::Use& use);

/// Sums over the phases, without what is stored.
struct Minutes {
    Minute ignited, idle, stored;
    Minute dozing; ///< of the idle ones, asleep
};
Minutes minutes_of(const std::vector<job::Phase>& phases, Second sleep_after = {});

/// Sets the phases, and the minutes that follow from them.
void set_day(job::Use& use, std::vector<job::Phase> day);

/// The same as edits: other phases, or the minutes anew after a phase was changed.
job::Edit take_day(std::vector<job::Phase> day);
job::Edit count_day();

/// Makes the phases of the day fit the minutes that were set.
job::Edit follow_minutes();

/// Takes another use over. What the job's was is kept among its uses, where it would be lost.
job::Edit take_use(job::Use use);

/// Keeps the job's use among its uses, under that name.
job::Edit keep_use(std::string name);

/// Makes the phases follow `ignited` and `idle` as they are now, each in proportion; where there is
/// nothing to stretch, the phases go.
void stretch_day(job::Use& use);

/// Mean rates while ignited, of every kind that has one.
std::vector<job::Rate> mean_rates(const std::vector<job::Phase>& phases);

/// A stretch of one thing after another.
struct Stretch {
    enum class Shows { stored, dozing, idle, look, effect }; ///< dozing: idle, asleep
    Shows shows = Shows::look;
    int effect = -1; ///< index among the job's effects
    Second lasts;
    std::size_t phase = 0; ///< index
};

/// A day laid out second by second. No seed: effects come evenly spaced and times are as they are
/// set. A board that is idle for `sleep_after` falls asleep until it is used again; 0: never. With
/// a seed: effects come at random at their rates, and spells and pauses are a quarter longer
/// or shorter. Several effects of a kind take turns. Lit, it begins with an ignition and ends with
/// a retraction where the job has them; an effect that comes while another lasts waits for it.
std::vector<Stretch> day_of(const std::vector<job::Phase>& phases,
                            const std::vector<job::Effect>& effects,
                            std::optional<std::uint64_t> seed, Second sleep_after = {});

} // namespace conductus::power
