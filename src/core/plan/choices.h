// SPDX-License-Identifier: GPL-3.0-or-later
// Which cell, protection, speaker, kill, strip and cap: every way that fits, with what it gives and
// costs. docs/models.md, "Options".
#pragma once

#include <string>
#include <vector>

#include "core/plan/plan.h"

namespace conductus::plan {

/// One way to build it.
struct Choice {
    std::string cell, adapter, protection, speaker, kill, strip; ///< ids; empty: none, or as it is
    double cap = 1;             ///< brightness of look and effects against now
    std::vector<Millimetre> at; ///< where each cell would lie, in the job's order
    bool fitted = false;        ///< as it is built now
    bool best = false;          ///< no other is better in one thing without being worse in another
    bool overloaded = false;    ///< held over the cell's rating
    bool trips = false; ///< the protection opens at the peak; only the fitted one is told so
    Minute clean, bright, off;
    Volt margin;          ///< board over the sound's need at the worst peak, full cells
    int spares = 0;       ///< sets of cells for the day beside the first
    bool covers = true;   ///< false: it is never clean, no number of spares helps
    Millimetre clearance; ///< tightest of what is changed and what is not
    Gram mass;            ///< of all that is fitted, with what is changed
    double price = 0;     ///< of cells, protection, adapter, speaker, kill and strips; EUR
    double light = 1;     ///< luminance of the whole blade, fresh, against now
    double loudness = 0;  ///< dB against now: rated power of the speaker at the same setting
    std::vector<std::string> changes; ///< against what is fitted, in words
};

/// What a choice is judged by; more is better for the first five, less for the rest.
enum class Axis { clean, margin, light, loudness, clearance, mass, price, spares };
inline constexpr std::array<Axis, 8> axes{Axis::clean,    Axis::margin,    Axis::light,
                                          Axis::loudness, Axis::clearance, Axis::mass,
                                          Axis::price,    Axis::spares};
double value_of(const Choice& choice, Axis axis);
bool more_is_better(Axis axis);
std::string_view word(Axis axis);
std::string_view unit_of(Axis axis);

/// A way to a runtime that is not reached: "cap at 78 %".
struct Reach {
    Message text;
    Minute clean;
    std::optional<job::Edit> edit; ///< empty: something has to be made first, as a ring bored
};

struct Choices {
    std::vector<Choice> all; ///< the fitted one first, then by clean runtime
    /// What others would give that the fitted one gives up, the most first: in words, and which.
    struct GivesUp {
        Message text;
        std::size_t choice = 0;
    };
    std::vector<GivesUp> gives_up;
    Minute wanted;            ///< clean runtime that was asked for
    std::vector<Reach> reach; ///< ways to it; empty where it is reached or nothing was asked for
    bool whole = true;        ///< false: it was stopped
};

/// Builds a job that way. `parts` must outlive it.
job::Edit take_choice(const catalogue::Catalogue& parts, const Choice& choice);

/// What the cells give while nobody lights it: the most that any cell gives, half full.
struct AtRest {
    Ampere idle, asleep;
    Second sleep_after;       ///< 0: it never does
    MilliAmpereHour capacity; ///< of the cell that is empty first
};
/// Of the job's storage, and its board.
AtRest at_rest(const job::Job& job, const catalogue::Catalogue& parts,
               const power::Storage& storage);

/// Sets of cells for the phases of the use, one included; 0 where a full one is not clean.
int sets_a_day(const power::Discharge& run, const job::Use& use, const AtRest& rest);

} // namespace conductus::plan
