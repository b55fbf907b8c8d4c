// SPDX-License-Identifier: GPL-3.0-or-later
// What a shop usually does: new jobs begin with it, and a job that differs is told of once.
#pragma once

#include <concepts>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/base/message.h"
#include "core/catalogue/catalogue.h"
#include "core/job/edit.h"
#include "core/job/job.h"
#include "core/job/limits.h"

namespace conductus::job {

/// How wires of a role are usually made.
struct WireHabit {
    Role role = Role::supply;
    int gauge = 26;     ///< AWG
    std::string colour; ///< empty: as is usual for the role
    bool operator==(const WireHabit&) const = default;
};

/// What is empty, 0 or neither is no habit.
struct Habits {
    std::string blade_pad;            ///< terminal of the board that the first blade hears: "d1"
    std::string accent_pad;           ///< the same of accents, as "d2" or "l3"
    std::string main_pad;             ///< of the main button: "s1"
    End main_button = End::neither;   ///< the end of the hilt that the main button is toward
    std::string board, cell, speaker; ///< ids in the catalogue
    std::string kill, connector, strip;
    Millimetre clearance, chassis_wall;
    double volume = 0;
    Minute ignited, idle; ///< a day
    std::vector<WireHabit> wires;
    bool operator==(const Habits&) const = default;
};

template <class V, class T>
requires std::same_as<std::remove_const_t<T>, WireHabit>
void describe(V& v, T& w) {
    v.word("role", w.role);
    v.integer("gauge_awg", w.gauge, limits::gauge_awg);
    v.usual_text("colour", w.colour);
}

template <class V, class T>
requires std::same_as<std::remove_const_t<T>, Habits>
void describe(V& v, T& h) {
    v.usual_text("blade_pad", h.blade_pad);
    v.usual_text("accent_pad", h.accent_pad);
    v.usual_text("main_pad", h.main_pad);
    v.word("main_button", h.main_button);
    v.usual_text("board", h.board);
    v.usual_text("cell", h.cell);
    v.usual_text("speaker", h.speaker);
    v.usual_text("kill", h.kill);
    v.usual_text("connector", h.connector);
    v.usual_text("strip", h.strip);
    v.usual_number("clearance_mm", h.clearance, limits::clearance_mm);
    v.usual_number("chassis_wall_mm", h.chassis_wall, limits::wall_mm);
    v.usual_number("volume", h.volume, limits::fraction);
    v.usual_number("ignited_min", h.ignited, limits::minutes);
    v.usual_number("idle_min", h.idle, limits::minutes);
    v.optional_list("wires", h.wires);
}

/// What a job does, as habits: of wires the gauge and colour that most of a role have.
Habits habits_of(const Job& job, const catalogue::Catalogue& parts);

/// Lets a job that has nothing yet begin with them: clearances, loudness, the day.
void begin_with(Job& job, const Habits& habits);

/// Lets wires of the job be as they usually are, thicker ones left as they are: an edit for those
/// that were wired for it.
Edit wire_as_usual(const Habits& habits);

/// Leads the first blade, the first accent and the main button to their usual pads of the board,
/// where it has them; what was on those goes where they were, but an accent takes a free pad only.
/// Of two buttons the one at the usual end is the main one.
Edit pads_as_usual(const Habits& habits, const catalogue::Catalogue& parts);

/// An edit that fits or wires parts, and lets what it brings be as usual: the first accent of the
/// job goes to the usual pad where that is free, and once there are two buttons the one at the
/// usual end is the main one. The wires it adds have the usual gauge, or a thicker one, and colour.
/// What hears its pad already keeps it, but for the first of two buttons.
Edit fitted_as_usual(Edit fit, const Habits& habits, const catalogue::Catalogue& parts);

/// In what a job differs from them, a line each; only of what it has.
std::vector<Message> differs_from(const Job& job, const catalogue::Catalogue& parts,
                                  const Habits& habits);

/// One of them as it is typed and shown, by its key: "cell", "wires/supply/gauge_awg". Shares in %.
std::string habit_typed(const Habits& habits, std::string_view key);
/// Error: it can not be read, or there is no such habit.
Result<Habits> with_habit(Habits habits, const std::string& key, const std::string& typed);
/// The words that may be typed; empty: anything.
std::vector<std::string_view> habit_words(std::string_view key);

} // namespace conductus::job
