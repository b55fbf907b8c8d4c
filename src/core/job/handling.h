// SPDX-License-Identifier: GPL-3.0-or-later
// How a hilt is handled: the states it can be in, and the commands that lead from one to another.
#pragma once

#include <string>
#include <vector>

#include "core/base/quantity.h"

namespace conductus::job {

enum class StateKind { off, asleep, idle, lit, menu };

/// One state of the hilt, as the person who holds it tells them apart.
struct HandState {
    std::string name; ///< "lit"
    StateKind kind = StateKind::idle;
    Second limit;       ///< it is left by itself after so long; 0: it stays
    std::string then;   ///< name of the state that it is left for
    std::string signal; ///< how it is told: "two beeps"
    bool operator==(const HandState&) const = default;
};

enum class Press { none, press, twice, three_times, hold, chord };
enum class Motion { none, twist, swing, thrust, tap, roll };
enum class Side { either, left, right };
enum class Attitude { any, up, level, down };
enum class BladeThere { any, in, out };

struct TriggerButton {
    std::string button; ///< ref of a part
    bool operator==(const TriggerButton&) const = default;
};

/// What the person does with the hilt: buttons, and how it is moved and held.
struct Trigger {
    Press press = Press::none;
    std::vector<TriggerButton> buttons; ///< a chord has several, in the order they go down
    Second held;                        ///< of a hold
    Motion motion = Motion::none;       ///< alone, or with the button down
    Side side = Side::either;           ///< of the motion, as it is sensed
    Attitude attitude = Attitude::any;  ///< of the blade, when it begins
    bool operator==(const Trigger&) const = default;
};

enum class Does {
    light,
    light_silent,
    put_out,
    effect,
    next_preset,
    previous_preset,
    preset,
    colour,
    volume,
    charge,
    mute,
    track,
    menu,
    take,
    wake,
    sleep,
    other
};

/// What a trigger does in a state.
struct Command {
    std::string name;  ///< "blast mark"
    std::string state; ///< name of the state that it is understood in
    Trigger trigger;
    Does does = Does::other;
    std::string what;   ///< name of the effect, preset or track
    std::string leads;  ///< name of the state that it leads to; empty: the hilt stays as it is
    std::string preset; ///< the only preset it is so in; empty: all
    BladeThere blade = BladeThere::any; ///< whether a blade is in its socket
    std::string source;                 ///< where it is from: "the board's sheet"
    std::string tried_on;               ///< ISO date; empty: untried
    bool operator==(const Command&) const = default;
};

/// How well somebody knows a command by heart.
struct Rehearsed {
    std::string command, state; ///< names
    std::string who;            ///< their part in it: "owner", "shop"
    int right = 0, wrong = 0;   ///< times
    Second took;                ///< the latest time that it was right; 0: never
    std::string on;             ///< ISO date of the latest time
    bool operator==(const Rehearsed&) const = default;
};

/// Times that the board goes by, and all that it understands.
struct Handling {
    std::vector<HandState> states; ///< the first is the one it is in when it is switched on
    std::vector<Command> commands;
    std::vector<Rehearsed> rehearsed;
    Second again{0.4}; ///< the longest between two presses that count as one trigger
    bool operator==(const Handling&) const = default;
};

} // namespace conductus::job
