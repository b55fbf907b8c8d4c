// SPDX-License-Identifier: GPL-3.0-or-later
// What a board makes of buttons and motions: a timed machine that hears one event after the other
// and says which command was meant, and when it could say so.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/job/handling.h"

namespace conductus::handling {

enum class EventKind { down, up, motion };

/// Something that the person did, at a time since the state was entered.
struct Event {
    EventKind kind = EventKind::down;
    std::string button;                     ///< of a press
    job::Motion motion = job::Motion::none; ///< of a motion
    job::Side side = job::Side::left;       ///< as it was sensed: left or right
    double at = 0;                          ///< s
    bool operator==(const Event&) const = default;
};

/// How the hilt is held and set while a trigger is made.
struct Circumstance {
    job::Attitude attitude = job::Attitude::level; ///< never `any`
    bool blade_in = true;
    std::string preset; ///< that is shown; empty: one without exceptions
    bool operator==(const Circumstance&) const = default;
};

/// Whether a command is understood in a state and circumstance, whatever its trigger.
bool applies(const job::Command& command, const std::string& state, const Circumstance& now);

/// Whether what `one` asks of side, attitude, blade and preset is asked by `other` too or left open
/// by it, and is more in at least one of them: `one` goes before `other`.
bool goes_before(const job::Command& one, const job::Command& other);

/// A trigger that was made: which commands of the map it can mean (indices into its commands), of
/// those that none goes before; and when.
struct Understood {
    std::vector<std::size_t> commands;
    double at = 0;   ///< s, when the board knows it
    double late = 0; ///< s after the last that the person did for it
};

/// The machine in one state. Of a button: it is pressed while it goes up again before the shortest
/// time of a hold that is understood; presses that may be the first of more wait for `again`; of
/// several holds a shorter one is known when the button goes up, the longest when its time is over.
/// A motion with the button down, or another button of a chord, ends what the first began.
class Listener {
public:
    /// `map` must outlive it.
    Listener(const job::Handling& map, std::string state, Circumstance now);

    /// What is understood with that event; and, before it, with the time that went by until it.
    std::vector<Understood> hear(const Event& event);
    /// What is understood until then, if nothing more is done.
    std::vector<Understood> wait_until(double at);
    /// When something will be understood by waiting alone; empty: nothing.
    [[nodiscard]] std::optional<double> due() const;
    /// Whether it is as it was in the beginning: nothing is down, nothing is waited for.
    [[nodiscard]] bool at_rest() const { return down_.empty() && presses_ == 0; }

private:
    struct Down {
        std::string button;
        double at = 0;
    };
    [[nodiscard]] std::vector<const job::Command*> of_button(const std::string& button,
                                                             job::Press press) const;
    [[nodiscard]] std::vector<double> holds(const std::string& button) const;
    [[nodiscard]] int most_presses(const std::string& button) const;
    [[nodiscard]] bool chord_begins() const;
    void conclude(std::vector<Understood>& all, const job::Trigger& made, double at, double late);
    void end_presses(std::vector<Understood>& all, double at);

    const job::Handling& map_;
    std::vector<const job::Command*> active_;
    std::vector<Down> down_; ///< in the order they went down
    bool spent_ = false;     ///< what is down has already been understood, or means nothing more
    int presses_ = 0;        ///< of `pressed_`, that wait for another
    std::string pressed_;
    double since_ = 0; ///< when it went up last
};

/// How long a board can not say which of its commands a trigger is, for other commands begin alike:
/// s after the earliest moment it could be known if they were not there. 0: at once.
double lateness(const job::Handling& map, const job::Command& command, const Circumstance& now);

} // namespace conductus::handling
